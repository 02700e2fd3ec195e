"""The shop's own: steels, numbers, and what its hammer and press leave behind."""

import json
from collections.abc import Mapping
from functools import lru_cache
from typing import Any

from django.db import transaction

from varistrat.core.bars.fresh import HANDS
from varistrat.core.bars.model import Unevenness
from varistrat.core.errors import InputError
from varistrat.core.laws.numbers import check_figure
from varistrat.core.limits import MAX_SHOP_STEELS
from varistrat.core.reading import parse
from varistrat.core.shop import ShopData
from varistrat.core.steels import Steel, built_in
from varistrat.core.steels.estimate import shop_steel
from varistrat.shop.models import Membership, Shop, ShopFigure, ShopHand, ShopSteel


@lru_cache(maxsize=2048)
def _steel(key: str, said: str) -> Steel:
    """A pure function of what is said: whose it is makes no difference to it."""
    return shop_steel(key, json.loads(said))


def own_steels(shop: Shop) -> dict[str, Steel]:
    """Steels the shop changed or added."""
    rows = ShopSteel.objects.filter(shop=shop).values_list("key", "figures")
    return {key: _steel(key, json.dumps(figures)) for key, figures in rows}


def retired_steels(shop: Shop) -> set[str]:
    """Keys of those taken out of the list, which what was saved still names."""
    return set(ShopSteel.objects.filter(shop=shop, retired=True).values_list("key", flat=True))


def own_numbers(shop: Shop) -> dict[str, float]:
    return dict(ShopFigure.objects.filter(shop=shop).values_list("key", "value"))


def shop_data(shop: Shop) -> ShopData:
    """All that is the shop's own, as a value."""
    return ShopData(own_steels(shop), own_numbers(shop))


def _checked(shop: Shop, key: str) -> None:
    if key not in built_in() and not ShopSteel.objects.filter(shop=shop, key=key).exists():
        raise InputError.at("key", f"there is no steel {key[:40]!r} in the list", "choose one that is there")


@transaction.atomic
def set_steel(*, actor: Membership, key: str, figures: Mapping[str, Any], new: bool = False) -> Steel:
    """Put the shop's own figures in place of those known; a figure that is None goes back. Raises InputError."""
    row = ShopSteel.objects.filter(shop=actor.shop, key=key).first()
    if new and row and row.retired:
        raise InputError.at("key", f"{key!r} is a retired steel of yours", "bring that one back, or choose another short name")
    if new:
        if key in built_in() or row:
            raise InputError.at("key", f"{key!r} is already in the list", "choose another short name, or change that one")
        if ShopSteel.objects.filter(shop=actor.shop).count() >= MAX_SHOP_STEELS:
            raise InputError.at("key", f"there are {MAX_SHOP_STEELS} steels of your own already", "remove one you no longer use")
    elif not row and key not in built_in():
        _checked(actor.shop, "")
    kept = {**(row.figures if row else {}), **figures}
    if row and isinstance(figures.get("tone"), dict):
        kept["tone"] = {k: v for k, v in {**row.figures.get("tone", {}), **figures["tone"]}.items() if v is not None}
    kept = {k: v for k, v in kept.items() if v not in (None, {})}
    if not kept and not new:
        ShopSteel.objects.filter(shop=actor.shop, key=key).delete()
        return built_in()[key]
    steel = shop_steel(key, kept)
    # only what could be read is kept, as it was read
    kept = {k: v for k, v in kept.items() if k != "tone" or isinstance(v, dict)}
    ShopSteel.objects.update_or_create(shop=actor.shop, key=key, defaults={"figures": kept})
    return steel


@transaction.atomic
def retire_steel(*, actor: Membership, key: str) -> None:
    """Out of the list, but still there for what names it."""
    _checked(actor.shop, key)
    ShopSteel.objects.filter(shop=actor.shop, key=key).update(retired=True)


@transaction.atomic
def bring_back_steel(*, actor: Membership, key: str) -> None:
    """A retired steel is in the list again."""
    if not ShopSteel.objects.filter(shop=actor.shop, key=key, retired=True).update(retired=False):
        raise InputError.at("key", f"there is no retired steel {key[:40]!r}", "choose one that is there")


@transaction.atomic
def forget_steel(*, actor: Membership, key: str) -> None:
    """Take the shop's figures away: a listed steel is again as it ships, one of its own is gone."""
    _checked(actor.shop, key)
    ShopSteel.objects.filter(shop=actor.shop, key=key).delete()


@transaction.atomic
def take_steels(*, actor: Membership, found: Mapping[str, Mapping[str, Any]]) -> int:
    """Put in what was read from a file, over what there is; how many were taken."""
    for key, figures in found.items():
        shop_steel(key, figures)
        ShopSteel.objects.update_or_create(shop=actor.shop, key=key, defaults={"figures": dict(figures)})
    if ShopSteel.objects.filter(shop=actor.shop).count() > MAX_SHOP_STEELS + len(built_in()):
        raise InputError.at("", f"more than {MAX_SHOP_STEELS} steels of your own", "keep those you use")
    return len(found)


@transaction.atomic
def set_figure(*, actor: Membership, key: str, value: float | None) -> None:
    """Put the shop's own number in place of ours; None takes it out again."""
    if value is None:
        ShopFigure.objects.filter(shop=actor.shop, key=key).delete()
    else:
        ShopFigure.objects.update_or_create(shop=actor.shop, key=key, defaults={"value": check_figure(key, value)})


def shop_hands(shop: Shop) -> dict[str, dict[str, float]]:
    """What each way of working usually leaves in the layers: the shop's own figures where it has some."""
    own = {h.method: {"amount": h.amount, "wavelength": h.wavelength} for h in ShopHand.objects.filter(shop=shop)}
    return {method: {**usual, **own.get(method, {})} for method, usual in HANDS.items()}


@transaction.atomic
def set_hand(*, actor: Membership, method: str, amount: float | None, wavelength: float | None) -> None:
    """Put the shop's own figures in place of the indicative ones; both None takes them out again."""
    if method not in HANDS:
        raise InputError.at("method", f"there is no way of working called {method[:40]!r}", f"use one of {', '.join(HANDS)}")
    if amount is None and wavelength is None:
        ShopHand.objects.filter(shop=actor.shop, method=method).delete()
        return
    usual = HANDS[method]
    given = {
        "amount": usual["amount"] if amount is None else amount,
        "wavelength": usual["wavelength"] if wavelength is None else wavelength,
    }
    parse(Unevenness, {**given, "seed": 1})
    ShopHand.objects.update_or_create(shop=actor.shop, method=method, defaults=given)
