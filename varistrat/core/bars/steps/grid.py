"""Cutting a bar in pieces and laying them in rows and columns, each turned as wanted."""

from itertools import pairwise
from typing import Annotated, Any, ClassVar, Literal

import numpy as np
from pydantic import Field

from varistrat.core.bars.bar import Bar, Change, Loss
from varistrat.core.bars.joints import Joints
from varistrat.core.bars.layer_line import LayerLine
from varistrat.core.bars.model import ForgingStep, HeatDemand, Mm0, Model, shown, tidy
from varistrat.core.bars.points import Points
from varistrat.core.bars.section import Section
from varistrat.core.bars.steps.restack import JOINT
from varistrat.core.errors import InputError
from varistrat.core.findings import Code, Finding
from varistrat.core.limits import MAX_GRID

GRID_NO_SYMMETRY = Code("grid_no_symmetry", "bar", ("note",), "No two neighbours are turned against one another.")


class Cell(Model):
    """How the piece that lies here is turned before it is laid down."""

    quarter_turns: Annotated[int, Field(ge=-3, le=3)] = Field(0, **shown("Quarter turns", "", "right-handed about its length"))
    end_for_end: bool = Field(False, **shown("End for end", "", "turned about z, after the quarter turns"))


Row = Annotated[list[Cell], Field(min_length=1, max_length=MAX_GRID)]


