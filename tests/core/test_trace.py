"""Whole recipes: chains keep volume and stay inside; probing; blocks and cancelling."""

from collections.abc import Iterator

import numpy as np
from django.test import SimpleTestCase
from hypothesis import given
from hypothesis import strategies as st

from tests.core.samples import LONG, forged, grid, recipe, solid, stack
from tests.profile import examples
from varistrat.core.bars.forged import attempt, forge
from varistrat.core.bars.points import Points
from varistrat.core.bars.recipe import read_recipe
from varistrat.core.bars.trace import BLOCK, Trace, pool, run_blocks
from varistrat.core.cutting.layers import MOST, layers_across
from varistrat.core.design.document import read_document
from varistrat.core.design.summary import summary_of
from varistrat.core.design.worked import Worked
from varistrat.core.errors import Cancelled, InputError

STEP = st.sampled_from(
    [
        {"kind": "weld", "thickness": 16.0},
        {"kind": "draw", "width": 18.0, "thickness": 14.0},
        {"kind": "section", "form": "square"},
        {"kind": "section", "form": "octagon"},
        {"kind": "turn", "degrees": 90.0},
        {"kind": "twist", "turns": 2.0},
        {"kind": "restack", "pieces": 2, "lay": ["as_cut", "turned_over"]},
        {"kind": "fold", "grind": 0.2},
        {"kind": "grid", "cells": [[{}, {"end_for_end": True}], [{"quarter_turns": 2}, {}]], "grind": 0.1},
        {"kind": "tiles", "angle": 50.0, "thickness": 6.0, "count": 3, "alternate": True},
        {"kind": "end_slice", "thickness": 9.0},
        {"kind": "relief", "shape": "dimples", "method": "cut_forged", "profile": "round", "pitch": 11.0, "groove": 8.0, "depth": 2.0},
        {
            "kind": "relief",
            "shape": "chevrons",
            "method": "pressed_ground",
            "profile": "vee",
            "pitch": 9.0,
            "groove": 7.0,
            "depth": 2.0,
            "slant": 30.0,
        },
        {"kind": "split", "drag": 4.0, "reach": 5.0},
        {"kind": "bend", "radius": 150.0, "edge": "back"},
        {"kind": "grind", "around": 0.5},
        {"kind": "trim", "start": 1.0, "scale": 0.1},
    ]
)


