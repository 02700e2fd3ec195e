"""The whole job in order: bars before what they go into, bars alike so far once."""

from collections.abc import Sequence
from dataclasses import dataclass, replace

from varistrat.core.design.worked import Worked
from varistrat.core.figures import USUAL
from varistrat.core.route.operation import Job, Kind, Operation, Part
from varistrat.core.route.operations import KINDS
from varistrat.core.stock.backwards import Address
from varistrat.core.stock.sheet import StockSheet, stock_of
from varistrat.core.stock.told import ids_of


@dataclass(frozen=True)
class Route:
    """operations: each after those it waits for."""

    operations: tuple[Operation, ...]
    sheet: StockSheet


def route_of(worked: Worked, kinds: Sequence[Kind] = KINDS) -> Route:
    """Raises InputError as `stock_of` does."""
    sheet = stock_of(worked)
    fires = {(f.bar, f.step): f for f in worked.fire.fired}
    mine = worked.shop.numbers
    operations = _Builder(Job(worked, sheet, fires, mine), kinds).all()
    # what the shop learns is told against our numbers, not against what it has put in their place
    ours = operations if not mine.own else _Builder(Job(worked, sheet, fires, USUAL), kinds).all()
    usual = {o.id: o.attended for o in ours}
    return Route(tuple(replace(o, usual=usual.get(o.id, o.attended)) for o in operations), sheet)


class _Builder:
    """Goes through the tree once, the bars of a joint before it."""

    def __init__(self, job: Job, kinds: Sequence[Kind]):
        self.job, self.kinds = job, kinds
        self.out: list[Operation] = []
        self.ids = ids_of(job.worked)
        self.done: dict[Address, tuple[str, ...]] = {}
        """Ids of the last operation of each bar."""

    def all(self) -> list[Operation]:
        shared = {bar: (group.bars[0], group.steps) for group in self.job.sheet.together for bar in group.bars[1:]}
        parted = {group.bars[0]: group.steps for group in self.job.sheet.together}
        parting: dict[Address, tuple[str, ...]] = {}
        for wanted in sorted(self.job.sheet.wanted, key=lambda w: (-len(w.address), w.address)):
            address, bar = wanted.address, self.ids[wanted.address]
            after = tuple(i for k in range(len(wanted.forged.children)) for i in self.done[(*address, k)])
            first, skip = shared.get(address, (None, 0))
            if first is None:
                parts = [(k, p, None) for k in self.kinds for p in k.begins(self.job, wanted)]
                after = self._add(parts, address, bar, after, self.job.alike(wanted))
            else:
                after = parting[first]
            for n, stage in enumerate(wanted.forged.stages, 1):
                if n <= skip:
                    continue
                fired = self.job.fires.get((bar, stage.step.id))
                many = self.job.alike(wanted, n)
                done = [(k, _of_all(k, p, many), stage.step.id) for k in self.kinds for p in k.step(self.job, wanted, stage, fired)]
                after = self._add(done, address, bar, after, many)
                if parted.get(address) == n:
                    parting[address] = after
            self.done[address] = after
        self._add([(k, p, None) for k in self.kinds for p in k.blade(self.job)], None, "", self.done[()])
        return self.out

    def _add(
        self, parts: Sequence[tuple[Kind, Part, str | None]], address: Address | None, bar: str, after: tuple[str, ...], many: int = 1
    ) -> tuple[str, ...]:
        where = "blade" if address is None else ".".join(map(str, address)) or "bar"
        for kind, part, step in parts:
            name = f"{where}:{kind.key}" + (f"-{step}" if step else "") + (f"-{part.name}" if part.name else "")
            one = Operation(
                name, kind.key, part.title, part.say, bar, step, kind.place, part.attended, part.alone, kind.spread, after,
                part.targets, part.checks, part.cautions, part.timers, part.by_heat, part.lay_out, many,
            )  # fmt: skip
            self.out.append(one)
            after = (name,)
        return after


def _of_all(kind: Kind, part: Part, many: int) -> Part:
    """Of so many bars that are one piece: so many times as long, and as much to grind."""
    if many == 1:
        return part
    targets = tuple(replace(t, value=t.value * many, tolerance=t.tolerance * many) if t.quantity == "length" else t for t in part.targets)
    return replace(part, targets=targets, attended=part.attended * (many if kind.place == "grinder" else 1))
