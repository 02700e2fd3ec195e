"""The fires of whole recipes: heats, scale, skin and carbon carried through every step; what the smith says comes first."""

from math import ceil, log
from typing import Any

import numpy as np
from django.test import SimpleTestCase

from tests.core.samples import STEELS, own
from varistrat.core.bars.bar import Bar
from varistrat.core.bars.layer_line import LayerLine
from varistrat.core.bars.section import Section
from varistrat.core.design.document import read_document
from varistrat.core.design.worked import Worked
from varistrat.core.errors import InputError
from varistrat.core.heat.colours import GLOW, glow, run_colour
from varistrat.core.heat.fires import soak
from varistrat.core.heat.fires.fired_tones import tones_after
from varistrat.core.heat.fires.homogenisation import homogeneity, minutes_to_even, uneven
from varistrat.core.heat.fires.working import heats_to_work, spread_under
from varistrat.core.laws.carbon import even_after
from varistrat.core.laws.column import Column
from varistrat.core.shop import AS_SHIPS, ShopData
from varistrat.core.starters import STARTERS


def design(steps: list[dict[str, Any]], layers: list[tuple[str, float]] | None = None, shop: ShopData = AS_SHIPS, **more: Any) -> Worked:
    pile = [
        {"steel": s, "thickness": t} for s, t in layers or [("1084", 5.0), ("15n20", 2.0), ("1084", 5.0), ("15n20", 2.0), ("1084", 5.0)]
    ]
    start = {"kind": "stack", "layers": pile, "width": 30.0, "length": 120.0}
    return Worked.of(read_document({"recipe": {"format": "varistrat.recipe/1", "bar": {"start": start, "steps": steps}}, **more}, shop))


WELD = {"kind": "weld", "thickness": 16.0}
DRAW = {"kind": "draw", "width": 25.0, "thickness": 8.0}


class WorkingTests(SimpleTestCase):
    before, after = Bar(150, Section("rectangle", 40, 30)), Bar(300, Section("rectangle", 30, 20))

    def test_a_press_by_hand(self) -> None:
        # strain ln(1.5) + ln(4/3) = 0.693, four passes of 1.2; mean length 225: two stretches of 112.5, three bites of 40;
        # 4 x 3 strokes at 25 a minute
        got = heats_to_work(self.before, self.after, "press", 70.0, 1150, 850)
        self.assertAlmostEqual(got.strain, 0.6931, delta=1e-3)
        self.assertEqual(got.stretches, 2)
        self.assertAlmostEqual(got.work, 4 * 3 * 2.4)

    def test_a_hammer_by_hand(self) -> None:
        # 1.25 x 70 MPa x 0.693 x 90 cm3 = 5458 J at 24 J used a blow, 50 blows a minute: 273 s
        got = heats_to_work(self.before, self.after, "hand_hammer", 70.0, 1150, 850)
        self.assertAlmostEqual(got.work, 273, delta=1)
        strong = heats_to_work(self.before, self.after, "power_hammer", 70.0, 1150, 850)
        self.assertLess(strong.heats, got.heats)

    def test_it_cools_faster_as_it_gets_thinner(self) -> None:
        # 40 x 20 to 40 x 5 in eight passes of strain 0.173; window 0.7 of the time in air less 6 s, at the middle of each
        thick, thin = Bar(100, Section("rectangle", 40, 20)), Bar(400, Section("rectangle", 40, 5))
        got = heats_to_work(thick, thin, "press", 70.0, 1150, 850, own(hot_length=2000.0))
        sizes = [20 * 0.25 ** ((k + 0.5) / 8) for k in range(8)]
        windows = [max(2.0, 0.7 * soak.working_seconds(40, t, 1150, 850) - 6) for t in sizes]
        self.assertEqual(got.heats, ceil(sum(got.work / 8 / w for w in windows)))
        # neither as slow as when it is thin nor as quick as when it is thick
        self.assertTrue(got.work / windows[0] < got.heats < got.work / windows[-1])

    def test_a_small_press_takes_smaller_bites(self) -> None:
        small = heats_to_work(self.before, self.after, "press", 70.0, 1150, 850, own(press_force=40.0))
        self.assertGreater(small.work, 3 * heats_to_work(self.before, self.after, "press", 70.0, 1150, 850).work)

    def test_how_wide_it_spreads_under_the_shops_die(self) -> None:
        # 40 wide under a 40 mm die: s = 0.446; 30 to 24: 40 x 1.25^0.446 = 44.19
        down = Bar(150, Section("rectangle", 40, 24))
        width, die = spread_under(self.before, down, "press") or (0, 0)
        self.assertAlmostEqual(width, 44.19, delta=0.02)
        self.assertEqual(die, 40)
        # rolls of 75 mm spread far less
        self.assertLess((spread_under(self.before, down, "rolls") or (0, 0))[0], 42)
        self.assertLess((spread_under(self.before, down, "press", own(press_die=20.0)) or (0, 0))[0], width)
        self.assertIsNone(spread_under(down, self.before, "press"))

    def test_a_step_under_its_own_tool(self) -> None:
        for method, heats in (("hammer", "hand_hammer"), ("press", "press"), ("roll", "rolls")):
            step = {**DRAW, "method": method, "roll_diameter": 75.0}
            got = design([WELD, step], fire={"tool": "hand_hammer"}).fire.fired[1]
            same = design([WELD, DRAW], fire={"tool": heats}).fire.fired[1]
            self.assertEqual((got.heats, got.spread), (same.heats, same.spread), method)

    def test_nothing_to_do(self) -> None:
        self.assertEqual(heats_to_work(self.before, self.before, "rolls", 70.0, 1150, 850).heats, 0)


