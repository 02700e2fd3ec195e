"""Places where what strangers sent is read: so many at once, and everybody's turn comes."""

import threading

from django.test import SimpleTestCase

from tests.waiting import until
from varistrat.core.interchange.apart import Places


class PlacesTests(SimpleTestCase):
    def test_no_more_at_once_than_there_are(self) -> None:
        places = Places(2)
        self.assertEqual([places.take(0), places.take(0), places.take(0)], [True, True, False])
        places.give()
        self.assertEqual([places.take(0), places.take(0)], [True, False])

    def test_who_wants_another_stands_behind_those_who_wait(self) -> None:
        places, got = Places(1), []
        places.take(0)
        one = threading.Thread(target=lambda: got.append(places.take(60)))
        one.start()
        until(lambda: len(places._row) == 1, "it does not stand in the row")
        places.give()
        self.assertFalse(places.take(0), "the place was promised")
        one.join()
        self.assertEqual(got, [True])
        places.give()
        self.assertTrue(places.take(0))

    def test_who_gives_up_keeps_nobody_waiting(self) -> None:
        places = Places(1)
        places.take(0)
        self.assertFalse(places.take(0.01))
        self.assertEqual(len(places._row), 0)
        places.give()
        self.assertTrue(places.take(0))
