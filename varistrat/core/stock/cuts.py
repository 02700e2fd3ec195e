"""What to cut from which bar of the rack, and what to buy: one-dimensional cutting stock with kerf, solved exactly.

A pattern is what may be cut from one bar. Where few enough, all that cannot take one piece more are listed, and an integer programme
(HiGHS) says how often each is cut and which pieces are made of which bars: least bought, then least work, then least steel used up, then
fewest bars. Where there are too many, those that could matter are found one by one (column generation), and the linear bound says how far
the answer may be from the best. When time is over, the longest pieces are laid in first, bar by bar. docs/physics.md#cuts.
"""

import time
from collections import Counter
from collections.abc import Callable, Iterator, Sequence
from dataclasses import dataclass, replace
from math import floor

import numpy as np
from numpy.typing import NDArray

from varistrat.core.rack.item import Stocked

SLACK = 0.3
"""mm that a section of the rack may be under what is wanted: a rolled bar is never exact."""
FLAT = ("flat", "square", "sheet")
"""Forms that a layer is cut from as they are."""
ROUND = ("round", "rods")
SECONDS = 2.0
GAP = 1e-9
"""Of the bound, at which the solver is done."""
MOST_PATTERNS = 3_000
"""Listed in full; more are found as they are needed."""
ROUNDS = 60
GRAIN = 0.1
"""mm to which lengths are told apart while patterns are looked for."""
BOUGHT, WORK, BARS = 2e4, 20.0, 1e-3
"""What a mm3 bought, the work that costs as much as a mm3 of steel, and a mm2 of a bar begun weigh against a mm3 used up."""
NEAR = 1e-4
"""Share of the best within which an answer is the best: less than a saw cut."""


@dataclass(frozen=True)
class Piece:
    """One piece wanted: what it is for, its steel and its size, mm; form: flat, or round."""

    name: str
    steel: str
    width: float
    thickness: float
    length: float
    form: str = "flat"

    @property
    def kind(self) -> tuple[str, str, float, float, float]:
        """Pieces of one kind are cut one for another."""
        return self.steel, self.form, round(self.width, 3), round(self.thickness, 3), round(self.length, 3)


@dataclass(frozen=True)
class StockBar:
    """Bars of the rack that are alike: mm, how many, and the price of them all, if known."""

    item: str
    steel: str
    form: str
    width: float
    thickness: float
    length: float
    count: int
    price: float | None = None
    known_as: int = 0

    def serves(self, piece: Piece) -> bool:
        """Whether the piece can be cut from it: a flat bar of its steel and a section as large, whichever way it lies; a rod as thick."""
        if piece.form == "round":
            return self.form in ROUND and self.steel == piece.steel and abs(self.width - piece.width) <= SLACK
        if self.form not in FLAT:
            return False
        mine, wanted = sorted((self.width, self.thickness)), sorted((piece.width, piece.thickness))
        return self.steel == piece.steel and all(m >= w - SLACK for m, w in zip(mine, wanted, strict=True))

    @property
    def section(self) -> float:
        """mm2."""
        return self.width * self.thickness

    @classmethod
    def of(cls, one: Stocked) -> "StockBar":
        """An item of the rack; no layer is cut from powder, or from what carries a pattern."""
        i = one.item
        count = 0 if i.form == "powder" or one.patterned else int(one.there)
        return cls(one.code, i.steel, i.form, i.width or 0.0, i.thickness or 0.0, i.length or 0.0, count, i.price, one.known_as)


@dataclass(frozen=True)
class CutBar:
    """One bar with its cuts in order, and what is left of it, mm."""

    bar: StockBar
    cuts: tuple[Piece, ...]
    left: float


@dataclass(frozen=True)
class CutList:
    """bars: those that are cut; bought: pieces no bar of the rack gives; used, waste: mm3 of the bars cut, and of them not in a piece;
    proven: whether no other way buys less, takes less work and then uses up less steel; gap: else how far the answer may be from the
    best, as a share of what its bars and their work come to."""

    bars: tuple[CutBar, ...]
    bought: tuple[Piece, ...]
    used: float
    waste: float
    proven: bool
    gap: float


