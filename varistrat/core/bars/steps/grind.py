"""Grinding faces off a bar."""

from typing import Any, ClassVar, Literal

from pydantic import Field

from varistrat.core.bars.bar import Bar, Change, Loss
from varistrat.core.bars.layer_line import LayerLine
from varistrat.core.bars.model import HeatDemand, Mm0, Step, shown, tidy
from varistrat.core.bars.points import Points
from varistrat.core.bars.section import Section
from varistrat.core.errors import InputError


class Grind(Step):
    """Steel is ground off; what is left does not move, only the bar's middle does.

    Inverse: y = y' + (front - back)/2, z = z' + (bottom - top)/2. Loss: grind.
    """

    kind: Literal["grind"] = "grind"
    title: ClassVar[str] = "Grind"
    blurb: ClassVar[str] = "Grind faces clean, or down into the pattern."
    plain: ClassVar[bool] = True
    opens_can: ClassVar[bool] = True
    shapes: ClassVar[bool] = False
    top: Mm0 = Field(0.0, **shown("Off the top", "mm"))
    bottom: Mm0 = Field(0.0, **shown("Off the bottom", "mm"))
    front: Mm0 = Field(0.0, **shown("Off the front", "mm", "the side towards you"))
    back: Mm0 = Field(0.0, **shown("Off the back", "mm", "the side away from you"))
    around: Mm0 = Field(0.0, **shown("Off all round", "mm"))

    def size(self, before: Bar) -> Change:
        sides = self.top or self.bottom or self.front or self.back
        if self.around and sides:
            raise InputError.at("around", "both single faces and all round are given", "keep one of them")
        if self.around:
            after = before.peeled(self.around, "around")
            return Change(after, {Loss.GRIND: before.volume - after.volume})
        if sides:
            before.need_rectangle("grinding single faces")
        width, thickness = before.width - self.front - self.back, before.thickness - self.top - self.bottom
        if width <= 0 or thickness <= 0:
            field = "front" if width <= 0 else "top"
            raise InputError.at(field, f"that grinds away all of {before.width:.4g} x {before.thickness:.4g} mm", "take less off")
        if not sides:
            return Change(before)
        after = Bar(before.length, Section("rectangle", width, thickness))
        return Change(after, {Loss.GRIND: before.volume - after.volume})

    def as_done(self, before: Bar, width: float, thickness: float) -> "Grind":
        """What came off, in the shares it was planned in; evenly where none was. Less than nothing is nothing."""
        if self.around:
            off = max(0.0, (before.width - width + before.thickness - thickness) / 4)
            return self.model_copy(update={"around": off})
        off_z, off_y = max(0.0, before.thickness - thickness), max(0.0, before.width - width)
        z = self.top / (self.top + self.bottom) if self.top + self.bottom else 0.5
        y = self.front / (self.front + self.back) if self.front + self.back else 0.5
        said = {"top": off_z * z, "bottom": off_z * (1 - z), "front": off_y * y, "back": off_y * (1 - y)}
        return self.model_copy(update=said)

    def length_before(self, length: float, before: Bar) -> float:
        return length

    def pull(self, p: Points, before: Bar, after: Bar) -> None:
        p.y += (self.front - self.back) / 2
        p.z += (self.bottom - self.top) / 2

    def through(self, line: LayerLine, before: Bar, after: Bar) -> LayerLine:
        off = {"z": (self.bottom, self.top), "y": (self.front, self.back)}.get(line.normal, (0.0, 0.0))
        return line.ground(off[0] + self.around, off[1] + self.around)

    def heat_demand(self, before: Bar, after: Bar) -> HeatDemand:
        return HeatDemand(ground=self.around or min(self.top, self.bottom))

    def instruction(self, before: Bar, after: Bar) -> str:
        parts = [f"{getattr(self, f):g} mm off the {f}" for f in ("top", "bottom", "front", "back") if getattr(self, f)]
        if self.around:
            parts = [f"{self.around:g} mm off all round"]
        return f"Grind {', '.join(parts) or 'nothing'}. Respirator on; cool in water often."

    @classmethod
    def fresh(cls, bar: Bar) -> dict[str, Any]:
        off = tidy(min(0.3, 0.05 * min(bar.width, bar.thickness)))
        return {"around": off} if bar.section.form != "rectangle" else {"top": off, "bottom": off}
