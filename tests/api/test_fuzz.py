"""A short run of the fuzzer; the long one is `./run fuzz`."""

import math
import random
import warnings

from django.test import SimpleTestCase, TestCase

from tests import fuzz
from tests.api.test_api import DOCUMENT
from tests.profile import quick_or, seed


class ShortFuzzTests(TestCase):
    def test_never_a_failure(self) -> None:
        with warnings.catch_warnings():
            warnings.simplefilter("error", RuntimeWarning)
            found = fuzz.run(quick_or(130, 2600), seed=seed(7), slow=math.inf)
        self.assertEqual(found["failed"], [])
        # it reaches behind the door: some are taken, most are refused
        self.assertGreater(found["statuses"].get(200, 0), 10)
        self.assertGreater(found["statuses"].get(422, 0), 30)


class MutationTests(SimpleTestCase):
    def test_one_thing_is_wrong(self) -> None:
        rng = random.Random(3)
        changed = sum(fuzz.mutated(DOCUMENT, rng) != DOCUMENT for _ in range(200))
        self.assertGreater(changed, 180)