class SoakTests(SimpleTestCase):
    def test_the_quick_law_meets_the_cells(self) -> None:
        for w, t, fire, goal in (
            (25, 25, 1250, 1185),
            (50, 50, 1250, 1185),
            (100, 100, 1250, 1185),
            (400, 25, 1250, 1185),
            (60, 4, 815, 795),
        ):
            slow = soak.warm_through(w, t, fire, goal).ready
            assert slow
            self.assertAlmostEqual(soak.through_minutes(w, t, fire, goal) / slow, 1, delta=0.06, msg=f"{w} {t}")
        self.assertEqual(soak.through_minutes(25, 25, 1000, 1000), float("inf"))

    def test_a_can_takes_longer(self) -> None:
        # 50 mm, inside conducting a tenth, 65 % dense: about 12 to 14 minutes ideal against under 10
        self.assertAlmostEqual(soak.warm_through(50, 50, 1250, 1185, conducts=0.1, dense=0.65).ready or 0, 13, delta=2)


class ThroughTests(SimpleTestCase):
    def setUp(self) -> None:
        self.line = LayerLine(Column.of([("a", 4.0), ("b", 2.0)], [0.2, 0.8], [1, 1]))

    def test_layers_thin_along_their_normal(self) -> None:
        one, two = Bar(100, Section("rectangle", 20, 6)), Bar(200, Section("rectangle", 20, 3))
        self.assertAlmostEqual(self.line.forged(one, two).column.height, 3.0)
        self.assertAlmostEqual(LayerLine(self.line.column, "y").forged(one, two).column.height, 6.0)
        self.assertAlmostEqual(LayerLine(self.line.column, "x").forged(one, two).column.height, 12.0)
        self.assertAlmostEqual(self.line.askew().forged(one, two).column.height, 6 / 2**0.5)

    def test_steps_carry_it(self) -> None:
        stack = [("1084", 4.0), ("15n20", 2.0)]
        turned = design(
            [{"kind": "turn", "degrees": 90.0}, {"kind": "draw", "width": 3.0, "thickness": 30.0}], stack, fire={"gas": "sealed"}
        )
        self.assertAlmostEqual(turned.fire.fired[0].thinnest, 1.0, delta=1e-6)
        folded = design([{"kind": "fold", "grind": 0.5}], stack).fire.fired[0]
        self.assertEqual(folded.layers, 4)
        piled = design(
            [{"kind": "restack", "pieces": 3, "interleaf": {"steel": "nickel", "thickness": 0.5}}, {"kind": "weld", "thickness": 17.0}],
            stack,
        )
        self.assertEqual((piled.fire.fired[0].layers, piled.fire.fired[0].heats), (8, 0))
        self.assertIn("nickel", piled.fire.carbon)


