"""The quench, and straightening in the minute after it."""

from varistrat.core.findings import Code, Finding
from varistrat.core.heat.hardening.hardening import BladeHardening
from varistrat.core.heat.hardening.plan.step import BATH, SAY, PlanStep, say_hrc
from varistrat.core.heat.hardening.straighten import window as bending_window
from varistrat.core.laws.hardenability import KNOWN_WITHIN
from varistrat.core.laws.numbers import OIL_LITRES
from varistrat.core.laws.quench import QUENCHES
from varistrat.core.laws.transform import martensite_rate

SHARE_SOFT, SHARE_THROUGH = 0.5, 0.9
"""Share of martensite at the edge under which it does not harden, and from which it does; between them it is doubtful."""
TOO_SLOW = Code(
    "too_slow",
    "heat",
    ("care", "stop"),
    {"care": "{steel} may stay soft in {quench}.", "stop": "{steel} does not harden in {quench}, not even at the edge."},
)
TOO_FAST = Code("too_fast", "heat", ("care",), "{quench} is harsh on {steel}.")
SHALLOW = Code("shallow", "heat", ("note",), "{steel} hardens near the edge, not through the back.")


def quench(w: BladeHardening) -> PlanStep:
    """Into the bath: which, how warm, how much of it."""
    low, high = BATH[w.quench]
    kilos = max(w.blade.mass / 1000, 0.05)
    litres = max(4.0, w.shop.numbers.of(OIL_LITRES) * kilos)
    bath = f"{SAY[w.quench]} at {low} to {high} C" if w.quench != "air" else SAY[w.quench]
    much = f", {litres:.0f} litres or more" if w.quench != "air" else ""
    oil = w.quench.endswith("oil")
    danger = (
        (
            "Oil burns: metal tank and lid, bath under 70 C, no water in it, whole blade under at once, a class B extinguisher at "
            "hand, no motor oil. Follow your fire rules."
        )
        if oil
        else "Steam and scalding water; a blade can crack and throw pieces: face shield, long gloves."
        if w.quench == "water"
        else "Hot plates burn."
    )
    quick = " A second or two from heat to bath." if w.quench != "air" else ""
    where = (
        "straight down, edge or point first, and moved in line with the edge"
        if w.quench != "air"
        else "clamped flat between cold plates, or hung in still air"
    )
    starts = f" martensite begins at about {ms:.0f} C." if (ms := _ms(w)) else " where its martensite begins is not known here."
    return PlanStep(
        "quench",
        "Quench",
        f"Into {bath}{much}; {where}.{quick}",
        f"Above 550 C it must be quick, or the edge turns to soft pearlite;{starts}{_through(w)}",
        danger,
        (),
        tuple(_findings(w)),
    )


