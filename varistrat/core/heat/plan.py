"""The hardening told step by step: what to do, with the numbers, why, and what to be careful of."""

from collections.abc import Callable

from varistrat.core.blade.measures import QUENCHES as EDGES
from varistrat.core.findings import Finding, Grade
from varistrat.core.heat import grain
from varistrat.core.heat.colours import glow
from varistrat.core.heat.cycles import softening
from varistrat.core.heat.hardening import Worked
from varistrat.core.heat.numbers import OIL_LITRES
from varistrat.core.heat.plan_step import BATH, SAY, PlanStep, Segment
from varistrat.core.heat.plan_temper import clamp, draw_the_back, into_the_cold, temper
from varistrat.core.heat.soak import through_minutes
from varistrat.core.steels import STEELS


def hardening_plan(w: Worked) -> list[PlanStep]:
    """Every step in order; empty when nothing in the blade hardens."""
    if not w.hardeners or not w.lead:
        return []
    makers: list[Callable[[Worked], PlanStep | None]] = [
        _normalise,
        _anneal,
        _ready,
        _heat,
        _quench,
        _straighten,
        _test,
        into_the_cold,
        temper,
        draw_the_back,
        clamp,
    ]
    return [s for make in makers if (s := make(w))]


def _c(value: float) -> str:
    return f"{value:.0f} C"


def _normalise(w: Worked) -> PlanStep | None:
    found = softening([STEELS[k] for k in w.hardeners])
    if not found:
        return None
    if not found.normalise:
        return PlanStep("normalise", "No normalising", "Leave it out.", found.why)
    heats = ", then ".join(_c(t) for t in found.normalise)
    by_eye = "" if w.said.school == "kiln" else f" By eye: {', '.join(g[1] for t in found.normalise if (g := glow(t)))}."
    return PlanStep(
        "normalise", "Normalise",
        f"{heats}; {found.hold:.0f} min each once it is hot through, then still air until it is black.{by_eye}", found.why,
        "Hot steel looks like cold steel once it is black.",
        tuple(Segment(t, None, found.hold, True) for t in found.normalise),
    )  # fmt: skip


def _anneal(w: Worked) -> PlanStep | None:
    found = softening([STEELS[k] for k in w.hardeners])
    if not found:
        return None
    celsius, hours = found.anneal
    return PlanStep(
        "anneal", "Soften and relieve", f"{_c(celsius)} for {hours:g} h, then slowly down in the kiln. Straighten it now, drill the tang, grind.",
        f"Under {_c(w.start)}, where austenite begins, it takes strain out and rounds the carbides: it drills, straightens and hardens evenly.",
        "", (Segment(celsius, None, 60 * hours, True), Segment(400, 120, 0)),
    )  # fmt: skip


def edge_left(w: Worked) -> float:
    least, usual = EDGES[w.quench]
    return w.said.edge or (w.blade.spine if w.said.bevels == "after" else (least + usual) / 2)


def _ready(w: Worked) -> PlanStep:
    least, usual = EDGES[w.quench]
    edge = edge_left(w)
    found = []
    if edge < least - 1e-9:
        grade: Grade = "stop" if w.quench == "water" and edge < 0.7 * least else "care"
        found.append(Finding("edge_cracks", grade, "So thin an edge is likely to crack or wave in the quench.", f"{edge:.2f} mm for {SAY[w.quench]}; {least:g} to {usual:g} mm is left before hardening. Indicative.", "Leave more and grind the rest afterwards, cool; or a slower quench.", field="edge", value=edge, limit=least, unit="mm"))  # fmt: skip
    how = "Leave the bevels for afterwards" if w.said.bevels == "after" else f"Grind the bevels down to {edge:.2g} mm at the edge"
    return PlanStep(
        "ready", "Make it ready",
        f"{how}; both sides alike, no notches or deep scratches across, corners broken, 120 grit.",
        "A thin, uneven or scratched edge cools before the rest and cracks; what is alike on both sides stays straight.", "", (), tuple(found),
    )  # fmt: skip


