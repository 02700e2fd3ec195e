"""A design carried out as far as it goes: its bars, its blade, its fires, its hardening. What is told of them has files of its own."""

from dataclasses import dataclass

import numpy as np

from varistrat.core.bars.forged import Forged, attempt
from varistrat.core.blade.areas import Areas, areas_of
from varistrat.core.blade.measures import blade_body, finished_edge
from varistrat.core.cached import cached_property
from varistrat.core.cutting.cut import Cut
from varistrat.core.cutting.edge import EdgeSteel, edge_steels, stretches
from varistrat.core.cutting.layers import face_shares, thinnest_layer
from varistrat.core.design.document import Document
from varistrat.core.errors import InputError, Problem
from varistrat.core.heat.fires.fire import FireOut, work_the_fire
from varistrat.core.heat.fires.fired_tones import FiredTones, tones_after
from varistrat.core.heat.hardening.hardening import BladeHardening, asked_of, of_design
from varistrat.core.heat.hardening.plan import hardening_plan
from varistrat.core.heat.hardening.plan.step import PlanStep
from varistrat.core.shop import ShopData
from varistrat.core.steels.ceiling import ceiling
from varistrat.core.steels.hardening import can_harden, common_quench

SLIVER = 0.04
"""Share of the edge that a steel must make up to have a say in its hardening."""


@dataclass(frozen=True)
class Worked:
    """A document carried out as far as it goes: every bar of it, and the blade; with the steels and numbers of one shop, then and later."""

    document: Document
    bars: dict[str, Forged]
    """By id."""
    problems: tuple[Problem, ...]
    cut: Cut | None

    @classmethod
    def of(cls, document: Document) -> "Worked":
        """Forge a document's bars and lay its blade on the finished one; what cannot be done is in `problems`."""
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

    @property
    def shop(self) -> ShopData:
        """What it was worked out with."""
        return self.document.shop

    def bar(self, bar: str = "") -> Forged:
        """One bar by its id (empty: the whole), as far as it goes. Raises InputError with what keeps it from beginning."""
        found = self.bars.get(self.document.bar(bar).id)
        if found is None:
            raise InputError(self.problems)
        return found

    @property
    def forged(self) -> Forged:
        """The finished bar of the recipe."""
        return self.bar()

    @property
    def blade(self) -> Cut:
        """Its blade. Raises InputError with what keeps it from being cut, or when there is none."""
        if self.cut is None:
            raise InputError(self.problems) if self.problems else InputError.at("blade", "there is no blade in this design", "add one")
        return self.cut

    @cached_property
    def thinnest(self) -> float | None:
        """The finest layers on the blade, mm."""
        return thinnest_layer(self.cut) if self.cut else None

    @cached_property
    def face_shares(self) -> dict[str, float]:
        """Share of each steel on the faces of the blade. Raises InputError when there is none."""
        return face_shares(self.blade)

    @cached_property
    def areas(self) -> Areas:
        """How much there is to sand and to etch. Raises InputError when there is no blade."""
        return areas_of(self.blade.geometry)

    @cached_property
    def blade_volume(self) -> float:
        """mm3, without the tang."""
        return blade_body(self.blade.geometry).volume

    @cached_property
    def fire(self) -> FireOut:
        """Every heat of the recipe. Raises InputError when the bar cannot begin."""
        return work_the_fire(self.document.fire, self.forged)

    @cached_property
    def fired_tones(self) -> FiredTones:
        """How it etches after its fires: carbon where it ended, the skins left in its welds."""
        return FiredTones(tones_after(self.fire.carbon, self.shop.steels), self.fire.joint)

    @cached_property
    def edge(self) -> list[EdgeSteel]:
        """The steel along the edge of the blade."""
        return edge_steels(self.blade)

    @cached_property
    def at_edge(self) -> tuple[str, ...]:
        """The steels that the edge is of, over more than a sliver of its length."""
        runs = stretches(self.edge)
        long = sum(s.end - s.start for s in runs) or 1.0
        share: dict[str, float] = {}
        for s in runs:
            share[s.steel] = share.get(s.steel, 0.0) + (s.end - s.start) / long
        return tuple(k for k, v in share.items() if v > SLIVER)

    @cached_property
    def hardening(self) -> BladeHardening:
        """How the blade (or the bar, while there is none) is hardened, its carbon as the fire left it."""
        carbon, forged = dict(self.fire.carbon), self.forged
        if not self.cut:
            bar = forged.bar
            sizes = min(bar.width, bar.thickness), bar.length, bar.width, bar.volume * forged.density
            return of_design(self.document.hardening, carbon, tuple(carbon), *sizes, forged.steels, self.shop)
        geometry, edge = self.cut.geometry, self.at_edge
        tang = geometry.blade.tang.length if geometry.blade.tang else 0.0
        height = float(geometry.height(np.array([0.3 * geometry.length]))[0])
        sizes = geometry.blade.spine_thickness.most, geometry.length, height, self.blade_volume * forged.density
        carbon |= {k: v for k, v in self.fire.middle.items() if k in edge and not self._is_clad(k)}
        whole = geometry.length + tang
        more = self.patterned, finished_edge(geometry), whole, self._lopsided
        return of_design(self.document.hardening, carbon, edge, *sizes, forged.steels, self.shop, *more)

    @cached_property
    def hardening_steps(self) -> list[PlanStep]:
        """How that is done, step by step; none where nothing hardens."""
        return hardening_plan(self.hardening)

    @property
    def _lopsided(self) -> float:
        """How unevenly what hardens lies about the middle of the thickness: 0 evenly, 1 all on one side, 0 where it is not seen."""
        column, steels = self.fire.inside, self.shop.steels
        if not self.cut or self.fire.normal != "z":
            return 0.0
        thick = column.thickness()
        at = np.cumsum(thick) - thick / 2 - thick.sum() / 2
        hard = np.array([can_harden(steels[k], self.fire.carbon.get(k, steels[k].share("C"))) for k in column.steels], float)
        most = thick.sum() ** 2 / 8
        return float(abs((hard * thick * at).sum()) / most)

    @property
    def has_core(self) -> bool:
        """Whether the blade has a core whose line can be looked at."""
        return self.cut is not None and bool(self.cut.geometry.blade.laminate or self.cut.part)

    @property
    def patterned(self) -> bool:
        """Whether the blade is of layers that are no core and clad: any of them may come to its edge."""
        return self.cut is not None and self.cut.part is None and len(self.forged.steels) > 1

    @property
    def quench(self) -> str:
        """What the blade is quenched in, as its hardening plan has it; the fire is only worked out where carbon taken up decides it."""
        if self.document.hardening.quench:
            return self.document.hardening.quench
        steels, pattern = self.shop.steels, self.forged.steels if self.patterned else ()
        keys = pattern or self.at_edge
        if keys and all(steels[k].hardening and steels[k].austenitise for k in keys):
            ranges = {k: own for k in keys if (own := steels[k].austenitise)}
            asked = asked_of(self.at_edge, pattern, ranges, ceiling([steels[k] for k in self.forged.steels]))
            return common_quench([steels[k] for k in asked])
        return self.hardening.quench

    def _is_clad(self, steel: str) -> bool:
        """Whether it lies beside a plain core: an edge that comes to lie in it is off the middle, and has not what the middle took up."""
        cut = self.blade
        return bool(cut.core and cut.part and cut.part.steel and steel != cut.part.steel)
