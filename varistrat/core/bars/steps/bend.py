"""Bending a bar edgewise."""

from typing import Any, ClassVar, Literal

from pydantic import Field

from varistrat.core.bars.bar import Bar, Change
from varistrat.core.bars.model import ForgingStep, Mm, shown, tidy
from varistrat.core.bars.points import Points
from varistrat.core.errors import InputError
from varistrat.core.findings import Code, Finding

STRAIN_CARE = 0.25


BEND_UNROLLED = Code("bend_unrolled", "bar", ("note",), "Pictures from here on are unrolled along the bent middle line.")
BEND_TIGHT = Code("bend_tight", "bar", ("care",), "The outer edge may tear and the inner one buckle.")


class Bend(ForgingStep):
    """The bar is bent edgewise about z to a radius; it is measured along its bent axis from here on.

    x' runs along the bent middle line, y' square to it. A fibre at y' is longer than the middle by
    1 - y'/R (R towards +y when the front edge is the outer one, so front is stretched), and steel
    keeps its volume by moving across: y = y' - (y'^2 - W^2/4)/(2R). Its Jacobian in these curved
    coordinates is 1 - y'/R, which is the volume of a unit box there. Derived in docs/physics.md#bend.
    """

    kind: Literal["bend"] = "bend"
    title: ClassVar[str] = "Bend"
    blurb: ClassVar[str] = "Bend it edgewise."
    plain: ClassVar[bool] = True
    fire = "forge"
    radius: Mm = Field(**shown("Radius", "mm", "of the middle line"))
    edge: Literal["front", "back"] = Field("front", **shown("Outer edge", "", "the one that is stretched"))

    def curvature(self) -> float:
        """1/R, positive with the centre towards +y."""
        return (1 if self.edge == "front" else -1) / self.radius

    def size(self, before: Bar) -> Change:
        if self.radius <= before.width / 2:
            raise InputError.at(
                "radius",
                f"a bar {before.width:.4g} mm wide cannot be bent to {self.radius:g} mm",
                f"use more than {before.width / 2:.4g} mm",
            )
        before.need_rectangle("bending")
        return Change(before)

    def length_before(self, length: float, before: Bar) -> float:
        return length

    def pull(self, p: Points, before: Bar, after: Bar) -> None:
        k = self.curvature() / 2
        p.y -= k * (p.y * p.y - before.width**2 / 4)

    def checks(self, before: Bar, after: Bar) -> list[Finding]:
        strain = before.width / 2 / self.radius
        found = [
            BEND_UNROLLED.found(
                (
                    f"The bar turns by {before.length / self.radius * 57.2958:.0f} degrees from end to end; its outer edge is "
                    f"{100 * strain:.0f} % longer."
                ),
                "Cut the blade with its belly to the outer edge if the layers should follow it.",
                field="radius",
            )
        ]
        if strain > STRAIN_CARE:
            found.append(
                BEND_TIGHT.found(
                    f"Edgewise strain is {100 * strain:.0f} %; above {100 * STRAIN_CARE:.0f} % laminates open at the welds. Indicative.",
                    f"Bend to {before.width / 2 / STRAIN_CARE:.0f} mm or more, in several heats, or bend it narrower.",
                    field="radius",
                    value=100 * strain,
                    limit=100 * STRAIN_CARE,
                    unit="%",
                )
            )
        return found

    def instruction(self, before: Bar, after: Bar) -> str:
        return (
            f"Heat evenly and bend edgewise over a former of {self.radius - before.width / 2:.4g} mm, {self.edge} edge outermost; "
            "knock out the buckles flat on the anvil as they come."
        )

    @classmethod
    def fresh(cls, bar: Bar) -> dict[str, Any]:
        return {"radius": tidy(4 * bar.width)}

    def brief(self) -> str:
        return f"R {self.radius:g}"
