"""Forge welding a pile into one bar."""

from typing import Any, ClassVar, Literal

from pydantic import Field

from varistrat.core.bars.bar import Bar, Change
from varistrat.core.bars.joints import NONE, Joints, judge_weld
from varistrat.core.bars.model import ForgingStep, HeatDemand, Mm, shown, tidy
from varistrat.core.bars.points import Points
from varistrat.core.bars.section import Section
from varistrat.core.bars.steps._forge import pull_forged
from varistrat.core.findings import Finding

Atmosphere = Literal["fluxed", "dry", "sealed"]


class Weld(ForgingStep):
    """The pile is set under light even pressure and grows longer as it gets thinner.

    Forward: L' = V / (W' T'). Inverse and Jacobian: _forge.pull_forged.
    """

    kind: Literal["weld"] = "weld"
    title: ClassVar[str] = "Weld"
    blurb: ClassVar[str] = "Set the welds under light, even pressure."
    plain: ClassVar[bool] = True
    by_hand: ClassVar[bool] = True
    shapes: ClassVar[bool] = False
    sized: ClassVar[bool] = True
    fire = "weld"
    thickness: Mm = Field(**shown("Thickness after", "mm"))
    width: Mm | None = Field(None, **shown("Width after", "mm", "kept if left empty"))
    atmosphere: Atmosphere = Field("fluxed", **shown("Faces kept clean by"))

    def size(self, before: Bar) -> Change:
        width = before.width if self.width is None else self.width
        return Change(before.with_section(Section("rectangle", width, self.thickness)))

    def length_before(self, length: float, before: Bar) -> float:
        return length * self.size(before).after.section.area / before.section.area

    def pull(self, p: Points, before: Bar, after: Bar) -> None:
        pull_forged(p, before, after)

    def upon(self, joints: Joints, before: Bar, after: Bar) -> tuple[Joints, list[Finding]]:
        return NONE, judge_weld(joints, before, after)

    def heat_demand(self, before: Bar, after: Bar) -> HeatDemand:
        return HeatDemand(kept_clean=self.atmosphere)

    def instruction(self, before: Bar, after: Bar) -> str:
        how = {
            "fluxed": "Flux with borax as it passes red",
            "dry": "Sealed by soot from a kerosene dip, no flux (dip it cold and away from the fire, lid on the can at once: it flares)",
            "sealed": "Seam-welded shut, no flux",
        }[self.atmosphere]
        return (
            f"{how}; soak until the middle is as hot as the outside, then set the weld evenly to "
            f"{after.thickness:.4g} mm. Face shield on: hot flux flies."
        )

    @classmethod
    def fresh(cls, bar: Bar) -> dict[str, Any]:
        return {"thickness": tidy(0.9 * bar.thickness)}
