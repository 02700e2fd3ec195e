"""The plan after the quench: the cold, the temper that comes next, the back drawn, the clamp."""

from varistrat.core.findings import Finding
from varistrat.core.heat.colours import run_colour
from varistrat.core.heat.hardening import Worked
from varistrat.core.heat.numbers import RELAX
from varistrat.core.heat.plan_step import PlanStep, Segment
from varistrat.core.heat.temper import BRITTLE, RANGE
from varistrat.core.steels import STEELS


def into_the_cold(w: Worked) -> PlanStep | None:
    worst = max((p.quenched.retained[1] for p in w.parts if p.quenched and p.hardens), default=0.0)
    before = max((w._quench_one(k, w.heat).retained[1] for k in w.hardeners), default=0.0)
    if w.cold:
        return PlanStep("cold", "Into the cold", "Within an hour of the quench: dry ice in alcohol, or a deep freezer at -75 C, an hour once it is cold through.", f"Up to {100 * before:.0f} % austenite would be left; the cold turns most of it, to {100 * worst:.0f} % or less, and adds about a point.", "Gloves; carbon dioxide pushes air out of a closed room.")  # fmt: skip
    if not w.cold_would_help:
        return None
    return PlanStep("cold", "The cold is not needed", "Keep carbon in solution low instead: the lower end of the heat, no longer soak.", f"Up to {100 * before:.0f} % austenite may be left; most of it goes in the second temper above 205 C. A freezer does no harm.")  # fmt: skip


def temper(w: Worked) -> PlanStep | None:
    """The next temper: the first two hours, another one, or that it has had enough."""
    if not w.lead or w.comes_to(w.lead) is None:
        return None
    if w.temper is None:
        return _tempered(w)
    oven = round((w.temper - w.oven) / 5) * 5
    true = oven + w.oven
    again = w.now is not None
    says = f" (the oven reads {abs(w.oven):.0f} C° {'low' if w.oven > 0 else 'high'}: true heat {true:.0f} C)" if abs(w.oven) >= 1 else ""
    seen = (
        f" On bright steel it runs to {colour[1]}; chromium steels later."
        if w.said.school == "magnet" and (colour := run_colour(true))
        else ""
    )
    shift = f" Readings so far say {w.shift:+.1f} HRC against the law." if abs(w.shift) > 0.05 else ""
    hour = "an hour" if w.hours == 1 else f"{w.hours:g} h"
    if again:
        do = f"It is at {w.now:.1f} HRC: once more, {hour} with the oven at {oven:.0f} C{says}.{seen} It then comes to: {_gets(w, true)} HRC, within {w.sure:.1f}."
        program: tuple[Segment, ...] = (Segment(oven, None, 60 * w.hours),)
    else:
        do = f"Within the hour: oven at {oven:.0f} C{says}, two tempers of an hour each, cooled to the hand in between.{seen} It comes to: {_gets(w, true)} HRC, within {w.sure:.1f}."
        program = (Segment(oven, None, 60), Segment(40, None, 0), Segment(oven, None, 60))
    return PlanStep(
        "temper", "Temper again" if again else "Temper", do, f"For {w.said.wanted:g} HRC at the edge.{shift} An hour more takes off about half a point.", "",
        program, tuple(_temper_findings(w, true)),
    )  # fmt: skip


def _gets(w: Worked, true: float | None) -> str:
    """HRC of each that hardens once this temper is done too."""
    return ", ".join(f"{STEELS[k].name} {h:.1f}" for k in w.hardeners if (h := w.comes_to(k, true)) is not None)


