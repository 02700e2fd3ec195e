"""Why steels go together or not: each aspect of a pairing in words, with the number that decides."""

from math import inf

from varistrat.core.laws.carbon import LASTS, worst_contrast
from varistrat.core.laws.hardenability import BRINE, KNOWN_WITHIN, severity_of
from varistrat.core.laws.quench import QUENCHES
from varistrat.core.laws.transform import SOLUTION_SURE, ac1, growth
from varistrat.core.pairing.pairing import HRC_SURE, WELD_SURE, Pairing, Reason, lightness
from varistrat.core.steels.ceiling import COPPER_MOST, COPPER_OXIDE_MELTS, SOLIDUS_CLEAR, ceiling_of
from varistrat.core.steels.flow import CONTAIN, WARN
from varistrat.core.steels.hardening import EDGE_LEAST, TARGET

STRONG, MEDIUM, FAINT = 30.0, 15.0, 10.0
"""Difference of lightness (L*, 0 to 100) seen as strong, clear, hardly; indicative."""
EVEN_EDGE = 3.0
"""Difference of hardness across an edge that is not felt, HRC; indicative."""
EXPANSION = {"304": 18.5, "316": 18.0, "nickel": 16.0, "powdernickel": 16.0, "copper": 20.0}
STEEL_EXPANSION = 13.0
"""Mean expansion to hardening heat, 1e-6 / K; ferritic and hardening steels; indicative."""


def reasons_of(p: Pairing) -> tuple[Reason, ...]:
    """Everything that speaks for and against a pairing, in the order of the work."""
    found = [_contrast(p), _weld(p), _flow(p), _carbon(p)]
    if p.hardeners:
        found += [_harden(p), _quench(p), _hardness(p)]
    else:
        found.append(
            Reason(
                "harden",
                "note",
                "None of them hardens: for fittings and decoration only.",
                "There is not enough carbon in any of them.",
            )
        )
    found.append(_stress(p))
    return tuple(found)


def _contrast(p: Pairing) -> Reason:
    tones = sorted(((lightness(s, p.etchant), s) for s in p.steels), key=lambda p: p[0])
    spread = p.apart
    _, apart = worst_contrast([s.composition for s in p.steels])
    lasts = apart >= LASTS
    why = (
        f"Lightness {tones[0][0]:.0f} ({tones[0][1].name}) against {tones[-1][0]:.0f} ({tones[-1][1].name}), of 100. Indicative: "
        "etch coupons."
    )
    if p.shared and not lasts and max(s.share("C") for s in p.steels) - min(s.share("C") for s in p.steels) > 0.2:
        return Reason(
            "contrast",
            "care",
            "What contrast there is comes from carbon, and carbon evens out.",
            why + " No nickel or chromium parts them.",
            "Use a steel with nickel or chromium beside the plain one, or few thick layers.",
            spread,
            "L*",
        )
    if spread >= STRONG:
        return Reason("contrast", "note", "Strong contrast, and it stays." if lasts else "Strong contrast.", why, "", spread, "L*")
    if spread >= MEDIUM:
        return Reason("contrast", "note", "Clear contrast.", why, "", spread, "L*")
    what = "Hardly any contrast." if spread < FAINT else "Faint contrast."
    return Reason(
        "contrast", "stop" if spread < FAINT else "care", what, why, "Pair a dark plain steel with a bright nickel one.", spread, "L*"
    )


def _weld(p: Pairing) -> Reason:
    never = [s for s in p.steels if s.weld is None]
    if never:
        return Reason(
            "weld",
            "stop",
            f"{p.names(*never)} is not for forge welding.",
            never[0].note or "It has no welding range.",
            "Choose another grade.",
        )
    sealed = [s for s in p.steels if s.share("Cr") > 10]
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
            "Clean faces, weld the edges shut or use a can.",
            high_t - low_t,
            "C",
        )
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


