"""How much wider a bar gets as it is brought down between dies or rolls."""

BITE_MAX = 3.3
"""Bite over width beyond which the spread law is not followed further (it has its top at 3.33)."""


def forging_spread(bite: float, across: float) -> float:
    """s in w1/w0 = (h0/h1)^s for flat dies; bite and across (the size that spreads) in mm.

    Source: Tomlinson and Stringer, JISI 193 (1959) 157; fitted for bite/width up to about 2.
    """
    b = min(bite / across, BITE_MAX)
    return 0.14 + 0.36 * b - 0.054 * b * b


def rolling_spread(width: float, thickness: float, diameter: float) -> float:
    """m in w1/w0 = (h0/h1)^m for flat rolls of `diameter` mm.

    Source: Wusatowski, Fundamentals of Rolling (1969); reductions under a half.
    """
    return float(10 ** (-1.269 * (width / thickness) * (thickness / diameter) ** 0.556))
