"""Reading designs, always those of one shop: what is absent and what is another's look the same."""

from datetime import timedelta

from django.db.models import F, QuerySet
from django.utils import timezone

from varistrat.designs.models import Design, Revision
from varistrat.shop.models import Shop

BIN_DAYS = 30
"""A removed design can be brought back for so long."""


class NotFound(Exception):
    """There is no such thing in the asker's shop."""


def bench(shop: Shop) -> list[tuple[Design, str]]:
    """The shop's designs, latest first, each with the digest of its current revision; one query."""
    rows: QuerySet[Revision] = (
        Revision.objects.filter(design__shop=shop, design__removed=None, number=F("design__current"))
        .select_related("design")
        .defer("document")
        .order_by("-design__changed", "-design_id")
    )
    return [(r.design, r.digest) for r in rows]


def thrown_away(shop: Shop) -> list[tuple[Design, str]]:
    """The shop's removed designs that can still be brought back, latest first, each with the digest of its current revision."""
    since = timezone.now() - timedelta(days=BIN_DAYS)
    rows = (
        Revision.objects.filter(design__shop=shop, design__removed__gte=since, number=F("design__current"))
        .select_related("design")
        .defer("document")
        .order_by("-design__removed", "-design_id")
    )
    return [(r.design, r.digest) for r in rows]


def any_design_of(shop: Shop, design_id: int) -> Design:
    """On the bench or in the bin."""
    found = Design.objects.filter(shop=shop, pk=design_id).first()
    if found is None:
        raise NotFound("design")
    return found


def design_of(shop: Shop, design_id: int, removed: bool = False) -> Design:
    found = Design.objects.filter(shop=shop, pk=design_id, removed__isnull=not removed).first()
    if found is None:
        raise NotFound("design")
    return found


def revision_of(design: Design, number: int | None = None) -> Revision:
    found = design.revisions.filter(number=design.current if number is None else number).first()
    if found is None:
        raise NotFound("revision")
    return found


HISTORY = 200


def history(design: Design, before: int | None = None) -> list[Revision]:
    """Saves, latest first, HISTORY at a time; `before`: only those older than this number."""
    found = design.revisions.defer("document").select_related("by")
    return list((found if before is None else found.filter(number__lt=before))[:HISTORY])
