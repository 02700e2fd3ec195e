"""The traditional families of patterns, each as the bar that makes it: a start and its steps, as JSON.

Sizes are those of a blade some 150 mm long and 30 high; the steels can be named.
"""

from typing import Any

Json = dict[str, Any]
DARK, BRIGHT = "1084", "15n20"


def layers(*pairs: tuple[str, float], times: int = 1, last: tuple[str, float] | None = None) -> list[Json]:
    """Layers bottom first: the pairs repeated, and one more on top if given."""
    run = [*pairs * times, *([last] if last else [])]
    return [{"steel": s, "thickness": round(float(t), 3)} for s, t in run]


def stack(pile: list[Json], width: float, length: float) -> Json:
    """The start of a pile of layers, mm."""
    return {"kind": "stack", "layers": pile, "width": width, "length": length}


def hand(amount: float, wavelength: float, seed: int) -> Json:
    """How uneven a hand is: mm, over how many mm, and which throw of it."""
    return {"amount": amount, "wavelength": wavelength, "seed": seed}


def alternating(times: int, dark: float, bright: float, width: float, length: float) -> Json:
    """Dark and bright in turn, dark outside on both faces."""
    return stack(layers((DARK, dark), (BRIGHT, bright), times=times, last=(DARK, dark)), width, length)


def bar(start: Json, *steps: Json, note: str = "") -> Json:
    """A bar from its start and steps."""
    return {"start": start, "steps": list(steps)} | ({"note": note} if note else {})


def joined(join: str, *bars: Json, **measures: float) -> Json:
    """The start of a bar that others are joined into."""
    return {"kind": "assembly", "join": join, "bars": list(bars), **measures}


SQUARE = {"kind": "section", "form": "square"}


def weld(thickness: float, **more: Any) -> Json:
    """A weld, mm."""
    return {"kind": "weld", "thickness": thickness, **more}


def draw(width: float, thickness: float, **more: Any) -> Json:
    """A draw, mm."""
    return {"kind": "draw", "width": width, "thickness": thickness, **more}


def fine(width: float = 40.0, thickness: float = 9.0, pairs: int = 6) -> tuple[Json, list[Json]]:
    """A bar of some fifty flat layers (twice `pairs` in each of four pieces): what ladders and dimples are cut into."""
    steps = [
        weld(30.0, scale=0.2),
        draw(width, 11.0, scale=0.2, uneven=hand(0.1, 30.0, 2)),
        {"kind": "restack", "pieces": 4, "grind": 0.3, "kerf": 1.5},
        weld(36.0, scale=0.2),
        draw(width, thickness, scale=0.2, uneven=hand(0.12, 34.0, 6)),
    ]
    return alternating(pairs, 18.0 / pairs, 13.2 / pairs, width, 110.0), steps


def ladder(pitch: float = 15.0, depth: float = 3.2, pairs: int = 6) -> Json:
    """Rungs so far apart and so deep (mm) cut into a fine bar and forged flat."""
    start, steps = fine(pairs=pairs)
    cut = {
        "kind": "relief",
        "shape": "rungs",
        "method": "cut_forged",
        "profile": "round",
        "pitch": pitch,
        "groove": 0.62 * pitch,
        "depth": depth,
        "faces": "both",
        "thickness": 5.5,
    }
    return bar(
        start, *steps[:-1], draw(40.0, 11.0, scale=0.2, uneven=hand(0.12, 34.0, 6)), cut, {"kind": "grind", "top": 0.2, "bottom": 0.2}
    )


def dimples(pitch: float = 11.0, depth: float = 3.0, pairs: int = 6) -> Json:
    """Dimples so far apart and so deep (mm) cut into a fine bar and forged flat."""
    start, steps = fine(pairs=pairs)
    cut = {
        "kind": "relief",
        "shape": "dimples",
        "array": "staggered",
        "method": "cut_forged",
        "profile": "round",
        "pitch": pitch,
        "groove": 0.9 * pitch,
        "depth": depth,
        "faces": "both",
        "thickness": 5.5,
    }
    return bar(
        start, *steps[:-1], draw(40.0, 11.0, scale=0.2, uneven=hand(0.12, 34.0, 6)), cut, {"kind": "grind", "top": 0.2, "bottom": 0.2}
    )


