"""Where heavy work is done: threads or processes here, or a cluster, as `VARISTRAT_EXECUTOR` says; the result is the same, bit for bit.

What is sent is a function of a module and plain data; a worker that dies is replaced and its piece done again, by dask itself or, for
processes, here. A scheduler that cannot be reached is said so, and the work is done here. docs/scale.md.
"""

import ctypes
import logging
import os
import sys
import threading
from collections.abc import Callable, Iterator
from concurrent.futures import Executor, Future, ProcessPoolExecutor, ThreadPoolExecutor
from concurrent.futures.process import BrokenProcessPool
from contextlib import contextmanager
from multiprocessing import get_context
from typing import Any, ClassVar

from varistrat.core.errors import InputError

log = logging.getLogger(__name__)
ASKED = "VARISTRAT_EXECUTOR"
REACHED_WITHIN = 5.0
"""Seconds a scheduler has to answer."""
TRIES = 3
"""How often a piece is begun before it is taken to be what kills its workers."""


def cores() -> int:
    """That this process may use."""
    return len(os.sched_getaffinity(0)) if sys.platform == "linux" else os.cpu_count() or 2


def asked_for(usual: str = "threads") -> str:
    """threads, processes, or dask://host:port; `usual` where nothing is said. Raises InputError for anything else."""
    said = os.environ.get(ASKED, "").strip() or usual
    if said in ("threads", "processes"):
        return said
    host, _, port = said.removeprefix("dask://").rpartition(":")
    if said.startswith("dask://") and host and port.isdecimal() and 0 < int(port) < 65536:
        return said
    raise InputError.at(ASKED, f"{said[:80]!r} is no place to work", "use threads, processes, or dask://host:8786")


@contextmanager
def workers(usual: str = "threads") -> Iterator[Executor]:
    """An executor for one piece of heavy work; what still waits when it is left is dropped. usual: where nothing is asked for; threads do
    for few large arrays, many small ones hold one another up at the interpreter's lock."""
    executor = _made(asked_for(usual))
    try:
        yield executor
    finally:
        executor.shutdown(wait=True, cancel_futures=True)


def _made(said: str) -> Executor:
    if said == "processes":
        return Processes(cores())
    if said.startswith("dask://"):
        found = _cluster(said.removeprefix("dask://"))
        if found is not None:
            return found
    return ThreadPoolExecutor(cores(), thread_name_prefix="heavy")


def _cluster(address: str) -> Executor | None:
    """None, and a word in the log, when nobody answers there."""
    # tornado and all that: only who asks for a cluster pays for it
    from distributed import Client

    try:
        client = Client(f"tcp://{address}", timeout=REACHED_WITHIN, set_as_default=False, name="varistrat")  # type: ignore[no-untyped-call]
    except (OSError, TimeoutError) as e:
        log.warning(
            "no scheduler answers at %s (%s): the work is done on this machine. Start it with `dask scheduler`, or unset %s",
            address,
            e,
            ASKED,
        )
        return None
    if not client.scheduler_info().get("workers"):
        log.warning(
            "the scheduler at %s has no workers: the work is done on this machine. Start one with `dask worker %s`", address, address
        )
        client.close()  # type: ignore[no-untyped-call]
        return None
    return _Cluster(client)


class _Cluster(Executor):
    """dask's own executor, which closes its client; a piece is done again as often as here when its worker dies."""

    def __init__(self, client: Any) -> None:
        # not `pure`: two alike are two; the engine itself begins a lost piece again
        self._client, self._executor = client, client.get_executor(pure=False, retries=0)

    def submit(self, fn: Callable[..., Any], /, *args: Any, **kwargs: Any) -> Future[Any]:
        made: Future[Any] = self._executor.submit(fn, *args, **kwargs)
        return made

    def shutdown(self, wait: bool = True, *, cancel_futures: bool = False) -> None:
        self._executor.shutdown(wait=wait and not cancel_futures)
        self._client.close()


M_TRIM_THRESHOLD, M_MMAP_THRESHOLD = -1, -3
KEPT_FREE, KEPT_EACH = 128 << 20, 32 << 20
"""Bytes that a process of ours may hold on to though nothing is in them: in all, and of one array."""


def keep_freed_memory() -> None:
    """Many small arrays one after the other would be asked of the system, and given back, each time: an eighth of the work on small faces.

    Of the C library (`man mallopt`); where it is another one, nothing is changed.
    """
    if sys.platform != "linux":
        return
    c = ctypes.CDLL(None)
    if hasattr(c, "mallopt"):
        c.mallopt(M_TRIM_THRESHOLD, KEPT_FREE)
        c.mallopt(M_MMAP_THRESHOLD, KEPT_EACH)


class Processes(Executor):
    """A pool of processes of which any may die: what it held is done again by others, to the same result.

    The library's pool breaks as a whole when one process is killed; then a new one takes its place, once for all who waited.
    """

    METHOD: ClassVar[str] = "spawn"
    """A fork would copy the database's connections and half-held locks."""

    def __init__(self, count: int) -> None:
        self._count, self._lock, self._closed = count, threading.Lock(), False
        self._pool = self._new()

    def _new(self) -> ProcessPoolExecutor:
        return ProcessPoolExecutor(self._count, mp_context=get_context(self.METHOD), initializer=keep_freed_memory)

    def submit(self, fn: Callable[..., Any], /, *args: Any, **kwargs: Any) -> Future[Any]:
        out: Future[Any] = Future()
        self._begin(out, 1, fn, args, kwargs)
        return out

    def _begin(self, out: Future[Any], tries: int, fn: Callable[..., Any], args: tuple[Any, ...], kwargs: dict[str, Any]) -> None:
        pool = self._pool
        try:
            inner = pool.submit(fn, *args, **kwargs)
        except (BrokenProcessPool, RuntimeError) as e:
            self._again(out, pool, tries, e, fn, args, kwargs)
            return

        def over(done: Future[Any]) -> None:
            if done.cancelled() or out.cancelled():
                out.cancel()
                return
            wrong = done.exception()
            if isinstance(wrong, BrokenProcessPool):
                self._again(out, pool, tries, wrong, fn, args, kwargs)
            elif not out.set_running_or_notify_cancel():
                return
            elif wrong is not None:
                out.set_exception(wrong)
            else:
                out.set_result(done.result())

        inner.add_done_callback(over)

    def _again(
        self,
        out: Future[Any],
        broken: ProcessPoolExecutor,
        tries: int,
        wrong: BaseException,
        fn: Callable[..., Any],
        args: tuple[Any, ...],
        kwargs: dict[str, Any],
    ) -> None:
        if self._closed or tries >= TRIES:
            if not out.cancelled() and out.set_running_or_notify_cancel():
                out.set_exception(wrong)
            return
        with self._lock:
            if self._pool is broken:
                log.warning("a working process ended; its pieces are done again")
                self._pool = self._new()
        # not from the broken pool's own thread: that one is busy ending it
        threading.Thread(target=self._begin, args=(out, tries + 1, fn, args, kwargs), daemon=True).start()

    def shutdown(self, wait: bool = True, *, cancel_futures: bool = False) -> None:
        self._closed = True
        self._pool.shutdown(wait=wait, cancel_futures=cancel_futures)
