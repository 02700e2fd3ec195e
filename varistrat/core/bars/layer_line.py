"""The line through a bar's layers on which carbon is followed, carried along as the bar is worked."""

from collections.abc import Sequence
from dataclasses import dataclass, replace
from typing import Literal

from varistrat.core.bars.bar import Bar
from varistrat.core.laws.carbon import activity_factor
from varistrat.core.laws.column import Column
from varistrat.core.shop import AS_SHIPS, ShopData

Normal = Literal["z", "y", "x", ""]
"""Which way layers are piled in the bar's frame; empty: all ways (twisted, on the bias)."""


@dataclass(frozen=True)
class LayerLine:
    """Carbon along a line square to the layers, and which way that line lies in the bar's frame."""

    column: Column
    normal: Normal = "z"
    shop: ShopData = AS_SHIPS

    @classmethod
    def up(cls, piles: Sequence[Sequence[tuple[str, float]]], shop: ShopData) -> "LayerLine":
        """Up the first pile of layers (steel, mm); of a can, where every pile is one steel, through a piece and as much of what lies about
        it."""
        layers = list(piles[0])
        if len(layers) == 1 and len(piles) > 1:
            layers = [p[0] for p in piles[:2]]
            layers = [(k, max(0.5, min(t for _, t in layers))) for k, t in 3 * layers]
        steels = [shop.steels[k] for k, _ in layers]
        column = Column.of(layers, [s.share("C") for s in steels], [activity_factor(s.composition) for s in steels])
        return cls(column.told_by_fewer(), "z", shop)

    def forged(self, before: Bar, after: Bar) -> "LayerLine":
        """Layers thinned as the bar is along their normal; where they lie all ways, as the root of its section."""
        if self.normal == "":
            by = (after.section.area / before.section.area) ** 0.5
        else:
            sizes = {"z": (before.thickness, after.thickness), "y": (before.width, after.width), "x": (before.length, after.length)}
            was, now = sizes[self.normal]
            by = now / was
        return replace(self, column=self.column.squeezed(by))

    def askew(self) -> "LayerLine":
        """The same layers, lying all ways from here on."""
        return replace(self, normal="")

    def ground(self, low: float, high: float) -> "LayerLine":
        """So much off the two faces that are layers; nothing where faces cut across them."""
        return self if self.normal in ("", "x") else replace(self, column=self.column.ground(low, high))

    def turned_over(self) -> "LayerLine":
        """Seen from the other end."""
        return replace(self, column=self.column.turned_over())

    def piled(self, others: list["LayerLine"]) -> "LayerLine":
        """This one with others on top, in order."""
        return replace(self, column=self.column.piled([o.column for o in others]))
