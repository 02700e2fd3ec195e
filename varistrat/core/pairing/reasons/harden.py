"""Whether one heat hardens all that must harden."""

from varistrat.core.laws.transform import SOLUTION_SURE, ac1
from varistrat.core.pairing.pairing import Pairing, Reason
from varistrat.core.steels.ceiling import ceiling_of
from varistrat.core.steels.hardening import TARGET

APART = 60.0
"""C between two hardening ranges from which no one heat can be tried; indicative."""


def harden(p: Pairing) -> Reason:
    """By the common hardening window and the carbon in solution."""
    names = p.names(*(p.steels[i] for i in p.asked))
    known = {i: q for i, q in p.quenched.items() if q.carbon is not None}
    sol = ", ".join(f"{p.steels[i].name} {q.carbon:.2f}" for i, q in known.items())
    why = (
        (
            f"At {p.heat:.0f} C after {p.soak:.0f} min there is in solution: {sol} % carbon (within {SOLUTION_SURE}); {TARGET[0]} to "
            f"{TARGET[1]} is wanted."
        )
        if known
        else f"From {p.heat:.0f} C."
    )
    rest = [p.steels[i].name for i in range(len(p.steels)) if i not in p.asked]
    need = "need not" if p.use == "clad" else "does not" if len(rest) == 1 else "do not"
    tail = f" {' and '.join(rest)} {need} harden." if rest else ""
    if p.window is None:
        return _no_window(p, names, why, tail)
    if p.unknown:
        first = p.unknown[0]
        return Reason(
            "harden",
            "care",
            f"How {p.steels[first].name} hardens here is not known.",
            f"{p.quenched[first].unknown}.",
            "Ask its maker for heat, soak, quench and hardness, and put them in under Steels.",
            None,
        )
    low, high = p.window
    carbons = {i: q.carbon for i, q in known.items() if q.carbon is not None}
    over = [q for i, q in known.items() if carbons[i] > TARGET[1] + SOLUTION_SURE]
    under = [c for i, c in carbons.items() if c < TARGET[0] - SOLUTION_SURE and p.steels[i].share("Cr") < 4]
    low_ac1 = max(ac1(p.steels[i].composition) for i in p.asked)
    if under:
        poor = min(p.carbons[i] for i in carbons) < TARGET[0]
        cure = (
            "There is not carbon enough in the stack: use more of the high-carbon steel."
            if poor
            else "Go to the upper end of the window, or soak longer."
        )
        return Reason(
            "harden", "care", "One of them does not come to full hardness in the common heat.", why + tail, cure, min(under), "% C"
        )
    if over:
        most = max(q.retained[1] for q in over if q.retained)
        return Reason(
            "harden",
            "note",
            f"One heat hardens {'all' if not rest else 'what hardens'}; keep to its lower end.",
            f"{low:.0f} to {high:.0f} C suits all. {why} Above {TARGET[1]} some austenite is left, here up to {100 * most:.0f} %.{tail}",
            f"{p.heat:.0f} C, fine grain, no longer than {p.soak:.0f} min.",
            high - low,
            "C",
        )
    return Reason(
        "harden",
        "note",
        "One heat hardens all." if not rest else "One heat hardens what hardens.",
        f"{low:.0f} to {high:.0f} C suits all (austenite begins by {low_ac1:.0f} C). {why}{tail}",
        "",
        high - low,
        "C",
    )


def _no_window(p: Pairing, names: str, why: str, tail: str) -> Reason:
    ranges = "; ".join(f"{p.steels[i].name} {p.range_of(i)[0]:.0f} to {p.range_of(i)[1]:.0f} C" for i in p.asked)
    low = max(p.range_of(i)[0] for i in p.asked)
    if low > p.ceiling:
        first = min(p.steels, key=ceiling_of)
        return Reason(
            "harden",
            "stop",
            f"{names} cannot be hardened with {first.name} in the bar.",
            f"{ranges}; {first.name} may never be hotter than {p.ceiling:.0f} C.",
            f"A steel hardened under {p.ceiling:.0f} C.",
            low - p.ceiling,
            "C",
        )
    gap = low - min(p.range_of(i)[1] for i in p.asked)
    lead = p.steels[p.lead or 0].name
    if gap > APART:
        return Reason(
            "harden",
            "stop",
            f"{names} are not hardened from the same heat.",
            f"{ranges}. {why}{tail}",
            f"Harden for the steel at the edge; {p.heat:.0f} C suits {lead}: reckon with the other being soft or coarse.",
            gap,
            "C",
        )
    return Reason(
        "harden",
        "care",
        "Their hardening ranges do not quite meet.",
        f"{ranges}. {why}{tail}",
        f"Try {p.heat:.0f} C, which suits {lead}, and test a coupon.",
        gap,
        "C",
    )
