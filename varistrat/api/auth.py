"""Who is asking."""

from typing import cast

from django.contrib.auth.models import User
from django.http import HttpRequest
from ninja.security import django_auth

signed_in = django_auth


def asker(request: HttpRequest) -> User:
    """The signed-in user; routes behind `signed_in` always have one."""
    return cast(User, request.user)
