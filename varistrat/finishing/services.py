"""Mixing baths, etching in them, giving them away: always one shop's."""

import datetime
from collections.abc import Sequence
from dataclasses import dataclass
from uuid import UUID

from django.db import transaction
from django.db.models import Count, F, Max, Sum

from varistrat.builds.models import Build
from varistrat.core.design.worked import Worked
from varistrat.core.errors import InputError
from varistrat.core.etch.bath import Bath as CoreBath
from varistrat.core.finish.depth import Etched, etch_of
from varistrat.core.reading import parse
from varistrat.designs.selectors import NotFound
from varistrat.finishing.models import Bath, BathUse
from varistrat.shop.models import Membership, Shop
from varistrat.shop.services.marks import mark_of, unchanged

MOST_BATHS = 200
HISTORY = 100


@dataclass(frozen=True)
class Kept:
    """A bath as it now is: core: with all that it took up; uses: how many etches; last: of them."""

    row: Bath
    core: CoreBath
    uses: int
    last: datetime.datetime | None
    elements: dict[str, float]


def baths_of(shop: Shop) -> list[Kept]:
    """Those in use first."""
    rows = Bath.objects.filter(shop=shop).annotate(grams=Sum("uses__grams"), times=Count("uses"), last=Max("uses__at"))
    # a sum over uses forgets the order a model has of itself
    rows = rows.order_by(F("gone").asc(nulls_first=True), "-mixed", "-pk")
    elements: dict[int, dict[str, float]] = {}
    for bath, said in BathUse.objects.filter(bath__shop=shop).values_list("bath", "elements"):
        mine = elements.setdefault(bath, {})
        for key, grams in said.items():
            mine[key] = mine.get(key, 0.0) + grams
    return [Kept(b, core_of(b, b.grams or 0.0), b.times, b.last, elements.get(b.pk, {})) for b in rows]


def bath_of(shop: Shop, bath_id: int) -> Kept:
    """Raises NotFound."""
    found = next((k for k in baths_of(shop) if k.row.pk == bath_id), None)
    if found is None:
        raise NotFound("bath")
    return found


def core_of(row: Bath, grams: float) -> CoreBath:
    """As the core knows it."""
    return CoreBath(what=row.what, strength=row.strength, temperature=row.temperature, litres=row.litres, iron=grams)  # type: ignore[arg-type]


def uses_of(kept: Kept) -> list[BathUse]:
    """The latest first."""
    return list(kept.row.uses.select_related("by", "build")[:HISTORY])


@transaction.atomic
def mix(*, actor: Membership, name: str, bath: CoreBath, mixed: datetime.date, note: str = "") -> Bath:
    """A new bath. Raises InputError for more than a shop keeps."""
    if Bath.objects.filter(shop=actor.shop).count() >= MOST_BATHS:
        raise InputError.at("name", f"there are {MOST_BATHS} baths already", "take away those that are gone")
    names = ("what", "strength", "temperature", "litres")
    row = Bath.objects.create(shop=actor.shop, name=name, mixed=mixed, note=note, **{n: getattr(bath, n) for n in names})
    if bath.iron:
        BathUse.objects.create(bath=row, uid=UUID(int=row.pk), by=actor.user, title="Etched in it before", minutes=0.0, grams=bath.iron)
    return row


def mark_of_bath(bath: Bath) -> str:
    """Of what may be said of it."""
    return mark_of(bath, ("name", "temperature", "note", "gone"))


@transaction.atomic
def say(*, actor: Membership, bath_id: int, said: dict[str, object], base: str = "") -> Bath:
    """Another name, temperature, note, or that it is gone; what it was mixed as never changes. base: its mark when it was looked at.
    Raises Overtaken."""
    row = bath_of(actor.shop, bath_id).row
    unchanged(base, mark_of_bath(row))
    for name, value in said.items():
        setattr(row, name, value)
    names = ("what", "strength", "temperature", "litres")
    parse(CoreBath, {n: getattr(row, n) for n in names})  # refuses a temperature it may not have
    row.save()
    return row


@transaction.atomic
def etched(
    *, actor: Membership, bath_id: int, uid: UUID, worked: Worked, minutes: Sequence[float], title: str, build: Build | None = None
) -> Etched:
    """An etch of this blade was done in it. Raises InputError for a bath that is gone."""
    kept = bath_of(actor.shop, bath_id)
    if kept.row.gone:
        raise InputError.at("bath", f"{kept.row.name} was given away", "choose one that is there")
    found = etch_of(worked, kept.core, minutes)
    grams = found.bath.iron - kept.core.iron
    told = {
        "by": actor.user,
        "title": title[:200],
        "build": build,
        "minutes": sum(minutes),
        "grams": grams,
        "elements": dict(found.dissolved),
    }
    BathUse.objects.get_or_create(bath=kept.row, uid=uid, defaults=told)
    return found
