"""What goes in and out of the fire's and the hardening's routes."""

from typing import Literal

from ninja import Schema

from varistrat.api.schemas import FindingOut
from varistrat.core.bars.through import Normal
from varistrat.core.laws.numbers import Atmosphere
from varistrat.core.laws.quench import Quench


class SteelHereOut(Schema):
    key: str
    name: str
    grey: float
    carbon: float
    """Its own, %."""
    after: float | None
    """What it ends at along the line followed, %; none when that line does not meet it."""
    tone: float
    tone_after: float


class ProfileOut(Schema):
    """Carbon along the line through the layers, `across` mm long: height as a share, %, and which steel (index in `steels`)."""

    across: float
    normal: Normal
    """Which way the layers are piled in the bar; empty: all ways, thick as in a square bar of the same section."""
    height: list[float]
    carbon: list[float]
    steel: list[int]
    steels: list[str]


class FiredOut(Schema):
    """See core Fired."""

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
    carbon: dict[str, list[float]]
    profile: ProfileOut
    own: list[str]
    scale_now: float
    """What the step's own `scale` says, mm."""
    caution: str
    spread: list[float] | None
    """Of a draw: width left free, and the die or rolls, mm."""
    findings: list[FindingOut]


class FireOut(Schema):
    """weld, forge: heats for every step that says nothing else, C. apart: difference of `element` between the steels, %; contrast: share of it that stays."""

    steps: list[FiredOut]
    steels: list[SteelHereOut]
    weld: float
    forge: float
    heats: int
    hours: float
    scale_mass: float
    scale_share: float
    element: str
    apart: float
    lasts: bool
    contrast: float
    joint: float
    even_in: float | None
    """Minutes more at the forging heat until carbon is even, with layers as thick as they are; none when no fire is kept so long."""
    edge: dict[str, float]
    """Carbon of each steel that lies at the edge of the blade, %; empty without one."""


class SegmentOut(Schema):
    celsius: float
    rate: float | None
    minutes: float
    through: bool
    out: bool


class PlanStepOut(Schema):
    key: str
    title: str
    do: str
    why: str
    caution: str
    program: list[SegmentOut]
    findings: list[FindingOut]
    done: bool


class MoveOut(Schema):
    """See core straighten.Move: what is bent, and how it is undone."""

    way: Literal["bow", "edgewise", "twist"]
    at: float
    supports: list[float]
    up: str
    size: float
    over: float
    strain: float
    grade: Literal["note", "care", "stop"]


class HardeningPartOut(Schema):
    """One steel of the blade. % carbon, C, shares, HRC; none where it does not harden."""

    key: str
    name: str
    edge: bool
    hardens: bool
    carbon: float
    in_solution: float | None
    ms: float | None
    retained: list[float] | None
    quenched: float | None
    within: float | None
    """How surely, HRC."""
    martensite: float | None
    """Share of it at its place that becomes martensite."""
    tempered: float | None
    window: list[float] | None
    curve: list[list[float]]


class HardeningOut(Schema):
    """lead: key of the steel that decides; temper: true heat, C; oven: what to set; shift: what readings say against the law, HRC."""

    lead: str | None
    window: list[float] | None
    heat: float
    soak: float
    quench: Quench
    start: float
    expected: list[float] | None
    temper: float | None
    set_oven: float | None
    oven: float
    shift: float
    sure: float
    colour: str
    """Run colour of the temper on bright steel, in words."""
    spine: float
    edge: float
    parts: list[HardeningPartOut]
    steps: list[PlanStepOut]
    unknown: str
    """Why the hardness of the deciding steel is not known here; empty when it is."""
    length: float
    bends: dict[Literal["soft", "window", "clamp"], list[MoveOut]]
