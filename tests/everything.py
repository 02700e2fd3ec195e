"""`./run test`: the checks, then every test through Django's runner; the count is the last line."""

import os
import sys

from tests import check
from tests.runner import CountingRunner


def main(labels: list[str]) -> int:
    os.environ["DJANGO_SETTINGS_MODULE"] = "varistrat.site.settings"
    broken = 0 if labels else check.main()
    os.environ["DJANGO_ALLOW_ASYNC_UNSAFE"] = "1"  # Playwright keeps a loop of its own
    import django

    django.setup()
    runner = CountingRunner(verbosity=1, interactive=False)
    runner.run_tests(labels or ["tests"])
    passed, failed, skipped = CountingRunner.counts
    checks = 0 if labels else len(check.CHECKS)
    print(f"{passed + checks - broken} passed, {failed + broken} failed, {skipped} skipped", flush=True)
    return 1 if failed + broken or not passed else 0


if __name__ == "__main__":
    sys.exit(main(sys.argv[1:]))
