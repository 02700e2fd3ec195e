"""The blade to its own size: outline, bevel, plunge and sections, to glue on the steel; a rule that tells whether the printer kept it."""

from collections.abc import Callable
from dataclasses import asdict, dataclass

import numpy as np

from varistrat.core.bars.points import Array
from varistrat.core.blade.geometry import Geometry
from varistrat.core.blade.measures import sections
from varistrat.core.design.worked import Worked
from varistrat.core.paper.typeset import SIZES, Paper, typeset

MARGIN, HEAD, OVERLAP = 10.0, 12.0, 20.0
"""mm round a sheet; below its title; that two sheets share."""
GAP = 14.0
"""mm between the blade and its sections."""
APART = 22.0
FINE = 0.02
"""mm that a straight piece of the outline may leave the curve by: a pencil's line is ten times as wide."""
AT = (0.04, 0.35, 0.65, 0.9)
"""Shares of the length at which it is cut across."""


@dataclass(frozen=True)
class Line:
    """points: (x, y) from the top left of the drawing, mm, y down; kind: outline, bevel, centre."""

    kind: str
    points: list[tuple[float, float]]
    closed: bool = False


@dataclass(frozen=True)
class Cut:
    """A section, and where its name stands."""

    points: list[tuple[float, float]]
    x: float
    y: float
    says: str


@dataclass(frozen=True)
class Mark:
    """A word at a place, mm."""

    x: float
    y: float
    says: str


@dataclass(frozen=True)
class Drawing:
    """width, height: mm of all of it."""

    lines: list[Line]
    cuts: list[Cut]
    marks: list[Mark]
    width: float
    height: float


def drawing_of(worked: Worked) -> Drawing:
    """Raises InputError without a blade."""
    geometry = worked.blade.geometry
    tang = geometry.tang()
    low, high = geometry.curves.span()
    if tang is not None:
        low, high = min(low, float(tang[:, 1].min())), max(high, float(tang[:, 1].max()))
    left = float(tang[:, 0].min()) if tang is not None else 0.0

    def put(x: Array, y: Array) -> list[tuple[float, float]]:
        return [(float(a - left), float(high - b)) for a, b in zip(x, y, strict=True)]

    lines = [Line("outline", put(*_outline(geometry, tang)), True), *_inner(geometry, put)]
    middle = (float(geometry.curves.edge(np.array([0.0]))[0]) + float(geometry.curves.spine(np.array([0.0]))[0])) / 2
    lines.append(Line("centre", put(np.array([left, geometry.length]), np.array([middle, middle]))))
    top = high - low + GAP
    cuts, marks = [], []
    stations = np.array(AT) * geometry.length
    for n, s in enumerate(sections(geometry, stations)):
        x0 = APART * n + APART / 2
        points = [(x0 + r, top + s.height - h) for r, h in zip(s.right, s.h, strict=True)]
        points += [(x0 + r, top + s.height - h) for r, h in reversed(list(zip(s.left, s.h, strict=True)))]
        cuts.append(Cut([(float(a), float(b)) for a, b in points], x0 + 5.0, top + s.height / 2 - 2, f"at {s.x:.0f} mm"))
        y = float(geometry.curves.spine(np.array([s.x]))[0])
        marks.append(Mark(s.x - left, high - y - 4.5, f"{s.x:.0f}"))
        lines.append(Line("tick", put(np.array([s.x, s.x]), np.array([y, y + 2.0]))))
    tallest = max(float(c.points[0][1]) for c in cuts)
    return Drawing(lines, cuts, marks, geometry.length - left, tallest)


def _outline(geometry: Geometry, tang: Array | None) -> tuple[Array, Array]:
    """Round the blade: along the edge to the tip, back along the spine, round the tang."""
    c = geometry.curves
    x = np.concatenate([c.edge_x, c.spine_x[::-1]])
    y = np.concatenate([c.edge_y, c.spine_y[::-1]])
    if tang is not None:
        # from the heel's spine round the tang to its edge
        x, y = np.concatenate([x, tang[::-1, 0]]), np.concatenate([y, tang[::-1, 1]])
    return x, y


def _inner(geometry: Geometry, draw: Callable[[Array, Array], list[tuple[float, float]]]) -> list[Line]:
    """Where the bevel ends, where the plunge begins and ends."""
    grind, out = geometry.blade.grind, []
    x = np.linspace(0, geometry.length, 121)
    edge, height = geometry.curves.edge(x), geometry.height(x)
    for side in (grind.right,) if grind.left == grind.right else (grind.right, grind.left):
        top = geometry.bevel_top(side, height)
        inside = (top < height - 0.2) & (height > 0.5)
        if inside.any():
            out.append(Line("bevel", draw(x[inside], (edge + top)[inside])))
    if grind.ricasso or grind.plunge:
        for at in sorted({grind.ricasso, grind.ricasso + grind.plunge}):
            here = np.array([float(at), float(at)])
            out.append(Line("plunge", draw(here, np.array([float(geometry.curves.edge(here)[0]), float(geometry.curves.spine(here)[0])]))))
    return out


def one_to_one_pdf(worked: Worked, title: str, paper: Paper = "a4") -> bytes:
    """Raises InputError without a blade."""
    return drawn(drawing_of(worked), title, paper)


def drawn(drawing: Drawing, title: str, paper: Paper = "a4") -> bytes:
    """As many sheets as it takes, lying; they share OVERLAP mm with crosses in it."""
    high, wide = SIZES[paper]
    room = wide - 2 * MARGIN
    sheets = [0.0]
    while drawing.width - sheets[-1] > room + 1e-6:
        sheets.append(sheets[-1] + room - OVERLAP)
    return typeset(
        "one_to_one",
        {
            "paper": paper,
            "page_width": wide,
            "page_height": high,
            "margin": MARGIN,
            "head": HEAD,
            "title": title,
            "sheets": sheets,
            "lines": [asdict(line) for line in drawing.lines],
            "sections": [asdict(c) for c in drawing.cuts],
            "marks": [asdict(m) for m in drawing.marks],
            "crosses": [s + OVERLAP / 2 for s in sheets[1:]],
            "cross_top": -3.0,
            "cross_bottom": drawing.height + 4.0,
        },
    )
