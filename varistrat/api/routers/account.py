"""Signing in and out, and preferences."""

from django.conf import settings
from django.contrib.auth import login, logout
from django.contrib.auth.models import User
from django.http import HttpRequest
from ninja import Router
from ninja.security import APIKeyCookie

from varistrat.accounts.services import preferences as services
from varistrat.accounts.services import sign_in as paced
from varistrat.api.auth import asker, signed_in
from varistrat.api.errors import Refused
from varistrat.api.schemas import PROBLEMS, PreferencesIn, PreferencesOut, SessionOut, SignIn
from varistrat.demo.shop import DEMO_USER

router = Router(tags=["account"])


class Anyone(APIKeyCookie):
    """No sign-in needed, but the CSRF token is."""

    param_name = settings.SESSION_COOKIE_NAME

    def authenticate(self, request: HttpRequest, key: str | None) -> bool:
        return True


def _session(request: HttpRequest) -> SessionOut:
    user = request.user
    if not user.is_authenticated:
        return SessionOut(user=None, demo=settings.DEMO, preferences=None)
    preferences = PreferencesOut.from_orm(services.preferences_of(asker(request)))
    return SessionOut(user=user.get_username(), demo=settings.DEMO, preferences=preferences)


@router.get("/session", response=SessionOut)
def session(request: HttpRequest) -> SessionOut:
    return _session(request)


@router.post("/session/sign-in", response={200: SessionOut, **PROBLEMS}, auth=Anyone())
def sign_in(request: HttpRequest, asked: SignIn) -> SessionOut:
    """Wrong passwords make the next try wait; see the service."""
    user = paced.check(request, asked.user, asked.password)
    if user is None:
        raise Refused(401, "wrong_sign_in", "That name and password do not go together.")
    login(request, user)
    return _session(request)


@router.post("/session/demo", response={200: SessionOut, **PROBLEMS}, auth=Anyone())
def demo(request: HttpRequest) -> SessionOut:
    user = User.objects.filter(username=DEMO_USER).first()
    if not settings.DEMO or user is None:
        raise Refused(403, "no_demo", "This is not a demo; sign in with your name and password.")
    login(request, user, backend="django.contrib.auth.backends.ModelBackend")
    return _session(request)


@router.post("/session/sign-out", response={200: SessionOut, **PROBLEMS}, auth=Anyone())
def sign_out(request: HttpRequest) -> SessionOut:
    logout(request)
    return _session(request)


@router.patch("/preferences", response={200: PreferencesOut, **PROBLEMS}, auth=signed_in)
def preferences(request: HttpRequest, asked: PreferencesIn) -> PreferencesOut:
    return PreferencesOut.from_orm(
        services.set_preferences(
            actor=asker(request), length=asked.length, temperature=asked.temperature, theme=asked.theme, weight=asked.weight
        )
    )
