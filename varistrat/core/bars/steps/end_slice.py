"""A slice off the end, laid flat: end grain becomes the face."""

from dataclasses import replace
from math import ceil
from typing import Any, ClassVar, Literal

from pydantic import Field

from varistrat.core.bars.bar import Bar, Change, Loss
from varistrat.core.bars.layer_line import LayerLine, Normal
from varistrat.core.bars.model import ForgingStep, Mm, Mm0, Otherwise, shown, tidy
from varistrat.core.bars.points import Points
from varistrat.core.bars.section import Section
from varistrat.core.errors import InputError
from varistrat.core.findings import Code, Finding

SLICE_THIN = Code("slice_thin", "bar", ("care",), "So thin a slice buckles or tears as it is welded or rolled.")


class EndSlice(ForgingStep):
    """The first t mm of the bar, laid on its cut face and kept; the rest is an offcut.

    Inverse: x = z' + t/2, z = T/2 - x', y = y': a quarter turn about y, |det J| = 1.
    L' = T, W' = W, T' = t. Losses: kerf, and the rest of the bar as offcut.
    """

    kind: Literal["end_slice"] = "end_slice"
    cuts: ClassVar[bool] = True
    title: ClassVar[str] = "End slice"
    blurb: ClassVar[str] = "Lay a slice of the end flat: end grain becomes the face."
    thickness: Mm = Field(**shown("Slice", "mm", "thickness of the slice"))
    kerf: Mm0 = Field(0.0, **shown("Saw kerf", "mm"))

    def size(self, before: Bar) -> Change:
        before.need_rectangle("slicing off the end")
        t = self.thickness
        if t > before.length * (1 + 1e-9):
            raise InputError.at("thickness", f"a slice of {t:g} mm is longer than the bar's {before.length:.4g} mm", "make it thinner")
        kerf = min(self.kerf, max(before.length - t, 0.0))
        rest = max(before.length - t - kerf, 0.0) * before.section.area
        after = Bar(before.thickness, Section("rectangle", before.width, min(t, before.length)))
        return Change(after, {Loss.KERF: kerf * before.section.area, Loss.OFFCUT: rest})

    def length_before(self, length: float, before: Bar) -> float:
        if length > before.thickness * (1 + 1e-9):
            further = length / before.thickness
            raise InputError.at(
                "thickness",
                f"a slice is as long as the bar is thick, {before.thickness:.4g} mm; {length:.4g} mm are wanted",
                f"upset the bar to {length:.4g} mm first, or draw the slice {further:.3g} times as long afterwards",
            )
        return self.thickness + self.kerf

    def reaching(self, length: float, before: Bar) -> "EndSlice":
        # a slice is as long as the bar is thick; a thicker one has the steel to be drawn further
        further = length / before.thickness
        return self if further <= 1 + 1e-9 else self.model_copy(update={"thickness": ceil(10 * self.thickness * further - 1e-6) / 10})

    def reaching_further(self, length: float, before: Bar) -> list[Otherwise]:
        cut = self.reaching(length, before)
        if cut is self:
            return []
        return [Otherwise(cut, f"Cut the slice {cut.thickness:g} mm thick instead of {self.thickness:g}.", cut.thickness)]

    def pull(self, p: Points, before: Bar, after: Bar) -> None:
        p.x, p.z = p.z + after.thickness / 2, before.thickness / 2 - p.x

    def checks(self, before: Bar, after: Bar) -> list[Finding]:
        if after.thickness >= 0.12 * min(before.width, before.thickness):
            return []
        return [
            SLICE_THIN.found(
                f"It is {after.thickness:.3g} mm on {before.width:.4g} x {before.thickness:.4g} mm. Indicative.",
                "Cut it thicker and roll it down, or weld it to a backing plate.",
                field="thickness",
                value=after.thickness,
                limit=0.12 * min(before.width, before.thickness),
                unit="mm",
            )
        ]

    def through(self, line: LayerLine, before: Bar, after: Bar) -> LayerLine:
        turned: dict[str, Normal] = {"z": "x", "x": "z"}
        return replace(line, normal=turned.get(line.normal, line.normal))

    def instruction(self, before: Bar, after: Bar) -> str:
        left = max(before.length - self.thickness - self.kerf, 0.0)
        return (
            f"Saw {self.thickness:.4g} mm off the end square to the bar and lay the slice on its cut face: "
            f"{after.length:.4g} x {after.width:.4g} x {after.thickness:.4g} mm. {left:.0f} mm of bar are left for more slices."
        )

    @classmethod
    def fresh(cls, bar: Bar) -> dict[str, Any]:
        return {"thickness": tidy(min(0.5 * bar.thickness, 0.5 * bar.length)), "kerf": tidy(min(1.5, 0.01 * bar.length))}

    def brief(self) -> str:
        return f"{self.thickness:g} mm"
