"""The recipes that are measured."""

from typing import Any

from varistrat.core.bars.recipe import FORMAT

TWELVE: dict[str, Any] = {
    "format": FORMAT,
    "name": "Twelve steps: restacked, on the bias, twisted",
    "bar": {
        "start": {
            "kind": "stack", "width": 40.0, "length": 120.0,
            "layers": [{"steel": "1084", "thickness": 5.0}, {"steel": "15n20", "thickness": 3.0}] * 5,
        },
        "steps": [
            {"kind": "weld", "thickness": 34.0},
            {"kind": "draw", "width": 24.0, "thickness": 24.0},
            {"kind": "restack", "pieces": 2, "grind": 0.5, "lay": ["as_cut", "rolled"]},
            {"kind": "weld", "thickness": 30.0},
            {"kind": "section", "form": "square", "width": 16.0},
            {"kind": "turn", "degrees": 45.0},
            {"kind": "section", "form": "square"},
            {"kind": "section", "form": "octagon"},
            {"kind": "twist", "turns": 12.0},
            {"kind": "section", "form": "square"},
            {"kind": "draw", "width": 32.0, "thickness": 6.0},
            {"kind": "grind", "top": 0.4, "bottom": 0.4},
        ],
    },
}  # fmt: skip


def _twisted(hand: str) -> dict[str, Any]:
    """One of the four: a pile welded, restacked, rounded, twisted and squared in 14 steps."""
    steps = [
        *TWELVE["bar"]["steps"][:8],
        {"kind": "twist", "turns": 9.0, "hand": hand},
        {"kind": "section", "form": "square"},
        {"kind": "draw", "width": 14.0, "thickness": 14.0},
        {"kind": "grind", "top": 0.5, "bottom": 0.5, "front": 0.5, "back": 0.5},
        {"kind": "turn", "degrees": 90.0},
        {"kind": "trim", "start": 5.0, "end": 5.0},
    ]
    return {"start": TWELVE["bar"]["start"], "steps": steps}


FOUR: dict[str, Any] = {
    "format": FORMAT,
    "name": "Four opposed twists of 14 steps each, welded side by side and worked on in 6 more",
    "bar": {
        "start": {"kind": "assembly", "join": "side_by_side", "bars": [_twisted(h) for h in ("right", "left") * 2]},
        "steps": [
            {"kind": "weld", "thickness": 11.0},
            {"kind": "draw", "width": 50.0, "thickness": 9.0},
            {"kind": "restack", "pieces": 2, "grind": 0.3},
            {"kind": "weld", "thickness": 15.0},
            {"kind": "draw", "width": 44.0, "thickness": 6.0},
            {"kind": "grind", "top": 0.4, "bottom": 0.4},
        ],
    },
}


def many(steps: int) -> dict[str, Any]:
    """A recipe of that many steps: the twelve over and over."""
    run = TWELVE["bar"]["steps"] * (steps // 12 + 1)
    return TWELVE | {"bar": TWELVE["bar"] | {"steps": run[:steps]}}
