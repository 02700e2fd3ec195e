"""What every step must do, in a loop over the registry: a new step is tested by being listed."""

from typing import Any

import numpy as np
from django.test import SimpleTestCase

from tests.core.samples import forged, grid, recipe, solid, stack
from varistrat.core.bars.forged import Forged, forge
from varistrat.core.bars.model import ForgingStep
from varistrat.core.bars.points import Points
from varistrat.core.bars.recipe import FORMAT, Recipe, read_recipe
from varistrat.core.bars.steps import STEPS
from varistrat.core.bars.trace import Trace
from varistrat.core.errors import InputError

Json = dict[str, Any]
HAND = {"amount": 0.3, "wavelength": 25.0, "seed": 7}
ROUND = {"kind": "section", "form": "round"}
DIAMOND = {"kind": "turn", "degrees": 45.0}
OCTAGON = {"kind": "section", "form": "octagon"}

# kind: [(steps before, the step)], on a 30 x 20 or a 20 x 20 bar
EXAMPLES: dict[str, list[tuple[list[Json], Json]]] = {
    "weld": [([], {"thickness": 14.0}), ([], {"thickness": 12.0, "width": 33.0, "scale": 0.3, "uneven": HAND}), ([ROUND], {"thickness": 15.0})],
    "draw": [
        ([], {"width": 18.0, "thickness": 9.0}),
        ([], {"thickness": 12.0, "bite": 25.0}),
        ([], {"width": 20.0, "method": "roll", "roll_diameter": 80.0, "scale": 0.2}),
        ([OCTAGON], {"width": 16.0, "thickness": 16.0, "uneven": HAND}),
    ],
    "turn": [
        ([], {"degrees": 90.0}), ([], {"degrees": 270.0}), ([], {"degrees": 180.0, "about": "y"}), ([], {"degrees": 90.0, "about": "z"}),
        ([], {"degrees": 180.0, "about": "z"}), ([{"kind": "section", "form": "square"}], {"degrees": 45.0, "scale": 0.2}),
        ([{"kind": "section", "form": "square"}, DIAMOND], {"degrees": 45.0}), ([ROUND], {"degrees": 33.0}), ([OCTAGON], {"degrees": -45.0}),
    ],
    "section": [
        ([], {"form": "square"}), ([], {"form": "octagon", "scale": 0.3}), ([], {"form": "round", "width": 22.0}), ([ROUND], {"form": "diamond"}),
        ([OCTAGON], {"form": "rectangle", "width": 20.0, "thickness": 14.0, "uneven": HAND}), ([DIAMOND_SQUARE := {"kind": "section", "form": "square"}, DIAMOND], {"form": "square"}),
    ],
    "twist": [
        ([], {"turns": 4.0}), ([OCTAGON], {"turns": 6.0, "hand": "left", "scale": 0.1}), ([ROUND], {"turns": 3.0}),
        ([], {"zones": [{"from": 10.0, "to": 80.0, "turns": 2.0}, {"from": 60.0, "to": 150.0, "turns": 3.0, "hand": "left"}]}),
    ],
    "restack": [
        ([], {"pieces": 3, "grind": 0.4, "kerf": 1.5}),
        ([], {"pieces": 4, "along": "width", "lay": ["as_cut", "turned_over", "rolled", "end_for_end"]}),
        ([], {"pieces": 2, "interleaf": {"steel": "nickel", "thickness": 0.5}, "scale": 0.2, "uneven": HAND}),
    ],
    "fold": [([], {}), ([], {"grind": 0.6, "scale": 0.2, "uneven": HAND})],
    "uneven": [([], {"amount": 0.4, "wavelength": 30.0, "seed": 3})],
    "grind": [([], {"top": 1.0, "bottom": 0.5, "front": 2.0}), ([ROUND], {"around": 1.0}), ([DIAMOND_SQUARE, DIAMOND], {"around": 1.0})],
    "trim": [([], {"start": 12.0, "end": 5.0})],
}  # fmt: skip

