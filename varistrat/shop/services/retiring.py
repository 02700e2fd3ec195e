"""Taking a steel of the shop's own away: retired while anything that was saved names it, else deleted.

Whatever keeps documents says whether it names a steel by `namer`, when its app starts.
"""

from collections.abc import Callable
from typing import Any

from django.db import transaction

from varistrat.core.steels import built_in
from varistrat.shop.models import Membership, Shop
from varistrat.shop.services import own

Namer = Callable[[Shop, str], bool]
_NAMERS: dict[str, Namer] = {}


def namer(place: str, names: Namer) -> None:
    """`names(shop, key)`: whether anything of this shop's kept in `place` names the steel."""
    _NAMERS[place] = names


def names_steel(value: Any, key: str) -> bool:
    """Whether a document names this steel: as the value of a field `steel`, wherever it stands (a step may be called like it)."""
    waiting = [value]
    while waiting:
        here = waiting.pop()
        if isinstance(here, dict):
            if here.get("steel") == key:
                return True
            waiting += here.values()
        elif isinstance(here, list):
            waiting += here
    return False


def named_anywhere(shop: Shop, key: str) -> bool:
    return any(names(shop, key) for names in _NAMERS.values())


@transaction.atomic
def forget_steel(*, actor: Membership, key: str) -> None:
    """A listed steel is again as it ships; one of the shop's own is deleted, or retired while anything that was saved names it."""
    if key not in built_in() and named_anywhere(actor.shop, key):
        own.retire_steel(actor=actor, key=key)
    else:
        own.forget_steel(actor=actor, key=key)
