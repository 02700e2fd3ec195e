"""Carrying points of a finished bar back to the layer they came from.

The one place in the tree that walks the steps backwards. Points go in blocks small
enough to stay in the processor's cache, so cost is points x steps and memory does not
grow with the picture. Where bars were joined, each point goes on in the bar it lies in.
"""

from collections.abc import Callable, Iterator
from concurrent.futures import Executor, ThreadPoolExecutor
from dataclasses import dataclass
from itertools import islice
from os import cpu_count
from typing import TypeVar

import numpy as np
from numpy.typing import NDArray

from varistrat.core.bars.forged import Forged
from varistrat.core.bars.model import JoinedStart, PileStart
from varistrat.core.bars.piles import Pile, PileRow
from varistrat.core.bars.points import FAR, Array, Points
from varistrat.core.bars.steps.restack import JOINT
from varistrat.core.cached import cached_property
from varistrat.core.errors import Cancelled

J = TypeVar("J")
R = TypeVar("R")

BLOCK = 1 << 16
FACE = 1e-6
"""A face counts as inside, mm."""


def pool() -> Executor:
    """A thread per core: NumPy lets go of the interpreter lock inside a block."""
    return ThreadPoolExecutor(max_workers=cpu_count() or 2, thread_name_prefix="trace")


@dataclass(frozen=True)
class _Node:
    """One bar of the tree, numbered: its own piles on the axis, and its makers of joints."""

    forged: Forged
    first_pile: int
    makers: tuple[int, ...]
    """Number of the joint maker at each stage (-1: none), the start's last."""
    children: tuple["_Node", ...]


