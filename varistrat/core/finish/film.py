"""The film: a blade after its cycles and its polishing, each stage as tone and depth of every steel. docs/physics.md#film."""

from collections.abc import Mapping
from dataclasses import dataclass
from math import exp

from varistrat.core.design.worked import Worked
from varistrat.core.finish.cycles import EtchPlan
from varistrat.core.finish.depth import DARKENS, agitation, etch
from varistrat.core.pattern.picture import Subject

BRIGHT = 9.0
"""Tone of steel as sanded."""
POLISHED, TOP_SHARE = 0.9, 0.35
"""Tone that polishing gives back to the tops: about 12 of 100 in lightness; tops: what stands within this share of the relief."""
FURTHER = 1.5
"""The stage beyond the plan is so much longer."""


@dataclass(frozen=True)
class StageOfFilm:
    """key; says: in words; minutes in the bath by then; relief: um; tones, depths: of each steel; polished: the tops are bright."""

    key: str
    says: str
    minutes: float
    relief: float
    tones: Mapping[str, float]
    depths: Mapping[str, float]
    polished: bool


def film(worked: Worked, plan: EtchPlan) -> list[StageOfFilm]:
    """Six stages: after the first minute, on the way, all of it with the oxide on, the tops polished, and half as long again; the last bath
    for tone among them, where the plan has one."""
    toned = worked.document.finish.tone != "none"
    whole = plan.minutes
    out = [_stage(worked, plan, "first", "After the first minute", min(1.0, whole / 4))]
    for share, key, says in ((0.55, "half", "Half way"),) if toned else ((0.35, "third", "A third of the way"), (0.7, "far", "Two thirds")):
        out.append(_stage(worked, plan, key, says, share * whole))
    out.append(_stage(worked, plan, "oxide", "All of it, the dark still on", whole))
    out.append(_stage(worked, plan, "polished", "Tops polished, oiled", whole, True))
    if toned:
        out.append(_toned(worked, out[-1], worked.document.finish.tone))
    out.append(_stage(worked, plan, "further", f"{FURTHER:g} times as long, polished", FURTHER * whole, True))
    return out


def subject_at(worked: Worked, stage: StageOfFilm) -> Subject:
    """What is drawn of a stage."""
    return Subject(worked.blade.trace, dict(stage.tones), worked.fired_tones.skin, dict(stage.depths))


def _stage(worked: Worked, plan: EtchPlan, key: str, says: str, minutes: float, polished: bool = False) -> StageOfFilm:
    etched = etch(plan.bath, plan.surface, [minutes], worked.areas.wet, worked.shop.numbers, agitation(worked))
    depths = {k: d[-1] for k, d in etched.depths.items()}
    tones = tones_at(worked, depths, plan.bath.etchant.tone, polished)
    return StageOfFilm(key, says, minutes, etched.relief, tones, depths, polished)


def _toned(worked: Worked, before: StageOfFilm, tone: str) -> StageOfFilm:
    tones = tones_at(worked, dict.fromkeys(before.depths, 1000.0), tone, False)
    lit = {k: max(v, before.tones[k]) if before.tones[k] > 7 else v for k, v in tones.items()}
    return StageOfFilm("toned", f"After {tone}", before.minutes, before.relief, lit, before.depths, False)


def tones_at(worked: Worked, depths: Mapping[str, float], bath: str, polished: bool) -> dict[str, float]:
    """Tone 0 to 10 of each steel so deep in this bath's table: from bright to its own, as the fire left it; tops lit by polishing."""
    steels, fired = worked.shop.steels, worked.fired_tones.tones
    low, high = min(depths.values()), max(depths.values())
    out = {}
    for key, depth in depths.items():
        steel = steels[key]
        own = steel.tone[bath] + fired.get(key, steel.shade) - steel.shade  # type: ignore[index]
        # what is hardly touched stays as sanded only where its own tone is bright too
        tone = own + (BRIGHT - own) * exp(-depth / DARKENS)
        if polished and high > low and depth - low <= TOP_SHARE * (high - low):
            tone += POLISHED
        out[key] = min(10.0, max(0.0, tone))
    return out
