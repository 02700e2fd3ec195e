"""Changes to what a user prefers and to the shop's own figures."""

from django.contrib.auth.models import User
from django.db import transaction

from varistrat.accounts.models import Preferences, ShopHand, ShopSteel
from varistrat.core.bars.fresh import HANDS
from varistrat.core.bars.model import Unevenness
from varistrat.core.bars.recipe import parse
from varistrat.core.errors import InputError
from varistrat.core.steels import steel_key


def preferences_of(user: User) -> Preferences:
    found, _ = Preferences.objects.get_or_create(user=user)
    return found


@transaction.atomic
def set_preferences(*, actor: User, length: str | None, temperature: str | None, theme: str | None) -> Preferences:
    preferences = preferences_of(actor)
    for field, value in (("length", length), ("temperature", temperature), ("theme", theme)):
        if value is not None:
            setattr(preferences, field, value)
    preferences.save()
    return preferences


def shop_tones(user: User) -> dict[str, float]:
    """The shop's own etched tones by steel."""
    return dict(ShopSteel.objects.filter(owner=user).values_list("key", "tone"))


@transaction.atomic
def set_tone(*, actor: User, key: str, tone: float | None) -> None:
    """Put the shop's own tone in place of the indicative one; None takes it out again."""
    try:
        steel_key(key)
    except ValueError as e:
        wrong, _, cure = str(e).partition("; ")
        raise InputError.at("key", wrong, cure) from e
    if tone is None:
        ShopSteel.objects.filter(owner=actor, key=key).delete()
    else:
        ShopSteel.objects.update_or_create(owner=actor, key=key, defaults={"tone": tone})


def shop_hands(user: User) -> dict[str, dict[str, float]]:
    """What each way of working usually leaves in the layers: the shop's own figures where it has some."""
    own = {h.method: {"amount": h.amount, "wavelength": h.wavelength} for h in ShopHand.objects.filter(owner=user)}
    return {method: {**usual, **own.get(method, {})} for method, usual in HANDS.items()}


@transaction.atomic
def set_hand(*, actor: User, method: str, amount: float | None, wavelength: float | None) -> None:
    """Put the shop's own figures in place of the indicative ones; both None takes them out again."""
    if method not in HANDS:
        raise InputError.at("method", f"there is no way of working called {method[:40]!r}", f"use one of {', '.join(HANDS)}")
    if amount is None and wavelength is None:
        ShopHand.objects.filter(owner=actor, method=method).delete()
        return
    usual = HANDS[method]
    given = {
        "amount": usual["amount"] if amount is None else amount,
        "wavelength": usual["wavelength"] if wavelength is None else wavelength,
    }
    parse(Unevenness, {**given, "seed": 1})
    ShopHand.objects.update_or_create(owner=actor, method=method, defaults=given)
