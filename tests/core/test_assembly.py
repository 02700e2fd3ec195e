"""Bars brought together: what lies where, sizes, losses, joints, nesting, and what is refused."""

from typing import Any

import numpy as np
from django.test import SimpleTestCase

from tests.core.samples import forged, recipe, solid, stack
from varistrat.core.bars.forged import attempt, forge
from varistrat.core.bars.fresh import fresh_start, opposite
from varistrat.core.bars.points import Points
from varistrat.core.bars.recipe import read_recipe
from varistrat.core.bars.trace import Trace
from varistrat.core.errors import InputError

Json = dict[str, Any]


def bar(start: Json, *steps: Json) -> Json:
    return {"start": start, "steps": list(steps)}


def joined(join: str, *bars: Json, **more: Any) -> Json:
    return {"kind": "assembly", "join": join, "bars": list(bars), **more}


PLATE = solid(100, 40, 12, "1084")
INLAY = bar(solid(100, 10, 4, "15n20"))
PLUG = bar(stack(("15n20", 10), ("nickel", 10), width=20, length=15), {"kind": "section", "form": "round", "width": 16.0})
JOINS: dict[str, Json] = {
    "stacked": joined("stacked", bar(solid(100, 30, 5, "1018")), bar(solid(90, 28, 6, "1095")), bar(solid(100, 30, 5, "1018"))),
    "side_by_side": joined("side_by_side", bar(solid(100, 10, 8, "1084")), bar(solid(100, 14, 9, "15n20"))),
    "scarf": joined("scarf", bar(solid(100, 20, 10, "1084")), bar(solid(100, 30, 10, "15n20")), angle=45.0),
    "slot": joined("slot", bar(PLATE), INLAY, depth=4.0, width=10.0),
    "plug": joined("plug", bar(PLATE), PLUG, x=30.0, y=5.0, diameter=14.0),
    "jacket": joined("jacket", bar(solid(100, 20, 10, "1095")), bar(solid(100, 30, 20, "1018")), wall=5.0),
}


def steel(f: Any, x: float, y: float, z: float) -> str:
    trace = Trace(f)
    found = trace.probe(np.array([x]), np.array([y]), np.array([z]))[0]
    return trace.steels[found] if found >= 0 else ""


