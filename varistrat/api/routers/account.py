"""Signing in and out, and preferences."""

from django.conf import settings
from django.contrib.auth import login, logout
from django.contrib.auth.models import User
from django.http import HttpRequest
from ninja import Router

from varistrat.accounts.services import preferences as services
from varistrat.accounts.services import sign_in as paced
from varistrat.api.auth import anyone, asker, helper
from varistrat.api.errors import Refused
from varistrat.api.routers.shop import shop_out
from varistrat.api.schemas import PROBLEMS, PreferencesIn, PreferencesOut, SessionOut, SignIn
from varistrat.demo.people import DEMO_PEOPLE
from varistrat.shop.models import Role
from varistrat.shop.services import people

router = Router(tags=["account"])


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
    )


@router.get("/session", response=SessionOut)
def session(request: HttpRequest) -> SessionOut:
    return _session(request)


@router.post("/session/sign-in", response={200: SessionOut, **PROBLEMS}, auth=anyone)
def sign_in(request: HttpRequest, asked: SignIn) -> SessionOut:
    """Wrong passwords make the next try wait; see the service."""
    user = paced.check(request, asked.user, asked.password)
    if user is None:
        raise Refused(401, "wrong_sign_in", "That name and password do not go together.")
    login(request, user)
    return _session(request)


@router.post("/session/demo", response={200: SessionOut, **PROBLEMS}, auth=anyone)
def demo(request: HttpRequest, role: Role = Role.OWNER) -> SessionOut:
    """Enter the demo shop; query: as which of its people."""
    user = User.objects.filter(username=DEMO_PEOPLE[role]).first()
    if not settings.DEMO or user is None:
        raise Refused(403, "no_demo", "This is not a demo; sign in with your name and password.")
    login(request, user, backend="varistrat.shop.backend.AtWork")
    return _session(request)


@router.post("/session/sign-out", response={200: SessionOut, **PROBLEMS}, auth=anyone)
def sign_out(request: HttpRequest) -> SessionOut:
    logout(request)
    return _session(request)


@router.patch("/preferences", response={200: PreferencesOut, **PROBLEMS}, auth=helper)
def preferences(request: HttpRequest, asked: PreferencesIn) -> PreferencesOut:
    return PreferencesOut.from_orm(
        services.set_preferences(
            actor=asker(request).user, length=asked.length, temperature=asked.temperature, theme=asked.theme, weight=asked.weight
        )
    )
