"""What is measured on a finished blade: weight, balance, behind the edge, angles, what is left of the bar.

Lengths mm, volumes mm3, masses g, angles degrees. Derived in docs/physics.md#measures.
"""

from dataclasses import dataclass
from typing import Any, Literal

import numpy as np

from varistrat.core.bars.identity import with_ids
from varistrat.core.bars.points import Array
from varistrat.core.bars.recipe import BarRecipe, bar_as_json
from varistrat.core.blade.geometry import Geometry
from varistrat.core.blade.place import Placed
from varistrat.core.findings import Code, Finding
from varistrat.core.heat.hardening.edge import edge_to_leave
from varistrat.core.reading import parse
from varistrat.core.shop import AS_SHIPS, ShopData

STATIONS, HEIGHTS = 240, 80
FOR_USE: dict[str, tuple[float, float]] = {"slicing": (0.15, 0.30), "general": (0.40, 0.60), "chopping": (0.80, 1.20), "sword": (1.0, 2.0)}
"""Thickness behind the edge by use, mm; indicative."""
HANDLES: dict[str, float] = {
    "bog oak": 0.75e-3,
    "boxwood": 0.95e-3,
    "beech": 0.72e-3,
    "horn": 1.3e-3,
    "bone": 1.9e-3,
    "leather": 0.95e-3,
    "canvas laminate": 1.35e-3,
    "brass": 8.5e-3,
}
"""Density of handle materials, g/mm3; indicative."""


EDGE_THIN_TO_HARDEN = Code(
    "edge_thin_to_harden", "grind", ("note",), "Ground to this edge the blade is too thin to harden: it waves or cracks in the quench."
)
HOLLOW_THIN = Code("hollow_thin", "grind", ("care",), "The hollow leaves much of the blade too thin to harden straight.")


@dataclass(frozen=True)
class Handle:
    """A handle about the tang: an oval `width` by `thickness`, its steel let in. `length` from the heel back; density g/mm3."""

    length: float
    width: float
    thickness: float
    density: float


@dataclass(frozen=True)
class Body:
    """Volume (mm3) and where its middle lies from the heel (mm, + towards the tip)."""

    volume: float
    middle: float


def blade_body(geometry: Geometry) -> Body:
    """The blade alone, by the midpoint rule on STATIONS x HEIGHTS cells."""
    n, length = STATIONS, geometry.length
    x = (np.arange(n) + 0.5) * length / n
    height = geometry.height(x)
    h = (np.arange(HEIGHTS) + 0.5) / HEIGHTS * height[:, None]
    area = np.maximum(geometry.faces(x[:, None], h).thickness, 0).mean(axis=1) * height
    volume = float(area.sum()) * length / n
    return Body(volume, float((area * x).sum()) * length / n / volume)


def bevel_volume(geometry: Geometry) -> float:
    """What is ground off the profiled blank, as thick all over as its spine, for the blade's faces, mm3; by the same rule."""
    n = STATIONS
    x = (np.arange(n) + 0.5) * geometry.length / n
    height = geometry.height(x)
    h = (np.arange(HEIGHTS) + 0.5) / HEIGHTS * height[:, None]
    thick = np.maximum(geometry.faces(x[:, None], h).thickness, 0)
    spine = np.maximum(thick.max(axis=1), geometry.faces(x, height).thickness)
    return float(((spine - thick.mean(axis=1)) * height).sum()) * geometry.length / n


def tang_body(geometry: Geometry) -> Body:
    """The tang: a trapezium as thick as the spine at the heel."""
    tang = geometry.blade.tang
    if tang is None:
        return Body(0.0, 0.0)
    a, b, long = tang.width, tang.end_width, tang.length
    return Body(geometry.blade.spine_thickness.heel * long * (a + b) / 2, -long * (a + 2 * b) / (3 * (a + b)))


@dataclass(frozen=True)
class Balance:
    """Masses (g) and the balance point from the heel (mm, + towards the tip)."""

    blade: float
    tang: float
    handle: float
    point: float
    point_bare: float

    @property
    def whole(self) -> float:
        """g."""
        return self.blade + self.tang + self.handle