class JoinTests(SimpleTestCase):
    def test_sizes_worked_by_hand(self) -> None:
        sizes = {
            "stacked": (90, 28, 16),
            "side_by_side": (100, 24, 8),
            "scarf": (100, 40, 10),
            "slot": (100, 40, 12),
            "plug": (100, 40, 12),
            "jacket": (100, 30, 20),
        }
        for name, want in sizes.items():
            b = forged(JOINS[name]).bar
            np.testing.assert_allclose((b.length, b.width, b.thickness), want, atol=1e-9, err_msg=name)

    def test_what_is_trimmed_is_a_loss_and_the_ledger_closes(self) -> None:
        for name, start in JOINS.items():
            row = forged(start).rows()[0]
            put_in = sum(rows[-1]["volume"] for rows in row["bars"])
            self.assertAlmostEqual(put_in, row["volume"] + row["losses"].get("fit", 0.0), delta=1e-9 * put_in, msg=name)
        # scarf: T^2 cot 45 = 100 mm2 of section goes, over 100 mm
        self.assertAlmostEqual(forged(JOINS["scarf"]).rows()[0]["losses"]["fit"], 10_000)

    def test_points_lie_in_the_bar_they_should(self) -> None:
        for name, place, want in (
            ("stacked", (50, 0, -3.1), "1018"),
            ("stacked", (50, 0, -2.9), "1095"),
            ("stacked", (50, 0, 3.1), "1018"),
            ("side_by_side", (5, -2.1, 0), "1084"),
            ("side_by_side", (5, -1.9, 0), "15n20"),
            # the joint runs from y = -10 below to y = 0 on top: the first bar is wider there
            ("scarf", (5, -0.1, 4.99), "1084"),
            ("scarf", (5, 0.1, 4.99), "15n20"),
            ("scarf", (5, -9.8, -4.99), "15n20"),
            ("scarf", (5, -10.1, -4.99), "1084"),
            ("slot", (5, 4.9, 5.9), "15n20"),
            ("slot", (5, 5.1, 5.9), "1084"),
            ("slot", (5, 0, 1.9), "1084"),
            ("slot", (5, 0, 2.1), "15n20"),
            ("jacket", (5, 9.9, 4.9), "1095"),
            ("jacket", (5, 10.1, 0), "1018"),
            ("jacket", (5, 0, -5.1), "1018"),
        ):
            self.assertEqual(steel(forged(JOINS[name]), *place), want, f"{name} {place}")

    def test_a_plug_stands_on_its_start_with_its_top_towards_the_start_of_the_plate(self) -> None:
        f = forged(JOINS["plug"])
        # old z is -x: the upper half of the pile (nickel) lies towards x = 0
        self.assertEqual(steel(f, 29.0, 5.0, 0.0), "nickel")
        self.assertEqual(steel(f, 31.0, 5.0, 0.0), "15n20")
        self.assertEqual(steel(f, 30.0, 12.5, 0.0), "1084")
        # its start (x = 0 of the plug) is at the underside
        trimmed = forged(joined("plug", bar(PLATE), bar(PLUG["start"], {"kind": "twist", "turns": 1.0}), x=50.0, y=0.0, diameter=14.0))
        trace = Trace(trimmed)
        p = Points(np.array([50.0]), np.array([3.0]), np.array([-5.9]))
        start = trimmed.start
        self.assertEqual(start.pick(p, trimmed.first, trimmed.child_bars).tolist(), [1])
        start.enter(1, p, trimmed.first, trimmed.child_bars)
        self.assertAlmostEqual(float(p.x[0]), 0.1)
        self.assertTrue(trace.has_seams)

    def test_a_joint_belongs_to_the_later_bar(self) -> None:
        for name, place, want in (
            ("stacked", (50, 0, -3.0), "1095"),
            ("stacked", (50, 0, 3.0), "1018"),
            ("side_by_side", (5, -2.0, 0), "15n20"),
            ("slot", (5, 5.0, 5.0), "15n20"),
            ("plug", (37.0, 5.0, 0), "15n20"),
            ("jacket", (5, 10.0, 0), "1018"),
        ):
            self.assertEqual(steel(forged(JOINS[name]), *place), want, name)

    def test_mass_is_the_sum_of_what_is_in_it(self) -> None:
        f = forged(JOINS["slot"])
        # 40 mm2 of 15N20 at 7860 and 440 of 1084 at 7850, 100 mm long
        self.assertAlmostEqual(f.rows()[0]["mass"], (40 * 7.86 + 440 * 7.85) * 0.1, 6)

    def test_float32_finds_the_same_bar(self) -> None:
        for name, start in JOINS.items():
            f = forged(start)
            b = f.bar
            rng = np.random.default_rng(1)
            xyz = [
                rng.uniform(0.02, 0.98, 4000) * b.length,
                rng.uniform(-0.49, 0.49, 4000) * b.width,
                rng.uniform(-0.49, 0.49, 4000) * b.thickness,
            ]
            trace = Trace(f)
            exact, rough = (trace.steel(Points(*(v.astype(t) for v in xyz))) for t in (np.float64, np.float32))
            self.assertGreater((exact == rough).mean(), 0.999, name)


