"""Whether there is a heat at which all weld and none burns."""

from varistrat.core.pairing.pairing import WELD_SURE, Pairing, Reason
from varistrat.core.steels.ceiling import COPPER_MOST, COPPER_OXIDE_MELTS, SOLIDUS_CLEAR
from varistrat.core.steels.weldable import FLUORIDES, SEAMS, fears_sulphur, has_seams, tears, wants_seal


def weld(p: Pairing) -> Reason:
    """By the common welding window."""
    never = [s for s in p.steels if s.weld is None]
    if never:
        return Reason(
            "weld",
            "stop",
            f"{p.names(*never)} is not for forge welding.",
            never[0].note or "It has no welding range.",
            "Choose another grade.",
        )
    sealed = [s for s in p.steels if wants_seal(s)]
    if (copper := p.with_copper) and copper.weld:
        return Reason(
            "weld",
            "care",
            "Copper is bonded, not welded: sealed, under pressure, far below welding heat.",
            (
                f"{copper.weld[0]:.0f} to {copper.weld[1]:.0f} C; it melts at {copper.solidus:.0f} C and, with its oxide, at "
                f"{COPPER_OXIDE_MELTS:.0f} C; liquid copper cracks hot steel."
            ),
            f"Weld the steels to one another first; never above {COPPER_MOST:.0f} C afterwards.",
            copper.weld[1] - copper.weld[0],
            "C",
        )
    first = min(p.steels, key=lambda s: s.solidus)
    if p.weld_window is None:
        low, high = max((s.weld or (0, 0))[0] for s in p.steels), min((s.weld or (0, 0))[1] for s in p.steels)
        wants = next(s for s in p.steels if s.weld and s.weld[0] == low)
        burns = next(s for s in p.steels if s.weld and s.weld[1] == high)
        if low > first.solidus - SOLIDUS_CLEAR + WELD_SURE:
            return Reason(
                "weld",
                "stop",
                f"No welding heat suits both {p.names(first, wants)}.",
                (
                    f"{wants.name} wants {low:.0f} C or more; {first.name} begins to melt at {first.solidus:.0f} C, its corners "
                    f"{SOLIDUS_CLEAR:.0f} C° before."
                ),
                "Choose steels that weld at like heats.",
                low,
                "C",
            )
        return Reason(
            "weld",
            "care",
            "Their welding ranges do not meet.",
            f"{wants.name} likes {low:.0f} C or more, {burns.name} no more than {high:.0f} C. Both indicative within 25 C°.",
            f"Weld at {high:.0f} C with very clean faces, a longer soak and more pressure; a sealed stack is safest.",
            low - high,
            "C",
        )
    low_t, high_t = p.weld_window
    why = f"{low_t:.0f} to {high_t:.0f} C suits all; {first.name} is the first to melt, at {first.solidus:.0f} C. Indicative within 25 C°."
    if sealed:
        return Reason(
            "weld",
            "care",
            f"{p.names(*sealed)} welds only sealed.",
            why + " Borax does not take up chromium oxide.",
            f"Clean faces, weld the edges shut or use a can. {FLUORIDES}",
            high_t - low_t,
            "C",
        )
    if torn := [s for s in p.steels if tears(s)]:
        return Reason(
            "weld",
            "care",
            f"{p.names(*torn)} is free-machining: it tears at welding heat.",
            f"{max(s.share('S') for s in torn):.2f} % sulphur; its sulphides run out flat and part the weld. Others have 0.05 at most.",
            "Take a grade that was not made to be turned.",
            max(s.share("S") for s in torn),
            "%",
        )
    if seams := [s for s in p.steels if has_seams(s)]:
        return Reason(
            "weld",
            "care",
            f"Seams in {p.names(*seams)} melt before it welds.",
            f"{why} Its sulphide and phosphide seams run at {SEAMS[0]:.0f} to {SEAMS[1]:.0f} C.",
            "Soft first heats between carriers of other steel or in a can, until it is one piece.",
            SEAMS[0],
            "C",
        )
    if nickel := [s for s in p.steels if fears_sulphur(s)]:
        why += f" Keep {p.names(*nickel)} out of a fire with sulphur (coal, green coke): it turns brittle."
    if high_t - low_t < 40:
        return Reason(
            "weld",
            "care",
            "A narrow welding window.",
            why,
            "Use a thermocouple or a pyrometer; soak well and hold it there.",
            high_t - low_t,
            "C",
        )
    return Reason("weld", "note", "A common welding heat.", why, "", high_t - low_t, "C")
