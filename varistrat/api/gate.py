"""Who may work how much at once. Light questions pass; heavy ones (by an estimate made before they begin) take a place, few in all,
fewer of one user, and wait in turn; when too many wait they are sent away to ask again. So a light question is always answered.
"""

import threading
import time
from collections import deque
from collections.abc import Callable, Iterator
from contextlib import contextmanager

from django.conf import settings
from django.http import HttpRequest

from varistrat.core.errors import Cancelled, InputError
from varistrat.core.limits import MAX_DRAW_SECONDS

PLACES, OF_ONE = 3, 2
"""Heavy questions at work at once, shared by the serving processes but at least two in each, and of one user in each."""
WAITING, OF_ONE_WAITING = 14, 6
"""And waiting, in all and of one user."""
PATIENCE = 30.0
HEAVY = 30_000_000
"""Points times steps from which a question is heavy: some two tenths of a second."""
MOST = 5_000_000_000
"""And from which it is refused, for no deadline could be kept: it is a job then, or to be asked smaller."""


class Busy(Exception):
    """Too many heavy questions at once; ask again in `seconds`."""

    def __init__(self, seconds: int = 3):
        super().__init__("busy")
        self.seconds = seconds


class Gate:
    """Fair between users: of those waiting, the first whose user has the fewest at work goes next."""

    def __init__(self, places: int = PLACES, of_one: int = OF_ONE, waiting: int = WAITING, of_one_waiting: int = OF_ONE_WAITING):
        self._places, self._of_one, self._most, self._most_one = places, of_one, waiting, of_one_waiting
        self._working: dict[int, int] = {}
        self._queue: deque[tuple[int, object]] = deque()
        self._turn = threading.Condition()

    def _next(self) -> object | None:
        if sum(self._working.values()) >= self._places:
            return None
        free = [
            (self._working.get(user, 0), i, ticket)
            for i, (user, ticket) in enumerate(self._queue)
            if self._working.get(user, 0) < self._of_one
        ]
        return min(free)[2] if free else None

    @contextmanager
    def place(self, user: int, gone: Callable[[], bool] | None = None, patience: float = PATIENCE) -> Iterator[None]:
        """Hold a place. Raises Busy, or Cancelled when the asker went away."""
        ticket, until = object(), time.monotonic() + patience
        with self._turn:
            mine = sum(1 for u, _ in self._queue if u == user)
            if len(self._queue) >= self._most or mine >= self._most_one:
                raise Busy
            self._queue.append((user, ticket))
            try:
                while self._next() is not ticket:
                    if gone and gone():
                        raise Cancelled
                    if time.monotonic() > until:
                        raise Busy
                    self._turn.wait(0.25)
            finally:
                self._queue.remove((user, ticket))
            self._working[user] = self._working.get(user, 0) + 1
        try:
            yield
        finally:
            with self._turn:
                self._working[user] -= 1
                if not self._working[user]:
                    del self._working[user]
                self._turn.notify_all()


gate = Gate(max(OF_ONE, PLACES // settings.SERVERS))


class Deadline:
    """When the whole of one question must be done, however many pictures it is."""

    def __init__(self, seconds: float, wanted: Callable[[], bool] | None = None):
        self._until, self._gone = time.monotonic() + seconds, wanted

    @property
    def over(self) -> bool:
        return time.monotonic() > self._until

    def stop(self) -> bool:
        """A question to ask between blocks of work."""
        return self.over or (self._gone is not None and self._gone())

    def check(self) -> None:
        """Raises InputError when it has taken too long, Cancelled when nobody wants it any more."""
        if self.over:
            raise too_long()
        if self._gone is not None and self._gone():
            raise Cancelled


def too_long() -> InputError:
    return InputError.at("recipe", f"this takes longer than {MAX_DRAW_SECONDS:.0f} s", "use fewer steps or zones, or ask for it smaller")


def gone(request: HttpRequest) -> Callable[[], bool]:
    """Whether the browser went away: the server looks ahead on the line."""
    asked: Callable[[], bool] = request.META.get("waitress.client_disconnected") or (lambda: False)
    return asked


@contextmanager
def heavy(request: HttpRequest, cost: float, wanted: Callable[[], bool] | None = None) -> Iterator[Deadline]:
    """Around the work of one question. `cost`: points times steps, reckoned beforehand; `wanted`: whether it was overtaken."""
    if cost > MOST:
        raise too_long()
    away = gone(request)

    def stop() -> bool:
        return away() or (wanted is not None and wanted())

    if cost < HEAVY:
        with _within(Deadline(MAX_DRAW_SECONDS, stop)) as deadline:
            yield deadline
        return
    with gate.place(request.user.pk or 0, stop), _within(Deadline(MAX_DRAW_SECONDS, stop)) as deadline:
        yield deadline


@contextmanager
def _within(deadline: Deadline) -> Iterator[Deadline]:
    """Work that was stopped because it took too long says so; only what nobody wants any more says that."""
    try:
        yield deadline
    except Cancelled:
        if deadline.over:
            raise too_long() from None
        raise
