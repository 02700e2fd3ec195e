"""How they pull on one another in the quench."""

from varistrat.core.laws.transform import growth
from varistrat.core.pairing.pairing import Pairing, Reason

EXPANSION = {"304": 18.5, "316": 18.0, "nickel": 16.0, "powdernickel": 16.0, "copper": 20.0}
STEEL_EXPANSION = 13.0
"""Mean expansion to hardening heat, 1e-6 / K; ferritic and hardening steels; indicative."""


def stress(p: Pairing) -> Reason:
    """By how much each grows and shrinks."""
    dissolved = {i: q.carbon for i, q in p.quenched.items() if q.carbon is not None}
    grows = [growth(dissolved[i]) * 100 if i in dissolved else 0.0 for i in range(len(p.steels))]
    shrink = [EXPANSION.get(s.key, STEEL_EXPANSION) for s in p.steels]
    unlike = (max(shrink) - min(shrink)) * 1e-6 * max(p.heat - 20, 700) * 100
    spread = max(grows) - min(grows)
    starts = [q.ms for q in p.quenched.values() if q.ms is not None]
    apart = max(starts) - min(starts) if len(starts) > 1 else 0.0
    why = (
        f"Hardening makes them grow by {min(grows):.2f} to {max(grows):.2f} % in length; cooling shrinks them {unlike:.2f} % "
        f"differently; they turn to martensite {apart:.0f} C° apart."
    )
    total = spread + unlike
    if total > 0.6:
        return Reason(
            "stress",
            "care",
            "They pull on one another in the quench: a lopsided stack bends, a thin one may crack.",
            why,
            "The same on both sides, thick enough before the quench, straighten in the window, temper at once.",
            total,
            "%",
        )
    if spread > 0.25:
        return Reason(
            "stress",
            "note",
            "The hardening one grows, the other does not.",
            why,
            "Keep it alike on both sides or it bends towards the soft one.",
            total,
            "%",
        )
    return Reason("stress", "note", "They grow and shrink alike.", why, "", total, "%")
