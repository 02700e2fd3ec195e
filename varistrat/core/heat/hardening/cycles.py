"""How steels are normalised and annealed before hardening, by kind; a stack takes what its most demanding steel asks. C, minutes."""

from collections.abc import Sequence
from dataclasses import dataclass

from varistrat.core.steels.model import Cycle, Steel


@dataclass(frozen=True)
class Softening:
    """normalise: falling heats, each `hold` minutes and then still air to black; anneal: C and hours under Ac1."""

    normalise: tuple[float, ...]
    hold: float
    anneal: tuple[float, float]
    why: str


CYCLES: dict[Cycle, Softening] = {
    "plain": Softening((870, 840, 800), 8, (680, 1), "Three falling heats make the grain fine again."),
    "high_carbon": Softening(
        (890, 800, 770),
        8,
        (690, 2),
        ("The first heat goes above the carbide line and dissolves the network at the grain boundaries; the next two make the grain fine."),
    ),
    "very_high_carbon": Softening(
        (940, 800, 770), 8, (690, 2), "1.2 % carbon needs 930 to 950 C once to dissolve the carbide network; cool it fast in air."
    ),
    "52100": Softening((935, 850, 790), 20, (690, 2), "Chromium carbides dissolve slowly: one hot, long heat, then down."),
    "low_chromium": Softening((870, 840, 800), 10, (690, 1.5), "Three falling heats make the grain fine again."),
    "o1": Softening((870, 800), 10, (700, 2), "Thin sections harden in air: anneal after each, or they crack when worked."),
    "l6": Softening((870,), 10, (665, 2), "It part-hardens in air: one heat, then a long anneal."),
    "stainless": Softening((), 0, (760, 3), "Chromium stainless hardens in air: never normalised, only annealed under its transformation."),
    "air_tool": Softening(
        (),
        0,
        (720, 3),
        (
            "Air-hardening tool steel is never normalised: it would harden. Soften it under its transformation; a full anneal is the "
            "maker's."
        ),
    ),
}
"""Handbook practice; fair."""


def softening(steels: Sequence[Steel]) -> Softening | None:
    """For a stack: the hottest first heat any of them needs, the finest falling heats; None when none of them hardens."""
    kinds = [CYCLES[s.cycle] for s in steels if s.cycle and s.hardens != "no"]
    if not kinds:
        return None
    stainless = [k for k in kinds if not k.normalise]
    if stainless:
        return stainless[0]
    hottest = max(kinds, key=lambda k: (k.normalise[0], k.hold))
    low = min(kinds, key=lambda k: k.anneal[0])
    return Softening(hottest.normalise, max(k.hold for k in kinds), (low.anneal[0], max(k.anneal[1] for k in kinds)), hottest.why)
