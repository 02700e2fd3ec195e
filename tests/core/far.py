"""What other processes are given to do: they read this file and not all that the test of them reads."""

import os
import resource
import signal
import time
from pathlib import Path

import numpy as np

from varistrat.core.errors import InputError


def slow_square(n: int, seconds: float = 0.05) -> int:
    time.sleep(seconds)
    return n * n


def die_once(path: str, n: int) -> int:
    """Kills its own process the first time it is asked."""
    try:
        Path(path).touch(exist_ok=False)
    except FileExistsError:
        return n + 1
    os.kill(os.getpid(), signal.SIGKILL)
    return 0


def always_dies() -> None:
    os.kill(os.getpid(), signal.SIGKILL)


def refuses() -> None:
    raise InputError.at("here", "it is wrong", "make it right")


def faults(arrays: int) -> int:
    """Pages the system hands out while so many arrays of a megabyte are filled and let go."""
    before = resource.getrusage(resource.RUSAGE_SELF).ru_minflt
    for _ in range(arrays):
        # two at once: the second is what would be given back
        one, other = np.ones(1 << 17), np.ones(1 << 17)
        del one, other
    return resource.getrusage(resource.RUSAGE_SELF).ru_minflt - before
