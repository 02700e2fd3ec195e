"""The hardening told step by step: what to do, with the numbers, why, and what to be careful of."""

from collections.abc import Callable
from math import floor

from varistrat.core.findings import Finding
from varistrat.core.heat.colours import glow
from varistrat.core.heat.fires.skin import to_grind
from varistrat.core.heat.fires.soak import through_minutes
from varistrat.core.heat.hardening.cycles import softening
from varistrat.core.heat.hardening.edge import edge_to_leave, skin_of_heats, too_thin
from varistrat.core.heat.hardening.hardening import MAGNET, Worked
from varistrat.core.heat.hardening.plan_step import BATH, SAY, PlanStep, Segment
from varistrat.core.heat.hardening.plan_temper import clamp, draw_the_back, into_the_cold, temper
from varistrat.core.heat.hardening.straighten import window as bending_window
from varistrat.core.laws import grain
from varistrat.core.laws.hardenability import KNOWN_WITHIN
from varistrat.core.laws.numbers import OIL_LITRES, Atmosphere
from varistrat.core.laws.quench import QUENCHES
from varistrat.core.laws.ranges import law_of_composition
from varistrat.core.laws.transform import SOLUTION_SURE, martensite_rate
from varistrat.core.steels import Steel
from varistrat.core.steels.ceiling import ceiling_of, too_hot
from varistrat.core.steels.hardening import EDGE_LEAST, TARGET

BLACK = 480.0
"""Air-cooled to here between normalising heats, C: everything has turned, and it no longer glows."""
PLATE = 1.0
"""Carbon in solution from which martensite comes in plates with fine cracks, %."""
OVERHEATED = 40.0
"""C over its range from which grain is called coarse."""
UNDER_AC1 = 15.0
"""C that softening stays under the first austenite."""
BELOW_RANGE = 15.0
"""C under a steel's own range from which it is told; what is read off a kiln is hardly better than ten."""
SHARE_SOFT, SHARE_THROUGH = 0.5, 0.9
"""Share of martensite at the edge under which it does not harden, and from which it does; between them it is doubtful."""
SKATES = 60.0
"""Hardness from which a good file (64 HRC) skates, HRC; under 58 it bites."""
FOILED: dict[str, Atmosphere] = {"bare": "air", "paste": "flux", "foil": "sealed"}
SKIN_OF_EDGE = 0.25
"""Share of the edge's thickness that its two skins may take before it is pointed out; indicative."""


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
    found = softening([w.shop.steels[k] for k in w.asked])
    if not found:
        return None
    if not found.normalise:
        return PlanStep("normalise", "No normalising", "Leave it out.", found.why)
    heats = ", then ".join(_c(t) for t in found.normalise)
    by_eye = "" if w.said.school == "kiln" else f" By eye: {', '.join(g[1] for t in found.normalise if (g := glow(t)))}."
    lost, deep = skin_of_heats(
        [(float(t), found.hold) for t in found.normalise], max(w.carbon_of_lead, 0.1), FOILED[w.said.guarded], w.shop.numbers
    )
    skin = (
        f" They leave a soft skin {deep:.2f} mm deep on each side, {lost:.2f} mm gone to scale: the bevels are ground below it."
        if deep > 0.02
        else ""
    )
    return PlanStep(
        "normalise", "Normalise",
        f"{heats}; {found.hold:.0f} min each once it is hot through, then out into still air until it is black.{by_eye}{skin}", found.why,
        "Hot steel looks like cold steel once it is black.",
        tuple(s for t in found.normalise for s in (Segment(t, None, found.hold, True), Segment(BLACK, None, 0, out=True))),
    )  # fmt: skip


