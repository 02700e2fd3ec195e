"""What a piece is still good for: each a block that is met as it is, by sawing, or by rolling it out."""

from dataclasses import dataclass
from itertools import permutations
from typing import Literal

How = Literal["as it is", "sawn", "rolled out"]
ORDER: tuple[How, ...] = ("as it is", "sawn", "rolled out")
"""Best first."""
ROLL_LOSS = 1.1
"""Volume wanted of what is rolled out, times what it comes to."""
THINNEST = 0.5
"""Share of the thickness that must be left, or the motif is lost."""
SAWN_FROM = 1.5
"""Times the block, from which one says that it is sawn and not just taken."""


@dataclass(frozen=True)
class Block:
    """A named thing and the block it is made from, mm: length, width, thickness. Indicative."""

    name: str
    length: float
    width: float
    thickness: float

    @property
    def volume(self) -> float:
        """mm3."""
        return self.length * self.width * self.thickness


BLOCKS = (
    Block("folding-knife blade", 110.0, 28.0, 3.5),
    Block("pair of bolsters", 60.0, 22.0, 5.0),
    Block("pair of liners", 210.0, 26.0, 1.6),
    Block("guard", 60.0, 18.0, 7.0),
    Block("pommel", 32.0, 24.0, 18.0),
    Block("ferrule", 34.0, 26.0, 20.0),
    Block("ring", 30.0, 30.0, 8.0),
    Block("pins", 60.0, 7.0, 7.0),
)


FITTINGS = ("guard", "pair of bolsters", "ferrule", "pommel", "ring")
"""Blocks that go on a blade."""
GUARD_OVER, GUARD_WALL, GUARD_THICK = 10.0, 6.0, 7.0
"""mm a guard stands out beyond edge and spine, and has left on either side of its slot; how thick it is begun. Indicative."""


def fittings_of(height: float, spine: float) -> tuple[Block, ...]:
    """The blocks that go on a blade so high at its heel and so thick at its spine, mm; of the guard as this blade asks for it."""
    guard = Block("guard", height + 2 * GUARD_OVER, spine + 2 * GUARD_WALL, GUARD_THICK)
    return tuple(guard if b.name == "guard" else b for b in BLOCKS if b.name in FITTINGS)


@dataclass(frozen=True)
class UseOf:
    """What it would do for, how, and how many; stretch: times the motif gets longer where it is rolled out."""

    name: str
    how: How
    count: int
    stretch: float


def uses_of(length: float, width: float, thickness: float) -> list[UseOf]:
    """Of one piece with a flat section, mm; what is left as it is first."""
    found = [use for block in BLOCKS if (use := use_for(block, length, width, thickness))]
    return sorted(found, key=lambda u: ORDER.index(u.how))


def use_for(block: Block, length: float, width: float, thickness: float) -> UseOf | None:
    """How one piece with a flat section would do for this block, mm; None where it would not."""
    have = (length, width, thickness)
    best = max(_count(have, lay) for lay in permutations((block.length, block.width, block.thickness)))
    if best:
        spare = length * width * thickness > SAWN_FROM * block.volume
        return UseOf(block.name, "sawn" if spare else "as it is", best, 1.0)
    if length * width * thickness < ROLL_LOSS * block.volume or block.thickness > thickness or block.width > 1.6 * width:
        return None
    if block.thickness < THINNEST * thickness:
        # rolled as far as the motif bears, then ground: still as much steel, in a thicker block
        rolled = THINNEST * thickness
        if length * width * thickness < ROLL_LOSS * block.length * block.width * rolled:
            return None
    return UseOf(block.name, "rolled out", 1, max(1.0, block.length / length))


def _count(have: tuple[float, float, float], block: tuple[float, ...]) -> int:
    n = 1
    for h, b in zip(have, block, strict=True):
        n *= int((h + 1e-9) // b)
    return n