def _heat(w: Worked) -> PlanStep:
    said = glow(w.heat)
    warm = through_minutes(w.blade.width, w.blade.spine, w.heat + 8, w.heat - 5)
    found: list[Finding] = []
    if w.window is None and len(w.ranges) > 1:
        ranges = "; ".join(f"{STEELS[k].name} {r[0]:.0f} to {r[1]:.0f} C" for k, r in w.ranges.items())
        found.append(Finding("no_window", "care", "No one heat suits all its steels.", f"{ranges}. It is planned for {STEELS[w.lead or ''].name}, which lies at the edge.", "Expect the other soft, or coarse; try a coupon.", field="celsius"))  # fmt: skip
    for p in w.parts:
        q = p.quenched
        if not q:
            continue
        melting = p.steel.solidus
        if w.heat >= melting:
            found.append(Finding("melts", "stop", f"{p.steel.name} melts.", f"It begins at {melting:.0f} C.", "Lower the heat.", field="celsius", value=w.heat, limit=melting, unit="C"))  # fmt: skip
        elif q.austenite < 0.9:
            found.append(Finding("not_hot_enough", "stop" if p.edge else "care", f"{p.steel.name} does not harden from this heat.", f"At {w.heat:.0f} C {100 * q.austenite:.0f} % of it is austenite; its transformation begins at {w.start:.0f} C.", "Hotter.", field="celsius", value=w.heat, unit="C"))  # fmt: skip
        elif q.carbon > 1.0:
            found.append(Finding("plate", "care", f"{p.steel.name} turns to brittle plates.", f"{q.carbon:.2f} % carbon in solution; above 1.0 % martensite comes in plates with fine cracks, and up to {100 * q.retained[1]:.0f} % austenite is left.", "Lower the heat; normalise first so that the carbides are fine.", field="celsius", value=q.carbon, limit=1.0, unit="%"))  # fmt: skip
        elif q.carbon > 0.85 and p.edge:
            found.append(Finding("much_carbon", "note", f"{p.steel.name} has a little much carbon in solution.", f"{q.carbon:.2f} % (within 0.05); 0.6 to 0.8 is wanted. {100 * q.retained[0]:.0f} to {100 * q.retained[1]:.0f} % austenite is left.", "Keep to the lower end, and do not soak longer.", field="celsius", value=q.carbon, limit=0.8, unit="%"))  # fmt: skip
    high = max((r[1] for r in w.ranges.values()), default=900.0)
    if w.heat > high + 40:
        found.append(Finding("overheated", "care", "Too hot: the grain grows coarse.", f"{w.heat:.0f} C is {w.heat - high:.0f} C° over its range; {w.soak:.0f} min there make grain of about ASTM {grain.astm(grain.grown(grain.START, w.heat, w.soak)):.0f}.", "Stay in the range, or normalise again before hardening.", field="celsius", value=w.heat, limit=high, unit="C"))  # fmt: skip
    if w.said.school == "magnet":
        do = (
            f"Warm it evenly, edge up or moving, until a magnet lets go (about 770 C), then 30 to 50 C° more: {said[1] if said else ''}, about {w.heat:.0f} C. "
            f"Hold that colour {max(1.0, min(w.soak, 3.0)):.0f} to {max(2.0, min(w.soak, 5.0)):.0f} min; shaded light."
        )
        why = "Iron loses its magnetism at 770 C, high-carbon steel as it transforms; the eye is good to 20 C° in the shade and to 60 C° in the sun."
        if any(s.share("Cr") > 0.8 for s in (STEELS[k] for k in w.hardeners)):
            found.append(Finding("soak_by_eye", "care", "These steels want a soak that is hard to hold by eye.", f"Chromium carbides take {w.soak:.0f} min at heat to dissolve.", "Use a controlled kiln for this one, or expect a point or two less.", field="school"))  # fmt: skip
    else:
        do = f"Kiln at {w.heat:.0f} C. The blade is hot through about {warm:.0f} min after it goes in; then soak {w.soak:.0f} min."
        if said:
            do += f" It glows {said[1]}."
        why = (
            " ".join(f"{p.steel.name}: {p.quenched.carbon:.2f} % carbon in solution." for p in w.parts if p.quenched)
            + " 0.6 to 0.8 is wanted."
        )
    program = (Segment(650, None, 10, True), Segment(w.heat, 300, w.soak, True))
    return PlanStep(
        "heat",
        "Harden: the heat",
        do,
        why,
        "Bare steel in air loses carbon: foil, paste or a rich fire, and as short as it may be.",
        program,
        tuple(found),
    )


def _quench(w: Worked) -> PlanStep:
    low, high = BATH[w.quench]
    kilos = max(w.blade.mass / 1000, 0.05)
    litres = max(4.0, OIL_LITRES.now * kilos)
    bath = f"{SAY[w.quench]} at {low} to {high} C" if w.quench != "air" else SAY[w.quench]
    much = f", {litres:.0f} litres or more" if w.quench != "air" else ""
    found: list[Finding] = []
    for p in w.parts:
        q = p.quenched
        if q and p.edge and q.quench is None:
            found.append(Finding("shallow", "note", f"{p.steel.name} hardens only near the edge.", f"{w.blade.spine:.1f} mm would want a severity of {min(q.severity, 99):.1f}; the thin edge cools far faster than the back.", "That is how a shallow steel is meant to work.", value=min(q.severity, 99.0)))  # fmt: skip
        elif q and p.edge and q.quench and list(EDGES).index(w.quench) > list(EDGES).index(q.quench) + 1:
            found.append(Finding("too_slow", "care", f"{p.steel.name} may not harden through.", f"A section of {w.blade.spine:.1f} mm wants {SAY[q.quench]}.", "A faster quench, or a thinner blade.", field="quench"))  # fmt: skip
        if p.steel.quench and list(EDGES).index(w.quench) + 2 <= list(EDGES).index(p.steel.quench) and p.hardens:
            found.append(Finding("too_fast", "care", f"{SAY[w.quench].capitalize()} is harsh on {p.steel.name}.", f"It usually goes into {SAY[p.steel.quench]}.", "Leave the edge thicker, warm the bath, temper at once.", field="quench"))  # fmt: skip
    oil = w.quench.endswith("oil")
    danger = (
        "Oil burns: metal tank and lid, bath under 70 C, no water in it, whole blade under at once, a class B extinguisher at hand, no motor oil. Follow your fire rules."
        if oil else "Steam and scalding water; a blade can crack and throw pieces: face shield, long gloves." if w.quench == "water" else "Hot plates burn."
    )  # fmt: skip
    quick = " A second or two from heat to bath." if w.quench != "air" else ""
    where = (
        "straight down, edge or point first, and moved in line with the edge"
        if w.quench != "air"
        else "clamped flat between cold plates, or hung in still air"
    )
    return PlanStep(
        "quench", "Quench", f"Into {bath}{much}; {where}.{quick}",
        f"Above 550 C it must be quick, or the edge turns to soft pearlite; martensite begins at about {_ms(w):.0f} C.{_through(w)}",
        danger, (), tuple(found),
    )  # fmt: skip


