"""Before the grind: normalise, soften and relieve."""

from math import floor

from varistrat.core.heat.colours import glow
from varistrat.core.heat.hardening.cycles import softening
from varistrat.core.heat.hardening.edge import skin_of_heats
from varistrat.core.heat.hardening.hardening import BladeHardening
from varistrat.core.heat.hardening.plan.step import FOILED, PlanStep
from varistrat.core.heat.segment import Segment

BLACK = 480.0
"""Air-cooled to here between normalising heats, C: everything has turned, and it no longer glows."""
UNDER_AC1 = 15.0
"""C that softening stays under the first austenite."""


def normalise(w: BladeHardening) -> PlanStep | None:
    """Heats in air that make the grain fine again; left out where the steel would harden in them."""
    found = softening([w.shop.steels[k] for k in w.asked])
    if not found:
        return None
    if not found.normalise:
        return PlanStep("normalise", "No normalising", "Leave it out.", found.why)
    heats = ", then ".join(f"{t:.0f} C" for t in found.normalise)
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
        "normalise",
        "Normalise",
        f"{heats}; {found.hold:.0f} min each once it is hot through, then out into still air until it is black.{by_eye}{skin}",
        found.why,
        "Hot steel looks like cold steel once it is black.",
        tuple(s for t in found.normalise for s in (Segment(celsius=t, minutes=found.hold, through=True), Segment(celsius=BLACK, out=True))),
    )


def anneal(w: BladeHardening) -> PlanStep | None:
    """Under the first austenite, so that it drills, straightens and hardens evenly."""
    found = softening([w.shop.steels[k] for k in w.hardeners])
    if not found:
        return None
    celsius, hours = found.anneal
    # under the *first* of them to transform: what goes over hardens again as it cools
    celsius = min(celsius, 5 * floor((w.first_start - UNDER_AC1) / 5))
    return PlanStep(
        "anneal",
        "Soften and relieve",
        (
            f"{celsius:.0f} C for {hours:g} h, then slowly down in the kiln. Straighten it now, drill the tang, grind."
            if w.said.school == "kiln"
            else f"Without a kiln: heat it until it only just glows in the dark, under where a magnet lets go (about {celsius:.0f} C), as "
            "long as you can hold it there, three times; the last time let it cool buried in dry ash or vermiculite. Straighten it now, "
            "drill the tang, grind."
        ),
        (
            f"Under {w.first_start:.0f} C, where the first of its steels turns to austenite, it takes strain out and rounds the "
            "carbides: it drills, straightens and hardens evenly."
        ),
        "",
        (Segment(celsius=celsius, minutes=60 * hours, through=True), Segment(celsius=400, rate=120)),
    )