def balance(geometry: Geometry, density: float, handle: Handle | None = None) -> Balance:
    """`density` of the steel, g/mm3. The handle's own steel is the tang's; it is hollowed for it."""
    blade, tang = blade_body(geometry), tang_body(geometry)
    steel = (blade.volume + tang.volume) * density
    moment = (blade.volume * blade.middle + tang.volume * tang.middle) * density
    wood = 0.0
    bare = moment / steel
    if handle:
        inside = _tang_within(geometry, handle.length)
        whole = np.pi / 4 * handle.width * handle.thickness * handle.length
        wood = max(whole - inside.volume, 0.0) * handle.density
        moment += wood * (whole * -handle.length / 2 - inside.volume * inside.middle) / max(whole - inside.volume, 1e-9)
    return Balance(blade.volume * density, tang.volume * density, wood, moment / (steel + wood), bare)


def _tang_within(geometry: Geometry, length: float) -> Body:
    """The part of the tang the handle covers."""
    tang = geometry.blade.tang
    if tang is None:
        return Body(0.0, 0.0)
    long = min(length, tang.length)
    a = tang.width
    b = a + (tang.end_width - a) * long / tang.length
    return Body(geometry.blade.spine_thickness.heel * long * (a + b) / 2, -long * (a + 2 * b) / (3 * (a + b)))


def behind_edge(geometry: Geometry, x: Array, above: float) -> Array:
    """Full thickness at `above` mm from the edge, square to it, at stations x."""
    cos = np.cos(geometry.curves.edge_angle(x))
    h = np.minimum(above / cos, geometry.height(x))
    out: Array = geometry.faces(x, h).thickness
    return out


def included_angle(geometry: Geometry, x: Array, over: float = 0.5) -> Array:
    """Angle between the two faces at the edge, degrees, square to it: from the chord over the first `over` mm."""
    grown = behind_edge(geometry, x, over) - behind_edge(geometry, x, 0.0)
    return np.asarray(np.rad2deg(2 * np.arctan(grown / 2 / over)))


def stations_where_ground(geometry: Geometry, n: int = 60) -> Array:
    """Stations past the ricasso and plunge and short of the last 2 % of the length."""
    grind = geometry.blade.grind
    first = min(grind.ricasso + grind.plunge, 0.9 * geometry.length)
    return first + (np.arange(n) + 0.5) / n * (0.98 * geometry.length - first)


def finished_edge(geometry: Geometry) -> float:
    """How thick the ground edge is where it is thinnest, mm."""
    return float(behind_edge(geometry, stations_where_ground(geometry), 0.0).min())


def hardening_findings(geometry: Geometry, quench: str, left: float) -> list[Finding]:
    """A thin edge, or a hollow that leaves the bevel thin for long, cracks or waves in the quench. left: what the plan of the hardening
    leaves at the edge, mm: where that is what is usual for the bath, nothing is thin."""
    least, usual = edge_to_leave(quench, geometry.length, geometry.blade.spine_thickness.most)
    x = stations_where_ground(geometry)
    if left >= least - 1e-9:
        return []
    found = [
        EDGE_THIN_TO_HARDEN.found(
            f"It is planned to be quenched with an edge of {left:.2g} mm; for {quench.replace('_', ' ')} {least:.2g} to {usual:.2g} mm "
            "is left. Indicative.",
            f"Harden with {least:.2g} mm or more at the edge and grind the rest afterwards, cool.",
            field="grind.right.edge_thickness",
            value=left,
            limit=least,
            unit="mm",
        )
    ]
    if any(g.kind == "hollow" for g in (geometry.blade.grind.right, geometry.blade.grind.left)):
        up = np.linspace(0, 1, 60)
        # as much thicker all over as its edge is left
        t = geometry.faces(x[:, None], up * geometry.height(x)[:, None]).thickness + max(0.0, left - finished_edge(geometry))
        reach = (t < least).mean(axis=1)
        if float(reach.max()) > 0.35:
            found.append(
                HOLLOW_THIN.found(
                    f"{100 * float(reach.max()):.0f} % of the height is under {least:.2g} mm. Indicative.",
                    "Grind the hollow after hardening, use a larger wheel, or a lower bevel.",
                    field="grind.right.wheel_radius",
                    value=100 * float(reach.max()),
                    limit=35.0,
                    unit="%",
                )
            )
    return found


OffcutName = Literal["heel end", "tip end", "edge side", "spine side"]


@dataclass(frozen=True)
class Offcut:
    """What is left of the bar: a block of it, the largest rectangle on that side of the blade, mm."""

    name: OffcutName
    length: float
    width: float
    thickness: float

    @property
    def volume(self) -> float:
        """mm3."""
        return self.length * self.width * self.thickness


