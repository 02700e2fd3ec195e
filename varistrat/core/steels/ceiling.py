"""How hot a bar may ever be: the lowest limit of every material in it, not of those that harden. Asked by all that names a heat."""

from collections.abc import Iterable

from varistrat.core.findings import Code, Finding
from varistrat.core.steels.model import Steel

SOLIDUS_CLEAR = 60.0
"""A segregated or scaled corner melts this much before a sound bar, C."""
COPPER_MOST, COPPER_OXIDE_MELTS = 1050.0, 1066.0
"""Never hotter with copper in it, and where copper with its own oxide melts (Cu-Cu2O eutectic), C."""


COPPER_MELTS = Code("copper_melts", "heat", ("stop",), "Copper runs out of the stack and cracks the steel.")
MELTS = Code("melts", "heat", ("stop",), "{steel} melts.")
BURNS = Code("burns", "heat", ("care",), "Corners of {steel} may burn.")


def is_copper(steel: Steel) -> bool:
    """Copper or mostly copper: bonded far below welding heat, and it melts there."""
    return steel.share("Cu") > 50


def ceiling_of(steel: Steel) -> float:
    """The hottest this material may ever be without melting anywhere, C."""
    return COPPER_MOST if is_copper(steel) else steel.solidus - SOLIDUS_CLEAR


def ceiling(steels: Iterable[Steel]) -> float:
    """Of them all together, C; inf of none."""
    return min((ceiling_of(s) for s in steels), default=float("inf"))


def too_hot(celsius: float, steels: Iterable[Steel], field: str = "celsius") -> Finding | None:
    """What this heat does to the first of these materials it is too much for: melts it (a stop), or may burn its corners (care)."""
    steels = list(steels)
    if celsius > COPPER_MOST and any(is_copper(s) for s in steels):
        return COPPER_MELTS.found(
            (
                f"With its oxide copper melts at {COPPER_OXIDE_MELTS:.0f} C, and liquid copper goes into the boundaries of hot steel; "
                f"{celsius:.0f} C is asked for."
            ),
            f"Never above {COPPER_MOST:.0f} C once copper is in it.",
            field=field,
            value=celsius,
            limit=COPPER_MOST,
            unit="C",
        )
    if not steels:
        return None
    first = min(steels, key=lambda s: s.solidus)
    if celsius >= first.solidus:
        return MELTS.found(
            f"{celsius:.0f} C is at or above its {first.solidus:.0f} C, where it begins to melt.",
            f"Stay under {ceiling(steels):.0f} C.",
            steel=first.name,
            field=field,
            value=celsius,
            limit=first.solidus,
            unit="C",
        )
    if celsius > first.solidus - SOLIDUS_CLEAR and not is_copper(first):
        return BURNS.found(
            f"It begins to melt at {first.solidus:.0f} C; segregated or scaled corners up to {SOLIDUS_CLEAR:.0f} C° before.",
            "Lower the heat, and soak instead.",
            steel=first.name,
            field=field,
            value=celsius,
            limit=first.solidus - SOLIDUS_CLEAR,
            unit="C",
        )
    return None
