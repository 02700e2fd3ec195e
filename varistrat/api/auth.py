"""Who is asking, and what they may. The role that a route needs stands in its `auth`, nowhere else."""

import logging
from typing import Any

from django.conf import settings
from django.http import HttpRequest
from ninja.errors import HttpError
from ninja.security import APIKeyCookie, SessionAuth

from varistrat.accounts.services import second
from varistrat.api.errors import STALE_PAGE, Refused
from varistrat.shop.models import Membership, Role
from varistrat.shop.services.people import member_of


class OutOfDate:
    """A failed check of the page's token says what is to be done about it."""

    def _get_key(self, request: HttpRequest) -> str | None:
        try:
            key: str | None = super()._get_key(request)  # type: ignore[misc]
        except HttpError as e:
            raise Refused(403, "csrf", STALE_PAGE) from e
        return key


class AtLeast(OutOfDate, SessionAuth):
    """Signed in, and at work in a shop with this role or more."""

    def __init__(self, role: Role):
        super().__init__()
        self.role = role

    def authenticate(self, request: HttpRequest, key: str | None) -> Any:
        if not request.user.is_authenticated:
            return None
        member = asker(request)
        # a page opened while at work in another shop must not write into this one
        if request.headers.get("X-Shop", str(member.shop_id)) != str(member.shop_id):
            raise Refused(409, "other_shop", "You went to work in another shop in the meantime. Reload this page; nothing was changed.")
        if not member.may(self.role):
            log.warning("user %s as %s refused %s %s", request.user.pk, member.role, request.method, request.path)
            raise Refused(
                403,
                "role",
                f"As {member.role} of {member.shop.name} you may look but not change this. Ask one of its owners for another role.",
            )
        if self.role == Role.OWNER and code_needed(member):
            raise Refused(403, "code_needed", "Owners sign in with a code of their phone here: set it up on the shop's page.")
        return member


def code_needed(member: Membership) -> bool:
    """Whether this server wants a code of this one, and none is asked for yet."""
    return settings.CODE_FOR_OWNERS and member.may(Role.OWNER) and not second.has(member.user)


log = logging.getLogger("varistrat.security")
helper, smith, owner = AtLeast(Role.HELPER), AtLeast(Role.SMITH), AtLeast(Role.OWNER)


class Anyone(OutOfDate, APIKeyCookie):
    """No sign-in needed, but the CSRF token is."""

    param_name = settings.SESSION_COOKIE_NAME

    def authenticate(self, request: HttpRequest, key: str | None) -> bool:
        return True


anyone = Anyone()


def asker(request: HttpRequest) -> Membership:
    """Whoever is signed in, in the shop where they are at work; fetched once a request."""
    found: Membership | None = getattr(request, "member", None)
    if found is None:
        # fetched with the person who asks (shop/backend.py), unless they are in no shop yet
        found = getattr(request.user, "member", None) or member_of(request.user)  # type: ignore[arg-type]
        request.member = found  # type: ignore[attr-defined]
    return found
