"""Reading the rack, always one shop's."""

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime
from typing import Any

from django.db.models import Max, QuerySet, Sum
from django.db.models.functions import Coalesce

from varistrat.core.errors import InputError
from varistrat.core.rack.item import Stocked
from varistrat.core.rack.uses import ORDER, Block, UseOf, use_for
from varistrat.core.shop import ShopData
from varistrat.designs.selectors import NotFound
from varistrat.rack.models import Item, Movement
from varistrat.shop.models import Shop

HISTORY = 200


@dataclass(frozen=True)
class Counted:
    """An item, how many are there (of powder: g), and when it last moved."""

    item: Item
    there: float
    moved: datetime | None


def rack(shop: Shop, used_up: bool = True) -> list[Counted]:
    """Everything the shop owns, or owned; one query. `used_up`: with those of which nothing is left."""
    rows = _counted(shop) if used_up else _counted(shop).filter(there__gt=0)
    return [Counted(r, r.there, r.moved) for r in rows.select_related("design")]


def _counted(shop: Shop) -> QuerySet[Any]:
    return Item.objects.filter(shop=shop).annotate(there=Coalesce(Sum("movements__amount"), 0.0), moved=Max("movements__at"))


def item_of(shop: Shop, item_id: int) -> Counted:
    """Raises NotFound."""
    found = _counted(shop).filter(pk=item_id).first()
    if found is None:
        raise NotFound("item")
    return Counted(found, found.there, found.moved)


def movements_of(item: Item, before: int | None = None) -> list[Movement]:
    """Latest first, HISTORY at a time; `before`: only those older than this one."""
    found = item.movements.select_related("by", "design")
    return list((found if before is None else found.filter(pk__lt=before))[:HISTORY])


MOST_OFFERED = 5


def offcuts_for(shop: Shop, blocks: Sequence[Block]) -> dict[str, list[tuple[Item, UseOf]]]:
    """For each block the offcuts that would do for it, best first: as they are, then the least that must be sawn up. One query."""
    items = [c.item for c in rack(shop, used_up=False) if c.item.document is not None]
    pieces = [(i, i.length, i.width, i.thickness) for i in items]
    out: dict[str, list[tuple[Item, UseOf]]] = {}
    for block in blocks:
        found = [(i, use, x * y * z) for i, x, y, z in pieces if x and y and z and (use := use_for(block, x, y, z))]
        found.sort(key=lambda f: (ORDER.index(f[1].how), f[2]))
        out[block.name] = [(item, use) for item, use, _ in found[:MOST_OFFERED]]
    return out


def stocked(shop: Shop, data: ShopData) -> list[Stocked]:
    """What is there, as the core knows it; what it can no longer read (a steel that is gone) is left out."""
    found = []
    for one in rack(shop, used_up=False):
        try:
            found.append(one.item.as_stocked(one.there, data))
        except InputError:
            continue
    return found


def rack_names(shop: Shop, key: str) -> bool:
    """Whether anything in the rack is of this steel."""
    return Item.objects.filter(shop=shop, steel=key).exists()
