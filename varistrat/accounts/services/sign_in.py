"""Signing in, paced: every wrong password makes the next try wait longer, by name and by address; nobody can lock another out.

A try made while one must wait is turned away unlooked at and does not lengthen the wait. Counts are bounded; a password is worked
on for few at a time, for each costs megabytes.
"""

import hashlib
import threading
import time
from collections.abc import Callable, Iterator
from contextlib import contextmanager

from django.conf import settings
from django.contrib.auth import authenticate
from django.contrib.auth.models import User
from django.db import transaction
from django.http import HttpRequest

from varistrat.accounts.models import Tries
from varistrat.accounts.services import second

FREE = {"both": 3, "address": 20, "name": 20, "code": 5}
"""Wrong tries before a wait begins: of one name from one address, of all names from one address, of one name from anywhere; and codes of
one name, by who knows its password."""
LONGEST = {"both": 900.0, "address": 120.0, "name": 5.0, "code": 900.0}
"""Seconds. A name's own wait stays short: strangers must not be able to keep its owner out. For its codes it is long: a stranger has to
know the password to get so far, and must not get through a million codes."""
FORGOTTEN = 3600.0
MOST_KEPT = 20_000
AT_ONCE, PATIENCE = 2, 3.0
"""Passwords worked on at once, and seconds one waits for its turn."""


class Wait(Exception):
    """Not now: `seconds` to wait."""

    def __init__(self, seconds: float):
        super().__init__(f"wait {seconds:.0f} s")
        self.seconds = seconds


class Pace:
    """Waits by key, kept in the database: so many serving processes count as one, and a restart forgets nothing; the oldest keys go
    first. clock: seconds since 1970."""

    def __init__(self, clock: Callable[[], float] = time.time, most: int = MOST_KEPT):
        self._clock, self._most = clock, most

    def must_wait(self, name: str, address: str, code: bool = False) -> float:
        """Seconds until a try is looked at; 0: now. code: of a code, the password being right."""
        now = self._clock()
        found = Tries.objects.filter(key__in=_keys(name, address, code)).values_list("key", "until")
        # never longer than the longest: the clock may have been set back
        return max([min(until - now, LONGEST[key.partition(":")[0]]) for key, until in found] + [0.0])

    @transaction.atomic
    def wrong(self, name: str, address: str, code: bool = False) -> None:
        now, keys = self._clock(), _keys(name, address, code)
        before = {t.key: t for t in Tries.objects.filter(key__in=keys, last__gt=now - FORGOTTEN)}
        for key in keys:
            count, kind = before[key].wrong + 1 if key in before else 1, key.partition(":")[0]
            over = count - FREE[kind]
            until = now + min(LONGEST[kind], 2.0 ** min(over, 12)) if over >= 0 else now
            Tries.objects.update_or_create(key=key, defaults={"wrong": count, "last": now, "until": until})
        if (many := Tries.objects.count() - self._most) > 0:
            Tries.objects.filter(
                key__in=list(Tries.objects.exclude(key__in=keys).order_by("last").values_list("key", flat=True)[:many])
            ).delete()

    def right(self, name: str, address: str) -> None:
        mine = [k for k in _keys(name, address, code=True) if not k.startswith("address")]
        # most come in at once: nothing is written for them
        if Tries.objects.filter(key__in=mine).exists():
            Tries.objects.filter(key__in=mine).delete()


def _keys(name: str, address: str, code: bool) -> list[str]:
    def short(text: str) -> str:
        return hashlib.blake2b(text.encode("utf-8", "replace"), digest_size=12).hexdigest()

    said = name.strip().lower()
    mine = [f"code:{short(said)}"] if code else []
    return [f"both:{short(f'{said}{chr(0)}{address}')}", f"address:{short(address)}", f"name:{short(said)}", *mine]


pace = Pace()
_turns = threading.BoundedSemaphore(AT_ONCE)


def address_of(request: HttpRequest) -> str:
    """Whose try it is: the peer, or what the trusted proxies (VARISTRAT_PROXIES of them) say, counted from the right."""
    peer = str(request.META.get("REMOTE_ADDR", ""))
    trusted = settings.TRUSTED_PROXIES
    if not trusted:
        return peer
    passed = [a.strip() for a in str(request.META.get("HTTP_X_FORWARDED_FOR", "")).split(",") if a.strip()]
    return passed[-trusted] if len(passed) >= trusted else peer


@contextmanager
def turn() -> Iterator[None]:
    """Around whatever works on a password. Raises Wait."""
    if not _turns.acquire(timeout=PATIENCE):
        raise Wait(PATIENCE)
    try:
        yield
    finally:
        _turns.release()


@contextmanager
def looked_at(name: str, address: str) -> Iterator[None]:
    """Around one try at the password of this name, and the count of it where it was wrong. Raises Wait, also after the turn has come:
    those before it in the row may have been wrong, and sixty at once are not sixty tries."""
    _may(name, address)
    with turn():
        _may(name, address)
        yield


def _may(name: str, address: str, code: bool = False) -> None:
    if (seconds := pace.must_wait(name, address, code)) > 0:
        raise Wait(seconds)


def check(request: HttpRequest, name: str, password: str, code: str = "") -> User | None:
    """The user, None for a wrong pair. Raises Wait; second.CodeWanted where a code must come with it."""
    address = address_of(request)
    with looked_at(name, address):
        user = authenticate(request, username=name, password=password)
        if user is None:
            pace.wrong(name, address)
            return None
        assert isinstance(user, User)
        if second.has(user):
            _with_code(user, name, address, code)
    pace.right(name, address)
    return user


def _with_code(user: User, name: str, address: str, code: str) -> None:
    if not code.strip():
        raise second.CodeWanted(wrong=False)
    _may(name, address, code=True)
    if not second.passes(user=user, code=code):
        pace.wrong(name, address, code=True)
        raise second.CodeWanted(wrong=True)
