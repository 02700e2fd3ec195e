"""What a photo told, in words."""

from varistrat.core.photo.fit import FittedNumber

DIGITS = {"mm": (2, " mm"), "%": (1, " %"), "deg": (0, " degrees"), "turns": (2, "")}


def word(fitted: FittedNumber) -> str:
    """One number as one would say it."""
    n = fitted.number
    if not fitted.told:
        return "this photo does not tell"
    if not fitted.differs:
        return "as planned, as far as this photo tells"
    off = abs(fitted.change)
    much = _text(100 * off, "%") if n.share else _text(off, n.unit)
    return (n.more if fitted.change > 0 else n.less).format(much=much, made=_text(fitted.made[0], n.unit))


def _text(value: float, unit: str) -> str:
    digits, name = DIGITS[unit]
    return f"{value:.{digits}f}{name}"