def _through(w: Worked) -> str:
    """How thick each hardens through in this quench, beside the section of the blade."""
    depth = [(p.steel.name, p.quenched.through(w.quench)) for p in w.parts if p.quenched and p.hardens]
    if not depth:
        return ""
    said = ", ".join(f"{name} {'at any thickness here' if d > 50 else f'{d:.1f} mm'}" for name, d in depth)
    return f" Hardens through in {SAY[w.quench]}: {said}; the blade is {w.blade.spine:.1f} mm at its spine, {edge_left(w):.2g} mm at its edge. Indicative within 15 %."


def _ms(w: Worked) -> float:
    return max(p.quenched.ms for p in w.parts if p.quenched and p.hardens) if any(p.quenched and p.hardens for p in w.parts) else 200.0


def _straighten(w: Worked) -> PlanStep:
    ms = _ms(w)
    smokes = "(oil just smokes off it)" if w.quench.endswith("oil") else "(water hisses off it)"
    return PlanStep(
        "straighten", "Straighten in the window",
        f"Take it out at about {ms + 20:.0f} C {smokes}, look along the edge, and bend it straight by gloved hand or between boards until about {max(60.0, ms - 100):.0f} C: a minute at most.",
        f"Until martensite begins at {ms:.0f} C it is soft austenite; below, it stiffens and then snaps.", "Hot oil and hot steel: long gloves; stop when it creaks or springs.",
    )  # fmt: skip


def _test(w: Worked) -> PlanStep:
    hrc, sure = w.expected or (0.0, 0.0)
    read = w.said.hardened
    found: list[Finding] = []
    if read.hrc:
        mean = sum(read.hrc) / len(read.hrc)
        spread = max(read.hrc) - min(read.hrc)
        if mean < hrc - sure - 2:
            found.append(Finding("soft_quenched", "stop" if mean < 50 else "care", "It did not come to full hardness.", f"Read {mean:.1f}, expected {hrc:.0f} HRC within {sure:.1f}. In the order to check: a skin without carbon (grind 0.2 mm and read again), not hot or soaked enough, too slow a quench, the wrong steel at the spot.", "Read again below the skin; if it is still soft, normalise once and harden again.", field="hardened", value=mean, limit=hrc, unit="HRC"))  # fmt: skip
        elif mean > hrc + sure + 2:
            found.append(Finding("hard_reading", "note", "Harder than it can be: check the tester.", f"Read {mean:.1f}, expected {hrc:.0f} HRC at most within {sure:.1f}.", "Try the tester on its block.", field="hardened", value=mean, limit=hrc, unit="HRC"))  # fmt: skip
        if spread > 4:
            found.append(Finding("uneven", "care", "Hard and soft spots.", f"Readings differ by {spread:.1f} HRC: scale, steam pockets, uneven heat, or different steels under the point.", "Read again on clean steel; harden again if the edge itself is soft.", field="hardened", value=spread, unit="HRC"))  # fmt: skip
    if read.file == "bites":
        found.append(Finding("file_bites", "care", "A file bites: under about 58 HRC, or a soft skin.", "A good file is about 64 HRC; it skates over a hard edge.", "File through the skin and try again before you do anything else.", field="hardened"))  # fmt: skip
    return PlanStep(
        "test", "Test before the temper", f"A file should skate along the whole edge. Expected: {hrc:.0f} HRC, within {sure:.1f}." + (" Read on three spots or more." if not read.hrc else f" Read: {', '.join(f'{h:g}' for h in read.hrc)}."),
        "Layers thinner than the tester's dent are read as their mean.", "As quenched it is brittle as glass: do not drop, bend or clamp it; eye protection.", (), tuple(found), bool(read.hrc or read.file),
    )  # fmt: skip
