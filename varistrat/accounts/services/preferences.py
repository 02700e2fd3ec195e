"""Changes to what a user prefers to see."""

from django.contrib.auth.models import User
from django.db import transaction

from varistrat.accounts.models import Preferences


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
