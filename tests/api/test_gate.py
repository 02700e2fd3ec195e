"""Heavy questions take turns, fairly; light ones never wait."""

import threading
from contextlib import suppress
from unittest import mock

from django.test import RequestFactory, SimpleTestCase

from tests.waiting import PATIENCE, until
from varistrat.api.gate import HEAVY, MOST, Busy, Deadline, Gate, gate, heavy
from varistrat.core.errors import Cancelled, InputError


class GateTests(SimpleTestCase):
    def test_no_more_at_once_than_there_are_places(self) -> None:
        doors, most, now, lock = Gate(places=3, of_one=2), 0, 0, threading.Lock()
        hold = threading.Event()

        def one(user: int) -> None:
            nonlocal most, now
            with doors.place(user):
                with lock:
                    now += 1
                    most = max(most, now)
                hold.wait(PATIENCE)
                with lock:
                    now -= 1

        threads = [threading.Thread(target=one, args=(i % 4,)) for i in range(12)]
        for t in threads:
            t.start()
        until(lambda: now == 3 and len(doors._queue) == 9, "they do not come in, or do not wait")
        hold.set()
        for t in threads:
            t.join()
        self.assertEqual(most, 3)
        self.assertEqual(doors._working, {})

    def test_one_user_does_not_keep_another_waiting(self) -> None:
        doors = Gate(places=2, of_one=1, of_one_waiting=6)
        order: list[int] = []
        hold = threading.Event()

        def greedy() -> None:
            with doors.place(1):
                order.append(1)
                hold.wait(PATIENCE)

        threads = [threading.Thread(target=greedy) for _ in range(5)]
        for t in threads:
            t.start()
        until(lambda: order == [1] and len(doors._queue) == 4, "they do not wait")
        with doors.place(2):
            order.append(2)
        self.assertEqual(order, [1, 2])
        hold.set()
        for t in threads:
            t.join()

    def test_a_long_queue_sends_away(self) -> None:
        doors = Gate(places=1, of_one=1, waiting=2, of_one_waiting=1)
        with doors.place(1):
            waits = threading.Thread(target=lambda: _try(doors, 1))
            waits.start()
            until(lambda: len(doors._queue) == 1, "it does not wait")
            with self.assertRaises(Busy), doors.place(1):
                pass
            with self.assertRaises(Busy), doors.place(2, patience=0.05):
                pass
            with self.assertRaises(Cancelled), doors.place(3, gone=lambda: True):
                pass
        waits.join()

    def test_the_servers_own_gate(self) -> None:
        """Three at work, two of them of one user; of those that wait no more than fourteen, six of one user."""
        doors, done = Gate(), threading.Event()

        def come(user: int) -> threading.Thread:
            def work() -> None:
                with suppress(Cancelled), doors.place(user, gone=done.is_set):
                    done.wait(PATIENCE)

            before = sum(doors._working.values()) + len(doors._queue)
            thread = threading.Thread(target=work)
            thread.start()
            until(lambda: sum(doors._working.values()) + len(doors._queue) != before, "it did not come")
            return thread

        threads = [come(user) for user in (1, 1, 1, 2, 3)]
        until(lambda: sum(doors._working.values()) == 3, "a place is left empty")
        self.assertEqual((doors._working, [u for u, _ in doors._queue]), ({1: 2, 2: 1}, [1, 3]))
        threads += [come(1) for _ in range(5)]
        with self.assertRaises(Busy), doors.place(1):
            pass
        threads += [come(user) for user in (4, 4, 4, 5, 5, 5, 6)]
        self.assertEqual(len(doors._queue), 14)
        with self.assertRaises(Busy), doors.place(7):
            pass
        done.set()
        for t in threads:
            t.join()
        self.assertEqual((doors._working, len(doors._queue)), ({}, 0))

    def test_light_ones_pass_and_the_impossible_is_refused(self) -> None:
        request = RequestFactory().get("/")
        request.user = type("U", (), {"pk": 7})()
        with heavy(request, HEAVY - 1):
            self.assertEqual(gate._working, {})
        with heavy(request, HEAVY):
            self.assertEqual(gate._working, {7: 1})
        with self.assertRaises(InputError), heavy(request, MOST + 1):
            pass

    def test_a_browser_that_went_away_stops_the_work(self) -> None:
        request = RequestFactory().get("/")
        request.user = type("U", (), {"pk": 7})()
        request.META["waitress.client_disconnected"] = lambda: True
        with heavy(request, 1.0) as deadline:
            self.assertTrue(deadline.stop())
            with self.assertRaises(Cancelled):
                deadline.check()
        with self.assertRaises(InputError):
            Deadline(-1.0).check()

    def test_what_takes_too_long_says_so(self) -> None:
        """Not that nobody wants it: that would be a picture which never comes."""
        request = RequestFactory().get("/")
        request.user = type("U", (), {"pk": 7})()
        for cost in (HEAVY - 1, HEAVY):
            with mock.patch("varistrat.api.gate.MAX_DRAW_SECONDS", -1.0), self.assertRaises(InputError), heavy(request, cost) as deadline:
                self.assertTrue(deadline.stop())
                raise Cancelled
            with self.assertRaises(Cancelled), heavy(request, cost):
                raise Cancelled


def _try(doors: Gate, user: int) -> None:
    with doors.place(user):
        pass
