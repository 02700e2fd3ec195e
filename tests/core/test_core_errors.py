"""What every error does to the core line: closed forms, and the quick line against the exact one."""

from concurrent.futures import ThreadPoolExecutor
from typing import Any

import numpy as np
from django.test import SimpleTestCase
from scipy.stats import norm

from tests.core.samples import Json, blade
from varistrat.core.blade.model import Blade, read_blade
from varistrat.core.cutting.cut import Cut
from varistrat.core.errors import InputError
from varistrat.core.laminate.aim import Aim, Band, line
from varistrat.core.laminate.exposure import stations
from varistrat.core.study.lamina import Lamina
from varistrat.core.study.tolerances import COLUMNS, DIMENSIONS, GROUPS, Blades, Sizes, Study, study, whole_study

T, TS, TE, H, KAPPA = 4.4, 4.0, 0.4, 45.0, 0.30
B = (TS - TE) / H
NEAR = 0.02
"""mm: what the closed forms and the geometry may differ by."""


def lines(b: Blade, n: int = 4) -> tuple[np.ndarray, np.ndarray]:
    found = list(Cut.of(b).exposure(n))
    return np.array([line(s) for s in found[::2]]), np.array([line(s) for s in found[1::2]])


class ClosedFormTests(SimpleTestCase):
    """Cut from the bar, flat: h = (2 c + 2 sigma delta - t_e)/b, delta = m - g; docs/physics.md#core-line."""

    def check(self, want: tuple[Any, Any], **errors: Any) -> None:
        right, left = lines(blade(errors=errors))
        np.testing.assert_allclose(right, want[0], atol=NEAR)
        np.testing.assert_allclose(left, want[1], atol=NEAR)

    def plain(self, delta: float, kappa: float = KAPPA, edge: float = TE) -> float:
        return (kappa * T + 2 * delta - edge) / ((TS - edge) / H)

    def test_offset(self) -> None:
        self.check((self.plain(0.015 * T), self.plain(-0.015 * T)), core_offset=0.015)

    def test_core_share(self) -> None:
        self.check((self.plain(0, KAPPA + 0.03),) * 2, core_share=0.03)

    def test_dip_and_bow(self) -> None:
        self.check((self.plain(0.1), self.plain(-0.1)), dip=0.1)
        q = (np.arange(4) + 0.5) / 4
        bow = 0.2 * 4 * q * (1 - q)
        self.check((np.array([self.plain(v) for v in bow]), np.array([self.plain(-v) for v in bow])), bow=0.2)

    def test_uneven(self) -> None:
        """u more off the right: g falls by u/2, so right rises by u/b."""
        self.check((11.5 + 0.1 / B, 11.5 - 0.1 / B), uneven=0.1)

    def test_edge_left_thicker(self) -> None:
        self.check((self.plain(0, edge=0.6),) * 2, edge=0.2)

    def test_cup(self) -> None:
        """2c + 8 sigma k r(1-r) - t_e = b H r: a quadratic in r = h/H."""
        k = 0.05
        for sigma, at in ((1, 0), (-1, 1)):
            roots = np.roots([-8 * sigma * k, 8 * sigma * k - B * H, KAPPA * T - TE])
            want = H * min(r for r in roots.real if 0 < r < 1)
            np.testing.assert_allclose(lines(blade(errors={"cup": k}))[at], want, atol=NEAR)

    def test_twist(self) -> None:
        """2c + 2 sigma tan(t)(h - H/2) - t_e = b h: linear."""
        tan = np.tan(np.deg2rad(0.3))
        want = [(KAPPA * T - s * tan * H - TE) / (B - 2 * s * tan) for s in (1, -1)]
        self.check((want[0], want[1]), twist=0.3)

    def test_clad_that_flows_more(self) -> None:
        """Forged with t_f = t + 2A, kappa(h) = kappa (t_f/T)^-phi: solved by bisection, independently."""
        phi, a = 0.15, 0.5
        low, high = 0.0, H
        for _ in range(60):
            h = (low + high) / 2
            t = TE + B * h
            low, high = (h, high) if KAPPA * ((t + 2 * a) / T) ** -phi * (t + 2 * a) > t else (low, h)
        right, _ = lines(blade(errors={"flow": phi}, forging={"share": 1.0, "allowance": a, "bar_thickness": T}))
        np.testing.assert_allclose(right, low, atol=NEAR)

    def test_correction_raises_its_own_side_only(self) -> None:
        """d off the right at the edge, fading to the spine: t_right/2 falls by d (1 - h/H)."""
        d = 0.1
        right, left = lines(blade(correction={"right": [[0, d, 0.0]]}))
        np.testing.assert_allclose(right, (KAPPA * T / 2 + d - TE / 2) / (B / 2 + d / H), atol=NEAR)
        np.testing.assert_allclose(left, 11.5, atol=NEAR)

    def test_errors_add_up_in_a_traced_stack_as_in_a_plain_laminate(self) -> None:
        """Random errors, all at once; the traced pile also has its core stretched."""
        rng = np.random.default_rng(8)
        clad = T * (1 - KAPPA) / 2
        pile = {
            "kind": "stack",
            "layers": [{"steel": s, "thickness": t} for s, t in (("1018", clad), ("1095", KAPPA * T), ("1018", clad))],
            "width": 60.0,
            "length": 220.0,
        }
        for _ in range(12):
            errors = {
                "core_offset": rng.normal(0, 0.01),
                "dip": rng.normal(0, 0.05),
                "cup": rng.normal(0, 0.04),
                "twist": rng.normal(0, 0.2),
                "uneven": rng.normal(0, 0.05),
                "edge": abs(rng.normal(0, 0.1)),
                "core_share": rng.normal(0, 0.02),
                "bow": rng.normal(0, 0.1),
            }
            errors = {k: round(float(v), 5) for k, v in errors.items()}
            a = lines(blade(errors=errors), 6)
            b = lines(blade(share=None, errors=errors, recipe={"format": "varistrat.recipe/1", "bar": {"start": pile, "steps": []}}), 6)
            np.testing.assert_allclose(a, b, atol=0.03)


