"""Pushing a splitter into the middle of the bar: layers are dragged along it like the barbs of a feather."""

from typing import Annotated, Any, ClassVar, Literal

import numpy as np
from pydantic import Field

from varistrat.core.bars.bar import Bar, Change, Loss
from varistrat.core.bars.model import ForgingStep, HeatDemand, Mm, shown, tidy
from varistrat.core.bars.points import Array, Points
from varistrat.core.bars.section import Section
from varistrat.core.errors import InputError
from varistrat.core.findings import Code, Finding
from varistrat.core.limits import MAX_MM

SPLIT_COST = Code("split_cost", "bar", ("note", "care"), "Grinding the faces flat again costs {share:.0f} % of the bar.")


class Split(ForgingStep):
    """A hot bar is split along its middle by a blunt wedge and the halves welded together again.

    q(y) = drag exp(-|y|/reach), e = q(W/2). Inverse: z = z' + q - (drag + e)/2, a shear in z, |det J| = 1.
    T' = T - |drag - e|: the humps this leaves on both faces are ground off. Derived in docs/physics.md#split.
    """

    kind: Literal["split"] = "split"
    title: ClassVar[str] = "Split"
    blurb: ClassVar[str] = "Drive a splitter through the middle: layers drag along like a feather."
    fire = "weld"
    ground_after: ClassVar[bool] = True
    drag: Annotated[float, Field(ge=-MAX_MM, le=MAX_MM)] = Field(
        **shown("Drag", "mm", "how far the wedge takes the middle down; less than 0: up")
    )
    reach: Mm = Field(**shown("Reach", "mm", "at this distance from the cut the drag has fallen to 37 %"))

    def _drag(self, y: Array) -> Array:
        return self.drag * np.exp(np.abs(y) * (-1 / self.reach))

    def _edge(self, width: float) -> float:
        return float(self.drag * np.exp(-width / 2 / self.reach))

    def size(self, before: Bar) -> Change:
        before.need_rectangle("splitting")
        off = abs(self.drag - self._edge(before.width))
        if off >= before.thickness:
            raise InputError.at(
                "drag", f"grinding the humps off takes {off:.4g} of {before.thickness:.4g} mm", "drag less, or start with a higher bar"
            )
        after = Bar(before.length, Section("rectangle", before.width, before.thickness - off))
        return Change(after, {Loss.GRIND: before.volume - after.volume})

    def length_before(self, length: float, before: Bar) -> float:
        return length

    def pull(self, p: Points, before: Bar, after: Bar) -> None:
        p.z += self._drag(p.y)
        p.z -= (self.drag + self._edge(before.width)) / 2

    def heat_demand(self, before: Bar, after: Bar) -> HeatDemand:
        # one to drive the splitter through, one to weld the clean walls together
        return HeatDemand(kept_clean="fluxed", heats=2)

    def checks(self, before: Bar, after: Bar) -> list[Finding]:
        share = 1 - after.thickness / before.thickness
        return [
            SPLIT_COST.found(
                f"The middle is dragged {abs(self.drag):.3g} mm, the sides {abs(self._edge(before.width)):.3g}: "
                f"{before.thickness - after.thickness:.3g} mm of height go.",
                "Split a taller bar, or drag less, if that is too much.",
                grade="care" if share > 0.4 else "note",
                share=100 * share,
                field="drag",
                value=100 * share,
                limit=40.0,
                unit="%",
            )
        ]

    def instruction(self, before: Bar, after: Bar) -> str:
        way = "down" if self.drag > 0 else "up"
        return (
            f"At welding heat drive a blunt splitter {way} through the middle along the whole bar so that it drags the layers "
            f"{abs(self.drag):.4g} mm, "
            f"clean both walls bright, flux them, weld the halves together again in a second heat, and grind the faces flat to "
            f"{after.thickness:.4g} mm. Stand clear of the press line; face shield on: hot flux flies."
        )

    @classmethod
    def fresh(cls, bar: Bar) -> dict[str, Any]:
        return {"drag": tidy(0.4 * bar.thickness), "reach": tidy(0.25 * bar.width)}