def _tempered(w: Worked) -> PlanStep:
    """Nothing more to take off: what it came to, and what cannot be undone."""
    now, last = w.now or 0.0, w.said.tempered[-1]
    short = w.said.wanted - now
    found: tuple[Finding, ...] = ()
    if short > 1.0:
        found = (Finding("tempered_soft", "care", f"It came out {short:.1f} HRC softer than wanted.", f"{now:.1f} HRC, within {w.sure:.1f}, against {w.said.wanted:g}. No temper brings hardness back.", "Keep it as it is and grind a stouter edge, or normalise once and harden again; then temper cooler.", field="tempered", value=now, limit=w.said.wanted, unit="HRC"),)  # fmt: skip
    once = sum(t.hours for t in w.said.tempered) < 1.5 and len(w.said.tempered) < 2
    do = f"It stands at: {_gets(w, None)} HRC, within {w.sure:.1f}."
    if once and not found:
        do += f" One more hour, no hotter than the last (oven at {last.celsius:.0f} C)."
        why = "The first temper turns some of the austenite that was left; the second tempers what that became."
        return PlanStep("temper", "Temper again", do, why, "", (Segment(last.celsius, None, 60),), found)
    return PlanStep(
        "temper",
        "Tempered",
        do,
        f"Wanted: {w.said.wanted:g} HRC at the edge. An hour more takes off about half a point.",
        "",
        (),
        found,
        True,
    )


def _temper_findings(w: Worked, true: float) -> list[Finding]:
    found: list[Finding] = []
    lead = STEELS[w.lead or ""]
    got = w.comes_to(lead.key, true) or 0.0
    if abs(got - w.said.wanted) > 1.0:
        far = "hard" if w.said.wanted > got else "soft"
        found.append(Finding("out_of_reach", "care", f"{w.said.wanted:g} HRC cannot be had by tempering alone.", f"{lead.name} comes to {got:.1f} HRC at {true:.0f} C, the end of the range ({RANGE[0]:.0f} to {RANGE[1]:.0f} C); it is too {far} a wish for it.", "Choose another hardness, or another steel at the edge.", field="wanted", value=w.said.wanted, limit=got, unit="HRC"))  # fmt: skip
    if true > BRITTLE[0] and not any(STEELS[k].share("Cr") > 4 for k in w.hardeners):
        found.append(Finding("brittle_range", "care", "In this range it becomes softer and more brittle at once.", f"Between {BRITTLE[0]:.0f} and {BRITTLE[1]:.0f} C tempered martensite embrittles.", "For a tougher blade stay under 250 C and use a tougher steel, or draw only the back.", field="wanted", value=true, limit=BRITTLE[0], unit="C"))  # fmt: skip
    return found


def draw_the_back(w: Worked) -> PlanStep | None:
    if w.said.back == "even":
        return None
    return PlanStep(
        "back", "Draw the back",
        "Edge in water or wet sand, heat the back from the tang on until blue (295 to 310 C) has run to a third of the height from the edge and no further; quench the edge if straw runs on.",
        "A blue back bends before it breaks; the edge keeps its temper as long as it stays under it.", "The edge is ruined once straw has gone brown there.",
    )  # fmt: skip


def clamp(w: Worked) -> PlanStep | None:
    bow = w.said.hardened.bow
    if not bow:
        return None
    over = bow * (1 / RELAX.now - 1)
    strain = 4 * w.blade.spine * (bow + over) / w.blade.length**2
    found: tuple[Finding, ...] = ()
    if strain > 0.004:
        found = (Finding("clamp_breaks", "care", "So strong a bend may break it in the clamp.", f"It strains the skin by {100 * strain:.2f} %; hard steel goes at about 0.9 %.", "Do it in two tempers, half the shim each, and warm the blade first.", field="hardened.bow", value=100 * strain, limit=0.4, unit="%"),)  # fmt: skip
    done = w.said.tempered
    when = f"For one more hour, the oven at {done[-1].celsius:.0f} C," if len(done) > 1 or w.enough else "For the second temper,"
    return PlanStep(
        "clamp", "Clamp it against the bow", f"{when} clamp it on a flat bar, hollow side down, a shim of {over:.1f} mm under the middle beyond flat; ends held.",
        f"A temper lets go of about {100 * RELAX.now:.0f} % of what is bent: {bow:g} mm flat and {over:.1f} mm over bring it straight.", "Warm it before clamping; wear eye protection.", (), found,
    )  # fmt: skip