def _findings(w: BladeHardening) -> list[Finding]:
    found: list[Finding] = []
    for p in w.parts:
        q = p.quenched
        if not q or p.steel.key not in w.asked or q.austenite < 0.9:
            continue
        likely, least, _ = q.martensite
        wants = SAY[q.quench] if q.quench else "more than any bath gives"
        if p.edge and likely < SHARE_SOFT:
            found.append(
                TOO_SLOW.found(
                    (
                        f"An edge of {w.edge:.2g} mm becomes about {100 * likely:.0f} % martensite, the rest soft pearlite: "
                        f"{say_hrc(q.hrc)}. "
                        f"The section of {w.blade.spine:.1f} mm wants {wants}. Indicative."
                    ),
                    "A faster quench.",
                    grade="stop",
                    steel=p.steel.name,
                    quench=SAY[w.quench],
                    field="quench",
                    value=100 * likely,
                    limit=100 * SHARE_THROUGH,
                    unit="%",
                )
            )
        elif p.edge and least < SHARE_THROUGH:
            found.append(
                TOO_SLOW.found(
                    (
                        f"An edge of {w.edge:.2g} mm becomes {100 * least:.0f} to {100 * q.martensite[2]:.0f} % martensite; {wants} "
                        "would do it "
                        "surely. Indicative."
                    ),
                    "A faster quench, a thinner edge, and test it with a file.",
                    grade="care",
                    steel=p.steel.name,
                    quench=SAY[w.quench],
                    field="quench",
                    value=100 * least,
                    limit=100 * SHARE_THROUGH,
                    unit="%",
                )
            )
        elif p.middle and p.middle.martensite[0] < SHARE_THROUGH:
            found.append(
                SHALLOW.found(
                    (
                        f"It hardens through to {q.through(w.quench):.1f} mm in {SAY[w.quench]}, within a factor of {KNOWN_WITHIN:g}; "
                        "the blade "
                        f"is {w.blade.spine:.1f} mm at its spine, {w.edge:.2g} mm at its edge."
                    ),
                    "That is how a shallow steel is meant to work: a hard edge on a tougher back.",
                    steel=p.steel.name,
                    value=q.through(w.quench),
                    limit=w.blade.spine,
                    unit="mm",
                )
            )
        if p.steel.quench and QUENCHES.index(w.quench) + 2 <= QUENCHES.index(p.steel.quench) and p.hardens:
            found.append(
                TOO_FAST.found(
                    f"It usually goes into {SAY[p.steel.quench]}.",
                    "Leave the edge thicker, warm the bath, temper at once.",
                    quench=SAY[w.quench].capitalize(),
                    steel=p.steel.name,
                    field="quench",
                )
            )
    return found


def _through(w: BladeHardening) -> str:
    """How thick each hardens through in this quench, beside the section of the blade."""
    depth = [
        (p.steel.name, p.quenched.through(w.quench))
        for p in w.parts
        if p.quenched and p.hardens and (p.quenched.diameter or not p.quenched.unknown) and p.steel.key in w.asked
    ]
    if not depth:
        return ""
    said = ", ".join(f"{name} {'at any thickness here' if d > 50 else f'{d:.1f} mm'}" for name, d in depth)
    return (
        f" Hardens through in {SAY[w.quench]}: {said}; the blade is {w.blade.spine:.1f} mm at its spine, {w.edge:.2g} mm at its "
        f"edge. Indicative, within a factor of {KNOWN_WITHIN:g}."
    )


def _ms(w: BladeHardening) -> float | None:
    """The highest martensite start at the edge, C; None when it is not known."""
    return max(
        (p.quenched.ms for p in w.parts if p.quenched and p.hardens and p.quenched.ms is not None and p.steel.key in w.asked), default=None
    )


def straighten(w: BladeHardening) -> PlanStep:
    """What may still be bent between the bath and the start of martensite."""
    ms = _ms(w)
    smokes = (
        "(oil just smokes off it)"
        if w.quench.endswith("oil")
        else "(water hisses off it)"
        if w.quench == "water"
        else "(it comes off the plates)"
    )
    danger = "Hot oil and hot steel: long gloves; stop when it creaks or springs."
    if ms is None:
        return PlanStep(
            "straighten",
            "Straighten in the window",
            (
                "Look along the edge as soon as it may be touched with gloves; where martensite begins is not known here, so bend "
                "gently, and stop when it stiffens."
            ),
            "While it is still mostly austenite it is soft; then it stiffens and snaps.",
            danger,
        )
    part = next(p for p in w.parts if p.quenched and p.quenched.ms == ms)
    assert part.quenched and part.quenched.carbon is not None
    bends = bending_window(ms, martensite_rate(part.steel.composition, part.quenched.carbon))
    return PlanStep(
        "straighten",
        "Straighten in the window",
        (
            f"Take it out at about {ms + 20:.0f} C {smokes} and look along the edge. It bends easily down to {bends.easy:.0f} C; "
            f"gently, by gloved hand or between boards, down to {bends.gently:.0f} C; then stop."
        ),
        (
            f"Until martensite begins at {ms:.0f} C it is soft austenite; a tenth has turned at {bends.easy:.0f} C, half at "
            f"{bends.gently:.0f} C, and what has turned snaps."
        ),
        danger,
    )
