"""The traditional families: each shows in end grain and on the face what it is known for."""

from typing import Any

import numpy as np
from django.test import SimpleTestCase

from varistrat.core import families
from varistrat.core.bars.forged import Forged, forge
from varistrat.core.bars.points import Points
from varistrat.core.bars.recipe import FORMAT, read_recipe
from varistrat.core.bars.trace import Trace

BRIGHT = {"15n20"}


def forged(bar: dict[str, Any]) -> Forged:
    return forge(read_recipe({"format": FORMAT, "bar": bar}).bar)


def bright(f: Forged, x: np.ndarray, y: np.ndarray, z: np.ndarray) -> np.ndarray:
    """Whether each place is of the bright steel; arrays broadcast."""
    trace = Trace(f)
    x, y, z = np.broadcast_arrays(x, y, z)
    steel = trace.probe(x.ravel(), y.ravel(), z.ravel())
    keys = [i for i, k in enumerate(trace.steels) if k in BRIGHT]
    return np.isin(steel, keys).reshape(x.shape)


def face(f: Forged, z: float, nx: int = 240, ny: int = 60, ends: float = 0.08) -> np.ndarray:
    """The bar's face at a height, (ny, nx), away from its ends and edges."""
    b = f.bar
    x = np.linspace(ends * b.length, (1 - ends) * b.length, nx)
    y = np.linspace(-0.46, 0.46, ny) * b.width
    return bright(f, x[None, :], y[:, None], np.array(z * b.thickness))


def grain(f: Forged, at: float = 0.5, n: int = 80) -> np.ndarray:
    """End grain at a share of the length, (n, n): rows up the bar, columns across."""
    b = f.bar
    y, z = np.linspace(-0.48, 0.48, n) * b.width, np.linspace(-0.48, 0.48, n) * b.thickness
    return bright(f, np.array(at * b.length), y[None, :], z[:, None])


def alike(a: np.ndarray, b: np.ndarray) -> float:
    return float((a == b).mean())


def lines(row: np.ndarray) -> int:
    return int((row[1:] != row[:-1]).sum())


