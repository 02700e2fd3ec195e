"""What-if sheets: made by the task worker, a picture at a time, with progress and cancel."""

import threading
import time

from django.contrib.auth.models import User
from django.db import transaction
from django.db.models import F
from django_tasks import task

from varistrat.accounts.services.shop import shop_data
from varistrat.core.bars.trace import pool
from varistrat.core.design.document import Document, read_document
from varistrat.core.errors import InputError
from varistrat.core.sweep import Axis, plan, sheet
from varistrat.designs.models import PrintJob, Sheet, SheetCell
from varistrat.designs.services.jobs import check_room, told_when_it_breaks

KEPT = 8
"""Sheets kept of each smith; older ones are thrown away."""
ASK_EVERY = 0.3
SAVE_EVERY = 0.4
State = PrintJob.State


@transaction.atomic
def order_sheet(*, actor: User, document: Document, axes: list[Axis]) -> Sheet:
    """Raises InputError when the numbers cannot be varied so."""
    wanted = len(plan(document, axes))
    check_room(actor, Sheet)
    made = Sheet.objects.create(owner=actor, document=document.as_json(), axes=[a.model_dump() for a in axes], wanted=wanted)
    old = Sheet.objects.filter(owner=actor).values_list("pk", flat=True)[KEPT:]
    Sheet.objects.filter(pk__in=list(old)).delete()
    transaction.on_commit(lambda: make_sheet.enqueue(made.pk))
    return made


@transaction.atomic
def cancel_sheet(*, actor: User, sheet: Sheet) -> None:
    Sheet.objects.filter(owner=actor, pk=sheet.pk, state__in=(State.WAITING, State.RUNNING)).update(state=State.CANCELLED)


@task()
@told_when_it_breaks(Sheet)
def make_sheet(sheet_id: int) -> None:
    """Draw the pictures one after the other, keeping them as they come."""
    if not Sheet.objects.filter(pk=sheet_id, state=State.WAITING).update(state=State.RUNNING, tries=F("tries") + 1):
        return
    made = Sheet.objects.select_related("owner").get(pk=sheet_id)
    stop = threading.Event()
    asked = kept = time.monotonic()
    done: list[SheetCell] = []
    try:
        axes = [Axis(**a) for a in made.axes]
        document = read_document(made.document, shop_data(made.owner))
        with pool() as executor:
            for index, cell in enumerate(sheet(document, axes, executor, stop.is_set)):
                done.append(SheetCell(sheet_id=sheet_id, index=index, values=list(cell.values), problem=cell.problem, picture=cell.picture))
                now = time.monotonic()
                if now - asked > ASK_EVERY:
                    asked = now
                    if not Sheet.objects.filter(pk=sheet_id, state=State.RUNNING).exists():
                        stop.set()
                if now - kept > SAVE_EVERY:
                    kept = now
                    SheetCell.objects.bulk_create(done)
                    done = []
        if not stop.is_set():
            SheetCell.objects.bulk_create(done)
        Sheet.objects.filter(pk=sheet_id, state=State.RUNNING).update(state=State.DONE)
    except InputError as e:
        Sheet.objects.filter(pk=sheet_id).update(state=State.FAILED, problem=e.problems[0].line()[:400])
