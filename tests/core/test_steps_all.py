"""What every step must do, in a loop over the registry: a new step is tested by being listed."""

import contextlib
from typing import Any

import numpy as np
from django.test import SimpleTestCase

from tests.core.samples import forged, grid, recipe, solid, stack
from varistrat.core.bars.bar import Bar
from varistrat.core.bars.forged import Forged, forge
from varistrat.core.bars.model import ForgingStep
from varistrat.core.bars.points import Points
from varistrat.core.bars.recipe import FORMAT, Recipe, read_recipe
from varistrat.core.bars.section import Section
from varistrat.core.bars.steps import STEPS
from varistrat.core.bars.steps.bend import Bend
from varistrat.core.bars.steps.end_slice import EndSlice
from varistrat.core.bars.steps.tiles import Tiles
from varistrat.core.bars.trace import Trace
from varistrat.core.errors import InputError

Json = dict[str, Any]
HAND = {"amount": 0.3, "wavelength": 25.0, "seed": 7}
ROUND = {"kind": "section", "form": "round"}
DIAMOND = {"kind": "turn", "degrees": 45.0}
OCTAGON = {"kind": "section", "form": "octagon"}

RELIEF = {"shape": "rungs", "method": "cut_forged", "profile": "vee", "pitch": 14.0, "groove": 9.0, "depth": 4.0}
PRESSED = RELIEF | {"method": "pressed_ground"}

# kind: [(steps before, the step)], on a 30 x 20 or a 20 x 20 bar
EXAMPLES: dict[str, list[tuple[list[Json], Json]]] = {
    "weld": [
        ([], {"thickness": 14.0}),
        ([], {"thickness": 12.0, "width": 33.0, "scale": 0.3, "uneven": HAND}),
        ([ROUND], {"thickness": 15.0}),
    ],
    "draw": [
        ([], {"width": 18.0, "thickness": 9.0}),
        ([], {"thickness": 12.0, "bite": 25.0}),
        ([], {"width": 20.0, "method": "roll", "roll_diameter": 80.0, "scale": 0.2}),
        ([OCTAGON], {"width": 16.0, "thickness": 16.0, "uneven": HAND}),
    ],
    "turn": [
        ([], {"degrees": 90.0}),
        ([], {"degrees": 270.0}),
        ([], {"degrees": 180.0, "about": "y"}),
        ([], {"degrees": 90.0, "about": "z"}),
        ([], {"degrees": 180.0, "about": "z"}),
        ([{"kind": "section", "form": "square"}], {"degrees": 45.0, "scale": 0.2}),
        ([{"kind": "section", "form": "square"}, DIAMOND], {"degrees": 45.0}),
        ([ROUND], {"degrees": 33.0}),
        ([OCTAGON], {"degrees": -45.0}),
    ],
    "section": [
        ([], {"form": "square"}),
        ([], {"form": "octagon", "scale": 0.3}),
        ([], {"form": "round", "width": 22.0}),
        ([ROUND], {"form": "diamond"}),
        ([OCTAGON], {"form": "rectangle", "width": 20.0, "thickness": 14.0, "uneven": HAND}),
        ([DIAMOND_SQUARE := {"kind": "section", "form": "square"}, DIAMOND], {"form": "square"}),
    ],
    "twist": [
        ([], {"turns": 4.0}),
        ([OCTAGON], {"turns": 6.0, "hand": "left", "scale": 0.1}),
        ([ROUND], {"turns": 3.0}),
        ([], {"zones": [{"from": 10.0, "to": 80.0, "turns": 2.0}, {"from": 60.0, "to": 150.0, "turns": 3.0, "hand": "left"}]}),
    ],
    "restack": [
        ([], {"pieces": 3, "grind": 0.4, "kerf": 1.5}),
        ([], {"pieces": 4, "along": "width", "lay": ["as_cut", "turned_over", "rolled", "end_for_end"]}),
        ([], {"pieces": 2, "interleaf": {"steel": "nickel", "thickness": 0.5}, "scale": 0.2, "uneven": HAND}),
    ],
    "fold": [([], {}), ([], {"grind": 0.6, "scale": 0.2, "uneven": HAND})],
    "grid": [
        ([], {"cells": [[{}, {"quarter_turns": 2}, {"end_for_end": True}]], "grind": 0.4, "kerf": 1.0}),
        (
            [DIAMOND_SQUARE],
            {
                "cells": [[{}, {"quarter_turns": 1}], [{"quarter_turns": -1, "end_for_end": True}, {"quarter_turns": 2}]],
                "scale": 0.2,
                "uneven": HAND,
            },
        ),
    ],
    "tiles": [
        ([], {"angle": 40.0, "thickness": 8.0, "count": 6, "kerf": 1.5}),
        ([], {"angle": 60.0, "thickness": 9.0, "count": 5, "alternate": True, "uneven": HAND}),
        ([], {"angle": 90.0, "thickness": 12.0, "count": 4}),
    ],
    "end_slice": [([], {"thickness": 9.0, "kerf": 1.5}), ([], {"thickness": 14.0, "scale": 0.3, "uneven": HAND})],
    "relief": [
        ([], RELIEF),
        ([], RELIEF | {"profile": "round", "slant": 25.0, "uneven": HAND}),
        ([], RELIEF | {"profile": "flat", "faces": "both", "depth": 3.0, "scale": 0.1}),
        ([], RELIEF | {"shape": "chevrons", "slant": -35.0, "thickness": 11.0}),
        ([], RELIEF | {"shape": "dimples", "profile": "round", "faces": "both", "offset": 3.0}),
        ([], RELIEF | {"shape": "dimples", "array": "staggered"}),
        ([], RELIEF | {"shape": "dimples", "profile": "flat"}),
        ([], PRESSED),
        ([], PRESSED | {"shape": "dimples", "profile": "round", "faces": "both", "depth": 3.0}),
        ([], PRESSED | {"shape": "chevrons", "slant": 30.0, "thickness": 12.0}),
        ([], PRESSED | {"slant": 20.0, "profile": "round", "array": "staggered"}),
    ],
    "split": [([], {"drag": 9.0, "reach": 6.0}), ([], {"drag": -6.0, "reach": 9.0, "scale": 0.2, "uneven": HAND})],
    "bend": [([], {"radius": 120.0}), ([], {"radius": 60.0, "edge": "back", "uneven": HAND})],
    "uneven": [([], {"amount": 0.4, "wavelength": 30.0, "seed": 3})],
    "grind": [([], {"top": 1.0, "bottom": 0.5, "front": 2.0}), ([ROUND], {"around": 1.0}), ([DIAMOND_SQUARE, DIAMOND], {"around": 1.0})],
    "trim": [([], {"start": 12.0, "end": 5.0})],
}