NEUTRAL: dict[str, Json] = {
    "weld": {"thickness": 20.0}, "draw": {"width": 30.0, "thickness": 20.0}, "turn": {"degrees": 360.0},
    "section": {"form": "rectangle"}, "restack": {"pieces": 1}, "uneven": {"amount": 0.0, "wavelength": 9.0, "seed": 1},
    "grind": {}, "trim": {},
}  # fmt: skip

BAD: dict[str, list[tuple[Json, str]]] = {
    "weld": [({"thickness": 0}, "thickness"), ({}, "thickness"), ({"thickness": float("nan")}, "thickness")],
    "draw": [({}, "thickness"), ({"thickness": 9.0}, "bite"), ({"width": 9.0, "method": "roll"}, "roll_diameter"), ({"width": -1.0}, "width")],
    "turn": [({"degrees": 30.0}, "degrees"), ({"degrees": 90.0, "about": "y"}, "degrees"), ({"degrees": 45.0}, "degrees")],
    "section": [({"form": "star"}, "form"), ({"form": "round", "thickness": 9.0}, "width"), ({"form": "square", "width": 9.0, "thickness": 8.0}, "thickness")],
    "twist": [
        ({}, "turns"), ({"turns": -1.0}, "turns"), ({"turns": 1.0, "zones": [{"from": 0, "to": 9, "turns": 1}]}, "zones"),
        ({"zones": [{"from": 0, "to": 900, "turns": 1}]}, "zones[0].to"), ({"zones": [{"from": 9, "to": 5, "turns": 1}]}, "zones[0].to"),
        ({"zones": []}, "zones"), ({"turns": 1e9}, "turns"),
    ],
    "restack": [({"pieces": 0}, "pieces"), ({"pieces": 10**9}, "pieces"), ({"pieces": 3, "grind": 10.0}, "grind"), ({"pieces": 9, "kerf": 40.0}, "kerf"), ({"pieces": 2, "lay": []}, "lay")],
    "fold": [({"grind": 20.0}, "grind"), ({"grind": -1.0}, "grind")],
    "uneven": [({"amount": 1.0, "wavelength": 0.0, "seed": 1}, "wavelength"), ({"amount": 1.0, "wavelength": 5.0, "seed": -1}, "seed")],
    "grind": [({"top": 15.0, "bottom": 5.0}, "top"), ({"front": 30.0}, "front"), ({"around": 10.0}, "around"), ({"around": 1.0, "top": 1.0}, "around")],
    "trim": [({"start": 150.0, "end": 50.0}, "start")],
}  # fmt: skip


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
            stage.step.pull(p, stage.before, stage.after)
            moved = np.array([p.x, p.y, p.z]).reshape(3, 6, -1)
            det = np.linalg.det(((moved[:, :3] - moved[:, 3:]) / (2 * step)).transpose(2, 0, 1))
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

    def test_neutral_parameters_do_nothing(self) -> None:
        for kind, fields in NEUTRAL.items():
            f = forged(solid(), {"kind": kind, **fields})
            points = grid(f)
            p = Points(*points.copy())
            p.steels = f.steels
            f.stages[-1].step.pull(p, f.stages[-1].before, f.bar)
            np.testing.assert_allclose([p.x, p.y, p.z], points, atol=1e-9, err_msg=kind)
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
        for kind in ("restack", "fold", "uneven"):
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
            exact = trace.layer_at(trace.pull(Points(*points.copy())))
            rough = trace.layer_at(trace.pull(Points(*points.astype(np.float32))))
            self.assertLess(np.quantile(np.abs(exact - rough), 0.97), 2e-3, name)

    def test_a_missing_format_is_named(self) -> None:
        self.assertEqual(FORMAT, "varistrat.recipe/1")
        with self.assertRaisesRegex(InputError, "format is missing"):
            read_recipe({"bar": {}})
