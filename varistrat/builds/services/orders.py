"""Orders: for whom, what for, by when, for how much, what may not be missing."""

from collections.abc import Mapping
from typing import Any

from django.db import transaction

from varistrat.builds.models import Order
from varistrat.core.errors import InputError
from varistrat.shop.models import Membership
from varistrat.shop.services.marks import mark_of, unchanged

MOST_ORDERS = 5_000
SAID = ("who", "title", "purpose", "promised", "price", "must", "state")


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
    for name in SAID:
        setattr(order, name, said[name])
    order.save()
    return order
