"""The fires of a whole recipe: how many heats each step takes, how hot and long, and what they do to the steel.

Settings are the smith's; what is left out is worked out from the steels, the sizes and the tools. The walk
follows the recipe bar by bar, with the line through the layers (layer_line.py) and the skin of its faces.
"""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace
from typing import Annotated

import numpy as np
from pydantic import Field

from varistrat.core.bars.bar import Bar
from varistrat.core.bars.forged import Forged, Stage
from varistrat.core.bars.identity import Id
from varistrat.core.bars.layer_line import LayerLine, Normal
from varistrat.core.bars.model import HeatDemand, kind_of
from varistrat.core.cached import cached_property
from varistrat.core.figures import Numbers
from varistrat.core.heat.fires import skin
from varistrat.core.heat.fires.carried import Carried, begin, left_on, period, scales, skin_after
from varistrat.core.heat.fires.fire_findings import caution_of, fire_findings
from varistrat.core.heat.fires.fired import AGAIN, Fired
from varistrat.core.heat.fires.homogenisation import in_the_middle, minutes_to_even, profile, settled, uneven, within
from varistrat.core.heat.fires.passes import passes_of
from varistrat.core.heat.fires.soak import soak_minutes
from varistrat.core.heat.fires.working import MOST, Tool, heats_to_work, spread_under, tool_of
from varistrat.core.laws.carbon import LASTS, contrast_left, worst_contrast
from varistrat.core.laws.column import Column
from varistrat.core.laws.numbers import Atmosphere, kept_at_heat
from varistrat.core.limits import MAX_ALL_STEPS
from varistrat.core.model import Model, shown
from varistrat.core.pairing.pairing import Pairing
from varistrat.core.shop import ShopData
from varistrat.core.steels import Steel
from varistrat.core.steels.flow import stress

Heat = Annotated[float, Field(ge=600, le=1500)]
HEATING_COUNTS = 0.25
"""Share of the heating-up that counts as time at heat; indicative."""
SHEAR_A_HEAT = 1.25
"""Shear of the skin that one heat stands; indicative."""
CLEAN: dict[str, Atmosphere] = {"": "flux", "fluxed": "flux", "dry": "rich", "sealed": "sealed"}
"""What the faces meet in a weld, by how they are kept clean."""


class HeatsOf(Model):
    """What the smith says of the heats of one step; what is left out is worked out."""

    step: Id
    heats: Annotated[int, Field(ge=0, le=MOST)] | None = None
    celsius: Heat | None = None
    minutes: Annotated[float, Field(ge=0, le=600)] | None = None
    atmosphere: Atmosphere | None = None


class Fire(Model):
    """How the shop fires: for every step that says nothing else."""

    weld: Heat | None = Field(None, **shown("Welding heat", "C", "left empty: the middle of what suits the steels"))
    forge: Heat | None = Field(None, **shown("Forging heat", "C", "left empty: a little under the top of what suits the steels"))
    gas: Atmosphere = Field("neutral", **shown("The fire"))
    tool: Tool = Field("press", **shown("Drawn out under"))
    steps: Annotated[list[HeatsOf], Field(max_length=MAX_ALL_STEPS)] = []


@dataclass(frozen=True)
class FireOut:
    """All heats of a recipe, in the order of the work; carbon and contrast at the end.

    carbon: of each steel below the skin, %; middle: of those in the middle of the bar's height, where an edge lies;
    inside: the line through the finished bar's layers, without its skin.
    """

    fired: tuple[Fired, ...]
    carbon: Mapping[str, float]
    middle: Mapping[str, float]
    inside: Column
    element: str
    apart: float
    contrast: float
    steels: tuple[str, ...]
    weld: float
    forge: float
    joint: float
    """Pale line at the worst weld, in the finished bar, mm."""
    bar: str
    """Id of the finished bar."""
    shop: ShopData
    normal: Normal
    """Which way the line through the layers runs."""

    @property
    def lasts(self) -> bool:
        """Whether the steels stay apart in the etch once their carbon is even."""
        return self.apart >= LASTS

    @cached_property
    def left(self) -> float:
        """Share of the layers' carbon differences that is left at the end: as its last step tells it (see `uneven`)."""
        last = self.fired[-1] if self.fired else None
        return last.uneven if last and last.bar == self.bar else uneven(self.inside, self.shop.steels)

    @cached_property
    def even_in(self) -> float | None:
        """Minutes more at the forging heat until carbon is even, None when no fire is kept so long."""
        return minutes_to_even(self.inside, self.forge, self.shop.steels)

    @property
    def scale_volume(self) -> float:
        """Turned to scale in all fires, mm3."""
        return sum(f.scale_volume for f in self.fired)

    @property
    def hours(self) -> float:
        """In the fire, all heats of all bars one after the other."""
        return sum(f.all_in_fire for f in self.fired) / 60