def twisted(way: str, turns: float, side: float = 13.0, note: str = "", pairs: int = 4) -> Json:
    """A square bar twisted and squared again, to be laid beside others."""
    return bar(
        alternating(pairs, 12.8 / pairs, 9.6 / pairs, 22.0, 95.0),
        weld(22.0, scale=0.2),
        draw(side, side, scale=0.15),
        {"kind": "section", "form": "octagon"},
        {"kind": "twist", "hand": way, "turns": turns, "scale": 0.1},
        {**SQUARE, "width": side - 1},
        {"kind": "grind", "front": 0.3, "back": 0.3, "top": 0.3, "bottom": 0.3},
        note=note or f"twisted {way}",
    )


def opposed(turns: float = 17.0, ways: tuple[str, ...] = ("right", "left", "right"), pairs: int = 4) -> Json:
    """Bars twisted against one another, side by side."""
    side = 39.0 / len(ways)
    start = joined("side_by_side", *(twisted(w, turns, side, pairs=pairs) for w in ways))
    return bar(
        start,
        weld(10.0, scale=0.15),
        draw(38.0, 6.2, scale=0.15, uneven=hand(0.08, 30.0, 3)),
        {"kind": "grind", "top": 0.35, "bottom": 0.35},
    )


def _on_the_bias(side: float, start: Json) -> Json:
    return bar(start, weld(28.0, scale=0.2), draw(side, side, scale=0.2), {"kind": "turn", "degrees": 45.0}, {**SQUARE, "width": side - 2})


def bias(tall: float = 10.0, pairs: int = 5, angle: float = 40.0, tiles: int = 0) -> Json:
    """Bias-forged pieces side by side, every other one turned by a quarter: W's in the end grain, brought up by tiling.

    tall: how high the row of W's is when it is tiled; pressed flat they lie down in waves. tiles: how many; 0: what the pile gives.
    """
    made = _on_the_bias(24.0, alternating(pairs, 17.0 / pairs, 12.0 / pairs, 40.0, 58.0))
    return bar(
        made["start"],
        *made["steps"],
        {"kind": "grid", "cells": [[{"quarter_turns": i % 2} for i in range(4)]], "grind": 0.3, "kerf": 1.5},
        weld(18.5, scale=0.2),
        draw(46.0, tall, scale=0.1, uneven=hand(0.12, 30.0, 5)),
        {"kind": "tiles", "angle": angle, "thickness": 7.0, "count": tiles or (8 if tall > 7 else 14), "alternate": True, "kerf": 1.5},
        weld(6.3, scale=0.05),
        draw(42.0, 5.4, scale=0.05),
    )


def feather(drag: float = 34.0, pairs: int = 13, tall: float = 80.6) -> Json:
    """A tall pile split down its middle, a slice of it laid on its side and drawn out: barbs along a quill."""
    return bar(
        alternating(pairs, tall * 18 / 31 / pairs, tall * 13 / 31 / pairs, 44.0, 34.0),
        weld(tall - 4.6, width=46.0, scale=0.2),
        {"kind": "split", "drag": drag, "reach": 9.0},
        {"kind": "end_slice", "thickness": 24.0, "kerf": 2.0},
        weld(20.0, scale=0.1),
        draw(40.0, 6.0, scale=0.15, uneven=hand(0.06, 40.0, 2)),
        {"kind": "grind", "top": 0.2, "bottom": 0.2},
    )


def four_way(side: float = 26.0, length: float = 150.0, pairs: int = 5) -> Json:
    """Four pieces of one bias-forged bar turned by quarters: the figure is in the end grain."""
    made = _on_the_bias(side, alternating(pairs, 17.0 / pairs, 12.0 / pairs, 40.0, length))
    grid = {"kind": "grid", "cells": [[{}, {"quarter_turns": 1}], [{"quarter_turns": 3}, {"quarter_turns": 2}]], "grind": 0.3, "kerf": 1.5}
    return bar(made["start"], *made["steps"], grid, weld(41.0, scale=0.2), draw(32.0, 32.0, scale=0.2))


