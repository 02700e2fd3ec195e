"""The chance of coming up short: against the forward ledger drawn by drawn, and by what is known of it beforehand."""

import math
from typing import Any

import numpy as np
from django.test import SimpleTestCase

from tests.core.samples import forged
from tests.core.test_stock import draw, pile
from tests.work import at_most
from varistrat.core.bars.forged import Forged
from varistrat.core.design.document import read_document
from varistrat.core.design.worked import Worked
from varistrat.core.errors import InputError
from varistrat.core.figures import USUAL
from varistrat.core.starters import STARTERS
from varistrat.core.stock.backwards import WELD_ENDS, solve
from varistrat.core.stock.need import Allowance, Need
from varistrat.core.stock.risk import Risk, ratios, risk_of
from varistrat.core.stock.sheet import stock_of

Json = dict[str, Any]


def risk(f: Forged, reserve: float, occupied: float = 200.0, ends: float = 0.4) -> tuple[Risk, Need]:
    allowed = Allowance.of(USUAL, hold=20.0, ends=ends, reserve=reserve)
    left = solve(f, 1.0, allowed)[0].ends
    need = Need(occupied, 20.0, left, reserve * (occupied + 20.0 + left))
    return risk_of(f, need, allowed), need


WELD: Json = {"kind": "weld", "thickness": 20.0, "scale": 0.4}
STEPS: list[Json] = [WELD, draw(30.0, 8.0) | {"scale": 0.5}, {"kind": "grind", "top": 0.5, "bottom": 0.5}]
PILE = pile([6.0, 6.0, 6.0, 6.0], 34.0)