@dataclass(frozen=True)
class _Task:
    """Kinds of piece that bars of one steel are to give."""

    kinds: tuple[Piece, ...]
    wanted: NDArray[np.int64]
    bars: tuple[StockBar, ...]
    kerf: float
    work: tuple[tuple[float, ...], ...]
    """Of making one of each kind (column) of each bar (row), as mm3 used up; nothing where it does not serve."""

    @property
    def pairs(self) -> list[tuple[int, int]]:
        """(bar, kind) wherever the bar gives the kind."""
        return [(i, k) for i, bar in enumerate(self.bars) for k in sorted(self.fitting(bar))]

    def fitting(self, bar: StockBar) -> list[int]:
        """Kinds that can be cut from this bar, longest first."""
        found = [k for k, p in enumerate(self.kinds) if bar.serves(p) and p.length <= bar.length + 1e-9]
        return sorted(found, key=lambda k: -self.kinds[k].length)

    def cost(self, bar: StockBar) -> float:
        return bar.section * bar.length + BARS * bar.section

    def price_of(self, k: int) -> float:
        """What buying one piece of a kind weighs."""
        p = self.kinds[k]
        return BOUGHT * p.width * p.thickness * (p.length + self.kerf)


Work = Callable[[StockBar, Piece], float]


def _no_work(bar: StockBar, piece: Piece) -> float:
    return 0.0


def cut_list(pieces: Sequence[Piece], rack: Sequence[StockBar], kerf: float, seconds: float = SECONDS, work: Work = _no_work) -> CutList:
    """The best way to cut these pieces. Each steel is a task of its own, with its share of the time.

    work: what making a piece of a bar that serves it costs, as mm3 of steel that cost as much.
    """
    steels = sorted({p.steel for p in pieces})
    parts = [
        _of_one_steel([p for p in pieces if p.steel == s], [b for b in rack if b.steel == s], kerf, seconds / len(steels), work)
        for s in steels
    ]
    return CutList(
        tuple(b for p in parts for b in p.bars),
        tuple(b for p in parts for b in p.bought),
        sum(p.used for p in parts),
        sum(p.waste for p in parts),
        all(p.proven for p in parts),
        max((p.gap for p in parts), default=0.0),
    )


def _of_one_steel(pieces: list[Piece], rack: list[StockBar], kerf: float, seconds: float, work: Work) -> CutList:
    began = time.monotonic()
    count = Counter(p.kind for p in pieces)
    kinds = tuple({p.kind: p for p in pieces}.values())
    bars = tuple(b for b in rack if any(b.serves(p) for p in kinds))
    weighs = tuple(tuple(WORK * work(b, p) if b.serves(p) else 0.0 for p in kinds) for b in bars)
    task = _Task(kinds, np.array([count[p.kind] for p in kinds]), bars, kerf, weighs)
    patterns, whole = _patterns(task)
    bound = None
    if not whole:
        patterns, bound = _generated(task)
    first = _longest_first(task)
    patterns = list(dict.fromkeys([*patterns, *(p for p, _ in first)]))
    if not patterns:
        return _laid_out(task, pieces, [], True, 0.0)
    found = _programme(task, patterns, max(0.1, seconds - (time.monotonic() - began)))
    if found is None or found.value > _weight(task, first):
        return _laid_out(task, pieces, first, False, 1.0)
    least = found.dual if bound is None else max(bound, 0.0)
    # what must be bought whatever is cut would hide how far the rest may be off
    rest = max(found.value - found.bought, 1e-9)
    gap = min(1.0, max(0.0, (found.value - least) / rest))
    exact = found.proven and bound is None
    return _laid_out(task, pieces, found.cuts, exact or gap <= NEAR, 0.0 if exact else gap)


