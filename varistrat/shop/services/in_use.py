"""The steels a shop works with, out of all there are."""

from django.db import transaction

from varistrat.core.errors import InputError
from varistrat.shop.models import Membership, Shop
from varistrat.shop.services.own import shop_data


def steels_in_use(shop: Shop) -> list[str]:
    """Keys of those that are still in the list."""
    known = shop_data(shop).steels
    return [k for k in shop.in_use if k in known]


@transaction.atomic
def set_steels_in_use(*, actor: Membership, keys: list[str]) -> list[str]:
    """Raises InputError for a steel there is not."""
    shop = actor.shop
    known = shop_data(shop).steels
    for key in keys:
        if key not in known:
            raise InputError.at("keys", f"there is no steel {key[:40]!r} in the list", "choose steels that are there")
    shop.in_use = list(dict.fromkeys(keys))
    shop.save(update_fields=["in_use"])
    return shop.in_use
