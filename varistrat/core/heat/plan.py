"""The hardening told step by step: what to do, with the numbers, why, and what to be careful of."""

from collections.abc import Callable
from dataclasses import dataclass

from varistrat.core.blade.measures import QUENCHES as EDGES
from varistrat.core.findings import Finding, Grade
from varistrat.core.heat import grain
from varistrat.core.heat.colours import glow, run_colour
from varistrat.core.heat.cycles import softening
from varistrat.core.heat.hardening import Worked
from varistrat.core.heat.numbers import OIL_LITRES, RELAX
from varistrat.core.heat.soak import through_minutes
from varistrat.core.heat.temper import BRITTLE, RANGE
from varistrat.core.steels import STEELS

SAY = {
    "water": "brine or water",
    "fast_oil": "fast oil",
    "medium_oil": "medium oil",
    "slow_oil": "slow, warm oil",
    "air": "still air or cold plates",
}
BATH = {"water": (20, 30), "fast_oil": (30, 55), "medium_oil": (45, 60), "slow_oil": (55, 70), "air": (15, 30)}
"""Temperature of the bath, C."""


@dataclass(frozen=True)
class Segment:
    """A piece of a kiln program: to `celsius` at `rate` C/h (None: as fast as it can), held `minutes`; `through`: from when the load is at heat."""

    celsius: float
    rate: float | None
    minutes: float
    through: bool = False


@dataclass(frozen=True)
class PlanStep:
    key: str
    title: str
    do: str
    why: str
    caution: str = ""
    program: tuple[Segment, ...] = ()
    findings: tuple[Finding, ...] = ()
    done: bool = False


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
        _cold,
        _temper,
        _back,
        _clamp,
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
        "quench",
        "Quench",
        f"Into {bath}{much}; {where}.{quick}",
        f"Above 550 C it must be quick, or the edge turns to soft pearlite; martensite begins at about {_ms(w):.0f} C.",
        danger,
        (),
        tuple(found),
    )


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


def _cold(w: Worked) -> PlanStep | None:
    worst = max((p.quenched.retained[1] for p in w.parts if p.quenched and p.hardens), default=0.0)
    before = max((w._quench_one(k, w.heat).retained[1] for k in w.hardeners), default=0.0)
    if w.cold:
        return PlanStep("cold", "Into the cold", "Within an hour of the quench: dry ice in alcohol, or a deep freezer at -75 C, an hour once it is cold through.", f"Up to {100 * before:.0f} % austenite would be left; the cold turns most of it, to {100 * worst:.0f} % or less, and adds about a point.", "Gloves; carbon dioxide pushes air out of a closed room.")  # fmt: skip
    if not w.cold_would_help:
        return None
    return PlanStep("cold", "The cold is not needed", "Keep carbon in solution low instead: the lower end of the heat, no longer soak.", f"Up to {100 * before:.0f} % austenite may be left; most of it goes in the second temper above 205 C. A freezer does no harm.")  # fmt: skip


def _temper(w: Worked) -> PlanStep | None:
    if w.temper is None or not w.lead:
        return None
    oven = round((w.temper - w.oven) / 5) * 5
    true = oven + w.oven
    colour = run_colour(true)
    gets = ", ".join(f"{STEELS[k].name} {h:.1f}" for k in w.hardeners if (h := w.hrc_after(k, true)) is not None)
    found: list[Finding] = []
    lead = w.hrc_after(w.lead, true) or 0.0
    if abs(lead - w.said.wanted) > 1.0:
        far = "hard" if w.said.wanted > lead else "soft"
        found.append(Finding("out_of_reach", "care", f"{w.said.wanted:g} HRC cannot be had by tempering alone.", f"{STEELS[w.lead].name} comes to {lead:.1f} HRC at {true:.0f} C, the end of the range ({RANGE[0]:.0f} to {RANGE[1]:.0f} C); it is too {far} a wish for it.", "Choose another hardness, or another steel at the edge.", field="wanted", value=w.said.wanted, limit=lead, unit="HRC"))  # fmt: skip
    if true > BRITTLE[0] and not any(STEELS[k].share("Cr") > 4 for k in w.hardeners):
        found.append(Finding("brittle_range", "care", "In this range it becomes softer and more brittle at once.", f"Between {BRITTLE[0]:.0f} and {BRITTLE[1]:.0f} C tempered martensite embrittles.", "For a tougher blade stay under 250 C and use a tougher steel, or draw only the back.", field="wanted", value=true, limit=BRITTLE[0], unit="C"))  # fmt: skip
    seen = f" On bright steel it runs to {colour[1]}; chromium steels later." if colour and w.said.school == "magnet" else ""
    says = f" (the oven reads {abs(w.oven):.0f} C° {'low' if w.oven > 0 else 'high'}: true heat {true:.0f} C)" if abs(w.oven) >= 1 else ""
    shift = f" Readings so far say {w.shift:+.1f} HRC against the law." if abs(w.shift) > 0.05 else ""
    return PlanStep(
        "temper", "Temper", f"Within the hour: oven at {oven:.0f} C{says}, two tempers of an hour each, cooled to the hand in between.{seen} It comes to: {gets} HRC, within {w.sure:.1f}.",
        f"For {w.said.wanted:g} HRC at the edge.{shift} An hour more takes off about half a point.", "", (Segment(oven, None, 60), Segment(40, None, 0), Segment(oven, None, 60)), tuple(found), bool(w.said.tempered),
    )  # fmt: skip


def _back(w: Worked) -> PlanStep | None:
    if w.said.back == "even":
        return None
    return PlanStep(
        "back", "Draw the back",
        "Edge in water or wet sand, heat the back from the tang on until blue (295 to 310 C) has run to a third of the height from the edge and no further; quench the edge if straw runs on.",
        "A blue back bends before it breaks; the edge keeps its temper as long as it stays under it.", "The edge is ruined once straw has gone brown there.",
    )  # fmt: skip


def _clamp(w: Worked) -> PlanStep | None:
    bow = w.said.hardened.bow
    if not bow:
        return None
    over = bow * (1 / RELAX.now - 1)
    strain = 4 * w.blade.spine * (bow + over) / w.blade.length**2
    found: tuple[Finding, ...] = ()
    if strain > 0.004:
        found = (Finding("clamp_breaks", "care", "So strong a bend may break it in the clamp.", f"It strains the skin by {100 * strain:.2f} %; hard steel goes at about 0.9 %.", "Do it in two tempers, half the shim each, and warm the blade first.", field="hardened.bow", value=100 * strain, limit=0.4, unit="%"),)  # fmt: skip
    return PlanStep(
        "clamp", "Clamp it against the bow", f"For the second temper, clamp it on a flat bar, hollow side down, a shim of {over:.1f} mm under the middle beyond flat; ends held.",
        f"A temper lets go of about {100 * RELAX.now:.0f} % of what is bent: {bow:g} mm flat and {over:.1f} mm over bring it straight.", "Warm it before clamping; wear eye protection.", (), found,
    )  # fmt: skip
