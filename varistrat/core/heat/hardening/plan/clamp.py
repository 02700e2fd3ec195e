"""Straightening in the clamp while it is tempered."""

from varistrat.core.findings import Code
from varistrat.core.heat.hardening.hardening import BladeHardening
from varistrat.core.heat.hardening.plan.step import PlanStep
from varistrat.core.heat.hardening.straighten import STRAIN_CARE, Move
from varistrat.core.laws.numbers import RELAX

CLAMP_BREAKS = Code(
    "clamp_breaks",
    "heat",
    ("care", "stop"),
    {"care": "So strong a bend may break it in the clamp.", "stop": "So strong a bend is likely to break it in the clamp."},
)


def clamp(w: BladeHardening) -> PlanStep | None:
    """Everything that is bent, largest first: how it lies, where the shim goes, how far past straight."""
    found = w.bends("clamp")
    if not found:
        return None
    done = w.said.tempered
    when = f"For one more hour, the oven at {done[-1].celsius:.0f} C," if len(done) > 1 or w.enough else "For the second temper,"
    told = " ".join(_told(m) for m in found)
    findings = tuple(
        CLAMP_BREAKS.found(
            f"It strains the skin by {100 * m.strain:.2f} %; hard steel goes at about 0.9 %."
            if m.strain
            else "Hard steel hardly twists: it snaps.",
            "Do it in two tempers, half of it each, and warm the blade first; or soften it, straighten and harden again.",
            grade=m.grade,
            field="hardened.bow",
            value=100 * m.strain,
            limit=100 * STRAIN_CARE,
            unit="%",
        )
        for m in found
        if m.grade != "note"
    )
    bow = next((m for m in found if m.way == "bow"), found[0])
    return PlanStep(
        "clamp",
        "Clamp it against the bow",
        f"{when} clamp it on a flat bar: {told}",
        (
            f"A temper lets go of about {100 * w.shop.numbers.of(RELAX):.0f} % of what is bent: {_size(bow, bow.size)} flat and "
            f"{_size(bow, bow.over)} over bring it straight. Lying the other way up, a shim under the middle holds the bow."
        ),
        "Warm it before clamping, 150 C or more; wear eye protection.",
        (),
        findings,
    )


def _size(m: Move, value: float) -> str:
    return f"{abs(value):.1f} deg" if m.way == "twist" else f"{abs(value):.1f} mm"


def _told(m: Move) -> str:
    if m.way == "twist":
        return f"Hold the heel, turn the place {m.at:.0f} mm from it back by {_size(m, m.size)} and {_size(m, m.over)} past."
    side = f"the hollow side ({m.up}) up" if m.up else "the hollow side up"
    return (
        f"{side[0].upper() + side[1:]}, a shim of {m.over:.1f} mm under the bulge, {m.at:.0f} mm from the heel; pull it down "
        f"onto the bar at {m.supports[0]:.0f} and {m.supports[1]:.0f} mm."
    )
