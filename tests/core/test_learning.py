"""Learning from the shop's log: the worked case, the priors' weight, odd ones, and that eight in ten are eight in ten."""

import math

import numpy as np
from django.test import SimpleTestCase
from hypothesis import given
from hypothesis import strategies as st
from scipy.stats import norm

from varistrat.core.errors import InputError
from varistrat.core.learning.factor import Measured, Prior, learn, learned

PRIOR = Prior(1.5)


class WorkedTests(SimpleTestCase):
    def test_by_hand(self) -> None:
        self.assertAlmostEqual(PRIOR.belief.rate, 0.3288, 4)
        found = learn(PRIOR, [0.2, 0.3, 0.1, 0.25])
        self.assertEqual((found.n, found.strength, found.shape), (4, 6.0, 4.0))
        # 0.3288 + half of (.0125^2 + .0875^2 + .1125^2 + .0375^2) + 2 x 4 x .2125^2 / 12
        self.assertAlmostEqual(found.mean, 0.85 / 6, 9)
        self.assertAlmostEqual(found.rate, 2 * math.log(1.5) ** 2 + 0.0109375 + 8 * 0.2125**2 / 12, 9)
        self.assertAlmostEqual(found.rate, 0.36985, 4)
        self.assertAlmostEqual(found.scale, 0.3284, 4)
        self.assertAlmostEqual(found.factor, 1.152, 3)
        # t(8) of 0.9 is 1.3968
        low, high = found.range()
        self.assertAlmostEqual(math.log(high), found.mean + 1.3968 * found.scale, 4)
        self.assertAlmostEqual(math.log(low), found.mean - 1.3968 * found.scale, 4)

    def test_nothing_measured_is_the_prior(self) -> None:
        self.assertEqual(learn(PRIOR, []), PRIOR.belief)
        self.assertEqual(PRIOR.belief.factor, 1.0)

    def test_a_prior_of_no_width_is_not_believed(self) -> None:
        self.assertGreater(Prior(1.0).belief.rate, 0)
        self.assertTrue(math.isfinite(learn(Prior(1.0), [0.1]).away(0.2)))


class OfferTests(SimpleTestCase):
    def log(self, *ratios: float) -> list[Measured]:
        return [Measured(f"b{i}", 10.0, 10.0 * r) for i, r in enumerate(ratios)]

    def test_two_builds_are_no_number_three_are(self) -> None:
        self.assertFalse(learned(PRIOR, self.log(1.3, 1.3)).offered)
        self.assertTrue(learned(PRIOR, self.log(1.3, 1.3, 1.3)).offered)

    def test_sure_only_where_one_is_outside(self) -> None:
        self.assertFalse(learned(PRIOR, self.log(1.0, 1.1, 0.95, 1.05)).sure)
        self.assertTrue(learned(PRIOR, self.log(*[1.6] * 6)).sure)

    def test_an_odd_one_is_shown_and_left_out_unless_kept(self) -> None:
        measured = self.log(1.02, 0.98, 1.05, 1.0, 0.97, 12.0)
        found = learned(Prior(1.1), measured)
        self.assertEqual([d.odd for d in found.dots], [False] * 5 + [True])
        self.assertAlmostEqual(found.dots[-1].ratio, 12.0)
        self.assertEqual(found.belief, learn(Prior(1.1), [m.log for m in measured[:5]]))
        kept = learned(Prior(1.1), measured, kept={"b5"})
        self.assertFalse(any(d.odd for d in kept.dots))
        self.assertEqual(kept.belief.n, 6)

    def test_four_scales_and_no_less(self) -> None:
        steady = [m.log for m in self.log(*[1.0] * 6)]
        belief = learn(Prior(1.1), steady)
        for scales, odd in ((3.9, False), (4.1, True)):
            ratio = math.exp(belief.mean + scales * belief.scale)
            self.assertEqual(learned(Prior(1.1), self.log(*[1.0] * 6, ratio)).dots[-1].odd, odd)

    def test_two_odd_ones_do_not_hide_each_other(self) -> None:
        found = learned(Prior(1.1), self.log(*[1.0] * 12, 30.0, 40.0))
        self.assertEqual([d.odd for d in found.dots], [False] * 12 + [True, True])

    def test_what_is_no_measurement_is_refused(self) -> None:
        for planned, value in ((0.0, 1.0), (1.0, 0.0), (1.0, -2.0), (1.0, math.nan), (math.inf, 1.0)):
            with self.assertRaises(InputError):
                learned(PRIOR, [Measured("x", planned, value)])


class LawTests(SimpleTestCase):
    @given(st.lists(st.floats(-1, 1), max_size=12), st.integers(0, 12))
    def test_one_at_a_time_is_all_at_once(self, logs: list[float], cut: int) -> None:
        first = learn(PRIOR, logs[:cut])
        # what is held after the first is the prior of the rest
        again = Prior(math.exp(math.sqrt(first.rate / first.shape)), first.mean, first.strength, first.shape)
        both, stepwise = learn(PRIOR, logs), learn(again, logs[cut:])
        for name in ("mean", "strength", "shape", "rate"):
            self.assertAlmostEqual(getattr(both, name), getattr(stepwise, name), 9)

    def test_eight_in_ten_of_the_next_ones_lie_within(self) -> None:
        """Of two thousand shops drawn from the prior itself, after none to twelve builds."""
        rng = np.random.default_rng(5)
        inside = 0
        for shop in range(2000):
            spread = 1 / rng.gamma(PRIOR.shape, 1 / PRIOR.belief.rate)
            mean = rng.normal(0, math.sqrt(spread / PRIOR.strength))
            logs = rng.normal(mean, math.sqrt(spread), shop % 13)
            low, high = learn(PRIOR, list(logs)).range()
            inside += low <= math.exp(rng.normal(mean, math.sqrt(spread))) <= high
        self.assertTrue(0.78 <= inside / 2000 <= 0.82, inside)

    def test_a_second_derivation_by_summing_over_all_shops_there_could_be(self) -> None:
        """No closed form: prior times likelihood on a grid of means and spreads, and the next one's chance summed over it."""
        spread = np.exp(np.linspace(math.log(0.004), math.log(60.0), 900))
        unit = np.linspace(-9, 9, 901)
        for logs in ([], [0.2, 0.3, 0.1, 0.25], [-0.4, 0.5, 0.0]):
            belief = learn(PRIOR, logs)
            # means about where they can be, for each spread
            at = belief.mean + unit[None, :] * np.sqrt(spread / PRIOR.strength)[:, None]
            log_w = -(PRIOR.shape + 1) * np.log(spread) - PRIOR.belief.rate / spread  # inverse gamma
            log_w = log_w[:, None] - PRIOR.strength * at**2 / (2 * spread[:, None]) - 0.5 * np.log(spread[:, None])
            for y in logs:
                log_w = log_w - (y - at) ** 2 / (2 * spread[:, None]) - 0.5 * np.log(spread[:, None])
            # the grid's cells: even in log spread, as wide as sqrt(spread) in means
            w = np.exp(log_w - log_w.max()) * spread[:, None] * np.sqrt(spread)[:, None]
            w /= w.sum()
            low, high = (math.log(v) for v in belief.range())
            for edge, share in ((low, 0.1), (high, 0.9)):
                below = norm.cdf((edge - at) / np.sqrt(spread)[:, None])
                self.assertAlmostEqual(float((w * below).sum()), share, delta=0.002)