NEUTRAL: dict[str, Json] = {
    "weld": {"thickness": 20.0},
    "draw": {"width": 30.0, "thickness": 20.0},
    "turn": {"degrees": 360.0},
    "grid": {"cells": [[{}]]},
    "split": {"drag": 0.0, "reach": 5.0},
    "bend": {"radius": 2e4},
    "section": {"form": "rectangle"},
    "restack": {"pieces": 1},
    "uneven": {"amount": 0.0, "wavelength": 9.0, "seed": 1},
    "grind": {},
    "trim": {},
}

BAD: dict[str, list[tuple[Json, str]]] = {
    "weld": [({"thickness": 0}, "thickness"), ({}, "thickness"), ({"thickness": float("nan")}, "thickness")],
    "draw": [
        ({}, "thickness"),
        ({"thickness": 9.0}, "bite"),
        ({"width": 9.0, "method": "roll"}, "roll_diameter"),
        ({"width": -1.0}, "width"),
    ],
    "turn": [({"degrees": 30.0}, "degrees"), ({"degrees": 90.0, "about": "y"}, "degrees"), ({"degrees": 45.0}, "degrees")],
    "section": [
        ({"form": "star"}, "form"),
        ({"form": "round", "thickness": 9.0}, "width"),
        ({"form": "square", "width": 9.0, "thickness": 8.0}, "thickness"),
    ],
    "twist": [
        ({}, "turns"),
        ({"turns": -1.0}, "turns"),
        ({"turns": 1.0, "zones": [{"from": 0, "to": 9, "turns": 1}]}, "zones"),
        ({"zones": [{"from": 0, "to": 900, "turns": 1}]}, "zones[0].to"),
        ({"zones": [{"from": 9, "to": 5, "turns": 1}]}, "zones[0].to"),
        ({"zones": []}, "zones"),
        ({"turns": 1e9}, "turns"),
    ],
    "restack": [
        ({"pieces": 0}, "pieces"),
        ({"pieces": 10**9}, "pieces"),
        ({"pieces": 3, "grind": 10.0}, "grind"),
        ({"pieces": 9, "kerf": 40.0}, "kerf"),
        ({"pieces": 2, "lay": []}, "lay"),
    ],
    "fold": [({"grind": 20.0}, "grind"), ({"grind": -1.0}, "grind")],
    "grid": [
        ({"cells": []}, "cells"),
        ({"cells": [[{}, {}], [{}]]}, "cells[1]"),
        ({"cells": [[{"quarter_turns": 1}]]}, "cells[0][0].quarter_turns"),
        ({"cells": [[{}]], "grind": 10.0}, "grind"),
        ({"cells": [[{}] * 5], "kerf": 50.0}, "kerf"),
        ({"cells": [[{"turn": 1}]]}, "cells[0][0].turn"),
        ({"cells": [[{}] * 21]}, "cells[0]"),
    ],
    "tiles": [
        ({"angle": 0.0, "thickness": 5.0, "count": 2}, "angle"),
        ({"angle": 91.0, "thickness": 5.0, "count": 2}, "angle"),
        ({"angle": 45.0, "thickness": 5.0, "count": 999}, "count"),
        ({"angle": 45.0, "thickness": 5.0, "count": 60}, "count"),
        ({"angle": 30.0, "thickness": 25.0, "count": 1}, "angle"),
        ({"angle": 45.0, "count": 1}, "thickness"),
    ],
    "end_slice": [({"thickness": 201.0}, "thickness"), ({"thickness": 0.0}, "thickness"), ({"thickness": 5.0, "kerf": -1.0}, "kerf")],
    "relief": [
        (RELIEF | {"groove": 15.0}, "groove"),
        (RELIEF | {"depth": 20.0}, "depth"),
        (RELIEF | {"depth": 10.0, "faces": "both"}, "depth"),
        (RELIEF | {"profile": "round", "depth": 4.6}, "depth"),
        (RELIEF | {"shape": "chevrons"}, "slant"),
        (RELIEF | {"shape": "dimples", "slant": 5.0}, "slant"),
        (PRESSED | {"thickness": 16.5}, "thickness"),
        (PRESSED | {"faces": "both", "thickness": 12.5}, "thickness"),
        (RELIEF | {"pitch": 0.0}, "pitch"),
        (RELIEF | {"shape": "stars"}, "shape"),
    ],
    "split": [({"drag": 25.0, "reach": 5.0}, "drag"), ({"drag": -25.0, "reach": 5.0}, "drag"), ({"drag": 5.0, "reach": 0.0}, "reach")],
    "bend": [({"radius": 15.0}, "radius"), ({"radius": 60.0, "edge": "side"}, "edge")],
    "uneven": [({"amount": 1.0, "wavelength": 0.0, "seed": 1}, "wavelength"), ({"amount": 1.0, "wavelength": 5.0, "seed": -1}, "seed")],
    "grind": [
        ({"top": 15.0, "bottom": 5.0}, "top"),
        ({"front": 30.0}, "front"),
        ({"around": 10.0}, "around"),
        ({"around": 1.0, "top": 1.0}, "around"),
    ],
    "trim": [({"start": 150.0, "end": 50.0}, "start")],
}