class FireTests(SimpleTestCase):
    def test_every_ready_start_has_its_fires(self) -> None:
        for key, starter in STARTERS.items():
            out = Worked.of(read_document(starter.document())).fire
            self.assertTrue(out.fired, key)
            self.assertTrue(all(np.isfinite([f.scale, f.skin, f.soak, f.thinnest]).all() and f.heats >= 0 for f in out.fired), key)
            self.assertNotIn("stop", [x.grade for f in out.fired for x in f.findings], key)
            self.assertTrue(all(0 <= c <= 1.4 for c in out.carbon.values()), (key, out.carbon))

    def test_fine_layers_even_out_and_thick_ones_do_not(self) -> None:
        thick = Worked.of(read_document(STARTERS["three_layer"].document())).fire.fired[-1]
        fine = Worked.of(read_document(STARTERS["fine_restack"].document())).fire.fired[-1]
        self.assertEqual((homogeneity(thick.uneven), homogeneity(fine.uneven)), ("own", "even"))

    def test_the_smiths_word_comes_first(self) -> None:
        usual = design([WELD, DRAW]).fire
        said = design(
            [WELD, DRAW],
            fire={"weld": 1180, "gas": "air", "steps": [{"at": 1, "heats": 3, "celsius": 1000, "minutes": 10, "atmosphere": "sealed"}]},
        ).fire
        self.assertEqual((said.fired[0].celsius, usual.fired[0].celsius), (1180, 1160))
        got = said.fired[1]
        self.assertEqual((got.heats, got.celsius, got.minutes, got.atmosphere, got.scale), (3, 1000, 10, "sealed", 0.0))
        self.assertEqual(got.own, ("heats", "celsius", "minutes", "atmosphere"))
        # said of a step that is switched off, or is not there: nothing happens
        off = design([WELD, DRAW], off=[[0]], fire={"steps": [{"at": 1, "heats": 7}, {"at": 90, "heats": 2}]}).fire
        self.assertEqual([(f.step, f.heats) for f in off.fired], [("s2", 7)])

    def test_heats_that_melt_or_burn_are_told(self) -> None:
        def codes(celsius: float) -> list[tuple[str, str]]:
            fired = design([WELD], fire={"steps": [{"at": 0, "celsius": celsius}]}).fire.fired[0]
            return [(f.code, f.grade) for f in fired.findings]

        self.assertEqual(codes(1380), [("melts", "stop")])
        self.assertEqual(codes(1320), [("burns", "care")])
        self.assertEqual(codes(1240), [("weld_hot", "care")])
        self.assertEqual(codes(1000), [("weld_cold", "care")])
        self.assertEqual(codes(1160), [])
        copper = design([WELD], [("copper", 2.0), ("1084", 8.0), ("copper", 2.0)], fire={"weld": 1060}).fire.fired[0]
        self.assertIn("copper_melts", [f.code for f in copper.findings])

    def test_a_bar_that_burns_away_is_told_and_nothing_breaks(self) -> None:
        said = [{"at": i, "heats": 60, "minutes": 60, "celsius": 1250, "atmosphere": "air"} for i in range(2)]
        out = design([WELD, DRAW], fire={"steps": said}).fire
        self.assertIn(("much_scale", "stop"), [(x.code, x.grade) for x in out.fired[0].findings])
        self.assertTrue(np.isfinite([c for f in out.fired for v in f.carbon.values() for c in v]).all())
        self.assertNotIn("much_scale", [x.code for f in design([WELD, DRAW]).fire.fired for x in f.findings])

    def test_impossible_words_are_refused(self) -> None:
        for fire in (
            {"weld": 3000},
            {"gas": "smoke"},
            {"tool": "teeth"},
            {"steps": [{"at": 0, "heats": -1}]},
            {"steps": [{"at": 0, "minutes": 1e9}]},
        ):
            with self.assertRaises(InputError):
                design([WELD], fire=fire)

    def test_ground_faces_leave_no_line(self) -> None:
        steps = [WELD, DRAW, {"kind": "restack", "pieces": 2, "grind": 0.0}, {"kind": "weld", "thickness": 14.0}]
        dirty = design(steps).fire
        steps[2] = {"kind": "restack", "pieces": 2, "grind": 1.0}
        clean = design(steps).fire
        self.assertGreater(dirty.joint, 0.1)
        self.assertEqual(clean.joint, 0.0)
        self.assertIn("skin_left", [f.code for f in dirty.fired[2].findings])

    def test_a_skin_left_in_a_joined_bar_stays_in_it(self) -> None:
        pile = {"kind": "stack", "width": 30.0, "length": 120.0, "layers": [{"steel": k, "thickness": 6.0} for k in ("1084", "15n20")]}
        dirty = {"start": pile, "steps": [WELD, DRAW, {"kind": "restack", "pieces": 2, "grind": 0.0}, {"kind": "weld", "thickness": 14.0}]}
        plate = {"start": {"kind": "solid", "steel": "1095", "length": 100.0, "width": 25.0, "thickness": 4.0}, "steps": []}
        start = {"kind": "assembly", "join": "stacked", "bars": [dirty, plate]}
        recipe = {"format": "varistrat.recipe/1", "bar": {"start": start, "steps": [{"kind": "weld", "thickness": 12.0}]}}
        self.assertGreater(Worked.of(read_document({"recipe": recipe})).fire.joint, 0.05)

    def test_what_can_hurt_is_told_where_it_can(self) -> None:
        def cautions(work: list[dict[str, Any]], layers: list[tuple[str, float]] | None = None, **fire: Any) -> str:
            return design(work, layers, fire=fire).fire.fired[-1].caution

        self.assertIn("flux sprays", cautions([WELD]))
        self.assertIn("bursts", cautions([{**WELD, "atmosphere": "sealed"}]))
        self.assertIn("press does not stop", cautions([WELD, DRAW]))
        self.assertNotIn("press", cautions([WELD, DRAW], tool="hand_hammer"))
        self.assertIn("chromium", cautions([WELD], [("304", 4.0), ("1095", 8.0), ("304", 4.0)]))
        self.assertIn("whip round", cautions([WELD, {"kind": "draw", "width": 16.0, "thickness": 16.0}, {"kind": "twist", "turns": 2.0}]))
        self.assertEqual(cautions([WELD], steps=[{"at": 0, "heats": 0}]), "")

    def test_scale_grows_with_the_root_of_heats_knocked_off(self) -> None:
        def scale(heats: int, minutes: float) -> float:
            return (
                design([WELD], fire={"steps": [{"at": 0, "heats": heats, "minutes": minutes, "celsius": 1150, "atmosphere": "air"}]})
                .fire.fired[0]
                .scale
            )

        self.assertAlmostEqual(scale(4, 15) / scale(1, 60), 2.0, delta=1e-6)

    def test_carbon_is_told_below_the_skin_and_in_the_middle(self) -> None:
        out = design([WELD, DRAW], [("1018", 6.0), ("1095", 6.0), ("1018", 6.0)], fire={"gas": "air"}).fire
        low, mean, high = out.fired[-1].carbon["1018"]
        _, carbon, _ = out.fired[-1].profile
        self.assertLess(carbon[0], 0.1)
        self.assertGreater(low, carbon[0])
        self.assertTrue(low < mean < high)
        # the middle of the core keeps more than the core as a whole
        self.assertGreater(out.middle["1095"], out.carbon["1095"])
        twisted = Worked.of(read_document(STARTERS["bold_twist"].document())).fire
        self.assertEqual(twisted.middle, {})

    def test_steels_beside_the_line_are_told_too(self) -> None:
        out = Worked.of(read_document(STARTERS["scarfed"].document())).fire
        self.assertEqual(set(out.carbon), {"1084", "15n20", "1095"})

    def test_stainless_clads_keep_the_scale_off_their_faces(self) -> None:
        def scale(outside: str) -> float:
            pile = [(outside, 4.0), ("1095", 8.0), (outside, 4.0)]
            said = [{"at": 0, "heats": 1, "celsius": 1150, "minutes": 15, "atmosphere": "air"}]
            return design([{"kind": "weld", "thickness": 14.0}], pile, fire={"steps": said}).fire.fired[0].scale

        # 30 wide, 16 high: the clads (a tenth) are 30 of 46 and half of the 16 at the sides
        self.assertAlmostEqual(scale("304") / scale("1018"), (0.1 * 30 + 0.55 * 16) / 46, delta=1e-6)

    def test_how_long_until_carbon_is_even(self) -> None:
        keys = ["1018", "1084"] * 5
        pile = Column.of([(k, 0.5) for k in keys], [STEELS[k].share("C") for k in keys], [1.0] * 10)
        got = minutes_to_even(pile, 1100, STEELS)
        assert got
        # first wave of a square one, mean of a layer: 8/pi^2 e^-F = 0.05, F = 2.79
        self.assertAlmostEqual(got / (even_after(1100, 1.0, 0.51) * 2.79 / log(20)), 1, delta=0.1)
        self.assertLess(uneven(pile.heated(1100, got), STEELS), 0.055)
        self.assertGreater(uneven(pile.heated(1100, 0.8 * got), STEELS), 0.055)
        self.assertEqual(minutes_to_even(pile.heated(1100, 2 * got), 1100, STEELS), 0.0)
        self.assertIsNone(minutes_to_even(pile, 600, STEELS))
        thick = Column.of([("1018", 60.0), ("1084", 60.0)], [0.18, 0.84], [1.0, 1.0])
        self.assertIsNone(minutes_to_even(thick, 1000, STEELS))

    def test_a_shops_own_number(self) -> None:
        usual = design([WELD, DRAW]).fire
        mine = design([WELD, DRAW], shop=ShopData(figures={"scale_neutral": 1.7, "hot_length": 60.0})).fire
        self.assertGreater(mine.fired[1].scale, 1.9 * usual.fired[1].scale * mine.fired[1].each / max(usual.fired[1].each, 1) * 0.9)
        self.assertGreater(mine.fired[1].heats, usual.fired[1].heats)
        longer = design([WELD], shop=ShopData(figures={"kept_weld": 20.0})).fire
        self.assertAlmostEqual(longer.fired[0].minutes - usual.fired[0].minutes, 15.0, delta=0.1)

    def test_nickel_stays(self) -> None:
        out = design([WELD, DRAW]).fire
        self.assertEqual(out.element, "Ni")
        self.assertAlmostEqual(out.apart, 2.0)
        self.assertGreater(out.contrast, 0.98)

    def test_mild_steel_darkens_with_the_carbon_it_takes_up(self) -> None:
        got = tones_after({"1018": 0.5, "1084": 0.5}, STEELS)
        self.assertLess(got["1018"], STEELS["1018"].shade - 1)
        self.assertEqual(tones_after({"15n20": 0.75}, STEELS)["15n20"], STEELS["15n20"].shade)

    def test_colours_in_words(self) -> None:
        self.assertEqual((glow(800) or (0, "", ""))[1], "full cherry")
        self.assertIsNone(glow(505))
        self.assertEqual((glow(515) or (0.0, "", ""))[0], GLOW[0][0])
        self.assertEqual((run_colour(206) or (0, "", ""))[1], "faint straw")
        self.assertIsNone(run_colour(150))
