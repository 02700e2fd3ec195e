"""The demo shop: Quillet Dyke Forge, which keeps the reed cutters and basketmakers of the Wendlemarsh in blades.

All made up: place, forge and trade names. Loaded once; a shop that already has designs is
left alone.
"""

from typing import Any

from django.db import transaction

from varistrat.core import families as f
from varistrat.core import laminates as m
from varistrat.core.design.document import read_document
from varistrat.core.design.worked import Worked
from varistrat.core.families import Json, hand, layers, stack
from varistrat.core.laminate.exposure import stations
from varistrat.core.laminate.readings import Ground, Readings, Round, surface_of
from varistrat.core.starters import blade, design
from varistrat.core.study.correction import correct
from varistrat.core.study.inference import infer
from varistrat.core.study.lamina import Lamina
from varistrat.demo.baths import fill_baths
from varistrat.demo.builds import TOLD, fill_book
from varistrat.demo.hardening import WHOLE, record_hardening
from varistrat.demo.people import people_the_demo, shop_in_use
from varistrat.demo.rack import fill_rack
from varistrat.designs.services.keep import create_design
from varistrat.shop.services.own import set_steel

BOLD = layers(("1084", 6.0), ("15n20", 2.5), ("1084", 3.5), ("15n20", 9.0), ("1084", 3.5), ("15n20", 2.5), ("1084", 6.0))


def _twist(way: str, turns: float) -> list[Json]:
    return [
        {"kind": "weld", "thickness": 26.0, "scale": 0.2},
        {"kind": "draw", "width": 18.0, "thickness": 18.0, "scale": 0.15},
        {"kind": "section", "form": "octagon"},
        {"kind": "twist", "hand": way, "turns": turns, "scale": 0.1},
        {"kind": "section", "form": "square"},
        {"kind": "draw", "width": 34.0, "thickness": 6.2, "scale": 0.15},
        {"kind": "grind", "top": 0.4, "bottom": 0.4},
    ]


def _made(bar: Json, cut: Json | None) -> Json:
    return design(bar["start"], bar["steps"], cut)


def _peeler(**blade_more: Any) -> Json:
    """Osier peeler: three layers, ground full flat."""
    bar = m.three_layer(0.24)
    return design(bar["start"], bar["steps"], blade("drop_point", 152.0, 30.0, (4.2, 3.7, 2.2), 0.4, **blade_more))


WANTED = {"aim": {"low": 3.0, "high": 11.5, "difference": 3.0}, "sizes": {"core_offset": 0.008, "dip": 0.05, "uneven": 0.05, "cup": 0.03}}
"""The shop's own: a band with room about the plan, and how sure its hand is."""
OFF_CENTRE = {"core_offset": [[0.0, 0.026], [76.0, 0.019], [152.0, 0.010]], "uneven": -0.04}
READ = [(15.0, 8.5, 5.0), (40.0, 8.4, 5.9), (65.0, 8.9, 6.0), (90.0, 9.0, 6.9), (115.0, 8.1, 6.2), (128.0, 6.6, 5.5)]
"""Station, right, left: heights read off the off-centre blade after its first test etch, mm."""


def _read() -> Json:
    found = _peeler(errors=OFF_CENTRE)
    heights = [{"x": x, "side": side, "height": h} for x, right, left in READ for side, h in (("right", right), ("left", left))]
    ground = read_document(found).blade
    assert ground
    surface = surface_of(ground)
    return found | {"readings": {"heights": heights, "surface": surface}, "aim": {"high": 9.6, "difference": 1.5}}


def _put_right() -> Json:
    """The same blade as it is after the grinding that its readings ask for."""
    document = read_document(_read())
    cut = Worked.of(document).cut
    assert cut
    plan = correct(infer(Lamina.of(cut, stations(cut.geometry, 40)), document.readings, document.sizes), document.aim)
    ground = plan.blade.correction
    over = Round(heights=document.readings.heights, ground=Ground(right=ground.right, left=ground.left))
    again = Readings(stations=[x for x, _, _ in READ], rounds=[over])
    return document.model_copy(update={"blade": plan.blade, "readings": again}).as_json()