class TraceTests(SimpleTestCase):
    @given(st.lists(STEP, max_size=7))
    @examples(60)
    def test_chains_at_random(self, steps: list[dict]) -> None:
        data = read_recipe({"format": "varistrat.recipe/1", "bar": {"start": stack(("1084", 8), ("15n20", 12)), "steps": steps}})
        tried = attempt(data.bar)
        f, problems = tried.bars[()], tried.problems
        self.assertEqual(len(f.stages) + (1 if problems else 0), len(steps) if not problems else len(f.stages) + 1)
        moved = Trace(f).begun(Points(*grid(f, 5)))
        self.assertTrue(((moved.x >= -1e-6) & (moved.x <= f.first.length + 1e-6)).all())
        self.assertTrue(f.first.section.holds(moved.y, moved.z, 1e-6).all())

    def test_shares_of_steel_are_kept(self) -> None:
        # nothing is lost on this way, so the finished bar holds the steels in the pile's shares
        f = forged(
            stack(("1084", 12), ("15n20", 4), ("1084", 4), width=24, length=150),
            {"kind": "weld", "thickness": 15.0},
            {"kind": "twist", "turns": 5.0},
            {"kind": "section", "form": "square"},
            {"kind": "fold"},
            {"kind": "draw", "width": 22.0, "thickness": 8.0, "uneven": {"amount": 0.2, "wavelength": 30.0, "seed": 2}},
        )
        bar = f.bar
        rng = np.random.default_rng(8)
        n = 60_000
        trace = Trace(f)
        x, y, z = (
            rng.uniform(0, bar.length, n),
            rng.uniform(-bar.width / 2, bar.width / 2, n),
            rng.uniform(-bar.thickness / 2, bar.thickness / 2, n),
        )
        bright = trace.probe(x, y, z) == trace.steels.index("15n20")
        self.assertAlmostEqual(float(bright.mean()), 0.2, delta=0.008)

    def test_probe_inside_on_faces_and_outside(self) -> None:
        f = forged(solid(100, 30, 20))
        trace = Trace(f)
        x = np.array([0.0, 100.0, 100.0 + 5e-7, 100.1, 50, 50, 50, np.inf, np.nan])
        y = np.array([0.0, 15.0, 0, 0, 15.1, 0, 0, 0, 0])
        z = np.array([10.0, -10.0, 0, 0, 0, 10.1, 10 + 5e-7, 0, 0])
        self.assertEqual(trace.probe(x, y, z).tolist(), [0, 0, 0, -1, -1, -1, 0, -1, -1])

    def test_a_joint_belongs_to_the_upper_piece(self) -> None:
        f = forged(stack(("1084", 5), ("15n20", 5), width=20, length=100), {"kind": "draw", "width": 20.0, "thickness": 5.0})
        trace = Trace(f)
        z = np.array([-2e-9, -4e-10, 0.0])
        keys = [trace.steels[i] for i in trace.probe(np.full(3, 50.0), np.zeros(3), z)]
        self.assertEqual(keys, ["1084", "15n20", "15n20"])

    def test_probe_does_not_change_its_caller(self) -> None:
        f = forge(read_recipe(LONG).bar)
        points = grid(f)
        kept = points.copy()
        Trace(f).probe(*points)
        np.testing.assert_array_equal(points, kept)

    def test_partial_ledger_up_to_the_step_that_fails(self) -> None:
        data = read_recipe(
            {"format": "varistrat.recipe/1", "bar": {"start": solid(), "steps": [{"kind": "fold"}, {"kind": "trim", "start": 900.0}]}}
        )
        tried = attempt(data.bar)
        f, problems = tried.bars[()], tried.problems
        self.assertEqual(len(f.rows()), 2)
        self.assertEqual(problems[0].path, "bar.steps[1].start")
        with self.assertRaises(InputError):
            forge(data.bar)

    def test_layer_counts(self) -> None:
        pile = stack(("1084", 4), ("15n20", 3), ("1084", 4), width=40, length=100)
        self.assertEqual(layers_across(Trace(forged(pile))), 3)
        # folded, like meets like: 3 + 3 - 1
        self.assertEqual(layers_across(Trace(forged(pile, {"kind": "fold"}))), 5)
        five = {"kind": "restack", "pieces": 5}
        self.assertEqual(layers_across(Trace(forged(pile, five, {"kind": "weld", "thickness": 11.0}, five))), 51)
        self.assertEqual(layers_across(Trace(forged(pile, {"kind": "turn", "degrees": 90.0}))), 1)

    def test_more_layers_than_can_be_counted_are_told_as_more(self) -> None:
        pile = stack(("1084", 4), ("15n20", 3), ("1084", 4), width=40, length=100)
        once = ({"kind": "fold"}, {"kind": "draw", "width": 40.0, "thickness": 11.0})
        # folded n times 2 x 2^n + 1
        for times, count in ((7, 257), (9, 1025), (14, MOST), (20, MOST)):
            bar = forged(pile, *once * times)
            self.assertEqual(layers_across(Trace(bar)), count, times)
            told = summary_of(Worked.of(read_document({"recipe": recipe(pile, *once * times)})))
            assert told
            self.assertEqual((told.layers, told.more_layers), (count, count == MOST))

    def test_blocks_come_in_order_and_can_be_cancelled(self) -> None:
        started: list[int] = []

        def work(i: int) -> int:
            started.append(i)
            return i * i

        with pool() as executor:
            self.assertEqual(list(run_blocks(work, iter(range(20)), executor)), [i * i for i in range(20)])
            started.clear()
            seen: list[int] = []

            def endless() -> Iterator[int]:
                yield from range(10_000)

            with self.assertRaises(Cancelled):
                for value in run_blocks(work, endless(), executor, cancelled=lambda: len(seen) >= 3):
                    seen.append(value)
        self.assertEqual(seen, [0, 1, 4])
        self.assertLess(len(started), 60)
        self.assertLessEqual(BLOCK, 1 << 16)
