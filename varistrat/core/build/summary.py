"""A build in a line: how far it is, what comes next, hours real and planned, yield, faults. From the frozen plan alone, without forging."""

from collections.abc import Iterable
from dataclasses import dataclass, field
from datetime import datetime

from varistrat.core.build.plan import Plan
from varistrat.core.build.state import BuildState
from varistrat.core.route.operation import Operation


@dataclass(frozen=True)
class Waiting:
    """A timer that runs: minutes it runs for."""

    op: str
    title: str
    says: str
    since: datetime
    minutes: float
    again: bool


@dataclass(frozen=True)
class Ended:
    """One operation that is done: minutes as planned, as planned by our own numbers, and as it took; None: not said. measured: by
    quantity, of what was to be reached: as planned and as it is."""

    op: str
    kind: str
    planned: float
    usual: float
    took: float | None
    measured: dict[str, tuple[float, float]] = field(default_factory=dict)


@dataclass(frozen=True)
class BuildSummary:
    """total, done, skipped: operations; next: its title, empty when nothing is open; minutes with hands on: of all as planned, of those
    whose time was said as planned and as they took; put_in, blade: g as weighed, None when they were not; faults: as called."""

    total: int
    done: int
    skipped: int
    next: str
    next_op: str
    planned: float
    planned_of_said: float
    took: float
    put_in: float | None
    blade: float | None
    faults: list[str]
    photos: int
    amended: int
    begun: datetime | None
    ended: datetime | None
    waiting: list[Waiting] = field(default_factory=list)
    kinds: list[Ended] = field(default_factory=list)

    @property
    def share(self) -> float | None:
        """g of blade for a g put in."""
        return self.blade / self.put_in if self.blade and self.put_in else None


def summary_of(plan: Plan, state: BuildState) -> BuildSummary:
    """plan: the one in force."""
    ops = plan.operations
    standing = [state.of(o.id).standing for o in ops]
    first = next((o for o, s in zip(ops, standing, strict=True) if s == "open"), None)
    ended = [
        Ended(o.id, o.kind, o.attended, o.usual or o.attended, state.of(o.id).minutes, _measured(o, state))
        for o, s in zip(ops, standing, strict=True)
        if s == "done"
    ]
    said = [e for e in ended if e.took is not None]
    every = state.operations.values()
    return BuildSummary(
        len(ops), standing.count("done"), standing.count("skipped"), first.title if first else "", first.id if first else "",
        sum(o.attended for o in ops), sum(e.planned for e in said), sum(e.took or 0.0 for e in said),
        _mass(ops, state, ("cut_stock", "pile_up")), _mass(reversed(ops), state, None),
        [f.fault or f.text for o in every for f in o.faults], sum(len(o.photos) for o in every), len(state.amended),
        state.begun, state.ended, _waiting(ops, state), ended,
    )  # fmt: skip


def _measured(op: Operation, state: BuildState) -> dict[str, tuple[float, float]]:
    """Of what was to be reached and was measured; what is said of pieces apart (one quantity twice) as the first of them."""
    said = state.of(op.id)
    out: dict[str, tuple[float, float]] = {}
    for target in (t for t in op.targets if t.learned):
        value = said.reading(target.quantity)
        if value is not None:
            # the shop's own number may have been planned with: what is learned is told against ours
            out.setdefault(target.quantity, (target.usual if target.usual is not None else target.value, value))
    return out


def _mass(ops: Iterable[Operation], state: BuildState, kinds: tuple[str, ...] | None) -> float | None:
    """Of what is put in, all its pieces together; or (kinds None) of the blade, as weighed last."""
    found = [m for o in ops if (o.kind in kinds if kinds else not o.bar) and (m := state.of(o.id).last("mass")) is not None]
    if kinds:
        return sum(found) if found else None
    return found[0] if found else None


def _waiting(ops: Iterable[Operation], state: BuildState) -> list[Waiting]:
    out = []
    for o in ops:
        for n, since in state.of(o.id).running.items():
            if n < len(o.timers):
                out.append(Waiting(o.id, o.title, o.timers[n].says, since, o.timers[n].minutes, o.timers[n].again))
    return out