def tiled(angle: float = 35.0, pairs: int = 5) -> Json:
    """A four-way bar sliced on the slant and laid as tiles: its end grain all along the face."""
    made = four_way(26.0, 70.0, pairs)
    return bar(
        made["start"],
        *made["steps"],
        draw(31.0, 15.0, scale=0.1),
        {"kind": "tiles", "angle": angle, "thickness": 8.0, "count": 8, "alternate": True, "kerf": 1.5},
        weld(7.0, scale=0.1),
        draw(34.0, 5.6, scale=0.1),
    )


def end_slice(pairs: int = 5, thick: float = 28.0) -> Json:
    """A slice of a four-way bar's end (mm thick) rolled out: the motif stretched along the blade."""
    made = four_way(26.0, 70.0, pairs)
    return bar(
        made["start"],
        *made["steps"],
        draw(34.0, thick, scale=0.1),
        {"kind": "end_slice", "thickness": 44.0, "kerf": 1.5},
        weld(38.0, scale=0.1),
        draw(40.0, 5.6, method="roll", roll_diameter=75.0, scale=0.1),
    )


def plug(diameter: float = 22.0, pairs: int = 5) -> Json:
    """A round of four-way bar (mm) let into a plain laminate, end grain up."""
    plate = bar(
        alternating(6, 3.2, 2.2, 42.0, 100.0),
        weld(28.0, scale=0.2),
        draw(42.0, 14.0, scale=0.2, uneven=hand(0.5, 26.0, 3)),
        note="plate",
    )
    made = four_way(26.0, 60.0, pairs)
    core = bar(made["start"], *made["steps"], {"kind": "section", "form": "round", "width": diameter + 2}, note="plug")
    start = joined("plug", plate, core, x=45.0, y=0.0, diameter=diameter)
    return bar(start, weld(12.0, width=44.0, scale=0.1), draw(48.0, 6.0, scale=0.1), {"kind": "grind", "top": 0.3, "bottom": 0.3})


def canister(rods: int = 22, size: float = 7.0, turns: float = 11.0) -> Json:
    """Bright rods (mm across) in dark powder, pressed solid, twisted and drawn out."""
    start = {
        "kind": "canister",
        "length": 90.0,
        "width": 40.0,
        "thickness": 46.0,
        "matrix": {"steel": DARK, "packing": 0.6},
        "wall": 2.0,
        "inserts": [
            {"shape": "rod", "steel": BRIGHT, "size": size, "count": rods, "seed": 4},
            {"shape": "rod", "steel": "5160", "size": 3.4, "count": 16, "seed": 9},
        ],
    }
    return bar(
        start,
        draw(19.0, 19.0, scale=0.2),
        {"kind": "section", "form": "octagon"},
        {"kind": "twist", "hand": "right", "turns": turns, "scale": 0.1},
        SQUARE,
        draw(38.0, 6.2, scale=0.15, uneven=hand(0.08, 30.0, 4)),
        {"kind": "grind", "top": 0.4, "bottom": 0.4},
    )


def clad_core(turns: float = 15.0) -> Json:
    """A plain hard core between two plates of opposed twists."""

    def plate(ways: tuple[str, str], note: str) -> Json:
        start = joined("side_by_side", *(twisted(w, turns, 15.0) for w in ways))
        return bar(start, weld(12.0, scale=0.15), draw(38.0, 7.2, scale=0.15), note=note)

    core = bar({"kind": "solid", "steel": "1095", "length": 190.0, "width": 38.0, "thickness": 6.5}, note="core")
    start = joined("stacked", plate(("right", "left"), "lower clad"), core, plate(("left", "right"), "upper clad"))
    return bar(start, weld(17.5, scale=0.15), draw(38.0, 6.0, scale=0.15), {"kind": "grind", "top": 0.2, "bottom": 0.2})
