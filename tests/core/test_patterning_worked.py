"""Hand-worked cases of the patterning steps: four-ways, tiles, slices, reliefs, splits, bends."""

import numpy as np
from django.test import SimpleTestCase

from tests.core.samples import Json, forged, solid, stack
from varistrat.core.advice import order_findings
from varistrat.core.bars.points import Points
from varistrat.core.bars.trace import Trace
from varistrat.core.starters import STARTERS

SOLID = solid(200, 30, 20)
VEE: Json = {"kind": "relief", "shape": "rungs", "method": "cut_forged", "profile": "vee", "pitch": 20.0, "groove": 10.0, "depth": 8.0}


def pulled(f, x: float, y: float, z: float) -> tuple[float, float, float]:  # type: ignore[no-untyped-def]
    p = Trace(f).begun(Points(np.array([float(x)]), np.array([float(y)]), np.array([float(z)])))
    return float(p.x[0]), float(p.y[0]), float(p.z[0])


class WorkedTests(SimpleTestCase):
    def close(self, got: tuple[float, ...], want: tuple[float, ...]) -> None:
        np.testing.assert_allclose(got, want, atol=1e-9)

    def test_grid(self) -> None:
        # two quarters of a 20 x 20 bar 210 long, cut with 10 of kerf: 100 each; the second turned by a quarter and end for end
        f = forged(solid(210, 20, 20), {"kind": "grid", "cells": [[{}, {"quarter_turns": 1, "end_for_end": True}]], "kerf": 10.0})
        self.close((f.bar.length, f.bar.width, f.bar.thickness), (100, 40, 20))
        self.close(pulled(f, 30, -14, 3), (30, -4, 3))
        # in cell 2: own (y, z) = (4, 3), x 30 from its start; end for end: x 70, y -4; a quarter back (y to -z): y 3, z 4
        self.close(pulled(f, 30, 14, 3), (110 + 70, 3, 4))
        self.assertEqual(f.stages[0].change.losses["kerf"], 10 * 400)

    def test_a_four_way_of_a_diagonal_meets_in_the_middle(self) -> None:
        # layers of the first cell run to its inner corner; quarter turns 0, 1 / 3, 2 carry that corner round
        f = STARTERS["four_way"].document()["recipe"]["bar"]
        bar = forged(f["start"], *f["steps"])
        b = bar.bar
        d = np.linspace(0.5, 0.45 * b.width, 60)
        trace = Trace(bar)
        ways = [trace.probe(np.full(60, 20.0), sy * d, sz * 0.6 * d) for sy, sz in ((1, 1), (-1, 1), (-1, -1), (1, -1))]
        same = [(w == ways[0]).mean() for w in ways]
        self.assertGreater(min(same), 0.9, "each quarter is the first one turned or turned over")

    def test_tiles(self) -> None:
        # 30 degrees: sin 1/2, so a tile's face is 20 / (1/2) = 40 long; 6 thick: the wedges are 6 cot 30 = 10.392 long
        f = forged(SOLID, {"kind": "tiles", "angle": 30.0, "thickness": 6.0, "count": 3})
        cot = 3**0.5
        self.close((f.bar.length, f.bar.width, f.bar.thickness), (120 - 6 * cot, 30, 6))
        # the start of the face, at its top: s = 6 cot 30, on the cut plane: x = s cos 30 = 9, z = s/2 - 10
        self.close(pulled(f, 0, 5, 3), (9, 5, 6 * cot / 2 - 10))
        # 40 further on, the same place of the second tile, which lay 6 / sin 30 = 12 further along the bar
        self.close(pulled(f, 40, 5, 3), (21, 5, 6 * cot / 2 - 10))
        losses = f.stages[0].change.losses
        self.assertAlmostEqual(losses["wedges"], 36 * cot * 30)
        # offcut: the bar less three tiles of 6 x 40 x 30
        self.assertAlmostEqual(losses["offcut"], 200 * 30 * 20 - 3 * 6 * 40 * 30)
        # the most: floor((200 - 20 cot 30) / 2 / 6) = floor(13.78)
        self.assertEqual(f.stages[0].step.most(f.first), 13)

    def test_tiles_turned_over(self) -> None:
        f = forged(SOLID, {"kind": "tiles", "angle": 30.0, "thickness": 6.0, "count": 3, "alternate": True})
        cot = 3**0.5
        # the middle of the second tile is its own middle, turned or not: s = (40 + 6 cot)/2, d = 3
        s, d = (40 + 6 * cot) / 2, 3.0
        x = 40 + s - 6 * cot
        self.close(pulled(f, x, 0, 0), (s * 3**0.5 / 2 + d / 2 + 12, 0, s / 2 - d * 3**0.5 / 2 - 10))

    def test_the_motif_is_square_when_the_bar_is_as_high_as_wide_times_sine(self) -> None:
        square = forged(solid(200, 30, 15), {"kind": "tiles", "angle": 30.0, "thickness": 6.0, "count": 3})
        self.assertNotIn("motif_squat", [f["code"] for f in square.rows()[1]["findings"]])
        squat = [
            f
            for f in forged(SOLID, {"kind": "tiles", "angle": 30.0, "thickness": 6.0, "count": 3}).rows()[1]["findings"]
            if f["code"] == "motif_squat"
        ]
        self.assertAlmostEqual(squat[0]["value"], 100 * (40 / 30 - 1))

    def test_end_slice(self) -> None:
        f = forged(SOLID, {"kind": "end_slice", "thickness": 8.0, "kerf": 2.0})
        self.close((f.bar.length, f.bar.width, f.bar.thickness), (20, 30, 8))
        # its underside was the sawn start: x = z' + 4; its start was the bar's top: z = 10 - x'
        self.close(pulled(f, 3, 7, -4), (0, 7, 7))
        self.assertEqual(f.stages[0].change.losses, {"kerf": 2.0 * 600, "offcut": 190.0 * 600})

    def test_relief_cut_and_forged_flat(self) -> None:
        # vee grooves 10 wide, 8 deep, every 20: 40 mm2 of each 400 go, H = 1 - 40/(20 x 20) = 0.9 on the mean
        f = forged(SOLID, VEE)
        self.assertAlmostEqual(f.bar.thickness, 12)
        self.assertAlmostEqual(f.bar.length, 200 * 0.9 * 20 / 12)
        self.assertAlmostEqual(f.stages[0].change.losses["relief"], 0.1 * 200 * 30 * 20)
        self.assertAlmostEqual(f.stages[0].change.estimates["pitch"], 20 * 0.9 * 20 / 12)
        # in the middle of the first groove (x = 10) 12 of 20 are left: the face there is 8 lower in the pile
        x = 20 / 12 * (5 + 5 * (1 + 0.6) / 2)  # Int H to the middle: 5 whole, then from 1 falling to 0.6
        got = pulled(f, x, 4, 6)
        np.testing.assert_allclose(got, (10, 4, 2), atol=1e-4)
        # where nothing was cut the face is the top of the pile still
        np.testing.assert_allclose(pulled(f, 1.0, 4, 6), (0.6, 4, 10), atol=1e-4)

    def test_relief_pressed_and_ground_flat(self) -> None:
        f = forged(solid(190, 30, 20), VEE | {"method": "pressed_ground", "depth": 4.0})
        # pressed: what is pushed aside makes it longer, by 20 mm2 of each 400: ten pitches of 19 become 20
        self.assertAlmostEqual(f.bar.length, 200, 6)
        self.assertAlmostEqual(f.bar.thickness, 16)
        # at the bottom of a groove the skin is still the top of the pile; beside it 4 mm have been ground off
        np.testing.assert_allclose(pulled(f, 10, 0, 8)[2], 10, atol=1e-9)
        np.testing.assert_allclose(pulled(f, 1, 0, 8), (1, 0, 6), atol=1e-6)

    def test_a_dimple_on_both_faces_at_one_place_leaves_the_middle(self) -> None:
        f = forged(SOLID, VEE | {"shape": "dimples", "depth": 5.0, "faces": "both", "offset": 0.0})
        # first centres at pitch/2 from the start and from the front edge; there 10 of 20 are left, evenly taken
        trace = Trace(f)
        cut = f.stages[0].step.cutting(f.first)
        x = float(cut.run(np.array(10.0))) * 20 / f.bar.thickness
        y = (float(cut.across(np.array([10.0]), np.array([-5.0]))[0]) / float(cut.mean(np.array([10.0]))[0]) / 30 - 0.5) * 30
        p = trace.begun(Points(np.array([x]), np.array([y]), np.array([f.bar.thickness / 2])))
        np.testing.assert_allclose((p.x[0], p.y[0], p.z[0]), (10, -5, 5), atol=2e-3)

    def test_split(self) -> None:
        # reach 15 / ln 2 at half width 15: the edge is dragged half as far as the middle
        f = forged(SOLID, {"kind": "split", "drag": 6.0, "reach": 15 / np.log(2)})
        self.assertAlmostEqual(f.bar.thickness, 17)
        # middle: q 6, less (6 + 3)/2; edge: q 3, less the same
        self.close(pulled(f, 9, 0, 2), (9, 0, 3.5))
        self.close(pulled(f, 9, 15, 2), (9, 15, 0.5))
        self.assertAlmostEqual(f.stages[0].change.losses["grind"], 3 * 30 * 200)

    def test_bend(self) -> None:
        # R 100 towards +y: y = y' - (y'^2 - 225)/200; both edges stay, the middle came from 1.125 further back
        f = forged(SOLID, {"kind": "bend", "radius": 100.0})
        self.close(pulled(f, 50, 0, 1), (50, 1.125, 1))
        self.close(pulled(f, 50, -15, 1), (50, -15, 1))
        back = forged(SOLID, {"kind": "bend", "radius": 100.0, "edge": "back"})
        self.close(pulled(back, 50, 0, 1), (50, -1.125, 1))

    def test_a_ladder_before_a_twist_is_pointed_out(self) -> None:
        twist = {"kind": "twist", "turns": 2.0}
        f = forged(SOLID, VEE, {"kind": "section", "form": "square"}, twist)
        self.assertEqual([(i, [x.code for x in found]) for i, found in order_findings(f).items()], [(2, ["twist_after_relief"])])
        self.assertEqual(order_findings(forged(SOLID, twist, {"kind": "section", "form": "square"}, VEE)), {})

    def test_layers_come_up_as_rungs_and_go_down_when_pressed(self) -> None:
        pile = stack(*[("1084", 1.0), ("15n20", 1.0)] * 10, width=30, length=200)
        for step, more in ((VEE, True), (VEE | {"method": "pressed_ground", "depth": 4.0}, True), ({"kind": "grind", "top": 2.0}, False)):
            f = forged(pile, step)
            trace = Trace(f)
            x = np.linspace(0.5, f.bar.length - 0.5, 2000)
            steel = trace.probe(x, np.zeros(2000), np.full(2000, f.bar.thickness / 2 - 0.3))
            crossings = int((steel[1:] != steel[:-1]).sum())
            self.assertEqual(crossings > 60, more, f"{step}: {crossings} lines across the face")