def work_the_fire(fire: Fire, root: Forged) -> FireOut:
    """Every heat of a recipe."""
    steels = root.shop.steels
    keys = [k for k in root.steels if steels[k].solidus > 0]
    found: list[Fired] = []
    line = _bar(fire, root, {s.step: s for s in fire.steps}, found)
    names = tuple(dict.fromkeys(line.through.column.steels))
    element, apart = worst_contrast([steels[k].composition for k in names]) if len(names) > 1 else ("Ni", 0.0)
    left = contrast_left(element, line.past) if line.past and apart else 1.0
    weld, forge = heats_of(fire, [steels[k] for k in keys])
    column = line.through.column
    middle = in_the_middle(column) if line.through.normal == "z" else {}
    inside = within(column, skin.to_grind(line.skin))
    return FireOut(
        tuple(found),
        line.carbon,
        middle,
        inside,
        element,
        apart,
        left,
        tuple(keys),
        weld,
        forge,
        line.joint,
        root.id,
        root.shop,
        line.through.normal,
    )


def heats_of(fire: Fire, steels: Sequence[Steel]) -> tuple[float, float]:
    """(welding, forging) temperature for these steels, C: the smith's, or what suits them all."""
    if len(steels) > 1:
        window = Pairing.of(steels).weld_window
        together = Pairing.of(steels).forge_window
    else:
        window, together = steels[0].weld, steels[0].forge
    tops = [s.weld[1] for s in steels if s.weld] or [s.forge[1] for s in steels]
    weld = fire.weld or (10 * round(sum(window) / 20) if window else min(tops))
    top = together[1] if together else min(s.forge[1] for s in steels)
    return weld, fire.forge or 10 * round((top - 30) / 10)


def _bar(
    fire: Fire,
    forged: Forged,
    said: Mapping[str, HeatsOf],
    found: list[Fired],
) -> Carried:
    children = [_bar(fire, c, said, found) for c in forged.children]
    line = begin(forged, children)
    weld, forge = heats_of(fire, [forged.shop.steels[k] for k in forged.steels])
    for i, stage in enumerate(forged.stages):
        follows = i + 1 < len(forged.stages) and forged.stages[i + 1].step.fire == "weld"
        line.canned = i < forged.in_can
        fired = _stage(fire, forged, stage, line, said.get(stage.step.id), (weld, forge), follows)
        line.loose = line.loose and not stage.step.fire
        if fired:
            found.append(fired)
    return line


