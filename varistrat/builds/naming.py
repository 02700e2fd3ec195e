"""Whether plans of builds name a steel."""

from django.db.models import TextField
from django.db.models.functions import Cast

from varistrat.builds.models import BuildPlan
from varistrat.shop.models import Shop
from varistrat.shop.services.retiring import names_steel


def builds_name(shop: Shop, key: str) -> bool:
    """In any plan of any build."""
    plans = BuildPlan.objects.filter(build__shop=shop).annotate(text=Cast("document", TextField())).filter(text__contains=f'"{key}"')
    return any(names_steel(d, key) for d in plans.values_list("document", flat=True).iterator(50))
