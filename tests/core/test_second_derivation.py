"""The engine against a second, plain derivation of it (naive.py), over many recipes."""

import numpy as np
from django.test import SimpleTestCase

from tests.core import naive
from tests.core.samples import Json, forged, stack
from tests.profile import quick_or
from varistrat.core.bars.forged import forge
from varistrat.core.bars.points import Points
from varistrat.core.bars.recipe import FORMAT, read_recipe
from varistrat.core.bars.trace import Trace

PILE = stack(("1084", 6), ("15n20", 3), ("1084", 9), ("15n20", 6), width=26, length=150)
SQUARE = {"kind": "section", "form": "square"}
RECIPES: dict[str, list[Json]] = {
    "drawn": [{"kind": "weld", "thickness": 18.0}, {"kind": "draw", "width": 20.0, "thickness": 12.0}, {"kind": "turn", "degrees": 90.0}],
    "rounded": [{"kind": "section", "form": "round"}],
    "octagon and back": [{"kind": "section", "form": "octagon"}, SQUARE],
    "bias": [SQUARE, {"kind": "turn", "degrees": 45.0}, SQUARE],
    "bias the other way": [SQUARE, {"kind": "turn", "degrees": -45.0}, SQUARE, {"kind": "draw", "width": 30.0, "thickness": 8.0}],
    "diamond to round": [{"kind": "section", "form": "diamond"}, {"kind": "section", "form": "round"}, {"kind": "turn", "degrees": 33.0}],
    "right twist": [{"kind": "twist", "turns": 3.0, "hand": "right"}],
    "left twist of an octagon, squared": [{"kind": "section", "form": "octagon"}, {"kind": "twist", "turns": 2.5, "hand": "left"}, SQUARE],
    "twist drawn flat from the round": [{"kind": "twist", "turns": 4.0}, {"kind": "draw", "width": 34.0, "thickness": 7.0}],
    "restacked": [{"kind": "restack", "pieces": 3, "grind": 0.4, "kerf": 1.5, "lay": ["as_cut", "turned_over", "rolled"]}],
    "end for end": [{"kind": "restack", "pieces": 2, "lay": ["end_for_end", "as_cut"]}, {"kind": "fold", "grind": 0.3}],
    "folded and ground": [{"kind": "fold"}, {"kind": "grind", "top": 2.0, "front": 1.0, "back": 0.5}, {"kind": "weld", "thickness": 20.0}],
    "four-way": [
        SQUARE,
        {
            "kind": "grid",
            "cells": [[{}, {"quarter_turns": 1}], [{"quarter_turns": 3, "end_for_end": True}, {"quarter_turns": 2}]],
            "grind": 0.4,
            "kerf": 1.2,
        },
    ],
    "a row of three": [{"kind": "grid", "cells": [[{}, {"end_for_end": True}, {"quarter_turns": 2, "end_for_end": True}]]}],
    "tiles": [{"kind": "tiles", "angle": 38.0, "thickness": 6.0, "count": 5, "kerf": 1.0}],
    "tiles turned over": [SQUARE, {"kind": "tiles", "angle": 62.0, "thickness": 9.0, "count": 4, "alternate": True}],
    "end slice": [{"kind": "end_slice", "thickness": 12.0}, {"kind": "draw", "width": 20.0, "thickness": 5.0}],
    "split": [{"kind": "split", "drag": 11.0, "reach": 5.0}, {"kind": "end_slice", "thickness": 20.0}],
    "all of it": [
        {"kind": "weld", "thickness": 20.0},
        {"kind": "restack", "pieces": 2, "lay": ["as_cut", "rolled"]},
        SQUARE,
        {"kind": "turn", "degrees": 45.0},
        SQUARE,
        {"kind": "section", "form": "octagon"},
        {"kind": "twist", "turns": 5.0},
        SQUARE,
        {"kind": "draw", "width": 32.0, "thickness": 9.0},
        {"kind": "fold", "grind": 0.2},
        {"kind": "grind", "bottom": 1.0},
    ],
}

GROOVES = {"kind": "relief", "shape": "rungs", "method": "cut_forged", "profile": "vee", "pitch": 15.0, "groove": 10.0, "depth": 6.0}
RELIEFS: list[Json] = [
    GROOVES,
    GROOVES | {"profile": "round", "depth": 4.0, "slant": 30.0, "faces": "both", "offset": 4.0},
    GROOVES | {"shape": "chevrons", "slant": 25.0, "thickness": 15.0},
    GROOVES | {"shape": "dimples", "profile": "round", "depth": 4.5, "array": "staggered", "faces": "both"},
    GROOVES | {"method": "pressed_ground", "shape": "dimples", "faces": "both", "offset": 5.0},
    GROOVES | {"method": "pressed_ground", "slant": -20.0, "profile": "round", "depth": 4.0, "thickness": 17.0},
]


def bar(start: Json, *steps: Json) -> Json:
    return {"start": start, "steps": list(steps)}


def assembly(join: str, *bars: Json, **more: float) -> Json:
    return {"kind": "assembly", "join": join, "bars": list(bars), **more}


