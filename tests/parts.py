"""The tests in several processes: each has a data folder, a database, ports and a browser of its own, and takes the next class.

The parts are forked from one process that has read all the tests and done nothing else; what is the same for all of them (the database as
the migrations make it, the demo in it) is made once, by a child that then ends. A part that dies is a failed test, and another takes its
place. docs/testing.md.
"""

import json
import os
import selectors
import shutil
import signal
import sqlite3
import sys
import tempfile
import unittest
from collections.abc import Callable, Iterator, Mapping
from contextlib import closing
from dataclasses import dataclass, field
from functools import partial
from importlib import import_module
from pathlib import Path
from types import MappingProxyType
from typing import IO, Any

from tests.runner import CountingRunner, TellingResult, Told, processor_seconds

MADE = "VARISTRAT_TEST_MADE"
"""The folder of what is made once for all parts."""
PARTS_A_CORE = 1.5
"""More than one: a browser's test waits half its time for the browser."""
MOST_WORDS = 20_000
SILENCE = 900
"""Looks of a second each in which nothing was heard from any part: what is under way then will not end. Looks, not seconds: a machine
that stood still took none."""


def classes(suite: unittest.TestSuite) -> list[unittest.TestSuite]:
    """A suite for each class, in the order of the suite; what could not be read as a test is one of its own."""
    found: dict[object, list[unittest.TestCase]] = {}
    for test in _all(suite):
        own = test if isinstance(test, unittest.loader._FailedTest) else type(test)  # type: ignore[attr-defined]
        found.setdefault(own, []).append(test)
    return [unittest.TestSuite(tests) for tests in found.values()]


def _all(suite: unittest.TestSuite) -> Iterator[unittest.TestCase]:
    for test in suite:
        if isinstance(test, unittest.TestSuite):
            yield from _all(test)
        else:
            yield test


def _name(suite: unittest.TestSuite) -> str:
    test = next(_all(suite))
    return f"{type(test).__module__}.{type(test).__qualname__}"


def copied(source: Path, to: Path) -> None:
    """A database as it is, what still stands in its log included."""
    with closing(sqlite3.connect(source)) as old, closing(sqlite3.connect(to)) as new:
        old.backup(new)


def _in_child(work: Callable[[], None]) -> int:
    """Forks; the child works and ends without a word to whoever waits for its parent's end. Gives its process."""
    sys.stdout.flush()
    sys.stderr.flush()
    if pid := os.fork():
        return pid
    code = 1
    try:
        work()
        code = 0
    except BaseException:
        import traceback

        traceback.print_exc()
    finally:
        sys.stdout.flush()
        sys.stderr.flush()
        os._exit(code)


def _at_data(folder: Path) -> None:
    """This process keeps its data in `folder` from now on, and so do those it starts."""
    from django.conf import settings
    from django.core.cache import caches
    from django.db import connections

    folder.mkdir()
    os.environ["VARISTRAT_DATA"] = str(folder)
    settings.DATA_DIR = folder
    settings.PHOTOS_DIR = folder / "photos"
    settings.CACHES["pictures"]["LOCATION"] = folder / "pictures"
    assert not [c for c in caches.all(initialized_only=True) if hasattr(c, "_dir")], "a cache was opened before its folder was known"
    for connection in connections.all():
        connection.close()
        connection.settings_dict["NAME"] = str(folder / "test.sqlite3")


def make(folder: Path, demo: bool) -> float:
    """The database as the migrations make it, and with the demo in it: without its book of builds, and with it. Gives processor seconds."""
    from django.core.management import call_command
    from django.db import connection, connections

    def made() -> None:
        from django.conf import settings

        _at_data(folder / "making")
        call_command("migrate", verbosity=0, interactive=False)
        call_command("createcachetable", verbosity=0)
        copied(Path(connection.settings_dict["NAME"]), folder / "empty.sqlite3")
        if demo:
            from varistrat.demo.shop import load_demo

            for name, book in (("demo", False), ("book", True)):
                if book:
                    connection.close()
                    copied(folder / "empty.sqlite3", Path(connection.settings_dict["NAME"]))
                load_demo(book)
                copied(Path(connection.settings_dict["NAME"]), folder / f"{name}.sqlite3")
            settings.PHOTOS_DIR.mkdir(exist_ok=True)
            settings.PHOTOS_DIR.rename(folder / "photos")
        connections.close_all()

    _, status, used = os.wait4(_in_child(made), 0)
    if status:
        raise SystemExit("the database of the tests could not be made")
    return used.ru_utime + used.ru_stime


