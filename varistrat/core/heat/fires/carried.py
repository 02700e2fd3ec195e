"""What is carried from step to step of the fire: the line through the layers, the skin of the faces, the heats so far."""

from dataclasses import dataclass, field

import numpy as np

from varistrat.core.bars.bar import Bar
from varistrat.core.bars.forged import Forged
from varistrat.core.bars.layer_line import LayerLine
from varistrat.core.bars.model import Step
from varistrat.core.heat.fires import skin
from varistrat.core.heat.fires.homogenisation import means, settled
from varistrat.core.laws.column import Column


@dataclass
class Carried:
    """What is carried from step to step: the line through the layers, the skin, and its heats so far."""

    through: LayerLine
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
    start = forged.start
    through = start.line([c.through for c in children], forged.child_bars, forged.shop)
    if not children:
        return Carried(through, loose=start.canned, canned=start.canned)
    biggest = max(range(len(children)), key=lambda i: forged.children[i].bar.volume)
    elsewhere = {k: v for c in children for k, v in c.carbon.items() if k not in through.column.steels}
    skinned, joint = max(c.skin for c in children), max(c.joint for c in children)
    return Carried(through, skinned, joint=joint, past=list(children[biggest].past), elsewhere=elsewhere)


def scales(line: LayerLine, bar: Bar) -> tuple[float, float]:
    """How the bar scales against iron: (all round, above and below). Outer layers lie above and below, all of them meet its sides."""
    factor = [skin.alloy_factor(line.shop.steels[k].composition) for k in line.column.steels]
    sides = float(np.average(factor, weights=line.column.thickness()))
    if line.normal != "z":
        return sides, sides
    faces = (factor[0] + factor[-1]) / 2
    return (faces * bar.width + sides * bar.thickness) / (bar.width + bar.thickness), faces


def period(column: Column) -> float:
    """Thickness of a pair of layers, mm."""
    return 2 * column.median


def left_on(ground: float, depth: float) -> float:
    """Skin left on faces that are welded here, after what is ground off them, mm."""
    return max(0.0, 0.7 * depth - ground)


def skin_after(step: Step, ground: float, depth: float, before: Bar, after: Bar) -> float:
    """The skin after the step: ground off, or thinned with the section."""
    if step.joins or not step.fire:
        return max(0.0, depth - ground)
    return skin.thinned(depth, min(1.0, (after.section.area / before.section.area) ** 0.5))
