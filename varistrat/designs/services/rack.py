"""Taking a steel of the shop's own away: retired while anything that was saved names it, else deleted."""

from typing import Any

from django.contrib.auth.models import User
from django.db import transaction
from django.db.models import TextField
from django.db.models.functions import Cast

from varistrat.accounts.services import shop
from varistrat.core.steels import built_in
from varistrat.designs.models import Revision, Sheet
from varistrat.kiln.models import KilnRun


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


def named_anywhere(user: User, key: str) -> bool:
    """In any save of any design (old ones and removed ones too), a sheet under way, or a kiln run."""
    saved = Revision.objects.filter(design__owner=user).annotate(text=Cast("document", TextField())).filter(text__contains=f'"{key}"')
    if any(names_steel(d, key) for d in saved.values_list("document", flat=True).iterator(50)):
        return True
    if any(names_steel(d, key) for d in Sheet.objects.filter(owner=user).values_list("document", flat=True)):
        return True
    return any(key in load for load in KilnRun.objects.filter(owner=user).values_list("load", flat=True))


@transaction.atomic
def forget_steel(*, actor: User, key: str) -> None:
    """A listed steel is again as it ships; one of the shop's own is deleted, or retired while anything that was saved names it."""
    if key not in built_in() and named_anywhere(actor, key):
        shop.retire_steel(actor=actor, key=key)
    else:
        shop.forget_steel(actor=actor, key=key)
