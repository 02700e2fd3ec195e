"""Bars brought together into one."""

from collections.abc import Callable, Mapping, Sequence
from typing import TYPE_CHECKING, Annotated, Any, ClassVar, Literal

import numpy as np
from numpy.typing import NDArray
from pydantic import Field

from varistrat.core.bars.bar import Bar, Change, Loss
from varistrat.core.bars.identity import made_alike
from varistrat.core.bars.joints import Joints
from varistrat.core.bars.layer_line import LayerLine
from varistrat.core.bars.model import CorePart, JoinedStart, Mm, SignedMm, shown
from varistrat.core.bars.points import Array, Points
from varistrat.core.bars.starts.joins import Jacket, Join, Plug, Row, Scarf, Slot
from varistrat.core.errors import InputError
from varistrat.core.findings import Code, Finding
from varistrat.core.limits import MAX_BARS
from varistrat.core.shop import ShopData

if TYPE_CHECKING:
    from varistrat.core.bars.recipe import BarRecipe
from varistrat.core.steels import Steel

JoinName = Literal["stacked", "side_by_side", "scarf", "slot", "plug", "jacket"]
NEEDS: dict[str, tuple[str, ...]] = {
    "stacked": (),
    "side_by_side": (),
    "scarf": ("angle",),
    "slot": ("depth", "width"),
    "plug": ("x", "y", "diameter"),
    "jacket": ("wall",),
}
SCARF_FLATTEST = 1.0
THIN_WALL = 1.0
"""A jacket thinner than this is forged and ground through, mm; indicative."""


FIT_WASTE = Code("fit_waste", "bar", ("care",), "{share:.0f} % of the bars is trimmed away to make them fit.")
JACKET_THIN = Code("jacket_thin", "bar", ("care",), "The jacket is likely to be forged or ground through.")
SAME_HAND = Code("same_hand", "bar", ("note",), "Bars {first} and {second} twist the same way: no herringbone between them.")


