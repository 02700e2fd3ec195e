"""Signing in, paced: every wrong password makes the next try wait longer, by name and by address; nobody can lock another out.

A try made while one must wait is turned away unlooked at and does not lengthen the wait. Counts live in this one server's
memory, bounded; a password is worked on for few at a time, for each costs megabytes.
"""

import hashlib
import threading
import time
from collections import OrderedDict
from collections.abc import Callable, Iterator
from contextlib import contextmanager
from dataclasses import dataclass

from django.conf import settings
from django.contrib.auth import authenticate
from django.contrib.auth.models import User
from django.http import HttpRequest

FREE = {"both": 3, "address": 20, "name": 20}
"""Wrong tries before a wait begins: of one name from one address, of all names from one address, of one name from anywhere."""
LONGEST = {"both": 900.0, "address": 120.0, "name": 5.0}
"""Seconds. A name's own wait stays short: strangers must not be able to keep its owner out."""
FORGOTTEN = 3600.0
MOST_KEPT = 20_000
AT_ONCE, PATIENCE = 2, 3.0
"""Passwords worked on at once, and seconds one waits for its turn."""


class Wait(Exception):
    """Not now: `seconds` to wait."""

    def __init__(self, seconds: float):
        super().__init__(f"wait {seconds:.0f} s")
        self.seconds = seconds


@dataclass
class _Count:
    wrong: int
    last: float
    until: float


class Pace:
    """Waits by key; the oldest keys are forgotten first."""

    def __init__(self, clock: Callable[[], float] = time.monotonic, most: int = MOST_KEPT):
        self._clock, self._most = clock, most
        self._counts: OrderedDict[tuple[str, bytes], _Count] = OrderedDict()
        self._lock = threading.Lock()

    def __len__(self) -> int:
        return len(self._counts)

    def must_wait(self, name: str, address: str) -> float:
        """Seconds until a try is looked at; 0: now."""
        now = self._clock()
        with self._lock:
            return max([c.until - now for k in _keys(name, address) if (c := self._counts.get(k))] + [0.0])

    def wrong(self, name: str, address: str) -> None:
        now = self._clock()
        with self._lock:
            for key in _keys(name, address):
                count = self._counts.pop(key, None)
                if count is None or now - count.last > FORGOTTEN:
                    count = _Count(0, now, now)
                count.wrong, count.last = count.wrong + 1, now
                over = count.wrong - FREE[key[0]]
                count.until = now + min(LONGEST[key[0]], 2.0 ** min(over, 12)) if over >= 0 else now
                self._counts[key] = count
            while len(self._counts) > self._most:
                self._counts.popitem(last=False)

    def right(self, name: str, address: str) -> None:
        with self._lock:
            for key in _keys(name, address):
                if key[0] != "address":
                    self._counts.pop(key, None)


def _keys(name: str, address: str) -> list[tuple[str, bytes]]:
    def short(text: str) -> bytes:
        return hashlib.blake2b(text.encode("utf-8", "replace"), digest_size=12).digest()

    said = name.strip().lower()
    return [("both", short(f"{said}\0{address}")), ("address", short(address)), ("name", short(said))]


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


def check(request: HttpRequest, name: str, password: str) -> User | None:
    """The user, None for a wrong pair. Raises Wait."""
    address = address_of(request)
    if (seconds := pace.must_wait(name, address)) > 0:
        raise Wait(seconds)
    with turn():
        user = authenticate(request, username=name, password=password)
    if user is None:
        pace.wrong(name, address)
        return None
    pace.right(name, address)
    assert isinstance(user, User)
    return user
