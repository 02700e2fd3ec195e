"""Which of them takes up carbon and which gives it off."""

from varistrat.core.pairing.pairing import Pairing, Reason
from varistrat.core.steels.hardening import TARGET


def carbon(p: Pairing) -> Reason:
    """By what each ends at once fine layers have evened out."""
    moves = [(c - s.share("C"), s, c) for s, c in zip(p.steels, p.carbons, strict=True) if s.share("Cu") < 50]
    change, steel, _ = max(moves, key=lambda m: abs(m[0]))
    if not p.shared:
        return Reason(
            "carbon",
            "note",
            "Thick layers keep their own carbon but for a band at the joint.",
            "How wide it grows is told by the heats of the design.",
            "",
        )
    words = ", ".join(f"{s.name} {s.share('C'):.2f} to {c:.2f}" for s, c in zip(p.steels, p.carbons, strict=True))
    why = f"Once fine layers have evened out, carbon is: {words} %."
    poorest = min((p.carbons[i] for i in p.asked), default=0.0)
    if abs(change) < 0.1:
        return Reason("carbon", "note", "Carbon hardly moves between them.", why, "", change, "% C")
    if any(p.steels[i].hardening for i in p.asked) and poorest < TARGET[0] - 0.05:
        return Reason(
            "carbon",
            "care",
            f"{steel.name} draws the carbon out of the rest." if change > 0 else f"{steel.name} loses carbon.",
            why + f" Below {TARGET[0]:.1f} % it does not come up to full hardness.",
            "Reckon with the mean carbon; use more of the high-carbon steel, or keep it for cladding.",
            change,
            "% C",
        )
    return Reason(
        "carbon",
        "note",
        f"{steel.name} {'takes up' if change > 0 else 'gives off'} carbon.",
        why,
        "Harden for what it ends at, not for what it was.",
        change,
        "% C",
    )
