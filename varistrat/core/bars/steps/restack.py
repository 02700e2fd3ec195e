"""Cutting a bar in pieces and piling them up again."""

from typing import Annotated, Any, ClassVar, Literal

import numpy as np
from pydantic import Field

from varistrat.core.bars.bar import Bar, Change, Loss
from varistrat.core.bars.joints import Joints
from varistrat.core.bars.layer_line import LayerLine
from varistrat.core.bars.model import ForgingStep, HeatDemand, Mm, Mm0, Model, SteelKey, shown, tidy
from varistrat.core.bars.points import Points
from varistrat.core.bars.put_in import PutIn
from varistrat.core.bars.section import Section
from varistrat.core.errors import InputError
from varistrat.core.findings import Finding
from varistrat.core.laws.carbon import activity_factor
from varistrat.core.laws.column import Column
from varistrat.core.limits import MAX_PIECES

Lay = Literal["as_cut", "end_for_end", "rolled", "turned_over"]
_SIGNS: dict[Lay, tuple[float, float, float]] = {
    "as_cut": (1, 1, 1),
    "end_for_end": (-1, -1, 1),
    "rolled": (1, -1, -1),
    "turned_over": (-1, 1, -1),
}
"""Signs of x, y, z about the piece's own middle: half turns about nothing, z, x, y."""
JOINT = 1e-9
"""A joint belongs to the later piece, this many mm early."""


class Interleaf(Model):
    """A sheet laid between the pieces."""

    steel: SteelKey = Field(**shown("Steel"))
    thickness: Mm = Field(**shown("Thickness", "mm"))


