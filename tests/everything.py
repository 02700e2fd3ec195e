"""`./run test`: every test through Django's runner in several processes, the checks beside them; the count is the last line.

./run test [LABEL ...]        all of it, or the tests of these modules, classes or names
./run test --thorough         with the numbers of a release: fresh seeds, hundreds of kills, the whole fuzz (docs/testing.md)
./run test --changed [REF]    what is nearest to what was changed since REF (HEAD), and what that leaves out
--processes N, --failfast, --no-checks, --figures FILE
"""

import argparse
import json
import os
import signal
import subprocess
import sys
import time
import warnings
from collections import Counter, defaultdict
from pathlib import Path
from typing import Any

THOROUGH = "VARISTRAT_TEST_THOROUGH"
ASYNC = "DJANGO_ALLOW_ASYNC_UNSAFE"
LONG = {
    "the whole fuzz": ("tests.fuzz",),
    "three hundred kills": ("benchmarks.kills", "300"),
    "fifty people for ten minutes": ("benchmarks.soak",),
}
"""Of the thorough profile, after the tests and by themselves: commands, each told as one test."""
SLOWEST = 20
SAID_EVERY = 15.0
"""Seconds between two lines of progress where there is no screen to write them over."""


def options(said: list[str]) -> argparse.Namespace:
    parser = argparse.ArgumentParser(prog="./run test", description="Every test, and the checks beside them.")
    parser.add_argument("labels", nargs="*", help="modules, classes or tests, as tests.core.test_fire; none: all")
    parser.add_argument("--thorough", action="store_true", help="with the numbers of a release: it takes an hour and more")
    parser.add_argument("--changed", nargs="?", const="HEAD", metavar="REF", help="only what is nearest to what was changed since REF")
    parser.add_argument("--processes", type=int, default=0, metavar="N", help="how many work at once")
    parser.add_argument("--failfast", action="store_true", help="end at the first failure")
    parser.add_argument("--figures", metavar="FILE", help="write what each test took, and all of it, as JSON")
    parser.add_argument("--no-checks", action="store_true", help="the tests alone")
    return parser.parse_args(said)


class Telling:
    """What is shown while the tests run, and at the end."""

    def __init__(self, tests: int):
        self.tests, self.began = tests, time.monotonic()
        self.how: Counter[str] = Counter()
        self.took: dict[str, tuple[float, float]] = {}
        self._screen = sys.stdout.isatty()
        self._said = self.began

    def test(self, told: Any) -> None:
        self.how[told.how] += 1
        self.took[told.test] = (told.seconds, told.processor)
        if told.how == "failed":
            self.line(f"FAILED {told.test}\n{told.words.rstrip()}\n")

    def line(self, words: str) -> None:
        print(("\r\033[K" if self._screen else "") + words, flush=True)

    def progress(self, at: str) -> None:
        now = time.monotonic()
        if now - self._said < (0.2 if self._screen else SAID_EVERY):
            return
        self._said = now
        done = sum(self.how.values())
        text = f"{int(now - self.began) // 60}:{int(now - self.began) % 60:02d}  {done} of {self.tests}, {self.how['failed']} failed; {at}"
        if self._screen:
            print(f"\r\033[K{text[:110]}", end="", flush=True)
        else:
            self.line(text)

    def long(self) -> float:
        """Runs what is `LONG`. Gives its processor seconds."""
        spent = 0.0
        for name, command in LONG.items():
            self.line(f"{name}...")
            began = time.monotonic()
            # what it says is seen as it says it
            process = subprocess.Popen([sys.executable, "-m", *command], stdin=subprocess.DEVNULL)
            _, status, used = os.wait4(process.pid, 0)
            process.returncode = os.waitstatus_to_exitcode(status)
            took = used.ru_utime + used.ru_stime
            spent += took
            self.how["failed" if process.returncode else "passed"] += 1
            self.took[f"thorough.{name}"] = (time.monotonic() - began, took)
            if process.returncode:
                self.line(f"FAILED {name}")
        return spent

    def end(self, parts: dict[str, float]) -> None:
        """The slowest, and the seconds of each part."""
        if self._screen:
            print("\r\033[K", end="")
        if len(self.took) > SLOWEST:
            print("seconds  processor  the slowest tests")
            for name, (seconds, processor) in sorted(self.took.items(), key=lambda t: -t[1][0])[:SLOWEST]:
                print(f"{seconds:7.1f}  {processor:9.1f}  {name}")
        by: dict[str, list[float]] = defaultdict(lambda: [0, 0.0, 0.0])
        for name, (seconds, processor) in self.took.items():
            row = by[".".join(name.split(".")[:2])]
            row[0], row[1], row[2] = row[0] + 1, row[1] + seconds, row[2] + processor
        print("seconds  processor  tests  part")
        for name, (count, seconds, processor) in sorted(by.items()):
            print(f"{seconds:7.0f}  {processor:9.0f}  {count:5.0f}  {name}")
        for name, processor in parts.items():
            print(f"{'':7}  {processor:9.0f}  {'':5}  {name}")