def _flow(p: Pairing) -> Reason:
    ratio, soft, stiff = p.stiffness
    if p.forge_window is None:
        return Reason(
            "flow",
            "stop",
            "No forging heat suits all of them.",
            f"{p.names(soft, stiff)} are forged at different heats.",
            "Choose steels forged alike.",
            ratio,
            "x",
        )
    low, high = p.forge_window
    why = f"{stiff.name} is {ratio:.2f} times as stiff as {soft.name} at forging heat; they are forged between {low:.0f} and {high:.0f} C."
    if ratio > CONTAIN:
        return Reason(
            "flow",
            "care",
            f"{soft.name} squeezes out at the sides; {stiff.name} breaks up when it is thin.",
            why,
            "Weld the edges shut or use a can; hold it hot; few thick layers.",
            ratio,
            "x",
        )
    if ratio > WARN:
        return Reason(
            "flow",
            "care",
            f"{soft.name} bulges at the edges and its layers come out thinner.",
            why,
            "Work it hot, in light even passes; trim the edges early.",
            ratio,
            "x",
        )
    return Reason("flow", "note", "They flow together.", why, "", ratio, "x")


def _carbon(p: Pairing) -> Reason:
    moves = [(c - s.share("C"), s, c) for s, c in zip(p.steels, p.carbons, strict=True) if s.share("Cu") < 50]
    change, steel, _ = max(moves, key=lambda m: abs(m[0]))
    if not p.shared:
        return Reason(
            "carbon",
            "note",
            "Thick layers keep their own carbon but for a band at the joint.",
            "How wide it grows is told by the heats of the design.",
            "",
        )
    words = ", ".join(f"{s.name} {s.share('C'):.2f} to {c:.2f}" for s, c in zip(p.steels, p.carbons, strict=True))
    why = f"Once fine layers have evened out, carbon is: {words} %."
    poorest = min((p.carbons[i] for i in p.asked), default=0.0)
    if abs(change) < 0.1:
        return Reason("carbon", "note", "Carbon hardly moves between them.", why, "", change, "% C")
    if any(p.steels[i].hardening for i in p.asked) and poorest < TARGET[0] - 0.05:
        return Reason(
            "carbon",
            "care",
            f"{steel.name} draws the carbon out of the rest." if change > 0 else f"{steel.name} loses carbon.",
            why + f" Below {TARGET[0]:.1f} % it does not come up to full hardness.",
            "Reckon with the mean carbon; use more of the high-carbon steel, or keep it for cladding.",
            change,
            "% C",
        )
    return Reason(
        "carbon",
        "note",
        f"{steel.name} {'takes up' if change > 0 else 'gives off'} carbon.",
        why,
        "Harden for what it ends at, not for what it was.",
        change,
        "% C",
    )


def _harden(p: Pairing) -> Reason:
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


APART = 60.0
"""C between two hardening ranges from which no one heat can be tried; indicative."""


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


def _quench(p: Pairing) -> Reason:
    if p.quench is None:
        return Reason("quench", "note", "No quench.", "")
    word = p.quench.replace("_", " ")
    gives = severity_of(p.quench, p.numbers)
    worst = min(p.quenched.items(), key=lambda kv: kv[1].martensite[0])
    slow, section = max(p.section.items(), key=lambda kv: kv[1].severity)
    steel = p.steels[slow]
    ladder = list(QUENCHES)
    if worst[1].martensite[0] < 0.5:
        name = p.steels[worst[0]].name
        return Reason(
            "quench",
            "stop",
            f"{name} does not harden in {word}, not even at the edge.",
            f"An edge of {p.edge:.2g} mm becomes {100 * worst[1].martensite[0]:.0f} % martensite. Indicative.",
            "A faster quench.",
            section.severity if section.severity < 1e6 else 99.0,
            "H",
        )
    mine = {i: s.quench for i in p.asked if (s := p.steels[i]).quench}
    slowest = max(mine, key=lambda i: ladder.index(mine[i]), default=None)
    if slowest is not None and ladder.index(mine[slowest]) - ladder.index(p.quench) >= 2:
        name = p.steels[slowest].name
        return Reason(
            "quench",
            "care",
            f"{word.capitalize()} hardens all, but is fast for {name}.",
            f"{steel.name} asks for it. {name} usually goes into {str(mine[slowest]).replace('_', ' ')}.",
            "Leave the edge thicker, warm the oil, and temper at once.",
            min(section.severity, 99.0),
            "H",
        )
    if section.severity > gives * 1.001 and section.diameter > 0:
        most = section.through(p.quench)
        wants = (
            "more than any bath gives"
            if section.severity > BRINE
            else f"a severity of {section.severity:.2g}"
            + (f"; {word} gives {gives:g}" + (f", strong brine about {BRINE:g}" if p.quench == "water" else ""))
        )
        return Reason(
            "quench",
            "note",
            f"In {word} the edge hardens; {steel.name} not through {p.thickness:g} mm.",
            (
                f"{steel.name} hardens through to {most:.1f} mm there, within a factor of {KNOWN_WITHIN:g}; {p.thickness:g} mm through "
                f"want {wants}."
            ),
            "That is how a shallow steel works: thin edge, fast quench; expect a softer back.",
            min(section.severity, 99.0),
            "H",
        )
    why = (
        f"{steel.name} is the shallowest: {p.thickness:g} mm want a severity of {section.severity:.2f}, {word} gives {gives:g}."
        if section.diameter not in (0.0, inf)
        else f"{steel.name} hardens in {word}."
    )
    return Reason(
        "quench",
        "note",
        f"{word.capitalize()} hardens all of it.",
        why + " Middles of published ranges.",
        "",
        min(section.severity, 99.0),
        "H",
    )


