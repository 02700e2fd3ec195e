"""Signing in and out, and preferences."""

import logging

from django.conf import settings
from django.contrib.auth import logout
from django.contrib.auth.models import User
from django.http import HttpRequest
from ninja import Router

from varistrat.accounts.services import browsers, second
from varistrat.accounts.services import password as passwords
from varistrat.accounts.services import preferences as services
from varistrat.accounts.services import sign_in as paced
from varistrat.api.auth import anyone, asker, code_needed, helper
from varistrat.api.errors import Refused
from varistrat.api.routers.shop import shop_out
from varistrat.api.schemas import (
    PROBLEMS,
    BrowserOut,
    CodeIn,
    ElsewhereOut,
    PasswordIn,
    PreferencesIn,
    PreferencesOut,
    SecondIn,
    SecondOut,
    SessionOut,
    SignIn,
    SpareOut,
)
from varistrat.demo.people import DEMO_PEOPLE
from varistrat.shop.models import Role
from varistrat.shop.services import people

router = Router(tags=["account"])
log = logging.getLogger("varistrat.security")
"""Who signed in, out, was turned away or changed what others may: by number and address, never a name's password or a token."""


WRONG_CODE = "That code does not count: it may be over already, or used. Wait for the next one; the phone's clock must be right."


def _session(request: HttpRequest) -> SessionOut:
    user = request.user
    if not isinstance(user, User):
        return SessionOut(user=None, demo=settings.DEMO)
    preferences, member = PreferencesOut.from_orm(services.preferences_of(user)), people.member_of(user)
    return SessionOut(
        user=user.get_username(),
        demo=settings.DEMO,
        preferences=preferences,
        shop=shop_out(member),
        shops=[shop_out(m) for m in people.shops_of(user)],
        password_changed=request.session.get("password_changed"),
        spare_codes=second.spare_left(user),
        code_needed=code_needed(member),
    )


@router.get("/session", response=SessionOut)
def session(request: HttpRequest) -> SessionOut:
    return _session(request)


@router.post("/session/sign-in", response={200: SessionOut, **PROBLEMS}, auth=anyone)
def sign_in(request: HttpRequest, asked: SignIn) -> SessionOut:
    """Wrong passwords and codes make the next try wait; see the service."""
    try:
        user = paced.check(request, asked.user, asked.password, asked.code)
    except second.CodeWanted as e:
        if not e.wrong:
            raise Refused(401, "code_wanted", "Now the code that your phone shows, or one of your spare ones.") from e
        log.warning("wrong code at a sign-in, from %s", paced.address_of(request))
        raise Refused(401, "code_wanted", WRONG_CODE) from e
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
    passwords.change(request, user=_not_of_the_demo(request), old=asked.old, new=asked.password)
    return _session(request)


@router.post("/session/second/begin", response={200: SecondOut, **PROBLEMS}, auth=helper)
def begin_second(request: HttpRequest, asked: SecondIn) -> SecondOut:
    """What a phone needs to work out codes; they are asked for as soon as one of them was given back."""
    import segno

    user = _with_password(request, asked.password)
    begun = second.begin(user=user)
    picture = segno.make(begun.address, error="m", micro=False).svg_data_uri(scale=4, border=4, light="#fff")
    return SecondOut(secret=" ".join(begun.secret[i : i + 4] for i in range(0, len(begun.secret), 4)), picture=picture)


@router.post("/session/second", response={200: SpareOut, **PROBLEMS}, auth=helper)
def confirm_second(request: HttpRequest, asked: CodeIn) -> SpareOut:
    """From now on a code is asked for; other browsers, which gave none, are signed out."""
    spare = second.confirm(user=asker(request).user, code=asked.code)
    browsers.sign_out_of(request, user=asker(request).user)
    return SpareOut(spare=spare)


@router.post("/session/second/end", response={200: SessionOut, **PROBLEMS}, auth=helper)
def end_second(request: HttpRequest, asked: SecondIn) -> SessionOut:
    """No code is asked for any more."""
    second.end(user=_with_password(request, asked.password))
    return _session(request)


def _not_of_the_demo(request: HttpRequest) -> User:
    user = asker(request).user
    if settings.DEMO and user.username in DEMO_PEOPLE.values():
        raise Refused(403, "demo", "The people of the demo shop have no passwords.")
    return user


def _with_password(request: HttpRequest, password: str) -> User:
    """Who asks, having shown once more that it is them."""
    user = _not_of_the_demo(request)
    passwords.is_theirs(request, user=user, password=password, field="password")
    return user


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