class Lines:
    """Lines of what comes through a pipe, as it comes."""

    def __init__(self, number: int):
        self.number, self._rest = number, b""

    def read(self) -> list[str] | None:
        """Those that have come whole; None at the end of it."""
        more = os.read(self.number, 1 << 16)
        if not more:
            return None
        *whole, self._rest = (self._rest + more).split(b"\n")
        return [line.decode(errors="replace") for line in whole]

    def close(self) -> None:
        os.close(self.number)


@dataclass(frozen=True)
class Reading:
    """What is read through a pipe beside others."""

    read: Callable[[], bool]
    """False: its end has come."""
    over: Callable[[], None]
    """Called then, when nobody looks at it any more."""


@dataclass
class _Part:
    pid: int
    orders: IO[str]
    news: Lines
    at: str = ""
    """The test it is at."""
    working: bool = False
    processor: float = 0.0
    """Seconds it said it took, its browser included."""


@dataclass
class Parts:
    """Runs the classes; every `Told` goes to `tell` as it comes."""

    suites: list[unittest.TestSuite]
    folder: Path
    count: int
    tell: Callable[[Told], None]
    failfast: bool = False
    silence: int = SILENCE
    _parts: list[_Part] = field(default_factory=list)
    _stopped: bool = False
    _begun: int = 0
    processor: float = 0.0
    """Seconds of those that ended, their browsers included."""

    def run(self, beside: Mapping[int, Reading] = MappingProxyType({}), every: Callable[[str], None] = lambda at: None) -> None:
        """Until every class is done and all beside it has come to its end, or `stop`. beside: file numbers to be read meanwhile, and what
        reads each. every: called with what is under way, once a second and oftener."""
        waiting = list(range(len(self.suites)))[::-1]
        reads, silent = dict(beside), 0
        chooser = selectors.DefaultSelector()
        for number in reads:
            chooser.register(number, selectors.EVENT_READ)
        try:
            while (waiting or reads) and not self._stopped:
                while waiting and len(self._parts) < self.count:
                    part = self._fork()
                    reads[part.news.number] = Reading(partial(self._read, part, waiting), partial(self._ended, part))
                    chooser.register(part.news.number, selectors.EVENT_READ)
                    self._give(part, waiting)
                heard = chooser.select(1.0)
                silent = 0 if heard or not any(p.at for p in self._parts) else silent + 1
                if silent >= self.silence:
                    self._hang()
                for key, _ in heard:
                    if not reads[key.fd].read():
                        # before it is closed: what a part has inherited would be told as ready for ever
                        chooser.unregister(key.fd)
                        reads.pop(key.fd).over()
                every(next((p.at for p in self._parts if p.at), "the checks"))
        finally:
            self._end()

    def _read(self, part: _Part, waiting: list[int]) -> bool:
        lines = part.news.read()
        for line in lines or ():
            if line == "next":
                self._give(part, waiting)
            else:
                self._heard(part, json.loads(line))
        return lines is not None

    def stop(self) -> None:
        self._stopped = True

    def _hang(self) -> None:
        for part in self._parts:
            self.tell(Told(part.at or "between two tests", "failed", words=f"it hangs: nothing was heard of it for {self.silence} looks"))
        self.stop()

    def _give(self, part: _Part, waiting: list[int]) -> None:
        part.working = bool(waiting)
        try:
            part.orders.write(f"{waiting.pop()}\n" if waiting else "over\n")
            part.orders.flush()
        except BrokenPipeError:
            # it died: told when its news ends
            pass

    def _heard(self, part: _Part, news: dict[str, Any]) -> None:
        if "begun" in news:
            part.at = news["begun"]
            return
        if "processor_in_all" in news:
            part.processor = news["processor_in_all"]
            return
        part.at = ""
        told = Told(**news)
        self.tell(told)
        if self.failfast and told.how == "failed":
            self.stop()

    def _ended(self, part: _Part) -> None:
        self._parts.remove(part)
        part.news.close()
        part.orders.close()
        _, status, used = os.wait4(part.pid, 0)
        self.processor += max(part.processor, used.ru_utime + used.ru_stime)
        if part.working:
            how = f"signal {os.WTERMSIG(status)}" if os.WIFSIGNALED(status) else f"exit {os.WEXITSTATUS(status)}"
            self.tell(Told(part.at or "a class", "failed", words=f"its process died ({how}); the rest of its class was not run"))

    def _end(self) -> None:
        for part in self._parts:
            # with all that its tests began
            os.killpg(part.pid, signal.SIGTERM)
        while self._parts:
            self._parts[0].working = False
            self._ended(self._parts[0])

    def _fork(self) -> _Part:
        self._begun += 1
        name = f"part-{self._begun}"
        orders, news = os.pipe(), os.pipe()

        def work() -> None:
            os.close(orders[1])
            os.close(news[0])
            # a part that outlives the others' pipes would keep them open for ever
            for other in self._parts:
                other.orders.close()
                other.news.close()
            _work(self.suites, self.folder, name, os.fdopen(orders[0]), os.fdopen(news[1], "w"))

        pid = _in_child(work)
        os.setpgid(pid, pid)
        os.close(orders[0])
        os.close(news[1])
        part = _Part(pid, os.fdopen(orders[1], "w"), Lines(news[0]))
        self._parts.append(part)
        return part


