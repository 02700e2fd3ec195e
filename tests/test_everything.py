"""What `./run test` says of tests that pass, fail, are left out or die, and of the checks beside them."""

import os
import subprocess
import sys
import unittest
from pathlib import Path

from tests.everything import Checks, Telling
from tests.waiting import until

ROOT = Path(__file__).resolve().parents[1]


def run(*said: str) -> subprocess.CompletedProcess[str]:
    command = [sys.executable, "-m", "tests.everything", "--no-checks", "--processes", "2", *said]
    return subprocess.run(command, cwd=ROOT, capture_output=True, text=True, check=False, stdin=subprocess.DEVNULL)


class EndsTests(unittest.TestCase):
    def test_each_end_is_told(self) -> None:
        done = run(*(f"tests.samples.ends.{name}Tests" for name in ("Ends", "NotSetUp", "Dying")), "tests.samples.nowhere")
        *_, figures, last = done.stdout.splitlines()
        self.assertEqual((last, done.returncode), ("1 passed, 5 failed, 1 skipped", 1), done.stdout + done.stderr)
        self.assertRegex(figures, r"^\d+ processor seconds, \d+ by the clock, 2 processes on \d+ cores$")
        for words in (
            "FAILED tests.samples.ends.EndsTests.test_fails\n",
            "one is not two",
            "written before it failed",
            "a part of it",
            "FAILED tests.samples.ends.NotSetUpTests\n",
            "nothing to stand on",
            "No module named 'tests.samples.nowhere'",
            "FAILED tests.samples.ends.DyingTests.test_dies\nits process died (exit 3); the rest of its class was not run",
        ):
            self.assertIn(words, done.stdout)
        self.assertNotIn("nobody needs to read this", done.stdout)
        self.assertEqual(done.stderr, "")

    def test_one_that_passes_says_nothing_else(self) -> None:
        done = run("tests.samples.ends.EndsTests.test_passes")
        self.assertEqual((done.stdout.splitlines()[-1], done.returncode), ("1 passed, 0 failed, 0 skipped", 0), done.stdout)
        self.assertNotIn("nobody", done.stdout + done.stderr)


class ChecksTests(unittest.TestCase):
    def checks(self, code: str) -> tuple[Checks, list[str]]:
        said: list[str] = []
        telling = Telling(0)
        telling.line = said.append  # type: ignore[method-assign]
        checks = Checks(telling, [sys.executable, "-c", code])
        checks.stop = lambda: said.append("stopped")
        while checks.read():
            pass
        checks.over()
        return checks, said

    def test_a_failure_ends_the_run_with_its_words(self) -> None:
        checks, said = self.checks("print('ok   types'); print('FAIL links'); print('one is broken')")
        self.assertEqual((checks.passed, checks.failed), (1, 1))
        self.assertEqual(said, ["FAIL links", "one is broken", "stopped"])

    def test_ended_before_it_is_asked(self) -> None:
        # its last word may be read when its process is over, and when it is not
        checks = Checks(Telling(0), [sys.executable, "-c", "sum(range(10**6))"])
        until(lambda: os.waitid(os.P_PID, checks.pid, os.WEXITED | os.WNOWAIT | os.WNOHANG), "it does not end")
        checks.close()
        self.assertGreater(checks.processor, 0)


WATCHED = """
import os, sys, tempfile, unittest
from pathlib import Path
os.environ["DJANGO_SETTINGS_MODULE"] = "varistrat.site.settings"
import django
django.setup()
from tests.parts import Parts, Reading, classes
out, into = os.pipe()
os.close(into)
looks, told = [], []
with tempfile.TemporaryDirectory() as folder:
    suite = unittest.defaultTestLoader.loadTestsFromName(sys.argv[1])
    parts = Parts(classes(suite), Path(folder), 1, told.append, silence=int(sys.argv[2]))
    parts.run({out: Reading(lambda: bool(os.read(out, 1)), lambda: os.close(out))}, looks.append)
print(len(looks), *((t.test, t.how, t.words) for t in told))
"""


class WatchingTests(unittest.TestCase):
    """In a process that is no part itself."""

    def watched(self, name: str, silence: int) -> str:
        command = [sys.executable, "-c", WATCHED, f"tests.samples.ends.{name}", str(silence)]
        done = subprocess.run(command, cwd=ROOT, capture_output=True, text=True, check=False)
        self.assertEqual(done.stderr, "")
        return done.stdout

    def test_waiting_costs_nothing(self) -> None:
        # while a part works, whoever waits for it sleeps: what beside it has ended is not looked at again and again
        looks, told = self.watched("SlowTests", 900).split(" ", 1)
        self.assertIn("'passed'", told)
        self.assertLess(int(looks), 20)

    def test_what_hangs_is_told(self) -> None:
        said = self.watched("HangingTests", 2)
        self.assertIn(
            "('tests.samples.ends.HangingTests.test_never_ends', 'failed', 'it hangs: nothing was heard of it for 2 looks')", said
        )
