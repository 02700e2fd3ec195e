"""A design as it is kept: the recipe, the blade cut from it, and the steps switched off."""

from dataclasses import dataclass
from functools import cached_property
from itertools import pairwise
from typing import Annotated, Any, Literal

import numpy as np
from pydantic import Field, PrivateAttr, ValidationInfo, field_validator, model_validator

from varistrat.core.advice import blade_findings, evened_findings, may_have_evened, order_findings, steel_findings
from varistrat.core.bars.forged import Forged, attempt
from varistrat.core.bars.identity import Id
from varistrat.core.bars.joints import unwelded_blade
from varistrat.core.bars.model import Mm, Model, Step, shown
from varistrat.core.bars.recipe import BarRecipe, Recipe, all_bars
from varistrat.core.bars.trace import Trace
from varistrat.core.blade.measures import HANDLES, blade_body, hardening_findings
from varistrat.core.blade.model import Blade
from varistrat.core.cutting.cut import Cut
from varistrat.core.cutting.edge import EdgeSteel, edge_findings, edge_steels, stretches
from varistrat.core.cutting.layers import layers_across, thinnest_layer
from varistrat.core.design.upgrades import FORMAT, upgraded
from varistrat.core.errors import InputError, Problem
from varistrat.core.heat.fires.fire import Fire, FireOut, work_the_fire
from varistrat.core.heat.fires.look import Look, tones_after
from varistrat.core.heat.hardening.hardening import Hardening, of_design
from varistrat.core.heat.hardening.hardening import Worked as WorkedHardening
from varistrat.core.laminate.aim import Aim
from varistrat.core.laminate.exposure import SCREEN, Station
from varistrat.core.laminate.readings import Readings
from varistrat.core.limits import MAX_ALL_STEPS
from varistrat.core.reading import parse
from varistrat.core.shop import AS_SHIPS, ShopData, shop_of
from varistrat.core.steels.hardening import common_quench
from varistrat.core.study.tolerances import Sizes

SLIVER = 0.04
"""Share of the edge that a steel must make up to have a say in its hardening."""


class HandlePlan(Model):
    """The handle a blade will have: a key of HANDLES, and its size, mm."""

    material: Annotated[str, Field(max_length=40)] = "boxwood"
    length: Mm = Field(115.0, **shown("Handle length", "mm"))
    width: Mm = Field(24.0, **shown("Handle width", "mm"))
    thickness: Mm = Field(18.0, **shown("Handle thickness", "mm"))

    @field_validator("material")
    @classmethod
    def _known(cls, value: str) -> str:
        if value not in HANDLES:
            raise ValueError(f"{value!r} is no handle material here; choose one of {', '.join(HANDLES)}")
        return value


