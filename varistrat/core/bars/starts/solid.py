"""A bar of one steel."""

from typing import Literal

from pydantic import Field

from varistrat.core.bars.bar import Bar
from varistrat.core.bars.model import Mm, Start, SteelKey, shown
from varistrat.core.bars.section import Section


class Solid(Start):
    """One piece of one steel."""

    kind: Literal["solid"] = "solid"
    steel: SteelKey = Field(**shown("Steel"))
    length: Mm = Field(**shown("Length", "mm"))
    width: Mm = Field(**shown("Width", "mm"))
    thickness: Mm = Field(**shown("Thickness", "mm"))

    def size(self) -> Bar:
        return Bar(self.length, Section("rectangle", self.width, self.thickness))

    def layer_stack(self) -> list[tuple[str, float]]:
        return [(self.steel, self.thickness)]

    def instruction(self, bar: Bar) -> str:
        return f"Cut one bar {bar.length:.4g} x {bar.width:.4g} x {bar.thickness:.4g} mm and clean it."
