"""A pile of flat layers."""

from collections.abc import Callable, Mapping, Sequence
from typing import Annotated, Any, ClassVar, Literal

from pydantic import Field

from varistrat.core.bars.bar import Bar, Change
from varistrat.core.bars.joints import NONE, Joints
from varistrat.core.bars.model import CorePart, Mm, Model, PileStart, SteelKey, said, shown
from varistrat.core.bars.points import Array, Points
from varistrat.core.bars.section import Section
from varistrat.core.findings import Code, Finding
from varistrat.core.limits import MAX_LAYERS
from varistrat.core.steels import Steel

OUTER_LAYER_MIN = 2.5
"""Shop minimum for an outside layer, mm: thinner ones curl off the pile as it heats."""


MOST_LAYERS = 9
"""A pile of more layers is a pattern, not a laminate."""


PILE_TALL = Code("pile_tall", "bar", ("care",), "The pile is likely to lean over under the first blows.")
OUTER_LAYER_THIN = Code("outer_layer_thin", "bar", ("care",), "The {steel} layer may lift off the pile while it heats.")


class Layer(Model):
    """One layer of a pile, from the bottom up."""

    steel: SteelKey = Field(**shown("Steel"))
    thickness: Mm = Field(**shown("Thickness", "mm"))


class Stack(PileStart):
    """Layers piled bottom first; their normal is z."""

    kind: Literal["stack"] = "stack"
    title: ClassVar[str] = "Pile"
    blurb: ClassVar[str] = "Flat layers piled up, bottom first."
    layers: Annotated[list[Layer], Field(min_length=1, max_length=MAX_LAYERS)] = Field(**shown("Layers", "", "bottom first"))
    width: Mm = Field(**shown("Width", "mm"))
    length: Mm = Field(**shown("Length", "mm"))

    def size(self, bars: Sequence[Bar] = ()) -> Change:
        height = sum(layer.thickness for layer in self.layers)
        return Change(Bar(self.length, Section("rectangle", self.width, height)))

    def density(self, steels: Mapping[str, Steel], bars: Sequence[Bar] = (), densities: Sequence[float] = ()) -> float:
        height = sum(layer.thickness for layer in self.layers)
        return sum(steels[layer.steel].density * layer.thickness for layer in self.layers) / height

    def joints(self) -> Joints:
        return Joints("z", bare=True) if sum(map(len, self.piles())) > 1 else NONE

    def piles(self) -> tuple[tuple[tuple[str, float], ...], ...]:
        return (tuple((layer.steel, layer.thickness) for layer in self.layers),)

    def heights(self, p: Points, bar: Bar) -> tuple[Array, None]:
        return p.z + bar.thickness / 2, None

    def core_part(self, bars: Sequence[Bar], plain: bool, at_edge: Callable[[], Array]) -> CorePart | None:
        """Three layers, clad alike, or up to MOST_LAYERS alike about the middle, its steel found there alone, never patterned."""
        runs: list[tuple[str, float]] = []
        for layer in self.layers:
            if runs and runs[-1][0] == layer.steel:
                runs[-1] = (layer.steel, runs[-1][1] + layer.thickness)
            else:
                runs.append((layer.steel, layer.thickness))
        keys, half = [k for k, _ in runs], len(runs) // 2
        if len(runs) % 2 == 0 or len(runs) < 3 or keys != keys[::-1]:
            return None
        # a pattern of two steels in turn has no core
        if len(runs) > 3 and (keys.count(keys[half]) > 1 or len(runs) > MOST_LAYERS or not plain):
            return None
        low = sum(t for _, t in runs[:half])
        return CorePart(low, low + runs[half][1], None, runs[half][0])

    @classmethod
    def fresh(cls, bar: dict[str, Any], size: Bar, mirrored: Callable[[dict[str, Any]], dict[str, Any]]) -> dict[str, Any]:
        length, width, thickness = said(size)
        layers = [{"steel": s, "thickness": round(thickness / 7, 2)} for s in ("1084", "15n20") * 3 + ("1084",)]
        return {"start": {"kind": "stack", "layers": layers, "width": width, "length": length}, "steps": bar.get("steps", [])}

    def core(self, bars: Sequence[Bar] = ()) -> tuple[float, float] | None:
        if len(self.layers) != 3:
            return None
        low, middle, high = self.layers
        if low.steel != high.steel or low.steel == middle.steel:
            return None
        return low.thickness, low.thickness + middle.thickness

    def checks(self, bar: Bar, bars: Sequence[Bar] = ()) -> list[Finding]:
        found: list[Finding] = []
        if len(self.layers) < 2:
            return found
        ends = ((0, "bottom", self.layers[0]), (len(self.layers) - 1, "top", self.layers[-1]))
        for index, name, layer in ends:
            if layer.thickness < OUTER_LAYER_MIN:
                found.append(
                    OUTER_LAYER_THIN.found(
                        f"It is {layer.thickness:g} mm; under {OUTER_LAYER_MIN:g} mm the outside gets hot long before "
                        "the middle and curls, and scale and face grinding eat most of it.",
                        f"Put a layer of {OUTER_LAYER_MIN:g} mm or more outside, or tack it along its edges.",
                        steel=name,
                        field=f"layers[{index}].thickness",
                        value=layer.thickness,
                        limit=OUTER_LAYER_MIN,
                        unit="mm",
                    )
                )
        if bar.thickness > 2.5 * bar.width:
            found.append(
                PILE_TALL.found(
                    f"It is {bar.thickness / bar.width:.1f} times as high as it is wide.",
                    "Widen it to at least 1/2.5 of its height, or weld it in two halves.",
                    field="width",
                    value=bar.width,
                    limit=bar.thickness / 2.5,
                    unit="mm",
                )
            )
        return found

    def instruction(self, bar: Bar) -> str:
        n = len(self.layers)
        return (
            f"Cut {n} {'layer' if n == 1 else 'layers'} {bar.length:.4g} x {bar.width:.4g} mm. Take off mill scale, degrease, "
            f"pile them bottom first to {bar.thickness:.4g} mm, tack the corners and weld on a handle."
        )
