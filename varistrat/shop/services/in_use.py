"""The steels a shop works with, out of all there are."""

from django.db import transaction

from varistrat.core.errors import InputError
from varistrat.shop.models import Membership, Shop
from varistrat.shop.services.marks import Overtaken
from varistrat.shop.services.own import shop_data


def steels_in_use(shop: Shop) -> list[str]:
    """Keys of those that are still in the list."""
    known = shop_data(shop).steels
    return [k for k in shop.in_use if k in known]


@transaction.atomic
def set_steels_in_use(*, actor: Membership, keys: list[str], base: list[str] | None = None) -> list[str]:
    """base: those in use when they were looked at. Raises InputError for a steel there is not, Overtaken when others are in use by now."""
    shop = actor.shop
    shop.refresh_from_db(fields=["in_use"])
    if base is not None and set(base) != set(steels_in_use(shop)):
        raise Overtaken("")
    known = shop_data(shop).steels
    for key in keys:
        if key not in known:
            raise InputError.at("keys", f"there is no steel {key[:40]!r} in the list", "choose steels that are there")
    shop.in_use = list(dict.fromkeys(keys))
    shop.save(update_fields=["in_use"])
    return shop.in_use