_Counts = tuple[int, ...]
_Cut = tuple[tuple[int, _Counts], _Counts]
"""A pattern, and how many of each kind are really made of its bar."""


_Pattern = tuple[int, _Counts]
"""(which bar of the task, how many of each kind)."""


def _patterns(task: _Task) -> tuple[list[_Pattern], bool]:
    """All that take not one piece more, and whether they are all."""
    found: list[_Pattern] = []
    for i, bar in enumerate(task.bars):
        for counts in _fillings(task, bar):
            found.append((i, counts))
            if len(found) > MOST_PATTERNS:
                return found, False
    return found, True


def _fillings(task: _Task, bar: StockBar) -> Iterator[tuple[int, ...]]:
    order = task.fitting(bar)
    counts = [0] * len(task.kinds)
    least = min((task.kinds[k].length for k in order), default=0.0)

    def fill(at: int, room: float) -> Iterator[tuple[int, ...]]:
        # the last cut may fall on the bar's end: a kerf more of room than there is bar
        if at == len(order):
            full = all(counts[k] >= task.wanted[k] or task.kinds[k].length + task.kerf > room + 1e-9 for k in order)
            if full and any(counts):
                yield tuple(counts)
            return
        k = order[at]
        each = task.kinds[k].length + task.kerf
        most = min(int(task.wanted[k]), floor((room + 1e-9) / each)) if each else int(task.wanted[k])
        for n in range(most, -1, -1):
            counts[k] = n
            yield from fill(at + 1, room - n * each)
        counts[k] = 0

    if order and least <= bar.length + 1e-9:
        yield from fill(0, bar.length + task.kerf)


@dataclass(frozen=True)
class _Rules:
    """The programme for some patterns. Variables: how often each pattern is cut, how many pieces of each pair (bar, kind) are made, how
    many of each kind are bought. Rows of `a x <= limit`: pieces wanted, made of what is cut, bars that are there."""

    cost: NDArray[np.float64]
    a: NDArray[np.float64]
    limit: NDArray[np.float64]

    @classmethod
    def of(cls, task: _Task, patterns: Sequence[tuple[int, _Counts]], pairs: Sequence[tuple[int, int]]) -> "_Rules":
        kinds, bars, many = len(task.kinds), len(task.bars), len(patterns)
        cost = np.concatenate(
            [
                [task.cost(task.bars[i]) for i, _ in patterns],
                [task.work[i][k] for i, k in pairs],
                [task.price_of(k) for k in range(kinds)],
            ]
        )
        wanted = np.zeros((kinds, len(cost)))
        made = np.zeros((len(pairs), len(cost)))
        there = np.zeros((bars, len(cost)))
        wanted[:, many + len(pairs) :] = -np.eye(kinds)
        for row, (i, k) in enumerate(pairs):
            wanted[k, many + row] = -1.0
            made[row, many + row] = 1.0
            for at, (bar, counts) in enumerate(patterns):
                if bar == i:
                    made[row, at] = -float(counts[k])
        for at, (bar, _) in enumerate(patterns):
            there[bar, at] = 1.0
        limit = np.concatenate([-task.wanted.astype(float), np.zeros(len(pairs)), [float(b.count) for b in task.bars]])
        return cls(cost, np.vstack([wanted, made, there]), limit)


