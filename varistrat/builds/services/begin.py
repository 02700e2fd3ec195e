"""Beginning a build: the plan frozen and the steel laid aside, or neither."""

from collections.abc import Collection, Iterable, Mapping, Sequence
from datetime import date
from typing import Any
from uuid import UUID

from django.db import transaction

from varistrat.builds.models import Build, BuildPlan, Order
from varistrat.builds.selectors import LaidAside, laid_aside
from varistrat.builds.services.log import as_it_stands, refresh, write
from varistrat.builds.services.photos import clear_away
from varistrat.core.build.plan import Plan
from varistrat.core.design.standing import Against, against
from varistrat.core.design.worked import Worked
from varistrat.core.errors import InputError
from varistrat.core.learning.factors import FACTORS
from varistrat.designs.models import Design
from varistrat.rack import services as rack
from varistrat.shop.models import Membership
from varistrat.shop.services.marks import mark_of, unchanged

MOST_BUILDS = 5_000
"""In one shop's book."""
SAID = ("title", "who", "due", "order")
TOLD = 5
"""Of what fails, at the most."""
MARKED = (*SAID, "state")


def mark_of_build(build: Build) -> str:
    """Of what may be said of it."""
    return mark_of(build, MARKED)


class Begun(Exception):
    """Something was written down of it already: it can be given up, but not taken away."""


@transaction.atomic
def begin(
    *,
    actor: Membership,
    uid: UUID,
    worked: Worked,
    design: Design | None,
    title: str,
    who: str = "",
    due: date | None = None,
    order: Order | None = None,
    takes: Mapping[int, float] | None = None,
    keep: Sequence[rack.Offcut] = (),
    knowing: Collection[str] = (),
    laid: Collection[UUID] = (),
    besides: bool = False,
) -> Build:
    """The same twice begins it once; knowing: codes of findings that say it fails and with which it is begun all the same; laid: acts in
    which steel was taken for the design before; besides: more is taken though some is laid aside. Raises InputError for what cannot be
    carried out or fails, and for steel that would be taken twice; NotEnough when somebody took the steel."""
    there = Build.objects.filter(shop=actor.shop, uid=uid).first()
    if there is not None:
        return there
    if Build.objects.filter(shop=actor.shop).count() >= MOST_BUILDS:
        raise InputError.at("build", f"there are {MOST_BUILDS} builds already", "save old ones as files and clear them out")
    if keep and not takes:
        raise InputError.at("keep", "something is kept of what is not taken", "name what it is left of in takes")
    _taken_once(laid_aside(actor.shop, design) if design else [], takes or {}, laid, besides)
    plan = Plan.begun(worked)
    _known(against(worked), knowing)
    acts = [str(act) for act in laid]
    if takes:
        acts.append(str(rack.take(actor=actor, takes=takes, keep=keep, design=design, note=f"for {title}"[:200])))
    build = Build.objects.create(
        shop=actor.shop, uid=uid, design=design, order=order, title=title[:200], who=who[:120], due=due, by=actor.user, acts=acts
    )
    write_plan(actor, build, plan)
    refresh(build)
    return build


def _taken_once(aside: Sequence[LaidAside], takes: Mapping[int, float], laid: Collection[UUID], besides: bool) -> None:
    """Raises InputError where steel would be taken twice for one blade, or is no longer there."""
    if not {*laid} <= {a.act for a in aside}:
        raise InputError.at(
            "laid", "that steel is no longer laid aside for this design", "look again what is: it was put back, or a build has it"
        )
    left = [a for a in aside if a.act not in laid]
    if takes and left and not besides:
        bars = ", ".join(f"{bar.amount:g} of {bar.code}" for a in left for bar in a.bars)
        raise InputError.at(
            "takes", f"{bars} was taken out of the rack for this design already", "begin with it, or say that this is besides"
        )


