"""Where a build stands: a fold over its entries that comes out alike in whatever order, and however often, they arrive."""

from collections.abc import Iterable, Sequence
from dataclasses import dataclass, field
from datetime import datetime
from typing import Literal

from varistrat.core.build.entry import (
    AmendedEntry,
    CheckedEntry,
    DoneEntry,
    Entry,
    FaultEntry,
    GradedEntry,
    MeasuredEntry,
    NoteEntry,
    PhotoEntry,
    RedoneEntry,
    SkippedEntry,
    TestedEntry,
    TimerEntry,
    VoidedEntry,
)
from varistrat.core.route.operation import Quantity

Standing = Literal["open", "done", "skipped"]


@dataclass
class OperationState:
    """standing: redone makes it open again; measured: the last of each quantity (and place); answers: the last to each check,
    answered: when; running:
    since when each timer runs; minutes: all that was said of it, or None; times: how often it was done."""

    standing: Standing = "open"
    times: int = 0
    why: str = ""
    minutes: float | None = None
    measured: dict[tuple[Quantity, float | None], MeasuredEntry] = field(default_factory=dict)
    answers: dict[int, bool] = field(default_factory=dict)
    answered: dict[int, datetime] = field(default_factory=dict)
    running: dict[int, datetime] = field(default_factory=dict)
    notes: list[NoteEntry] = field(default_factory=list)
    photos: list[PhotoEntry] = field(default_factory=list)
    faults: list[FaultEntry] = field(default_factory=list)
    tests: list[TestedEntry] = field(default_factory=list)
    ended: datetime | None = None
    rounds: list[dict[Quantity, list[float]]] = field(default_factory=list)
    """Of each time it was done before the last: what was measured then."""

    def last(self, quantity: Quantity, place: float | None = None) -> float | None:
        """As measured last, in the unit of the quantity; None when it was not."""
        found = self.measured.get((quantity, place))
        return found.value if found else None

    def readings(self, quantity: Quantity) -> list[float]:
        """Every spot that was read of it, as measured last."""
        return [v for (q, _), e in self.measured.items() if q == quantity for v in (e.spots or [e.value])]

    def reading(self, quantity: Quantity) -> float | None:
        """As measured last of the whole; where it was read at places, their mean."""
        at = [e.value for (q, place), e in self.measured.items() if q == quantity and place is not None]
        whole = self.last(quantity)
        return whole if whole is not None or not at else sum(at) / len(at)


@dataclass
class BuildState:
    """operations: by id, those of which anything was said; amended: changes of the plan in their order;
    graded: the smith's own grade, the last; begun, ended: of all that
    counts; void: ids of what does not count."""

    operations: dict[str, OperationState] = field(default_factory=dict)
    amended: list[AmendedEntry] = field(default_factory=list)
    graded: GradedEntry | None = None
    begun: datetime | None = None
    ended: datetime | None = None
    void: frozenset[str] = frozenset()

    def of(self, op: str) -> OperationState:
        """Of an operation; one of which nothing was said is open."""
        return self.operations.get(op, OperationState())

    def next_of(self, route: Sequence[str]) -> str | None:
        """The first of a route that is neither done nor skipped; None when all are."""
        return next((op for op in route if self.of(op).standing == "open"), None)


def in_order(entries: Iterable[Entry]) -> list[Entry]:
    """Each once, by the clock and then by id. Of two with one id (no honest client makes them) the one that reads first counts."""
    by_id: dict[str, Entry] = {}
    for e in entries:
        if e.id not in by_id or _said(e) < _said(by_id[e.id]):
            by_id[e.id] = e
    return sorted(by_id.values(), key=lambda e: (e.at, e.id))


def _said(entry: Entry) -> str:
    return entry.model_dump_json()


def void_of(ordered: Sequence[Entry]) -> frozenset[str]:
    """What does not count: what an entry that counts makes void, whichever clock was slow.

    Of entries that make one another void the last word counts: one that was taken back makes nothing void.
    """
    by_id = {e.id: e for e in ordered}
    void: set[str] = set()
    heard: set[str] = set()
    for e in reversed(ordered):
        if isinstance(e, VoidedEntry) and e.id not in void:
            late = isinstance(by_id.get(e.entry), VoidedEntry) and e.entry in heard
            if e.entry in by_id and not late and e.entry != e.id:
                void.add(e.entry)
        heard.add(e.id)
    return frozenset(void)


def state_of(entries: Iterable[Entry]) -> BuildState:
    """Where the build stands after all of these."""
    ordered = in_order(entries)
    state = BuildState(void=void_of(ordered))
    for e in ordered:
        if e.id in state.void or isinstance(e, VoidedEntry):
            continue
        state.begun, state.ended = state.begun or e.at, e.at
        if isinstance(e, AmendedEntry):
            state.amended.append(e)
            continue
        if isinstance(e, GradedEntry):
            state.graded = e
            continue
        _tell(state.operations.setdefault(e.op, OperationState()), e)
    return state


def _tell(op: OperationState, e: Entry) -> None:
    op.ended = e.at
    match e:
        case MeasuredEntry():
            op.measured[e.quantity, e.place] = e
        case DoneEntry():
            op.standing, op.why, op.running = "done", "", {}
            op.times += 1
            if e.minutes is not None:
                op.minutes = (op.minutes or 0.0) + e.minutes
        case SkippedEntry():
            op.standing, op.why, op.running = "skipped", e.why, {}
        case RedoneEntry():
            if op.standing == "done":
                op.rounds.append({q: op.readings(q) for q, _ in op.measured})
            # what was answered and measured the first time says nothing of the second
            op.standing, op.why, op.answers, op.answered, op.measured, op.tests = "open", e.why, {}, {}, {}, []
        case CheckedEntry():
            op.answers[e.check] = e.good
            op.answered[e.check] = e.at
        case TimerEntry():
            if e.running:
                op.running.setdefault(e.timer, e.at)
            else:
                op.running.pop(e.timer, None)
        case NoteEntry():
            op.notes.append(e)
        case PhotoEntry():
            op.photos.append(e)
        case FaultEntry():
            op.faults.append(e)
        case TestedEntry():
            op.tests.append(e)
