"""A blade cut from its bar: recipe and blade brought together, ready to be looked at."""

from collections.abc import Iterator, Mapping
from dataclasses import dataclass

import numpy as np

from varistrat.core.bars.forged import Forged, forge
from varistrat.core.bars.points import Array, Points
from varistrat.core.bars.recipe import BarRecipe, parse
from varistrat.core.bars.trace import Trace
from varistrat.core.blade.geometry import Geometry
from varistrat.core.blade.model import Blade
from varistrat.core.blade.place import Placed
from varistrat.core.errors import InputError
from varistrat.core.laminate.exposure import Side, Station, expose, expose_laminate, stations
from varistrat.core.pattern.picture import Subject


@dataclass(frozen=True)
class Cut:
    """A placed blade and the traced bar it is cut from."""

    placed: Placed
    trace: Trace

    @classmethod
    def of(cls, blade: Blade, forged: Forged | None = None) -> "Cut":
        """`forged`: the bar, if already carried out; else the blade's own recipe or laminate.

        Raises InputError with the path of what is missing or cannot be.
        """
        if forged is None:
            forged = _own_bar(blade)
        if blade.forging.share > 0 and not blade.laminate:
            raise InputError.at(
                "forging.share",
                "a patterned blade forged to shape cannot be predicted yet",
                "set it to 0 (cut from the bar); plain laminates may be forged",
            )
        geometry = Geometry.of(blade, forged.bar.thickness)
        return cls(Placed.of(geometry, forged.bar), Trace(forged))

    def subject(self, tones: Mapping[str, float] | None = None) -> Subject:
        return Subject(self.trace, tones or {})

    @property
    def core(self) -> tuple[float, float] | None:
        """The core's (bottom, top) above the start's underside, mm, if the bar begins as clad, core and clad."""
        f = self.trace.forged
        return f.start.core(f.child_bars)

    def layers_at(self, x: Array, h: Array, z: Array) -> Array:
        """Height above the start's underside of blade points at station x, height h, side z; float64.

        Steel that a step brought in counts as lying far above."""
        bar, faces = self.placed.bar, self.placed.geometry.faces(x, h)
        px, py, pz = (np.array(v, float).ravel() for v in self.placed.inside_bar(x, h, z, faces))
        p = Points(px, py, pz)
        p.clamp(bar.length, bar.width, bar.thickness)
        p = self.trace.begun(p)
        s = p.z + self.trace.forged.first.thickness / 2
        if p.settled is not None:
            s = np.where(p.settled >= 0, 1e6, s)
        return s.reshape(np.broadcast_shapes(x.shape, h.shape, z.shape))

    def exposure(self, n: int) -> Iterator[Station]:
        """The core line at n stations. Raises InputError when there is no core."""
        geometry = self.placed.geometry
        if geometry.blade.laminate:
            yield from expose_laminate(geometry, n)
            return
        if self.core is None:
            raise InputError.at(
                "recipe.bar.start",
                "there is no core: the stack is not clad, core and clad",
                "give a laminate, or a stack of three layers with like outsides",
            )
        low, high = self.core

        def depth(x: Array, h: Array, side: Side) -> Array:
            faces = geometry.faces(x, h)
            s = self.layers_at(x, h, faces.right if side == "right" else faces.left)
            return np.minimum(s - low, high - s)

        x = stations(geometry, n)
        faces = geometry.faces(x, np.zeros_like(x))
        across = (np.arange(200) + 0.5) / 200
        z = faces.left[:, None] + across * faces.thickness[:, None]
        s = self.layers_at(x[:, None], np.zeros((len(x), 1)), z)
        yield from expose(geometry, x, depth, ((s >= low) & (s <= high)).mean(axis=1) * faces.thickness)


def _own_bar(blade: Blade) -> Forged:
    if blade.recipe:
        return forge(blade.recipe.bar, "recipe.bar")
    if not blade.laminate:
        raise InputError.at("recipe", "the blade has neither a recipe nor a laminate", "add one of them")
    geometry = Geometry.of(blade)
    core, clad = blade.laminate.core, blade.laminate.clad
    thick = geometry.bar_thickness
    low, high = geometry.curves.span()
    layers = [(clad.steel, (1 - core.share) / 2), (core.steel, core.share), (clad.steel, (1 - core.share) / 2)]
    start = {
        "kind": "stack", "layers": [{"steel": s, "thickness": v * thick} for s, v in layers],
        "width": 2 * (high - low), "length": 1.2 * geometry.length,
    }  # fmt: skip
    return forge(parse(BarRecipe, {"start": start}))
