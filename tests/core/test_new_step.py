"""A step that nobody has heard of, in one class: everything takes it as it says, and nothing knows it by name."""

import re
from pathlib import Path
from typing import Any, ClassVar, Literal

import numpy as np
from django.test import SimpleTestCase

from tests.core.samples import solid
from varistrat.core.bars.bar import Bar, Change
from varistrat.core.bars.forged import Forged, attempt
from varistrat.core.bars.joints import NONE
from varistrat.core.bars.model import HeatDemand, Step, kind_of
from varistrat.core.bars.points import Points
from varistrat.core.bars.recipe import read_recipe
from varistrat.core.bars.section import Section
from varistrat.core.bars.trace import Trace
from varistrat.core.design.ledger import label
from varistrat.core.heat.fires.fire import Fire, work_the_fire
from varistrat.core.heat.fires.skin import thinned
from varistrat.core.laminate.core import find_core

CORE = Path(__file__).resolve().parents[2] / "varistrat" / "core"
CLAD = {
    "kind": "stack",
    "width": 40.0,
    "length": 100.0,
    "layers": [{"steel": "1018", "thickness": 7.0}, {"steel": "1095", "thickness": 6.0}, {"steel": "1018", "thickness": 7.0}],
}
FIVE = {
    "kind": "stack",
    "width": 40.0,
    "length": 100.0,
    "layers": [{"steel": s, "thickness": 4.0} for s in ("nickel", "1018", "1095", "1018", "nickel")],
}
CAN = {"kind": "canister", "length": 100.0, "width": 40.0, "thickness": 40.0, "matrix": {"steel": "1084", "packing": 0.6}}


class Planish(Step):
    """Brought a little lower by light blows, and scraped."""

    kind: Literal["planish"] = "planish"
    title: ClassVar[str] = "Planish"
    fire = "twist"
    by: float = 2.0
    sheared: float = 0.0
    scraped: float = 0.0

    def size(self, before: Bar) -> Change:
        t = before.thickness - self.by
        return Change(Bar(before.length * before.thickness / t, Section("rectangle", before.width, t)))

    def length_before(self, length: float, before: Bar) -> float:
        return length * (before.thickness - self.by) / before.thickness

    def pull(self, p: Points, before: Bar, after: Bar) -> None:
        p.z *= before.thickness / after.thickness
        p.x *= before.length / after.length

    def heat_demand(self, before: Bar, after: Bar) -> HeatDemand:
        return HeatDemand(shear=self.sheared, ground=self.scraped)

    def instruction(self, before: Bar, after: Bar) -> str:
        return f"Planish to {after.thickness:g} mm."

    def brief(self) -> str:
        return "light"


class Quiet(Planish):
    """The same, which leaves a laminate one, opens a can, and is not worth a name."""

    kind: Literal["quiet"] = "quiet"  # type: ignore[assignment]
    plain: ClassVar[bool] = True
    shapes: ClassVar[bool] = False
    opens_can: ClassVar[bool] = True


def made(start: dict[str, Any], *steps: Step) -> Forged:
    recipe = read_recipe({"format": "varistrat.recipe/1", "bar": {"start": start}}).bar.model_copy(update={"steps": list(steps)})
    tried = attempt(recipe)
    assert not tried.problems, tried.problems
    return tried.bars[()]


class NewStepTests(SimpleTestCase):
    def test_ledger_and_trace(self) -> None:
        f = made(solid(100.0, 40.0, 20.0), Planish(id="p"))
        row = f.rows()[1]
        self.assertEqual((row["kind"], row["thickness"], kind_of(f.stages[0].step)), ("planish", 18.0, "planish"))
        self.assertAlmostEqual(row["volume"], 80_000.0, 6)
        self.assertEqual(f.instructions()[1], "Planish to 18 mm.")
        self.assertEqual(f.joints, NONE)
        p = Trace(f).begun(Points(np.array([11.0]), np.array([0.0]), np.array([9.0])))
        self.assertAlmostEqual(float(p.z[0]), 10.0, 6)
        self.assertAlmostEqual(float(p.x[0]), 9.9, 6)

    def test_the_fire_asks_the_step(self) -> None:
        heats = [
            work_the_fire(Fire(), made(solid(100.0, 40.0, 20.0), Planish(id="p", sheared=s))).fired[0].heats for s in (0.0, 1.25, 1.3, 5.0)
        ]
        self.assertEqual(heats, [1, 1, 2, 4])
        cold = type("Cold", (Planish,), {"fire": "", "__annotations__": {}})
        one, other = (
            work_the_fire(Fire(), made(solid(100.0, 40.0, 20.0), Planish(id="a"), cold(id="b", scraped=g), Planish(id="c"))).fired[-1].skin
            for g in (0.0, 9.0)
        )
        # what is scraped off is no longer there to be added to
        self.assertGreater(one, other)
        self.assertGreater(other, thinned(0.01, 1.0))

    def test_a_can_is_opened_by_whatever_says_so(self) -> None:
        for step, gas in ((Planish, "sealed"), (Quiet, "neutral")):
            fired = work_the_fire(Fire(), made(CAN, step(id="a"), Planish(id="b"))).fired[-1]
            self.assertEqual(fired.atmosphere, gas, step.__name__)

    def test_a_laminate_stays_one_through_whatever_leaves_it_one(self) -> None:
        def never() -> Any:
            raise AssertionError

        # three layers are a laminate whatever is done; more only while nothing patterns them
        for start, step, core in ((CLAD, Planish, "1095"), (FIVE, Quiet, "1095"), (FIVE, Planish, None)):
            found = find_core(made(start, step(id="p")), never)
            self.assertEqual(found.steel if found else None, core, (step.__name__, core))

    def test_its_name_in_the_bars(self) -> None:
        recipe = read_recipe({"format": "varistrat.recipe/1", "bar": {"start": CLAD}}).bar
        self.assertEqual(label(recipe.model_copy(update={"steps": [Planish(), Quiet()]})), "Pile, planish light")

    def test_nothing_asks_a_step_or_start_for_its_kind(self) -> None:
        asked = re.compile(
            r"(step|start|stage\.step)\.kind\s*(==|!=|in\b|not in\b)|isinstance\([\w.]*\b(step|start), "
            r"(?!JoinedStart|PileStart|dict|list|int)"
        )
        elsewhere = [
            f"{path.relative_to(CORE)}: {line.strip()}"
            for path in sorted(CORE.rglob("*.py"))
            if path.parts[-2] not in ("steps", "starts")
            for line in path.read_text().splitlines()
            if asked.search(line)
        ]
        self.assertEqual(elsewhere, [])
