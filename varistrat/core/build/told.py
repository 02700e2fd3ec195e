"""A build as a screen tells it: every operation with what was planned, what follows from what was measured, and what was measured."""

from collections.abc import Sequence
from dataclasses import dataclass, field
from datetime import datetime

from varistrat.core.build.as_made import AsMade, as_made
from varistrat.core.build.as_read import follows
from varistrat.core.build.entry import AmendedEntry, Entry, FaultEntry, MeasuredEntry, NoteEntry, PhotoEntry, TestedEntry
from varistrat.core.build.plan import Plan, in_force
from varistrat.core.build.state import BuildState, OperationState, Standing, state_of
from varistrat.core.build.words import within, word
from varistrat.core.design.worked import Worked
from varistrat.core.errors import InputError
from varistrat.core.route.operation import Check, Operation, Place, Quantity, Target, Timer
from varistrat.core.route.route import route_of
from varistrat.core.stock.sheet import FINE, stock_of


@dataclass(frozen=True)
class TargetTold:
    """value: as planned; now: what it comes to by all that was measured before it; measured: as it is; difference: measured less
    planned; off: a word where that is more than the tolerance."""

    quantity: Quantity
    unit: str
    value: float
    tolerance: float
    says: str
    now: float
    measured: float | None = None
    typed: str = ""
    difference: float | None = None
    within: bool = True
    off: str = ""


@dataclass(frozen=True)
class ReadingTold:
    """Something measured that is no target."""

    quantity: Quantity
    unit: str
    value: float
    place: float | None
    typed: str


@dataclass(frozen=True)
class OperationTold:
    """bar: id, empty for the blade; before, stage: how many steps of it are done before and after; plan: number of the one in force
    when it was done; gone: no longer in the plan; minutes: that it took, as far as was said; odd: why its sizes were not taken over;
    follows: what is to be done after what was read, in words."""

    id: str
    kind: str
    title: str
    say: str
    bar: str
    step: str | None
    place: Place
    attended: float
    alone: float
    after: list[str]
    targets: list[TargetTold]
    checks: list[Check]
    cautions: list[str]
    timers: list[Timer]
    by_heat: list[str]
    lay_out: str
    before: int | None
    stage: int | None
    plan: int
    gone: bool
    standing: Standing
    times: int
    why: str
    minutes: float | None
    answers: dict[int, bool]
    running: dict[int, datetime]
    readings: list[ReadingTold]
    notes: list[NoteEntry]
    photos: list[PhotoEntry]
    faults: list[FaultEntry]
    tests: list[TestedEntry]
    ended: datetime | None
    odd: str
    follows: str


@dataclass(frozen=True)
class BuildTold:
    """next: id of the first that is open; have, need, spare: mm of the finished bar as it is being made, the reserve and the bad ends
    in what it needs; sure: what is to spare without the reserve; short: not long enough;
    blade (with its tang), hold, ends, reserve: what it needs is made of; wrong: why nothing could be worked out."""

    operations: list[OperationTold]
    next: str | None
    begun: datetime | None
    ended: datetime | None
    amended: list[AmendedEntry]
    have: float
    need: float
    spare: float
    sure: float
    short: bool
    blade: float
    hold: float
    ends: float
    reserve: float
    wrong: str = ""
    changed: list[str] = field(default_factory=list)


@dataclass(frozen=True)
class Made:
    """The design of the plan in force with all that was measured, worked out."""

    plan: Plan
    state: BuildState
    made: AsMade
    worked: Worked


def made_of(plans: list[Plan], entries: Sequence[Entry], planned: Worked) -> Made:
    """plans: by number; planned: the last one's design worked out. Raises InputError when it can no longer be."""
    state = state_of(entries)
    made = as_made(planned, plans[-1].route(planned), state)
    worked = Worked.of(made.document) if made.changed else planned
    return Made(plans[-1], state, made, worked)


