"""A bar of one steel."""

from collections.abc import Callable, Mapping, Sequence
from typing import Any, ClassVar, Literal

from pydantic import Field

from varistrat.core.bars.bar import Bar, Change
from varistrat.core.bars.model import Mm, PileStart, SteelKey, said, shown
from varistrat.core.bars.points import Array, Points
from varistrat.core.bars.section import Section
from varistrat.core.steels import Steel


class Solid(PileStart):
    """One piece of one steel."""

    kind: Literal["solid"] = "solid"
    title: ClassVar[str] = "Solid bar"
    blurb: ClassVar[str] = "One piece of one steel."
    steel: SteelKey = Field(**shown("Steel"))
    length: Mm = Field(**shown("Length", "mm"))
    width: Mm = Field(**shown("Width", "mm"))
    thickness: Mm = Field(**shown("Thickness", "mm"))

    def one_steel(self) -> str:
        return self.steel

    def size(self, bars: Sequence[Bar] = ()) -> Change:
        return Change(Bar(self.length, Section("rectangle", self.width, self.thickness)))

    def density(self, steels: Mapping[str, Steel], bars: Sequence[Bar] = (), densities: Sequence[float] = ()) -> float:
        return steels[self.steel].density

    def piles(self) -> tuple[tuple[tuple[str, float], ...], ...]:
        return (((self.steel, self.thickness),),)

    def heights(self, p: Points, bar: Bar) -> tuple[Array, None]:
        return p.z + bar.thickness / 2, None

    @classmethod
    def fresh(cls, bar: dict[str, Any], size: Bar, mirrored: Callable[[dict[str, Any]], dict[str, Any]]) -> dict[str, Any]:
        length, width, thickness = said(size)
        start = {"kind": "solid", "steel": "1084", "length": length, "width": width, "thickness": thickness}
        return {"start": start, "steps": bar.get("steps", [])}

    def instruction(self, bar: Bar) -> str:
        return f"Cut one bar {bar.length:.4g} x {bar.width:.4g} x {bar.thickness:.4g} mm and clean it."
