"""What a photo told, in words."""

from varistrat.core.photo.fit import FittedNumber


def word(fitted: FittedNumber) -> str:
    """One number as one would say it."""
    n = fitted.number
    if not fitted.told:
        return "this photo does not tell"
    made, _, _ = fitted.made
    kind = n.key.split(":")[0]
    if not fitted.differs:
        return "as planned, as far as this photo tells"
    much = f"{_text(abs(fitted.change) * (100 if n.share else 1), '%' if n.share else n.unit)}"
    more = fitted.change > 0
    match kind:
        case "ground":
            return f"ground {much} {'deeper' if more else 'less deep'} than planned"
        case "along":
            return f"lies {much} {'further along' if more else 'nearer the start of'} the bar than planned"
        case "stretch":
            return f"drawn out {much} {'longer' if more else 'shorter'} than planned"
        case "turns":
            return f"twisted {much} {'more' if more else 'less'} than planned: {_text(made, '')} turns"
        case "phase":
            return f"turned {much} {'right-handed' if more else 'left-handed'} about its length"
        case _:
            return f"grooves {much} {'deeper' if more else 'shallower'} than planned"


def _text(value: float, unit: str) -> str:
    digits = {"mm": 2, "%": 1, "deg": 0}.get(unit, 2)
    name = {"%": " %", "mm": " mm", "deg": " degrees"}.get(unit, "")
    return f"{value:.{digits}f}{name}"