TWISTED = bar(PILE, SQUARE, {"kind": "twist", "turns": 3.0}, SQUARE, {"kind": "draw", "width": 14.0, "thickness": 12.0})
FLAT = bar(stack(("1018", 5), ("nickel", 7), width=30, length=200), {"kind": "draw", "width": 28.0, "thickness": 11.0})
ROUND = bar(PILE, {"kind": "section", "form": "round"})
TREES: dict[str, Json] = {
    "stacked": bar(assembly("stacked", FLAT, TWISTED, FLAT), {"kind": "draw", "width": 12.0, "thickness": 20.0}),
    "side by side, then twisted": bar(
        assembly("side_by_side", TWISTED, FLAT), SQUARE, {"kind": "twist", "turns": 2.0, "hand": "left"}, SQUARE
    ),
    "scarf": bar(assembly("scarf", FLAT, TWISTED, angle=55.0), {"kind": "restack", "pieces": 2, "lay": ["as_cut", "rolled"]}),
    "slot": bar(assembly("slot", FLAT, TWISTED, depth=5.0, width=9.0), {"kind": "fold"}),
    "plug": bar(assembly("plug", FLAT, ROUND, x=40.0, y=-3.0, diameter=16.0), {"kind": "draw", "width": 40.0, "thickness": 5.0}),
    "jacket": bar(assembly("jacket", TWISTED, FLAT, wall=2.5), {"kind": "split", "drag": 3.0, "reach": 6.0}),
    "four deep": bar(
        assembly(
            "stacked",
            bar(assembly("side_by_side", bar(assembly("scarf", TWISTED, FLAT, angle=70.0), {"kind": "weld", "thickness": 9.0}), FLAT)),
            FLAT,
        ),
        {"kind": "tiles", "angle": 50.0, "thickness": 7.0, "count": 4, "alternate": True},
    ),
}


class SecondDerivationTests(SimpleTestCase):
    def test_every_point_comes_from_the_same_place(self) -> None:
        rng = np.random.default_rng(21)
        for name, steps in RECIPES.items():
            f = forged(PILE, *steps)
            bar = f.bar
            spread = rng.uniform(-0.5, 0.5, (3, 60))
            points = np.array([(spread[0] + 0.5) * bar.length, spread[1] * bar.width, spread[2] * bar.thickness])
            points = points[:, bar.section.holds(points[1], points[2], -1e-6)][:, : quick_or(6, 14)]
            p = Trace(f).begun(Points(*points.copy()))
            want = np.array(naive.trace(PILE, steps, [tuple(c) for c in points.T.tolist()])).T  # type: ignore[misc]
            np.testing.assert_allclose([p.x, p.y, p.z], want, atol=2e-6, err_msg=name)

    def test_trees_of_bars_agree(self) -> None:
        rng = np.random.default_rng(9)
        for name, tree in TREES.items():
            f = forge(read_recipe({"format": FORMAT, "bar": tree}).bar)
            want_bar, got = naive.bar_of(tree), f.bar
            np.testing.assert_allclose(
                (got.length, got.width, got.thickness), (want_bar.length, want_bar.w, want_bar.t), rtol=1e-9, err_msg=name
            )
            u = rng.uniform(-0.48, 0.48, (3, quick_or(25, 60)))
            x, y, z = (u[0] + 0.5) * got.length, u[1] * got.width, u[2] * got.thickness
            trace = Trace(f)
            found = [trace.steels[i] for i in trace.probe(x, y, z)]
            want = [naive.steel_of(tree, (a, b, c)) for a, b, c in zip(x.tolist(), y.tolist(), z.tolist(), strict=True)]
            # every point, or all but one that lies within rounding of a boundary
            self.assertLessEqual(sum(a != b for a, b in zip(found, want, strict=True)), 1, name)
            self.assertGreater(len(set(want)), 1, f"{name} tells nothing apart")

    def test_reliefs_agree_with_sums_done_the_slow_way(self) -> None:
        # the second way adds up plain rectangles, so it is good to some hundredths only
        rng = np.random.default_rng(4)
        pile, few = stack(("1084", 10), ("15n20", 14), width=26, length=24), quick_or(1, 3)
        for step in RELIEFS:
            f = forged(pile, step)
            bar = naive.size(step, naive.Bar(24.0, "rectangle", 26.0, 24.0))
            np.testing.assert_allclose((f.bar.length, f.bar.thickness), (bar.length, bar.t), rtol=3e-3, err_msg=str(step))
            share = rng.uniform((0.1, -0.45, -0.45), (0.9, 0.45, 0.45), (few, 3)).T
            at = share * np.array([[f.bar.length], [26.0], [f.bar.thickness]])
            p = Trace(f).begun(Points(*at.copy()))
            want = np.array(naive.trace(pile, [step], [tuple(c) for c in at.T.tolist()])).T  # type: ignore[misc]
            np.testing.assert_allclose([p.x, p.y, p.z], want, atol=0.12, err_msg=str(step))

    def test_the_sizes_agree(self) -> None:
        for name, steps in RECIPES.items():
            f = forged(PILE, *steps)
            bar = naive.Bar(150.0, "rectangle", 26.0, 24.0)
            for stage, step in zip(f.stages, steps, strict=True):
                bar = naive.size(step, bar)
                got = stage.after
                np.testing.assert_allclose(
                    (got.length, got.width, got.thickness), (bar.length, bar.w, bar.t), rtol=1e-9, err_msg=f"{name}: {step}"
                )
                self.assertEqual(got.section.form, bar.form)

    def test_the_second_derivation_is_not_the_first(self) -> None:
        # it must be able to disagree: a wrong hand shows
        steps = [{"kind": "twist", "turns": 1.0}]
        f = forged(PILE, *steps)
        p = Trace(f).begun(Points(np.array([30.0]), np.array([4.0]), np.array([1.0])))
        wrong = naive.trace(PILE, [{"kind": "twist", "turns": 1.0, "hand": "left"}], [(30.0, 4.0, 1.0)])[0]
        self.assertGreater(abs(wrong[2] - p.z[0]), 0.5)
