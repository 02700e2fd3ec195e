"""Taking a steel of the shop's own away, unless a design still uses it."""

import json

from django.contrib.auth.models import User
from django.db import transaction
from django.db.models import F

from varistrat.accounts.services import shop
from varistrat.core.errors import InputError
from varistrat.core.steels import built_in
from varistrat.designs.models import Revision


def designs_with(user: User, key: str) -> list[str]:
    """Names of the designs on the bench whose bar has this steel in it."""
    kept = Revision.objects.filter(design__owner=user, design__removed=None, number=F("design__current")).select_related("design")
    return [r.design.name for r in kept if f'"{key}"' in json.dumps(r.document)]


@transaction.atomic
def forget_steel(*, actor: User, key: str) -> None:
    """Raises InputError while a design uses it and nothing would be left of it."""
    if key not in built_in() and (names := designs_with(actor, key)):
        said = ", ".join(names[:3]) + (f" and {len(names) - 3} more" if len(names) > 3 else "")
        raise InputError.at("key", f"it is in {said}", "put another steel there first")
    shop.forget_steel(actor=actor, key=key)
