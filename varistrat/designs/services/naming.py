"""Whether saved designs name a steel."""

from django.contrib.auth.models import User
from django.db.models import TextField
from django.db.models.functions import Cast

from varistrat.accounts.services.retiring import names_steel
from varistrat.designs.models import Revision, Sheet


def designs_name(user: User, key: str) -> bool:
    """In any save of any design (old ones and removed ones too), or a sheet under way."""
    saved = Revision.objects.filter(design__owner=user).annotate(text=Cast("document", TextField())).filter(text__contains=f'"{key}"')
    if any(names_steel(d, key) for d in saved.values_list("document", flat=True).iterator(50)):
        return True
    return any(names_steel(d, key) for d in Sheet.objects.filter(owner=user).values_list("document", flat=True))
