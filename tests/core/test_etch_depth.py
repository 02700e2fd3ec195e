"""How deep each steel is etched: worked values, mass balance, monotony, findings, cycles, the mark."""

from itertools import pairwise
from typing import Any

from django.test import SimpleTestCase
from hypothesis import given
from hypothesis import strategies as st

from tests.core.samples import STEELS, blade, own, recipe, stack
from tests.profile import examples
from varistrat.core.blade.areas import areas_of
from varistrat.core.blade.geometry import Geometry
from varistrat.core.blade.model import read_blade
from varistrat.core.cutting.layers import across_face
from varistrat.core.design.document import read_document
from varistrat.core.design.worked import Worked
from varistrat.core.errors import InputError
from varistrat.core.etch.bath import Bath
from varistrat.core.figures import USUAL
from varistrat.core.finish.cycles import FIRST, coupon, etch_plan
from varistrat.core.finish.depth import Surface, etch, etch_findings, etch_of, fired_rate, is_noble, surface_of
from varistrat.core.finish.mark import dissolved, mark_depth, mark_time
from varistrat.core.starters import DEFAULT_BLADE


def alone(key: str, share: float = 1.0) -> Surface:
    steel = STEELS[key]
    return Surface(steel, steel.etch_rate, is_noble(steel), share)


def design(*steels: str, blade: bool = True, **more: Any) -> Worked:
    pair = [(s, 4.0) for s in steels] * 3
    steps = [{"kind": "weld", "thickness": 3.6 * len(steels) * 3 * 0.9}, {"kind": "draw", "width": 34.0, "thickness": 6.0}]
    said = {"recipe": recipe(stack(*pair, width=40, length=160), *steps)} | ({"blade": DEFAULT_BLADE} if blade else {})
    return Worked.of(read_document(said | more))


class WorkedTests(SimpleTestCase):
    """Ferric 10 %, 20 C, fresh, still, alone: 1084 10 min 8.0 um, 15N20 2.5."""

    def test_alone(self) -> None:
        for key, wanted in (("1084", 8.0), ("15n20", 2.5)):
            found = etch(Bath(), [alone(key)], [10], 0, USUAL)
            self.assertAlmostEqual(found.depths[key][-1], wanted, 6)

    def test_weaker_warmer_worn(self) -> None:
        def depth(**said: Any) -> float:
            return etch(Bath(**said), [alone("1084")], [10], 0, USUAL).depths["1084"][-1]

        self.assertAlmostEqual(depth(strength=5), 8 * 0.660, 2)
        self.assertAlmostEqual(depth(temperature=40), 8 * 3.25, 1)
        self.assertAlmostEqual(depth(iron=0.3 * Bath().capacity), 8 * 0.7, 6)

    def test_galvanic_only_where_unlike_steels_meet(self) -> None:
        both = etch(Bath(), [alone("1084", 0.5), alone("15n20", 0.5)], [10], 0, USUAL)
        self.assertAlmostEqual(both.depths["1084"][-1], 9.6, 6)
        self.assertAlmostEqual(both.depths["15n20"][-1], 2.0, 6)
        plain = etch(Bath(), [alone("1084", 0.5), alone("1018", 0.5)], [10], 0, USUAL)
        self.assertAlmostEqual(plain.depths["1018"][-1], 6.5, 6)

    def test_a_shops_own_numbers(self) -> None:
        self.assertAlmostEqual(fired_rate(STEELS["15n20"], 0.75, own(etch_r0=1.6)), 0.5, 9)
        twice = etch(Bath(), [alone("1084", 0.5), alone("15n20", 0.5)], [10], 0, own(galvanic_plain=1.0, galvanic_noble=1.0))
        self.assertAlmostEqual(twice.relief, 5.5, 6)

    def test_carbon_as_the_fire_left_it(self) -> None:
        """Mild steel that took up 0.45 % is eaten as 0.8 + 0.2 x 0.25/0.55 = 0.891 of carbon steel, from 0.79."""
        self.assertAlmostEqual(fired_rate(STEELS["1018"], 0.45, USUAL), 0.65 * 0.8909 / 0.79, 3)
        self.assertEqual(fired_rate(STEELS["15n20"], 0.1, USUAL), 0.25)
        self.assertLess(fired_rate(STEELS["1084"], 0.3, USUAL), 0.8)

    def test_felt(self) -> None:
        surface = [alone("1084", 0.5), alone("15n20", 0.5)]
        # 0.76 um a minute apart: 10.5 min 7.98, 10.6 min 8.06
        self.assertFalse(etch(Bath(), surface, [10.5], 0, USUAL).felt)
        self.assertTrue(etch(Bath(), surface, [10.6], 0, USUAL).felt)