def _anneal(w: Worked) -> PlanStep | None:
    found = softening([w.shop.steels[k] for k in w.hardeners])
    if not found:
        return None
    celsius, hours = found.anneal
    # under the *first* of them to transform: what goes over hardens again as it cools
    celsius = min(celsius, 5 * floor((w.first_start - UNDER_AC1) / 5))
    return PlanStep(
        "anneal", "Soften and relieve", f"{_c(celsius)} for {hours:g} h, then slowly down in the kiln. Straighten it now, drill the tang, grind.",
        f"Under {_c(w.first_start)}, where the first of its steels turns to austenite, it takes strain out and rounds the carbides: it drills, straightens and hardens evenly.",
        "", (Segment(celsius, None, 60 * hours, True), Segment(400, 120, 0)),
    )  # fmt: skip


def _skin(w: Worked) -> tuple[float, float] | None:
    """(scale, carbon-poor skin) off each side that normalising and hardening cost, mm; None where no law reaches or it is sealed."""
    lead = w.shop.steels[w.lead or ""]
    gas = FOILED[w.said.guarded]
    if gas == "sealed" or law_of_composition(lead.composition) != "low alloy":
        return None
    cycle = softening([w.shop.steels[k] for k in w.asked])
    normalised = [(float(t), cycle.hold) for t in cycle.normalise] if cycle else []
    # ground bright after normalising only when the bevels are ground then
    heats = ([] if w.said.bevels == "before" else normalised) + [(w.heat, w.soak + 5.0)]
    return skin_of_heats(heats, max(w.carbon_of_lead, 0.1), gas, w.shop.numbers)


def _ready(w: Worked) -> PlanStep:
    least, usual = edge_to_leave(w.quench, w.blade.length, w.blade.spine)
    edge = w.edge
    found = []
    if grade := too_thin(edge, w.quench, w.blade.length, w.blade.spine):
        found.append(Finding("edge_cracks", grade, "So thin an edge is likely to crack or wave in the quench." if grade == "care" else "So thin an edge cracks or waves in the quench.", f"{edge:.2f} mm for {SAY[w.quench]}; {least:.2g} to {usual:.2g} mm is left before hardening. Indicative.", "Leave more and grind the rest afterwards, cool; or a slower quench.", field="edge", value=edge, limit=least, unit="mm"))  # fmt: skip
    lost = ""
    if skin := _skin(w):
        off = to_grind(skin[1])
        share = 2 * skin[1] / edge
        when = "The heat of hardening" if w.said.bevels == "before" else "Normalising and hardening"
        lost = f" {when} {'bare in air' if w.said.guarded == 'bare' else 'under paste'} takes {skin[0]:.2f} mm to scale and leaves a soft skin {skin[1]:.2f} mm deep on each side: grind off {off:.2f} mm a side before you judge the edge."
        if share > SKIN_OF_EDGE and w.said.guarded == "bare":
            found.append(Finding("skin_at_edge", "care", "Much of so thin an edge loses its carbon in the fire.", f"A soft skin of {skin[1]:.2f} mm on each side of an edge {edge:.2f} mm thick: {100 * min(1.0, share):.0f} % of it. Indicative.", "Foil or paste, a shorter soak, or leave it thicker and grind below the skin afterwards.", field="edge", value=100 * min(1.0, share), limit=100 * SKIN_OF_EDGE, unit="%"))  # fmt: skip
    how = "Leave the bevels for afterwards" if w.said.bevels == "after" else f"Grind the bevels down to {edge:.2g} mm at the edge"
    return PlanStep(
        "ready", "Make it ready",
        f"{how}; both sides alike, no notches or deep scratches across, corners broken, 120 grit.{lost}",
        "A thin, uneven or scratched edge cools before the rest and cracks; what is alike on both sides stays straight.", "", (), tuple(found),
    )  # fmt: skip


def _too_cold(w: Worked, steel: Steel) -> bool:
    low = w.ranges[steel.key][0]
    return w.heat < low - BELOW_RANGE


