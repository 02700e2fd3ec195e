"""The usual laminates, each as the bar that makes it: a start and its steps, as JSON.

A hard steel for the edge, softer or brighter ones for the sides; sizes are those of a blade some 150 mm long and 30 high.
"""

from varistrat.core.families import Json, alternating, bar, draw, hand, joined, layers, stack, weld

HARD, SOFT = "1095", "1018"
CLEAN = {"kind": "grind", "top": 0.15, "bottom": 0.15}


def plate(steel: str, length: float, width: float, thickness: float, note: str = "") -> Json:
    """A plain bar of one steel, mm."""
    return bar({"kind": "solid", "steel": steel, "length": length, "width": width, "thickness": thickness}, note=note)


def drawn_down(width: float = 40.0, thickness: float = 5.0) -> list[Json]:
    """Weld, draw and clean: what most laminates end with."""
    return [weld(16.0, scale=0.15), draw(width, thickness, scale=0.15), CLEAN]


def three_layer(share: float = 0.30) -> Json:
    """Clad, core, clad."""
    core = 20.0 * share
    side = (20.0 - core) / 2
    return bar(stack(layers((SOFT, side), (HARD, core), (SOFT, side)), 40.0, 75.0), *drawn_down())


def five_layer(shim: str = "nickel", thickness: float = 0.6) -> Json:
    """Core between thin shims between clads: the shim draws a bright line (nickel) or a pale one (pure iron) and keeps carbon in."""
    side = (20.0 - 6.0 - 2 * thickness) / 2
    pile = layers((SOFT, side), (shim, thickness), (HARD, 6.0), (shim, thickness), (SOFT, side))
    return bar(stack(pile, 40.0, 75.0), *drawn_down())


def slot_core() -> Json:
    """A hard bar let into a slot along one side of a mild one, then turned on edge: the spine stays closed."""
    start = joined("slot", plate(SOFT, 110.0, 18.0, 32.0, "body"), plate(HARD, 110.0, 6.0, 16.0, "edge let in"), depth=16.0, width=6.0)
    return bar(start, weld(28.5, scale=0.15), {"kind": "turn", "degrees": 90.0}, draw(40.0, 5.0, scale=0.15), CLEAN)


def jacket() -> Json:
    """A hard bar inside a bored mild one: soft all round until the edge is ground free."""
    start = joined("jacket", plate(HARD, 90.0, 30.0, 8.0, "core"), plate(SOFT, 90.0, 38.0, 18.0, "jacket"), wall=5.0)
    return bar(start, weld(15.0, scale=0.15), draw(40.0, 5.0, scale=0.15), CLEAN)


def scarfed(angle: float = 35.0) -> Json:
    """A hard edge scarfed to a figured body: the joint leans, so it shows higher on one side than on the other."""
    edge = plate(HARD, 210.0, 22.0, 8.0, "edge")
    body = bar(alternating(5, 1.6, 1.2, 30.0, 105.0), weld(13.0), draw(30.0, 8.0, uneven=hand(0.25, 24.0, 4)), note="body")
    start = joined("scarf", edge, body, angle=angle)
    return bar(start, weld(7.0, scale=0.1), draw(42.0, 5.2, scale=0.1), CLEAN)


def edge_bar() -> Json:
    """A hard bar welded along a twisted one: one steel at the edge, pattern above it."""
    twisted = bar(
        alternating(3, 4.0, 3.0, 26.0, 90.0),
        weld(22.0, scale=0.15),
        draw(17.0, 17.0, scale=0.15),
        {"kind": "section", "form": "octagon"},
        {"kind": "twist", "hand": "right", "turns": 14.0},
        {"kind": "section", "form": "square"},
        draw(24.0, 8.0),
        note="body",
    )
    start = joined("side_by_side", plate(HARD, 220.0, 14.0, 8.0, "edge"), twisted)
    return bar(start, weld(7.0, scale=0.1), draw(40.0, 5.2, scale=0.1), CLEAN)
