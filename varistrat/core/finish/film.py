"""The film: a blade after its cycles and its polishing, each stage as tone and depth of every steel. docs/physics.md#film."""

from collections.abc import Mapping
from dataclasses import dataclass
from math import exp

from varistrat.core.design.worked import Worked
from varistrat.core.finish.cycles import EtchPlan
from varistrat.core.finish.depth import etch
from varistrat.core.pattern.picture import Subject

BRIGHT = 9.0
"""Tone of steel as sanded."""
DARKENS = 1.2
"""um of steel that must go until most of its tone has come; indicative: a minute on carbon steel."""
POLISHED, TOP_SHARE = 0.9, 0.35
"""Tone that polishing gives back to the tops: about 12 of 100 in lightness; tops: what stands within this share of the relief."""
FURTHER = 1.6
"""The stage beyond the plan is so much longer."""
STAGES = 6


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


def film(worked: Worked, plan: EtchPlan, moved: float = 1.0) -> list[StageOfFilm]:
    """Six stages: after the first cycle, a third, two thirds and all of them with the oxide on, the tops polished, and one further on
    (or the last bath for tone, where the plan has one)."""
    last = len(plan.cycles) - 1
    at = sorted({0, round(last / 3), round(2 * last / 3), last})
    out = []
    for i in at[:-1]:
        out.append(_stage(worked, plan, i, f"cycle-{i + 1}", "After the first minute" if i == 0 else f"After cycle {i + 1}", False))
    out.append(_stage(worked, plan, last, "oxide", f"After all {last + 1}, the dark still on", False))
    out.append(_stage(worked, plan, last, "polished", "Tops polished, oiled", True))
    tone = worked.document.finish.tone
    if tone != "none":
        out.append(_toned(worked, out[-1], tone))
    out.append(_further(worked, plan, moved))
    return out[:STAGES]


def subject_at(worked: Worked, stage: StageOfFilm) -> Subject:
    """What is drawn of a stage."""
    return Subject(worked.blade.trace, dict(stage.tones), worked.fired_tones.skin, dict(stage.depths))


def _stage(worked: Worked, plan: EtchPlan, cycle: int, key: str, says: str, polished: bool) -> StageOfFilm:
    depths = {k: d[cycle] for k, d in plan.etched.depths.items()}
    tones = tones_at(worked, depths, plan.bath.etchant.tone, polished)
    return StageOfFilm(key, says, sum(c.minutes for c in plan.cycles[: cycle + 1]), _relief(depths), tones, depths, polished)


def _further(worked: Worked, plan: EtchPlan, moved: float) -> StageOfFilm:

    minutes = [c.minutes * FURTHER for c in plan.cycles]
    etched = etch(plan.bath, plan.surface, minutes, worked.areas.wet, worked.shop.numbers, moved)
    depths = {k: d[-1] for k, d in etched.depths.items()}
    tones = tones_at(worked, depths, plan.bath.etchant.tone, True)
    return StageOfFilm("further", f"{FURTHER:g} times as long, polished", sum(minutes), _relief(depths), tones, depths, True)


def _toned(worked: Worked, before: StageOfFilm, tone: str) -> StageOfFilm:
    tones = tones_at(worked, dict.fromkeys(before.depths, 1000.0), tone, False)
    lit = {k: max(v, before.tones[k]) if before.tones[k] > 7 else v for k, v in tones.items()}
    return StageOfFilm("toned", f"After {tone}", before.minutes, before.relief, lit, before.depths, False)


def _relief(depths: Mapping[str, float]) -> float:
    return max(depths.values()) - min(depths.values())


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
