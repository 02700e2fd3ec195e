"""How stiff a steel is under the hammer, and whether two of them will flow together."""

from math import exp

from varistrat.core.steels.model import Steel

FORGING_C = 1050.0
WARN, CONTAIN = 1.3, 1.6
"""Ratio of stiffness above which edges mushroom, and above which a stack wants a can or welded edges; indicative."""
_ADDED = {"Cr": 0.05, "Ni": 0.015, "Mo": 0.10, "V": 0.15, "W": 0.06, "Si": 0.05}


def plain_stress(carbon: float, celsius: float, strain: float = 0.2, rate: float = 1.0) -> float:
    """Flow stress of plain carbon steel, MPa. Source: Shida 1969; C 0.07-1.2 %, 700-1200 C, strain to 0.7, 0.1-100 /s."""
    t = (celsius + 273.15) / 1000
    n = 0.41 - 0.07 * carbon
    turn = 0.95 * (carbon + 0.41) / (carbon + 0.32)
    if t >= turn:
        base = 0.28 * exp(5 / t - 0.01 / (carbon + 0.05))
        m = (-0.019 * carbon + 0.126) * t + 0.075 * carbon - 0.050
    else:
        g = 30 * (carbon + 0.9) * (t - 0.95 * (carbon + 0.49) / (carbon + 0.42)) ** 2 + (carbon + 0.06) / (carbon + 0.09)
        base = 0.28 * g * exp((carbon + 0.32) / (0.19 * (carbon + 0.41)) - 0.01 / (carbon + 0.05))
        m = (0.081 * carbon - 0.154) * t - 0.019 * carbon + 0.207 + 0.027 / (carbon + 0.32)
    return 9.807 * base * (1.3 * (strain / 0.2) ** n - 0.3 * (strain / 0.2)) * (rate / 10) ** m


def stress(steel: Steel, celsius: float = FORGING_C) -> float:
    """Flow stress at hand and press speed, MPa: Shida's with rough alloy factors; indicative."""
    if steel.flow is not None:
        return plain_stress(0.84, celsius) * steel.flow
    c = steel.composition
    plain = plain_stress(min(max(c.get("C", 0.0), 0.07), 1.2), celsius)
    factor = 1 + sum(k * min(c.get(e, 0.0), 3.0) for e, k in _ADDED.items()) + 0.03 * (c.get("Mn", 0.6) - 0.6)
    return plain * factor


def stiffness_ratio(a: Steel, b: Steel, celsius: float = FORGING_C) -> float:
    """How many times stiffer the stiffer of two steels is, 1 or more."""
    one, two = stress(a, celsius), stress(b, celsius)
    return max(one, two) / min(one, two)
