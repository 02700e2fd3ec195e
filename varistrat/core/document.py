"""A design as it is kept: the recipe, the blade cut from it, and the steps switched off."""

from dataclasses import dataclass
from typing import Annotated, Any

import numpy as np
from pydantic import Field

from varistrat.core.bars.forged import Forged, forge_as_far
from varistrat.core.bars.model import Model
from varistrat.core.bars.recipe import BarRecipe, Recipe, parse
from varistrat.core.bars.trace import Trace
from varistrat.core.blade.cut import Cut
from varistrat.core.blade.model import Blade
from varistrat.core.errors import InputError, Problem
from varistrat.core.laminate.exposure import Station
from varistrat.core.limits import MAX_STEPS
from varistrat.core.pattern.layers import layers_across, thinnest_layer


class Document(Model):
    """`off`: indices of steps switched off; they are kept but not carried out."""

    recipe: Recipe
    blade: Blade | None = None
    off: Annotated[list[Annotated[int, Field(ge=0, lt=MAX_STEPS)]], Field(max_length=MAX_STEPS)] = []

    def as_json(self) -> dict[str, Any]:
        out: dict[str, Any] = {"recipe": self.recipe.as_json()}
        if self.blade:
            out["blade"] = self.blade.as_json()
        if self.off:
            out["off"] = sorted(set(self.off))
        return out

    @property
    def on(self) -> list[int]:
        """Indices of the steps that are carried out."""
        return [i for i in range(len(self.recipe.bar.steps)) if i not in set(self.off)]

    def carried_out(self) -> Recipe:
        """The recipe without the steps switched off: what is exported."""
        bar = self.recipe.bar
        return self.recipe.model_copy(update={"bar": bar.model_copy(update={"steps": [bar.steps[i] for i in self.on]})})


def read_document(data: Any) -> Document:
    """Raises InputError with paths."""
    return parse(Document, data)


@dataclass(frozen=True)
class Worked:
    """A document carried out as far as it goes: `steps[i]` is the index of stage i's step in the document."""

    document: Document
    forged: Forged
    steps: list[int]
    problems: tuple[Problem, ...]
    cut: Cut | None

    @classmethod
    def of(cls, document: Document) -> "Worked":
        steps = document.on
        recipe: BarRecipe = document.carried_out().bar
        forged, found = forge_as_far(recipe, "recipe.bar")
        problems = [_renumber(p, steps) for p in found]
        cut = None
        if document.blade and not problems:
            try:
                cut = Cut.of(document.blade, forged)
            except InputError as e:
                problems += [p.under("blade") for p in e.problems]
        return cls(document, forged, steps, tuple(problems), cut)

    def rows(self) -> list[dict[str, Any]]:
        """The ledger with the document's own step numbers (None: the start) and route text."""
        rows = self.forged.rows()
        texts = self.forged.instructions()
        for row, text, step in zip(rows, texts, [None, *self.steps], strict=False):
            row |= {"step": step, "instruction": text}
        return rows

    def summary(self) -> dict[str, Any]:
        """What is always in sight: sizes, mass, loss, layers, thinnest layer, core line."""
        bar, first = self.forged.bar, self.forged.first
        trace = Trace(self.forged)
        gained = sum(sum(s.change.gains.values()) for s in self.forged.stages)
        out: dict[str, Any] = {
            "length": bar.length, "width": bar.width, "thickness": bar.thickness, "form": bar.section.form,
            "mass": bar.volume * self.forged.density, "start_mass": first.volume * self.forged.density,
            "loss_share": 1 - bar.volume / (first.volume + gained), "layers": layers_across(trace),
            "thinnest": None, "blade_mass": None, "core": None,
        }  # fmt: skip
        if self.cut:
            out["thinnest"] = thinnest_layer(self.cut)
            out["blade_mass"] = self.blade_volume() * self.forged.density
            if self.cut.core:
                curves = self.cut.placed.geometry.curves
                out["core"] = [_station_json(s, float(np.cos(curves.edge_angle(np.array([s.x]))[0]))) for s in self.cut.exposure(24)]
        return out

    def blade_volume(self) -> float:
        """mm3, by the midpoint rule on 200 x 60 cells."""
        assert self.cut
        geometry = self.cut.placed.geometry
        x = (np.arange(200) + 0.5) * geometry.length / 200
        height = geometry.height(x)
        h = (np.arange(60) + 0.5) / 60 * height[:, None]
        mean = geometry.faces(x[:, None], h).thickness.mean(axis=1)
        return float((mean * height).sum() * geometry.length / 200)

    def blade_findings(self) -> list[dict[str, Any]]:
        if not self.cut:
            return []
        return [f.as_json() for f in self.cut.placed.checks() + self.cut.placed.geometry.checks()]


def _renumber(problem: Problem, steps: list[int]) -> Problem:
    """A problem's `steps[i]` counted in the document, where some steps are switched off."""
    head, mark, rest = problem.path.partition("recipe.bar.steps[")
    if not mark:
        return problem
    number, _, tail = rest.partition("]")
    return Problem(f"{head}{mark}{steps[int(number)]}]{tail}", problem.wrong, problem.cure)


def _station_json(s: Station, slant: float) -> dict[str, Any]:
    """A station for the screen, where heights are told square to the edge; `slant`: cosine of the edge's angle there."""
    return {
        "x": s.x, "side": s.side, "state": s.state, "height": s.height * slant, "shown": [[low * slant, high * slant] for low, high in s.shown],
        "clad_share": s.clad_share, "core_at_edge": s.core_at_edge,
    }  # fmt: skip
