"""Recipes and blades that several tests use."""

from typing import Any

import numpy as np

from varistrat.core.bars.forged import Forged, forge
from varistrat.core.bars.recipe import FORMAT, read_recipe
from varistrat.core.blade.model import FORMAT as BLADE
from varistrat.core.blade.model import Blade, read_blade
from varistrat.core.figures import Numbers
from varistrat.core.steels import built_in

Json = dict[str, Any]

STEELS = built_in()
"""As they ship."""


def own(**figures: float) -> Numbers:
    """The numbers of a shop that has measured these."""
    return Numbers(figures)


def solid(length: float = 200.0, width: float = 30.0, thickness: float = 20.0, steel: str = "1084") -> Json:
    return {"kind": "solid", "steel": steel, "length": length, "width": width, "thickness": thickness}


def stack(*layers: tuple[str, float], width: float = 30.0, length: float = 200.0) -> Json:
    return {"kind": "stack", "layers": [{"steel": s, "thickness": t} for s, t in layers], "width": width, "length": length}


def recipe(start: Json, *steps: Json) -> Json:
    return {"format": FORMAT, "bar": {"start": start, "steps": list(steps)}}


def forged(start: Json, *steps: Json) -> Forged:
    return forge(read_recipe(recipe(start, *steps)).bar)


ALTERNATE = [("1084", 5.0), ("15n20", 3.0)]
LONG = recipe(
    stack(*ALTERNATE * 5, width=40, length=120),
    {"kind": "weld", "thickness": 34.0, "scale": 0.2},
    {"kind": "draw", "width": 24.0, "thickness": 24.0},
    {"kind": "restack", "pieces": 2, "grind": 0.5, "lay": ["as_cut", "rolled"], "interleaf": {"steel": "nickel", "thickness": 0.4}},
    {"kind": "weld", "thickness": 30.0, "uneven": {"amount": 0.3, "wavelength": 30.0, "seed": 4}},
    {"kind": "section", "form": "square", "width": 16.0},
    {"kind": "turn", "degrees": 45.0},
    {"kind": "section", "form": "square"},
    {"kind": "section", "form": "octagon"},
    {"kind": "twist", "turns": 12.0},
    {"kind": "section", "form": "square"},
    {"kind": "draw", "thickness": 6.0, "bite": 20.0},
    {"kind": "fold", "grind": 0.2},
    {"kind": "draw", "thickness": 5.0, "method": "roll", "roll_diameter": 75.0},
    {"kind": "grind", "top": 0.4, "bottom": 0.1, "front": 0.2},
    {"kind": "trim", "start": 3.0, "end": 2.0},
)


def blade(
    thickness: float = 4.4,
    spine: float = 4.0,
    edge: float = 0.4,
    share: float | None = 0.30,
    grind: Json | None = None,
    share_right: float = 0.5,
    height: float = 45.0,
    **more: Any,
) -> Blade:
    """A straight laminated blade 200 mm long, ground alike on both sides."""
    side = grind or {"edge_thickness": edge}
    data: Json = {
        "format": BLADE,
        "outline": {"edge": [[0, 0], [200, 0]], "spine": [[0, height], [200, height]]},
        "spine_thickness": {"heel": spine, "mid": spine, "tip": spine},
        "grind": {"right": side, "left": side, "share_right": share_right},
        "forging": {"bar_thickness": thickness},
    }
    if share is not None:
        data["laminate"] = {"core": {"steel": "1095", "share": share}, "clad": {"steel": "1018"}}
    return read_blade(data | more)


def grid(forged_bar: Forged, n: int = 7) -> np.ndarray:
    """Points inside the finished bar, (3, m), away from its faces and off symmetric places."""
    bar = forged_bar.bar
    a = np.linspace(0.063, 0.927, n)
    x, y, z = np.meshgrid(a * bar.length, (a - 0.5) * bar.width, (a - 0.4871) * bar.thickness)
    points = np.array([x.ravel(), y.ravel(), z.ravel()])
    return points[:, bar.section.holds(points[1], points[2], -1e-3)]