def _hardness(p: Pairing) -> Reason:
    if not p.hrc:
        return Reason(
            "hardness",
            "care",
            "How hard it comes out is not known here.",
            f"{p.quenched[p.unknown[0]].unknown}.",
            "Ask its maker, and test a coupon.",
        )
    words = ", ".join(f"{p.steels[i].name} {h:.1f}" for i, h in p.hrc.items())
    least, most = min(p.hrc.values()), max(p.hrc.values())
    rest = len(p.asked) < len(p.steels)
    why = f"After two hours at {p.temper:.0f} C: {words} HRC, within about {max(HRC_SURE, *(p.quenched[i].sure for i in p.hrc)):.1f}."
    if rest:
        why += " The rest stays soft."
    if most < EDGE_LEAST:
        return Reason(
            "hardness", "care", "Too soft for a keen edge.", why, f"An edge wants {EDGE_LEAST:.0f} HRC or more.", most - least, "HRC"
        )
    if p.unknown:
        return Reason(
            "hardness",
            "care",
            f"How hard {p.steels[p.unknown[0]].name} comes out is not known here.",
            why + f" {p.quenched[p.unknown[0]].unknown}.",
            "Ask its maker, and test a coupon.",
            most - least,
            "HRC",
        )
    if most - least > EVEN_EDGE:
        return Reason(
            "hardness",
            "care",
            "Uneven hardness across a mixed edge.",
            why + f" More than {EVEN_EDGE:.0f} apart is felt at the stone.",
            "Put one steel at the edge: a core, or an edge bar.",
            most - least,
            "HRC",
        )
    return Reason("hardness", "note", "Even hardness across the edge.", why, "", most - least, "HRC")


def _stress(p: Pairing) -> Reason:
    dissolved = {i: q.carbon for i, q in p.quenched.items() if q.carbon is not None}
    grows = [growth(dissolved[i]) * 100 if i in dissolved else 0.0 for i in range(len(p.steels))]
    shrink = [EXPANSION.get(s.key, STEEL_EXPANSION) for s in p.steels]
    unlike = (max(shrink) - min(shrink)) * 1e-6 * max(p.heat - 20, 700) * 100
    spread = max(grows) - min(grows)
    starts = [q.ms for q in p.quenched.values() if q.ms is not None]
    apart = max(starts) - min(starts) if len(starts) > 1 else 0.0
    why = (
        f"Hardening makes them grow by {min(grows):.2f} to {max(grows):.2f} % in length; cooling shrinks them {unlike:.2f} % "
        f"differently; they turn to martensite {apart:.0f} C° apart."
    )
    total = spread + unlike
    if total > 0.6:
        return Reason(
            "stress",
            "care",
            "They pull on one another in the quench: a lopsided stack bends, a thin one may crack.",
            why,
            "The same on both sides, thick enough before the quench, straighten in the window, temper at once.",
            total,
            "%",
        )
    if spread > 0.25:
        return Reason(
            "stress",
            "note",
            "The hardening one grows, the other does not.",
            why,
            "Keep it alike on both sides or it bends towards the soft one.",
            total,
            "%",
        )
    return Reason("stress", "note", "They grow and shrink alike.", why, "", total, "%")