def _generated(task: _Task) -> tuple[list[_Pattern], float]:
    """Patterns that the linear programme asks for, and its bound below which nothing is."""
    from scipy.optimize import linprog

    kinds, pairs = len(task.kinds), task.pairs
    patterns = list(dict.fromkeys(p for p, _ in _longest_first(task)))
    bound = 0.0
    for _ in range(ROUNDS):
        rules = _Rules.of(task, patterns, pairs)
        solved = linprog(rules.cost, A_ub=rules.a, b_ub=rules.limit, method="highs")
        if solved.status != 0:
            break
        duals = -solved.ineqlin.marginals
        worth = np.zeros((len(task.bars), kinds))
        for (i, k), value in zip(pairs, duals[kinds : kinds + len(pairs)], strict=True):
            worth[i, k] = value
        scarce = duals[kinds + len(pairs) :]
        new, missing = [], 0.0
        tables: dict[tuple[object, ...], _Knapsack] = {}
        for i, bar in enumerate(task.bars):
            order = tuple(k for k in task.fitting(bar) if worth[i, k] > 1e-12)
            key = (order, *(round(float(worth[i, k]), 6) for k in order))
            if key not in tables:
                tables[key] = _Knapsack.of(task, order, worth[i])
            counts, value = tables[key].best(task, bar)
            gain = value - task.cost(bar) - scarce[i]
            if gain > 1e-7 * max(1.0, task.cost(bar)):
                new.append((i, counts))
                missing += gain * bar.count
        # what any better pattern could still take off
        bound = max(bound, solved.fun - missing)
        new = [p for p in new if p not in set(patterns)]
        if not new:
            break
        patterns += new
    return patterns, float(bound)


