"""Django's runner, and a result that tells each test as it ends: how, how long, how many processor seconds, with what words."""

import os
import resource
import time
import unittest
from collections.abc import Callable
from dataclasses import asdict, dataclass
from pathlib import Path
from typing import Any

from django.test.runner import DiscoverRunner

TICKS = os.sysconf("SC_CLK_TCK")


@dataclass(frozen=True)
class Told:
    """What became of one test."""

    test: str
    how: str
    """passed, failed or skipped."""
    seconds: float = 0.0
    """By the clock."""
    processor: float = 0.0
    """Seconds of a processor, children and browser included."""
    words: str = ""

    def as_json(self) -> dict[str, Any]:
        return asdict(self)


def processor_seconds() -> float:
    """Of this process, of the children it has waited for, and of what lives below it now."""
    own, over = resource.getrusage(resource.RUSAGE_SELF), resource.getrusage(resource.RUSAGE_CHILDREN)
    return own.ru_utime + own.ru_stime + over.ru_utime + over.ru_stime + _living()


def _living() -> float:
    """Of the processes below this one; 0 where the system does not show them."""
    children: dict[int, list[int]] = {}
    spent: dict[int, int] = {}
    for entry in Path("/proc").glob("[0-9]*/stat"):
        try:
            # the name, in brackets, may hold anything
            fields = entry.read_text().rpartition(")")[2].split()
        except OSError:
            continue
        pid = int(entry.parent.name)
        children.setdefault(int(fields[1]), []).append(pid)
        spent[pid] = sum(map(int, fields[11:15]))
    below, found = list(children.get(os.getpid(), [])), 0
    while below:
        pid = below.pop()
        found += spent[pid]
        below += children.get(pid, [])
    return found / TICKS


class TellingResult(unittest.TestResult):
    """Hands what became of each test to `tell`, and what it wrote meanwhile (`written`) where it failed."""

    def __init__(self, tell: Callable[[Told], None], begun: Callable[[str], None], written: Callable[[], str]):
        super().__init__()
        self._tell, self._begun, self._written = tell, begun, written
        self._at: tuple[float, float] | None = None

    def _faults(self) -> list[str]:
        """Words of all that went wrong since this was asked last."""
        said = [words for _, words in [*self.failures, *self.errors]]
        said += ["it was expected to fail, and passed" for _ in self.unexpectedSuccesses]
        for told in (self.failures, self.errors, self.unexpectedSuccesses):
            told.clear()
        return said

    def startTest(self, test: unittest.TestCase) -> None:
        self._begun(test.id())
        self._at = (time.monotonic(), processor_seconds())
        super().startTest(test)

    def stopTest(self, test: unittest.TestCase) -> None:
        super().stopTest(test)
        assert self._at
        began, spent = self._at
        self._at = None
        faults = self._faults()
        written = self._written()
        how = "failed" if faults else "skipped" if self.skipped else "passed"
        words = "\n".join(faults) + (f"\nwritten meanwhile:\n{written}" if faults and written.strip() else "")
        if self.skipped:
            words = words or self.skipped.pop()[1]
        self._tell(Told(test.id(), how, time.monotonic() - began, processor_seconds() - spent, words))

    def addSubTest(self, test: unittest.TestCase, subtest: unittest.TestCase, err: Any) -> None:
        super().addSubTest(test, subtest, err)

    def over(self, of: str) -> None:
        """What went wrong outside of any test (a class that could not be set up) is told as a failure of `of`."""
        if faults := self._faults():
            self._tell(Told(of, "failed", words="\n".join([*faults, self._written()])))
        for _, why in self.skipped:
            self._tell(Told(of, "skipped", words=why))
        self.skipped.clear()


class CountingRunner(DiscoverRunner):
    """Django's, for `tests.parts`; by itself (`manage.py test`) it is Django's own."""
