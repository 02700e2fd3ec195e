"""What the fire takes off the faces: scale, and the skin under it that has lost its carbon. mm per face, C, minutes."""

from math import erfc, exp, sqrt

from varistrat.core.figures import USUAL, Numbers
from varistrat.core.laws.carbon import KELVIN, diffusivity
from varistrat.core.laws.numbers import DECARB, SCALE, Atmosphere
from varistrat.core.laws.transform import Composition

FERRITE_RIM = 0.6
"""Up to the first of FERRITE_BELOW a rim of ferrite slows the loss of carbon; it thins out to nothing at the second (C); indicative."""
FERRITE_BELOW = 850.0, 912.0
SEEN = 0.65
"""Depth the eye sees under the microscope, of the depth to 90 % of the carbon."""


def recession(celsius: float) -> float:
    """kc in X^2 = 2 kc t, m2/s: pure iron in air, 950 to 1250 C; a factor of 1.5 sure."""
    return 0.571e-4 * exp(-21720.0 / (celsius + KELVIN))


def alloy_factor(composition: Composition) -> float:
    """How much less an alloyed steel scales than iron; indicative."""
    cr, ni = composition.get("Cr", 0.0), composition.get("Ni", 0.0)
    if cr > 10 or ni > 50:
        return 0.1
    return 0.9 if cr >= 0.8 or ni >= 1.5 else 1.0


def scale_loss(celsius: float, minutes: float, atmosphere: Atmosphere = "air", alloy: float = 1.0, numbers: Numbers = USUAL) -> float:
    """Metal a heat turns to scale, mm off each face; the scale then knocked off, so that the next heat starts afresh. `alloy`:
    see alloy_factor."""
    if celsius < 500 or minutes <= 0:
        return 0.0
    return 1e3 * sqrt(2 * recession(celsius) * minutes * 60) * numbers.of(SCALE[atmosphere]) * alloy


def rim_factor(celsius: float) -> float:
    """How much less deep a skin is for the rim of ferrite on it: FERRITE_RIM to 1, smooth in the heat."""
    low, high = FERRITE_BELOW
    up = min(1.0, max(0.0, (celsius - low) / (high - low)))
    return FERRITE_RIM + (1 - FERRITE_RIM) * up * up * (3 - 2 * up)


def depth_factor(celsius: float, numbers: Numbers = USUAL) -> float:
    """What every depth of a carbon-poor skin is multiplied by: the rim's, and the shop's own figure.
    One for the sums and for the carbon that is drawn."""
    return rim_factor(celsius) * numbers.of(DECARB)


def decarb_depth(
    celsius: float, minutes: float, carbon: float, atmosphere: Atmosphere = "air", share: float = 0.9, numbers: Numbers = USUAL
) -> float:
    """Depth below the remaining metal at which this share of the carbon is left, mm; 0 when sealed or below red heat.

    C/C0 = 1 - erfc(x / 2 sqrt(D t)) / erfc(sqrt(kc / 2 D)), x from the first surface: Birks and Jackson
    1970, D at half the carbon. The metal's surface lies at X = sqrt(2 kc t). Limits of validity: 700 to 1300 C, low-alloy steel.
    """
    if atmosphere == "sealed" or celsius < 700 or minutes <= 0 or carbon < 0.05:
        return 0.0
    d = float(diffusivity(carbon / 2, max(celsius, 725.0)))
    kc = recession(celsius) * numbers.of(SCALE[atmosphere]) ** 2
    long = 2 * sqrt(d * minutes * 60)
    start = sqrt(kc / (2 * d))
    from scipy.optimize import brentq

    x = brentq(lambda z: erfc(z) / erfc(start) - (1 - share), start, start + 10)
    return float(1e3 * long * (x - start) * depth_factor(celsius, numbers))


def thinned(depth: float, by: float) -> float:
    """A skin after the section was forged to `by` of its height."""
    return depth * by


def added(depth: float, new: float) -> float:
    """Two skins, one after the other, in quadrature: diffusion goes as the root of time."""
    return sqrt(depth * depth + new * new)


HAND_WORK = 0.1
"""Unevenness of the hand, taken off beside the skin, mm."""


def to_grind(skin: float) -> float:
    """What to grind off a face to be below a skin this deep (to 90 %), mm."""
    return 0.7 * skin + (HAND_WORK if skin > 0 else 0.0)