def _forged() -> Json:
    """A fine laminate forged out to its outline, the point cut from the spine side: the layers follow the belly."""
    start = stack(layers(("1084", 4.0), ("15n20", 2.5), times=6, last=("1084", 4.0)), 30.0, 40.0)
    steps = [
        {"kind": "weld", "thickness": 26.0, "scale": 0.2},
        {"kind": "turn", "degrees": 90.0},
        {"kind": "draw", "width": 29.0, "thickness": 5.6, "scale": 0.2, "uneven": hand(0.25, 30.0, 5)},
    ]
    forging = {"share": 1.0, "allowance": 0.5, "point_cut": {"side": "spine", "length": 38.0}}
    tang = {"length": 60.0, "width": 14.0, "end_width": 7.0}
    return design(start, steps, blade("drop_point", 150.0, 31.0, (4.4, 3.8, 2.0), 0.4, bevel=26.0, forging=forging, tang=tang))


FITTED: Json = {"pins": "glued", "colour": "straw", "coat": "oil", "coats": 3, "sheath": "leather", "leather": 2.6}
"""What goes on the blade that is carried through to its card."""


TANG = {"length": 92.0, "width": 20.0, "end_width": 13.0}
DESIGNS: tuple[tuple[str, str, Json], ...] = (
    (
        "Withy knife",
        "Plain laminate with hand-forged figure, for cleaving willow rods. Ordered by the Osier Holt co-operative.",
        design(
            stack(layers(("1084", 4.0), ("15n20", 2.5), times=6, last=("1084", 4.0)), 40.0, 80.0),
            [
                {"kind": "weld", "thickness": 30.0, "scale": 0.2},
                {"kind": "draw", "width": 40.0, "thickness": 12.0, "scale": 0.2, "uneven": hand(0.35, 26.0, 3)},
                {"kind": "fold", "grind": 0.4},
                {"kind": "draw", "width": 40.0, "thickness": 5.5, "scale": 0.2, "uneven": hand(0.2, 19.0, 8)},
            ],
            blade("sheepfoot", 132.0, 30.0, (4.0, 3.6, 2.2), 0.4, point=0.3),
        ),
    ),
    (
        "Reedcutter's long knife",
        "Restacked fine: over a hundred layers run as grain. Thin, light, for cutting standing reed.",
        design(
            stack(layers(("1084", 3.0), ("15n20", 2.0), times=5, last=("1084", 3.0)), 42.0, 110.0),
            [
                {"kind": "weld", "thickness": 22.0, "scale": 0.2},
                {"kind": "draw", "width": 42.0, "thickness": 9.0, "scale": 0.2, "uneven": hand(0.12, 22.0, 1)},
                {"kind": "restack", "pieces": 4, "grind": 0.3, "kerf": 1.5},
                {"kind": "weld", "thickness": 28.0, "scale": 0.2},
                {"kind": "draw", "width": 42.0, "thickness": 8.0, "scale": 0.2, "uneven": hand(0.1, 24.0, 2)},
                {"kind": "restack", "pieces": 3, "grind": 0.3, "kerf": 1.5},
                {"kind": "weld", "thickness": 18.0, "scale": 0.2},
                {"kind": "draw", "width": 42.0, "thickness": 5.0, "scale": 0.2, "uneven": hand(0.15, 28.0, 5)},
            ],
            blade("hook", 210.0, 27.0, (3.6, 3.0, 1.8), 0.3, point=0.5),
        ),
    ),
    (
        "Eel splitter, a thumb short",
        "Drawn up from the customer's old one, with a full tang: the pile on the bench is nine millimetres of bar too short. See Stock.",
        design(
            stack(layers(("1084", 5.0), ("15n20", 2.5), times=4, last=("1084", 5.0)), 40.0, 71.5),
            [
                {"kind": "weld", "thickness": 28.0, "scale": 0.2},
                {"kind": "draw", "width": 36.0, "thickness": 6.4, "scale": 0.2, "uneven": hand(0.3, 24.0, 11)},
                {"kind": "grind", "top": 0.4, "bottom": 0.4},
            ],
            blade("straight_back", 168.0, 32.0, (4.6, 4.0, 2.2), 0.4, point=0.35)
            | {"tang": {"length": 92.0, "width": 20.0, "end_width": 13.0}},
        ),
    ),
    (
        "Sedge knife, bold twist",
        "Seven layers, the bright one thickest in the middle, so that stars open where the bevel nears the centre. Hardened: see Heat.",
        design(stack(BOLD, 34.0, 90.0), _twist("right", 13.0), blade("drop_point", 150.0, 29.0, (4.6, 4.0, 2.0), 0.4, bevel=24.0))
        | WHOLE
        | {"finish": {"fit_up": FITTED}},
    ),
    (
        "Rush knife, right hand",
        "One of a pair for the two hands of a rush weaver: twisted right.",
        design(stack(BOLD, 34.0, 90.0), _twist("right", 16.0), blade("leaf", 140.0, 27.0, (4.4, 3.8, 2.0), 0.4)),
    ),
    (
        "Rush knife, left hand",
        "The other of the pair: the same pile twisted left. Turning a bar end for end would not have done it.",
        design(stack(BOLD, 34.0, 90.0), _twist("left", 16.0), blade("leaf", 140.0, 27.0, (4.4, 3.8, 2.0), 0.4)),
    ),
    (
        "Thatcher's eave knife",
        "Bias-forged: squared again on its corners, so the layers cross the blade on the slant.",
        design(
            stack(layers(("1084", 4.0), ("15n20", 3.0), times=5, last=("1084", 4.0)), 42.0, 100.0),
            [
                {"kind": "weld", "thickness": 28.0, "scale": 0.2},
                {"kind": "draw", "width": 22.0, "thickness": 22.0, "scale": 0.2},
                {"kind": "turn", "degrees": 45.0},
                {"kind": "section", "form": "square"},
                {"kind": "draw", "width": 40.0, "thickness": 6.2, "scale": 0.2, "uneven": hand(0.12, 24.0, 4)},
                {"kind": "grind", "top": 0.3, "bottom": 0.3},
            ],
            blade("clipped", 176.0, 34.0, (4.8, 4.2, 2.2), 0.45, bevel=26.0, point=0.45),
        ),
    ),
    (
        "Basketmaker's skew",
        "Three-layer laminate: a hard core between mild sides, for shaving skeins. The core line is what sells it.",
        design(
            stack(layers(("1018", 7.0), ("1095", 6.0), ("1018", 7.0)), 40.0, 80.0),
            [
                {"kind": "weld", "thickness": 15.0, "scale": 0.2},
                {"kind": "draw", "width": 38.0, "thickness": 5.0, "scale": 0.2},
            ],
            blade("skew", 118.0, 32.0, (4.2, 4.0, 3.6), 0.35, bevel=26.0, point=0.22),
        ),
    ),
    (
        "Sluice keeper's clasp",
        "Ladder cut into both faces, rungs a thumb's breadth apart, for a blade that opens reed sluices.",
        _made(f.ladder(), blade("straight_back", 142.0, 28.0, (4.2, 3.8, 2.4), 0.4, point=0.3)),
    ),
    (
        "Fen raindrop",
        "Staggered dimples: rings all over, like the first drops on still water. A peat cutter's pocket blade.",
        _made(f.dimples(), blade("leaf", 128.0, 29.0, (4.2, 3.8, 2.2), 0.4)),
    ),
    (
        "Punt builder's spoke knife",
        "Three bars twisted right, left, right: the herringbone runs the length of the blade.",
        _made(f.opposed(), blade("drop_point", 156.0, 31.0, (4.4, 3.9, 2.0), 0.4, bevel=27.0)),
    ),
    (
        "Hurdle maker's W",
        "Bias-forged pieces turned against one another and tiled: W upon W, for splitting hazel.",
        _made(f.bias(), blade("sheepfoot", 150.0, 32.0, (4.4, 4.0, 2.4), 0.4, point=0.28)),
    ),
    (
        "Hurdle maker's crushed W",
        "The same W's pressed down before tiling. The pair hangs over the bench for customers to choose.",
        _made(f.bias(5.5), blade("sheepfoot", 150.0, 32.0, (4.4, 4.0, 2.4), 0.4, point=0.28)),
    ),
    (
        "Heron quill",
        "A tall pile split down the middle: quill and barbs. For a fowler's plucking knife.",
        _made(f.feather(), blade("leaf", 170.0, 31.0, (4.4, 3.8, 2.0), 0.4)),
    ),
    (
        "Four-way bar for ferrules",
        "A star in the end grain, kept as a bar: slices of it become ferrules and end caps.",
        _made(f.four_way(), None),
    ),
    (
        "Marsh star",
        "A four-way bar sliced at 35 degrees and tiled: a row of stars for the Wendlemarsh fair.",
        _made(f.tiled(), blade("straight_back", 158.0, 29.0, (4.3, 3.9, 2.4), 0.4, point=0.32)),
    ),
    (
        "One long star",
        "A slice of the same bar rolled out: the star stretched from heel to tip of an eel knife.",
        _made(f.end_slice(), blade("drop_point", 160.0, 31.0, (4.3, 3.8, 2.0), 0.4)),
    ),
    (
        "Bittern's eye",
        "A round of four-way let into hand-forged laminate near the heel.",
        _made(f.plug(), blade("drop_point", 150.0, 32.0, (4.4, 3.9, 2.0), 0.4, bevel=26.0)),
    ),
    (
        "Eel rope",
        "Bright and plain rods in powder, pressed and twisted: ropes across a net mender's knife.",
        _made(f.canister(), blade("clipped", 148.0, 31.0, (4.4, 3.9, 2.0), 0.4, bevel=25.0, point=0.4)),
    ),
    (
        "Skein shave, clad in twists",
        "A plain hard core between plates of opposed twists: one steel at the edge, pattern on both sides.",
        _made(f.clad_core(), blade("skew", 126.0, 32.0, (4.4, 4.2, 3.6), 0.35, bevel=27.0, point=0.22)),
    ),
    (
        "Osier peeler, well centred",
        "Three layers, the core showing as little as will do: both lines level, a blade of first grade.",
        _peeler() | WANTED,
    ),
    (
        "Osier peeler, core off centre",
        "The same blade with its core too far right. Read after the first test etch: see Grind for what to take off where.",
        _read(),
    ),
    ("Osier peeler, put right", "The same blade after the grinding its readings asked for.", _put_right()),
    (
        "Hedge bill, scarfed edge",
        "A hard edge on a leaning joint under a figured body: the joint stands higher on the right than on the left.",
        _made(m.scarfed(), blade("clipped", 168.0, 33.0, (4.5, 4.0, 2.4), 0.4, bevel=29.0, point=0.4))
        | {"aim": {"low": 6.0, "high": 16.0, "difference": 5.0}},
    ),
    (
        "Turf knife, forged to shape",
        "Layers on edge, drawn out to the outline from a bar cut at an angle: they follow the belly round the point.",
        _forged(),
    ),
)