class RiskTests(SimpleTestCase):
    def forwards(self, length: float, drawn: dict[str, float]) -> float:
        """Good length of the finished bar when everything goes as drawn, mm."""
        s, g = drawn["scale"], drawn["grind"]
        f = forged(
            PILE | {"length": length},
            WELD | {"scale": 0.4 * s},
            draw(30.0, 8.0) | {"scale": 0.5 * s},
            {"kind": "grind", "top": 0.5 * g, "bottom": 0.5 * g},
        )
        # as much steel in the section that is reached
        out = f.bar.volume / (30.0 * 7.0 * drawn["section"])
        ends = 2 * 0.4 * 20 * (30 * 20) / (30 * 8) * drawn[WELD_ENDS]
        return out - ends

    def test_against_the_forward_ledger(self) -> None:
        f = forged(PILE, *STEPS)
        for reserve in (0.05, 0.1, 0.2):
            found, need = risk(f, reserve)
            length = solve(f, need.length, Allowance.of(USUAL, hold=20.0, ends=0.4, reserve=reserve))[0].begun
            rng = np.random.default_rng(1)
            n, short = 1500, 0
            for _ in range(n):
                z = rng.standard_normal(4)
                sd = np.log([1.5, 1.35, 1.6, 1.03])
                drawn = dict(zip(("scale", "grind", WELD_ENDS, "section"), np.exp(sd * z), strict=True))
                short += self.forwards(length, drawn) < 220.0
            error = 3.5 * math.sqrt(max(short, 9) / n * (1 - short / n) / n)
            self.assertLess(abs(found.short - short / n), error + 0.01, f"{reserve}: {found.short} against {short / n}")

    def test_one_loss_alone_is_known_beforehand(self) -> None:
        """Only the section is uncertain: short when ln ratio > ln(1 + reserve), sd ln 1.03."""
        f = forged(pile([6.0, 6.0], 34.0), draw(30.0, 8.0))
        found, need = risk(f, 0.05, ends=0.0)
        self.assertEqual(need.ends, 0.0)
        told = 0.5 * math.erfc(math.log(1.05) / math.log(1.03) / math.sqrt(2))
        self.assertLess(abs(found.short - told), 0.004)
        assert found.reserve_1_in_20 and found.reserve_1_in_100
        self.assertLess(abs(found.reserve_1_in_20 - (1.03**1.6449 - 1)), 0.001)
        self.assertLess(abs(found.reserve_1_in_100 - (1.03**2.3263 - 1)), 0.003)
        self.assertEqual(found.matters[0][0], "section")
        self.assertGreater(found.matters[0][1], 0.97)

    def test_more_reserve_less_risk_and_the_reserve_told_gives_the_chance(self) -> None:
        f = forged(PILE, *STEPS)
        chances = [risk(f, r)[0].short for r in (0.0, 0.05, 0.1, 0.2, 0.4)]
        self.assertEqual(chances, sorted(chances, reverse=True))
        self.assertGreater(chances[0], 0.3)
        told = risk(f, 0.1)[0]
        assert told.reserve_1_in_20 and told.reserve_1_in_100
        self.assertLess(abs(risk(f, told.reserve_1_in_20)[0].short - 0.05), 0.005)
        self.assertLess(abs(risk(f, told.reserve_1_in_100)[0].short - 0.01), 0.004)
        self.assertEqual(told.matters[0][0], WELD_ENDS)
        self.assertLess(abs(sum(share for _, share in told.matters) - 1), 0.1)

    def test_a_chance_in_place_of_the_reserve(self) -> None:
        worked = Worked.of(read_document(STARTERS["bold_twist"].document()))
        usual = risk_of(worked.forged, stock_of(worked).need, Allowance.of(USUAL))
        sheet = stock_of(worked, Allowance.of(USUAL, short=0.05))
        assert usual.reserve_1_in_20
        self.assertAlmostEqual(sheet.need.reserve / (sheet.need.length - sheet.need.reserve), usual.reserve_1_in_20, 3)
        for chance in (0.0, 1.0, -1.0, float("nan")):
            with self.assertRaises(InputError, msg=str(chance)):
                stock_of(worked, Allowance.of(USUAL, short=chance))
        ticked = stock_of(worked, tick=5.0)
        for p, exact in zip(ticked.piles, stock_of(worked).piles, strict=True):
            self.assertEqual(p.length % 5.0, 0.0)
            self.assertTrue(0 <= p.length - exact.length < 5.0)
        with self.assertRaises(InputError):
            stock_of(worked, tick=-1.0)

    def test_what_is_trimmed_is_exact_and_a_tree_is_as_short_as_its_shortest(self) -> None:
        plain = forged(pile([6.0, 6.0], 34.0), draw(30.0, 8.0))
        trimmed = forged(pile([6.0, 6.0], 34.0), draw(30.0, 8.0), {"kind": "trim", "start": 30.0, "end": 30.0})
        self.assertLess(risk(trimmed, 0.05, ends=0.0)[0].short, risk(plain, 0.05, ends=0.0)[0].short + 0.01)
        bars = [{"start": PILE, "steps": STEPS}, {"start": PILE, "steps": [*STEPS, draw(30.0, 7.0)]}]
        joined = forged({"kind": "assembly", "join": "stacked", "bars": bars}, {"kind": "weld", "thickness": 9.0})
        found, _ = risk(joined, 0.1)
        self.assertTrue(0.0 < found.short < 1.0)

    def test_the_same_every_time(self) -> None:
        one, other = ratios(256), ratios(256)
        for cause, drawn in one.items():
            np.testing.assert_array_equal(drawn, other[cause])
        self.assertLess(abs(float(np.log(one["scale"]).std()) - math.log(1.5)), 0.02)

    def test_every_starter(self) -> None:
        for key, starter in STARTERS.items():
            worked = Worked.of(read_document(starter.document()))
            allowed = Allowance.of(USUAL)
            try:
                sheet = stock_of(worked, allowed)
            except InputError:
                continue
            with at_most(200_000):
                found = risk_of(worked.forged, sheet.need, allowed)
            self.assertTrue(0.0 <= found.short <= 1.0, key)
            if found.reserve_1_in_100 is not None:
                self.assertGreaterEqual(found.reserve_1_in_100, found.reserve_1_in_20 or 0.0, key)
