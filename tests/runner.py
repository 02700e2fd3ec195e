"""Django's runner, with the whole count as its last line."""

from typing import Any

from django.test.runner import DiscoverRunner


class CountingRunner(DiscoverRunner):
    """Remembers how many tests passed, failed and were skipped."""

    counts = (0, 0, 0)

    def suite_result(self, suite: Any, result: Any, **kwargs: Any) -> int:
        failed = len(result.failures) + len(result.errors) + len(result.unexpectedSuccesses)
        skipped = len(result.skipped)
        CountingRunner.counts = (result.testsRun - failed - skipped, failed, skipped)
        return failed
