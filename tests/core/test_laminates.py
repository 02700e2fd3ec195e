"""Laminates: which part is the core, where it shows, and what steel is at the edge."""

from itertools import pairwise
from typing import Any

import numpy as np
from django.test import SimpleTestCase

from tests.core.samples import Json, blade, recipe, solid, stack
from varistrat.core import laminates
from varistrat.core.blade.model import read_blade
from varistrat.core.cutting.cut import Cut
from varistrat.core.cutting.edge import edge_findings, edge_steels, stretches
from varistrat.core.design.document import read_document
from varistrat.core.design.findings import findings_of
from varistrat.core.design.worked import Worked
from varistrat.core.laminate.aim import Aim, Band, grade, line
from varistrat.core.starters import DEFAULT_BLADE, design
from varistrat.core.starters import blade as shop_blade


def worked(bar: Json, **more: Any) -> Worked:
    found = Worked.of(
        read_document(design(bar["start"], bar["steps"], shop_blade("drop_point", 150.0, 30.0, (4.0, 3.6, 2.2), 0.4, **more)))
    )
    assert not found.problems, found.problems
    return found


def cut(bar: Json, **more: Any) -> Cut:
    found = worked(bar, **more).cut
    assert found
    return found


def joined(join: str, *bars: Json, **measures: float) -> Json:
    return {"kind": "assembly", "join": join, "bars": [{"start": b, "steps": []} for b in bars], **measures}


def flat(start: Json, thickness: float = 5.0, **more: Any) -> Cut:
    """The straight 200 x 45 blade of the samples, from a bar as it begins."""
    return Cut.of(blade(share=None, thickness=thickness, recipe=recipe(start), **more))


class CoreTests(SimpleTestCase):
    def steel(self, start: Json, *steps: Json) -> str | None:
        found = Cut.of(blade(share=None, recipe=recipe(start, *steps))).part
        return found.steel if found else None

    def pile(self, *keys: str) -> Json:
        return stack(*((k, 1.0) for k in keys), width=60, length=220)

    def test_the_middle_of_clads_alike(self) -> None:
        self.assertEqual(self.steel(self.pile("1018", "1095", "1018")), "1095")
        self.assertEqual(self.steel(self.pile("1018", "nickel", "1095", "nickel", "1018")), "1095")
        self.assertEqual(self.steel(self.pile("1018", "iron", "1084", "1084", "iron", "1018")), "1084")

    def test_no_laminate(self) -> None:
        for keys in (("1018", "1095"), ("1018", "1095", "1084"), ("1084", "15n20", "1084", "15n20", "1084"), ("1018", "1018", "1018")):
            self.assertIsNone(self.steel(self.pile(*keys)), keys)

    def test_a_patterned_pile_is_no_laminate(self) -> None:
        pile = stack(("1018", 5), ("nickel", 1), ("1095", 8), ("nickel", 1), ("1018", 5), width=20, length=300)
        twisted = [
            {"kind": "twist", "turns": 4.0},
            {"kind": "section", "form": "square"},
            {"kind": "draw", "width": 60.0, "thickness": 5.0},
        ]
        self.assertIsNone(self.steel(pile, *twisted))

    def test_joined_bars(self) -> None:
        hard, soft = solid(220, 60, 2.0, "1095"), solid(220, 60, 2.0, "1018")
        pattern = self.pile("1084", "15n20", "1084")
        for bars, want in (([soft, hard, soft], "1095"), ([pattern, hard, pattern], "1095")):
            found = Cut.of(blade(share=None, recipe=recipe(joined("stacked", *bars)))).part
            assert found
            self.assertEqual(found.steel, want)
        patterned_core = Cut.of(blade(share=None, recipe=recipe(joined("stacked", soft, pattern, soft)))).part
        assert patterned_core
        self.assertIsNone(patterned_core.steel)
        self.assertAlmostEqual(patterned_core.high - patterned_core.low, 3.0)
        self.assertIsNone(Cut.of(blade(share=None, recipe=recipe(joined("stacked", soft, soft, soft)))).part)

    def test_flat_core_is_measured_in_the_finished_bar(self) -> None:
        """3, 2, 3 mm with 1 mm ground off the top: the core is 2 of 7, its middle half a mm up: 1/14 of the thickness."""
        start = stack(("1018", 3.0), ("1095", 2.0), ("1018", 3.0), width=60, length=220)
        data = blade(share=None, thickness=7.0, spine=5.0, recipe=recipe(start, {"kind": "grind", "top": 1.0}))
        found = Cut.of(data).flat_core
        assert found
        np.testing.assert_allclose(found, [2 / 7, 0.5 / 7], atol=2e-3)
        under = Cut.of(read_blade(data.as_json() | {"place": {"right_face": "bottom"}})).flat_core
        assert under
        self.assertAlmostEqual(under[1], -found[1], 6)