def _stage(
    fire: Fire,
    forged: Forged,
    stage: Stage,
    line: Carried,
    said: HeatsOf | None,
    usual: tuple[float, float],
    weld_follows: bool,
) -> Fired | None:
    """Heat the line and carry the step out on it; None for a step done cold that leaves nothing to tell."""
    step, before, after = stage.step, stage.before, stage.after
    demand = step.heat_demand(before, after)
    numbers = forged.shop.numbers
    steels = [forged.shop.steels[k] for k in forged.steels]
    hot = step.fire in ("weld", "join")
    celsius = (said and said.celsius) or (usual[0] if hot else usual[1])
    heats, soak, stretches = 0, 0.0, 1
    if step.fire:
        soak = soak_minutes(
            before.width, before.thickness, celsius, conducts=0.1 if line.loose else 1.0, dense=0.65 if line.loose else 1.0, numbers=numbers
        )
        floor = working_floor(line.through)
        heats, stretches = _heats(fire, step.fire, demand, before, after, celsius, steels, weld_follows, floor, numbers)
    if said and said.heats is not None:
        heats = said.heats
    minutes = (
        said.minutes
        if said and said.minutes is not None
        else round(kept_at_heat(step.fire, numbers) + HEATING_COUNTS * soak * (1 if heats < 2 else AGAIN), 1)
    )
    gas: Atmosphere = (said and said.atmosphere) or ("sealed" if line.canned else CLEAN[demand.kept_clean] if hot else fire.gas)
    column = line.through.column
    around, faces = scales(line.through, before)
    carbon_there = float(column.layer_carbon()[[0, -1]].max())
    each = -(-heats // stretches)
    # each heat whose scale is knocked off begins afresh; skins add in quadrature
    loss = each * skin.scale_loss(celsius, minutes, gas, around, numbers)
    new = each**0.5 * skin.decarb_depth(celsius, minutes, max(carbon_there, 0.05), gas, numbers=numbers)
    bare = None if gas == "sealed" else skin.scale_loss(celsius, minutes, gas, faces, numbers)
    column = column.heated(celsius, minutes, each, open_bottom=bare, open_top=bare, deeper=skin.depth_factor(celsius, numbers))
    line.past.append((celsius, minutes * each, period(column)))
    line.through = replace(line.through, column=column)
    line.skin = skin.added(line.skin, new)
    left = left_on(demand.ground, line.skin) if step.joins else 0.0
    line.through = step.through(line.through, before, after)
    line.skin = skin_after(step, demand.ground, line.skin, before, after)
    if step.fire:
        line.joint = skin.thinned(line.joint, min(1.0, (after.section.area / before.section.area) ** 0.5))
    line.joint = max(line.joint, left)
    own = tuple(n for n in ("heats", "celsius", "minutes", "atmosphere") if said and getattr(said, n) is not None)
    if not step.fire and not step.joins:
        return None
    area = 2 * (before.width + before.thickness) * before.length
    column, below = line.through.column, skin.to_grind(line.skin)
    fired = Fired(
        forged.id,
        step.id,
        kind_of(step),
        heats,
        each,
        celsius,
        minutes,
        soak,
        gas,
        loss,
        loss * area,
        line.skin,
        below,
        left,
        column.thinnest,
        column.height,
        line.through.normal,
        round(column.layers),
        settled(column, below),
        profile(column),
        uneven(within(column, below), forged.shop.steels),
        own,
    )
    shut, tool = line.canned or gas == "sealed", tool_of(demand, fire.tool)
    return replace(
        fired,
        findings=tuple(fire_findings(fired, steels, step.fire, before, line.loose, numbers)),
        caution=caution_of(fired, step.fire, tool, steels, shut),
        spread=spread_under(before, after, tool, numbers) if step.spreads else None,
        passes=passes_of(before, after, tool, fired.each, numbers) if step.spreads else (),
    )


def working_floor(line: LayerLine) -> float:
    """C down to which the bar as a whole is worked: the least forging heats of its layers, by how much of it each is.

    Not the highest of them: a thin layer that likes it hotter goes with the rest, and one that may be worked colder does not hold it up.
    """
    return float(np.average([line.shop.steels[k].forge[0] for k in line.column.steels], weights=line.column.thickness()))


def _heats(
    fire: Fire,
    kind: str,
    demand: HeatDemand,
    before: Bar,
    after: Bar,
    celsius: float,
    steels: list[Steel],
    weld_follows: bool,
    floor: float,
    numbers: Numbers,
) -> tuple[int, int]:
    if kind == "join":
        return (0 if weld_follows else 1), 1
    work = heats_to_work(
        before,
        after,
        tool_of(demand, fire.tool),
        float(np.mean([stress(s, min(celsius, 1200.0) - 50) for s in steels])),
        celsius,
        min(floor, celsius - 50),
        numbers,
    )
    if kind == "weld":
        # one to set it, then down
        return max(demand.heats * work.stretches, work.stretches + work.heats), work.stretches
    if kind == "twist":
        return max(1, int(np.ceil(demand.shear / SHEAR_A_HEAT))) * work.stretches, work.stretches
    return max(1, work.heats), work.stretches
