"""A blade cut from its bar: recipe and blade brought together, ready to be looked at."""

from collections.abc import Iterator
from dataclasses import dataclass, replace

import numpy as np

from varistrat.core.bars.bar import Bar
from varistrat.core.bars.forged import Forged, forge
from varistrat.core.bars.points import Array, Points
from varistrat.core.bars.recipe import BarRecipe
from varistrat.core.bars.trace import Trace
from varistrat.core.blade.geometry import Geometry
from varistrat.core.blade.model import Blade
from varistrat.core.blade.place import Placed
from varistrat.core.cached import cached_property
from varistrat.core.errors import InputError
from varistrat.core.heat.fires.fired_tones import FiredTones
from varistrat.core.laminate.core import Core, find_core
from varistrat.core.laminate.exposure import EXACT, Fineness, Station, expose, expose_laminate, stations
from varistrat.core.pattern.picture import Subject
from varistrat.core.reading import parse
from varistrat.core.shop import AS_SHIPS, ShopData


@dataclass(frozen=True)
class Cut:
    """A placed blade and the traced bar it is cut from."""

    placed: Placed
    trace: Trace

    @classmethod
    def of(cls, blade: Blade, forged: Forged | None = None, shop: ShopData = AS_SHIPS) -> "Cut":
        """`forged`: the bar, if already carried out; else the blade's own recipe or laminate, forged with the steels of `shop`.

        Raises InputError with the path of what is missing or cannot be.
        """
        if forged is None:
            forged = _own_bar(blade, shop)
        geometry = Geometry.of(blade, forged.bar.thickness)
        trace = Trace(forged)
        cut = cls(Placed.of(geometry, forged.bar), trace)
        if blade.errors.core_share != 0 or blade.errors.flow != 0:
            flat = cut.flat_core
            if flat is None:
                return cut
            # the planned share is the bar's own, before what is said about its error
            cut = cls(replace(cut.placed, core=flat[0]), trace)
        return cut

    @property
    def geometry(self) -> Geometry:
        """The blade as ground."""
        return self.placed.geometry

    def subject(self, fired: FiredTones | None = None) -> Subject:
        """What is drawn of it: etched as the steels are, or as the fires left them."""
        return Subject(self.trace, fired.tones, fired.skin) if fired else self._unfired

    @cached_property
    def _unfired(self) -> Subject:
        """One for both faces, so that its tables are made once."""
        return Subject(self.trace)

    @cached_property
    def part(self) -> Core | None:
        """Which part of the bar is its core; None when the bar is no laminate."""
        return find_core(self.trace.forged, self._at_edge)

    @property
    def core(self) -> tuple[float, float] | None:
        """The core's (bottom, top) above the underside of `core_bar`, mm, if it lies between clads."""
        part = self.part
        return (part.low, part.high) if part and part.bar is None else None

    @property
    def core_bar(self) -> Bar:
        """The bar in which `core` is told: the start, or what a step made that laid it in."""
        assert self.part
        return self.part.bar_of(self.trace.forged)

    def _at_edge(self) -> Array:
        """Which of the joined bars is met in the middle of the edge, at stations along it."""
        geometry = self.placed.geometry
        x = np.linspace(0.03, 0.9, 25) * geometry.length
        faces = geometry.faces(x, np.zeros_like(x))
        p = self.trace.begun(self._points(x, np.zeros_like(x), faces.ground_middle))
        f = self.trace.forged
        return f.start.pick(p, f.first, f.child_bars)  # type: ignore[attr-defined]

    @cached_property
    def flat_core(self) -> tuple[float, float] | None:
        """(share of the bar's thickness, offset of its middle towards the blade's right as such a share) of a core that lies between
        clads right across the bar; None where there is none. Medians over places along the middle."""
        if self.core is None:
            return None
        bar = self.placed.bar
        x, z = np.linspace(0.1, 0.9, 9) * bar.length, (np.arange(600) + 0.5) / 600 - 0.5
        px, pz = (v.ravel() for v in np.broadcast_arrays(x[:, None], z * bar.thickness))
        assert self.part
        inside = self.part.depth(self.trace, Points(px.copy(), np.zeros_like(px), pz.copy())).reshape(len(x), -1) >= 0
        share = inside.mean(axis=1)
        middle = (inside * z).sum(axis=1) / np.maximum(inside.sum(axis=1), 1)
        found = float(np.median(share))
        return (found, float(np.median(middle)) * self.placed.signs[2]) if found > 0 else None

    def _points(self, x: Array, h: Array, z: Array) -> Points:
        """Blade points as points of the finished bar, float64, flattened."""
        bar, faces = self.placed.bar, self.placed.geometry.faces(x, h)
        px, py, pz = (np.array(v, float).ravel() for v in self.placed.inside_bar(x, h, z, faces))
        p = Points(px, py, pz)
        p.clamp(bar.length, bar.width, bar.thickness)
        return p

    def depth(self, x: Array, h: Array, z: Array) -> Array:
        """How far inside the core blade points lie (see Core.depth); there must be one."""
        assert self.part
        return self.part.depth(self.trace, self._points(x, h, z)).reshape(np.broadcast_shapes(x.shape, h.shape, z.shape))

    def layers_at(self, x: Array, h: Array, z: Array) -> Array:
        """Height of blade points at station x, height h, side z above the underside of `core_bar`; float64. There must be a core."""
        assert self.part
        s = self.part.height(self.trace, self._points(x, h, z))
        return s.reshape(np.broadcast_shapes(x.shape, h.shape, z.shape))

    def exposure(self, n: int, fine: Fineness = EXACT) -> Iterator[Station]:
        """The core line at n stations. Raises InputError when there is no core."""
        geometry = self.placed.geometry
        if geometry.blade.laminate:
            yield from expose_laminate(geometry, n, fine)
            return
        if self.part is None:
            raise InputError.at(
                "recipe.bar.start",
                "there is no core: the bar is not clad, core and clad",
                "give a laminate, a stack of three layers with like outsides, or a bar with a core let in, jacketed or joined at the edge",
            )

        def depth(x: Array, h: Array) -> tuple[Array, Array]:
            faces = geometry.faces(x, h)
            both = self.depth(x, h, np.stack([faces.right, faces.left]))
            return both[0], both[1]

        x = stations(geometry, n)
        faces = geometry.faces(x, np.zeros_like(x))
        across = (np.arange(200) + 0.5) / 200
        z = faces.left[:, None] + across * faces.thickness[:, None]
        inside = self.depth(x[:, None], np.zeros((len(x), 1)), z) >= 0
        yield from expose(geometry, x, depth, inside.mean(axis=1) * faces.thickness, fine)


def _own_bar(blade: Blade, shop: ShopData) -> Forged:
    if blade.recipe:
        return forge(blade.recipe.bar, "recipe.bar", shop)
    if not blade.laminate:
        raise InputError.at("recipe", "the blade has neither a recipe nor a laminate", "add one of them")
    geometry = Geometry.of(blade)
    core, clad = blade.laminate.core, blade.laminate.clad
    thick = geometry.bar_thickness
    low, high = geometry.curves.span()
    layers = [(clad.steel, (1 - core.share) / 2), (core.steel, core.share), (clad.steel, (1 - core.share) / 2)]
    start = {
        "kind": "stack",
        "layers": [{"steel": s, "thickness": v * thick} for s, v in layers],
        "width": 2 * (high - low),
        "length": 1.2 * geometry.length,
    }
    return forge(parse(BarRecipe, {"start": start}, shop), shop=shop)
