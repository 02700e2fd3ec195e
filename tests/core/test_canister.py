"""Canisters: packing, pieces where they were put, falls by seed, and what does not fit."""

from dataclasses import replace
from typing import Any

import numpy as np
from django.test import SimpleTestCase
from hypothesis import given
from hypothesis import strategies as st

from tests.core.samples import forged, recipe
from tests.profile import examples
from tests.work import at_most
from varistrat.core.bars.forged import forge
from varistrat.core.bars.points import Points
from varistrat.core.bars.recipe import read_recipe
from varistrat.core.bars.starts.canister import DEEP, Canister, Insert
from varistrat.core.bars.starts.inserts import FEW, Prism, Round
from varistrat.core.bars.trace import Trace
from varistrat.core.errors import InputError

Json = dict[str, Any]
CUT: Json = {"shape": "outline", "steel": "15n20", "size": 12.0, "outline": [[0, 0], [6, 0], [1.5, 1.5], [0, 6]]}
BALL: Json = {"shape": "ball", "steel": "15n20", "size": 10.0}


def can(*inserts: Json, packing: float = 0.5, **more: Any) -> Json:
    return {
        "kind": "canister",
        "length": 100.0,
        "width": 40.0,
        "thickness": 40.0,
        "matrix": {"steel": "1084", "packing": packing},
        "inserts": list(inserts),
        **more,
    }


def rod(size: float = 10.0, **more: Any) -> Json:
    return {"shape": "rod", "steel": "15n20", "size": size, **more}


def steel(start: Json, x: float, y: float, z: float) -> str:
    trace = Trace(forged(start))
    return trace.steels[trace.probe(np.array([x]), np.array([y]), np.array([z]))[0]]


class PackingTests(SimpleTestCase):
    def test_powder_alone_falls_by_its_packing(self) -> None:
        f = forged(can(packing=0.6))
        self.assertAlmostEqual(f.bar.thickness, 24.0)
        self.assertEqual(steel(can(packing=0.6), 5, 0, 0), "1084")

    def test_pieces_are_solid_already(self) -> None:
        # a tile of 20 x 20 fills a quarter: P = 1/4 + 3/4 x 1/2
        f = forged(can({"shape": "tile", "steel": "15n20", "size": 20.0, "positions": [[0, 0]]}))
        self.assertAlmostEqual(f.bar.thickness, 40 * 0.625)
        # mass: 400 mm2 of 15N20 and 1200 x 0.5 of 1084, 100 long
        self.assertAlmostEqual(f.rows()[0]["mass"], (400 * 7.86 + 600 * 7.85) * 0.1, 6)

    def test_pieces_squat_with_the_powder(self) -> None:
        start = can({"shape": "tile", "steel": "15n20", "size": 20.0, "positions": [[0, 0]]})
        # 10 above the middle in the can is 6.25 in the bar
        self.assertEqual(steel(start, 5, 9.9, 6.2), "15n20")
        self.assertEqual(steel(start, 5, 0, 6.3), "1084")
        self.assertEqual(steel(start, 5, 10.1, 0), "1084")

    def test_places_of_each_shape(self) -> None:
        ball = {"shape": "ball", "steel": "nickel", "size": 12.0, "positions": [[30, -10, 10]]}
        short = {
            "shape": "tile",
            "steel": "1095",
            "size": 8.0,
            "thickness": 4.0,
            "length": 20.0,
            "angle": 90.0,
            "positions": [[60, 10, -10]],
        }
        cutout = {"shape": "outline", "steel": "15n20", "size": 12.0, "outline": [[0, 0], [2, 0], [0, 2]], "positions": [[-10, -10]]}
        start = can(ball, short, cutout, packing=1.0)
        for place, want in (
            ((30, -10, 15.9), "nickel"),
            ((35.9, -10, 10), "nickel"),
            ((36.1, -10, 10), "1084"),
            ((69.9, 10, -10), "1095"),
            ((70.1, 10, -10), "1084"),
            ((60, 10, -6.1), "1095"),
            ((60, 12.1, -10), "1084"),
            ((5, -15.9, -15.9), "15n20"),
            ((5, -4.1, -4.1), "1084"),
            ((99, -15.9, -4.5), "15n20"),
        ):
            self.assertEqual(steel(start, *place), want, place)

    def test_two_steels_keep_to_their_own_pieces(self) -> None:
        start = can(rod(positions=[[-8, 0]]), {**rod(positions=[[8, 0]]), "steel": "nickel"}, packing=1.0)
        self.assertEqual([steel(start, 5, y, 0) for y in (-8, 0, 8)], ["15n20", "1084", "nickel"])