class Checks:
    """`tests.check` beside the tests: its lines as they come."""

    def __init__(self, telling: Telling, command: list[str]):
        from tests.parts import Lines

        self.failed, self.passed, self._telling = 0, 0, telling
        self.processor = 0.0
        # what only the tests may
        env = {name: value for name, value in os.environ.items() if name != ASYNC}
        self._process = subprocess.Popen(command, stdout=subprocess.PIPE, stdin=subprocess.DEVNULL, env=env)
        assert self._process.stdout
        self.pid = self._process.pid
        self._lines = Lines(self._process.stdout.fileno())
        self.number = self._lines.number
        self.stop: Any = None

    def read(self) -> bool:
        lines = self._lines.read()
        for line in lines or ():
            if line.startswith("ok  "):
                self.passed += 1
            else:
                if line.startswith("FAIL"):
                    self.failed += 1
                self._telling.line(line)
        return lines is not None

    def over(self) -> None:
        self.close()
        if self.failed:
            self.stop()

    def close(self) -> None:
        if not self.processor:
            # not Popen's own: it would ask for the end of it first, and keep to itself what it took
            os.kill(self.pid, signal.SIGTERM)
            _, _, used = os.wait4(self.pid, 0)
            self.processor = used.ru_utime + used.ru_stime
            self._process.returncode = 0
            assert self._process.stdout
            self._process.stdout.close()


def main(said: list[str]) -> int:
    asked = options(said)
    os.environ["DJANGO_SETTINGS_MODULE"] = "varistrat.site.settings"
    os.environ[ASYNC] = "1"  # Playwright keeps a loop of its own
    # the parts are as many as the cores can bear: threads of their own would only wait for one another
    os.environ["OPENBLAS_NUM_THREADS"] = os.environ["OMP_NUM_THREADS"] = "1"
    if asked.thorough:
        os.environ[THOROUGH] = "1"
    from tests import parts, runner

    folder = parts.new_folder()
    os.environ["VARISTRAT_DATA"] = str(folder / "parent")
    try:
        return _run(asked, folder, parts, runner)
    except KeyboardInterrupt:
        return 130
    finally:
        parts.remove(folder)


def _run(asked: argparse.Namespace, folder: Any, parts: Any, runner: Any) -> int:
    labels, names = asked.labels, None
    if asked.changed:
        from tests.nearest import chosen

        labels, names = chosen(asked.changed)
    telling = Telling(0)
    checks = None
    if names or not (asked.no_checks or asked.labels or asked.changed):
        checks = Checks(telling, [sys.executable, "-m", "tests.check", "--beside", *(names or [])])
    suites: list[Any] = []
    if labels or not asked.changed:
        warnings.simplefilter("ignore", ResourceWarning)
        import django

        django.setup()
        suites = parts.classes(runner.CountingRunner(verbosity=0, interactive=False).build_suite(labels or ["tests"]))
    if any(parts.wants_database(s) for s in suites):
        parts.read_beforehand()
    telling.tests = sum(s.countTestCases() for s in suites)
    suites.sort(key=parts.weight, reverse=True)
    made = 0.0
    if any(parts.wants_database(s) for s in suites):
        made = parts.make(folder, demo=any(parts.in_browser(s) for s in suites))
    count = asked.processes or parts.usual_count()
    run = parts.Parts(suites, folder, min(count, len(suites)), telling.test, asked.failfast)
    if checks:
        checks.stop = run.stop
        run.run({checks.number: parts.Reading(checks.read, checks.over)}, telling.progress)
        checks.close()
    else:
        run.run(every=telling.progress)
    long = telling.long() if asked.thorough and not (asked.labels or asked.changed) and not telling.how["failed"] else 0.0
    own, checked = time.process_time(), checks.processor if checks else 0.0
    whole = own + made + checked + long + run.processor
    telling.end({"reading the tests": own, "the demo, made once": made, "the checks": checked})
    broken, held = (checks.failed, checks.passed) if checks else (0, 0)
    clock = time.monotonic() - telling.began
    print(f"{whole:.0f} processor seconds, {clock:.0f} by the clock, {count} processes on {os.cpu_count()} cores")
    if asked.figures:
        told = {"processor": whole, "seconds": clock, "processes": count, "tests": telling.took}
        Path(asked.figures).write_text(json.dumps(told))
    failed = telling.how["failed"] + broken
    passed = telling.how["passed"] + held
    print(f"{passed} passed, {failed} failed, {telling.how['skipped']} skipped", flush=True)
    left = telling.tests + (len(LONG) if long else 0) - sum(telling.how.values())
    if left > 0 and not failed:
        print(f"{left} were not run")
    return 1 if failed or left > 0 or not (passed or asked.changed) else 0


if __name__ == "__main__":
    sys.exit(main(sys.argv[1:]))
