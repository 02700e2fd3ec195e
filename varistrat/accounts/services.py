"""Changes to what a user prefers and to the shop's own figures."""

from django.contrib.auth.models import User
from django.db import transaction

from varistrat.accounts.models import Preferences, ShopSteel
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