@dataclass(frozen=True)
class Trace:
    """A forged bar, ready to answer where its steel came from."""

    forged: Forged

    @cached_property
    def steels(self) -> tuple[str, ...]:
        """Keys of the steels, in the order of the indices it gives."""
        return self.forged.steels

    @cached_property
    def _tree(self) -> tuple[_Node, tuple[Pile, ...], int]:
        """The numbered bars, all their piles, and how many makers of joints there are."""
        piles: list[Pile] = []
        makers = 0

        def number(forged: Forged, welded: bool) -> _Node:
            nonlocal makers
            welded = welded or any(s.step.joins for s in forged.stages)
            first = len(piles)
            piles.extend(Pile(layers, welded, forged.path) for layers in forged.start.piles())
            mine = []
            for seams in [*(s.step.seams for s in forged.stages), forged.start.seams]:
                mine.append(makers if seams else -1)
                makers += seams
            return _Node(forged, first, tuple(mine), tuple(number(c, welded) for c in forged.children))

        root = number(self.forged, False)
        return root, tuple(piles), makers

    @cached_property
    def row(self) -> PileRow:
        """All piles, then a pile of one layer for each steel, where points settled in a step belong."""
        return PileRow((*self._tree[1], *(Pile(((steel, 1.0),)) for steel in self.steels)))

    @property
    def own_piles(self) -> int:
        """How many of the axis's piles are piles of the recipe."""
        return len(self._tree[1])

    @cached_property
    def layer_steels(self) -> NDArray[np.int16]:
        """Steel index of every layer of every pile, in the order of the axis."""
        index = {key: i for i, key in enumerate(self.steels)}
        return np.array([index[s] for p in self.row.piles for s, _ in p.layers], np.int16)

    @cached_property
    def first_layer(self) -> NDArray[np.intp]:
        """Where each pile's layers begin in `layer_steels`."""
        return np.cumsum([0] + [len(p.layers) for p in self.row.piles])[:-1]

    # --- the walk ---

    def _back(self, node: _Node, p: Points, to: int = -1) -> None:
        """Carry points of this bar back to its start (or to what stage `to` left), in place."""
        p.steels = self.steels
        stages = node.forged.stages
        for i in range(len(stages) - 1, to, -1):
            stage = stages[i]
            p.maker = node.makers[i]
            hand = stage.step.unevenness()
            if hand:
                hand.pull(p, stage.after)
            stage.step.pull(p, stage.before, stage.after)
        p.maker = node.makers[-1]

    def _walk(self, node: _Node, p: Points, steels: bool) -> Array:
        """Place on the axis, or steel index, of every point of this bar."""
        self._back(node, p)
        start = node.forged.start
        if not isinstance(start, JoinedStart):
            found = self._steel(node, p) if steels else self._place(node, p)
        else:
            f = node.forged
            which = start.pick(p, f.first, f.child_bars)
            found = np.empty(p.x.shape, np.int16 if steels else p.x.dtype)
            for k, child in enumerate(node.children):
                here = np.flatnonzero(which == k)
                if not here.size:
                    continue
                part = p.take(here)
                start.enter(k, part, f.first, f.child_bars)
                found[here] = self._walk(child, part, steels)
                if p.seam is not None:
                    p.seam[here] = part.seam
        if p.settled is not None:
            done = p.settled >= 0
            settled = p.settled[done]
            found[done] = settled if steels else self.row.middle(self.own_piles + settled)
        return found

    def _place(self, node: _Node, p: Points) -> Array:
        start = node.forged.start
        assert isinstance(start, PileStart)
        s, which = start.heights(p, node.forged.first)
        if which is None:
            return self.row.put(node.first_pile, s)
        for k in range(len(start.piles())):
            here = which == k
            s[here] = self.row.put(node.first_pile + k, s[here])
        return s

    def _steel(self, node: _Node, p: Points) -> NDArray[np.int16]:
        start = node.forged.start
        assert isinstance(start, PileStart)
        s, which = start.heights(p, node.forged.first)
        out = np.empty(s.shape, np.int16)
        for k in range(len(start.piles())):
            here = slice(None) if which is None else which == k
            pile = node.first_pile + k
            # a joint belongs to the upper layer
            layer = np.searchsorted(self.row.piles[pile].bounds[1:-1] - JOINT, s[here], side="right")
            out[here] = self.layer_steels[self.first_layer[pile] + layer]
        return out

    # --- what is asked ---

    def place(self, p: Points) -> Array:
        """Place on the axis of each point of the finished bar; the points are used up."""
        return self._walk(self._tree[0], p, steels=False)

    def steel(self, p: Points) -> NDArray[np.int16]:
        """Index into `steels` of each point of the finished bar; the points are used up."""
        return self._walk(self._tree[0], p, steels=True)

    def begun(self, p: Points, stage: int | None = None) -> Points:
        """Points carried back to the start of the bar itself (or to what a stage left), in place, not into the bars it was joined from."""
        self._back(self._tree[0], p, -1 if stage is None else stage)
        return p

    def inside(self, x: Array, y: Array, z: Array) -> Array:
        """Mask of points in the finished bar, faces included."""
        bar = self.forged.bar
        return (x >= -FACE) & (x <= bar.length + FACE) & bar.section.holds(y, z, FACE)

    def probe(self, x: Array, y: Array, z: Array) -> NDArray[np.int16]:
        """Steel index of points of the finished bar in float64, -1 outside; arrays of one shape (n,)."""
        x, y, z = (np.asarray(v, np.float64) for v in (x, y, z))
        steel = np.full(x.shape, -1, np.int16)
        with np.errstate(over="ignore", invalid="ignore"):
            inside = np.flatnonzero(self.inside(x, y, z))
        for start in range(0, inside.size, BLOCK):
            part = inside[start : start + BLOCK]
            steel[part] = self.steel(Points(x[part], y[part], z[part]))
        return steel

    @cached_property
    def may_settle(self) -> bool:
        """Whether points may end inside a step."""

        def settles(f: Forged) -> bool:
            return any(s.step.steels() for s in f.stages) or any(settles(c) for c in f.children)

        return settles(self.forged)

    @property
    def has_seams(self) -> bool:
        """Whether anything is let in, so that a picture has seams to draw."""
        return self._tree[2] > 0

    @cached_property
    def seam_reach(self) -> NDArray[np.float64]:
        """mm of the finished bar in a mm of the frame where each joint maker works: medians; nan where never met."""
        reach = np.full(self._tree[2], np.nan)
        cloud, step = self.probes(150)
        for maker in range(self._tree[2]):
            only = np.full(self._tree[2], np.nan)
            only[maker] = 1.0
            p = Points(*(c.copy() for c in cloud))
            p.watch_seams(only)
            self.place(p)
            assert p.seam is not None
            d = p.seam.reshape(7, -1)
            change = np.minimum(np.abs(d[1:4] - d[0]), np.abs(d[4:7] - d[0])) / step
            slope = np.sqrt((change**2).sum(axis=0))[np.abs(d[0]) < FAR / 2]
            slope = slope[slope > 1e-6]
            if slope.size:
                reach[maker] = 1 / np.median(slope)
        return reach

    def probes(self, count: int) -> tuple[Array, float]:
        """Points spread evenly through the finished bar, each with six neighbours `step` mm off: (3, 7 n), step."""
        bar = self.forged.bar
        spread = np.random.default_rng(11).uniform(-0.48, 0.48, (3, count))
        keep = bar.section.holds(spread[1] * bar.width, spread[2] * bar.thickness)
        centre = np.array([(spread[0] + 0.5) * bar.length, spread[1] * bar.width, spread[2] * bar.thickness])[:, keep]
        return self.around(*centre)

    def around(self, x: Array, y: Array, z: Array) -> tuple[Array, float]:
        """The points (n,) and their six neighbours: (3, 7 n) with the points first, and how far off, mm."""
        step = 1e-5 * min(self.forged.bar.thickness, self.forged.bar.width)
        shifts = np.vstack([np.zeros(3), np.eye(3), -np.eye(3)]) * step
        cloud = np.array([x, y, z], float)[:, None, :] + shifts.T[:, :, None]
        return cloud.reshape(3, -1), step


def run_blocks(work: Callable[[J], R], jobs: Iterator[J], executor: Executor, cancelled: Callable[[], bool] | None = None) -> Iterator[R]:
    """Map `work` over `jobs` in order with few in flight, so that memory stays flat.

    Raises Cancelled between blocks once `cancelled` says so.
    """
    ahead = 2 * (cpu_count() or 2)
    waiting = [executor.submit(work, job) for job in islice(jobs, ahead)]
    try:
        while waiting:
            if cancelled and cancelled():
                raise Cancelled("the picture is no longer wanted")
            done = waiting.pop(0)
            yield done.result()
            for job in islice(jobs, 1):
                waiting.append(executor.submit(work, job))
    finally:
        for future in waiting:
            future.cancel()