class Restack(ForgingStep):
    """The bar is cut across into pieces; they are ground clean and piled up again.

    Forward: piece k (from x = 0, lowest first) keeps its place along itself, is laid by a half
    turn about its own middle, and rises by k (T - 2 grind + interleaf). Inverse: find the
    piece from z (or y), undo its lay, add its x. Points in an interleaf settle there.
    |det J| = 1. T' = n (T - 2 grind) + (n - 1) interleaf; piece length (L - (n-1) kerf)/n.
    """

    kind: Literal["restack"] = "restack"
    cuts: ClassVar[bool] = True
    title: ClassVar[str] = "Cut and restack"
    blurb: ClassVar[str] = "Cut it in pieces and pile them up again."
    fire = "join"
    joins: ClassVar[bool] = True
    pieces: int = Field(ge=1, le=MAX_PIECES, **shown("Pieces"))
    along: Literal["thickness", "width"] = Field("thickness", **shown("Piled", "", "one on the other, or side by side"))
    lay: Annotated[list[Lay], Field(min_length=1, max_length=MAX_PIECES)] = Field(
        default=["as_cut"], **shown("Laid", "", "repeated in this order")
    )
    grind: Mm0 = Field(0.0, **shown("Ground off each meeting face", "mm"))
    kerf: Mm0 = Field(0.0, **shown("Saw kerf", "mm"))
    interleaf: Interleaf | None = Field(None, **shown("Sheet between the pieces"))

    def _sheet(self) -> float:
        return self.interleaf.thickness if self.interleaf else 0.0

    def sheet_between(self) -> tuple[str, float] | None:
        if self.pieces != 2 or self.along != "thickness" or not self.interleaf:
            return None
        return self.interleaf.steel, self.interleaf.thickness

    def size(self, before: Bar) -> Change:
        before.need_rectangle("restacking")
        n, sheet = self.pieces, self._sheet()
        length = (before.length - (n - 1) * self.kerf) / n
        if length <= 0:
            raise InputError.at(
                "kerf", f"{n - 1} cuts of {self.kerf:g} mm use up the bar's {before.length:.4g} mm", "make fewer pieces or a thinner cut"
            )
        upright = self.along == "thickness"
        tall, wide = (before.thickness, before.width) if upright else (before.width, before.thickness)
        if tall <= 2 * self.grind:
            raise InputError.at(
                "grind", f"grinding {self.grind:g} mm off both faces leaves nothing of {tall:.4g} mm", f"grind less than {tall / 2:.4g} mm"
            )
        pile = n * (tall - 2 * self.grind) + (n - 1) * sheet
        section = Section("rectangle", wide, pile) if upright else Section("rectangle", pile, wide)
        losses = {Loss.KERF: (n - 1) * self.kerf * before.section.area, Loss.GRIND: n * 2 * self.grind * wide * length}
        return Change(Bar(length, section), losses, {"interleaf": (n - 1) * sheet * wide * length})

    def length_before(self, length: float, before: Bar) -> float:
        return self.pieces * length + (self.pieces - 1) * self.kerf

    def pull(self, p: Points, before: Bar, after: Bar) -> None:
        upright = self.along == "thickness"
        rise = p.z if upright else p.y
        whole = after.thickness if upright else after.width
        each = (before.thickness if upright else before.width) - 2 * self.grind
        pitch = each + self._sheet()
        k = rise * float(1 / pitch)
        k += float((whole / 2 + JOINT) / pitch)
        np.floor(k, out=k)
        np.clip(k, 0, self.pieces - 1, out=k)
        local = k * float(-pitch)
        local += rise
        # from its own underside, then from its middle
        local += float(whole / 2 + JOINT)
        if self.interleaf:
            p.settle((local >= each) & (k < self.pieces - 1), self.interleaf.steel)
            np.minimum(local, each, out=local)
        local -= float(each / 2 + JOINT)
        if upright:
            p.z = local
        else:
            p.y = local
        turned = any(_SIGNS[lay][0] != 1 for lay in self.lay)
        if turned:
            p.x -= after.length / 2
        if any(lay != "as_cut" for lay in self.lay):
            self._unlay(p, k)
        if turned:
            p.x += after.length / 2
        k *= after.length + self.kerf
        p.x += k

    def _unlay(self, p: Points, k: np.ndarray) -> None:
        """Each lay is its own inverse: multiply by its signs."""
        if (n := len(self.lay)) < self.pieces:
            # the remainder in floats: of whole numbers numpy takes it one by one, at the cost of all the rest
            k = k - n * np.floor(k * (1 / n) + 0.5 / n)
        signs = np.array([_SIGNS[lay] for lay in self.lay], p.x.dtype).T
        made: dict[bytes, np.ndarray] = {}
        for axis, table in zip((p.x, p.y, p.z), signs, strict=True):
            if not (table != 1).any():
                continue
            key = table.tobytes()
            if key not in made:
                if n == 2:
                    made[key] = k * (table[1] - table[0])
                    made[key] += table[0]
                else:
                    made[key] = table.take(k.astype(np.intp), mode="clip")
            axis *= made[key]

    def steels(self) -> set[str]:
        return {self.interleaf.steel} if self.interleaf else set()

    def put_in(self, before: Bar) -> list[PutIn]:
        if not self.interleaf or self.pieces < 2:
            return []
        wide = before.width if self.along == "thickness" else before.thickness
        long = (before.length - (self.pieces - 1) * self.kerf) / self.pieces
        return [PutIn("sheet between", self.interleaf.steel, "sheet", wide, self.interleaf.thickness, long, self.pieces - 1)]

    def upon(self, joints: Joints, before: Bar, after: Bar) -> tuple[Joints, list[Finding]]:
        left, found = super().upon(joints, before, after)
        return left or Joints({"thickness": "z", "width": "y"}[self.along]), found

    def through(self, line: LayerLine, before: Bar, after: Bar) -> LayerLine:
        if line.normal != {"thickness": "z", "width": "y"}[self.along]:
            return line
        one = line.ground(self.grind, self.grind)
        flips = {"z": ("rolled", "turned_over"), "y": ("end_for_end", "rolled")}[line.normal]
        pile = [one.turned_over() if self.lay[k % len(self.lay)] in flips else one for k in range(self.pieces)]
        if self.interleaf:
            steel = line.shop.steels[self.interleaf.steel]
            layer = ((steel.key, self.interleaf.thickness),)
            sheet = LayerLine(Column.of(layer, [steel.share("C")], [activity_factor(steel.composition)], cells=6), line.normal)
            pile = [p for piece in pile for p in (sheet, piece)][1:]
        return pile[0].piled(pile[1:])

    def heat_demand(self, before: Bar, after: Bar) -> HeatDemand:
        return HeatDemand(ground=self.grind)

    def instruction(self, before: Bar, after: Bar) -> str:
        words = {"as_cut": "as cut", "end_for_end": "end for end", "rolled": "rolled over", "turned_over": "turned over"}
        lay = "" if set(self.lay) == {"as_cut"} else ", laid " + ", ".join(words[lay] for lay in self.lay) + " in turn"
        sheet = f", a {self._sheet():g} mm sheet between" if self.interleaf else ""
        pile = "one on the other" if self.along == "thickness" else "side by side"
        return (
            f"Cut into {self.pieces} pieces of {after.length:.4g} mm, grind {self.grind:g} mm off the meeting faces, pile them "
            f"{pile}{lay}{sheet}. Tack and weld."
        )

    @classmethod
    def fresh(cls, bar: Bar) -> dict[str, Any]:
        return {"pieces": 3, "grind": tidy(min(0.3, 0.03 * bar.thickness)), "kerf": tidy(min(1.5, 0.01 * bar.length))}

    def brief(self) -> str:
        return f"{self.pieces}"
