"""Whether saved designs name a steel."""

from django.db.models import TextField
from django.db.models.functions import Cast

from varistrat.designs.models import Revision
from varistrat.shop.models import Shop
from varistrat.shop.services.retiring import names_steel


def designs_name(shop: Shop, key: str) -> bool:
    """In any save of any design (old ones and removed ones too)."""
    saved = Revision.objects.filter(design__shop=shop).annotate(text=Cast("document", TextField())).filter(text__contains=f'"{key}"')
    return any(names_steel(d, key) for d in saved.values_list("document", flat=True).iterator(50))
