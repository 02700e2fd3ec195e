"""What covers the places that must not be etched, and which baths it stands."""

from dataclasses import dataclass

from varistrat.core.etch.etchants import WHATS, What


@dataclass(frozen=True)
class Mask:
    """says: what it is; where: it is used; stands: baths; never: a caution, or empty."""

    key: str
    says: str
    where: str
    stands: tuple[What, ...]
    never: str = ""


_MILD: tuple[What, ...] = ("ferric", "coffee", "vinegar")
_ACIDS: tuple[What, ...] = ("ferric", "ferric+muriatic", "muriatic", "vinegar", "sulphuric")
MASKS: tuple[Mask, ...] = (
    Mask("varnish", "nail varnish", "letters, edges, small places", _MILD, "muriatic acid and alcohol take it off"),
    Mask("wax", "wax, warm", "tang, whole flats", _ACIDS, "above 45 C it runs"),
    Mask("tape", "vinyl tape, pressed on warm", "ricasso, tang", (*_ACIDS[:-1], "coffee"), "alcohol loosens it"),
    Mask("discs", "discs with rubber washers, screwed together", "pivots and bearing faces", WHATS),
    Mask("grease", "grease", "holes", _ACIDS, "keep it off the face: it will not etch"),
)
ALWAYS = "Threads and pins out of the blade before the bath; a bearing face that was etched is spoiled."
"""Whatever it is masked with."""


def masks_for(what: What) -> list[Mask]:
    """Those that stand this bath."""
    return [m for m in MASKS if what in m.stands]
