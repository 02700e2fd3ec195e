"""Properties kept with their object: once for each, and no object waits for another."""

import pickle
import threading
from unittest import TestCase

from tests.waiting import PATIENCE
from varistrat.core.cached import cached_property
from varistrat.core.model import Model


class Sum:
    def __init__(self) -> None:
        self.times = 0
        self.begun, self.go_on = threading.Event(), threading.Event()

    @cached_property
    def first(self) -> int:
        self.times += 1
        return self.times

    @cached_property
    def long(self) -> str:
        self.begun.set()
        self.go_on.wait(PATIENCE)
        return "long"

    @cached_property
    def broken(self) -> int:
        raise ValueError("cannot be")


class CachedTests(TestCase):
    def test_worked_out_once_and_for_each(self) -> None:
        one, other = Sum(), Sum()
        self.assertEqual((one.first, one.first, other.first), (1, 1, 1))
        self.assertEqual((one.times, other.times), (1, 1))
        self.assertNotIn("long", vars(one))

    def test_what_fails_is_not_kept(self) -> None:
        one = Sum()
        for _ in range(2):
            with self.assertRaises(ValueError):
                _ = one.broken

    def test_a_long_one_holds_up_no_other_object(self) -> None:
        slow, quick = Sum(), Sum()
        at_work = threading.Thread(target=lambda: slow.long, daemon=True)
        at_work.start()
        self.assertTrue(slow.begun.wait(PATIENCE))
        quick.go_on.set()
        answered = threading.Event()

        def ask() -> None:
            if quick.long == "long":
                answered.set()

        threading.Thread(target=ask, daemon=True).start()
        told = answered.wait(PATIENCE)
        slow.go_on.set()
        at_work.join(PATIENCE)
        self.assertTrue(told, "one object's property waited for another's")

    def test_stands_on_a_frozen_model_and_goes_along_to_another_process(self) -> None:
        found = pickle.loads(pickle.dumps(Length(mm=2.0)))
        self.assertEqual(found.twice, 4.0)
        self.assertEqual(found.model_dump(), {"mm": 2.0})


class Length(Model):
    mm: float

    @cached_property
    def twice(self) -> float:
        return 2 * self.mm