def _heat(w: Worked) -> PlanStep:
    said = glow(w.heat)
    warm = through_minutes(w.blade.width, w.blade.spine, w.heat + 8, w.heat - 5)
    found: list[Finding] = []
    melting = too_hot(w.heat, w.materials)
    if melting:
        found.append(melting)
    if w.window is None and len(w.asked) >= 1:
        found.append(_no_window(w))
    for p in w.parts:
        q = p.quenched
        if not q or (melting and melting.grade == "stop"):
            continue
        asked = p.steel.key in w.asked
        if q.austenite < 0.9 or _too_cold(w, p.steel):
            low, high = w.ranges[p.steel.key]
            if not asked:
                found.append(Finding("clad_soft", "note", f"{p.steel.name} stays soft at this heat.", f"It is hardened from {low:.0f} to {high:.0f} C; it does not lie at the edge and need not harden.", "Leave it so: the edge decides the heat.", field="celsius"))  # fmt: skip
                continue
            why = f"It is hardened from {low:.0f} to {high:.0f} C; {w.heat:.0f} C is planned."
            if q.austenite < 0.9 and not q.unknown:
                why += f" At that heat {100 * q.austenite:.0f} % of it is austenite."
            soft = q.austenite < 0.9 or q.hrc is None or q.hrc < EDGE_LEAST
            found.append(Finding("not_hot_enough", "stop" if p.edge and soft else "care", f"{p.steel.name} does not come to its hardness from this heat.", why, "Hotter.", field="celsius", value=w.heat, limit=low, unit="C"))  # fmt: skip
        elif q.unknown and q.hrc is None and asked:
            found.append(Finding("not_known", "care", f"How {p.steel.name} hardens from this heat is not known here.", f"{q.unknown}.", "Ask its maker for heat, soak, quench and hardness, and put them in under Steels; test a coupon.", field="celsius"))  # fmt: skip
        elif q.carbon is not None and q.retained is not None and q.carbon > PLATE:
            found.append(Finding("plate", "care", f"{p.steel.name} turns to brittle plates.", f"{q.carbon:.2f} % carbon in solution; above {PLATE:.1f} % martensite comes in plates with fine cracks, and up to {100 * q.retained[1]:.0f} % austenite is left.", "Lower the heat; normalise first so that the carbides are fine.", field="celsius", value=q.carbon, limit=PLATE, unit="%"))  # fmt: skip
        elif q.carbon is not None and q.retained is not None and q.carbon > TARGET[1] + SOLUTION_SURE and p.edge:
            found.append(Finding("much_carbon", "note", f"{p.steel.name} has a little much carbon in solution.", f"{q.carbon:.2f} % (within {SOLUTION_SURE}); {TARGET[0]} to {TARGET[1]} is wanted. {100 * q.retained[0]:.0f} to {100 * q.retained[1]:.0f} % austenite is left.", "Keep to the lower end, and do not soak longer.", field="celsius", value=q.carbon, limit=TARGET[1], unit="%"))  # fmt: skip
    high = max((w.ranges[k][1] for k in w.asked), default=900.0)
    if w.heat > high + OVERHEATED:
        grown = (
            f"; {w.soak:.0f} min there make grain of about ASTM {grain.astm(grain.grown(grain.START, w.heat, w.soak)):.0f}"
            if w.heat < 1000
            else ""
        )
        found.append(Finding("overheated", "care", "Too hot: the grain grows coarse.", f"{w.heat:.0f} C is {w.heat - high:.0f} C° over its range{grown}.", "Stay in the range, or normalise again before hardening.", field="celsius", value=w.heat, limit=high, unit="C"))  # fmt: skip
    kiln = f"Kiln at {w.heat:.0f} C. The blade is hot through about {warm:.0f} min after it goes in; then soak {w.soak:.0f} min." + (
        f" It glows {said[1]}." if said else ""
    )
    solved = [
        f"{p.steel.name}: {p.quenched.carbon:.2f} % carbon in solution."
        for p in w.parts
        if p.quenched and p.quenched.carbon is not None and p.steel.key in w.asked
    ]
    why = " ".join(solved) + f" {TARGET[0]} to {TARGET[1]} is wanted." if solved else "Its own published range and soak."
    do = kiln
    if w.said.school == "magnet":
        if w.not_by_magnet:
            found.append(Finding("not_by_magnet", "stop", "Not by magnet and eye: this one wants a kiln.", w.not_by_magnet, "Harden it in a controlled kiln, or have it done.", field="school"))  # fmt: skip
        else:
            do, why = _by_magnet(w, said[1] if said else "")
            if any(s.share("Cr") > 0.8 for s in (w.shop.steels[k] for k in w.asked)):
                found.append(Finding("soak_by_eye", "care", "These steels want a soak that is hard to hold by eye.", f"Chromium carbides take {w.soak:.0f} min at heat to dissolve.", "Use a controlled kiln for this one, or expect a point or two less.", field="school"))  # fmt: skip
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