KEEP = 5.0
"""An offcut shorter or narrower than this is not worth keeping, mm."""


def offcuts(placed: Placed, kerf: float = 2.0) -> list[Offcut]:
    """Blocks of the bar beyond the blade, its tang and a saw cut, worth keeping."""
    bar, geometry = placed.bar, placed.geometry
    t = bar.thickness
    found: list[Offcut] = []
    if placed.forge_map:
        m = placed.forge_map
        behind = m.heel - tang_body(geometry).volume / (bar.width * t)
        found = [Offcut("heel end", behind - kerf, bar.width, t), Offcut("tip end", bar.length - m.end - kerf, bar.width, t)]
    else:
        x = np.linspace(0, geometry.length, 200)
        xs, ys = [x, x], [geometry.curves.edge(x), geometry.curves.spine(x)]
        tang = geometry.tang()
        if tang is not None:
            xs.append(tang[:, 0])
            ys.append(tang[:, 1])
        bx, by, _ = placed.to_bar(np.concatenate(xs), np.concatenate(ys), np.zeros(sum(map(len, xs))))
        before, after = float(bx.min()), bar.length - float(bx.max())
        front, back = float(by.min()) + bar.width / 2, bar.width / 2 - float(by.max())
        used = float(bx.max() - bx.min())
        sx, sy, _ = placed.signs
        found = [
            Offcut("heel end" if sx > 0 else "tip end", before - kerf, bar.width, t),
            Offcut("tip end" if sx > 0 else "heel end", after - kerf, bar.width, t),
            Offcut("edge side" if sy > 0 else "spine side", used, front - kerf, t),
            Offcut("spine side" if sy > 0 else "edge side", used, back - kerf, t),
        ]
    return [o for o in found if o.length >= KEEP and o.width >= KEEP]


def offcut_bar(placed: Placed, offcut: Offcut, bar: BarRecipe, shop: ShopData = AS_SHIPS) -> BarRecipe:
    """The offcut as a bar of its own: the recipe of the whole, cut down to it."""
    whole = placed.bar
    sx, sy, _ = placed.signs
    more: list[dict[str, Any]] = []
    if offcut.name in ("heel end", "tip end"):
        at_start = (offcut.name == "heel end") == (sx > 0)
        more.append({"kind": "trim", ("end" if at_start else "start"): whole.length - offcut.length})
    else:
        in_front = (offcut.name == "edge side") == (sy > 0)
        x = np.linspace(0, placed.geometry.length, 50)
        along = placed.to_bar(x, placed.geometry.curves.edge(x), np.zeros_like(x))[0]
        start = float(np.clip(along.min(), 0, whole.length - offcut.length))
        more.append({"kind": "trim", "start": start, "end": whole.length - start - offcut.length})
        more.append({"kind": "grind", ("back" if in_front else "front"): whole.width - offcut.width})
    whole_bar = bar_as_json(bar)
    return parse(BarRecipe, with_ids({**whole_bar, "steps": [*whole_bar["steps"], *more], "note": f"offcut, {offcut.name}"}), shop)


@dataclass(frozen=True)
class Section:
    """The blade cut across at x, seen from the heel: right face to the right. Heights above the edge and faces, mm."""

    x: float
    height: float
    h: list[float]
    right: list[float]
    left: list[float]
    core_right: list[float] | None = None
    core_left: list[float] | None = None


def sections(geometry: Geometry, x: Array, core: tuple[float, float] | None = None, points: int = 41) -> list[Section]:
    """Sections at stations x; `core`: (share, offset) of a flat core in the bar, drawn where it lies within the faces."""
    height = geometry.height(x)
    h = np.linspace(0, 1, points) * height[:, None]
    f = geometry.faces(x[:, None], h)
    inner: list[tuple[list[float], list[float]] | None] = [None] * len(x)
    if core:
        half = geometry.core_share(core[0], x[:, None], f.forged) * f.forged / 2
        middle = f.layers + core[1] * f.forged
        right, left = np.clip(middle + half, f.left, f.right), np.clip(middle - half, f.left, f.right)
        inner = [(right[i].tolist(), left[i].tolist()) for i in range(len(x))]
    out = []
    for i in range(len(x)):
        at = inner[i]
        out.append(
            Section(float(x[i]), float(height[i]), h[i].tolist(), f.right[i].tolist(), f.left[i].tolist(), *(at if at else (None, None)))
        )
    return out
