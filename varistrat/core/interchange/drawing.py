"""End grain and sections as drawings in mm (SVG, DXF), and as a 16-bit picture of what steel is where (TIFF)."""

from collections.abc import Callable, Mapping
from dataclasses import dataclass
from html import escape
from io import BytesIO, StringIO

import numpy as np
from numpy.typing import NDArray
from PIL import Image, TiffImagePlugin
from shapely import Polygon, simplify
from skimage.measure import find_contours

from varistrat.core.bars.points import Array, Points
from varistrat.core.bars.trace import BLOCK, Trace
from varistrat.core.errors import InputError
from varistrat.core.etch.tones import reflectance
from varistrat.core.interchange.text import printable
from varistrat.core.limits import MAX_SCREEN_PIXELS
from varistrat.core.pattern.views import View
from varistrat.core.steels import Steel

SUBSAMPLES = 3
"""Points a cell along each side: outlines then lie within a fifth of a cell."""
NOTHING = 65535
"""Index of a pixel without steel in the 16-bit picture."""


@dataclass(frozen=True)
class Region:
    """One steel's outlines in a view: closed rings (n, 2) in mm from the view's lower left corner."""

    steel: str
    rings: list[NDArray[np.float64]]


def steel_map(trace: Trace, view: View, px: int, check: Callable[[], None] = lambda: None) -> NDArray[np.int16]:
    """Steel index at the middle of every pixel (rows from the top), -1 where there is none. Raises InputError when too big."""
    width, height = view.size
    rows = max(1, round(height * px / width))
    if px * rows > MAX_SCREEN_PIXELS:
        raise InputError.at("px", f"{px} x {rows} pixels are too many", f"keep them within {MAX_SCREEN_PIXELS // 1_000_000} million")
    a = ((np.arange(px) + 0.5) * (width / px)).astype(np.float64)
    out = np.full((rows, px), -1, np.int16)
    each = max(1, BLOCK // px)
    for top in range(0, rows, each):
        check()
        at = np.arange(top, min(rows, top + each))
        patch = view.patch(a, height - (at + 0.5) * (height / rows))
        x, y, z = (np.array(v, np.float64).ravel() for v in (patch.x, patch.y, patch.z))
        steel = trace.steel(Points(x, y, z))
        out[at] = np.where(patch.cover > 0.5, steel.reshape(patch.x.shape), -1)
    return out


MOST_CELLS = 700_000
"""Of a section's outlines: a long slanting one is drawn with larger cells."""


def _cells_across(view: View, cells_per_mm: float = 12.0) -> int:
    width, height = view.size
    finest = (MOST_CELLS * width / height) ** 0.5
    return int(np.clip(round(min(width * cells_per_mm, finest)), 40, 1200))


def section_points(view: View, kind: str) -> float:
    """Points that a drawing of this kind looks at, reckoned beforehand."""
    width, height = view.size
    px = np.clip(round(width * 20), 100, 3000) if kind == "tiff" else _cells_across(view) * SUBSAMPLES
    return float(px * px * height / width)


def regions(trace: Trace, view: View, cells_per_mm: float = 12.0, check: Callable[[], None] = lambda: None) -> list[Region]:
    """Outlines of every steel in the view, from its share of each cell; good to about a fifth of a cell."""
    width, _ = view.size
    px = _cells_across(view, cells_per_mm)
    fine = steel_map(trace, view, px * SUBSAMPLES, check)
    rows = fine.shape[0] // SUBSAMPLES
    fine = fine[: rows * SUBSAMPLES]
    cell = width / px
    found = []
    for i, key in enumerate(trace.steels):
        share = (fine == i).reshape(rows, SUBSAMPLES, px, SUBSAMPLES).mean(axis=(1, 3))
        if not share.any():
            continue
        rings: list[NDArray[np.float64]] = []
        for ring in find_contours(np.pad(share, 1), 0.5):
            if len(ring) < 4:
                continue
            if len(rings) % 200 == 0:
                check()
            points = np.column_stack([(ring[:, 1] - 0.5) * cell, rows * cell - (ring[:, 0] - 0.5) * cell])
            outline = simplify(Polygon(points), 0.2 * cell).exterior.coords
            rings.append(np.clip(np.array(outline), 0, [width, rows * cell]))
        if rings:
            found.append(Region(key, rings))
    return found


def svg(found: list[Region], size: tuple[float, float], title: str, steels: Mapping[str, Steel]) -> str:
    """A drawing to scale: its width and height are in mm, a unit is a mm."""
    width, height = size
    parts = [
        f'<svg xmlns="http://www.w3.org/2000/svg" width="{width:.3f}mm" height="{height:.3f}mm" viewBox="0 0 {width:.3f} {height:.3f}">',
        f"<title>{escape(printable(title))}</title>",
    ]
    for region in found:
        grey = round(255 * min(1.0, reflectance(steels[region.steel].shade)) ** (1 / 2.2))
        path = " ".join("M" + " L".join(f"{x:.3f},{height - y:.3f}" for x, y in ring) + " Z" for ring in region.rings)
        parts.append(
            f'<path id="{escape(region.steel)}" fill="rgb({grey},{grey},{grey})" fill-rule="evenodd" d="{path}">'
            f"<title>{escape(steels[region.steel].name)}</title></path>"
        )
    return "\n".join([*parts, "</svg>\n"])


def dxf(found: list[Region]) -> bytes:
    """Closed polylines in mm, a layer for each steel."""
    import ezdxf.filemanagement
    import ezdxf.units

    document = ezdxf.filemanagement.new("R2010", units=ezdxf.units.MM)
    space = document.modelspace()
    for region in found:
        document.layers.add(region.steel)
        for ring in region.rings:
            space.add_lwpolyline([(float(x), float(y)) for x, y in ring[:-1]], close=True, dxfattribs={"layer": region.steel})
    out = StringIO()
    document.write(out)
    return out.getvalue().encode()


def index_tiff(trace: Trace, view: View, px: int, note: str = "", check: Callable[[], None] = lambda: None) -> bytes:
    """16-bit TIFF: each pixel the number of its steel (NOTHING outside), the list in its description, scale in its resolution."""
    index = steel_map(trace, view, px, check)
    values = np.where(index < 0, NOTHING, index).astype(np.uint16)
    tags = TiffImagePlugin.ImageFileDirectory_v2()
    listed = "; ".join(f"{i} = {key}" for i, key in enumerate(trace.steels))
    tags[270] = f"{note}. Steel numbers: {listed}; {NOTHING} = none".lstrip(". ").encode("ascii", "replace").decode()
    out = BytesIO()
    scale = px / view.size[0] * 25.4
    Image.fromarray(values).save(out, "TIFF", compression="tiff_deflate", tiffinfo=tags, dpi=(scale, scale))
    return out.getvalue()


def draw_section(trace: Trace, view: View, kind: str, title: str, check: Callable[[], None] = lambda: None) -> bytes:
    """The section as `svg`, `dxf` or `tiff` bytes; `check` is called now and then and may raise."""
    if kind == "tiff":
        return index_tiff(trace, view, int(np.clip(round(view.size[0] * 20), 100, 3000)), title, check)
    found = regions(trace, view, check=check)
    return dxf(found) if kind == "dxf" else svg(found, view.size, title, trace.forged.shop.steels).encode()


def area_of(ring: Array) -> float:
    """mm2 inside a closed ring, counter-clockwise positive."""
    x, y = ring[:, 0], ring[:, 1]
    return float((x[:-1] * y[1:] - x[1:] * y[:-1]).sum() / 2)
