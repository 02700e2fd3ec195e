"""Django's runner, with the whole count as its last line and the slowest tests before it."""

import time
import unittest
from typing import Any

from django.test.runner import DiscoverRunner

SLOWEST = 15


class TimedResult(unittest.TextTestResult):
    """Notes how long each test took by the clock."""

    def startTest(self, test: unittest.TestCase) -> None:
        self._began = time.monotonic()
        super().startTest(test)

    def stopTest(self, test: unittest.TestCase) -> None:
        super().stopTest(test)
        CountingRunner.took[test.id()] = time.monotonic() - self._began


class CountingRunner(DiscoverRunner):
    """Remembers how many tests passed, failed and were skipped, and how long each took."""

    counts = (0, 0, 0)
    took: dict[str, float] = {}

    def get_resultclass(self) -> type[unittest.TextTestResult]:
        return super().get_resultclass() or TimedResult

    def suite_result(self, suite: Any, result: Any, **kwargs: Any) -> int:
        failed = len(result.failures) + len(result.errors) + len(result.unexpectedSuccesses)
        skipped = len(result.skipped)
        CountingRunner.counts = (result.testsRun - failed - skipped, failed, skipped)
        for name, seconds in sorted(CountingRunner.took.items(), key=lambda t: -t[1])[:SLOWEST]:
            print(f"{seconds:7.1f} s  {name}")
        return failed
