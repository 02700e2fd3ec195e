"""How long until the middle is hot, and how long it stays workable. mm, C, minutes (seconds where said).

Conduction in a section of a long bar, a quarter of it in cells, explicit in enthalpy; its faces see the fire.
Derived and tested against the series solution in docs/physics.md#soak.
"""

from dataclasses import dataclass
from functools import cache, lru_cache

import numpy as np
from numpy.typing import NDArray

from varistrat.core.figures import USUAL, Numbers
from varistrat.core.laws.numbers import BLOWN, EMISSIVITY, FORGE

Floats = NDArray[np.float64]
SIGMA = 5.670374e-8
KELVIN = 273.15
DENSITY = 7850.0
AIR = 20.0
CELLS = 2, 9
"""Fewest and most cells across half the lesser side."""


@cache
def _heat_table() -> tuple[Floats, Floats]:
    """Temperatures and enthalpy from 20 C, J/kg: carbon steel by EN 1993-1-2, 3.4.1.2."""
    t = np.arange(20.0, 1501.0, 1.0)
    mid = t[:-1] + 0.5
    c = np.select(
        [mid < 600, mid < 735, mid < 900],
        [425 + 0.773 * mid - 1.69e-3 * mid**2 + 2.22e-6 * mid**3, 666 + 13002 / (738 - mid), 545 + 17820 / (mid - 731)],
        650.0,
    )
    return t, np.concatenate([[0.0], np.cumsum(c)])


def enthalpy(celsius: float) -> float:
    """J/kg from 20 C."""
    return float(np.interp(celsius, *_heat_table()))


def conductivity(celsius: Floats) -> Floats:
    """W/mK, carbon steel, EN 1993-1-2."""
    return np.where(celsius < 800, 54 - 0.0333 * celsius, 27.3)


@dataclass(frozen=True)
class Warming:
    """minutes, skin and centre temperatures on the way; `ready`: minutes until the centre is at its target, None if never."""

    minutes: Floats
    skin: Floats
    centre: Floats
    ready: float | None


@lru_cache(maxsize=256)
def warm_through(
    width: float,
    thickness: float,
    fire: float,
    target: float,
    start: float = AIR,
    emissivity: float = 0.7,
    blown: float = 30.0,
    conducts: float = 1.0,
    dense: float = 1.0,
    longest: float = 600.0,
) -> Warming:
    """A long bar in a chamber at `fire`, all four long faces hot, until its centre is at `target`.

    conducts: how well the inside conducts against solid steel (loose powder 0.03, sintering 0.1 to 0.3); dense: share that is steel.
    """
    if target >= fire:
        return Warming(np.array([0.0]), np.array([start]), np.array([start]), None)
    # thin ones need few cells: their skin and centre are alike
    size = max(min(width, thickness) / 2, 1.0)
    nz = int(np.clip(round(size / 2), *CELLS))
    ny = int(np.clip(round(nz * max(width, thickness) / min(width, thickness)), nz, 3 * nz))
    dz, dy = min(width, thickness) / 2e3 / nz, max(width, thickness) / 2e3 / ny
    temps, heats = _heat_table()
    h = np.full((ny, nz), np.interp(start, temps, heats))
    t = np.interp(h, heats, temps)
    step = 0.2 * DENSITY * dense * 480.0 / (54.0 * max(conducts, 0.02) * (1 / dz**2 + 1 / dy**2))
    step = min(step, 0.1 * DENSITY * dense * 480.0 * min(dz, dy) / 450.0)
    times, skin, centre = [0.0], [float(t[-1, -1])], [float(t[0, 0])]
    now, end, due = 0.0, longest * 60, 0.0
    fire_k4 = (fire + KELVIN) ** 4
    while now < end:
        k = conductivity(t) * conducts

        def into(face: Floats, kk: Floats, cell: float) -> Floats:
            """W/m2 through half a cell and the film, from the fire."""
            film = emissivity * SIGMA * (fire_k4 - (face + KELVIN) ** 4) / np.maximum(fire - face, 1e-6) + blown
            return (fire - face) / (1 / film + cell / (2 * kk))

        gain = np.zeros_like(h)
        flow = (k[1:] + k[:-1]) / 2 * (t[1:] - t[:-1]) / dy
        gain[:-1] += flow / dy
        gain[1:] -= flow / dy
        flow = (k[:, 1:] + k[:, :-1]) / 2 * (t[:, 1:] - t[:, :-1]) / dz
        gain[:, :-1] += flow / dz
        gain[:, 1:] -= flow / dz
        gain[-1] += into(t[-1], k[-1], dy) / dy
        gain[:, -1] += into(t[:, -1], k[:, -1], dz) / dz
        h += gain * (step / (DENSITY * dense))
        t = np.interp(h, heats, temps)
        now += step
        if now >= due:
            times.append(now / 60)
            skin.append(float(t[0, -1]))
            centre.append(float(t[0, 0]))
            due = now * 1.02
        if t[0, 0] >= target:
            times.append(now / 60)
            skin.append(float(t[0, -1]))
            centre.append(float(t[0, 0]))
            return Warming(np.array(times), np.array(skin), np.array(centre), now / 60)
    return Warming(np.array(times), np.array(skin), np.array(centre), None)


