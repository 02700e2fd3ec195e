"""A test for each end that a test can come to."""

import os
import threading
import time
import unittest


class EndsTests(unittest.TestCase):
    def test_passes(self) -> None:
        print("nobody needs to read this")

    def test_fails(self) -> None:
        print("written before it failed")
        self.assertEqual(1, 2, "one is not two")

    def test_is_left_out(self) -> None:
        self.skipTest("not on this machine")

    def test_fails_in_a_part(self) -> None:
        for n in range(2):
            with self.subTest(n=n):
                self.assertEqual(n, 0, "a part of it")


class NotSetUpTests(unittest.TestCase):
    @classmethod
    def setUpClass(cls) -> None:
        raise RuntimeError("nothing to stand on")

    def test_never_begun(self) -> None:
        raise AssertionError


class DyingTests(unittest.TestCase):
    def test_dies(self) -> None:
        os._exit(3)


class SlowTests(unittest.TestCase):
    def test_takes_a_moment(self) -> None:
        time.sleep(1.0)


class HangingTests(unittest.TestCase):
    def test_never_ends(self) -> None:
        threading.Event().wait()
