"""Reading builds, always those of one shop."""

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime
from typing import Any
from uuid import UUID

from django.db.models import F, Q

from varistrat.builds.models import Build, BuildPlan, Order, Record
from varistrat.core.blade.model import Errors
from varistrat.core.build.as_read import TEMPER, TEST
from varistrat.core.build.entry import Entry
from varistrat.core.build.plan import Plan
from varistrat.core.build.state import BuildState, state_of
from varistrat.core.build.told import BuildTold, Made, made_of, told_of
from varistrat.core.design.document import read_document
from varistrat.core.errors import InputError
from varistrat.core.heat.hardening.hardening import Tempered
from varistrat.core.shop import ShopData
from varistrat.designs.models import Design
from varistrat.designs.selectors import NotFound
from varistrat.designs.services import predict
from varistrat.rack.models import Movement
from varistrat.rack.services import undoing
from varistrat.shop.models import Shop

AT_ONCE = 2_000
"""Records told at a time."""


def book(shop: Shop) -> list[Build]:
    """All builds, latest first; one query."""
    return list(Build.objects.filter(shop=shop).select_related("design", "order"))


def build_of(shop: Shop, build_id: int) -> Build:
    """Raises NotFound."""
    found = Build.objects.filter(shop=shop, pk=build_id).select_related("design", "order").first()
    if found is None:
        raise NotFound("build")
    return found


def orders(shop: Shop) -> list[Order]:
    """Latest first, each with its builds."""
    return list(Order.objects.filter(shop=shop).select_related("design").prefetch_related("builds"))


def order_of(shop: Shop, order_id: int) -> Order:
    """Raises NotFound."""
    found = Order.objects.filter(shop=shop, pk=order_id).first()
    if found is None:
        raise NotFound("order")
    return found


@dataclass(frozen=True)
class BarAside:
    """Bars of one item of the rack that were taken out: its code and steel, mm of each, how many (of powder: g)."""

    code: str
    steel: str
    form: str
    width: float | None
    thickness: float | None
    length: float | None
    amount: float


@dataclass(frozen=True)
class LaidAside:
    """Steel taken out of the rack in one go for a design of which no build has begun with it yet."""

    act: UUID
    at: datetime
    by: str
    bars: tuple[BarAside, ...]


def laid_aside(shop: Shop, design: Design) -> list[LaidAside]:
    """Latest first; what was put back, and what a build has, is not among it."""
    with_builds = {UUID(act) for acts in Build.objects.filter(shop=shop).values_list("acts", flat=True) for act in acts}
    acts: dict[UUID, list[Movement]] = {}
    moved = Movement.objects.filter(item__shop=shop, design=design, kind=Movement.Kind.TAKEN).select_related("item", "by")
    for one in moved:
        acts.setdefault(one.act, []).append(one)
    back = set(Movement.objects.filter(item__shop=shop, act__in=[undoing(a) for a in acts]).values_list("act", flat=True))
    return [
        LaidAside(act, of[0].at, of[0].by.get_username() if of[0].by else "", tuple(map(_aside, reversed(of))))
        for act, of in acts.items()
        if act not in with_builds and undoing(act) not in back
    ]


def _aside(one: Movement) -> BarAside:
    i = one.item
    return BarAside(i.code, i.steel, i.form, i.width, i.thickness, i.length, -one.amount)


def plans_of(build: Build) -> list[Plan]:
    """By number."""
    return [p.plan for p in BuildPlan.objects.filter(build=build)]


def plan_of(build: Build, number: int | None = None) -> Plan:
    """The one that counts, or that of this number. Raises NotFound."""
    found = BuildPlan.objects.filter(build=build, number=build.current if number is None else number).first()
    if found is None:
        raise NotFound("plan")
    return found.plan


def entries_of(build: Build) -> list[Entry]:
    """All, as they came."""
    return [r.entry for r in Record.objects.filter(build=build)]


def state_of_build(build: Build) -> BuildState:
    """Where it stands by all that was written down."""
    return state_of(entries_of(build))


def records_after(build: Build, after: int) -> list[Record]:
    """Those that came after this one (its row), AT_ONCE at the most."""
    return list(Record.objects.filter(build=build, pk__gt=after).select_related("by")[:AT_ONCE])


def made_by(plans: list[Plan], entries: Sequence[Entry], shop: ShopData) -> Made:
    """The design as these have it made. Raises InputError when its plan can no longer be worked out."""
    return made_of(plans, entries, predict.work_out(read_document(plans[-1].document, shop)))


def made(build: Build, shop: ShopData) -> Made:
    """The design as it is being made. Raises InputError when its plan can no longer be worked out."""
    return made_by(plans_of(build), entries_of(build), shop)


def told(build: Build, shop: ShopData) -> BuildTold:
    """Every operation with what was planned, what follows and what was measured."""
    plans, entries = plans_of(build), entries_of(build)
    try:
        return told_of(plans, entries, made_by(plans, entries, shop))
    except InputError as e:
        # a steel that is gone from the list: what was written down is told all the same
        return told_of(plans, entries, e)


@dataclass(frozen=True)
class BuildRead:
    """What the shop sheet of a build was told of its hardening: HRC at each spot after the quench, and the tempers that were done."""

    build: int
    title: str
    hrc: list[float]
    tempered: list[Tempered]


def read_at_the_sheet(shop: Shop, design: Design, data: ShopData) -> BuildRead | None:
    """Of the last build of a design at whose sheet something was read; None where nothing was, or it can no longer be worked out."""
    told = Record.objects.filter(build__shop=shop, build__design=design, data__op__in=[TEST, TEMPER])
    build = Build.objects.filter(pk__in=told.values("build")).exclude(state=Build.State.GIVEN_UP).first()
    if build is None:
        return None
    try:
        found = made(build, data)
    except InputError:
        return None
    hardening = found.worked.document.hardening
    if not {TEST, TEMPER} & set(found.made.changed):
        return None
    return BuildRead(build.pk, build.title, hardening.hardened.hrc, hardening.tempered)


def errors_of(shop: Shop) -> list[Errors]:
    """What was read of the faces of each blade in the book: the errors its plan was changed by on the way, latest last; one query.

    An error that was in the plan from the beginning is a question, not a reading.
    """
    changed = Build.objects.filter(shop=shop, current__gt=1).order_by("pk")
    plans = BuildPlan.objects.filter(build__in=changed).filter(Q(number=1) | Q(number=F("build__current"))).order_by("build", "number")
    said: dict[int, list[Any]] = {}
    for build, errors in plans.values_list("build", "document__blade__errors"):
        said.setdefault(build, []).append(errors or {})
    return [Errors.model_validate(now) for first, now in (v for v in said.values() if len(v) == 2) if now != first]
