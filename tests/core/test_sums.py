"""Sums beside the steps: each solved for each of its quantities, and worked by hand once."""

from math import pi, sqrt

import numpy as np
from django.test import SimpleTestCase

from tests.core.samples import forged, solid
from varistrat.core.bars.bar import Bar
from varistrat.core.bars.section import Section
from varistrat.core.bars.steps import STEPS
from varistrat.core.bars.trace import Trace
from varistrat.core.errors import InputError
from varistrat.core.families import bar, joined
from varistrat.core.sums import SUMS, sum_of, sums_for
from varistrat.core.sums.counting import after, ways
from varistrat.core.sums.fitting import expansion

BAR = Bar(300.0, Section("rectangle", 30.0, 20.0))
FIELDS = {
    "thickness": 8.0, "angle": 35.0, "count": 6, "turns": 9.0, "pieces": 3, "depth": 3.0, "groove": 8.0, "radius": 90.0, "drag": 8.0,
    "reach": 6.0, "layers_before": 21, "kerf": 1.5,
}  # fmt: skip


def solve(key: str, unknown: str, **given: float) -> float:
    return sum_of(key).solve(given, unknown)


class EdgeSumTests(SimpleTestCase):
    def test_a_scarf_worked_by_hand(self) -> None:
        """6 mm thick, out at 10 on one face and 20 on the other: tan a = 6/10, 30.96 degrees; at 45 the reach is 16."""
        self.assertAlmostEqual(solve("scarf_angle", "angle", thickness=6.0, reach=20.0, reveal=10.0), 30.9638, 3)
        self.assertAlmostEqual(solve("scarf_angle", "reach", thickness=6.0, angle=45.0, reveal=10.0), 16.0, 6)

    def test_it_is_the_joint_that_is_forged(self) -> None:
        """The sum's angle put into a scarfed bar: on its faces the joint lies reach - reveal apart."""
        angle = solve("scarf_angle", "angle", thickness=6.0, reach=20.0, reveal=10.0)
        f = forged(joined("scarf", bar(solid(200, 40, 6, "1095")), bar(solid(200, 40, 6, "1018")), angle=angle))
        y = np.linspace(-f.bar.width / 2 + 0.01, f.bar.width / 2 - 0.01, 20_000)
        at = [
            y[int(np.argmax(Trace(f).probe(np.full_like(y, 100.0), y, np.full_like(y, z)) == f.steels.index("1018")))]
            for z in (-2.999, 2.999)
        ]
        self.assertAlmostEqual(abs(at[1] - at[0]), 10.0, 1)

    def test_an_end_bevel_worked_by_hand(self) -> None:
        """8 mm at 30 degrees: 16 mm of bevel, 13.856 along the tool; 2 mm of hard steel shows as 4."""
        self.assertAlmostEqual(solve("end_bevel", "bevel", thickness=8.0, angle=30.0, hard=2.0), 16.0, 6)
        lines = sum_of("end_bevel").lines({"bevel": 16.0, "thickness": 8.0, "angle": 30.0, "hard": 2.0})
        self.assertAlmostEqual(lines[0].value, 13.8564, 4)
        self.assertAlmostEqual(lines[1].value, 4.0, 6)


class EverySumTests(SimpleTestCase):
    def test_each_takes_any_unknown_and_comes_back(self) -> None:
        for s in SUMS.values():
            known = s.fill(BAR, FIELDS)
            complete = {**known, s.unknown: s.solve(known, s.unknown)}
            self.assertEqual(set(complete) >= {q.key for q in s.quantities}, True, s.key)
            for q in s.quantities:
                if q.given:
                    with self.assertRaisesRegex(InputError, "does not follow"):
                        s.solve(complete, q.key)
                    continue
                if s.key == "canister_height" and q.key in ("pieces", "packing"):
                    continue  # the test bar is not a can
                found = s.solve(complete, q.key)
                # another root is as good, if the formula holds there
                self.assertAlmostEqual(s.gap({**complete, q.key: found}) / max(1.0, abs(found)), 0.0, 7, f"{s.key}: {q.key}")
            for line in s.lines(complete):
                self.assertTrue(line.label)
            self.assertTrue(s.formula and s.title and s.steps)

    def test_a_quantity_names_a_field_its_step_has(self) -> None:
        fields = {step.model_fields["kind"].default: set(step.model_fields) for step in STEPS}
        for s in SUMS.values():
            for kind in s.steps:
                if kind in fields:
                    for q in s.quantities:
                        self.assertIn(
                            q.fills,
                            fields[kind] | {""} | ({"thickness"} if kind in ("section", "twist", "fold", "stack") else set()),
                            f"{s.key}: {kind}.{q.fills}",
                        ) if kind in s.steps[:1] else None

    def test_what_is_missing_wrong_or_without_answer_is_named(self) -> None:
        for given, unknown, path in (
            ({"angle": 35.0, "width": 30.0}, "height", "values.draw"),
            ({"angle": 135.0, "width": 30.0, "draw": 1.0}, "height", "values.angle"),
            ({"angle": float("nan"), "width": 30.0, "draw": 1.0}, "height", "values.angle"),
            # higher than it is wide: no angle makes that square
            ({"height": 40.0, "width": 30.0, "draw": 1.0}, "angle", "values.angle"),
            ({}, "colour", "unknown"),
        ):
            with self.assertRaises(InputError) as caught:
                solve("square_motif", unknown, **given)
            self.assertEqual(caught.exception.problems[0].path, path)
        with self.assertRaisesRegex(InputError, "there is no sum"):
            sum_of("horoscope")

    def test_every_patterning_step_has_the_sums_the_smith_does_there(self) -> None:
        for kind in ("tiles", "end_slice", "twist", "draw", "weld", "restack", "relief", "split", "bend", "section"):
            self.assertTrue(sums_for(kind, BAR, FIELDS), kind)


