"""What is carried from step to step of the fire: the line through the layers, the skin of the faces, the heats so far."""

from dataclasses import dataclass, field
from typing import Any

import numpy as np

from varistrat.core.bars.bar import Bar
from varistrat.core.bars.forged import Forged
from varistrat.core.bars.through import Through
from varistrat.core.heat.fires import skin
from varistrat.core.heat.fires.homogenisation import means, settled
from varistrat.core.laws.carbon import activity_factor
from varistrat.core.laws.column import MAX_COLUMN_LAYERS, Column
from varistrat.core.shop import ShopData


@dataclass
class Carried:
    """What is carried from step to step: the line through the layers, the skin, and its heats so far."""

    through: Through
    skin: float = 0.0
    loose: bool = False
    canned: bool = False
    """A can whose filling has not sunk together yet; and one that still keeps the fire out."""
    joint: float = 0.0
    """Carbon-poor skin left in the worst weld so far, as thick as it now is, mm."""
    past: list[tuple[float, float, float]] = field(default_factory=list)
    """(C, minutes, period mm) of every heat."""
    elsewhere: dict[str, float] = field(default_factory=dict)
    """Carbon that steels ended at in bars joined to this one beside the line, %."""

    @property
    def carbon(self) -> dict[str, float]:
        """Of every steel in the bar, below its skin, %."""
        return self.elsewhere | means(settled(self.through.column, skin.to_grind(self.skin)))


def begin(forged: Forged, children: list[Carried]) -> Carried:
    """The line through what the bar begins as: its pile, a piece and the powder about it, or the bars brought together."""
    if not children:
        can = getattr(forged.start, "kind", "") == "canister"
        return Carried(_across(list(forged.start.piles()), forged.shop), loose=can, canned=can)
    join = getattr(forged.start, "join", "stacked")
    biggest = max(range(len(children)), key=lambda i: forged.children[i].bar.volume)
    lines = [c.through for c in children]
    plain = all(len(line.column.steels) == 1 for line in lines)
    if join == "stacked":
        through = lines[0].piled(lines[1:])
    elif join == "jacket":
        wall = lines[-1]
        through = wall.piled([lines[0], wall.turned_over()])
    elif plain and join in ("slot", "plug"):
        # across the bar: plate, what was let in, plate
        side = Through(lines[0].column.squeezed(0.5), "y", forged.shop)
        through = side.piled([lines[1], side])
    elif plain:
        through = Through(lines[0].column, "y", forged.shop).piled(lines[1:])
    else:
        through = lines[biggest]
    elsewhere = {k: v for c in children for k, v in c.carbon.items() if k not in through.column.steels}
    skinned, joint = max(c.skin for c in children), max(c.joint for c in children)
    return Carried(through, skinned, joint=joint, past=list(children[biggest].past), elsewhere=elsewhere)


def _across(piles: list[tuple[tuple[str, float], ...]], shop: ShopData) -> Through:
    """Up the first pile of layers; of a can, where every pile is one steel, through a piece and as much of what lies about it."""
    layers = list(piles[0])[:MAX_COLUMN_LAYERS]
    if len(layers) == 1 and len(piles) > 1:
        layers = [p[0] for p in piles[:2]]
        layers = [(k, max(0.5, min(t for _, t in layers))) for k, t in 3 * layers]
    steels = [shop.steels[k] for k, _ in layers]
    column = Column.of(layers, [s.share("C") for s in steels], [activity_factor(s.composition) for s in steels])
    return Through(column, "z", shop)


def scales(line: Through, bar: Bar) -> tuple[float, float]:
    """How the bar scales against iron: (all round, above and below). Outer layers lie above and below, all of them meet its sides."""
    factor = [skin.alloy_factor(line.shop.steels[k].composition) for k in line.column.steels]
    sides = float(np.average(factor, weights=line.column.thickness()))
    if line.normal != "z":
        return sides, sides
    faces = (factor[0] + factor[-1]) / 2
    return (faces * bar.width + sides * bar.thickness) / (bar.width + bar.thickness), faces


def period(column: Column) -> float:
    """Thickness of a pair of layers, mm."""
    return 2 * float(np.median(column.thickness()))


def left_on(step: Any, depth: float) -> float:
    """Skin left on faces that are welded here, after what the step grinds off them, mm."""
    return max(0.0, 0.7 * depth - float(getattr(step, "grind", 0.0)))


def skin_after(step: Any, depth: float, before: Bar, after: Bar) -> float:
    """The skin after the step: ground off, or thinned with the section."""
    if step.kind == "grind":
        off = step.around or min(step.top, step.bottom)
        return max(0.0, depth - off)
    if step.joins:
        return max(0.0, depth - float(getattr(step, "grind", 0.0)))
    if step.fire:
        return skin.thinned(depth, min(1.0, (after.section.area / before.section.area) ** 0.5))
    return depth