class BalanceTests(SimpleTestCase):
    def test_what_leaves_the_blade_is_in_the_bath(self) -> None:
        """100 cm2 x 15 um of plain steel: 7.85 x 100 x 0.0015 = 1.18 g."""
        surface = [alone("1084")]
        found = etch(Bath(litres=50), surface, [15 / 0.8], 10_000, USUAL)
        self.assertAlmostEqual(found.bath.iron, 1.18, 2)
        self.assertAlmostEqual(sum(found.dissolved.values()), found.bath.iron, 9)

    @examples(40)
    @given(st.lists(st.floats(0.5, 400), min_size=1, max_size=6), st.floats(0.2, 6), st.floats(1_000, 60_000))
    def test_balance_and_wear(self, minutes: list[float], litres: float, area: float) -> None:
        bath = Bath(litres=litres)
        surface = [alone("1084", 0.6), alone("15n20", 0.4)]
        found = etch(bath, surface, minutes, area, USUAL)
        mass = sum(found.depths[s.steel.key][-1] * 1e-3 * area * s.share * s.steel.density * 1e-6 for s in surface)
        self.assertAlmostEqual(mass, found.bath.iron - bath.iron, 6)
        self.assertLessEqual(found.bath.iron, bath.capacity * (1 + 1e-9))
        # cut in two, it comes to the same
        halves = etch(bath, surface, [m / 2 for m in minutes for _ in range(2)], area, USUAL)
        self.assertAlmostEqual(halves.depths["1084"][-1], found.depths["1084"][-1], 6)
        for depths in found.depths.values():
            self.assertEqual(list(depths), sorted(depths))

    def test_nickel_and_chromium_told_apart(self) -> None:
        found = etch(Bath(), [alone("15n20")], [60], 20_000, USUAL)
        self.assertAlmostEqual(found.dissolved["Ni"] / sum(found.dissolved.values()), STEELS["15n20"].share("Ni") / 100, 6)


class DesignTests(SimpleTestCase):
    def test_the_faces_of_a_blade(self) -> None:
        w = design("1084", "15n20")
        surface = {s.steel.key: s for s in surface_of(w)}
        self.assertEqual(set(surface), {"1084", "15n20"})
        self.assertAlmostEqual(sum(s.share for s in surface.values()), 1.0, 9)
        self.assertAlmostEqual(surface["1084"].share, 0.5, delta=0.15)
        found = etch_of(w, Bath(), [5, 5, 5])
        self.assertEqual(len(found.depths["1084"]), 3)
        self.assertGreater(found.bath.iron, 0)

    def test_a_bare_bar_wears_nothing(self) -> None:
        w = design("1084", "15n20", blade=False)
        self.assertEqual(etch_of(w, Bath(), [5]).bath.iron, 0)

    def test_a_stretch_of_the_face_is_as_long_as_asked_and_crosses_layers(self) -> None:
        w = design("1084", "15n20")
        found = across_face(w.blade, 12.0)
        self.assertAlmostEqual(sum(width for _, width in found), 12.0, 6)
        self.assertGreater(len(found), 1)
        self.assertTrue(all(a != b for (a, _), (b, _) in pairwise(found)))
        self.assertLessEqual({s for s, _ in found}, {"1084", "15n20"})

    def test_areas_by_hand(self) -> None:
        """A straight blade 200 x 30, flat ground over 20 mm from 4 mm to 0.4: bevel 2 x 200 x sqrt(20^2 + 1.8^2), flat 2 x 200 x 10."""
        tang = {"length": 100, "width": 18, "end_width": 12}
        side = {"kind": "flat", "height": 20.0, "edge_thickness": 0.4}
        areas = areas_of(Geometry.of(blade(height=30.0, grind=side, tang=tang)))
        self.assertAlmostEqual(areas.bevel, 2 * 200 * (20**2 + 1.8**2) ** 0.5, delta=0.004 * areas.bevel)
        self.assertAlmostEqual(areas.flat, 4000, delta=20)
        self.assertAlmostEqual(areas.spine, 800, delta=1)
        self.assertAlmostEqual(areas.tang, 3000)
        self.assertEqual((areas.ricasso, areas.plunge, areas.swedge, areas.fuller), (0, 0, 0, 0))
        self.assertAlmostEqual(areas.wet, areas.faces + areas.spine, 6)

    def test_every_kind_of_place_is_told_apart(self) -> None:
        plain = blade()
        grind = plain.as_json()["grind"] | {
            "ricasso": 20.0,
            "plunge": 8.0,
            "fuller": {"start": 40, "end": 120, "middle": 30, "width": 6, "depth": 0.3},
            "swedge": {"length": 60, "height": 8, "thickness": 1.0},
        }
        areas = areas_of(Geometry.of(read_blade(plain.as_json() | {"grind": grind})))
        self.assertAlmostEqual(areas.ricasso, 2 * 20 * 45, delta=40)
        self.assertAlmostEqual(areas.swedge, 2 * 60 * 8, delta=60)
        self.assertAlmostEqual(areas.fuller, 2 * 80 * 6, delta=80)
        self.assertGreater(areas.plunge, 2 * 8 * 45)
        self.assertGreater(areas.bevel, areas_of(Geometry.of(plain)).bevel / 2)

    def test_findings(self) -> None:
        def codes(w: Worked, bath: Bath, minutes: list[float]) -> dict[str, str]:
            etched = etch_of(w, bath, minutes)
            return {f.code: f.grade for f in etch_findings(w, bath, etched, surface_of(w))}

        pair, slow = design("1084", "15n20"), design("1095", "1018")
        capacity = Bath().capacity
        self.assertEqual(codes(pair, Bath(), [5]), {})
        self.assertEqual(codes(pair, Bath(iron=0.349 * capacity), [5]), {})
        self.assertEqual(codes(pair, Bath(iron=0.351 * capacity), [5]), {"bath_worn": "care"})
        self.assertEqual(codes(pair, Bath(iron=1.1 * capacity), [5])["bath_worn"], "stop")
        self.assertIn("etch_slow_pair", codes(slow, Bath(), [5]))
        self.assertNotIn("etch_too_deep", codes(pair, Bath(), [32]))
        self.assertIn("etch_too_deep", codes(pair, Bath(), [34]))
        self.assertIn("etch_hydrogen", codes(pair, Bath(what="muriatic", strength=12.5), [5]))
        thin = (pair.thinnest or 0) * 500 / 0.96
        self.assertNotIn("etch_undercut", codes(pair, Bath(litres=1000), [0.99 * thin]))
        self.assertIn("etch_undercut", codes(pair, Bath(litres=1000), [1.02 * thin]))
        self.assertIn("etch_pits", codes(design("1084", "304"), Bath(), [5]))


