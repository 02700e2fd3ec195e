"""How the steels etch once the fire has moved their carbon."""

from collections.abc import Mapping
from dataclasses import dataclass

from varistrat.core.steels import Steel
from varistrat.core.steels.estimate import tone_of


@dataclass(frozen=True)
class FiredTones:
    """How steels etch other than by their own tones: tone by steel, and the pale line at a weld, mm."""

    tones: Mapping[str, float]
    skin: float


def tones_after(carbon: Mapping[str, float], steels: Mapping[str, Steel]) -> dict[str, float]:
    """Tone of each steel with the carbon it ends at: its own, moved as the tone model moves; indicative. docs/physics.md#tone-model."""
    out = {}
    for key, now in carbon.items():
        steel = steels[key]
        moved = tone_of({**steel.composition, "C": now}) - tone_of(steel.composition)
        out[key] = min(10.0, max(0.0, steel.shade + moved))
    return out