def _by_magnet(w: Worked, colour: str) -> tuple[str, str]:
    """(what to do, why): how far past the magnet it goes, in words that add up."""
    more = w.heat - MAGNET
    past = "then no more than a shade" if more < 15 else f"then about {5 * round(more / 5):.0f} C° more"
    looks = f"{colour}, " if colour else ""
    do = (
        f"Warm it evenly, edge up or moving, until a magnet lets go (by {MAGNET:.0f} C), {past}: {looks}about {w.heat:.0f} C. "
        f"Hold that colour {max(1.0, min(w.soak, 3.0)):.0f} to {max(2.0, min(w.soak, 5.0)):.0f} min; shaded light."
    )
    return (
        do,
        f"Iron loses its magnetism at {MAGNET:.0f} C, high-carbon steel as it transforms, up to 40 C° before; the eye is good to 20 C° in the shade and to 60 C° in the sun.",
    )


def _no_window(w: Worked) -> Finding:
    ranges = "; ".join(f"{w.shop.steels[k].name} {w.ranges[k][0]:.0f} to {w.ranges[k][1]:.0f} C" for k in w.asked)
    low = max(w.ranges[k][0] for k in w.asked)
    if w.ceiling < low and len({w.ranges[k] for k in w.asked}) >= 1 and w.ceiling < min(w.ranges[k][1] for k in w.asked):
        first = min(w.materials, key=ceiling_of)
        return Finding("no_window", "stop", f"With {first.name} in it this blade cannot be hardened.", f"{ranges}; {first.name} may never be hotter than {w.ceiling:.0f} C.", f"Another steel at the edge, hardened under {w.ceiling:.0f} C, or no {first.name}.", field="celsius", value=low, limit=w.ceiling, unit="C")  # fmt: skip
    return Finding("no_window", "care", "No one heat suits all its steels.", f"{ranges}. It is planned for {w.shop.steels[w.lead or ''].name}, which lies at the edge.", "Expect the other soft, or coarse; try a coupon.", field="celsius")  # fmt: skip


