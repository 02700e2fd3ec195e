"""Ready starts for a new design: one for each traditional family of patterns."""

from collections.abc import Sequence
from copy import deepcopy
from dataclasses import dataclass
from typing import Any

from varistrat.core import families as f
from varistrat.core import laminates as m
from varistrat.core.bars.recipe import FORMAT as RECIPE
from varistrat.core.blade.model import FORMAT as BLADE
from varistrat.core.families import Json, hand, layers, stack
from varistrat.core.pairing.pairing import Pairing
from varistrat.core.shop import AS_SHIPS, ShopData
from varistrat.core.steels import named_steel
from varistrat.core.steels.hardening import core_of
from varistrat.core.steels.weldable import wants_seal


def blade(
    shape: str,
    length: float,
    height: float,
    spine: tuple[float, float, float],
    edge: float,
    *,
    bevel: float | None = None,
    point: float = 0.4,
    **more: Any,
) -> Json:
    """A blade ground alike on both sides; `bevel` is its height, the whole side if left out."""
    side: Json = {"edge_thickness": edge} | ({"height": bevel} if bevel else {})
    return {
        "format": BLADE,
        "outline": {"shape": shape, "length": length, "height": height, "point": point},
        "spine_thickness": dict(zip(("heel", "mid", "tip"), spine, strict=True)),
        "grind": {"right": side, "left": side},
        **more,
    }


def design(start: Json, steps: list[Json], cut: Json | None, name: str = "") -> Json:
    """A document (JSON) from a bar and a blade, without what is left as usual."""
    return {"recipe": {"format": RECIPE, "name": name, "bar": {"start": start, "steps": steps}}} | ({"blade": cut} if cut else {})


DEFAULT_BLADE = blade("drop_point", 150.0, 30.0, (4.0, 3.5, 2.0), 0.4)


@dataclass(frozen=True)
class Starter:
    """A ready start: a recipe, and the blade cut from it if there is one."""

    key: str
    name: str
    about: str
    start: Json
    steps: tuple[Json, ...]
    cut: Json | None

    def document(self) -> Json:
        """Its document (JSON), a copy of its own."""
        return deepcopy(design(self.start, list(self.steps), self.cut, self.name))


