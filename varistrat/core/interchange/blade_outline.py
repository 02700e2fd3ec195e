"""A blade's outline read from a drawing, and written as one (SVG, DXF), in mm."""

from dataclasses import dataclass
from html import escape
from io import StringIO
from typing import Literal

import numpy as np
from shapely import LineString, Polygon, simplify
from shapely.ops import linemerge

from varistrat.core.bars.points import Array
from varistrat.core.blade.geometry import Geometry
from varistrat.core.blade.model import Drawn
from varistrat.core.blade.outline import curves
from varistrat.core.errors import InputError
from varistrat.core.interchange.outline import read_curves
from varistrat.core.interchange.text import printable

GAP = 0.12
"""Ends of open curves nearer than this share of the drawing's size are joined."""
FOLDED = 0.02
"""Share of the area that may be lost by taking the outline as two curves over x."""
SAMPLES, FINE = 600, 0.01
MOST_CURVES = 400


@dataclass(frozen=True)
class Asked:
    """How the drawing lies. length: true length of what is drawn, mm (None: the drawing's own mm); heel:
    mm of it behind the heel (a tang)."""

    tip: Literal["right", "left"] = "right"
    edge: Literal["down", "up"] = "down"
    length: float | None = None
    heel: float = 0.0


@dataclass(frozen=True)
class Found:
    """The outline, its size, and what was done to the drawing to read it."""

    outline: Drawn
    length: float
    height: float
    notes: list[str]


def read_blade_outline(name: str, raw: bytes, asked: Asked = Asked()) -> Found:
    """The largest outline of the drawing as edge and spine. Raises InputError saying why it cannot be one."""
    notes: list[str] = []
    ring = _largest(name, raw, notes)
    if np.ptp(ring[:, 1]) > np.ptp(ring[:, 0]):
        ring = ring[:, ::-1] * (1, -1)
        notes.append("turned to lie along")
    if asked.tip == "left":
        ring = ring * (-1, -1) if asked.edge == "up" else ring * (-1, 1)
    elif asked.edge == "up":
        ring = ring * (1, -1)
    ring = ring - ring.min(axis=0)
    long = float(ring[:, 0].max())
    if long <= 0:
        raise InputError.at("file", "the outline has no length", "draw the blade's outline")
    if asked.length is not None:
        ring = ring * (asked.length / long)
        long = asked.length
    if not 10 <= long <= 2000:
        raise InputError.at("length", f"the outline would be {long:.4g} mm long", "give its true length, 10 to 2000 mm")
    if not 0 <= asked.heel < 0.8 * long:
        raise InputError.at("heel", f"{asked.heel:g} mm behind the heel leave no blade", f"give less than {0.8 * long:.0f} mm")
    edge, spine = _as_curves(ring, asked.heel, long)
    return Found(_drawn(edge, spine), long - asked.heel, float(np.ptp(np.concatenate([edge[:, 1], spine[:, 1]]))), notes)


def _largest(name: str, raw: bytes, notes: list[str]) -> Array:
    """Points round the largest outline, open curves joined where their ends nearly meet."""
    open_ones, best, most = [], None, 0.0
    for count, (points, closed) in enumerate(read_curves(name, raw)):
        if count >= MOST_CURVES:
            break
        if not np.isfinite(points).all() or len(points) < 2:
            continue
        if closed and len(points) >= 3:
            area = abs(Polygon(points).buffer(0).area)
            if area > most:
                best, most = points, area
        elif not closed:
            open_ones.append(points)
    if open_ones:
        joined = _joined(open_ones)
        if joined is not None and abs(Polygon(joined).buffer(0).area) > most:
            best = joined
            notes.append(f"{len(open_ones)} open {'curve was' if len(open_ones) == 1 else 'curves were'} joined into one outline")
    if best is None:
        raise InputError.at(
            "file",
            "there is no closed outline in the drawing, and its open curves do not meet",
            "draw the blade's outline as one closed shape",
        )
    shape = Polygon(best)
    if not shape.is_valid:
        mended = shape.buffer(0)
        if mended.geom_type != "Polygon" or abs(mended.area - abs(_shoelace(best))) > FOLDED * mended.area:
            raise InputError.at("file", "the outline crosses itself", "draw it so that it goes round once")
        best = np.array(mended.exterior.coords)[:-1]
        notes.append("a small crossing was taken out")
    return best


def _shoelace(p: Array) -> float:
    x, y = p[:, 0], p[:, 1]
    return float((x * np.roll(y, -1) - y * np.roll(x, -1)).sum() / 2)