class CycleTests(SimpleTestCase):
    def test_the_relief_wanted_is_reached(self) -> None:
        for wanted in (3.0, 6.0, 12.0, 25.0):
            plan = etch_plan(design("1084", "15n20", finish={"relief": wanted}))
            self.assertEqual(plan.why_not, "")
            self.assertAlmostEqual(plan.etched.relief, wanted, delta=0.25)
            self.assertEqual(plan.cycles[0].minutes, FIRST)
            self.assertTrue(all(c.minutes <= 5 for c in plan.cycles))
        self.assertEqual([c.relief for c in plan.cycles], sorted(c.relief for c in plan.cycles))
        self.assertIn("finger mark", plan.cycles[0].then[0])
        self.assertTrue(any("bicarbonate" in t for t in plan.cycles[-1].then))

    def test_nothing_parts_alike_steels(self) -> None:
        self.assertIn("no relief", etch_plan(design("1084", "1075", finish={"relief": 6.0})).why_not)

    def test_a_worn_bath_says_so(self) -> None:
        self.assertIn("used up", etch_plan(design("1084", "15n20", finish={"bath": {"litres": 0.05, "iron": 0.9}, "relief": 25.0})).why_not)

    def test_a_coupon_gives_the_shops_own_rate(self) -> None:
        self.assertAlmostEqual(coupon(Bath(), 20, 16), 0.8)
        self.assertAlmostEqual(coupon(Bath(temperature=27), 10, 16), 1.6 / 1.54, 2)
        for wrong in ((0, 5), (10, 0.1), (10, 1e6)):
            with self.assertRaises(InputError):
                coupon(Bath(), *wrong)


class MarkTests(SimpleTestCase):
    def test_faraday(self) -> None:
        """1 A for 30 s: 30 x 55.845/(2 x 96485) = 8.68 mg, 11 um under 1 cm2."""
        self.assertAlmostEqual(1000 * dissolved(1, 30), 8.68, 2)
        self.assertAlmostEqual(mark_depth(100, 1, 30), 11.0, 1)

    def test_how_long(self) -> None:
        found = mark_time(100, 1, 11.03, USUAL)
        self.assertAlmostEqual(found.seconds, 30 / 0.65, 1)
        self.assertEqual(found.bursts, 15)
        with self.assertRaises(InputError):
            mark_time(0, 1, 10, USUAL)
