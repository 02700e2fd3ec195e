"""Keeping programs, and driving runs: a run is brought up to date whenever it is looked at."""

from collections.abc import Callable, Sequence
from dataclasses import asdict, astuple
from datetime import timedelta

from django.db import transaction
from django.utils import timezone

from varistrat.core.errors import InputError
from varistrat.core.kiln.controller import SimulatedController
from varistrat.core.kiln.plant import Load
from varistrat.core.kiln.program import Program, checks
from varistrat.core.laws.numbers import KILN_MOST, KILN_RATE
from varistrat.designs.models import Design
from varistrat.designs.selectors import NotFound
from varistrat.kiln.models import KilnProgram, KilnRow, KilnRun
from varistrat.shop.models import Membership, Shop
from varistrat.shop.services.marks import mark_of, unchanged
from varistrat.shop.services.own import shop_data

SPEEDS = (1.0, 60.0, 600.0)
"""Seconds of the run in a second of the day."""
AT_ONCE = 48 * 3600.0
"""Seconds of a run that one look brings on at most."""
MOST_PROGRAMS, KEPT_RUNS = 200, 30
OVER_MOST = 15.0
"""The controller cuts out so far over the kiln's most, C°."""


def programs_of(shop: Shop) -> list[KilnProgram]:
    return list(KilnProgram.objects.filter(shop=shop))


def mark_of_program(program: KilnProgram) -> str:
    return mark_of(program, ("name", "segments"))


@transaction.atomic
def keep_program(*, actor: Membership, program: Program, program_id: int | None = None, base: str = "") -> KilnProgram:
    """A new one, or another text of one that is kept; base: its mark when it was looked at. Raises Overtaken."""
    segments = [s.model_dump() for s in program.segments]
    if program_id is None:
        if KilnProgram.objects.filter(shop=actor.shop).count() >= MOST_PROGRAMS:
            raise InputError.at("name", f"there are {MOST_PROGRAMS} programs already", "remove one you no longer use")
        return KilnProgram.objects.create(shop=actor.shop, name=program.name, segments=segments)
    kept = KilnProgram.objects.filter(shop=actor.shop, pk=program_id).first()
    if kept is None:
        raise NotFound("program")
    unchanged(base, mark_of_program(kept))
    kept.name, kept.segments = program.name, segments
    kept.save()
    return kept


@transaction.atomic
def forget_program(*, actor: Membership, program_id: int) -> None:
    gone, _ = KilnProgram.objects.filter(shop=actor.shop, pk=program_id).delete()
    if not gone:
        raise NotFound("program")


@transaction.atomic
def start_run(*, actor: Membership, design: Design, program: Program, steels: Sequence[str], load: Load, speed: float) -> KilnRun:
    """Raises InputError for a program that would melt the load or that the kiln cannot do, or while another run is on."""
    own = shop_data(actor.shop)
    wrong = [f for f in checks(program, steels, own) if f.grade == "stop"]
    if wrong:
        raise InputError.at(wrong[0].field, f"{wrong[0].what} {wrong[0].why}".lower().rstrip("."), wrong[0].do.rstrip(".").lower())
    for old in KilnRun.objects.filter(shop=actor.shop, state__in=("running", "held")):
        look(run=old)
    if KilnRun.objects.filter(shop=actor.shop, state__in=("running", "held")).exists():
        raise InputError.at("run", "the kiln is at work already", "wait for it, or stop it")
    _speed(speed)
    controller = SimulatedController(program, load, own.numbers.of(KILN_MOST) + OVER_MOST, rate=own.numbers.of(KILN_RATE))
    run = KilnRun.objects.create(
        shop=actor.shop,
        design=design,
        name=program.name,
        load=list(steels),
        speed=speed,
        looked=timezone.now(),
        controller=controller.put_away(),
    )
    old_ones = KilnRun.objects.filter(shop=actor.shop, design=design).values_list("pk", flat=True)[KEPT_RUNS:]
    KilnRun.objects.filter(pk__in=list(old_ones)).delete()
    return run


def run_of(shop: Shop, run_id: int) -> KilnRun:
    """Raises NotFound, alike for one that is not there and one of another shop."""
    found = KilnRun.objects.filter(shop=shop, pk=run_id).first()
    if found is None:
        raise NotFound("kiln run")
    return found


@transaction.atomic
def look(*, run: KilnRun) -> KilnRun:
    """Bring a run up to now, by the clock and its speed."""
    if run.state not in ("running", "held"):
        return run
    run = KilnRun.objects.select_for_update().get(pk=run.pk)
    if run.state not in ("running", "held"):
        return run
    now = timezone.now()
    if now < run.looked:
        # the clock was set back: the run goes on from here, not when the clock is there again
        run.looked = now
        run.save(update_fields=["looked"])
        return run
    seconds = min(AT_ONCE, (now - run.looked).total_seconds() * run.speed)
    before = SimulatedController.taken_up(run.controller)
    after = before.after(seconds)
    # what is less than a step is not lost
    run.looked += timedelta(seconds=(after.seconds - before.seconds) / run.speed) if seconds < AT_ONCE else now - run.looked
    return _keep(run, after)


def add_rows(run: KilnRun, after: SimulatedController) -> None:
    """What the record has more, behind what there is."""
    KilnRow.objects.bulk_create(
        [KilnRow(run=run, number=run.lines + i, values=list(astuple(r))) for i, r in enumerate(after.record)], batch_size=500
    )
    run.lines += len(after.record)


def rows_of(run: KilnRun, after: int = 0, most: int = 5000) -> list[list[float]]:
    """The record from row `after` on."""
    return list(run.rows.filter(number__gte=max(0, after))[:most].values_list("values", flat=True))


def _keep(run: KilnRun, after: SimulatedController) -> KilnRun:
    add_rows(run, after)
    run.events = [*run.events, *(asdict(e) for e in after.events)]
    run.controller = after.put_away()
    run.state = after.state
    run.save()
    return run


@transaction.atomic
def act(*, run: KilnRun, action: str) -> KilnRun:
    """Hold, resume, skip, stop; fail and mend an element, open and shut the door (the stand-in's own)."""
    run = look(run=run)
    now = SimulatedController.taken_up(run.controller)
    done: dict[str, Callable[[], SimulatedController]] = {
        "hold": now.hold,
        "resume": now.resume,
        "skip": now.skip,
        "stop": now.stop,
        "fail": lambda: now.with_fault(failed=True),
        "mend": lambda: now.with_fault(failed=False),
        "open": lambda: now.with_fault(door=True),
        "shut": lambda: now.with_fault(door=False),
    }
    if action not in done:
        raise InputError.at("action", f"the kiln knows no {action[:20]!r}", f"use one of {', '.join(done)}")
    return _keep(run, done[action]())


@transaction.atomic
def set_speed(*, run: KilnRun, speed: float) -> KilnRun:
    run = look(run=run)
    run.speed = _speed(speed)
    run.save(update_fields=["speed"])
    return run


def _speed(speed: float) -> float:
    if speed not in SPEEDS:
        raise InputError.at("speed", f"{speed:g} times is none of its speeds", f"use one of {', '.join(f'{s:g}' for s in SPEEDS)}")
    return speed


def runs_name(shop: Shop, key: str) -> bool:
    """Whether a run's load names this steel."""
    return any(key in load for load in KilnRun.objects.filter(shop=shop).values_list("load", flat=True))