class NestedTests(SimpleTestCase):
    twist: Json = bar(
        stack(("1084", 6), ("15n20", 4), ("1084", 6), width=16, length=120),
        {"kind": "twist", "turns": 4.0},
        {"kind": "section", "form": "square"},
    )

    def test_each_child_is_what_it_would_be_alone(self) -> None:
        f = forged(joined("side_by_side", self.twist, opposite(self.twist)), {"kind": "draw", "width": 30.0, "thickness": 8.0})
        rng = np.random.default_rng(3)
        u = rng.uniform(-0.49, 0.49, (3, 300))
        for i, child in enumerate((self.twist, opposite(self.twist))):
            alone = forge(read_recipe({"format": "varistrat.recipe/1", "bar": child}).bar)
            a, b = alone.bar, f.bar
            inner = Trace(alone).probe((u[0] + 0.5) * a.length, u[1] * a.width, u[2] * a.thickness)
            # the same place seen in the joined and drawn bar
            outer = Trace(f).probe((u[0] + 0.5) * b.length, (u[1] - 0.5 + i) * b.width / 2, u[2] * b.thickness)
            self.assertGreater((inner == outer).mean(), 0.995)

    def test_bars_inside_bars_inside_bars(self) -> None:
        pair = bar(joined("side_by_side", self.twist, opposite(self.twist)), {"kind": "weld", "thickness": 14.0})
        four = joined("stacked", pair, bar(solid(100, 32, 4, "nickel")), pair, fit="trim")
        f = forged(four, {"kind": "draw", "width": 30.0, "thickness": 12.0})
        self.assertEqual([len(c.children) for c in f.children], [2, 0, 2])
        trace = Trace(f)
        self.assertEqual(trace.own_piles, 5)
        self.assertEqual(trace.row.pile_of(trace.row.middle(np.arange(5))).tolist(), [0, 1, 2, 3, 4])
        self.assertEqual(steel(f, 20, 3, 0), "nickel")

    def test_an_interleaf_in_a_child_and_in_the_whole_both_show(self) -> None:
        inner = bar(solid(100, 20, 10, "1084"), {"kind": "restack", "pieces": 2, "interleaf": {"steel": "nickel", "thickness": 2.0}})
        f = forged(
            joined("stacked", inner, bar(solid(50, 20, 10, "1018"))),
            {"kind": "restack", "pieces": 2, "interleaf": {"steel": "15n20", "thickness": 1.0}},
        )
        # from below: 10 of 1084, 2 nickel, 10 of 1084, 10 of 1018, then 1 of 15N20
        heights = {5: "1084", 11: "nickel", 20: "1084", 27: "1018", 32.5: "15n20", 38: "1084"}
        for up, want in heights.items():
            self.assertEqual(steel(f, 3, 0, up - f.bar.thickness / 2), want, up)

    def test_the_joint_is_drawn_where_it_is(self) -> None:
        f = forged(joined("side_by_side", self.twist, self.twist), {"kind": "draw", "width": 60.0, "thickness": 6.0})
        trace = Trace(f)
        y = np.array([-5.0, -0.5, 0.5, 5.0])
        p = Points(np.full(4, 20.0), y.copy(), np.zeros(4))
        p.watch_seams(trace.seam_reach)
        trace.place(p)
        np.testing.assert_allclose(p.seam, y, atol=1e-6, err_msg="distance in mm of the finished bar")

    def test_opposite_turns_every_twist_in_it_however_deep(self) -> None:
        deep = bar(
            joined("stacked", self.twist, bar(solid())),
            {
                "kind": "twist",
                "hand": "left",
                "zones": [{"from": 0, "to": 9, "turns": 1, "hand": "right"}, {"from": 9, "to": 12, "turns": 1}],
            },
        )
        other = opposite(deep)
        self.assertEqual(other["start"]["bars"][0]["steps"][0]["hand"], "left")
        self.assertEqual(other["steps"][0]["hand"], "right")
        self.assertEqual([z.get("hand") for z in other["steps"][0]["zones"]], ["left", None])
        self.assertEqual(opposite(other)["steps"][0]["zones"][0]["hand"], "right")

    def test_a_start_of_another_kind_can_be_forged(self) -> None:
        size = forged(PLATE).bar
        for kind in ("assembly", "solid", "stack", "canister"):
            made = fresh_start(kind, bar(PLATE), size)
            forge(read_recipe({"format": "varistrat.recipe/1", "bar": made}).bar)
        with self.assertRaisesRegex(InputError, "unknown kind"):
            fresh_start("pudding", bar(PLATE), size)


