"""Carrying points of a finished bar back to the layer they came from.

The one place in the tree that walks the steps backwards. Points go in blocks small
enough to stay in the processor's cache, so cost is points x steps and memory does not
grow with the picture.
"""

from collections.abc import Callable, Iterator
from concurrent.futures import Executor, ThreadPoolExecutor
from dataclasses import dataclass
from functools import cached_property
from itertools import islice
from os import cpu_count
from typing import TypeVar

import numpy as np
from numpy.typing import NDArray

from varistrat.core.bars.forged import Forged
from varistrat.core.bars.points import Array, Points
from varistrat.core.bars.steps.restack import JOINT
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
class Trace:
    """A forged bar, ready to answer where its steel came from."""

    forged: Forged

    @cached_property
    def steels(self) -> tuple[str, ...]:
        return self.forged.steels

    @cached_property
    def bounds(self) -> NDArray[np.float64]:
        """Layer boundaries of the starting stack in its z, mm: one more than there are layers."""
        heights = np.cumsum([0.0] + [t for _, t in self.forged.start.layer_stack()])
        return heights - heights[-1] / 2

    @cached_property
    def layer_steels(self) -> NDArray[np.int16]:
        index = {key: i for i, key in enumerate(self.steels)}
        return np.array([index[s] for s, _ in self.forged.start.layer_stack()], np.int16)

    def pull(self, p: Points) -> Points:
        """Carry one block back to the start, in place."""
        p.steels = self.steels
        for stage in reversed(self.forged.stages):
            hand = stage.step.unevenness()
            if hand:
                hand.pull(p, stage.after)
            stage.step.pull(p, stage.before, stage.after)
        return p

    def steel_at(self, p: Points) -> NDArray[np.int16]:
        """Index into `steels` of points already pulled back; a joint belongs to the upper layer."""
        layer = np.searchsorted(self.bounds[1:-1] - JOINT, p.z, side="right")
        steel: NDArray[np.int16] = self.layer_steels[layer]
        if p.settled is not None:
            steel = np.where(p.settled >= 0, p.settled, steel)
        return steel

    def inside(self, x: Array, y: Array, z: Array) -> Array:
        """Mask of points in the finished bar, faces included."""
        bar = self.forged.bar
        return (x >= -FACE) & (x <= bar.length + FACE) & bar.section.holds(y, z, FACE)

    def probe(self, x: Array, y: Array, z: Array) -> NDArray[np.int16]:
        """Steel index of points of the finished bar in float64, -1 outside; arrays of one shape (n,)."""
        steel = np.full(x.shape, -1, np.int16)
        with np.errstate(over="ignore", invalid="ignore"):
            inside = np.flatnonzero(self.inside(x, y, z))
        for start in range(0, inside.size, BLOCK):
            part = inside[start : start + BLOCK]
            steel[part] = self.steel_at(self.pull(Points(x[part], y[part], z[part])))
        return steel

    def layer_at(self, p: Points) -> Array:
        """Height in the starting stack of points already pulled back, mm from its bottom.

        Points settled in step i's interleaf of steel k come out past the top, so that one
        table can hold all: top + 1 + k.
        """
        s = p.z - float(self.bounds[0])
        np.clip(s, 0, float(self.bounds[-1] - self.bounds[0]), out=s)
        if p.settled is not None:
            beyond = float(self.bounds[-1] - self.bounds[0]) + 1 + p.settled.astype(s.dtype)
            s = np.where(p.settled >= 0, beyond, s)
        return s


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
