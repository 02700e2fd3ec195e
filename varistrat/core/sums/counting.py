"""Counting layers: after so many welds, and how to come to a count that is wanted."""

from collections.abc import Iterator, Mapping
from dataclasses import dataclass
from typing import Any

from varistrat.core.bars.bar import Bar
from varistrat.core.sums.sum import Line, Quantity, Sum, Values

MOST_WELDS = 6
PIECES = (2, 3, 4, 5, 6, 7, 8)


@dataclass(frozen=True)
class Way:
    """`layers` in the first pile, cut in `pieces` at each weld after it; `count` layers come of it."""

    layers: int
    pieces: tuple[int, ...]
    count: int


def after(layers: int, pieces: int, like_meets_like: bool) -> int:
    """Layers after one restack: like faces that meet become one layer."""
    return pieces * layers - (pieces - 1 if like_meets_like else 0)


def ways(wanted: int, least: int = 3, most: int = 40, like_meets_like: bool = True, keep: int = 12) -> list[Way]:
    """The nearest ways to a wanted count: fewest welds first among equals. Piles of an odd count when like meets like."""
    found: list[Way] = []

    def grow(start: int, count: int, pieces: tuple[int, ...]) -> Iterator[Way]:
        yield Way(start, pieces, count)
        if len(pieces) < MOST_WELDS and count < 2 * wanted:
            for n in PIECES:
                # the same cuts in another order come to the same count: only rising ones
                if not pieces or n >= pieces[-1]:
                    yield from grow(start, after(count, n, like_meets_like), (*pieces, n))

    for start in range(least, most + 1):
        if like_meets_like and start % 2 == 0:
            continue
        found += [w for w in grow(start, start, ()) if abs(w.count - wanted) <= 0.25 * wanted]
    found.sort(key=lambda w: (abs(w.count - wanted) > 0.02 * wanted, len(w.pieces), abs(w.count - wanted), w.layers))
    return found[:keep]


def _count(v: Values) -> float:
    return v["count"] - (v["layers"] * v["pieces"] ** v["welds"])


def _lines(v: Values) -> list[Line]:
    layers, pieces, welds = round(v["layers"]), round(v["pieces"]), round(v["welds"])
    merged = layers
    for _ in range(max(0, welds)):
        merged = after(merged, pieces, True)
    return [
        Line("if the outer layers are alike and become one at each weld", merged),
        Line("finest of them, in a bar of the same height", v["height"] / v["count"], "mm"),
    ]


COUNTING = (
    Sum(
        "layer_count",
        "Layers after so many welds",
        ("restack", "fold", "stack"),
        "layers = m · nᵏ",
        (
            Quantity("count", "Layers", "", 1.0, 1e6, whole=True),
            Quantity("layers", "In the first pile", "", 1.0, 2000.0, whole=True),
            Quantity("pieces", "Cut in", "", 1.01, 400.0, whole=True, fills="pieces"),
            Quantity("welds", "Times", "", 0.0, 40.0, whole=True),
            Quantity("height", "Height of the bar", "mm", given=True),
        ),
        "count",
        _count,
        lambda bar, fields: _fill(bar, fields),
        _lines,
        "A fold is two pieces.",
    ),
    Sum(
        "layers_raised",
        "Layers brought up by a groove",
        ("relief",),
        "n = D · N / T",
        (
            Quantity("raised", "Layers brought up", "", 0.01, 1e5),
            Quantity("depth", "Depth of the groove", "mm", fills="depth"),
            Quantity("layers", "Layers in the bar", "", 1.0, 1e6, whole=True),
            Quantity("height", "Height of the bar", "mm"),
        ),
        "raised",
        lambda v: v["raised"] * v["height"] - v["depth"] * v["layers"],
        lambda bar, fields: (
            {"height": bar.thickness, "layers": float(fields.get("layers_before") or 30)}
            | ({"depth": float(fields["depth"])} if fields.get("depth") else {})
        ),
        note=(
            "Each comes up once on either wall: twice that many lines lie across one groove. The finer the lines wanted, the wider "
            "the groove."
        ),
    ),
    Sum(
        "line_width",
        "How wide the lines of a groove come out",
        ("relief",),
        "b = w · T / (2 · D · N)",
        (
            Quantity("line", "A line on the face", "mm"),
            Quantity("groove", "Width of the groove", "mm", fills="groove"),
            Quantity("depth", "Depth of the groove", "mm", fills="depth"),
            Quantity("layers", "Layers in the bar", "", 1.0, 1e6, whole=True),
            Quantity("height", "Height of the bar", "mm"),
        ),
        "line",
        lambda v: v["line"] * 2 * v["depth"] * v["layers"] - v["groove"] * v["height"],
        lambda bar, fields: (
            {"height": bar.thickness, "layers": float(fields.get("layers_before") or 30)}
            | {k: float(fields[k]) for k in ("depth", "groove") if fields.get(k)}
        ),
        note="For a vee groove, before it is forged flat; forging stretches the lines with the bar.",
    ),
)


def _fill(bar: Bar, fields: Mapping[str, Any]) -> dict[str, float]:
    pieces = fields.get("pieces") or 2
    layers = fields.get("layers_before") or (len(fields["layers"]) if isinstance(fields.get("layers"), list) else 7)
    return {"layers": float(layers), "pieces": float(pieces), "welds": 1.0, "height": bar.thickness}
