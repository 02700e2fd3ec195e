"""Folding a bar back on itself."""

from typing import Any, ClassVar, Literal

from pydantic import Field

from varistrat.core.bars.bar import Bar, Change, Loss
from varistrat.core.bars.joints import Joints
from varistrat.core.bars.layer_line import LayerLine
from varistrat.core.bars.model import Ends, ForgingStep, HeatDemand, Mm0, shown, tidy
from varistrat.core.bars.points import Points
from varistrat.core.bars.section import Section
from varistrat.core.bars.steps.restack import JOINT
from varistrat.core.errors import InputError
from varistrat.core.findings import Finding


class Fold(ForgingStep):
    """The bar is nicked in the middle and hinged over: the far half lies on top, face down.

    Forward: x <= L/2 stays below; the rest is turned over about y on top. Inverse, with g the
    grind: below z = z' + T'/2 - T/2; above x = L - x', z = T/2 - g - z'. T' = 2 (T - g), |det J| = 1.
    """

    kind: Literal["fold"] = "fold"
    title: ClassVar[str] = "Fold"
    blurb: ClassVar[str] = "Nick it and hinge it over on itself."
    by_hand: ClassVar[bool] = True
    fire = "join"
    joins: ClassVar[bool] = True
    grind: Mm0 = Field(0.0, **shown("Ground off the meeting face", "mm"))

    def size(self, before: Bar) -> Change:
        before.need_rectangle("folding")
        if self.grind >= before.thickness:
            raise InputError.at("grind", f"grinding {self.grind:g} mm leaves nothing of {before.thickness:.4g} mm", "grind less")
        section = Section("rectangle", before.width, 2 * (before.thickness - self.grind))
        return Change(Bar(before.length / 2, section), {Loss.GRIND: self.grind * before.width * before.length})

    def length_before(self, length: float, before: Bar) -> float:
        return 2 * length

    def ends(self, bad: Ends, before: Bar, after: Bar) -> Ends:
        # both come to lie on one another, away from the fold
        return 0.0, max(bad)

    def pull(self, p: Points, before: Bar, after: Bar) -> None:
        # over = 1 in the upper half, 0 below; arithmetic is faster here than masks
        over = (p.z >= -JOINT).astype(p.z.dtype)
        p.z *= 1 - 2 * over
        p.z += (before.thickness / 2 - self.grind) * over + (after.thickness - before.thickness) / 2 * (1 - over)
        p.x *= 1 - 2 * over
        p.x += before.length * over

    def upon(self, joints: Joints, before: Bar, after: Bar) -> tuple[Joints, list[Finding]]:
        left, found = super().upon(joints, before, after)
        return left or Joints("z"), found

    def through(self, line: LayerLine, before: Bar, after: Bar) -> LayerLine:
        if line.normal != "z":
            return line
        below = line.ground(0.0, self.grind)
        return below.piled([below.turned_over()])

    def heat_demand(self, before: Bar, after: Bar) -> HeatDemand:
        return HeatDemand(ground=self.grind)

    def instruction(self, before: Bar, after: Bar) -> str:
        return (
            f"Nick the bar at {after.length:.4g} mm, grind {self.grind:g} mm off the inside face, fold it over and weld to "
            f"{after.thickness:.4g} mm high."
        )

    @classmethod
    def fresh(cls, bar: Bar) -> dict[str, Any]:
        return {"grind": tidy(min(0.3, 0.05 * bar.thickness))}
