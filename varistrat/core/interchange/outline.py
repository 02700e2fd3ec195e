"""Outlines read from a drawing (SVG or DXF): cut-outs for a canister, and the curves of a blade's. Nothing in the file is trusted."""

from collections.abc import Iterable
from io import StringIO
from typing import TYPE_CHECKING

import numpy as np
from shapely import Polygon, simplify

from varistrat.core.errors import InputError
from varistrat.core.limits import MAX_CUTOUT_POINTS, MAX_DRAWING_BYTES, MAX_OUTLINES

if TYPE_CHECKING:
    import svgelements

MAX_COORDINATE = 1e5
"""mm (or units): a hundred metres; what lies beyond is a slip or worse."""
MAX_SHAPES, MAX_POINTS = 4000, 200_000
"""Curves after everything that is used again is put in, and points of them all."""
CHORD = 1 / 400
"""Curves are followed to this share of the outline's size."""
DXF_CURVES = ("LWPOLYLINE", "POLYLINE", "CIRCLE", "ELLIPSE", "SPLINE", "LINE", "ARC")
Outline = list[list[float]]


def read_outlines(name: str, raw: bytes) -> list[Outline]:
    """Closed outlines of an SVG or DXF drawing, largest first, corners [y, z] about their own middle, mm.

    SVG runs downwards and is turned up; its units count as CSS says (96 to the inch) unless they are given.
    Raises InputError saying what is wrong with the file.
    """
    if len(raw) > MAX_DRAWING_BYTES:
        raise InputError.at("file", f"the drawing has {len(raw)} bytes, more than {MAX_DRAWING_BYTES}", "save it simpler")
    found = []
    for ring, closed in read_curves(name, raw):
        if not closed or len(ring) < 3 or not np.isfinite(ring).all():
            continue
        shape = Polygon(ring)
        if not shape.is_valid or shape.area <= 0:
            continue
        size = max(np.ptp(ring, axis=0))
        tolerance = size * CHORD / 4
        corners = np.array(simplify(shape, tolerance).exterior.coords)[:-1]
        while len(corners) > MAX_CUTOUT_POINTS:
            tolerance *= 2
            corners = np.array(simplify(shape, tolerance).exterior.coords)[:-1]
        corners = corners - (corners.max(axis=0) + corners.min(axis=0)) / 2
        found.append((shape.area, corners))
        if len(found) >= MAX_OUTLINES:
            break
    if not found:
        raise InputError.at(
            "file", "there is no closed outline in the drawing", "draw one closed shape that does not cross itself, and save it"
        )
    found.sort(key=lambda f: -f[0])
    return [[[round(float(y), 4), round(float(z), 4)] for y, z in corners] for _, corners in found]


def read_curves(name: str, raw: bytes) -> Iterable[tuple[np.ndarray, bool]]:
    """Every curve of the drawing as points (n, 2), y upwards, and whether it is closed. Raises InputError for what is no drawing."""
    points = shapes = 0
    for curve, closed in _svg(raw) if _kind(name, raw) == "svg" else _dxf(raw):
        points, shapes = points + len(curve), shapes + 1
        if points > MAX_POINTS or shapes > MAX_SHAPES:
            raise InputError.at(
                "file", f"the drawing has more than {MAX_SHAPES} curves or {MAX_POINTS} points", "save only the outline, simplified"
            )
        if not (np.abs(curve) < MAX_COORDINATE).all():
            raise InputError.at(
                "file", f"the drawing goes beyond {MAX_COORDINATE:g} mm", "draw the outline to its own size, about the origin"
            )
        yield curve, closed


