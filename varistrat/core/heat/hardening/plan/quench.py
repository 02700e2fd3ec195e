"""The quench, and straightening in the minute after it."""

from math import ceil

from varistrat.core.findings import Code, Finding
from varistrat.core.heat.fires.soak import working_seconds
from varistrat.core.heat.hardening.hardening import BladeHardening
from varistrat.core.heat.hardening.plan.step import BATH, KINDS, LONG, SAY, PlanStep, say_hrc
from varistrat.core.heat.hardening.straighten import window as bending_window
from varistrat.core.laws.hardenability import KNOWN_WITHIN
from varistrat.core.laws.numbers import OIL_LITRES
from varistrat.core.laws.quench import QUENCHES
from varistrat.core.laws.transform import MS_KNOWN, martensite_rate
from varistrat.core.steels.hardening import SHARE_THROUGH, faster, takes

OVER_POINT = 60.0
"""What a tube is deeper than the blade is long, for the oil that rises and for the tongs, mm."""
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
    bath += f" ({KINDS[w.quench]})" if w.quench in KINDS else ""
    much = f", {litres:.0f} litres or more" if w.quench != "air" else ""
    whole = w.blade.whole or w.blade.length
    if w.quench != "air" and whole > LONG:
        much += f", in an upright tube {10 * ceil((whole + OVER_POINT) / 10):.0f} mm deep or deeper"
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
        likely, least, most = q.martensite
        there = takes(q, w.quench, p.steel.quench)
        if p.edge and there == "no":
            found.append(
                TOO_SLOW.found(
                    f"An edge of {w.edge:.2g} mm becomes about {100 * likely:.0f} % martensite, the rest soft pearlite: {say_hrc(q.hrc)}. "
                    "Indicative.",
                    faster(q, w.quench),
                    grade="stop",
                    steel=p.steel.name,
                    quench=SAY[w.quench],
                    field="quench",
                    value=100 * likely,
                    limit=100 * SHARE_THROUGH,
                    unit="%",
                )
            )
        elif p.edge and there == "doubtful":
            found.append(
                TOO_SLOW.found(
                    f"An edge of {w.edge:.2g} mm becomes {100 * least:.0f} to {100 * most:.0f} % martensite. Indicative.",
                    f"{faster(q, w.quench)} Try the edge with a file.",
                    grade="care",
                    steel=p.steel.name,
                    quench=SAY[w.quench],
                    field="quench",
                    value=100 * least,
                    limit=100 * SHARE_THROUGH,
                    unit="%",
                )
            )
        elif (p.edge and there == "shallow") or (p.middle and p.middle.martensite[0] < SHARE_THROUGH):
            found.append(
                SHALLOW.found(
                    f"It hardens through to {q.through(w.quench):.1f} mm in {SAY[w.quench]}, within a factor of {KNOWN_WITHIN:g}; "
                    f"the blade is {w.blade.spine:.1f} mm at its spine, {w.edge:.2g} mm at its edge.",
                    "That is how a shallow steel is meant to work: a hard edge on a tougher back."
                    + (" Try the edge with a file." if there == "shallow" else ""),
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
    section = w.blade.width, (w.blade.spine + w.edge) / 2
    easy, gently = (working_seconds(*section, ms + 20, to) for to in (bends.easy, bends.gently))
    return PlanStep(
        "straighten",
        "Straighten in the window",
        (
            f"Take it out at about {ms + 20:.0f} C {smokes} and look along the edge. It bends easily down to {bends.easy:.0f} C; "
            f"gently, by gloved hand or between boards, down to {bends.gently:.0f} C; then stop. In still air that is about "
            f"{5 * max(1, round(easy / 5)):.0f} seconds, and {5 * max(1, round(gently / 5)):.0f} in all.{_wave(w)}"
        ),
        (
            f"Until martensite begins at {ms:.0f} C it is soft austenite; a tenth has turned at {bends.easy:.0f} C, half at "
            f"{bends.gently:.0f} C, and what has turned snaps. The start is known to {MS_KNOWN:.0f} C°: what the hand feels comes first."
        ),
        danger,
    )


def _wave(w: BladeHardening) -> str:
    """How much of a wave need not be straightened, for it is ground out."""
    left = (w.edge - w.blade.finished) / 2
    if left < 0.05 or w.said.bevels == "after":
        return ""
    return f" A wave of the edge of up to {left:.1f} mm either way is ground out afterwards; more is for the clamp."
