"""How far apart steels look once etched, and whether it lasts."""

from varistrat.core.laws.carbon import LASTS, worst_contrast
from varistrat.core.pairing.pairing import Pairing, Reason, lightness

STRONG, MEDIUM, FAINT = 30.0, 15.0, 10.0
"""Difference of lightness (L*, 0 to 100) seen as strong, clear, hardly; indicative."""


def contrast(p: Pairing) -> Reason:
    """By lightness; carbon alone evens out."""
    tones = sorted(((lightness(s, p.etchant), s) for s in p.steels), key=lambda p: p[0])
    spread = p.apart
    _, apart = worst_contrast([s.composition for s in p.steels])
    lasts = apart >= LASTS
    why = (
        f"Lightness {tones[0][0]:.0f} ({tones[0][1].name}) against {tones[-1][0]:.0f} ({tones[-1][1].name}), of 100. Indicative: "
        "etch coupons."
    )
    if p.shared and not lasts and max(s.share("C") for s in p.steels) - min(s.share("C") for s in p.steels) > 0.2:
        return Reason(
            "contrast",
            "care",
            "What contrast there is comes from carbon, and carbon evens out.",
            why + " No nickel or chromium parts them.",
            "Use a steel with nickel or chromium beside the plain one, or few thick layers.",
            spread,
            "L*",
        )
    if spread >= STRONG:
        return Reason("contrast", "note", "Strong contrast, and it stays." if lasts else "Strong contrast.", why, "", spread, "L*")
    if spread >= MEDIUM:
        return Reason("contrast", "note", "Clear contrast.", why, "", spread, "L*")
    what = "Hardly any contrast." if spread < FAINT else "Faint contrast."
    if p.use == "clad" and any(p.steels[i].hardens == "no" for i in range(len(p.steels)) if i not in p.asked):
        cure = "Good where a clad is wanted for what it stands, not for a line that is seen."
        return Reason("contrast", "care", what, why, cure, spread, "L*")
    return Reason(
        "contrast", "stop" if spread < FAINT else "care", what, why, "Pair a dark plain steel with a bright nickel one.", spread, "L*"
    )