def told_of(plans: list[Plan], entries: Sequence[Entry], made: Made | InputError) -> BuildTold:
    """made: see `made_of`, or why that could not be."""
    state = made.state if isinstance(made, Made) else state_of(entries)
    now: dict[str, Operation] = {}
    stages: dict[tuple[str, str], int] = {}
    odd: dict[str, str] = {}
    after: dict[str, str] = {}
    have = need = spare = sure = 0.0
    needs = (0.0, 0.0, 0.0, 0.0)
    if isinstance(made, Made):
        sheet = stock_of(made.worked)
        have, need, spare = float(sheet.have), float(sheet.need.length), float(sheet.spare)
        sure = spare + float(sheet.need.reserve)
        parts = sheet.need
        needs = float(parts.occupied), float(parts.hold), float(parts.ends), float(parts.reserve)
        now = {o.id: o for o in (route_of(made.worked).operations if made.made.changed else plans[-1].operations)}
        odd = {o.op: f"{o.wrong}; {o.cure}" for o in made.made.odd}
        after = follows(made.worked) if made.made.changed and made.worked.cut else {}
        stages = {(bar, s.step.id): i for bar, f in made.worked.bars.items() for i, s in enumerate(f.stages)}
    current = plans[-1].operations
    known = {o.id for o in current}
    rest = [o for plan in plans[:-1] for o in plan.operations if o.id not in known and o.id in state.operations]
    gone = {o.id: o for o in rest}
    told = [_operation(o, plans, state, now.get(o.id, o), stages, odd, after, o.id in gone) for o in (*current, *gone.values())]
    return BuildTold(
        told, state.next_of([o.id for o in current]), state.begun, state.ended, state.amended, have, need, spare, sure, spare < -FINE,
        *needs,
        "" if isinstance(made, Made) else str(made), made.made.changed if isinstance(made, Made) else [],
    )  # fmt: skip


def _operation(
    op: Operation,
    plans: list[Plan],
    state: BuildState,
    now: Operation,
    stages: dict[tuple[str, str], int],
    odd: dict[str, str],
    after: dict[str, str],
    gone: bool,
) -> OperationTold:
    said = state.of(op.id)
    measured = list(said.measured.values())
    plan = in_force(plans, state, max(measured, key=lambda e: (e.at, e.id))) if measured else plans[-1]
    planned = next((o for o in plan.operations if o.id == op.id), op)
    at = stages.get((op.bar, op.step)) if op.step else None
    # what is still to be done is told as it follows from what was measured; what is done as it was planned
    op = now if said.standing == "open" else op
    return OperationTold(
        op.id, op.kind, op.title, op.say, op.bar, op.step, op.place, op.attended, op.alone, list(op.after),
        [_target(t, now, said) for t in planned.targets], list(op.checks), list(op.cautions), list(op.timers),
        list(op.by_heat), op.lay_out,
        at, at + 1 if at is not None else 0 if op.bar and not op.step else None, plan.number, gone, said.standing, said.times, said.why,
        said.minutes, said.answers, said.running, _readings(planned, said), said.notes, said.photos, said.faults, said.tests, said.ended,
        odd.get(op.id, ""), after.get(op.id, ""),
    )  # fmt: skip


def _target(target: Target, now: Operation, said: OperationState) -> TargetTold:
    follows = next((t.value for t in now.targets if (t.quantity, t.says) == (target.quantity, target.says)), target.value)
    entry = said.measured.get((target.quantity, None))
    told = (target.quantity, target.unit, target.value, target.tolerance, target.says, follows)
    if entry is None:
        return TargetTold(*told)
    value = entry.value
    return TargetTold(*told, value, entry.typed, value - target.value, within(target, value), word(target, value))


def _readings(planned: Operation, said: OperationState) -> list[ReadingTold]:
    asked = {t.quantity for t in planned.targets}

    def unit(e: MeasuredEntry) -> str:
        return Target(e.quantity, 0.0, 0.0).unit

    found = [e for (q, place), e in said.measured.items() if place is not None or q not in asked]
    return [ReadingTold(e.quantity, unit(e), e.value, e.place, e.typed) for e in found]