_ALL = (
    Starter(
        "blank",
        "From nothing",
        "Seven layers, welded and drawn flat: change anything.",
        stack(layers(("1084", 4.0), ("15n20", 3.0), times=3, last=("1084", 4.0)), 40.0, 90.0),
        ({"kind": "weld", "thickness": 18.0}, {"kind": "draw", "width": 40.0, "thickness": 5.5}),
        DEFAULT_BLADE,
    ),
    Starter(
        "hand_forged",
        "Hand-forged laminate",
        "Flat layers, left uneven by the hammer: grinding flat through the waves makes the figure.",
        stack(layers(("1084", 4.0), ("15n20", 2.5), times=6, last=("1084", 4.0)), 40.0, 80.0),
        (
            {"kind": "weld", "thickness": 30.0},
            {"kind": "draw", "width": 40.0, "thickness": 12.0, "uneven": hand(0.35, 26.0, 3)},
            {"kind": "fold", "grind": 0.4},
            {"kind": "draw", "width": 40.0, "thickness": 5.5, "uneven": hand(0.2, 19.0, 8)},
        ),
        DEFAULT_BLADE,
    ),
    Starter(
        "bold_twist",
        "Bold twist",
        "Few layers, the bright ones thickest in the middle: stars appear as you grind towards the centre.",
        stack(
            layers(("1084", 6.0), ("15n20", 2.5), ("1084", 3.5), ("15n20", 8.0), ("1084", 3.5), ("15n20", 2.5), ("1084", 6.0)), 34.0, 90.0
        ),
        (
            {"kind": "weld", "thickness": 26.0},
            {"kind": "draw", "width": 18.0, "thickness": 18.0},
            {"kind": "section", "form": "octagon"},
            {"kind": "twist", "hand": "right", "turns": 14.0},
            {"kind": "section", "form": "square"},
            {"kind": "draw", "width": 36.0, "thickness": 6.0},
        ),
        DEFAULT_BLADE,
    ),
    Starter(
        "fine_restack",
        "Fine restack",
        "Drawn, cut and restacked until the layers are hair-fine and run as grain.",
        stack(layers(("1084", 3.0), ("15n20", 2.0), times=5, last=("1084", 3.0)), 40.0, 110.0),
        (
            {"kind": "weld", "thickness": 22.0},
            {"kind": "draw", "width": 40.0, "thickness": 9.0, "uneven": hand(0.12, 22.0, 1)},
            {"kind": "restack", "pieces": 4, "grind": 0.3, "kerf": 1.5},
            {"kind": "weld", "thickness": 28.0},
            {"kind": "draw", "width": 40.0, "thickness": 8.0, "uneven": hand(0.1, 24.0, 2)},
            {"kind": "restack", "pieces": 3, "grind": 0.3, "kerf": 1.5},
            {"kind": "weld", "thickness": 18.0},
            {"kind": "draw", "width": 40.0, "thickness": 5.5, "uneven": hand(0.15, 28.0, 5)},
        ),
        DEFAULT_BLADE,
    ),
    Starter(
        "bias",
        "Bias-forged bar",
        "Squared again on its corners, so that the layers run from corner to corner.",
        stack(layers(("1084", 4.0), ("15n20", 3.0), times=4, last=("1084", 4.0)), 40.0, 90.0),
        (
            {"kind": "weld", "thickness": 26.0},
            {"kind": "draw", "width": 22.0, "thickness": 22.0},
            {"kind": "turn", "degrees": 45.0},
            {"kind": "section", "form": "square"},
            {"kind": "draw", "width": 38.0, "thickness": 6.0, "uneven": hand(0.12, 24.0, 4)},
        ),
        DEFAULT_BLADE,
    ),
    Starter(
        "three_layer",
        "Three-layer laminate",
        "A hard core between soft sides: the core shows along the edge, and how high is in your hands.",
        stack(layers(("1018", 7.0), ("1095", 6.0), ("1018", 7.0)), 40.0, 80.0),
        ({"kind": "weld", "thickness": 15.0}, {"kind": "draw", "width": 38.0, "thickness": 5.0}),
        DEFAULT_BLADE,
    ),
)


def _family(key: str, name: str, about: str, made: Json, cut: Json | None = DEFAULT_BLADE) -> Starter:
    return Starter(key, name, about, made["start"], tuple(made["steps"]), cut)


_FAMILIES = (
    _family("ladder", "Ladder", "Grooves cut across both faces and forged flat: layers come up in rungs.", f.ladder()),
    _family("dimple", "Dimples", "Staggered hollows cut into both faces and forged flat: rings like raindrops.", f.dimples()),
    _family(
        "opposed_twist",
        "Opposed twists",
        "Three bars twisted right, left, right and welded side by side: a herringbone of twists.",
        f.opposed(),
    ),
    _family(
        "bias_w",
        "Bias W",
        "Bias-forged pieces turned against one another make W's in the end grain; tiling brings them to the face.",
        f.bias(),
    ),
    _family("crushed_w", "Crushed W", "The same W's pressed flat before they are tiled: they lie down in waves.", f.bias(5.5)),
    _family(
        "feather",
        "Feather",
        "A tall pile split down its middle drags its layers along; a slice of it laid over shows quill and barbs.",
        f.feather(),
    ),
    _family(
        "four_way",
        "Four-way mosaic",
        "One bar in four pieces, each turned by a quarter: a star in the end grain. For fittings, or to be tiled.",
        f.four_way(),
        None,
    ),
    _family(
        "tiled",
        "Tiled mosaic",
        "A four-way bar sliced at 35 degrees and laid as tiles: its star again and again along the face.",
        f.tiled(),
    ),
    _family(
        "end_slice",
        "End slice, rolled out",
        "A slice of a four-way bar rolled long: one star, stretched over the whole blade.",
        f.end_slice(),
    ),
    _family("plug", "Plug", "A round of four-way bar let into a plain laminate, its end grain upwards.", f.plug()),
    _family(
        "canister",
        "Canister of rods",
        "Bright rods in dark powder pressed solid, then twisted: ropes that run across the blade.",
        f.canister(),
    ),
    _family(
        "clad_core",
        "Core with patterned clad",
        "A plain hard core between two plates of opposed twists: pattern on the sides, one steel at the edge.",
        f.clad_core(),
    ),
)

