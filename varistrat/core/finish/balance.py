"""The balance wanted at a place: which handle, guard, pommel or holes give it; any one of them the unknown. docs/physics.md#measures."""

from dataclasses import dataclass, replace
from math import pi
from typing import Literal

from varistrat.core.blade.measures import Handle, balance
from varistrat.core.design.worked import Worked
from varistrat.core.errors import InputError

Unknown = Literal["handle", "guard", "pommel", "holes"]


@dataclass(frozen=True)
class Fittings:
    """handle: its length, mm, width and thickness, density g/mm3; guard, pommel: g, their middles guard_at and behind the handle's end;
    holes: how many of `hole` mm through the tang, the first `first` mm behind the heel, `pitch` apart."""

    handle: float
    width: float
    thickness: float
    density: float
    guard: float = 0.0
    guard_at: float = -3.0
    pommel: float = 0.0
    pommel_long: float = 8.0
    holes: float = 0.0
    hole: float = 6.0
    first: float = 25.0
    pitch: float = 12.0


LIMITS: dict[Unknown, tuple[float, float]] = {"handle": (40.0, 400.0), "guard": (0.0, 400.0), "pommel": (0.0, 600.0), "holes": (0.0, 12.0)}
UNITS: dict[Unknown, str] = {"handle": "mm", "guard": "g", "pommel": "g", "holes": ""}


@dataclass(frozen=True)
class Balanced:
    """point: mm from the heel, + towards the tip; mass: g, all of it."""

    point: float
    mass: float


def balanced(worked: Worked, fit: Fittings) -> Balanced:
    """With these fittings. Raises InputError when there is no blade."""
    geometry, density = worked.blade.geometry, worked.forged.density
    b = balance(geometry, density, Handle(fit.handle, fit.width, fit.thickness, fit.density))
    mass, moment = b.whole, b.whole * b.point
    mass += fit.guard + fit.pommel
    moment += fit.guard * fit.guard_at - fit.pommel * (fit.handle + fit.pommel_long / 2)
    tang = geometry.blade.tang
    if fit.holes and tang:
        # what is drilled out of the tang is steel less; the scales close over it
        each = pi / 4 * fit.hole**2 * geometry.blade.spine_thickness.heel * density
        whole = int(fit.holes)
        for i in range(whole + 1):
            share = 1.0 if i < whole else fit.holes - whole
            mass -= share * each
            moment += share * each * (fit.first + i * fit.pitch)
    return Balanced(moment / mass, mass)


def solve_balance(worked: Worked, fit: Fittings, wanted: float, unknown: Unknown) -> float:
    """What the unknown must be for the balance wanted, mm from the heel. Raises InputError when nothing within reach gives it."""
    from scipy.optimize import brentq

    low, high = LIMITS[unknown]

    def miss(value: float) -> float:
        return balanced(worked, replace(fit, **{unknown: value})).point - wanted

    if unknown == "holes" and worked.blade.geometry.blade.tang is None:
        raise InputError.at("unknown", "this blade has no tang to drill", "give it one under Blade, or choose another")
    a, b = miss(low), miss(high)
    if a * b > 0:
        near = (wanted + a, wanted + b)
        raise InputError.at(
            "wanted",
            f"no {unknown} from {low:g} to {high:g} {UNITS[unknown]} puts the balance at {wanted:g} mm".replace("  ", " "),
            f"it can be put {min(near):.0f} to {max(near):.0f} mm from the heel; change another",
        )
    return float(brentq(miss, low, high, xtol=1e-6))
