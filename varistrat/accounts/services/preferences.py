"""Changes to what a user prefers to see."""

from django.contrib.auth.models import User
from django.db import transaction

from varistrat.accounts.models import Preferences
from varistrat.accounts.services.shop import shop_data
from varistrat.core.errors import InputError


def preferences_of(user: User) -> Preferences:
    found, _ = Preferences.objects.get_or_create(user=user)
    return found


@transaction.atomic
def set_preferences(
    *, actor: User, length: str | None, temperature: str | None, theme: str | None, weight: str | None = None
) -> Preferences:
    preferences = preferences_of(actor)
    for field, value in (("length", length), ("temperature", temperature), ("theme", theme), ("weight", weight)):
        if value is not None:
            setattr(preferences, field, value)
    preferences.save()
    return preferences


def rack_of(user: User) -> list[str]:
    """Keys of the steels in the shop's rack that are still in the list."""
    known = shop_data(user).steels
    return [k for k in preferences_of(user).rack if k in known]


@transaction.atomic
def set_rack(*, actor: User, keys: list[str]) -> list[str]:
    """Raises InputError for a steel there is not."""
    known = shop_data(actor).steels
    for key in keys:
        if key not in known:
            raise InputError.at("rack", f"there is no steel {key[:40]!r} in the list", "choose steels that are there")
    preferences = preferences_of(actor)
    preferences.rack = list(dict.fromkeys(keys))
    preferences.save(update_fields=["rack"])
    return preferences.rack