SLACK = 15.0
"""The centre counts as hot this far below the working temperature, C."""


CORRECTION = 0.48
"""How much longer a bar takes for a unit of its Biot number than one without any lag inside; fitted to `warm_through`."""


def through_minutes(
    width: float, thickness: float, fire: float, target: float, start: float = AIR, emissivity: float = 0.7, blown: float = 30.0
) -> float:
    """Minutes until the centre of a long bar is at `target`, within about 5 %: evenly hot, then lengthened by its Biot number.
    inf if never."""
    if target >= fire:
        return float("inf")
    if target <= start:
        return 0.0
    reach = width * thickness / (2 * (width + thickness)) / 1e3
    t = np.linspace(start, target, 120)
    c = np.gradient(np.interp(t, *_heat_table()), t)
    film = emissivity * SIGMA * ((fire + KELVIN) ** 4 - (t + KELVIN) ** 4) / np.maximum(fire - t, 1e-6) + blown
    even = float(np.trapezoid(DENSITY * c * reach / (film * (fire - t)), t)) / 60
    return even * (1 + CORRECTION * float(film[-1]) * reach / 27.3)


def soak_minutes(
    width: float,
    thickness: float,
    celsius: float,
    above: float = 30.0,
    start: float = AIR,
    conducts: float = 1.0,
    dense: float = 1.0,
    numbers: Numbers = USUAL,
) -> float:
    """Minutes in the shop's own fire until the centre of a bar is at heat: an ideal chamber `above` hotter, times the forge's slowness."""
    if conducts == 1.0 and dense == 1.0:
        ready: float | None = through_minutes(
            width, thickness, celsius + above, celsius - SLACK, start, numbers.of(EMISSIVITY), numbers.of(BLOWN)
        )
    else:
        sizes = max(1, round(width)), max(1, round(thickness))
        ready = warm_through(
            *sizes, round(celsius + above), round(celsius - SLACK), round(start), numbers.of(EMISSIVITY), numbers.of(BLOWN), conducts, dense
        ).ready
    return min(ready if ready is not None else 600.0, 600.0) * numbers.of(FORGE)


def working_seconds(width: float, thickness: float, hot: float, cold: float, emissivity: float = 0.8, blown: float = 10.0) -> float:
    """Seconds a long bar takes from `hot` to `cold` in still air, of one temperature throughout."""
    if hot <= cold:
        return 0.0
    volume_to_face = width * thickness / (2 * (width + thickness)) / 1e3
    t = np.linspace(cold, hot, 200)
    c = np.gradient(np.interp(t, *_heat_table()), t)
    loss = emissivity * SIGMA * ((t + KELVIN) ** 4 - (AIR + KELVIN) ** 4) + blown * (t - AIR)
    # as heavy as hot steel is: it has swollen
    return float(np.trapezoid(7500.0 * c * volume_to_face / loss, t))