def _joined(parts: list[Array]) -> Array | None:
    """One ring from open curves: ends that touch are merged, the nearest others bridged; None when a gap is too wide."""
    size = float(np.ptp(np.concatenate(parts), axis=0).max())
    merged = linemerge([LineString(p) for p in parts]) if len(parts) > 1 else LineString(parts[0])
    rest = [np.array(g.coords) for g in (merged.geoms if merged.geom_type == "MultiLineString" else [merged])]
    rest.sort(key=lambda p: -len(p))
    chain = rest.pop(0)
    while rest:
        end = chain[-1]
        gaps = [(float(np.hypot(*(p[k] - end))), i, k) for i, p in enumerate(rest) for k in (0, -1)]
        gap, i, k = min(gaps)
        if gap > GAP * size:
            return None
        part = rest.pop(i)
        chain = np.concatenate([chain, part if k == 0 else part[::-1]])
    if float(np.hypot(*(chain[0] - chain[-1]))) > GAP * size + 0.5 * float(np.ptp(chain[:, 1])):
        return None
    return chain if len(chain) >= 3 else None


def _as_curves(ring: Array, heel: float, long: float) -> tuple[Array, Array]:
    """Edge and spine (n, 2) from the heel on, x from 0: the lower and the upper rim of the shape."""
    shape = Polygon(ring).buffer(0)
    v = np.linspace(0, 1, SAMPLES)
    x = heel + (long - heel) * np.unique(np.concatenate([v, 1 - (1 - v) ** 2]))
    inset = 1e-6 * long
    low, high = np.empty_like(x), np.empty_like(x)
    _, bottom, _, top = shape.bounds
    for i, at in enumerate(np.clip(x, inset, long - inset)):
        cut = shape.intersection(LineString([(at, bottom - 1), (at, top + 1)]))
        if cut.is_empty:
            raise InputError.at("file", f"the outline falls apart {at - heel:.1f} mm from the heel", "draw it as one closed shape")
        _, low[i], _, high[i] = cut.bounds
    covered = float(np.trapezoid(high - low, x))
    beyond = Polygon([(heel, bottom - 1), (long + 1, bottom - 1), (long + 1, top + 1), (heel, top + 1)])
    true = float(shape.intersection(beyond).area)
    if covered - true > FOLDED * true:
        raise InputError.at(
            "file", "edge or spine runs back under itself, or there are holes", "draw only the blade's rim; say how much of it is tang"
        )
    low, high = low - low[0], high - low[0]
    x = x - x[0]
    return np.column_stack([x, low]), np.column_stack([x, high])


def _drawn(edge: Array, spine: Array) -> Drawn:
    parts = []
    for curve in (edge, spine):
        short = np.array(simplify(LineString(curve), FINE).coords)
        parts.append([[round(float(a), 4), round(float(b), 4)] for a, b in short])
    parts[0][-1][0] = parts[1][-1][0]
    found = Drawn(edge=parts[0], spine=parts[1])
    curves(found)
    return found


def outline_rings(geometry: Geometry) -> dict[str, Array]:
    """Closed rings (n, 2) in the blade's frame, mm: the blade, and its tang where it has one."""
    c = geometry.curves
    blade = np.concatenate([np.column_stack([c.edge_x, c.edge_y]), np.column_stack([c.spine_x, c.spine_y])[::-1]])
    rings = {"blade": blade}
    tang = geometry.tang()
    if tang is not None:
        rings["tang"] = tang
    return rings


def write_blade_outline(geometry: Geometry, kind: Literal["svg", "dxf"], title: str) -> bytes:
    """To scale; edge down, tip right."""
    rings = outline_rings(geometry)
    if kind == "dxf":
        import ezdxf.filemanagement
        import ezdxf.units

        document = ezdxf.filemanagement.new("R2010", units=ezdxf.units.MM)
        for name, ring in rings.items():
            document.layers.add(name)
            document.modelspace().add_lwpolyline([(float(x), float(y)) for x, y in ring], close=True, dxfattribs={"layer": name})
        out = StringIO()
        document.write(out)
        return out.getvalue().encode()
    every = np.concatenate(list(rings.values()))
    (x0, y0), (x1, y1) = every.min(axis=0), every.max(axis=0)
    parts = [
        (
            f'<svg xmlns="http://www.w3.org/2000/svg" width="{x1 - x0:.3f}mm" height="{y1 - y0:.3f}mm" viewBox="0 0 {x1 - x0:.3f} '
            f'{y1 - y0:.3f}">'
        ),
        f"<title>{escape(printable(title))}</title>",
    ]
    for name, ring in rings.items():
        path = "M" + " L".join(f"{x - x0:.3f},{y1 - y:.3f}" for x, y in ring) + " Z"
        parts.append(f'<path id="{name}" fill="none" stroke="black" stroke-width="0.1" d="{path}"/>')
    return "\n".join([*parts, "</svg>\n"]).encode()
