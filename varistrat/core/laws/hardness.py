"""Hardness of martensite, and the scales it is told in. HRC, HV; carbon in weight %."""

from collections.abc import Mapping
from math import log10

import numpy as np

MARTENSITE = (0.5, 0.8, 0.9, 0.95, 0.999)
_HODGE = np.array(
    [
        [26.2, 27.8, 30.7, 32.9, 38.5],
        [31.8, 35.0, 38.2, 40.5, 44.2],
        [37.5, 41.2, 44.6, 47.0, 50.3],
        [42.4, 46.4, 50.0, 52.4, 56.1],
        [46.8, 50.6, 54.3, 56.8, 60.9],
        [50.7, 53.8, 57.5, 60.0, 64.3],
    ]
)
_CARBON = np.array([0.1, 0.2, 0.3, 0.4, 0.5, 0.6])
_ABOVE = ((0.60, 64.3), (0.65, 65.0), (0.80, 66.0), (1.00, 66.7))
AUSTENITE_SOFTENS = 15.0
"""HRC lost for each share of retained austenite above AUSTENITE_FREE."""
AUSTENITE_FREE = 0.08
QUENCHED_SURE = 1.0
"""How far a quenched hardness may be off, HRC."""


def full(carbon: float) -> float:
    """HRC of martensite throughout. To 0.6 % C by the polynomial of ASTM A255, above levelling off at 65 to 66.7."""
    if carbon <= 0.6:
        c = max(carbon, 0.0)
        return 35.395 + 6.990 * c + 312.330 * c**2 - 821.744 * c**3 + 1015.479 * c**4 - 538.346 * c**5
    c, h = np.array(_ABOVE).T
    return float(np.interp(carbon, c, h))


def half(carbon: float) -> float:
    """HRC of half martensite, ASTM A255; to 0.65 % C, held above."""
    c = min(max(carbon, 0.0), 0.65)
    return 22.974 + 6.214 * c + 356.364 * c**2 - 1091.488 * c**3 + 1464.880 * c**4 - 750.441 * c**5


def quenched(carbon: float, martensite: float = 0.999, retained: float = 0.0) -> float:
    """HRC as quenched with this share of martensite among what is not retained austenite.

    Source: Hodge and Orehoski, Trans. AIME 167 (1946) 627, between its shares; above 0.6 % C the drop
    from all martensite is that of 0.6 %. Retained austenite above 8 % takes off 0.15 HRC for each per cent.
    """
    rows = [np.interp(min(max(carbon, 0.1), 0.6), _CARBON, column) for column in _HODGE.T]
    drop = rows[-1] - float(np.interp(martensite, MARTENSITE, rows))
    return full(carbon) - drop - AUSTENITE_SOFTENS * max(0.0, retained - AUSTENITE_FREE)


def part_quenched(carbon: float, martensite: float, soft: float, retained: float = 0.0) -> float:
    """HRC of a section of which only a share became martensite; `soft`: HRC of what the rest became (`pearlite`).

    Above half martensite by Hodge and Orehoski (`quenched`); below, along a straight line to what all of the rest would be.
    docs/physics.md#part-quenched.
    """
    if martensite >= MARTENSITE[0]:
        return max(soft, quenched(carbon, martensite, retained))
    at_half = max(soft, quenched(carbon, MARTENSITE[0]))
    return soft + (at_half - soft) * max(0.0, martensite) / MARTENSITE[0]


PEARLITE = 28.0, 6.0
"""HRC of plain eutectoid pearlite cooled at 1 K/s through 700 C, and what a tenfold rate adds: 40 near the nose, 30 in air;
within PEARLITE_SURE."""
PEARLITE_SURE = 4.0
_MAYNIER_MOST, _EUTECTOID = 0.5, 0.77


def pearlite(composition: Mapping[str, float], carbon: float, rate: float) -> float:
    """HRC of ferrite and pearlite (fine bainite in alloyed steels) cooled at `rate` K/s through 700 C.

    To 0.5 % C: Maynier, Dollet and Bastien (1978), HV = 42 + 223 C + 53 Si + 30 Mn + 12.6 Ni + 7 Cr + 19 Mo +
    (10 - 19 Si + 4 Ni + 8 Cr + 130 V) log10 V, V in C/h. From 0.77 % by PEARLITE, alloy by the same terms; between them linear.
    Limits of validity: 0.01 to 1000 K/s (held there); steels of laws/ranges.py's low alloy.
    """
    get = composition.get
    per_hour = log10(3600 * min(max(rate, 0.01), 1000.0))
    si, mn = get("Si", 0.0), get("Mn", 0.0)
    alloy = 53 * (si - 0.22) + 30 * (mn - 0.7) + 12.6 * get("Ni", 0.0) + 7 * get("Cr", 0.0) + 19 * get("Mo", 0.0)
    alloy += (-19 * (si - 0.22) + 4 * get("Ni", 0.0) + 8 * get("Cr", 0.0) + 130 * min(get("V", 0.0), 0.2)) * per_hour
    lean = 42 + 53 * 0.22 + 30 * 0.7 + (10 - 19 * 0.22) * per_hour
    at, slope = PEARLITE
    eutectoid = hv(at + slope * log10(min(max(rate, 0.01), 1000.0)))
    c = min(max(carbon, 0.0), _EUTECTOID)
    plain = float(np.interp(c, (0.0, _MAYNIER_MOST, _EUTECTOID), (lean, lean + 223 * _MAYNIER_MOST, eutectoid)))
    return hrc(plain + alloy)


_E140 = np.array(
    [
        (68, 940), (67, 900), (66, 865), (65, 832), (64, 800), (63, 772), (62, 746), (61, 720), (60, 697), (59, 674), (58, 653),
        (57, 633), (56, 613), (55, 595), (54, 577), (53, 560), (52, 544), (51, 528), (50, 513), (48, 484), (46, 458), (44, 434),
        (42, 412), (40, 392), (38, 372), (36, 354), (34, 336), (32, 318), (30, 302), (28, 286), (26, 272), (24, 260), (22, 248), (20, 238),
        # beyond the normal range of the scale, as the standard lists them
        (16, 222), (12, 204), (8, 188), (4, 173), (0, 160),
    ],
    float,
)[::-1]  # fmt: skip


def hv(hrc: float) -> float:
    """Vickers from Rockwell C, ASTM E140, 0 to 68 HRC (below 20 beyond the scale's normal range); held at the ends."""
    return float(np.interp(hrc, *_E140.T))


def hrc(vickers: float) -> float:
    """Rockwell C from Vickers, ASTM E140, 160 to 940 HV; held at the ends."""
    return float(np.interp(vickers, _E140[:, 1], _E140[:, 0]))
