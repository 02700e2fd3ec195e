"""How much work something takes, counted in calls: the same on every machine, whatever else it does."""

import cProfile
from collections.abc import Iterator
from contextlib import contextmanager


@contextmanager
def at_most(calls: int) -> Iterator[None]:
    """Raises AssertionError where what is done inside, in this thread, calls more functions than that, C's own included."""
    profile = cProfile.Profile()
    profile.enable()
    try:
        yield
    finally:
        profile.disable()
    made = sum(entry.callcount for entry in profile.getstats())
    if made > calls:
        raise AssertionError(f"{made:,} calls where {calls:,} are enough")
