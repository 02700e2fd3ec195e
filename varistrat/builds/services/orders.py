"""Orders: for whom, what for, by when, for how much, what may not be missing."""

from collections.abc import Mapping
from typing import Any

from django.db import transaction

from varistrat.builds.models import Order
from varistrat.core.errors import InputError
from varistrat.core.finish.ordered import ordered
from varistrat.core.shop import ShopData
from varistrat.core.stock.begun import begun
from varistrat.designs.models import Design
from varistrat.designs.services.keep import create_design
from varistrat.shop.models import Membership
from varistrat.shop.services.marks import mark_of, unchanged

MOST_ORDERS = 5_000
SAID = ("who", "title", "purpose", "promised", "price", "must", "length", "height", "steels", "state")


def mark_of_order(order: Order) -> str:
    """Of what may be said of it."""
    return mark_of(order, SAID)


@transaction.atomic
def take(*, actor: Membership, said: Mapping[str, Any]) -> Order:
    """Raises InputError beyond what a shop keeps."""
    if Order.objects.filter(shop=actor.shop).count() >= MOST_ORDERS:
        raise InputError.at("orders", f"there are {MOST_ORDERS} orders already", "withdraw old ones")
    return Order.objects.create(shop=actor.shop, **{n: said[n] for n in SAID if n in said})


@transaction.atomic
def change(*, actor: Membership, order: Order, said: Mapping[str, Any], base: str = "") -> Order:
    """base: its mark when it was looked at. Raises Overtaken."""
    order.refresh_from_db()
    unchanged(base, mark_of_order(order))
    for name in (n for n in SAID if n in said):
        setattr(order, name, said[name])
    order.save()
    return order


@transaction.atomic
def begin_design(*, actor: Membership, order: Order, shop: ShopData) -> Design:
    """The design of an order: the one that was begun for it, or a new one of its size, steels and purpose. Raises InputError."""
    order.refresh_from_db()
    if order.design is None or order.design.removed:
        document = begun(ordered(order.title, order.steels, order.length, order.height, order.purpose or None, shop))  # type: ignore[arg-type]
        about = f"For {order.who}." + (f" {order.must}" if order.must else "")
        order.design = create_design(actor=actor, document=document, name=order.title, about=about[:400], note="begun from its order")
        order.save(update_fields=["design"])
    return order.design
