"""The line through a bar's layers on which carbon is followed, carried along as the bar is worked."""

from dataclasses import dataclass, replace
from typing import Literal

from varistrat.core.bars.bar import Bar
from varistrat.core.laws.column import Column
from varistrat.core.shop import AS_SHIPS, ShopData

Normal = Literal["z", "y", "x", ""]
"""Which way layers are piled in the bar's frame; empty: all ways (twisted, on the bias)."""


@dataclass(frozen=True)
class Through:
    column: Column
    normal: Normal = "z"
    shop: ShopData = AS_SHIPS

    def forged(self, before: Bar, after: Bar) -> "Through":
        """Layers thinned as the bar is along their normal; where they lie all ways, as the root of its section."""
        if self.normal == "":
            by = (after.section.area / before.section.area) ** 0.5
        else:
            sizes = {"z": (before.thickness, after.thickness), "y": (before.width, after.width), "x": (before.length, after.length)}
            was, now = sizes[self.normal]
            by = now / was
        return replace(self, column=self.column.squeezed(by))

    def askew(self) -> "Through":
        return replace(self, normal="")

    def ground(self, low: float, high: float) -> "Through":
        """So much off the two faces that are layers; nothing where faces cut across them."""
        return self if self.normal in ("", "x") else replace(self, column=self.column.ground(low, high))

    def turned_over(self) -> "Through":
        return replace(self, column=self.column.turned_over())

    def piled(self, others: list["Through"]) -> "Through":
        return replace(self, column=self.column.piled([o.column for o in others]))