def _kind(name: str, raw: bytes) -> str:
    """svg or dxf, from what the file begins with; anything else is refused by what it is."""
    known = {
        b"PK\x03\x04": "an archive",
        b"\x1f\x8b": "an archive",
        b"\x89PNG": "a picture",
        b"\xff\xd8\xff": "a picture",
        b"GIF8": "a picture",
        b"%PDF": "a PDF",
        b"AC10": "a DWG drawing",
        b"AutoCAD Binary DXF": "a binary DXF",
    }
    for start, what in known.items():
        if raw.startswith(start):
            raise InputError.at("file", f"this is {what}, not an outline", "save the outline as SVG, or as DXF in text form")
    text = raw[:4096].lstrip(b"\xef\xbb\xbf \t\r\n")
    if text.startswith(b"<") and b"<svg" in raw[:100_000]:
        return "svg"
    if text.startswith(b"0") or text.startswith(b"999") or name.lower().endswith(".dxf"):
        return "dxf"
    raise InputError.at("file", "this is neither an SVG nor a DXF drawing", "save the outline as one of them")


def _svg(raw: bytes) -> Iterable[tuple[np.ndarray, bool]]:
    upper = raw.upper()
    if b"<!DOCTYPE" in upper or b"<!ENTITY" in upper:
        raise InputError.at("file", "the drawing carries its own document type or entities", "save it as plain SVG")
    import svgelements

    try:
        drawing = svgelements.SVG.parse(StringIO(raw.decode("utf-8-sig")), ppi=25.4)
        shapes = [e for e in drawing.elements() if isinstance(e, svgelements.Shape)]
    except UnicodeDecodeError as e:
        raise InputError.at("file", "the drawing is not UTF-8 text", "save it as plain SVG") from e
    except Exception as e:  # the reader gives up in many ways; none of them is the user's concern
        raise InputError.at("file", f"the SVG cannot be read: {str(e)[:120]}", "save it again as plain SVG") from e
    for shape in shapes:
        try:
            path = svgelements.Path(shape)
            for sub in path.as_subpaths():
                found = _followed(svgelements.Path(sub))
                if found is not None:
                    yield found[0] * (1, -1), found[1]
        except Exception:
            continue


def _followed(path: "svgelements.Path") -> tuple[np.ndarray, bool] | None:
    """Points along one subpath and whether it is closed; None when there is nothing to follow."""
    import svgelements

    segments = [s for s in path if not isinstance(s, svgelements.Move)]
    if not segments or len(segments) > 20_000:
        return None
    start, end, closed = segments[0].start, segments[-1].end, isinstance(segments[-1], svgelements.Close)
    if start is None or end is None:
        return None
    closed = closed or bool(abs(complex(start) - complex(end)) <= 1e-6 * (1 + abs(complex(start))))
    points: list[complex] = []
    for s in segments:
        straight = isinstance(s, svgelements.Line | svgelements.Close)
        for t in (0.0,) if straight else np.arange(24) / 24:
            points.append(complex(s.point(t)))
    if not closed:
        points.append(complex(end))
    return np.array([[p.real, p.imag] for p in points]), closed


def _dxf(raw: bytes) -> Iterable[tuple[np.ndarray, bool]]:
    try:
        import ezdxf.filemanagement
        from ezdxf.path import make_path

        document = ezdxf.filemanagement.read(StringIO(raw.decode("utf-8", "replace")))
        entities = [e for e in document.modelspace() if e.dxftype() in DXF_CURVES]
    except Exception as e:  # see above
        raise InputError.at("file", f"the DXF cannot be read: {str(e)[:120]}", "save it again as DXF R2000 or later") from e
    for entity in entities[:2000]:
        try:
            path = make_path(entity)
            # a giant circle would be followed by as many points as there is memory
            reach = max((abs(c) for v in path.control_vertices() for c in (v.x, v.y)), default=0.0)
            if not reach < MAX_COORDINATE:
                corners = np.array([[reach, reach]])
                yield corners, False
                return
            corners = np.array([(v.x, v.y) for v in path.flattening(distance=0.01, segments=8)])
        except Exception:
            continue
        if len(corners) <= 100_000:
            yield (corners[:-1], True) if path.is_closed else (corners, False)