_LAMINATES = (
    _family(
        "five_layer",
        "Core between nickel shims",
        "Clad, thin nickel, hard core, nickel, clad: a bright line above the edge, and the carbon stays in the core.",
        m.five_layer(),
    ),
    _family(
        "slot_core",
        "Core let into a slot",
        "A hard bar let into the edge of a mild one: hard edge, the spine closed and soft.",
        m.slot_core(),
    ),
    _family(
        "jacket",
        "Jacketed core",
        "A hard bar inside a bored mild one: soft all round, the edge ground free.",
        m.jacket(),
        DEFAULT_BLADE | {"place": {"y": -14.0}},
    ),
    _family(
        "scarfed", "Scarfed edge", "A hard edge welded to a figured body along a leaning joint: it shows higher on one side.", m.scarfed()
    ),
    _family(
        "edge_bar", "Edge bar beside a twist", "A hard bar welded along a twisted one: one steel at the edge, pattern above.", m.edge_bar()
    ),
)

STARTERS = {s.key: s for s in (*_ALL, *_FAMILIES, *_LAMINATES)}

CORE = 0.3
"""Share of a clad bar that is core, when nothing else is said: a quarter to two fifths is usual."""
PILE, THINNEST, MOST_LAYERS = 24.0, 2.5, 9
"""Height of a pile begun from a pairing and the least of one of its layers, mm: thinner outer ones curl away in the fire;
layers in it, about."""


def of_steels(keys: Sequence[str], shares: Sequence[float] = (), clad: bool = False, shop: ShopData = AS_SHIPS) -> Starter:
    """A welded and drawn bar of these steels by their shares: in turn, or the hardest in the middle of the rest.

    Equal or left out: alike; in a clad bar CORE for the core. Raises InputError as `Pairing.of` does.
    """
    pairing = Pairing.of([named_steel(k, shop.steels) for k in keys], shares, numbers=shop.numbers)
    parts = dict(zip(keys, pairing.parts, strict=True))
    if clad:
        core = core_of([shop.steels[k] for k in keys]).key
        if len(set(shares)) < 2:
            parts = {k: CORE if k == core else (1 - CORE) / (len(keys) - 1) for k in keys}
        sides = [(k, PILE * parts[k] / 2) for k in keys if k != core]
        pile = [*sides, (core, PILE * parts[core]), *reversed(sides)]
    else:
        times = max(1, MOST_LAYERS // len(keys) - (len(keys) < 3))
        # one more of the first on top, so that both faces are alike
        runs = {k: times + (k == keys[0]) for k in keys}
        run = [*keys] * times + [keys[0]]
        pile = [(k, PILE * parts[k] / runs[k]) for k in run]
    pile = [(k, round(max(t, THINNEST if i in (0, len(pile) - 1) else 0.2), 2)) for i, (k, t) in enumerate(pile)]
    names = " and ".join(s.name for s in pairing.steels)
    kept = {"atmosphere": "sealed"} if any(wants_seal(s) for s in pairing.steels) else {}
    high = sum(t for _, t in pile)
    return Starter(
        "",
        names[:60],
        f"Begun from the pairing of {names}."[:400],
        stack(layers(*pile), 40.0, 90.0),
        ({"kind": "weld", "thickness": round(0.75 * high, 1), **kept}, {"kind": "draw", "width": 40.0, "thickness": 5.5}),
        DEFAULT_BLADE,
    )