def _work(suites: list[unittest.TestSuite], folder: Path, name: str, orders: IO[str], news: IO[str]) -> None:
    """A part's life: classes one after the other, whatever they write into a file, told where a test failed."""
    # at once: an exception would be taken for that of a test
    signal.signal(signal.SIGTERM, lambda *_: os._exit(1))
    written = (folder / f"{name}.txt").open("w+b", buffering=0)
    os.dup2(os.open(os.devnull, os.O_RDONLY), 0)
    os.dup2(written.fileno(), 1)
    os.dup2(written.fileno(), 2)
    _at_data(folder / name)
    if (folder / "empty.sqlite3").exists():
        copied(folder / "empty.sqlite3", folder / name / "test.sqlite3")
    os.environ[MADE] = str(folder)

    def read() -> str:
        sys.stdout.flush()
        sys.stderr.flush()
        length = written.seek(0, os.SEEK_END)
        written.seek(max(0, length - MOST_WORDS))
        text = written.read().decode(errors="replace")
        written.seek(0)
        written.truncate()
        return text

    def say(what: dict[str, Any]) -> None:
        news.write(json.dumps(what) + "\n")
        news.flush()

    runner = CountingRunner(verbosity=0, interactive=False)
    runner.setup_test_environment()
    for order in orders:
        if order == "over\n":
            break
        suite = suites[int(order)]
        result = TellingResult(lambda told: say(told.as_json()), lambda test: say({"begun": test}), read)
        suite.run(result)  # type: ignore[arg-type]
        result.over(_name(suite))
        news.write("next\n")
        news.flush()
    from tests.e2e.base import close_browsers

    # before: a browser that has closed is not asked any more what its pages took
    say({"processor_in_all": processor_seconds()})
    close_browsers()


def read_beforehand() -> None:
    """What nearly every part would read for itself when it is first asked for: read once, by the process they are forked from."""
    from django.urls import get_resolver

    _ = get_resolver().url_patterns
    for name in ("scipy.stats", "scipy.interpolate", "scipy.ndimage", "scipy.sparse", "shapely.ops", "skimage.measure", "typst"):
        import_module(name)


def new_folder() -> Path:
    return Path(tempfile.mkdtemp(prefix="varistrat-test-"))


def remove(folder: Path) -> None:
    shutil.rmtree(folder, ignore_errors=True)


def usual_count() -> int:
    from varistrat.core.executors import cores

    return max(2, round(cores() * PARTS_A_CORE))


def in_browser(suite: unittest.TestSuite) -> bool:
    from tests.e2e.base import BrowserCase

    return isinstance(next(_all(suite)), BrowserCase)


def wants_database(suite: unittest.TestSuite) -> bool:
    from django.test import TransactionTestCase

    return isinstance(next(_all(suite)), TransactionTestCase)


def weight(suite: unittest.TestSuite) -> tuple[bool, int]:
    """What is begun first: those in the browser, long and much of it waiting; of these the longest."""
    return in_browser(suite), suite.countTestCases() if in_browser(suite) else 0
