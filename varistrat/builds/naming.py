"""Whether plans of builds name a steel."""

from varistrat.builds.models import BuildPlan
from varistrat.shop.models import Shop
from varistrat.shop.services.retiring import named_in


def builds_name(shop: Shop, key: str) -> bool:
    """In any plan of any build."""
    return named_in(BuildPlan.objects.filter(build__shop=shop), key)