class RefusedTests(SimpleTestCase):
    def refused(self, start: Json) -> str:
        with self.assertRaises(InputError) as caught:
            forge(read_recipe(recipe(start)).bar)
        return caught.exception.problems[0].line()

    def test_each_thing_that_does_not_fit_is_named(self) -> None:
        round_bar = bar(solid(100, 20, 20), {"kind": "section", "form": "round"})
        for start, path in (
            (joined("scarf", INLAY, INLAY), "start.angle"),
            (joined("scarf", INLAY, INLAY, angle=10.0), "start.angle"),
            (joined("stacked", INLAY, INLAY, wall=2.0), "start.wall"),
            (joined("slot", bar(PLATE), depth=3.0, width=5.0), "start.bars"),
            (joined("slot", bar(PLATE), INLAY, depth=12.0, width=5.0), "start.depth"),
            (joined("slot", bar(PLATE), INLAY, depth=3.0, width=11.0), "start.width"),
            (joined("plug", bar(PLATE), INLAY, x=30.0, y=0.0, diameter=4.0), "start.bars[1]"),
            (joined("plug", bar(PLATE), PLUG, x=3.0, y=0.0, diameter=14.0), "start.x"),
            (joined("plug", bar(PLATE), PLUG, x=30.0, y=0.0, diameter=19.0), "start.diameter"),
            (joined("jacket", INLAY, bar(PLATE), wall=6.0), "start.wall"),
            (joined("stacked", round_bar, INLAY), "start.bars[0]"),
            (joined("stacked", INLAY, bar(solid(100, 11, 4)), fit="exact"), "start.fit"),
            (joined("side_by_side", INLAY, bar(solid(99, 10, 4)), fit="exact"), "start.fit"),
            (joined("stacked", INLAY, bar(solid(), {"kind": "trim", "start": 500.0})), "start.bars[1].steps[0].start"),
            (joined("stacked"), "start.bars"),
            (joined("braided", INLAY), "start.join"),
        ):
            self.assertTrue(self.refused(start).startswith(f"bar.{path}:"), f"{path}: {self.refused(start)}")

    def test_every_bar_that_fails_is_told_and_the_others_are_carried_out(self) -> None:
        bad = bar(solid(), {"kind": "weld", "thickness": 10.0}, {"kind": "trim", "start": 500.0})
        tried = attempt(read_recipe(recipe(joined("stacked", bad, INLAY, bad))).bar)
        self.assertEqual([p.path for p in tried.problems], [f"bar.start.bars[{i}].steps[1].start" for i in (0, 2)])
        self.assertEqual(sorted(tried.bars), [(0,), (1,), (2,)])
        self.assertEqual(len(tried.bars[(0,)].stages), 1)

    def test_too_many_bars_and_steps_are_refused(self) -> None:
        many = joined("stacked", *[bar(joined("side_by_side", *[INLAY] * 21))] * 20)
        self.assertIn("bars in one recipe", self.refused(many))
        long = joined("stacked", *[bar(PLATE, *[{"kind": "trim"}] * 150)] * 14)
        self.assertIn("steps in one recipe", self.refused(long))

    def test_same_hand_neighbours_and_thin_jackets_are_pointed_out(self) -> None:
        twist = NestedTests.twist
        codes = [f["code"] for f in forged(joined("side_by_side", twist, twist)).rows()[0]["findings"]]
        self.assertIn("same_hand", codes)
        self.assertNotIn("same_hand", [f["code"] for f in forged(joined("side_by_side", twist, opposite(twist))).rows()[0]["findings"]])
        thin = joined("jacket", bar(solid(100, 20, 10)), bar(solid(100, 30, 20)), wall=0.5)
        self.assertIn("jacket_thin", [f["code"] for f in forged(thin).rows()[0]["findings"]])
