"""Reading what strangers drew or photographed in a process of its own, which can be ended: bounded in memory and time, a few at once.

The readers of drawings are large libraries; a tiny file can ask for more memory or time than there is. Here that costs a child.
"""

import multiprocessing
import resource
import threading
from collections import deque
from collections.abc import Callable
from multiprocessing.connection import Connection
from typing import Any

from varistrat.core.errors import InputError, Problem

SECONDS = 8.0
"""Of a processor's time: what is too much does not turn on how busy the machine is."""
WAITED = 40
"""Seconds by the clock, asked for one by one: a machine that stands still for longer costs one of them."""
MEMORY = 700_000_000
"""Bytes over what the process has when it begins."""
AT_ONCE, PATIENCE = 2, 4.0


class Places:
    """So many at once, whoever came first first: who gives a place back and wants another stands behind those who wait."""

    def __init__(self, count: int):
        self._free, self._row, self._lock = count, deque[threading.Event](), threading.Lock()

    def take(self, patience: float) -> bool:
        """Whether a place was got within so many seconds."""
        with self._lock:
            if self._free and not self._row:
                self._free -= 1
                return True
            mine = threading.Event()
            self._row.append(mine)
        if mine.wait(patience):
            return True
        with self._lock:
            # it may have come at the last moment
            if mine.is_set():
                return True
            self._row.remove(mine)
            return False

    def give(self) -> None:
        """A place back, to whoever waits the longest."""
        with self._lock:
            if self._row:
                self._row.popleft().set()
            else:
                self._free += 1


_places = Places(AT_ONCE)
_context = multiprocessing.get_context("forkserver")
_context.set_forkserver_preload(
    ["varistrat.core.interchange.outline", "varistrat.core.interchange.blade_outline", "varistrat.core.photo.intake"]
)
DRAWING = ("the drawing", "save only the outline, as one simple closed curve")
PHOTO = ("the photo", "take it anew, or save it as a plain JPEG")
"""What it is called, and what would help."""
_starting = threading.Lock()


class ReadersBusy(Exception):
    """Too many drawings or photos are being read, or the machine has no time to read one."""


def read_apart(
    reader: Callable[..., Any], *given: Any, what: tuple[str, str] = DRAWING, seconds: float | None = None, memory: int = MEMORY
) -> Any:
    """reader(*given) in a child; `reader` a module's own function, everything in and out picklable; seconds of a processor, or SECONDS.

    Raises InputError as the reader does, or for a drawing that takes too long or too much; ReadersBusy.
    """
    if not _places.take(PATIENCE):
        raise ReadersBusy
    try:
        mine, theirs = _context.Pipe(duplex=False)
        child = _context.Process(target=_read, args=(theirs, reader, given, what, seconds or SECONDS, memory), daemon=True)
        with _starting:
            child.start()
        theirs.close()
        try:
            if not any(mine.poll(1.0) for _ in range(WAITED)):
                # it had no processor for its time, or it would have been ended for that
                raise ReadersBusy
            found, problems = mine.recv()
        except EOFError:
            # ended for its memory or its time
            raise _too_much(what) from None
        finally:
            mine.close()
            child.kill()
            child.join()
    finally:
        _places.give()
    if problems is not None:
        raise InputError(problems)
    return found


def _too_much(what: tuple[str, str]) -> InputError:
    return InputError.at("file", f"{what[0]} takes too long or too much memory to read", what[1])


def _read(out: Connection, reader: Callable[..., Any], given: tuple[Any, ...], what: tuple[str, str], seconds: float, memory: int) -> None:
    with open("/proc/self/statm") as f:
        now = int(f.read().split()[0]) * resource.getpagesize()
    resource.setrlimit(resource.RLIMIT_AS, (now + memory, now + memory))
    resource.setrlimit(resource.RLIMIT_CPU, (int(seconds), int(seconds) + 1))
    found: Any = None
    problems: tuple[Problem, ...] | None = None
    try:
        found = reader(*given)
    except InputError as e:
        problems = e.problems
    except MemoryError:
        problems = _too_much(what).problems
    except Exception as e:  # a stranger's file breaks readers in ways of its own
        problems = InputError.at("file", f"{what[0]} cannot be read: {str(e)[:120]}", what[1]).problems
    out.send((found, problems))