def _quench(w: Worked) -> PlanStep:
    low, high = BATH[w.quench]
    kilos = max(w.blade.mass / 1000, 0.05)
    litres = max(4.0, w.shop.numbers.of(OIL_LITRES) * kilos)
    bath = f"{SAY[w.quench]} at {low} to {high} C" if w.quench != "air" else SAY[w.quench]
    much = f", {litres:.0f} litres or more" if w.quench != "air" else ""
    found: list[Finding] = []
    for p in w.parts:
        q = p.quenched
        if not q or p.steel.key not in w.asked or q.austenite < 0.9:
            continue
        likely, least, _ = q.martensite
        wants = SAY[q.quench] if q.quench else "more than any bath gives"
        if p.edge and likely < SHARE_SOFT:
            found.append(Finding("too_slow", "stop", f"{p.steel.name} does not harden in {SAY[w.quench]}, not even at the edge.", f"An edge of {w.edge:.2g} mm becomes about {100 * likely:.0f} % martensite, the rest soft pearlite: {_hrc(q.hrc)}. The section of {w.blade.spine:.1f} mm wants {wants}. Indicative.", "A faster quench.", field="quench", value=100 * likely, limit=100 * SHARE_THROUGH, unit="%"))  # fmt: skip
        elif p.edge and least < SHARE_THROUGH:
            found.append(Finding("too_slow", "care", f"{p.steel.name} may stay soft in {SAY[w.quench]}.", f"An edge of {w.edge:.2g} mm becomes {100 * least:.0f} to {100 * q.martensite[2]:.0f} % martensite; {wants} would do it surely. Indicative.", "A faster quench, a thinner edge, and test it with a file.", field="quench", value=100 * least, limit=100 * SHARE_THROUGH, unit="%"))  # fmt: skip
        elif p.middle and p.middle.martensite[0] < SHARE_THROUGH:
            found.append(Finding("shallow", "note", f"{p.steel.name} hardens near the edge, not through the back.", f"It hardens through to {q.through(w.quench):.1f} mm in {SAY[w.quench]}, within a factor of {KNOWN_WITHIN:g}; the blade is {w.blade.spine:.1f} mm at its spine, {w.edge:.2g} mm at its edge.", "That is how a shallow steel is meant to work: a hard edge on a tougher back.", value=q.through(w.quench), limit=w.blade.spine, unit="mm"))  # fmt: skip
        if p.steel.quench and QUENCHES.index(w.quench) + 2 <= QUENCHES.index(p.steel.quench) and p.hardens:
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
    starts = f" martensite begins at about {ms:.0f} C." if (ms := _ms(w)) else " where its martensite begins is not known here."
    return PlanStep(
        "quench", "Quench", f"Into {bath}{much}; {where}.{quick}",
        f"Above 550 C it must be quick, or the edge turns to soft pearlite;{starts}{_through(w)}",
        danger, (), tuple(found),
    )  # fmt: skip


def _hrc(value: float | None) -> str:
    return "hardness not known here" if value is None else f"about {value:.0f} HRC" if value >= 20 else "under 20 HRC"


def _through(w: Worked) -> str:
    """How thick each hardens through in this quench, beside the section of the blade."""
    depth = [
        (p.steel.name, p.quenched.through(w.quench))
        for p in w.parts
        if p.quenched and p.hardens and (p.quenched.diameter or not p.quenched.unknown) and p.steel.key in w.asked
    ]
    if not depth:
        return ""
    said = ", ".join(f"{name} {'at any thickness here' if d > 50 else f'{d:.1f} mm'}" for name, d in depth)
    return f" Hardens through in {SAY[w.quench]}: {said}; the blade is {w.blade.spine:.1f} mm at its spine, {w.edge:.2g} mm at its edge. Indicative, within a factor of {KNOWN_WITHIN:g}."


def _ms(w: Worked) -> float | None:
    """The highest martensite start at the edge, C; None when it is not known."""
    return max(
        (p.quenched.ms for p in w.parts if p.quenched and p.hardens and p.quenched.ms is not None and p.steel.key in w.asked), default=None
    )


def _straighten(w: Worked) -> PlanStep:
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
        return PlanStep("straighten", "Straighten in the window", "Look along the edge as soon as it may be touched with gloves; where martensite begins is not known here, so bend gently, and stop when it stiffens.", "While it is still mostly austenite it is soft; then it stiffens and snaps.", danger)  # fmt: skip
    part = next(p for p in w.parts if p.quenched and p.quenched.ms == ms)
    assert part.quenched and part.quenched.carbon is not None
    bends = bending_window(ms, martensite_rate(part.steel.composition, part.quenched.carbon))
    return PlanStep(
        "straighten", "Straighten in the window",
        f"Take it out at about {ms + 20:.0f} C {smokes} and look along the edge. It bends easily down to {bends.easy:.0f} C; gently, by gloved hand or between boards, down to {bends.gently:.0f} C; then stop.",
        f"Until martensite begins at {ms:.0f} C it is soft austenite; a tenth has turned at {bends.easy:.0f} C, half at {bends.gently:.0f} C, and what has turned snaps.", danger,
    )  # fmt: skip


