"""The demo shop's rack: what Quillet Dyke Forge bought, used, kept and counted over a year. All made up."""

import uuid
from collections.abc import Mapping, Sequence
from datetime import timedelta
from typing import Any

from django.utils import timezone

from varistrat.core.bars.recipe import Recipe
from varistrat.core.blade.measures import offcut_bar, offcuts
from varistrat.core.design.document import Document, read_document
from varistrat.core.design.worked import Worked
from varistrat.core.rack.item import RackItem
from varistrat.core.reading import parse
from varistrat.core.shop import ShopData
from varistrat.designs.models import Design
from varistrat.rack.models import Item, Movement
from varistrat.shop.models import Membership
from varistrat.shop.services.own import shop_data

Row = tuple[str, str, tuple[float, ...], float, float, str, float | None, str]
LEFT, RIGHT, BOX, LOFT = "left rack", "right rack", "box under the bench", "loft"
FLAT: tuple[Row, ...] = (
    # steel, form, sizes (thickness, width, length; or across, length), how many, price of them all, place, low mark, history
    ("1084", "flat", (3, 40, 1000), 6, 48.0, LEFT, 2, "-3 kiln 60"),
    ("1084", "flat", (4, 40, 1000), 8, 84.0, LEFT, 3, "-2 kiln 200, -3 kiln 41"),
    ("1084", "flat", (5, 40, 1000), 4, 50.0, LEFT, 2, "-1 kiln 120"),
    ("1084", "flat", (6.35, 38.1, 1220), 5, 76.0, LEFT, 2, "-1 kiln 150, +2 sale 90, -2 kiln 30"),
    ("1084", "flat", (6, 50, 900), 2, 28.0, LEFT, None, ""),
    ("1084", "flat", (9, 40, 600), 1, 13.0, LEFT, None, ""),
    ("1084", "flat", (4, 40, 372), 1, 3.9, BOX, None, ""),
    ("1084", "flat", (3, 40, 215), 2, 3.4, BOX, None, "-1 kiln 12"),
    ("1084", "square", (16, 500), 2, 14.0, RIGHT, None, ""),
    ("1084", "round", (20, 800), 2, 19.0, RIGHT, None, "-1 kiln 75"),
    ("15n20", "sheet", (1.6, 60, 1200), 4, 61.0, LEFT, 2, "-1 kiln 180, -2 kiln 41"),
    ("15n20", "flat", (2.5, 40, 1000), 5, 66.0, LEFT, 2, "-1 kiln 200, -2 kiln 41"),
    ("15n20", "flat", (2, 42, 1000), 3, 38.0, LEFT, 2, "-2 kiln 66"),
    ("15n20", "flat", (3, 42, 700), 2, 24.0, LEFT, None, "-1 kiln 66"),
    ("15n20", "sheet", (0.8, 60, 600), 6, 22.0, LOFT, None, ""),
    ("15n20", "flat", (2.5, 40, 318), 1, 2.7, BOX, None, ""),
    ("1095", "flat", (6, 40, 900), 3, 36.0, RIGHT, 1, "-1 kiln 100"),
    ("1095", "flat", (3, 50, 1000), 2, 20.0, RIGHT, None, ""),
    ("1095", "flat", (6, 40, 141), 1, 1.9, BOX, None, ""),
    ("1018", "flat", (7, 40, 1200), 4, 26.0, RIGHT, 2, "-2 kiln 100"),
    ("1018", "flat", (10, 45, 800), 2, 14.0, RIGHT, None, ""),
    ("1018", "flat", (8, 50, 600), 2, 9.0, RIGHT, None, "-1 kiln 15"),
    ("1018", "tube", (50, 3, 900), 2, 24.0, LOFT, 1, "-1 kiln 130"),
    ("1018", "sheet", (3, 200, 300), 3, 12.0, LOFT, None, ""),
    ("1018", "rods", (8, 1000), 12, 15.0, RIGHT, 4, "-5 kiln 130"),
    ("52100", "round", (25, 400), 3, 21.0, RIGHT, None, "-1 kiln 88"),
    ("52100", "flat", (5, 40, 700), 2, 22.0, RIGHT, None, ""),
    ("80crv2", "flat", (5, 40, 1000), 2, 30.0, RIGHT, None, ""),
    ("o1", "flat", (4, 30, 500), 2, 27.0, RIGHT, None, "-1 kiln 210"),
    ("l6", "flat", (2, 50, 600), 1, 18.0, LOFT, None, ""),
    ("wrought", "flat", (12, 60, 700), 2, 10.0, LOFT, None, "-1 kiln 95"),
    ("wrought", "octagon", (30, 350), 1, 4.0, LOFT, None, ""),
    ("nickel", "sheet", (0.5, 100, 300), 4, 44.0, BOX, 2, "-3 kiln 160"),
    ("304", "flat", (6, 40, 500), 1, 11.0, LOFT, None, ""),
    ("sluice-gate", "flat", (20, 80, 900), 3, 0.0, "behind the shed", None, "-1 kiln 230"),
    ("sluice-gate", "hexagon", (24, 300), 5, 0.0, "behind the shed", None, ""),
    ("1084", "powder", (), 5000, 55.0, BOX, 1000, "-812 kiln 130, -2340 kiln 52, -1120 kiln 20"),
    ("powderni2", "powder", (), 2500, 70.0, BOX, 500, "-640 kiln 52"),
)
KEPT = ("Punt builder's spoke knife", "Withy knife", "Thatcher's eave knife", "Fen raindrop", "Skein shave, clad in twists", "Marsh star")
"""Blades whose offcuts were too good to throw away."""
SIZES = {
    "flat": ("thickness", "width", "length"),
    "sheet": ("thickness", "width", "length"),
    "tube": ("width", "wall", "length"),
    "powder": (),
}
WORDS = {"kiln": "taken", "sale": "bought"}