class Grid(ForgingStep):
    """Four-way and other mosaics: pieces side by side and on top of one another, turned by quarters.

    Forward: piece k (from x = 0; row by row from the bottom, each from the front) is ground to
    w x t = (W - 2g)(T - 2g), turned by its quarters about x, then end for end about z, and laid
    in its cell. Inverse: find the cell, undo end for end, then the quarters, add its x. |det J| = 1.
    W' = columns w, T' = rows t, L' = (L - (n-1) kerf)/n. Derived in docs/physics.md#grid.
    """

    kind: Literal["grid"] = "grid"
    cuts: ClassVar[bool] = True
    title: ClassVar[str] = "Four-way"
    blurb: ClassVar[str] = "Cut it in pieces and lay them in rows and columns, each turned as you like."
    fire = "join"
    joins: ClassVar[bool] = True
    seams: ClassVar[bool] = True
    cells: Annotated[list[Row], Field(min_length=1, max_length=MAX_GRID)] = Field(
        **shown("Cells", "", "rows from the bottom up, each from the front")
    )
    grind: Mm0 = Field(0.0, **shown("Ground off every long face", "mm", "of each piece"))
    kerf: Mm0 = Field(0.0, **shown("Saw kerf", "mm"))

    @property
    def _shape(self) -> tuple[int, int]:
        return len(self.cells), len(self.cells[0])

    def size(self, before: Bar) -> Change:
        before.need_rectangle("laying a grid")
        rows, columns = self._shape
        for i, row in enumerate(self.cells):
            if len(row) != columns:
                raise InputError.at(f"cells[{i}]", f"{len(row)} cells in this row, {columns} in the first", "give every row as many")
            odd = [j for j, c in enumerate(row) if c.quarter_turns % 2]
            if odd and not before.section.equal:
                raise InputError.at(
                    f"cells[{i}][{odd[0]}].quarter_turns",
                    f"a bar {before.width:.4g} x {before.thickness:.4g} mm turned by a quarter does not fill its cell",
                    "make it square first, or turn by two quarters",
                )
        n = rows * columns
        length = (before.length - (n - 1) * self.kerf) / n
        if length <= 0:
            raise InputError.at("kerf", f"{n - 1} cuts of {self.kerf:g} mm use up the bar's {before.length:.4g} mm", "make fewer pieces")
        w, t = before.width - 2 * self.grind, before.thickness - 2 * self.grind
        if min(w, t) <= 0:
            least = min(before.width, before.thickness) / 2
            raise InputError.at("grind", f"grinding {self.grind:g} mm off every face leaves nothing", f"grind less than {least:.4g} mm")
        losses = {Loss.KERF: (n - 1) * self.kerf * before.section.area, Loss.GRIND: n * length * (before.section.area - w * t)}
        return Change(Bar(length, Section("rectangle", columns * w, rows * t)), losses)

    def length_before(self, length: float, before: Bar) -> float:
        rows, columns = self._shape
        n = rows * columns
        return n * length + (n - 1) * self.kerf

    def pull(self, p: Points, before: Bar, after: Bar) -> None:
        rows, columns = self._shape
        w, t = after.width / columns, after.thickness / rows
        if p.wants_seams:
            for i in range(1, columns):
                p.meet(p.y - (i * w - after.width / 2))
            for i in range(1, rows):
                p.meet(p.z - (i * t - after.thickness / 2))
        row = _cell(p.z, after.thickness, t, rows)
        column = _cell(p.y, after.width, w, columns)
        p.y -= (column + 0.5) * w - after.width / 2
        p.z -= (row + 0.5) * t - after.thickness / 2
        piece = row * columns + column
        flat = [cell for r in self.cells for cell in r]
        ends = np.array([-1.0 if c.end_for_end else 1.0 for c in flat], p.x.dtype).take(piece)
        quarters = np.array([c.quarter_turns % 4 for c in flat])
        cos = np.array([1, 0, -1, 0], p.x.dtype)[quarters].take(piece)
        sin = np.array([0, 1, 0, -1], p.x.dtype)[quarters].take(piece)
        p.x = (p.x - after.length / 2) * ends + after.length / 2
        p.x += piece.astype(p.x.dtype) * (after.length + self.kerf)
        y, z = p.y * ends, p.z
        p.y, p.z = y * cos + z * sin, z * cos - y * sin

    def checks(self, before: Bar, after: Bar) -> list[Finding]:
        rows, columns = self._shape
        mirrored = _mirrored_pairs([[c.quarter_turns % 4 * 2 + c.end_for_end for c in r] for r in self.cells])
        if rows < 2 or columns < 2 or mirrored:
            return []
        return [
            GRID_NO_SYMMETRY.found(
                (
                    "Steel cannot be mirrored. What looks like a mirror in a four-way comes from quarter turns, and from turning pieces "
                    "end "
                    "for end."
                ),
                "For a four-way figure give the cells 0 and 1 in the lower row, 3 and 2 in the upper.",
                field="cells",
            )
        ]

    def upon(self, joints: Joints, before: Bar, after: Bar) -> tuple[Joints, list[Finding]]:
        left, found = super().upon(joints, before, after)
        return left or Joints(("z" if len(self.cells) > 1 else "") + ("y" if len(self.cells[0]) > 1 else "")), found

    def through(self, line: LayerLine, before: Bar, after: Bar) -> LayerLine:
        return line.ground(self.grind, self.grind).askew()

    def heat_demand(self, before: Bar, after: Bar) -> HeatDemand:
        return HeatDemand(ground=self.grind)

    def instruction(self, before: Bar, after: Bar) -> str:
        rows, columns = self._shape
        return (
            f"Cut the bar in {rows * columns} pieces of {after.length:.4g} mm and mark one corner of each. Grind {self.grind:g} mm off "
            "every long "
            f"face, lay them {columns} side by side and {rows} high with the marks turned as drawn, tack, and weld to "
            f"{after.width:.4g} x {after.thickness:.4g} mm."
        )

    @classmethod
    def fresh(cls, bar: Bar) -> dict[str, Any]:
        lower, upper = [{}, {"quarter_turns": 1}], [{"quarter_turns": 3}, {"quarter_turns": 2}]
        if not bar.section.equal:
            lower, upper = [{}, {"end_for_end": True}], [{"quarter_turns": 2, "end_for_end": True}, {"quarter_turns": 2}]
        return {"cells": [lower, upper], "grind": tidy(min(0.3, 0.03 * bar.thickness)), "kerf": tidy(min(1.5, 0.01 * bar.length))}

    def brief(self) -> str:
        return f"{len(self.cells[0])} × {len(self.cells)}"


def _cell(at: np.ndarray, whole: float, each: float, count: int) -> np.ndarray:
    """Which cell along one direction: a joint belongs to the later one."""
    return np.clip(np.floor((at + (whole / 2 + JOINT)) * (1 / each)), 0, count - 1).astype(np.intp)


def _mirrored_pairs(lay: list[list[int]]) -> bool:
    """Whether any two cells beside or above one another are laid differently."""
    beside = any(a != b for row in lay for a, b in pairwise(row))
    return beside or any(a != b for low, high in pairwise(lay) for a, b in zip(low, high, strict=True))
