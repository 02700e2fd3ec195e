"""Canisters: packing, pieces where they were put, falls by seed, and what does not fit."""

from dataclasses import replace
from typing import Any

import numpy as np
from django.test import SimpleTestCase
from hypothesis import given, settings
from hypothesis import strategies as st

from tests.core.samples import forged, recipe
from varistrat.core.bars.forged import forge
from varistrat.core.bars.recipe import read_recipe
from varistrat.core.bars.starts.canister import Canister
from varistrat.core.bars.starts.inserts import FEW, Prism, Round
from varistrat.core.bars.trace import Trace
from varistrat.core.errors import InputError

Json = dict[str, Any]


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
    @settings(max_examples=12, deadline=None)
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

    def test_a_concave_outline_is_hollow_where_it_is(self) -> None:
        arrow = Prism(((-6, -6), (6, -6), (0, 0), (6, 6), (-6, 6)))
        inside = [float(arrow.distance(np.array([0.0]), np.array([float(y)]), np.array([0.0]))[0]) < 0 for y in (-3, -0.5, 0.5, 3)]
        self.assertEqual(inside, [True, True, False, False])


class RefusedTests(SimpleTestCase):
    def test_what_does_not_fit_is_named(self) -> None:
        for start, path in (
            (can(rod(positions=[[16, 0]])), "inserts[0].positions[0]"),
            (can(rod(positions=[[0, 0], [0, 9]])), "inserts[0]"),
            (can(rod(positions=[[0, 0]]), rod(positions=[[8, 0]])), "inserts[1]"),
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
            (can(packing=0.0), "matrix.packing"),
            (can(packing=1.2), "matrix.packing"),
        ):
            with self.assertRaises(InputError, msg=path) as caught:
                forge(read_recipe(recipe(start)).bar)
            self.assertTrue(caught.exception.problems[0].path.startswith(f"bar.start.{path}"), caught.exception.problems[0].line())

    def test_a_sealed_can_is_a_stop(self) -> None:
        grades = {f["code"]: f["grade"] for f in forged(can(vented=False, packing=0.8)).rows()[0]["findings"]}
        self.assertEqual((grades["can_sealed"], grades["packing_high"]), ("stop", "care"))
        self.assertNotIn("can_sealed", {f["code"] for f in forged(can()).rows()[0]["findings"]})
