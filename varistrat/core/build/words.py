"""What a difference between planned and measured means, in a word."""

from varistrat.core.route.operation import Quantity, Target

MEANS: dict[Quantity, tuple[str, str]] = {
    "length": ("longer: it lost less than planned", "shorter: look at what is to spare"),
    "width": ("wider: draw on, or the bar stays shorter", "narrower: what follows has less to grind from"),
    "thickness": ("thicker: more passes, or the bar stays shorter", "thinner: what follows has less to grind from"),
    "diameter": ("thicker: draw on, or the bar stays shorter", "thinner: what follows has less to grind from"),
    "mass": ("heavier", "lighter"),
    "heats": ("more: more scale, and more carbon gone", "fewer"),
    "minutes": ("longer", "shorter"),
    "celsius": ("hotter: grain and scale grow", "colder: it may not weld, or crack under the hammer"),
    "turns": ("more: a finer pattern", "fewer: a coarser pattern"),
    "count": ("more", "fewer"),
    "hardness": ("harder: it may chip; temper again, hotter", "softer: it may roll; look at the quench"),
    "height": ("higher", "lower"),
    "depth": ("deeper", "shallower"),
}
"""(more than planned, less than planned)."""


def within(target: Target, measured: float) -> bool:
    """Whether nothing need be said of it."""
    return abs(measured - target.value) <= target.tolerance + 1e-9


def word(target: Target, measured: float) -> str:
    """ "0.4 mm thicker: more passes, or the bar stays shorter"; empty within the tolerance."""
    if within(target, measured):
        return ""
    off = measured - target.value
    unit = {"celsius": "C°"}.get(target.quantity, target.unit)
    # a tester does not tell hundredths of a point
    much = f"{round(abs(off), 1):g}" if target.quantity == "hardness" else f"{abs(off):.3g}"
    return " ".join(filter(None, (much, unit, MEANS[target.quantity][off < 0])))