class LineTests(SimpleTestCase):
    def heights(self, found: Cut, n: int = 5) -> tuple[list[float], list[float]]:
        s = list(found.exposure(n))
        return [line(a) for a in s[::2]], [line(a) for a in s[1::2]]

    def test_five_layers_show_their_core_as_three_do(self) -> None:
        three = flat(stack(("1018", 1.75), ("1095", 1.5), ("1018", 1.75), width=60, length=220))
        five = flat(stack(("1018", 1.5), ("nickel", 0.25), ("1095", 1.5), ("nickel", 0.25), ("1018", 1.5), width=60, length=220))
        np.testing.assert_allclose(self.heights(three), self.heights(five), atol=1e-6)
        # h = (1.5 - 0.4)/(3.6/45)
        np.testing.assert_allclose(self.heights(three), 13.75, atol=1e-6)

    def test_a_scarf_stands_higher_on_one_side(self) -> None:
        """Joint at 45 degrees: at height h the face is z = +-(0.2 + 0.04 h), and the joint lies at y = y0 + z.

        Its middle is at y0 + 0 = 13 mm above the edge here, so right: h = 13 + 0.2 + 0.04 h.
        """
        edge, body = solid(220, 20, 4.4, "1095"), solid(220, 50, 4.4, "1018")
        found = Cut.of(blade(share=None, recipe=recipe(joined("scarf", edge, body, angle=45.0)), place={"y": -27.8}))
        bar = found.placed.bar
        middle = 20 - 2.2 - bar.width / 2 + 27.8
        right, left = self.heights(found)
        np.testing.assert_allclose(right, (middle + 0.2) / (1 - 0.04), atol=1e-4)
        np.testing.assert_allclose(left, (middle - 0.2) / (1 + 0.04), atol=1e-4)

    def test_edge_bar_is_level_on_both_sides(self) -> None:
        right, left = self.heights(cut(laminates.edge_bar()), 8)
        np.testing.assert_allclose(right[:4], left[:4], atol=1e-6)
        self.assertGreater(right[0], 5)

    def test_slot_core_leaves_the_spine_soft(self) -> None:
        found = cut(laminates.slot_core())
        for s in found.exposure(6):
            if s.x < 130:
                self.assertEqual(s.state, "line")
                self.assertLess(line(s), 0.7 * s.height)
        self.assertEqual({e.steel for e in edge_steels(found) if e.x < 140}, {"1095"})

    def test_jacket_must_be_opened_at_the_edge(self) -> None:
        shut, opened = cut(laminates.jacket()), cut(laminates.jacket(), place={"y": -14.0})
        self.assertIn("edge_soft", {f.code for f in edge_findings(shut)})
        self.assertEqual([f.code for f in edge_findings(opened)], [])


