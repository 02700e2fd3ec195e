"""Cutting bad ends off."""

from typing import Any, ClassVar, Literal

from pydantic import Field

from varistrat.core.bars.bar import Bar, Change, Loss
from varistrat.core.bars.layer_line import LayerLine
from varistrat.core.bars.model import Ends, Mm0, Step, shown, tidy
from varistrat.core.bars.points import Points
from varistrat.core.errors import InputError


class Trim(Step):
    """The ends come off. Inverse: x = x' + start. Loss: ends."""

    kind: Literal["trim"] = "trim"
    title: ClassVar[str] = "Trim"
    blurb: ClassVar[str] = "Cut off bad ends."
    plain: ClassVar[bool] = True
    opens_can: ClassVar[bool] = True
    shapes: ClassVar[bool] = False
    start: Mm0 = Field(0.0, **shown("Off the start", "mm"))
    end: Mm0 = Field(0.0, **shown("Off the end", "mm"))

    def size(self, before: Bar) -> Change:
        length = before.length - self.start - self.end
        if length <= 0:
            raise InputError.at("start", f"{self.start + self.end:g} mm off the ends leaves nothing of {before.length:.4g} mm", "trim less")
        return Change(Bar(length, before.section), {Loss.ENDS: (self.start + self.end) * before.section.area})

    def length_before(self, length: float, before: Bar) -> float:
        return length + self.start + self.end

    def ends(self, bad: Ends, before: Bar, after: Bar) -> Ends:
        return max(bad[0] - self.start, 0.0), max(bad[1] - self.end, 0.0)

    def pull(self, p: Points, before: Bar, after: Bar) -> None:
        p.x += self.start

    def through(self, line: LayerLine, before: Bar, after: Bar) -> LayerLine:
        return line

    def instruction(self, before: Bar, after: Bar) -> str:
        return f"Cut {self.start:g} mm off the start and {self.end:g} mm off the end; check the cut faces for open welds."

    @classmethod
    def fresh(cls, bar: Bar) -> dict[str, Any]:
        return {"start": tidy(min(5.0, 0.03 * bar.length)), "end": tidy(min(5.0, 0.03 * bar.length))}
