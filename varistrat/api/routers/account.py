"""Signing in and out, and preferences."""

import logging

from django.conf import settings
from django.contrib.auth import logout
from django.contrib.auth.models import User
from django.http import HttpRequest
from ninja import Router

from varistrat.accounts.services import browsers
from varistrat.accounts.services import password as passwords
from varistrat.accounts.services import preferences as services
from varistrat.accounts.services import sign_in as paced
from varistrat.api.auth import anyone, asker, helper
from varistrat.api.errors import Refused
from varistrat.api.routers.shop import shop_out
from varistrat.api.schemas import PROBLEMS, BrowserOut, ElsewhereOut, PasswordIn, PreferencesIn, PreferencesOut, SessionOut, SignIn
from varistrat.demo.people import DEMO_PEOPLE
from varistrat.shop.models import Role
from varistrat.shop.services import people

router = Router(tags=["account"])
log = logging.getLogger("varistrat.security")
"""Who signed in, out, was turned away or changed what others may: by number and address, never a name's password or a token."""


def _session(request: HttpRequest) -> SessionOut:
    user = request.user
    if not isinstance(user, User):
        return SessionOut(user=None, demo=settings.DEMO)
    preferences = PreferencesOut.from_orm(services.preferences_of(user))
    return SessionOut(
        user=user.get_username(),
        demo=settings.DEMO,
        preferences=preferences,
        shop=shop_out(people.member_of(user)),
        shops=[shop_out(m) for m in people.shops_of(user)],
        password_changed=request.session.get("password_changed"),
    )


@router.get("/session", response=SessionOut)
def session(request: HttpRequest) -> SessionOut:
    return _session(request)


@router.post("/session/sign-in", response={200: SessionOut, **PROBLEMS}, auth=anyone)
def sign_in(request: HttpRequest, asked: SignIn) -> SessionOut:
    """Wrong passwords make the next try wait; see the service."""
    user = paced.check(request, asked.user, asked.password)
    if user is None:
        log.warning("wrong sign-in, from %s", paced.address_of(request))
        raise Refused(401, "wrong_sign_in", "That name and password do not go together.")
    browsers.let_in(request, user)
    log.info("user %s signed in, from %s", user.pk, paced.address_of(request))
    return _session(request)


@router.post("/session/demo", response={200: SessionOut, **PROBLEMS}, auth=anyone)
def demo(request: HttpRequest, role: Role = Role.OWNER) -> SessionOut:
    """Enter the demo shop; query: as which of its people."""
    user = User.objects.filter(username=DEMO_PEOPLE[role]).first()
    if not settings.DEMO or user is None:
        raise Refused(403, "no_demo", "This is not a demo; sign in with your name and password.")
    browsers.let_in(request, user, "varistrat.shop.backend.AtWork")
    return _session(request)


@router.post("/session/sign-out", response={200: SessionOut, **PROBLEMS}, auth=anyone)
def sign_out(request: HttpRequest) -> SessionOut:
    if request.user.is_authenticated:
        log.info("user %s signed out, from %s", request.user.pk, paced.address_of(request))
    logout(request)
    return _session(request)


@router.post("/session/password", response={200: SessionOut, **PROBLEMS}, auth=helper)
def change_password(request: HttpRequest, asked: PasswordIn) -> SessionOut:
    """One's own, by who knows the old one; all other browsers are signed out by it."""
    if settings.DEMO and asker(request).user.username in DEMO_PEOPLE.values():
        raise Refused(403, "demo", "The people of the demo shop have no passwords.")
    passwords.change(request, user=asker(request).user, old=asked.old, new=asked.password)
    return _session(request)


@router.post("/session/sign-out-elsewhere", response={200: ElsewhereOut, **PROBLEMS}, auth=helper)
def sign_out_elsewhere(request: HttpRequest) -> ElsewhereOut:
    """End one's sessions in all other browsers."""
    return ElsewhereOut(ended=browsers.sign_out_of(request, user=asker(request).user))


@router.get("/session/browsers", response={200: list[BrowserOut], **PROBLEMS}, auth=helper)
def signed_in(request: HttpRequest) -> list[browsers.Browser]:
    """Where one is signed in, latest first."""
    return browsers.browsers_of(request, user=asker(request).user)


@router.delete("/session/browsers/{key}", response={204: None, **PROBLEMS}, auth=helper)
def sign_out_of(request: HttpRequest, key: str) -> tuple[int, None]:
    """End one's session in one of them; one that is over already is over."""
    browsers.sign_out_of(request, user=asker(request).user, key=key)
    return 204, None


@router.patch("/preferences", response={200: PreferencesOut, **PROBLEMS}, auth=helper)
def preferences(request: HttpRequest, asked: PreferencesIn) -> PreferencesOut:
    return PreferencesOut.from_orm(
        services.set_preferences(
            actor=asker(request).user, length=asked.length, temperature=asked.temperature, theme=asked.theme, weight=asked.weight
        )
    )