class WorkedTests(SimpleTestCase):
    def test_by_hand(self) -> None:
        for found, want in (
            # W sin 30 = 15, drawn half as long again: 10
            (solve("square_motif", "height", angle=30.0, width=30.0, draw=1.5), 10.0),
            (solve("square_motif", "angle", height=15.0, width=30.0, draw=1.0), 30.0),
            # (300/2 - 20 cos 30 + 1.5)/(8 + 1.5)
            (solve("tile_count", "count", tile=8.0, kerf=1.5, length=300.0, angle=30.0, height=20.0), (150 - 20 * sqrt(3) / 2 + 1.5) / 9.5),
            (solve("wedge_waste", "waste", tile=8.0, angle=60.0, count=4, height=10.0), 0.1),
            # 200 x 40 x 5 = 40,000 mm3 from 40 x 40 less a fifth: 31.25
            (solve("slice_thickness", "slice", width=40.0, height=40.0, loss=0.2, long=200.0, wide=40.0, thick=5.0), 31.25),
            # 0.9^7 = 0.4783
            (solve("passes", "to", **{"from": 20.0}, cut=0.1, passes=7.0), 20 * 0.9**7),
            (solve("widen_first", "turned", **{"from": 24.0}, width=30.0, wide=40.0), 18.0),
            (solve("turns_per_length", "turns", length=300.0, pitch=25.0), 12.0),
            # one turn in three widths of a round: pi/3
            (solve("twist_heats", "shear", turns=10.0, length=300.0, across=10.0, hot=100.0, per_heat=1.0), pi / 3),
            (solve("bend_strain", "radius", strain=0.2, width=30.0), 75.0),
            (solve("layer_count", "count", layers=7.0, pieces=3.0, welds=3.0, height=20.0), 189.0),
            (solve("layers_raised", "depth", raised=6.0, layers=40.0, height=20.0), 3.0),
            (solve("line_width", "line", groove=8.0, depth=4.0, layers=40.0, height=20.0), 0.5),
            (solve("equal_area", "square", round=20.0), 10 * sqrt(pi)),
            # 1.38 % at 1000 C (EN 1993-1-2)
            (solve("stop_block", "block", cold=10.0, heat=1000.0), 10.138),
            (solve("plug_after", "after", plug=14.0, height=20.0, thin=5.0), 28.0),
            (solve("plug_fit", "closed", hole=10.0, plug=9.0, height=20.0), 16.2),
            (solve("canister_height", "solid", inside=40.0, pieces=0.25, packing=0.5), 25.0),
            (solve("split_cost", "cost", drag=10.0, reach=15 / 0.6931471805599453, width=30.0, height=20.0), 0.25),
        ):
            self.assertAlmostEqual(found, want, 6)

    def test_expansion_at_the_points_of_the_standard(self) -> None:
        for celsius, percent in ((600, 0.84), (800, 1.10), (1000, 1.38), (1100, 1.58), (1200, 1.78)):
            self.assertAlmostEqual(100 * expansion(celsius), percent, 2)

    def test_heats_for_a_bar_that_only_heats_in_part(self) -> None:
        s = sum_of("twist_heats")
        lines = {
            line.label: line.value
            for line in s.lines({"shear": 2.2, "turns": 21.0, "length": 300.0, "across": 10.0, "hot": 120.0, "per_heat": 1.25})
        }
        # three stretches, two heats each
        self.assertEqual((lines["stretches the fire can take"], lines["heats for each"], lines["heats in all"]), (3, 2, 6))

    def test_passes_are_whole_and_even(self) -> None:
        lines = {line.label: line.value for line in sum_of("passes").lines({"from": 20.0, "to": 10.0, "cut": 0.1, "passes": 6.58})}
        self.assertEqual(lines["whole passes"], 7)
        self.assertAlmostEqual(lines["each takes"], 1 - 0.5 ** (1 / 7))
        # all of them, the last on the size
        after = [v for k, v in lines.items() if k.startswith("after pass")]
        self.assertEqual(len(after), 7)
        self.assertAlmostEqual(after[-1], 10.0)
        many = sum_of("passes").lines({"from": 20.0, "to": 10.0, "cut": 0.002, "passes": 346.2})
        self.assertEqual((many[-1].label, round(many[-1].value, 9)), ("after pass 347", 10.0))

    def test_layers_wanted(self) -> None:
        self.assertEqual((after(7, 3, True), after(7, 3, False)), (19, 21))
        self.assertAlmostEqual(solve("layer_count", "welds", layers=7.0, pieces=3.0, count=189.0, height=20.0), 3)
        for way in ways(300):
            count = way.layers
            for n in way.pieces:
                count = after(count, n, True)
            self.assertEqual(count, way.count)
            self.assertLess(abs(way.count - 300), 75)
        self.assertLessEqual(abs(ways(300)[0].count - 300), 6)
        self.assertTrue(all(w.layers % 2 for w in ways(300)))
        # six welds at the most: 3 layers cut in eight at each are 3 x 8^6 at the end
        self.assertEqual(ways(3 * 8**6, 3, 3, like_meets_like=False)[0].pieces, (8,) * 6)
        self.assertEqual(ways(3 * 8**7, 3, 3, like_meets_like=False), [])