class EdgeTests(SimpleTestCase):
    def test_how_thick_the_core_is_at_the_edge(self) -> None:
        """Core 0.3 of 5 mm, shifted 0.7 mm right: of an edge 0.4 mm thick it covers z > -0.05: 0.25 mm."""
        start = stack(("1018", 2.45), ("1095", 1.5), ("1018", 1.05), width=60, length=220)
        at = edge_steels(flat(start))
        self.assertEqual({e.steel for e in at}, {"1095"})
        np.testing.assert_allclose([e.thickness for e in at], 0.25, atol=0.4 / 81)

    def test_mild_at_the_edge_cannot_harden(self) -> None:
        found = edge_findings(flat(stack(("1095", 2.0), ("1018", 1.0), ("1095", 2.0), width=60, length=220)))
        self.assertEqual([f.code for f in found], ["edge_soft"])
        self.assertAlmostEqual(found[0].value or 0, 100.0)

    def test_mild_that_took_up_carbon_is_told_apart(self) -> None:
        soft = flat(stack(("1095", 2.0), ("1018", 1.0), ("1095", 2.0), width=60, length=220))
        self.assertEqual([f.code for f in edge_findings(soft, taken={"1018": 0.55})], ["edge_taken"])
        # a whole design: thin mild layers between thick high-carbon ones, after a weld and a draw
        pile = [{"steel": "1095", "thickness": 6.0}, {"steel": "1018", "thickness": 1.0}, {"steel": "1095", "thickness": 6.0}]
        steps = [{"kind": "weld", "thickness": 9.0}, {"kind": "draw", "width": 40.0, "thickness": 5.0}]
        start = {"kind": "stack", "layers": pile, "width": 40.0, "length": 120.0}
        data = design(start, steps, DEFAULT_BLADE)
        codes = {f.code for f in findings_of(Worked.of(read_document(data)))}
        self.assertIn("edge_taken", codes)
        self.assertNotIn("edge_soft", codes)
        cold = data | {"fire": {"steps": [{"at": i, "heats": 1, "celsius": 750, "minutes": 1} for i in (0, 1)]}}
        self.assertIn("edge_soft", {f.code for f in findings_of(Worked.of(read_document(cold)))})

    def test_a_mixed_edge_bites_and_is_said_so(self) -> None:
        twisted = recipe(
            stack(*[("1084", 3.0), ("15n20", 3.0)] * 4, width=24, length=200),
            {"kind": "twist", "turns": 12.0},
            {"kind": "section", "form": "square"},
            {"kind": "draw", "width": 60.0, "thickness": 5.0},
        )
        found = Cut.of(blade(share=None, thickness=5.0, recipe=twisted))
        self.assertEqual([f.code for f in edge_findings(found)], ["edge_mixed"])
        self.assertGreater(len(stretches(edge_steels(found))), 3)

    def test_a_thin_core_is_soon_sharpened_away(self) -> None:
        start = stack(("l6", 2.47), ("1095", 0.06), ("l6", 2.47), width=60, length=220)
        self.assertEqual([f.code for f in edge_findings(flat(start))], ["edge_steel_thin"])

    def test_stretches_meet_half_way(self) -> None:
        at = edge_steels(cut(laminates.scarfed()))
        runs = stretches(at)
        self.assertEqual(runs[0].steel, "1095")
        for a, b in pairwise(runs):
            self.assertAlmostEqual(a.end, b.start)


class GradeTests(SimpleTestCase):
    def judge(self, aim: Aim, **errors: Any) -> Any:
        found = Cut.of(blade(errors=errors))
        return grade(list(found.exposure(40)), Band.of(aim, found.geometry))

    def test_level_lines_in_the_band_are_first_grade(self) -> None:
        found = self.judge(Aim(low=8.0, high=14.0, difference=1.0))
        self.assertTrue(found.first)
        self.assertEqual(found.risks, [])
        self.assertAlmostEqual(found.apart, 0.0, 6)

    def test_the_reason_is_the_worst_fault(self) -> None:
        """Line 11.5 both; offset 0.02 moves right up and left down by 2 x 0.02 x 4.4/0.08 = 2.2 each."""
        aim = Aim(low=8.0, high=14.5, difference=3.0)
        apart = self.judge(aim, core_offset=0.02)
        self.assertIn("differ by 4.4 mm", apart.reason)
        low = self.judge(Aim(low=12.0, high=14.5, difference=3.0))
        self.assertIn("0.5 mm under", low.reason)
        high = self.judge(Aim(low=2.0, high=11.0, difference=3.0))
        self.assertIn("0.5 mm over", high.reason)
        none = self.judge(aim, core_offset=0.3)
        self.assertIn("No core at the edge", none.reason)
        self.assertFalse(none.first)

    def test_schools(self) -> None:
        geometry = Cut.of(blade()).geometry
        supported, bold = (Band.of(Aim(school=s), geometry) for s in ("supported", "bold"))  # type: ignore[arg-type]
        self.assertLess(supported.high, bold.high)
        self.assertAlmostEqual(bold.low, 0.25 * 45)

    def test_near_the_tip_it_is_not_judged(self) -> None:
        aim = Aim(low=8.0, high=14.0, difference=1.0, end=0.5)
        found = Cut.of(blade(errors={"core_offset": [[0, 0.0], [110, 0.0], [200, 0.05]]}))
        self.assertTrue(grade(list(found.exposure(40)), Band.of(aim, found.geometry)).first)


class ReadyLaminateTests(SimpleTestCase):
    def test_each_hardens_at_its_edge_as_it_stands(self) -> None:
        for make in (laminates.three_layer, laminates.five_layer, laminates.slot_core, laminates.scarfed, laminates.edge_bar):
            with self.subTest(make.__name__):
                found = worked(make())
                self.assertEqual([f.code for f in findings_of(found) if f.grade != "note"], [])
                assert found.cut and found.cut.part
                self.assertEqual(found.cut.part.steel, "1095")
