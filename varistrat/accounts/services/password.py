"""A password changed by who knows the old one; every other browser of theirs is signed out by it."""

import logging

from django.contrib.auth import update_session_auth_hash
from django.contrib.auth.models import User
from django.contrib.auth.password_validation import validate_password
from django.core.exceptions import ValidationError
from django.http import HttpRequest
from django.utils import timezone

from varistrat.accounts.services.preferences import preferences_of
from varistrat.accounts.services.sign_in import address_of, looked_at, pace, turn
from varistrat.core.errors import InputError

log = logging.getLogger("varistrat.security")


def good_password(password: str, user: User) -> None:
    """Raises InputError for one that is too short, too common or like the name."""
    try:
        validate_password(password, user)
    except ValidationError as e:
        said = e.messages[0][:1].lower() + e.messages[0][1:200].rstrip(".")
        raise InputError.at("password", said, "choose a longer one of your own") from e


def is_theirs(request: HttpRequest, *, user: User, password: str, field: str) -> None:
    """Ask once more who it is, before something that a browser left open must not do. Raises InputError, Wait after too many tries."""
    address = address_of(request)
    with looked_at(user.get_username(), address):
        right = user.check_password(password)
        if not right:
            pace.wrong(user.get_username(), address)
    if not right:
        log.warning("user %s, signed in, gave a wrong password, from %s", user.pk, address)
        raise InputError.at(field, "that is not your password", "type the one you sign in with")


def change(request: HttpRequest, *, user: User, old: str, new: str) -> None:
    """Raises InputError for a wrong old one or a poor new one, Wait after too many tries."""
    is_theirs(request, user=user, password=old, field="old")
    if new == old:
        raise InputError.at("password", "that is the one you have", "choose another")
    good_password(new, user)
    with turn():
        user.set_password(new)
    user.save(update_fields=["password"])
    preferences = preferences_of(user)
    preferences.password_changed = timezone.now()
    preferences.save(update_fields=["password_changed"])
    # this browser stays; all others ask for the new one
    update_session_auth_hash(request, user)
    log.info("password of user %s changed, from %s", user.pk, address_of(request))