class Document(Model):
    """`off`: ids of the steps switched off, kept but not carried out.

    aim: where the core line is wanted; sizes: the smith's usual errors; readings: of a test etch; fire: how it is heated;
    hardening: what is wanted of it and was read; handle: for the balance.
    """

    format: Literal["varistrat.design/1"] = FORMAT
    recipe: Recipe
    blade: Blade | None = None
    off: Annotated[list[Id], Field(max_length=MAX_ALL_STEPS)] = []
    aim: Aim = Aim()
    sizes: Sizes = Sizes()
    readings: Readings = Readings()
    fire: Fire = Fire()
    hardening: Hardening = Hardening()
    handle: HandlePlan | None = None
    _shop: ShopData = PrivateAttr(default=AS_SHIPS)

    @property
    def shop(self) -> ShopData:
        """Whose steels it was read with, and whose numbers it is worked out with."""
        return self._shop

    @model_validator(mode="after")
    def _read_for(self, info: ValidationInfo) -> "Document":
        self._shop = shop_of(info)
        return self

    @model_validator(mode="before")
    @classmethod
    def _up_to_date(cls, data: Any) -> Any:
        return upgraded(data)

    def as_json(self) -> dict[str, Any]:
        """As it is kept: every part with its id; what is said of steps that are gone is left out."""
        out: dict[str, Any] = {"format": self.format, "recipe": self.recipe.as_json(named=True)}
        if self.blade:
            out["blade"] = self.blade.as_json()
        for name in ("aim", "sizes", "readings", "fire", "hardening", "handle"):
            value = getattr(self, name)
            said = value.model_dump(mode="json", exclude_defaults=True) if value else {}
            if said or (name == "handle" and value):
                out[name] = said
        steps = {s.id for bar in self.bars.values() for s in bar.steps}
        if "fire" in out and "steps" in out["fire"]:
            out["fire"]["steps"] = [s for s in out["fire"]["steps"] if s["step"] in steps]
        if off := sorted(steps.intersection(self.off)):
            out["off"] = off
        return out

    @cached_property
    def bars(self) -> dict[str, BarRecipe]:
        """Every bar by its id, the whole first."""
        return {bar.id: bar for bar in all_bars(self.recipe.bar)}

    def bar(self, bar: str = "") -> BarRecipe:
        """The recipe of one bar; `bar`: its id, empty for the whole. Raises InputError when it is not there."""
        found = self.bars.get(bar or self.recipe.bar.id)
        if found is None:
            raise InputError.at("bar", f"there is no bar {bar[:24]!r} in this design", "choose one that is there")
        return found

    @cached_property
    def paths(self) -> dict[str, str]:
        """Where each bar stands in the document, by id, as errors name it."""
        out: dict[str, str] = {}

        def walk(bar: BarRecipe, path: str) -> None:
            out[bar.id] = path
            for i, child in enumerate(bar.start.children()):
                walk(child, f"{path}.start.bars[{i}]")

        walk(self.recipe.bar, "recipe.bar")
        return out

    def on(self, bar: str = "") -> list[Step]:
        """The steps of this bar that are carried out."""
        return [s for s in self.bar(bar).steps if s.id not in self.off]

    def carried_out(self) -> Recipe:
        """The recipe without the steps switched off: what is exported."""

        def cleared(bar: BarRecipe) -> BarRecipe:
            children = [cleared(b) for b in bar.start.children()]
            start = bar.start.model_copy(update={"bars": children}) if children else bar.start
            return bar.model_copy(update={"start": start, "steps": self.on(bar.id)})

        if not self.off:
            return self.recipe
        return self.recipe.model_copy(update={"bar": cleared(self.recipe.bar)})


def read_document(data: Any, shop: ShopData = AS_SHIPS) -> Document:
    """A design of any version, read for a shop. Raises InputError with paths."""
    return parse(Document, data, shop)


