"""Waiting for what other threads and processes do: by looks, not by the clock, so that a machine that stood still costs one look."""

import time
from collections.abc import Callable

EVERY = 0.02
PATIENCE = 120.0
"""Seconds: what has not come by then is not going to. A machine that tests beside others stands still for some."""


def until(what: Callable[[], object], why: str, seconds: float = PATIENCE) -> None:
    """Raises AssertionError with `why` when it has not come true after as many looks as the seconds hold."""
    for _ in range(int(seconds / EVERY)):
        if what():
            return
        time.sleep(EVERY)
    raise AssertionError(why)
