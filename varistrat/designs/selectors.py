"""Reading designs, always the asker's own: what is absent and what is another's look the same."""

from datetime import timedelta

from django.contrib.auth.models import User
from django.db.models import F, QuerySet
from django.utils import timezone

from varistrat.designs.models import Design, PrintJob, Revision, Sheet, SheetCell

BIN_DAYS = 30
"""A removed design can be brought back for so long."""


class NotFound(Exception):
    """There is no such thing among the asker's own."""


def bench(user: User) -> list[tuple[Design, str]]:
    """The user's designs, latest first, each with the digest of its current revision; one query."""
    rows: QuerySet[Revision] = (
        Revision.objects.filter(design__owner=user, design__removed=None, number=F("design__current"))
        .select_related("design")
        .defer("document")
        .order_by("-design__changed", "-design_id")
    )
    return [(r.design, r.digest) for r in rows]


def thrown_away(user: User) -> list[tuple[Design, str]]:
    """The user's removed designs that can still be brought back, latest first, each with the digest of its current revision."""
    since = timezone.now() - timedelta(days=BIN_DAYS)
    rows = (
        Revision.objects.filter(design__owner=user, design__removed__gte=since, number=F("design__current"))
        .select_related("design")
        .defer("document")
        .order_by("-design__removed", "-design_id")
    )
    return [(r.design, r.digest) for r in rows]


def any_design_of(user: User, design_id: int) -> Design:
    """On the bench or in the bin."""
    found = Design.objects.filter(owner=user, pk=design_id).first()
    if found is None:
        raise NotFound("design")
    return found


def design_of(user: User, design_id: int, removed: bool = False) -> Design:
    found = Design.objects.filter(owner=user, pk=design_id, removed__isnull=not removed).first()
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
    found = design.revisions.defer("document")
    return list((found if before is None else found.filter(number__lt=before))[:HISTORY])


def job_of(user: User, job_id: int) -> PrintJob:
    found = PrintJob.objects.filter(owner=user, pk=job_id).defer("picture").first()
    if found is None:
        raise NotFound("job")
    return found


def sheet_of(user: User, sheet_id: int) -> Sheet:
    found = Sheet.objects.filter(owner=user, pk=sheet_id).defer("document").first()
    if found is None:
        raise NotFound("sheet")
    return found


def cells_of(sheet: Sheet) -> list[SheetCell]:
    return list(sheet.cells.defer("picture"))


def cell_of(sheet: Sheet, index: int) -> SheetCell:
    found = sheet.cells.filter(index=index, picture__isnull=False).first()
    if found is None:
        raise NotFound("picture")
    return found