@dataclass(frozen=True)
class Worked:
    """A document carried out as far as it goes: every bar of it, and the blade; with the steels and numbers of one shop, then and later."""

    document: Document
    bars: dict[str, Forged]
    """By id."""
    problems: tuple[Problem, ...]
    cut: Cut | None

    @property
    def shop(self) -> ShopData:
        return self.document.shop

    @classmethod
    def of(cls, document: Document) -> "Worked":
        tried = attempt(document.recipe.bar, "recipe.bar", frozenset(document.off), shop=document.shop)
        problems = list(tried.problems)
        bars = {b.id: b for b in tried.bars.values()}
        cut = None
        if document.blade and not problems:
            try:
                cut = Cut.of(document.blade, bars[document.recipe.bar.id])
            except InputError as e:
                problems += [p.under("blade") for p in e.problems]
        return cls(document, bars, tuple(problems), cut)

    def bar(self, bar: str = "") -> Forged:
        """One bar by its id (empty: the whole), as far as it goes. Raises InputError with what keeps it from beginning."""
        found = self.bars.get(self.document.bar(bar).id)
        if found is None:
            raise InputError(self.problems)
        return found

    @property
    def forged(self) -> Forged:
        return self.bar()

    def rows(self, bar: str = "") -> list[dict[str, Any]]:
        """The ledger of one bar with the id of each step (None: the start) and route text; empty if it cannot begin."""
        forged = self.bars.get(self.document.bar(bar).id)
        if forged is None:
            return []
        rows, texts = forged.rows(), forged.instructions()
        briefs = ["", *(s.step.brief() for s in forged.stages)]
        for stage, findings in order_findings(forged).items():
            rows[stage + 1]["findings"] += [f.as_json() for f in findings]
        for layers in forged.start.piles():
            keys = [k for k, _ in layers]
            rows[0]["findings"] += [f.as_json() for f in steel_findings(pairwise(keys), self.shop.steels)]
        ids = [None, *(s.step.id for s in forged.stages)]
        for row, text, brief, step in zip(rows, texts, briefs, ids, strict=True):
            row.pop("bars", None)
            row |= {"step": step, "instruction": text, "brief": brief}
        return rows

    def children(self, bar: str = "") -> list[dict[str, Any]]:
        """The bars that go into one: what each is, and its size if it can be forged to its end."""
        out = []
        for recipe in self.document.bar(bar).start.children():
            prefix = self.document.paths[recipe.id]
            wrong = [p for p in self.problems if p.path.startswith((prefix + ".", prefix + "["))]
            forged = self.bars.get(recipe.id)
            size = forged.bar if forged and not wrong else None
            out.append(
                {
                    "id": recipe.id, "label": label(recipe), "kind": recipe.start.kind, "problem": wrong[0].line() if wrong else "",
                    "length": size and size.length, "width": size and size.width, "thickness": size and size.thickness, "form": size and size.section.form,
                }
            )  # fmt: skip
        return out

    def summary(self) -> dict[str, Any] | None:
        """What is always in sight: sizes, mass, loss, layers, thinnest layer, core line; None if the bar cannot begin."""
        if self.document.recipe.bar.id not in self.bars:
            return None
        forged = self.forged
        bar = forged.bar
        trace = Trace(forged)
        put_in, mass_in = forged.put_in()
        out: dict[str, Any] = {
            "length": bar.length, "width": bar.width, "thickness": bar.thickness, "form": bar.section.form,
            "mass": bar.volume * forged.density, "start_mass": mass_in,
            "loss_share": 1 - bar.volume / put_in, "layers": layers_across(trace),
            "thinnest": None, "blade_mass": None, "core": None,
        }  # fmt: skip
        if self.cut:
            out["thinnest"] = self.thinnest
            out["blade_mass"] = self.blade_volume() * forged.density
            if self.cut.geometry.blade.laminate or self.cut.part:
                out["core"] = stations_json(self.cut, 24)
        return out

    @cached_property
    def thinnest(self) -> float | None:
        """The finest layers on the blade, mm."""
        return thinnest_layer(self.cut) if self.cut else None

    @cached_property
    def fire(self) -> FireOut:
        """Every heat of the recipe. Raises InputError when the bar cannot begin."""
        return work_the_fire(self.document.fire, self.forged)

    @cached_property
    def hardening(self) -> WorkedHardening:
        """How the blade (or the bar, while there is none) is hardened, its carbon as the fire left it."""
        carbon = dict(self.fire.carbon)
        bar = self.forged.bar
        if not self.cut:
            mass = bar.volume * self.forged.density
            return of_design(
                self.document.hardening,
                carbon,
                tuple(carbon),
                min(bar.width, bar.thickness),
                bar.length,
                bar.width,
                mass,
                self.forged.steels,
                self.shop,
            )
        geometry = self.cut.geometry
        spine = geometry.blade.spine_thickness.most
        mass = self.blade_volume() * self.forged.density
        edge = self.at_edge
        return of_design(
            self.document.hardening,
            carbon | {k: v for k, v in self.fire.middle.items() if k in edge and not self._is_clad(k)},
            edge,
            spine,
            geometry.length,
            float(geometry.height(np.array([0.3 * geometry.length]))[0]),
            mass,
            self.forged.steels,
            self.shop,
        )

    @cached_property
    def _edge(self) -> list[EdgeSteel]:
        """The steel along the edge of the blade."""
        assert self.cut
        return edge_steels(self.cut)

    @cached_property
    def at_edge(self) -> tuple[str, ...]:
        """The steels that the edge is of, over more than a sliver of its length."""
        runs = stretches(self._edge)
        long = sum(s.end - s.start for s in runs) or 1.0
        share: dict[str, float] = {}
        for s in runs:
            share[s.steel] = share.get(s.steel, 0.0) + (s.end - s.start) / long
        return tuple(k for k, v in share.items() if v > SLIVER)

    def _is_clad(self, steel: str) -> bool:
        """Whether it lies beside a plain core: an edge that comes to lie in it is off the middle, and has not what the middle took up."""
        assert self.cut
        return bool(self.cut.core and self.cut.part and self.cut.part.steel and steel != self.cut.part.steel)

    def _quench(self) -> str:
        """What the blade is quenched in, as its hardening plan has it; the fire is only worked out where carbon taken up decides it."""
        if self.document.hardening.quench:
            return self.document.hardening.quench
        if self.at_edge and all(self.shop.steels[k].hardening for k in self.at_edge):
            return common_quench([self.shop.steels[k] for k in self.at_edge])
        return self.hardening.quench

    @cached_property
    def fired_look(self) -> Look:
        """How it etches after its fires: carbon where it ended, the skins left in its welds."""
        out = self.fire
        return Look(tones_after(out.carbon, self.shop.steels), out.joint)

    def blade_volume(self) -> float:
        """mm3, without the tang."""
        assert self.cut
        return blade_body(self.cut.geometry).volume

    def fired_findings(self) -> list[dict[str, Any]]:
        """What must be said of the blade once its fires are worked out: apart from the rest, which follows the hand."""
        thinnest = self.thinnest
        if thinnest is None or not may_have_evened(thinnest):
            return []
        return [f.as_json() for f in evened_findings(thinnest, self.fire.left, self.fire.lasts)]

    def blade_findings(self) -> list[dict[str, Any]]:
        if not self.cut:
            return []
        loose = [unwelded_blade()] if self.forged.joints.bare else []
        fits = loose + self.cut.placed.checks() + self.cut.placed.geometry.checks()
        found = fits + blade_findings(self.cut, self.thinnest)
        # the fire is only worked out where it can make a difference
        soft = any(not self.shop.steels[e.steel].hardening for e in self._edge)
        edge = edge_findings(self.cut, self._edge, self.hardening.taken_up if soft else {})
        return [f.as_json() for f in found + edge + hardening_findings(self.cut.geometry, self._quench())]


