"""The cold, the temper that comes next, and the back drawn."""

from varistrat.core.findings import Code, Finding
from varistrat.core.heat.colours import run_colour
from varistrat.core.heat.hardening.hardening import BladeHardening
from varistrat.core.heat.hardening.plan.step import PlanStep
from varistrat.core.heat.segment import Segment
from varistrat.core.laws.temper import BRITTLE, RANGE

TEMPERED_SOFT = Code("tempered_soft", "heat", ("care",), "It came out {short:.1f} HRC softer than wanted.")
OUT_OF_REACH = Code("out_of_reach", "heat", ("care",), "{wanted:g} HRC cannot be had by tempering alone.")
BRITTLE_RANGE = Code("brittle_range", "heat", ("care",), "In this range it becomes softer and more brittle at once.")
TURNS_FROM, TURNS_MOST = 205.0, 235.0
"""Tempering heats from which austenite that was left begins to turn in plain steels, and from which most of it does in two hours, C: the
second stage of tempering, 200 to 300 C, most of it at 230 to 260; indicative."""


def into_the_cold(w: BladeHardening) -> PlanStep | None:
    """Cold right after the quench, where it turns austenite that the temper would not."""
    worst = max((p.quenched.retained[1] for p in w.parts if p.quenched and p.hardens and p.quenched.retained), default=0.0)
    before = max((r[1] for k in w.asked if (r := w._quench_one(k, w.heat).retained)), default=0.0)
    if w.cold:
        much = (
            (
                f"Up to {100 * before:.0f} % austenite would be left; the cold turns most of it, to {100 * worst:.0f} % or less, and "
                "adds about a point."
            )
            if before
            else "The cold turns most of the austenite that is left."
        )
        return PlanStep(
            "cold",
            "Into the cold",
            "Within an hour of the quench: dry ice in alcohol, or a deep freezer at -75 C, an hour once it is cold through.",
            much,
            (
                "Dry ice and what is cooled by it burn the skin: insulated gloves, eye protection. Alcohol is flammable: no flame or hot "
                "steel near. Carbon dioxide pushes air out of a closed room."
            ),
        )
    if not w.cold_would_help:
        return None
    return PlanStep(
        "cold",
        "The cold is not needed",
        "Keep carbon in solution low instead: the lower end of the heat, no longer soak.",
        f"Up to {100 * before:.0f} % austenite may be left; {_left_in_temper(w)} A freezer does no harm.",
        idle=True,
    )


def _left_in_temper(w: BladeHardening) -> str:
    """What becomes of it, beside the temper that is planned."""
    if w.temper is not None and w.temper >= TURNS_MOST:
        return f"at {w.temper:.0f} C most of it turns in the second temper."
    if w.temper is not None and w.temper >= TURNS_FROM:
        return f"at {w.temper:.0f} C some of it turns; most would from {TURNS_MOST:.0f} C on."
    at = f" ({w.temper:.0f} C)" if w.temper is not None else ""
    return f"under {TURNS_FROM:.0f} C, as planned here{at}, it stays: stable, a little softer."


def temper(w: BladeHardening) -> PlanStep | None:
    """The next temper: the first two hours, another one, or that it has had enough."""
    if not w.lead:
        return None
    if w.unknown:
        return PlanStep(
            "temper",
            "Temper",
            "Twice two hours at what its maker gives for the hardness you want.",
            f"{w.unknown}: what a temper makes of it is not known here.",
            "",
        )
    if w.comes_to(w.lead) is None:
        return None
    if (oven := w.set_oven) is None:
        return _tempered(w)
    true = oven + w.oven
    again = w.now is not None
    says = f" (the oven reads {abs(w.oven):.0f} C° {'low' if w.oven > 0 else 'high'}: true heat {true:.0f} C)" if abs(w.oven) >= 1 else ""
    seen = (
        f" Without an oven: bright steel laid back down on a hot block or bar, moved along until it runs to {colour[1]} at the edge, then "
        "into water; three times. Chromium steels run to it later, and it is good to 15 C° at the best."
        if w.said.school == "magnet" and (colour := run_colour(true))
        else ""
    )
    whose = "Your blades usually read" if w.by_shop and w.shift == w.by_shop else "Readings so far say"
    shift = f" {whose} {w.shift:+.1f} HRC against what was calculated." if abs(w.shift) > 0.05 else ""
    hour = "an hour" if w.hours == 1 else f"{w.hours:g} h"
    if again:
        do = (
            f"It is at {w.now:.1f} HRC: once more, {hour} with the oven at {oven:.0f} C{says}.{seen} It then comes to: "
            f"{_gets(w, true)} HRC, within {w.sure:.1f}."
        )
        program: tuple[Segment, ...] = (Segment(celsius=oven, minutes=60 * w.hours),)
    else:
        do = (
            f"Within the hour: oven at {oven:.0f} C{says}, two tempers of an hour each, cooled to the hand in between.{seen} It "
            f"comes to: {_gets(w, true)} HRC, within {w.sure:.1f}."
        )
        program = (Segment(celsius=oven, minutes=60), Segment(celsius=40), Segment(celsius=oven, minutes=60))
    return PlanStep(
        "temper",
        "Temper again" if again else "Temper",
        do,
        f"For {w.said.wanted:g} HRC at the edge.{shift} An hour more takes off about half a point.",
        "",
        program,
        tuple(_temper_findings(w, true)),
    )


