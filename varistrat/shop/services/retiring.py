"""Taking a steel of the shop's own away: retired while anything that was saved names it, else deleted.

Whatever keeps documents says whether it names a steel: see naming.py.
"""

from typing import Any

from django.db import transaction
from django.db.models import QuerySet, TextField
from django.db.models.functions import Cast

from varistrat.core.steels import built_in
from varistrat.shop.models import Membership
from varistrat.shop.naming import named_anywhere
from varistrat.shop.services import own


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


def named_in(rows: QuerySet[Any], key: str, field: str = "document") -> bool:
    """Whether any of these rows names this steel in its documents; the database looks for the word first."""
    found = rows.annotate(text=Cast(field, TextField())).filter(text__contains=f'"{key}"')
    return any(names_steel(d, key) for d in found.values_list(field, flat=True).iterator(50))


@transaction.atomic
def forget_steel(*, actor: Membership, key: str) -> None:
    """A listed steel is again as it ships; one of the shop's own is deleted, or retired while anything that was saved names it."""
    if key not in built_in() and named_anywhere(actor.shop, key):
        own.retire_steel(actor=actor, key=key)
    else:
        own.forget_steel(actor=actor, key=key)
