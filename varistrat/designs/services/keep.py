"""Keeping designs: every save a revision, a stale save refused but kept."""

import hashlib
import json
from datetime import timedelta
from typing import Any

from django.db import transaction
from django.db.models import Max
from django.utils import timezone

from varistrat.core.design.document import Document
from varistrat.core.errors import InputError
from varistrat.designs.models import Design, Revision
from varistrat.designs.selectors import BIN_DAYS, NotFound
from varistrat.shop.models import Membership
from varistrat.shop.services.marks import mark_of, unchanged

MOST_DESIGNS, MOST_SAVES = 5_000, 20_000
"""Of a shop, with its bin; of one design."""


class StaleWrite(Exception):
    """Someone saved in between. The refused version is kept as `kept`; `current` is what counts."""

    def __init__(self, current: int, kept: int):
        super().__init__(f"revision {current} was saved in between")
        self.current = current
        self.kept = kept


def digest(document: dict[str, Any]) -> str:
    return hashlib.sha256(json.dumps(document, sort_keys=True, separators=(",", ":")).encode()).hexdigest()


@transaction.atomic
def create_design(*, actor: Membership, document: Document, name: str, about: str = "", note: str = "") -> Design:
    _room(actor)
    design = Design.objects.create(shop=actor.shop, name=name[:200], about=about[:400])
    _write(actor, design, document.as_json(), note=note, base=0)
    return design


def _room(actor: Membership) -> None:
    if Design.objects.filter(shop=actor.shop).count() >= MOST_DESIGNS:
        raise InputError.at("", f"a shop keeps {MOST_DESIGNS} designs", "throw away some, also out of the bin")


def save_design(
    *, actor: Membership, design: Design, document: Document, base: int, name: str | None = None, about: str | None = None
) -> Revision:
    """Write a revision on top of `base`. Raises StaleWrite, with the write kept, when base is not current."""
    with transaction.atomic():
        # the row is read again inside the write lock: IMMEDIATE transactions queue up
        try:
            design.refresh_from_db()
        except Design.DoesNotExist as e:
            raise NotFound("design") from e
        if design.current >= MOST_SAVES:
            raise InputError.at("", f"a design keeps {MOST_SAVES} saves", "go on with a copy of it")
        content = document.as_json()
        if name is not None and name.strip() and name != design.name:
            design.name = name.strip()[:200]
            design.save(update_fields=["name", "changed"])
        if about is not None and about.strip()[:400] != design.about:
            design.about = about.strip()[:400]
            design.save(update_fields=["about", "changed"])
        current = design.revisions.get(number=design.current)
        if digest(content) in (current.digest, digest(current.up_to_date)):
            return current
        if base == design.current:
            return _write(actor, design, content, base=base)
        kept = _write(actor, design, content, base=base, stale=True)
    raise StaleWrite(design.current, kept.number)


def mark_of_design(design: Design) -> str:
    """Of what is said of it on the bench."""
    return mark_of(design, ("about",))


@transaction.atomic
def describe_design(*, actor: Membership, design: Design, about: str, base: str = "") -> Design:
    """base: its mark when it was looked at. Raises Overtaken."""
    design.refresh_from_db()
    unchanged(base, mark_of_design(design))
    design.about = about.strip()[:400]
    design.save(update_fields=["about", "changed"])
    return design


@transaction.atomic
def bring_back(*, actor: Membership, design: Design, number: int) -> Revision:
    """An older (or refused) revision becomes current again, as a new revision."""
    design.refresh_from_db()
    old = design.revisions.get(number=number)
    current = design.revisions.get(number=design.current)
    if old.digest == current.digest:
        return current
    return _write(actor, design, old.up_to_date, base=design.current, note=f"brought back from {number}")


@transaction.atomic
def copy_design(*, actor: Membership, design: Design) -> Design:
    _room(actor)
    # as it was saved, whether or not it can still be read in full
    content = design.revisions.get(number=design.current).up_to_date
    copied = Design.objects.create(shop=actor.shop, name=f"{design.name} (copy)"[:200], about=design.about)
    _write(actor, copied, content, base=0)
    return copied


@transaction.atomic
def remove_design(*, actor: Membership, design: Design) -> None:
    design.removed = timezone.now()
    design.save(update_fields=["removed"])


@transaction.atomic
def restore_design(*, actor: Membership, design: Design) -> None:
    design.removed = None
    design.save(update_fields=["removed"])


def days_left(design: Design) -> int:
    """Until a removed design is gone for good."""
    gone = (timezone.now() - design.removed).days if design.removed else 0
    return max(0, BIN_DAYS - gone)


@transaction.atomic
def delete_for_good(*, actor: Membership, design: Design) -> None:
    Design.objects.filter(pk=design.pk, shop=actor.shop).exclude(removed=None).delete()


@transaction.atomic
def empty_bin() -> int:
    """Delete what was removed more than BIN_DAYS ago, of everybody; how many."""
    old = Design.objects.filter(removed__lt=timezone.now() - timedelta(days=BIN_DAYS))
    n = old.count()
    old.delete()
    return n


def _write(actor: Membership, design: Design, content: dict[str, Any], *, base: int, note: str = "", stale: bool = False) -> Revision:
    last = design.revisions.aggregate(last=Max("number"))["last"] or 0
    revision = Revision.objects.create(
        design=design, number=last + 1, base=base, by=actor.user, stale=stale, document=content, digest=digest(content), note=note
    )
    if not stale:
        design.current = revision.number
        design.save(update_fields=["current", "changed"])
    return revision