class Assembly(JoinedStart):
    """Bars laid together and welded into one; each brings the pattern it has.

    The first bar is the lowest, the foremost (-y), the plate, or the core.
    """

    seams: ClassVar[bool] = True

    kind: Literal["assembly"] = "assembly"
    title: ClassVar[str] = "Joined bars"
    blurb: ClassVar[str] = "Bars brought together, each with its own pattern."
    join: JoinName = Field(**shown("Joined"))
    bars: Annotated[list["BarRecipe"], Field(min_length=1, max_length=MAX_BARS)] = Field(**shown("Bars"))
    fit: Literal["trim", "exact"] = Field("trim", **shown("Unequal bars", "", "trimmed to the smallest, or refused", quiet=True))
    angle: Annotated[float, Field(ge=SCARF_FLATTEST, le=90)] | None = Field(
        None, **shown("Angle of the joint", "deg", "to the faces; 90 is a plain butt joint", when="join=scarf")
    )
    depth: Mm | None = Field(None, **shown("Depth of the slot", "mm", when="join=slot"))
    width: Mm | None = Field(None, **shown("Width of the slot", "mm", when="join=slot"))
    x: SignedMm | None = Field(None, **shown("Hole at, along", "mm", "from the start of the plate", when="join=plug"))
    y: SignedMm | None = Field(None, **shown("Hole at, across", "mm", "from the middle of the plate", when="join=plug"))
    diameter: Mm | None = Field(None, **shown("Diameter of the hole", "mm", when="join=plug"))
    wall: Mm | None = Field(None, **shown("Wall of the jacket", "mm", when="join=jacket"))

    def children(self) -> Sequence[Any]:
        return self.bars

    def joints(self) -> Joints:
        axes = {"stacked": "z", "side_by_side": "y", "slot": "z", "plug": "z", "jacket": "zy"}
        # what lies in a slot or stands in a hole swells into it when the plate is pressed
        if self.join == "scarf":
            # a butt joint stands upright, a long scarf lies nearly flat
            return Joints("y" if (self.angle or 90.0) > 45 else "z", bare=True)
        return Joints(axes[self.join] if len(self.bars) > 1 else "", bare=len(self.bars) > 1)

    def _way(self) -> Join:
        """The join with its measures. Raises InputError for one missing or out of place."""
        needed = NEEDS[self.join]
        given: dict[str, float] = {}
        for name in ("angle", "depth", "width", "x", "y", "diameter", "wall"):
            value = getattr(self, name)
            if name in needed and value is None:
                raise InputError.at(
                    name, f"a {self.join} join needs its {name}", "give it" + (" in mm" if name != "angle" else " in degrees")
                )
            if name not in needed and value is not None:
                raise InputError.at(name, f"a {self.join} join has no {name}", "remove it")
            if value is not None:
                given[name] = value
        ways: dict[str, type[Any]] = {"scarf": Scarf, "slot": Slot, "plug": Plug, "jacket": Jacket}
        if self.join in ways:
            way: Join = ways[self.join](**given)
            return way
        return Row(upright=self.join == "stacked")

    def size(self, bars: Sequence[Bar] = ()) -> Change:
        way = self._way()
        if not way.many and len(bars) != 2:
            raise InputError.at(
                "bars", f"a {self.join} join takes two bars, here {'is' if len(bars) == 1 else 'are'} {len(bars)}", "give two"
            )
        for i, bar in enumerate(bars):
            want = "round" if self.join == "plug" and i == 1 else "rectangle"
            if bar.section.form != want:
                cure = "round it first (section)" if want == "round" else "square it first (section)"
                raise InputError.at(
                    f"bars[{i}]", f"this bar is {bar.form_word}; here it must be {'round' if want == 'round' else 'rectangular'}", cure
                )
        after = way.fit(bars, self.fit == "exact").after
        lost = sum(b.volume for b in bars) - after.volume
        return Change(after, {Loss.FIT: lost} if lost > 1e-9 * after.volume else {})

    def lengths(self, length: float, bars: Sequence[Bar]) -> Sequence[float]:
        return self._way().lengths(length, bars)

    def density(self, steels: Mapping[str, Steel], bars: Sequence[Bar] = (), densities: Sequence[float] = ()) -> float:
        volumes = self._way().fit(bars, False).volumes
        return sum(v * d for v, d in zip(volumes, densities, strict=True)) / sum(volumes)

    def pick(self, p: Points, bar: Bar, bars: Sequence[Bar]) -> NDArray[np.int16]:
        return self._way().pick(p, bar, bars)

    def enter(self, child: int, p: Points, bar: Bar, bars: Sequence[Bar]) -> None:
        self._way().enter(child, p, bar, bars)

    def line(self, lines: Sequence[LayerLine], bars: Sequence[Bar], shop: ShopData) -> LayerLine:
        """On through the piled ones; across the bar where plain ones lie side by side; else that of the biggest."""
        first, *others = lines
        plain = all(len(line.column.steels) == 1 for line in lines)
        if self.join == "stacked":
            return first.piled(others)
        if self.join == "jacket":
            wall = lines[-1]
            return wall.piled([first, wall.turned_over()])
        if plain and self.join in ("slot", "plug"):
            # across the bar: plate, what was let in, plate
            side = LayerLine(first.column.squeezed(0.5), "y", shop)
            return side.piled([lines[1], side])
        if plain:
            return LayerLine(first.column, "y", shop).piled(others)
        return lines[max(range(len(lines)), key=lambda i: bars[i].volume)]

    def core_part(self, bars: Sequence[Bar], plain: bool, at_edge: Callable[[], Array]) -> CorePart | None:
        """The middle one of a pile, the one let in, the one jacketed; scarfed or side by side, the one at the edge, if it is of one
        steel."""
        alone = [b.start.one_steel() for b in self.bars]
        n = len(self.bars)
        if self.join == "stacked":
            i = n // 2
            if n % 2 == 0 or n < 3:
                return None
            beside = [self.bars[k].start for k in (i - 1, i + 1)]
            if any(made_alike(self.bars[i].start, b) for b in beside) or not (alone[i] or (alone[i - 1] and alone[i + 1])):
                return None
            low = sum(b.thickness for b in bars[:i])
            return CorePart(low, low + bars[i].thickness, None, alone[i])
        if self.join in ("slot", "jacket"):
            i = 1 if self.join == "slot" else 0
            return CorePart(bar=i, steel=alone[i])
        if self.join in ("scarf", "side_by_side"):
            i = int(np.bincount(at_edge()).argmax())
            if alone[i] is None or all(a == alone[i] for a in alone):
                return None
            return CorePart(bar=i, steel=alone[i])
        return None

    @classmethod
    def fresh(cls, bar: dict[str, Any], size: Bar, mirrored: Callable[[dict[str, Any]], dict[str, Any]]) -> dict[str, Any]:
        """This bar and a second like it, its twists the other way."""
        return {"start": {"kind": "assembly", "join": "side_by_side", "bars": [bar, mirrored(bar)]}, "steps": []}

    @classmethod
    def opposite(cls, start: dict[str, Any], bar: Callable[[dict[str, Any]], dict[str, Any]]) -> dict[str, Any]:
        return {**start, "bars": [bar(b) for b in start["bars"]]}

    def core(self, bars: Sequence[Bar] = ()) -> tuple[float, float] | None:
        """Three bars stacked: the middle one is the core when it is of one steel and its neighbours are not of it alone."""
        if self.join != "stacked" or len(self.bars) != 3:
            return None
        low, middle, high = self.bars
        if middle.start.kind != "solid" or any(made_alike(b.start, middle.start) for b in (low, high)):  # type: ignore[attr-defined]
            return None
        return bars[0].thickness, bars[0].thickness + bars[1].thickness

    def checks(self, bar: Bar, bars: Sequence[Bar] = ()) -> list[Finding]:
        found = []
        lost = sum(b.volume for b in bars) - bar.volume
        share = lost / (bar.volume + lost)
        if share > 0.12 and self.join != "plug":
            found.append(
                FIT_WASTE.found(
                    "They are brought to the smallest meeting size and the shortest length.",
                    "Draw the bars to one size before they meet.",
                    share=100 * share,
                    field="fit",
                    value=100 * share,
                    limit=12.0,
                    unit="%",
                )
            )
        if self.join == "jacket" and self.wall is not None and self.wall < THIN_WALL:
            found.append(
                JACKET_THIN.found(
                    f"Its wall is {self.wall:g} mm; scale and cleaning take most of a millimetre. Indicative.",
                    f"Start with {THIN_WALL:g} mm or more.",
                    field="wall",
                    value=self.wall,
                    limit=THIN_WALL,
                    unit="mm",
                )
            )
        return found + mirror_checks(self)

    def instruction(self, bar: Bar) -> str:
        n = len(self.bars)
        how = {
            "stacked": f"Pile the {n} bars, first one lowest",
            "side_by_side": f"Lay the {n} bars side by side, first one foremost",
            "scarf": f"Bevel both edges to {self.angle or 90:g} degrees and lay them together",
            "slot": f"Mill a slot {self.width or 0:g} mm wide and {self.depth or 0:g} mm deep along the first bar and lay the second in it",
            "plug": f"Drill {self.diameter or 0:g} mm through the plate, turn the plug to a light press fit and drive it in",
            "jacket": f"Bore the jacket to a wall of {self.wall or 0:g} mm and slide the core in",
        }[self.join]
        return (
            f"Clean the meeting faces to bright metal. {how}; tack all round: {bar.length:.4g} x {bar.width:.4g} x {bar.thickness:.4g} mm."
        )


def mirror_checks(assembly: Assembly) -> list[Finding]:
    """Bars beside each other that twist the same way, where a mirrored pair is usual."""
    if assembly.join not in ("side_by_side", "stacked"):
        return []
    hands = [_hand(b) for b in assembly.bars]
    found = []
    for i in range(1, len(hands)):
        if hands[i] and hands[i] == hands[i - 1]:
            found.append(
                SAME_HAND.found(
                    (
                        f"Both are {hands[i]}-handed. Turning a bar end for end or over does not change its hand, and steel cannot be "
                        "mirrored."
                    ),
                    "If they should mirror one another, twist one of them the other way.",
                    first=i,
                    second=i + 1,
                    field=f"bars[{i}]",
                )
            )
    return found


def _hand(bar: "BarRecipe") -> str | None:
    """The hand a bar is twisted with, if there is one only."""
    hands = {str(getattr(s, "hand")) for s in bar.steps if hasattr(s, "hand")}  # noqa: B009
    return hands.pop() if len(hands) == 1 else None
