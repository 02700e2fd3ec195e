"""Where a person is signed in: each browser by what it is, since when and from where; ended one by one, or all but one's own."""

import hashlib
import logging
import re
from collections.abc import Iterator
from dataclasses import dataclass
from datetime import datetime

from django.contrib.auth import SESSION_KEY, login
from django.contrib.auth.models import User
from django.contrib.sessions.models import Session
from django.db import transaction
from django.http import HttpRequest
from django.utils import timezone

from varistrat.accounts.services.preferences import preferences_of
from varistrat.accounts.services.sign_in import address_of

log = logging.getLogger("varistrat.security")
HELD = re.compile(r"Mobi|Android|iPad|iPhone|Tablet")
"""What the browser of a phone or tablet says of itself."""


@dataclass(frozen=True)
class Browser:
    """key: names it without telling its session; held: a phone or tablet; here: the one that asks."""

    key: str
    held: bool
    address: str
    since: datetime | None
    here: bool


def let_in(request: HttpRequest, user: User, backend: str | None = None) -> None:
    """Sign this browser in, and let it know if the password was changed since the last time."""
    last, changed = user.last_login, preferences_of(user).password_changed
    login(request, user, backend)
    request.session["held"] = bool(HELD.search(request.headers.get("User-Agent", "")))
    request.session["address"], request.session["since"] = address_of(request), timezone.now().isoformat()
    if last and changed and changed > last:
        request.session["password_changed"] = changed.isoformat()


def _key(session: str) -> str:
    return hashlib.sha256(session.encode()).hexdigest()[:24]


def _of(user: User) -> Iterator[tuple[Session, dict[str, object]]]:
    for session in Session.objects.filter(expire_date__gt=timezone.now()):
        said = session.get_decoded()
        if said.get(SESSION_KEY) == str(user.pk):
            yield session, said


def browsers_of(request: HttpRequest, *, user: User) -> list[Browser]:
    """Latest first."""
    found = []
    for session, said in _of(user):
        since = datetime.fromisoformat(str(said["since"])) if "since" in said else None
        here = session.session_key == request.session.session_key
        found.append(Browser(_key(session.session_key), bool(said.get("held")), str(said.get("address", "")), since, here))
    return sorted(found, key=lambda b: b.since.timestamp() if b.since else 0.0, reverse=True)


@transaction.atomic
def sign_out_of(request: HttpRequest, *, user: User, key: str = "") -> int:
    """End the session of this browser, or (no key) of all but the one that asks; how many."""
    gone = 0
    for session, _ in _of(user):
        if _key(session.session_key) == key if key else session.session_key != request.session.session_key:
            session.delete()
            gone += 1
    log.info("user %s signed out of %d other browsers, from %s", user.pk, gone, address_of(request))
    return gone
