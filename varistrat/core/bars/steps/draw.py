"""Drawing a bar out under hammer, press or rolls."""

from typing import Any, ClassVar, Literal

from pydantic import Field

from varistrat.core.bars.bar import Bar, Change
from varistrat.core.bars.model import ForgingStep, HeatDemand, Mm, shown, tidy
from varistrat.core.bars.points import Points
from varistrat.core.bars.section import Section
from varistrat.core.bars.spread import forging_spread, rolling_spread
from varistrat.core.bars.steps._forge import pull_forged
from varistrat.core.errors import InputError
from varistrat.core.findings import Code, Finding

Method = Literal["hammer", "press", "roll"]


DRAW_UPSETS = Code("draw_upsets", "bar", ("care",), "This makes the bar shorter and thicker, not longer.")
DRAW_FLAT = Code("draw_flat", "bar", ("note",), "A long way from square to flat in one step.")


class Draw(ForgingStep):
    """The bar gets longer as its section gets smaller; given one size, the other spreads.

    Forward: L' = V / (W' T'); with the thickness alone W' = W (T/T')^s, with the width
    alone the same with W and T exchanged. Inverse and Jacobian: _forge.pull_forged.
    """

    kind: Literal["draw"] = "draw"
    title: ClassVar[str] = "Draw out"
    blurb: ClassVar[str] = "Make it longer under hammer, press or rolls."
    plain: ClassVar[bool] = True
    by_hand: ClassVar[bool] = True
    shapes: ClassVar[bool] = False
    spreads: ClassVar[bool] = True
    sized: ClassVar[bool] = True
    fire = "forge"
    presses: ClassVar[bool] = True
    width: Mm | None = Field(None, **shown("Width after", "mm", "left empty, it spreads"))
    thickness: Mm | None = Field(None, **shown("Thickness after", "mm", "left empty, it spreads"))
    method: Method = Field("hammer", **shown("Under"))
    bite: Mm | None = Field(None, **shown("Bite", "mm", "die contact along the bar; decides the spread", when="hammer press"))
    roll_diameter: Mm | None = Field(None, **shown("Roll diameter", "mm", "", when="roll"))

    def size(self, before: Bar) -> Change:
        width, thickness = self.width, self.thickness
        if width is None and thickness is None:
            raise InputError.at("thickness", "neither width nor thickness is given", "give at least one of them in mm")
        if width is None and thickness is not None:
            width = before.width * (before.thickness / thickness) ** self._spread(before.width, before.thickness)
        elif thickness is None and width is not None:
            thickness = before.thickness * (before.width / width) ** self._spread(before.thickness, before.width)
        assert width is not None and thickness is not None
        return Change(before.with_section(Section("rectangle", width, thickness)))

    def length_before(self, length: float, before: Bar) -> float:
        return length * self.size(before).after.section.area / before.section.area

    def _spread(self, free: float, pressed: float) -> float:
        if self.method == "roll":
            if self.roll_diameter is None:
                raise InputError.at(
                    "roll_diameter", "the spread under rolls needs their diameter", "give it in mm, or give both width and thickness"
                )
            return rolling_spread(free, pressed, self.roll_diameter)
        if self.bite is None:
            raise InputError.at(
                "bite",
                "the spread under a hammer or press needs the bite",
                "give the die contact along the bar in mm, or give both width and thickness",
            )
        return forging_spread(self.bite, free)

    def pull(self, p: Points, before: Bar, after: Bar) -> None:
        pull_forged(p, before, after)

    def checks(self, before: Bar, after: Bar) -> list[Finding]:
        flat = max(after.width / after.thickness, after.thickness / after.width)
        was = max(before.width / before.thickness, before.thickness / before.width)
        found = []
        if after.length < before.length * (1 - 1e-9):
            found.append(
                DRAW_UPSETS.found(
                    f"The section grows from {before.section.area:.4g} to {after.section.area:.4g} mm2.",
                    "Check the sizes; upsetting a laminate buckles its layers.",
                    field="thickness",
                    value=after.length,
                    limit=before.length,
                    unit="mm",
                )
            )
        if self.method != "roll" and flat > 9 and was < 3:
            found.append(
                DRAW_FLAT.found(
                    f"It ends {flat:.1f} times as wide as thick; beyond 2, turning it on edge buckles the layers.",
                    "Bring the width in first while it is still near square, then flatten.",
                    field="thickness",
                    value=flat,
                    limit=2.0,
                )
            )
        return found

    def heat_demand(self, before: Bar, after: Bar) -> HeatDemand:
        return HeatDemand(under=self.method)

    def instruction(self, before: Bar, after: Bar) -> str:
        # a step's `hammer` does not say which of the shop's tools it is under
        tool = {"hammer": "Draw", "press": "Press", "roll": "Roll"}[self.method]
        return (
            f"{tool} out from {before.width:.4g} x {before.thickness:.4g} mm to {after.width:.4g} mm wide and {after.thickness:.4g} mm "
            f"thick; it will be about {after.length:.0f} mm long."
        )

    @classmethod
    def fresh(cls, bar: Bar) -> dict[str, Any]:
        return {"width": tidy(bar.width), "thickness": tidy(0.75 * bar.thickness)}