class FallTests(SimpleTestCase):
    @examples(12)
    @given(st.integers(0, 2**31 - 1), st.integers(1, 9), st.sampled_from(["rod", "ball", "tile"]))
    def test_a_fall_is_the_same_every_time_and_nothing_overlaps(self, seed: int, count: int, shape: str) -> None:
        start = Canister.model_validate(can({"shape": shape, "steel": "15n20", "size": 7.0, "count": count, "seed": seed}))
        (pieces,), share = start.filled
        again = Canister.model_validate(start.model_dump())
        self.assertEqual(again.filled[1], share)
        centres = [c for p in pieces if isinstance(p, Round) for c in p.centres]
        if shape != "tile":
            self.assertEqual(len(centres), count)
            gaps = [
                np.hypot(a[1] - b[1], a[2] - b[2]) if shape == "rod" else np.linalg.norm(np.subtract(a, b))
                for i, a in enumerate(centres)
                for b in centres[:i]
            ]
            self.assertTrue(all(g >= 7.0 for g in gaps))

    def test_another_seed_falls_another_way(self) -> None:
        one, two = (Canister.model_validate(can(rod(count=4, seed=s))).filled[0][0][0] for s in (1, 2))
        self.assertNotEqual(one, two)


class DistanceTests(SimpleTestCase):
    def test_rods_fall_alike_into_a_can_of_any_length_balls_do_not(self) -> None:
        def fallen(length: float, *inserts: Json) -> list[Any]:
            start = read_recipe(recipe(can(*inserts) | {"length": length})).bar.start
            assert isinstance(start, Canister)
            return [p.centres for kind in start.filled[0] for p in kind if isinstance(p, Round)]

        thick, thin = rod(6.0, count=5, seed=1), rod(4.0, count=3, seed=2)
        self.assertEqual(fallen(100.0, thick, thin), fallen(140.0, thick, thin))
        ball = {"shape": "ball", "steel": "15n20", "size": 6.0, "count": 5, "seed": 1}
        self.assertNotEqual(fallen(100.0, ball), fallen(140.0, ball))

    def test_rods_fall_clear_of_every_piece_wherever_along_the_can_that_lies(self) -> None:
        balls = {"shape": "ball", "steel": "15n20", "size": 6.0, "count": 6, "seed": 1}
        tiles = {"shape": "tile", "steel": "15n20", "size": 6.0, "length": 8.0, "count": 3, "seed": 4}
        for seed in range(12):
            for before in (balls, tiles):
                start = Canister.model_validate(can(before, rod(4.0, count=3, seed=seed)))
                rods = start.filled[0][1]
                self.assertEqual(sum(len(p.centres) for p in rods if isinstance(p, Round)), 3)

    def test_long_tiles_fall_clear_of_balls_beside_their_ends(self) -> None:
        balls = {"shape": "ball", "steel": "15n20", "size": 8.0, "count": 12, "seed": 1}
        tiles = {"shape": "tile", "steel": "1095", "size": 5.0, "thickness": 3.0, "length": 40.0, "count": 4}
        for seed in range(8):
            self.assertEqual(len(Canister.model_validate(can(balls, tiles | {"seed": seed})).filled[0][1]), 4)

    def test_tiles_fall_between_where_a_round_as_large_would_not(self) -> None:
        # flat ones lie on one another: six of them 2 mm thick in 13 mm, a round round one of them has 20.1
        flat = {"shape": "tile", "steel": "15n20", "size": 20.0, "thickness": 2.0, "count": 3, "seed": 2}
        self.assertEqual(len(Canister.model_validate(can(flat) | {"width": 21.0, "thickness": 33.0}).filled[0][0]), 3)

    def test_hundreds_of_pieces_hold_nobody_up(self) -> None:
        grid = [[-19 + 0.6 * (k % 60), -19 + 0.55 * (k // 60)] for k in range(600)]
        for more in ({"positions": grid}, {"count": 600, "seed": 1}):
            with at_most(300):
                start = Canister.model_validate(can({"shape": "tile", "steel": "15n20", "size": 0.2, **more}))
            self.assertEqual(len(start.filled[0][0]), 600)

    def test_the_nearest_of_few_and_of_many_is_as_far(self) -> None:
        rng = np.random.default_rng(3)
        at = rng.uniform(-20, 20, (3, 500))
        for ball in (False, True):
            pieces = Round(2.0, tuple(map(tuple, rng.uniform(-20, 20, (FEW, 3)).tolist())), ball)  # type: ignore[arg-type]
            by_hand = [min(np.linalg.norm(p - c) if ball else np.hypot(*(p - c)[1:]) for c in np.array(pieces.centres)) - 1.0 for p in at.T]
            np.testing.assert_allclose(pieces.distance(*at), by_hand, atol=1e-9)
            more = replace(pieces, centres=(*pieces.centres, (500.0, 500.0, 500.0)))
            np.testing.assert_allclose(more.distance(*at), by_hand, atol=1e-9)

    def test_a_prism_measures_true_distance(self) -> None:
        square = Prism(((-5, -5), (5, -5), (5, 5), (-5, 5)))
        for y, z, want in ((0, 0, -5), (8, 0, 3), (8, 9, 5), (4, 0, -1), (5, 5, 0), (0, -7, 2)):
            found = square.distance(np.array([0.0]), np.array([float(y)]), np.array([float(z)]))[0]
            self.assertAlmostEqual(float(found), want)
        self.assertEqual(square.area, 100)
        short = Prism(square.outline, (10.0, 20.0))
        self.assertAlmostEqual(float(short.distance(np.array([24.0]), np.array([0.0]), np.array([8.0]))[0]), 5.0)
        self.assertAlmostEqual(float(short.distance(np.array([11.0]), np.array([0.0]), np.array([0.0]))[0]), -1.0)

    def test_a_corner_told_twice_changes_nothing(self) -> None:
        corners = [[0, 0], [6, 0], [1.5, 1.5], [0, 6]]
        doubled = [corners[0], *(c for c in corners for _ in range(2)), corners[0]]
        for outline in (corners, doubled):
            start = can({"shape": "outline", "steel": "15n20", "size": 12.0, "outline": outline, "positions": [[0, 0]]}, packing=1.0)
            self.assertEqual([steel(start, 5, y, z) for y, z in ((-5, 0), (2, 2), (-5, 7))], ["15n20", "1084", "1084"])

    def test_many_pieces_of_many_corners_cost_more_than_few(self) -> None:
        ring = [[float(np.cos(a)), float(np.sin(a))] for a in np.linspace(0, 2 * np.pi, 100, endpoint=False)]
        one = {"shape": "outline", "steel": "15n20", "outline": ring}

        def work(*inserts: Json) -> int:
            return Canister.model_validate(can(*inserts)).work()

        # all of 100 corners in a can no wider than 5 mm about it: 1 + 2 + 2 x 100
        self.assertEqual(work(one | {"size": 30.0, "positions": [[0, 0]]}), 203)
        # 12 of 40 mm either way: 9 in 100 points
        self.assertEqual(work(one | {"size": 2.0, "positions": [[0, 0]]}), 21)
        self.assertEqual(work(), 1)
        self.assertEqual(work(rod(2.0, count=50, seed=1)), 1 + FEW)

    def test_what_is_far_is_left_out_and_nothing_changes(self) -> None:
        tiles = {"shape": "tile", "steel": "15n20", "size": 4.0, "angle": 25.0, "length": 9.0}
        start = Canister.model_validate(can(tiles | {"positions": [[20, -8, -8], [50, 8, 8], [80, 0, 0]]}, packing=1.0))
        rng = np.random.default_rng(5)
        at = rng.uniform((0, -20, -20), (100, 20, 20), (4000, 3))
        whole = np.array(start.heights(Points(*at.T), start.size().after)[0])
        one_by_one = [float(start.heights(Points(*row[:, None]), start.size().after)[0][0]) for row in at[:400]]
        np.testing.assert_array_equal(whole[:400], one_by_one)
        self.assertTrue(0.001 < (whole < DEEP).mean() < 0.006)

    def test_a_concave_outline_is_hollow_where_it_is(self) -> None:
        arrow = Prism(((-6, -6), (6, -6), (0, 0), (6, 6), (-6, 6)))
        inside = [float(arrow.distance(np.array([0.0]), np.array([float(y)]), np.array([0.0]))[0]) < 0 for y in (-3, -0.5, 0.5, 3)]
        self.assertEqual(inside, [True, True, False, False])


class CrossingTests(SimpleTestCase):
    """Pieces that run into one another, wherever they do."""

    def long(self, y: float, z: float, angle: float, length: float = 40.0) -> Json:
        tile = {"shape": "tile", "steel": "15n20", "size": 20.0, "thickness": 2.0, "length": length, "angle": angle}
        return tile | {"positions": [[50.0, y, z]]}

    def crosses(self, *inserts: Json) -> bool:
        try:
            forge(read_recipe(recipe(can(*inserts))).bar)
        except InputError as e:
            self.assertIn("runs into", e.problems[0].line())
            return True
        return False

    def test_in_their_middles_where_no_corner_of_one_lies_in_the_other(self) -> None:
        self.assertTrue(self.crosses(self.long(0, 0, 0), self.long(2, 8, 90, 30)))
        # 11 above the middle it begins a millimetre over the other
        self.assertFalse(self.crosses(self.long(0, 0, 0), self.long(2, 9.5, 90, 30) | {"size": 17.0}))

    def test_balls_and_rods_by_a_hair(self) -> None:
        for gap, met in ((-0.001, True), (0.001, False)):
            far = 10.0 + gap
            at = [50 + far * 0.6, far * 0.48, far * 0.64]
            self.assertEqual(self.crosses(BALL | {"positions": [[50, 0, 0]]}, BALL | {"positions": [at]}), met)
            self.assertEqual(self.crosses(rod(positions=[[0, 0]]), BALL | {"positions": [[50, far * 0.6, far * 0.8]]}), met)
            tile = {"shape": "tile", "steel": "15n20", "size": 6.0, "positions": [[3 + 5 + gap, 0]]}
            self.assertEqual(self.crosses(rod(positions=[[0, 0]]), tile), met)

    def test_touching_is_not_crossing(self) -> None:
        side = [[x, 6.0 * k] for x in (-6, 0, 6) for k in (-1, 0, 1)]
        for angle in (0.0, 90.0):
            self.assertFalse(self.crosses({"shape": "tile", "steel": "15n20", "size": 6.0, "angle": angle, "positions": side}))
        short = {"shape": "tile", "steel": "15n20", "size": 6.0, "length": 10.0}
        self.assertFalse(self.crosses(short | {"positions": [[20, 0, 0], [30, 0, 0]]}))
        self.assertTrue(self.crosses(short | {"positions": [[20, 0, 0], [29.9, 0, 0]]}))

    @examples(40)
    @given(st.integers(0, 2**31 - 1))
    def test_as_a_search_for_a_point_in_both_finds(self, seed: int) -> None:
        rng = np.random.default_rng(seed)
        shapes: list[Json] = [
            {"shape": "tile", "size": 9.0, "thickness": 2.5, "length": 12.0},
            {"shape": "tile", "size": 7.0, "thickness": 4.0},
            {"shape": "outline", "size": 9.0, "outline": [[0, 0], [6, 0], [1.5, 1.5], [0, 6]]},
            {"shape": "ball", "size": 6.0},
            {"shape": "rod", "size": 5.0},
        ]
        two = []
        for k in rng.integers(0, len(shapes), 2):
            at = [50 + rng.uniform(-9, 9), *rng.uniform(-6, 6, 2)]
            angle = {"angle": float(rng.uniform(0, 360))} if shapes[k]["shape"] in ("tile", "outline") else {}
            solid = shapes[k]["shape"] == "ball" or "length" in shapes[k]
            two.append({**shapes[k], **angle, "steel": "15n20", "positions": [at if solid else at[1:]]})
        pieces = [Insert.model_validate(i).pieces(i["positions"], 100.0)[0] for i in two]
        grid = np.array(np.meshgrid(np.linspace(35, 65, 31), np.linspace(-13, 13, 105), np.linspace(-13, 13, 105))).reshape(3, -1)
        deep = np.maximum(*(p.distance(*grid) for p in pieces)).min()
        # half the diagonal of the grid's cells across: deeper than that is found, shallower may be missed
        if self.crosses(*two):
            self.assertLess(deep, 0.5 + 0.25)
        else:
            self.assertGreater(deep, -1e-6)


class RefusedTests(SimpleTestCase):
    def test_what_does_not_fit_is_named(self) -> None:
        for start, path in (
            (can(rod(positions=[[16, 0]])), "inserts[0].positions[0]"),
            (can(rod(positions=[[0, 0], [0, 9]])), "inserts[0]"),
            (can(rod(positions=[[0, 0]]), rod(positions=[[8, 0]])), "inserts[1]"),
            (
                can(BALL | {"positions": [[50, 8.7, 12.25]]}, width=27.38),
                "inserts[0].positions[0]",
            ),
            (can(*[rod(0.2, count=501, seed=s) for s in range(4)]), "inserts: they are 2004"),
            (can(*[{**CUT, "outline": CUT["outline"] * 100, "count": 51, "seed": 1}]), "inserts: their outlines have 20400"),
            (can(rod(12.0, count=40, seed=1)), "inserts[0].count"),
            (can(rod(50.0, count=1, seed=1)), "inserts[0].size"),
            (can(rod(count=3)), "inserts[0].seed"),
            (can(rod()), "inserts[0].positions"),
            (can(rod(count=3, seed=1, positions=[[0, 0]])), "inserts[0].positions"),
            (can(rod(positions=[[1, 2, 3]])), "inserts[0].positions[0]"),
            (can({"shape": "ball", "steel": "15n20", "size": 5.0, "positions": [[1, 2]]}), "inserts[0].positions[0]"),
            (can({"shape": "outline", "steel": "15n20", "size": 5.0, "positions": [[0, 0]]}), "inserts[0].outline"),
            (
                can(
                    {"shape": "outline", "steel": "15n20", "size": 5.0, "outline": [[0, 0], [4, 4], [4, 0], [0, 4]], "positions": [[0, 0]]}
                ),
                "inserts[0].outline",
            ),
            (
                can({"shape": "outline", "steel": "15n20", "size": 5.0, "outline": [[0, 0], [4, 4], [8, 8]], "positions": [[0, 0]]}),
                "inserts[0]",
            ),
            (
                can({"shape": "outline", "steel": "15n20", "size": 5.0, "outline": [[0, 0], [4, 4], [4, 4]], "positions": [[0, 0]]}),
                "inserts[0].outline",
            ),
            (can(packing=0.0), "matrix.packing"),
            (can(packing=1.2), "matrix.packing"),
        ):
            with self.assertRaises(InputError, msg=path) as caught:
                forge(read_recipe(recipe(start)).bar)
            self.assertTrue(caught.exception.problems[0].line().startswith(f"bar.start.{path}"), caught.exception.problems[0].line())

    def test_a_sealed_can_is_a_stop(self) -> None:
        grades = {f["code"]: f["grade"] for f in forged(can(vented=False, packing=0.8)).rows()[0]["findings"]}
        self.assertEqual((grades["can_sealed"], grades["packing_high"]), ("stop", "care"))
        self.assertNotIn("can_sealed", {f["code"] for f in forged(can()).rows()[0]["findings"]})