def label(bar: BarRecipe) -> str:
    """A few words for a bar: its note's first line, or what it begins as and what shapes its pattern."""
    if bar.note:
        return bar.note.splitlines()[0][:60]
    plain = {"weld", "draw", "grind", "trim", "section", "uneven"}
    words = [bar.start.title]
    words += [f"{s.title} {s.brief()}".strip().lower() for s in bar.steps if s.kind not in plain]  # type: ignore[attr-defined]
    return ", ".join(words)[:60]


def stations_json(cut: Cut, n: int) -> list[dict[str, Any]]:
    """The core line for the screen, where heights are told square to the edge."""
    curves = cut.geometry.curves
    found = list(cut.exposure(n, SCREEN))
    x = np.array([s.x for s in found])
    slants, edge = np.cos(curves.edge_angle(x)), curves.edge(x)
    return [_station_json(s, float(c)) | {"edge": float(y)} for s, c, y in zip(found, slants, edge, strict=True)]


def _station_json(s: Station, slant: float) -> dict[str, Any]:
    """A station for the screen, where heights are told square to the edge; `slant`: cosine of the edge's angle there."""
    return {
        "x": s.x, "side": s.side, "state": s.state, "height": s.height * slant, "shown": [[low * slant, high * slant] for low, high in s.shown],
        "clad_share": s.clad_share, "core_at_edge": s.core_at_edge, "slant": slant,
    }  # fmt: skip