def lamina_of(b: Blade, n: int = 12) -> Lamina:
    cut = Cut.of(b)
    return Lamina.of(cut, stations(cut.geometry, n))


GRINDS: dict[str, Json] = {
    "flat": {"edge_thickness": 0.4},
    "part flat": {"edge_thickness": 0.4, "height": 25.0},
    "convex": {"kind": "convex", "edge_thickness": 0.4},
    "hollow": {"kind": "hollow", "edge_thickness": 0.5, "height": 30.0, "wheel_radius": 200.0},
    "flat_convex": {"kind": "flat_convex", "edge_thickness": 0.4, "flat_edge_thickness": 0.8, "band": 9.0},
}


class QuickLineTests(SimpleTestCase):
    """The study's lines against the exact ones of the same blades."""

    def exact(self, b: Blade, lam: Lamina, errors: dict[str, np.ndarray], k: int) -> tuple[np.ndarray, np.ndarray]:
        def at(name: str) -> Any:
            row = errors[name][k]
            return float(row[0]) if len(row) == 1 else [[float(x), float(v)] for x, v in zip(lam.x, row, strict=True)]

        moved = {n: at(n) for n in GROUPS}
        return lines(read_blade(b.as_json() | {"errors": moved}), len(lam.x))

    def compare(self, b: Blade, sizes: Sizes) -> None:
        lam = lamina_of(b)
        many = Blades(lam, sizes)
        draws = np.random.default_rng(4).uniform(0.02, 0.98, (12, DIMENSIONS))
        right, left = many.lines(draws)
        errors = many.errors(draws)
        for k in range(len(draws)):
            want = self.exact(b, lam, errors, k)
            for got, exact in ((right[k], want[0]), (left[k], want[1])):
                np.testing.assert_allclose(got, exact, atol=NEAR)

    def test_cut_from_the_bar(self) -> None:
        for name, grind in GRINDS.items():
            with self.subTest(name):
                self.compare(blade(grind=grind), Sizes(flow=0.0, dip=0.04, core_offset=0.008, cup=0.03, twist=0.1, uneven=0.04))

    def test_forged(self) -> None:
        b = blade(share=0.36, edge=0.3, forging={"share": 1.0, "allowance": 0.5, "bar_thickness": 5.0})
        self.compare(b, Sizes(dip=0.02, core_offset=0.004, core_share=0.005, cup=0.01, twist=0.03, uneven=0.02))

    def test_a_blade_already_off(self) -> None:
        b = blade(errors={"dip": [[0, 0.0], [200, 0.08]], "cup": 0.02}, correction={"left": [[0, 0.05, 0.0]]})
        lam = lamina_of(b)
        right, left = Blades(lam, Sizes()).lines(np.full((1, DIMENSIONS), 0.5))
        want = lines(b, 12)
        np.testing.assert_allclose([right[0], left[0]], want, atol=NEAR)

    def test_no_flat_core_is_refused(self) -> None:
        data = blade(
            share=None,
            recipe={
                "format": "varistrat.recipe/1",
                "bar": {"start": {"kind": "solid", "steel": "1084", "length": 220.0, "width": 60.0, "thickness": 4.4}},
            },
        )
        with self.assertRaisesRegex(InputError, "no core lying flat"):
            lamina_of(data)