class FamilyTests(SimpleTestCase):
    def test_a_ladder_repeats_with_its_pitch_and_runs_straight_across(self) -> None:
        f = forged(families.ladder())
        pitch = next(s for s in f.stages if s.step.surface_figure).change.estimates["pitch"]
        b = f.bar
        x = np.linspace(0.2 * b.length, 0.5 * b.length, 4000)
        # the hand's own waves blur it, so it need not repeat to the last line
        here, next_rung, half = (bright(f, x + d, np.array(0.0), np.array(0.4 * b.thickness)) for d in (0.0, pitch, pitch / 2))
        self.assertGreater(alike(here, next_rung), alike(here, half) + 0.1)
        self.assertGreater(lines(here), 60, "many layers come up to the face")

    def test_dimples_are_rings_in_staggered_rows(self) -> None:
        f = forged(families.dimples())
        step = next(s for s in f.stages if s.step.surface_figure)
        pitch = step.change.estimates["pitch"]
        picture = face(f, 0.45, 600, 120)
        along = [lines(r) for r in picture]
        across = [lines(c) for c in picture.T]
        # rings are crossed both ways; a ladder would be crossed only along
        self.assertGreater(np.median(along), 20)
        self.assertGreater(np.median(across), 8)
        self.assertGreater(pitch, step.step.pitch)  # type: ignore[attr-defined]

    def test_opposed_twists_mirror_about_their_joint(self) -> None:
        f = forged(families.opposed())
        b = f.bar
        x = np.linspace(0.3, 0.6, 500) * b.length
        y = np.linspace(0.3, b.width / 3 - 0.3, 40)
        # the middle bar and its neighbour, seen out from the joint between them: alike but for what the hammer did
        joint = b.width / 6
        for z in (0.2, 0.4):
            one, other = (bright(f, x[None, :], (joint + s * y)[:, None], np.array(z * b.thickness)) for s in (1, -1))
            same = families.opposed(ways=("right", "right", "right"))
            plain = forged(same)
            a, c = (bright(plain, x[None, :], (joint + s * y)[:, None], np.array(z * b.thickness)) for s in (1, -1))
            self.assertGreater(alike(one, other), 0.8)
            self.assertGreater(alike(one, other), alike(a, c) + 0.1, "bars of one hand do not mirror")

    def test_right_and_left_hand_fall_opposite_ways(self) -> None:
        slopes = {}
        for way in ("right", "left"):
            f = forged(families.twisted(way, 6.0))
            b = f.bar
            # how far along the bands move on for a step across, near the skin
            x = np.linspace(0.3, 0.6, 3000) * b.length
            here = bright(f, x, np.array(0.0), np.array(0.47 * b.thickness)).astype(float)
            there = bright(f, x, np.array(0.12 * b.width), np.array(0.47 * b.thickness)).astype(float)
            shifts = range(-120, 121)
            match = [np.corrcoef(here[150:-150], there[150 + s : len(there) - 150 + s])[0, 1] for s in shifts]
            slopes[way] = shifts[int(np.argmax(match))]
        # right-hand bands fall to the right: further across (+y) they lie further back
        self.assertLess(slopes["right"], 0)
        self.assertGreater(slopes["left"], 0)

    def test_a_four_way_is_alike_under_half_turns_and_mirrors_in_its_middle(self) -> None:
        f = forged(families.four_way())
        picture = grain(f)
        self.assertGreater(alike(picture, picture[::-1, ::-1]), 0.93, "half a turn")
        self.assertGreater(alike(picture, picture[::-1]), 0.85, "top and bottom")
        self.assertGreater(alike(picture, picture[:, ::-1]), 0.85, "front and back")
        # the diagonals run through it as the layers of the pieces do
        self.assertGreater(lines(picture[40]), 8)

    def test_tiles_bring_the_star_to_the_face_again_and_again(self) -> None:
        f = forged(families.tiled())
        stage = next(i for i, s in enumerate(f.stages) if s.step.kind == "tiles")  # type: ignore[attr-defined]
        tile = f.stages[stage].before.thickness / np.sin(np.deg2rad(35.0)) * f.bar.length / f.stages[stage].after.length
        b = f.bar
        x = np.linspace(0.3, 0.55, 700) * b.length
        y = np.linspace(-0.44, 0.44, 50) * b.width
        here = bright(f, x[None, :], y[:, None], np.array(0.3 * b.thickness))
        again = bright(f, x[None, :] + 2 * tile, y[:, None], np.array(0.3 * b.thickness))
        half = bright(f, x[None, :] + 1.5 * tile, y[:, None], np.array(0.3 * b.thickness))
        self.assertGreater(alike(here, again), 0.93, "two tiles on the same way up")
        self.assertGreater(alike(here, again), alike(here, half) + 0.2)
        self.assertGreater(alike(here, here[::-1]), 0.85, "the star is alike to front and back")

    def test_an_end_slice_stretches_the_star_over_the_bar(self) -> None:
        f = forged(families.end_slice())
        made = forged(families.four_way(26.0, 70.0))
        picture = face(f, 0.0, 80, 80, ends=0.02)
        star = grain(made, 0.5, 80)
        # its rows run along the old height: old z is -x
        self.assertGreater(max(alike(picture, star.T[:, ::-1]), alike(picture, star.T)), 0.75)

    def test_a_feather_has_a_quill_and_barbs_leaning_one_way(self) -> None:
        f = forged(families.feather())
        b = f.bar
        x = np.linspace(0.2, 0.7, 1500) * b.length
        rows = [bright(f, x, np.array(y * b.width), np.array(0.0)) for y in (-0.3, 0.3, 0.02)]
        self.assertGreater(alike(rows[0], rows[1]), 0.85, "both sides of the quill alike")
        edge, inner = (bright(f, x, np.array(y * b.width), np.array(0.0)).astype(float) for y in (0.4, 0.3))
        match = [np.corrcoef(edge[300:-300], inner[300 + s : 1500 - 300 + s])[0, 1] for s in range(-250, 251)]
        self.assertGreater(abs(int(np.argmax(match)) - 250), 10, "the barbs lean")

    def test_w_s_stand_beside_one_another_and_crushing_flattens_them(self) -> None:
        f = forged(families.bias())
        grid = next(i for i, s in enumerate(f.stages) if s.step.kind == "grid")  # type: ignore[attr-defined]
        row = f.upto(grid + 1)
        w, t = row.bar.width / 4, row.bar.thickness
        own, up = np.linspace(-0.47, 0.47, 60) * w, np.linspace(-0.47, 0.47, 60) * t
        quarter = [bright(row, np.array(9.0), own[None, :] + (i - 1.5) * w, up[:, None]) for i in range(4)]
        self.assertGreater(alike(quarter[0], quarter[2]), 0.9, "every other piece lies the same way")
        self.assertGreater(alike(quarter[0], quarter[1][:, ::-1]), 0.8, "its neighbour is its mirror picture")
        self.assertLess(alike(quarter[0], quarter[1]), 0.75)
        flat = forged(families.bias(5.5))
        self.assertLess(flat.stages[grid + 2].after.thickness, f.stages[grid + 2].after.thickness)

    def test_a_plug_is_a_round_of_other_grain_in_the_plate(self) -> None:
        f = forged(families.plug())
        trace = Trace(f)
        b = f.bar
        # the plug's place and size once the plate has been drawn
        along, across = b.length / f.first.length, b.width / f.first.width
        inside = face(f, 0.2)
        self.assertGreater(lines(bright(f, np.array(45.0 * along), np.linspace(-9, 9, 400) * across, np.array(0.0))), 6)
        self.assertTrue(inside.any() and not inside.all())
        p = trace.row.pile_of(
            trace.place(Points(np.array([45.0 * along, 45.0 * along, 80.0 * along]), np.array([0.0, 10.9 * across, 0.0]), np.zeros(3)))
        )
        self.assertEqual(p.tolist(), [1, 1, 0])

    def test_rods_in_a_canister_are_round_in_the_can_and_slanting_bands_when_twisted(self) -> None:
        f = forged(families.canister())
        trace = Trace(f.upto(0))
        b = f.first
        n = 160
        y, z = np.meshgrid(np.linspace(-0.5, 0.5, n) * b.width, np.linspace(-0.5, 0.5, n) * b.thickness)
        steel = trace.probe(np.full(y.size, 10.0), y.ravel(), z.ravel())
        share = (steel == trace.steels.index("15n20")).mean()
        # 22 rods of 7 mm in a can of 40 x 46, pressed solid
        self.assertAlmostEqual(float(share), 22 * np.pi * 3.5**2 / (40 * b.thickness) * (b.thickness / 46), delta=0.02)
        self.assertGreater(np.median([lines(r) for r in face(f, 0.3, 600, 20)]), 10)

    def test_a_clad_blade_is_core_in_its_middle_and_pattern_outside(self) -> None:
        f = forged(families.clad_core())
        trace = Trace(f)
        x = np.linspace(20, 0.8 * f.bar.length, 200)
        middle = trace.probe(x, np.full(200, 3.0), np.zeros(200))
        self.assertEqual({trace.steels[i] for i in middle}, {"1095"})
        outside = {trace.steels[i] for i in trace.probe(x, np.full(200, 3.0), np.full(200, 0.49 * f.bar.thickness))}
        self.assertEqual(outside, {"1084", "15n20"})
