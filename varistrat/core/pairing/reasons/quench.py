"""Whether one quench hardens all."""

from math import inf

from varistrat.core.laws.hardenability import BRINE, KNOWN_WITHIN, severity_of
from varistrat.core.laws.quench import QUENCHES
from varistrat.core.pairing.pairing import Pairing, Reason
from varistrat.core.steels.hardening import faster, takes


def quench(p: Pairing) -> Reason:
    """By the martensite at the edge and the severity that the section wants."""
    if p.quench is None:
        return Reason("quench", "note", "No quench.", "")
    word = p.quench.replace("_", " ")
    gives = severity_of(p.quench, p.numbers)
    worst = min(p.quenched.items(), key=lambda kv: kv[1].martensite[0])
    slow, section = max(p.section.items(), key=lambda kv: kv[1].severity)
    steel = p.steels[slow]
    ladder = list(QUENCHES)
    name = p.steels[worst[0]].name
    there = takes(worst[1], p.quench, p.steels[worst[0]].quench)
    if there in ("no", "doubtful"):
        likely, least, most = worst[1].martensite
        return Reason(
            "quench",
            "stop" if there == "no" else "care",
            f"{name} does not harden in {word}, not even at the edge." if there == "no" else f"{name} may stay soft in {word}.",
            f"An edge of {p.edge:.2g} mm becomes {100 * (likely if there == 'no' else least):.0f} "
            f"{'' if there == 'no' else f'to {100 * most:.0f} '}% martensite. Indicative.",
            faster(worst[1], p.quench),
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
