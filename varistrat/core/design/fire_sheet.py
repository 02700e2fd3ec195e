"""The fires of a design as they are told: every step's heats, and what becomes of the steels."""

from dataclasses import dataclass
from typing import Literal

from varistrat.core.bars.fresh import WORDS
from varistrat.core.bars.layer_line import Normal
from varistrat.core.design.scale import ScaleCounted, scale_counted
from varistrat.core.design.worked import Worked
from varistrat.core.etch.tones import reflectance
from varistrat.core.findings import Finding
from varistrat.core.heat.colours import glow
from varistrat.core.heat.fires.fired import Fired
from varistrat.core.heat.fires.homogenisation import homogeneity
from varistrat.core.heat.fires.passes import Pass
from varistrat.core.laws.numbers import Atmosphere


@dataclass(frozen=True)
class SteelInFire:
    """carbon: its own, %; after: what it ends at along the line followed, None when that line does not meet it."""

    key: str
    name: str
    grey: float
    carbon: float
    after: float | None
    tone: float
    tone_after: float


@dataclass(frozen=True)
class CarbonProfile:
    """Carbon along the line through the layers, `across` mm long: height as a share, %, and which steel (index in `steels`).

    normal: which way the layers are piled in the bar; empty: all ways, thick as in a square bar of the same section.
    """

    across: float
    normal: Normal
    height: list[float]
    carbon: list[float]
    steel: list[int]
    steels: list[str]


@dataclass(frozen=True)
class FiredStep:
    """One step's heats: see Fired. scale_now: what the step's own `scale` says, mm; spread:
    of a draw, width left free and the die or rolls, mm; passes: of a draw under press or rolls."""

    bar: str
    step: str
    kind: str
    title: str
    heats: int
    each: int
    celsius: float
    glow: str
    minutes: float
    soak: float
    atmosphere: Atmosphere
    scale: float
    scale_mass: float
    skin: float
    grind: float
    left: float
    thinnest: float
    layers: int
    even: Literal["even", "partly", "own"]
    carbon: dict[str, tuple[float, float, float]]
    profile: CarbonProfile
    own: list[str]
    scale_now: float
    caution: str
    spread: tuple[float, float] | None
    passes: list[Pass]
    findings: list[Finding]


@dataclass(frozen=True)
class FireSheet:
    """weld, forge: heats for every step that says nothing else, C. apart: difference of `element` between the steels, %; contrast: share
    of it that stays. even_in: minutes more at the forging heat until carbon is even, with layers as thick as they are, None when no fire is
    kept so long. edge: carbon of each steel that lies at the edge of the blade, %; empty without one.
    """

    steps: list[FiredStep]
    steels: list[SteelInFire]
    weld: float
    forge: float
    heats: int
    hours: float
    scale_mass: float
    scale_share: float
    counted: ScaleCounted
    element: str
    apart: float
    lasts: bool
    contrast: float
    joint: float
    even_in: float | None
    edge: dict[str, float]


def fire_sheet(worked: Worked) -> FireSheet:
    """Raises InputError when the bar cannot begin."""
    out, density = worked.fire, worked.forged.density
    _, put_in = worked.forged.put_in()
    tones, steels = worked.fired_tones.tones, worked.shop.steels
    here = [
        SteelInFire(
            k,
            steels[k].name,
            reflectance(steels[k].shade),
            steels[k].share("C"),
            out.carbon.get(k),
            steels[k].shade,
            tones.get(k, steels[k].shade),
        )
        for k in out.steels
    ]
    return FireSheet(
        [_told(worked, f, density) for f in out.fired],
        here,
        out.weld,
        out.forge,
        sum(f.heats for f in out.fired),
        out.hours,
        out.scale_volume * density,
        out.scale_volume * density / put_in,
        scale_counted(worked),
        out.element,
        out.apart,
        out.lasts,
        out.contrast,
        out.joint,
        out.even_in,
        {p.steel.key: p.carbon for p in worked.hardening.parts if p.edge} if worked.cut else {},
    )


def _told(worked: Worked, f: Fired, density: float) -> FiredStep:
    height, carbon, steel = f.profile
    said = glow(f.celsius)
    step = next(s for s in worked.document.bar(f.bar).steps if s.id == f.step)
    return FiredStep(
        f.bar,
        f.step,
        f.kind,
        WORDS[f.kind]["name"],
        f.heats,
        f.each,
        f.celsius,
        said[1] if said else "",
        f.minutes,
        f.soak,
        f.atmosphere,
        f.scale,
        f.scale_volume * density,
        f.skin,
        f.grind,
        f.left,
        f.thinnest,
        f.layers,
        homogeneity(f.uneven),
        dict(f.carbon),
        CarbonProfile(f.across, f.normal, height, carbon, steel, list(f.carbon)),
        list(f.own),
        step.scale,
        f.caution,
        f.spread,
        list(f.passes),
        list(f.findings),
    )