def _known(found: Iterable[Against], knowing: Collection[str]) -> None:
    """Raises InputError for what fails and was not named."""
    fails = [a for a in found if a.fails and a.finding.code not in knowing]
    if fails:
        told = "; ".join(f"{a.where}: {a.finding.what} ({a.finding.code})" for a in fails[:TOLD])
        raise InputError.at("knowing", f"it fails as it stands. {told}", "change the design, or name each of these codes in knowing")


def write_plan(actor: Membership, build: Build, plan: Plan) -> BuildPlan:
    """Keep it as this build's plan of its number."""
    return BuildPlan.objects.create(
        build=build, number=plan.number, document=plan.document, operations=plan.operations_json, why=plan.why, by=actor.user
    )


@transaction.atomic
def amend(*, actor: Membership, build: Build, worked: Worked, why: str, entry: dict[str, Any], base: int | None = None) -> Build:
    """Change the plan on the way; `entry` (id, at) says so in the log. The same entry twice changes it once; base: number of the plan that
    was looked at. Raises InputError; Overtaken when another plan counts by now."""
    as_it_stands(build)
    if build.records.filter(uid=entry["id"]).exists():
        return build
    if base is not None:
        unchanged(str(base), str(build.current))
    plan = Plan.begun(worked, build.current + 1, why)
    write_plan(actor, build, plan)
    build.current = plan.number
    build.save(update_fields=["current"])
    said = {**entry, "op": "", "kind": "amended", "revision": plan.number, "why": why}
    kept = write(actor=actor, build=build, entries=[said], by_server=True)
    if kept.refused:
        raise InputError.at("at", kept.refused[0].wrong, kept.refused[0].cure)
    return build


@transaction.atomic
def say(*, actor: Membership, build: Build, said: Mapping[str, Any], base: str = "") -> Build:
    """Its title, for whom, by when, for which order, its state; base: its mark when it was looked at. Raises Overtaken."""
    as_it_stands(build)
    unchanged(base, mark_of_build(build))
    if (state := said.get("state")) is not None:
        set_state(actor=actor, build=build, state=state)
    names = [n for n in said if n in SAID]
    for name in names:
        setattr(build, name, said[name])
    build.save(update_fields=names)
    return build


@transaction.atomic
def set_state(*, actor: Membership, build: Build, state: str) -> Build:
    """Resting, done, given up, or at work again."""
    as_it_stands(build)
    begun = build.records.exists()
    if state == Build.State.PLANNED and begun:
        state = Build.State.WORK
    if state == Build.State.WORK and not begun:
        state = Build.State.PLANNED
    build.state = state
    build.save(update_fields=["state"])
    return build


@transaction.atomic
def count_odd(*, actor: Membership, build: Build, kind: str, kept: bool) -> Build:
    """Whether what one kind of operation took in this build counts, though it is odd. Raises InputError for a kind there is not."""
    if kind not in {f.kind for f in FACTORS}:
        raise InputError.at("kind", f"nothing is learned of {kind[:40]!r}", f"use one of {', '.join(f.kind for f in FACTORS)}")
    as_it_stands(build)
    build.kept_odd = sorted({*build.kept_odd, kind} if kept else {*build.kept_odd} - {kind})
    build.save(update_fields=["kept_odd"])
    return build


@transaction.atomic
def put_back(*, actor: Membership, build: Build) -> Build:
    """The steel that was laid aside for it, back into the rack, all of it or none. Raises PutBackAlready, NotEnough."""
    as_it_stands(build)
    if build.acts:
        for act in build.acts:
            rack.put_back(actor=actor, act=UUID(act))
        build.acts = []
        build.save(update_fields=["acts"])
    return build


@transaction.atomic
def take_away(*, actor: Membership, build: Build) -> None:
    """A build of which nothing was written down yet; its steel goes back. Raises Begun."""
    as_it_stands(build)
    if build.records.exists():
        raise Begun
    put_back(actor=actor, build=build)
    clear_away(build)
    build.delete()