class StudyTests(SimpleTestCase):
    executor = ThreadPoolExecutor(2)

    def run_study(self, sizes: Sizes, aim: Aim, b: Blade | None = None, blades: int = 2000, sobol: int = 512) -> Study:
        lam = lamina_of(b or blade(), 20)
        return whole_study(lam, sizes, Band.of(aim, lam.geometry), self.executor, blades=blades, sobol=sobol)

    NONE = dict.fromkeys(GROUPS, 0.0)

    def test_one_error_alone_by_its_own_law(self) -> None:
        """Uneven grind alone, sd 0.1 (half of it wandering): right = 11.5 + u/b, so 5 and 95 % lie 1.645 x 0.1/b = 2.06 mm off."""
        found = self.run_study(Sizes(**{**self.NONE, "uneven": 0.1}), Aim(low=0.0, high=45.0, difference=2 * 0.1 / B))
        np.testing.assert_allclose(np.mean(found.right.high), 11.5 + 1.645 * 0.1 / B, atol=0.1)
        np.testing.assert_allclose(np.mean(found.left.low), 11.5 - 1.645 * 0.1 / B, atol=0.1)
        np.testing.assert_allclose(found.right.middle, 11.5, atol=0.06)
        self.assertAlmostEqual(dict(found.matters["apart"])["uneven"], 1.0, delta=0.02)
        self.assertEqual(found.matters["apart"][0][0], "uneven")

    def test_chance_by_the_normal_law(self) -> None:
        """Cup, twist and the rest nil; the edge's thickness moves the whole line: the share with h over 11 mm is that with t_e under a
        limit."""
        limit = (KAPPA * T - 11.0 * TS / H) / (1 - 11.0 / H)
        found = self.run_study(Sizes(**{**self.NONE, "edge": 0.05}), Aim(low=11.0, high=45.0, difference=1.0), blades=4096)
        self.assertAlmostEqual(found.first, norm.cdf((limit - TE) / 0.05), delta=0.01)
        self.assertAlmostEqual(found.reasons["low"], 1 - found.first, 6)

    def test_two_errors_share_what_matters_by_their_variances(self) -> None:
        """Mean right - left = 2 (2 eps T + u)/b in the mean along the blade: variances add."""
        sizes = Sizes(**{**self.NONE, "uneven": 0.1, "twist": 0.0, "core_offset": 0.1 / T / 2})
        matters = dict(self.run_study(sizes, Aim(low=0.0, high=45.0), sobol=2048).matters["apart"])
        self.assertAlmostEqual(matters["uneven"] + matters["core_offset"], 1.0, delta=0.05)
        self.assertAlmostEqual(matters["uneven"], 0.5, delta=0.12)

    def test_progress_grows_and_leaving_stops_it(self) -> None:
        lam = lamina_of(blade(), 20)
        steps = study(lam, Sizes(), Band.of(Aim(), lam.geometry), self.executor, blades=3000, sobol=512)
        seen = [next(steps) for _ in range(3)]
        self.assertTrue(all(isinstance(s, float) for s in seen))
        self.assertEqual(seen, sorted(seen))  # type: ignore[type-var]
        steps.close()  # type: ignore[attr-defined]
        self.assertEqual(list(steps), [])

    def test_draws_fill_every_group_of_columns_once(self) -> None:
        taken = [i for g in GROUPS for i in range(DIMENSIONS)[COLUMNS[g]]]
        self.assertEqual(taken, list(range(DIMENSIONS)))

    def test_wander_has_the_size_it_is_given(self) -> None:
        many = Blades(lamina_of(blade(), 30), Sizes(dip=0.2, wander=0.3))
        draws = np.random.default_rng(2).uniform(0, 1, (4000, DIMENSIONS))
        self.assertAlmostEqual(float(many.errors(draws)["dip"].std(axis=0).mean()), 0.2, delta=0.012)