@dataclass(frozen=True)
class _Knapsack:
    """What of these kinds is of most worth in a bar, for bars of every length at once: bounded, over lengths rounded down to GRAIN so
    that no better filling is missed."""

    order: tuple[int, ...]
    sizes: tuple[int, ...]
    worth: NDArray[np.float64]
    value: NDArray[np.float64]
    taken: NDArray[np.int32]

    @classmethod
    def of(cls, task: _Task, order: tuple[int, ...], worth: NDArray[np.float64]) -> "_Knapsack":
        room = max(_grains(b.length + task.kerf) for b in task.bars)
        sizes = tuple(max(1, _grains(task.kinds[k].length + task.kerf)) for k in order)
        value = np.zeros(room + 1)
        taken = np.zeros((len(order), room + 1), np.int32)
        for at, (k, size) in enumerate(zip(order, sizes, strict=True)):
            new = value.copy()
            for n in range(1, min(int(task.wanted[k]), room // size) + 1):
                tried = value[: room + 1 - n * size] + n * worth[k]
                better = tried > new[n * size :] + 1e-12
                new[n * size :][better] = tried[better]
                taken[at, n * size :][better] = n
            value = new
        return cls(order, sizes, worth, value, taken)

    def best(self, task: _Task, bar: StockBar) -> tuple[tuple[int, ...], float]:
        """(how many of each kind, a worth that no filling of this bar exceeds). What does not really fit is taken out again."""
        left = room = _grains(bar.length + task.kerf)
        counts = [0] * len(task.kinds)
        for at in range(len(self.order) - 1, -1, -1):
            n = int(self.taken[at, left])
            counts[self.order[at]] = n
            left -= n * self.sizes[at]
        over = sum(n * (task.kinds[k].length + task.kerf) for k, n in enumerate(counts)) - bar.length - task.kerf
        for k in sorted(self.order, key=lambda k: self.worth[k]):
            while over > 1e-9 and counts[k]:
                counts[k] -= 1
                over -= task.kinds[k].length + task.kerf
        return tuple(counts), float(self.value[room])


def _grains(mm: float) -> int:
    return floor(mm / GRAIN + 1e-6)


def _longest_first(task: _Task) -> list[_Cut]:
    """First-fit decreasing: each bar in turn, those that are least used up first, takes the longest that still fits; those that give a
    kind as it is before those of which it must be made."""
    left = task.wanted.copy()
    found: list[_Cut] = []
    there = [bar.count for bar in task.bars]
    order = sorted(range(len(task.bars)), key=lambda i: (task.bars[i].section, task.bars[i].length))
    for as_it_is in (True, False):
        for i in order:
            bar = task.bars[i]
            while there[i]:
                room, counts = bar.length + task.kerf, [0] * len(task.kinds)
                for k in task.fitting(bar):
                    if as_it_is and task.work[i][k]:
                        continue
                    each = task.kinds[k].length + task.kerf
                    n = min(int(left[k]), floor((room + 1e-9) / each))
                    counts[k], room = n, room - n * each
                    left[k] -= n
                if not any(counts):
                    break
                there[i] -= 1
                found.append(((i, tuple(counts)), tuple(counts)))
    return found


def _weight(task: _Task, cuts: list[_Cut]) -> float:
    """What these cuts weigh, with whatever they leave to be bought."""
    left = task.wanted.copy()
    weight = 0.0
    for (i, _), counts in cuts:
        weight += task.cost(task.bars[i]) + sum(n * w for n, w in zip(counts, task.work[i], strict=True))
        left = left - np.array(counts)
    return weight * (1 + 1e-9) + sum(float(n) * task.price_of(k) for k, n in enumerate(np.maximum(left, 0)))


@dataclass(frozen=True)
class _Found:
    """cuts: what is cut from each bar; value: what all of it weighs, bought: what is bought; dual: nothing weighs less."""

    cuts: list[_Cut]
    value: float
    bought: float
    proven: bool
    dual: float


def _programme(task: _Task, patterns: list[_Pattern], seconds: float) -> _Found | None:
    """The best of these patterns; None when nothing was found in time."""
    from scipy.optimize import Bounds, LinearConstraint, milp

    pairs, many = task.pairs, len(patterns)
    rules = _Rules.of(task, patterns, pairs)
    scale = max(float(rules.cost.max()), 1e-9) / 1e6
    most = [float(task.bars[i].count) for i, _ in patterns] + [float(task.wanted[k]) for _, k in pairs] + [float(n) for n in task.wanted]
    solved = milp(
        rules.cost / scale,
        # which pieces are made of which bars comes out whole by itself
        integrality=np.concatenate([np.ones(many), np.zeros(len(pairs)), np.ones(len(task.kinds))]),
        bounds=Bounds(0, most),
        constraints=[LinearConstraint(rules.a, ub=rules.limit)],
        options={"time_limit": seconds, "mip_rel_gap": GAP},
    )
    if solved.x is None:
        return None
    made = {pair: round(float(n)) for pair, n in zip(pairs, solved.x[many : many + len(pairs)], strict=True)}
    cuts: list[_Cut] = []
    for pattern, n in zip(patterns, np.rint(solved.x[:many]).astype(int), strict=True):
        i, counts = pattern
        for _ in range(int(n)):
            taken = tuple(min(c, made.get((i, k), 0)) for k, c in enumerate(counts))
            for k, c in enumerate(taken):
                if c:
                    made[i, k] -= c
            if any(taken):
                cuts.append((pattern, taken))
    dual = float(solved.mip_dual_bound if solved.mip_dual_bound is not None else solved.fun) * scale
    bought = float(rules.cost[many + len(pairs) :] @ solved.x[many + len(pairs) :])
    return _Found(cuts, float(solved.fun) * scale, bought, solved.status == 0, dual)


def _laid_out(task: _Task, pieces: list[Piece], cuts: list[_Cut], proven: bool, gap: float) -> CutList:
    """Real pieces, longest first in each bar."""
    waiting: dict[tuple[str, str, float, float, float], list[Piece]] = {}
    for p in pieces:
        waiting.setdefault(p.kind, []).append(p)
    bars = []
    for (i, _), counts in sorted(cuts):
        laid: list[Piece] = []
        for k in task.fitting(task.bars[i]):
            line = waiting[task.kinds[k].kind]
            laid += [line.pop(0) for _ in range(min(counts[k], len(line)))]
        if laid:
            gone = sum(c.length + task.kerf for c in laid)
            bars.append(CutBar(replace(task.bars[i], count=1), tuple(laid), max(0.0, task.bars[i].length - gone)))
    used = sum(b.bar.section * b.bar.length for b in bars)
    in_pieces = sum(c.width * c.thickness * c.length for b in bars for c in b.cuts)
    bought = tuple(p for line in waiting.values() for p in line)
    return CutList(tuple(bars), bought, used, used - in_pieces, proven, gap)