def cases() -> list[tuple[str, Forged]]:
    out = []
    for step in STEPS:
        kind = step.model_fields["kind"].default
        for before, fields in EXAMPLES[kind]:
            out.append((f"{kind} {fields}", forged(stack(("1084", 8), ("15n20", 12)), *before, {"kind": kind, **fields})))
    return out


class EveryStepTests(SimpleTestCase):
    def test_every_listed_step_has_examples_and_refusals(self) -> None:
        kinds = {s.model_fields["kind"].default for s in STEPS}
        self.assertEqual(kinds, set(EXAMPLES))
        self.assertEqual(kinds, set(BAD))

    def test_the_volume_ledger_closes(self) -> None:
        for name, f in cases():
            stage = f.stages[-1]
            before = f.bars[-2].volume
            lost, gained = sum(stage.change.losses.values()), sum(stage.change.gains.values())
            self.assertLess(abs(before + gained - lost - f.bar.volume) / before, 1e-9, name)

    def test_every_pull_keeps_volume(self) -> None:
        step = 1e-6
        for name, f in cases():
            points = grid(f)
            cloud = points[:, None, :] + np.concatenate([np.eye(3), -np.eye(3)]).T[:, :, None] * step
            p = Points(*(c.ravel() for c in cloud))
            p.steels = f.steels
            stage = f.stages[-1]
            if hand := stage.step.unevenness():
                hand.pull(p, stage.after)
            bent = p.y.reshape(6, -1)[0].copy()
            stage.step.pull(p, stage.before, stage.after)
            moved = np.array([p.x, p.y, p.z]).reshape(3, 6, -1)
            det = np.linalg.det(((moved[:, :3] - moved[:, 3:]) / (2 * step)).transpose(2, 0, 1))
            if isinstance(stage.step, Bend):
                # its coordinates are bent: the volume of a unit box there is 1 - y'/R
                det /= 1 - bent * stage.step.curvature()
            # proper rotations only: the sign is part of the claim. Creases, joints and clamped points are few.
            good = np.abs(det - 1) < 1e-3
            settled = np.zeros(len(det), bool) if p.settled is None else (p.settled.reshape(6, -1) >= 0).any(axis=0)
            self.assertGreater((good | settled).mean(), 0.88, f"{name}: det J {np.quantile(det, [0.1, 0.5, 0.9])}")

    def test_every_pulled_point_lies_in_the_bar_before(self) -> None:
        for name, f in cases():
            p = Points(*grid(f, 9))
            p.steels = f.steels
            stage = f.stages[-1]
            if hand := stage.step.unevenness():
                hand.pull(p, stage.after)
            stage.step.pull(p, stage.before, stage.after)
            before = stage.before
            inside = (p.x >= -1e-6) & (p.x <= before.length + 1e-6) & before.section.holds(p.y, p.z, 1e-6)
            self.assertTrue(inside.all(), name)

    def test_the_length_before_makes_the_length_after(self) -> None:
        """Forwards and backwards agree over the registry; the few whose length is not free say what would help."""
        fixed = {"tiles", "end_slice"}
        for name, f in cases():
            stage = f.stages[-1]
            step, section, now = stage.step, stage.before.section, stage.after.length
            kind = name.split()[0]
            for share in (0.37, 1.0, 2.6) if kind not in fixed else (1.0,):
                if kind == "turn" and step.model_dump()["about"] == "z" and step.model_dump()["degrees"] % 180:
                    with self.assertRaisesRegex(InputError, "mm wide"):
                        step.length_before(now * share, stage.before)
                    continue
                long = step.length_before(now * share, stage.before)
                if kind == "twist" and step.model_dump()["zones"] and share < 1:
                    self.assertEqual(long, 150.0, "as long as its zones reach")
                    continue
                made = step.size(Bar(long, section)).after
                self.assertLess(abs(made.length / (now * share) - 1), 1e-9, f"{name} {share}")
                self.assertEqual(made.section, stage.after.section, name)
                # no shorter bar makes it
                if kind not in ("turn", "grind", "split", "bend", "uneven", "twist"):
                    with contextlib.suppress(InputError):
                        self.assertLess(step.size(Bar(long - 2.0, section)).after.length, now * share + 1e-9, name)

    def test_what_no_length_gives_is_said_with_the_cure(self) -> None:
        bar = Bar(200.0, Section("rectangle", 30.0, 17.8))
        tiles = Tiles(angle=35.0, thickness=8.0, count=5, kerf=1.5)
        seven = tiles.reaching(198.0, bar)
        self.assertEqual((seven.count, tiles.reaching(20.0, bar).count), (7, 5))
        self.assertAlmostEqual(tiles.length_before(198.0, bar), 138.75, 2)
        self.assertAlmostEqual(seven.size(Bar(138.76, bar.section)).after.length, 205.8, 1)
        with self.assertRaises(InputError) as caught:
            tiles.reaching(1e6, bar)
        self.assertEqual(caught.exception.problems[0].path, "count")
        with self.assertRaises(InputError) as caught:
            EndSlice(thickness=9.0).length_before(35.6, bar)
        self.assertIn("draw the slice 2 times as long", caught.exception.problems[0].cure)

    def test_neutral_parameters_do_nothing(self) -> None:
        for kind, fields in NEUTRAL.items():
            f = forged(solid(), {"kind": kind, **fields})
            points = grid(f)
            p = Points(*points.copy())
            p.steels = f.steels
            f.stages[-1].step.pull(p, f.stages[-1].before, f.bar)
            np.testing.assert_allclose([p.x, p.y, p.z], points, atol=0.02 if kind == "bend" else 1e-9, err_msg=kind)
            self.assertEqual(f.bar, f.first, kind)

    def test_json_there_and_back_gives_the_same_bar(self) -> None:
        for name, f in cases():
            data = Recipe(bar={"start": f.start.model_dump(by_alias=True), "steps": [s.step.model_dump(by_alias=True) for s in f.stages]})
            again = read_recipe(data.as_json())
            self.assertEqual(forge(again.bar).rows(), f.rows(), name)

    def test_bad_fields_are_refused_by_name(self) -> None:
        for kind, refusals in BAD.items():
            for fields, path in refusals:
                with self.assertRaises(InputError, msg=f"{kind} {fields}") as caught:
                    forge(read_recipe(recipe(solid(), {"kind": kind, **fields})).bar)
                problem = caught.exception.problems[0]
                self.assertEqual(problem.path, f"bar.steps[0].{path}", f"{kind} {fields}: {problem.line()}")
                self.assertTrue(problem.wrong and problem.cure)

    def test_steps_that_want_a_rectangle_say_so(self) -> None:
        for kind in ("restack", "fold", "grid", "tiles", "end_slice", "relief", "split", "bend", "uneven"):
            fields = EXAMPLES[kind][0][1]
            with self.assertRaisesRegex(InputError, "rectangular"):
                forged(solid(), {"kind": "section", "form": "round"}, {"kind": kind, **fields})
        with self.assertRaisesRegex(InputError, "uneven"):
            forged(solid(), {"kind": "section", "form": "round", "uneven": HAND})

    def test_scale_comes_off_first_and_cannot_take_it_all(self) -> None:
        f = forged(solid(100, 30, 20), {"kind": "trim", "scale": 1.0})
        self.assertAlmostEqual(f.rows()[1]["losses"]["scale"], 100 * (30 * 20 - 28 * 18))
        with self.assertRaisesRegex(InputError, r"steps\[0\].scale"):
            forged(solid(), {"kind": "trim", "scale": 10.0})

    def test_every_step_tells_the_smith_what_to_do(self) -> None:
        for name, f in cases():
            self.assertGreater(len(f.instructions()[-1]), 20, name)
            for row in f.rows():
                for finding in row["findings"]:
                    self.assertTrue(finding["what"] and finding["why"] and finding["do"], name)

    def test_only_forging_steps_carry_unevenness(self) -> None:
        for step in STEPS:
            self.assertEqual("uneven" in step.model_fields, issubclass(step, ForgingStep))

    def test_float32_follows_float64(self) -> None:
        for name, f in cases():
            points = grid(f)
            trace = Trace(f)
            (_, exact), (_, rough) = (trace.row.height_of(trace.place(Points(*points.astype(t)))) for t in (np.float64, np.float32))
            self.assertLess(np.quantile(np.abs(exact - rough), 0.97), 2e-3, name)

    def test_a_missing_format_is_named(self) -> None:
        self.assertEqual(FORMAT, "varistrat.recipe/1")
        with self.assertRaisesRegex(InputError, "format is missing"):
            read_recipe({"bar": {}})