def fill_rack(owner: Membership, smith: Membership, designs: Mapping[str, Design], used: Sequence[Design]) -> int:
    """used: the designs that steel was taken for. Returns how many items are in it then."""
    data = shop_data(owner.shop)
    now = timezone.now()
    for i, (steel, form, sizes, count, price, place, low, history) in enumerate(FLAT, 1):
        said: dict[str, Any] = dict(zip(SIZES.get(form, ("width", "length")), map(float, sizes), strict=True))
        item = parse(RackItem, {"steel": steel, "form": form, "count": float(count), "place": place, "low": low} | said, data)
        names = ("steel", "form", "width", "thickness", "wall", "length", "place", "low")
        source = "Wendlemarsh sluice, pulled out" if steel == "sluice-gate" else "the spring order"
        bought = (now - timedelta(days=300 - 5 * (i % 7))).date()
        row = Item.objects.create(
            shop=owner.shop, code=f"R{i}", each=price / count, bought=bought, source=source, **{n: getattr(item, n) for n in names}
        )
        _moved(row, Movement.Kind.BOUGHT, float(count), now - timedelta(days=300 - 5 * (i % 7)), owner)
        for k, part in enumerate(p for p in history.split(", ") if p):
            amount, word, days = part.split()
            by, design = (smith, owner)[k % 2], used[(7 * i + k) % len(used)] if word == "kiln" and used else None
            _moved(row, Movement.Kind(WORDS[word]), float(amount), now - timedelta(days=int(days)), by, design)
    for k, name in enumerate(KEPT):
        _keep(designs[name], owner, data, f"R{len(FLAT) + 1 + k}", now - timedelta(days=20 + 13 * k))
    return len(FLAT) + len(KEPT)


def _moved(item: Item, kind: Movement.Kind, amount: float, at: Any, by: Membership, design: Design | None = None, note: str = "") -> None:
    Movement.objects.create(item=item, kind=kind, amount=amount, at=at, by=by.user, design=design, note=note, act=uuid.uuid4())


def _keep(design: Design, owner: Membership, data: ShopData, code: str, at: Any) -> None:
    """The largest offcut of this design's blade, with the bar that it is."""
    document = read_document(design.revisions.get(number=design.current).document, data)
    worked = Worked.of(document)
    placed = worked.blade.placed
    piece = max(offcuts(placed), key=lambda o: o.volume)
    bar = offcut_bar(placed, piece, document.carried_out().bar, data)
    kept = Document(recipe=Recipe(name=f"{design.name}: {piece.name}"[:200], bar=bar)).as_json()
    row = Item.objects.create(
        shop=owner.shop,
        code=code,
        steel=worked.forged.most_of,
        form="flat",
        width=max(piece.width, piece.thickness),
        thickness=min(piece.width, piece.thickness),
        length=piece.length,
        place=BOX,
        note=piece.name,
        design=design,
        document=kept,
    )
    _moved(row, Movement.Kind.OFFCUT, 1.0, at, owner, design, piece.name)
