"""Whether saved designs name a steel."""

from varistrat.designs.models import Revision
from varistrat.shop.models import Shop
from varistrat.shop.services.retiring import named_in


def designs_name(shop: Shop, key: str) -> bool:
    """In any save of any design (old ones and removed ones too)."""
    return named_in(Revision.objects.filter(design__shop=shop), key)