def _test(w: Worked) -> PlanStep:
    read = w.said.hardened
    found: list[Finding] = []
    if w.expected is None:
        why = w.unknown or "It does not harden from this heat"
        return PlanStep("test", "Test before the temper", "Try a file along the whole edge and read its hardness on three spots or more: what it should be is not known here.", f"{why}.", "As quenched it may be brittle as glass: do not drop, bend or clamp it; eye protection.", (), (), bool(read.hrc or read.file))  # fmt: skip
    hrc, sure = w.expected
    if read.hrc:
        mean = sum(read.hrc) / len(read.hrc)
        spread = max(read.hrc) - min(read.hrc)
        if mean < hrc - sure - 2:
            found.append(Finding("soft_quenched", "stop" if mean < 50 else "care", "It did not come to full hardness.", f"Read {mean:.1f}, expected {hrc:.0f} HRC within {sure:.1f}. In the order to check: a skin without carbon (grind 0.2 mm and read again), not hot or soaked enough, too slow a quench, the wrong steel at the spot.", "Read again below the skin; if it is still soft, normalise once and harden again.", field="hardened", value=mean, limit=hrc, unit="HRC"))  # fmt: skip
        elif mean > hrc + sure + 2:
            found.append(Finding("hard_reading", "note", "Harder than it can be: check the tester.", f"Read {mean:.1f}, expected {hrc:.0f} HRC at most within {sure:.1f}.", "Try the tester on its block.", field="hardened", value=mean, limit=hrc, unit="HRC"))  # fmt: skip
        if spread > 4:
            found.append(Finding("uneven", "care", "Hard and soft spots.", f"Readings differ by {spread:.1f} HRC: scale, steam pockets, uneven heat, or different steels under the point.", "Read again on clean steel; harden again if the edge itself is soft.", field="hardened", value=spread, unit="HRC"))  # fmt: skip
    if read.file == "bites" and hrc >= 58:
        found.append(Finding("file_bites", "care", "A file bites: under about 58 HRC, or a soft skin.", "A good file is about 64 HRC; it skates over a hard edge.", "File through the skin and try again before you do anything else.", field="hardened"))  # fmt: skip
    return PlanStep(
        "test", "Test before the temper", f"{_file(hrc, sure)} Expected at the edge: {_hrc(hrc).removeprefix('about ')}, within {sure:.1f}.{_back(w, hrc)}" + (" Read on three spots or more." if not read.hrc else f" Read: {', '.join(f'{h:g}' for h in read.hrc)}."),
        "Layers thinner than the tester's dent are read as their mean.", "As quenched it is brittle as glass: do not drop, bend or clamp it; eye protection.", (), tuple(found), bool(read.hrc or read.file),
    )  # fmt: skip


def _file(hrc: float, sure: float) -> str:
    if hrc - min(sure, 2.0) >= SKATES - 2:
        return "A file should skate along the whole edge."
    return (
        "A file bites or just slips: it does not come to full hardness here." if hrc >= 50 else "A file bites: this is not a hardened edge."
    )


def _back(w: Worked, hrc: float) -> str:
    """The spine, where it comes out another hardness than the edge."""
    lead = next((p for p in w.parts if p.steel.key == w.lead), None)
    back = lead.middle if lead else None
    if not back or back.hrc is None or abs(back.hrc - hrc) < 2:
        return ""
    return f" At the spine, {w.blade.spine:.1f} mm: {_hrc(back.hrc)}, within {back.sure:.0f}."
