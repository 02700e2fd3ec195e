"""What must be so before it goes into the fire."""

from varistrat.core.findings import Code
from varistrat.core.heat.fires.skin import to_grind
from varistrat.core.heat.hardening.cycles import softening
from varistrat.core.heat.hardening.edge import edge_to_leave, skin_of_heats, too_thin
from varistrat.core.heat.hardening.hardening import BladeHardening
from varistrat.core.heat.hardening.plan.step import FOILED, SAY, PlanStep
from varistrat.core.laws.ranges import law_of_composition

SKIN_OF_EDGE = 0.25
"""Share of the edge's thickness that its two skins may take before it is pointed out; indicative."""
EDGE_CRACKS = Code(
    "edge_cracks",
    "heat",
    ("care", "stop"),
    {"care": "So thin an edge is likely to crack or wave in the quench.", "stop": "So thin an edge cracks or waves in the quench."},
)
LOPSIDED = Code("lopsided", "heat", ("care",), "One side hardens more than the other: it bends in the quench.")
LOPSIDED_FROM = 0.25
"""How far what hardens may lie to one side, 0 to 1, before it is told; indicative."""
SKIN_AT_EDGE = Code("skin_at_edge", "heat", ("care",), "Much of so thin an edge loses its carbon in the fire.")


def _skin(w: BladeHardening) -> tuple[float, float] | None:
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


def ready(w: BladeHardening) -> PlanStep:
    """What must be so before it goes into the fire: edge left thick, scratches out, skin reckoned with."""
    least, usual = edge_to_leave(w.quench, w.blade.length, w.blade.spine)
    edge = w.edge
    found = []
    if grade := too_thin(edge, w.quench, w.blade.length, w.blade.spine):
        found.append(
            EDGE_CRACKS.found(
                f"{edge:.2f} mm for {SAY[w.quench]}; {least:.2g} to {usual:.2g} mm is left before hardening. Indicative.",
                "Leave more and grind the rest afterwards, cool; or a slower quench.",
                grade=grade,
                field="edge",
                value=edge,
                limit=least,
                unit="mm",
            )
        )
    if w.blade.lopsided > LOPSIDED_FROM:
        found.append(
            LOPSIDED.found(
                f"What hardens lies {100 * w.blade.lopsided:.0f} % to one side of its middle. Martensite takes more room than what it was: "
                "the hard side comes out longer, and the blade hollow on the soft side. Indicative.",
                "Leave it thick, straighten it in the window and in the temper's clamp; or bend it the other way before, as a coupon says.",
                value=100 * w.blade.lopsided,
                limit=100 * LOPSIDED_FROM,
                unit="%",
            )
        )
    lost = ""
    if skin := _skin(w):
        off = to_grind(skin[1])
        share = 2 * skin[1] / edge
        when = "The heat of hardening" if w.said.bevels == "before" else "Normalising and hardening"
        lost = (
            f" {when} {'bare in air' if w.said.guarded == 'bare' else 'under paste'} takes {skin[0]:.2f} mm to scale and leaves a "
            f"soft skin {skin[1]:.2f} mm deep on each side: grind off {off:.2f} mm a side before you judge the edge."
        )
        if share > SKIN_OF_EDGE and w.said.guarded == "bare":
            found.append(
                SKIN_AT_EDGE.found(
                    (
                        f"A soft skin of {skin[1]:.2f} mm on each side of an edge {edge:.2f} mm thick: {100 * min(1.0, share):.0f} % of "
                        "it. "
                        "Indicative."
                    ),
                    "Foil or paste, a shorter soak, or leave it thicker and grind below the skin afterwards.",
                    field="edge",
                    value=100 * min(1.0, share),
                    limit=100 * SKIN_OF_EDGE,
                    unit="%",
                )
            )
    how = (
        "Leave the bevels for afterwards"
        if w.said.bevels == "after"
        else f"Leave {edge:.2g} mm at the edge, all that it will have"
        if edge <= w.blade.finished + 0.05
        else f"Leave {edge:.2g} mm at the edge"
    )
    return PlanStep(
        "ready",
        "Make it ready",
        f"{how}; both sides alike, no notches or deep scratches across, corners broken, 120 grit.{lost}",
        "A thin, uneven or scratched edge cools before the rest and cracks; what is alike on both sides stays straight.",
        "",
        (),
        tuple(found),
    )