HARDENED = "Sedge knife, bold twist"
"""The blade that has been through a whole hardening."""
STEELS: dict[str, Json] = {
    "sluice-gate": {
        "name": "Sluice gate iron",
        "family": "reclaimed",
        "composition": {"C": 0.06, "Mn": 0.08, "Si": 0.12, "P": 0.18},
        "tone": {"ferric": 5.5},
        "note": "From the old gate at Quillet sluice; splits when worked cold.",
    },
    "1084": {"price": 6.2},
    "15n20": {"price": 11.5},
}
"""The shop's own: a steel it pulled out of the water, and what it pays."""


@transaction.atomic
def load_demo(book: bool = True) -> int:
    """Make the demo's people and designs in an empty shop. Returns how many designs were made.

    A shop that has anybody in it is left as it is, demo or not. book: with its builds.
    """
    if shop_in_use():
        return 0
    people = people_the_demo()
    for key, figures in STEELS.items():
        set_steel(actor=people["owner"], key=key, figures=figures, new="composition" in figures)
    designs = {}
    for i, (name, about, document) in enumerate(reversed(DESIGNS)):
        # two of them draw
        made = create_design(
            actor=people["smith" if i % 3 == 1 else "owner"],
            document=read_document(document),
            name=name,
            about=about,
            note="as first drawn",
        )
        designs[name] = made
        if name == HARDENED:
            record_hardening(people["owner"].shop, made)
    # steel that is gone went into blades that the book tells of
    fill_rack(people["owner"], people["smith"], designs, [designs[n] for n in sorted({t.design for t in TOLD})] if book else [])
    if book:
        fill_book(people["owner"], people["smith"], designs)
    fill_baths(people["owner"])
    return len(DESIGNS)