def _gets(w: BladeHardening, true: float | None) -> str:
    """HRC of each that hardens once this temper is done too."""
    return ", ".join(f"{w.shop.steels[k].name} {h:.1f}" for k in w.hardeners if (h := w.comes_to(k, true)) is not None)


def _tempered(w: BladeHardening) -> PlanStep:
    """Nothing more to take off: what it came to, and what cannot be undone."""
    now, last = w.now or 0.0, w.said.tempered[-1]
    short = w.said.wanted - now
    found: tuple[Finding, ...] = ()
    if short > 1.0:
        found = (
            TEMPERED_SOFT.found(
                f"{now:.1f} HRC, within {w.sure:.1f}, against {w.said.wanted:g}. No temper brings hardness back.",
                "Keep it as it is and grind a stouter edge, or normalise once and harden again; then temper cooler.",
                short=short,
                field="tempered",
                value=now,
                limit=w.said.wanted,
                unit="HRC",
            ),
        )
    once = sum(t.hours for t in w.said.tempered) < 1.5 and len(w.said.tempered) < 2
    do = f"It stands at: {_gets(w, None)} HRC, within {w.sure:.1f}."
    if once and not found:
        do += f" One more hour, no hotter than the last (oven at {last.celsius:.0f} C)."
        why = "The first temper turns some of the austenite that was left; the second tempers what that became."
        return PlanStep("temper", "Temper again", do, why, "", (Segment(celsius=last.celsius, minutes=60),), found)
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


def _temper_findings(w: BladeHardening, true: float) -> list[Finding]:
    found: list[Finding] = []
    lead = w.shop.steels[w.lead or ""]
    got = w.comes_to(lead.key, true) or 0.0
    if abs(got - w.said.wanted) > 1.0:
        far = "hard" if w.said.wanted > got else "soft"
        found.append(
            OUT_OF_REACH.found(
                (
                    f"{lead.name} comes to {got:.1f} HRC at {true:.0f} C, the end of the range ({RANGE[0]:.0f} to {RANGE[1]:.0f} C); it is "
                    f"too {far} a wish for it."
                ),
                "Choose another hardness, or another steel at the edge.",
                wanted=w.said.wanted,
                field="wanted",
                value=w.said.wanted,
                limit=got,
                unit="HRC",
            )
        )
    if true > BRITTLE[0] and not any(w.shop.steels[k].share("Cr") > 4 for k in w.hardeners):
        found.append(
            BRITTLE_RANGE.found(
                f"Between {BRITTLE[0]:.0f} and {BRITTLE[1]:.0f} C tempered martensite embrittles.",
                "For a tougher blade stay under 250 C and use a tougher steel, or draw only the back.",
                field="wanted",
                value=true,
                limit=BRITTLE[0],
                unit="C",
            )
        )
    return found


def draw_the_back(w: BladeHardening) -> PlanStep | None:
    """The back drawn to blue over the temper of the edge, if it is wanted."""
    if w.said.back == "even":
        return None
    return PlanStep(
        "back",
        "Draw the back",
        (
            "Edge in water or wet sand, heat the back from the tang on until blue (295 to 310 C) has run to a third of the height "
            "from the edge and no further; quench the edge if straw runs on."
        ),
        "A blue back bends before it breaks; the edge keeps its temper as long as it stays under it.",
        "The edge is ruined once straw has gone brown there.",
    )
