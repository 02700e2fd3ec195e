"""Values that belong in no field, and what an answer to them must be: a clear 4xx in the API's own form, never a 500."""

import json
from collections.abc import Iterator
from copy import deepcopy
from typing import Any
from zlib import crc32

from tests.api.test_api import ApiCase
from tests.profile import quick_or

NASTY: tuple[Any, ...] = (
    None,
    "",
    "x" * 5000,
    -1,
    0,
    1e308,
    1e400,
    [],
    {},
    True,
    "NaN",
    {"a": {"b": []}},
    [[[]]],
    "\x00",
    "💥",
    "1e3",
)
EACH = quick_or(4, 1)
"""Quick: every field meets every fourth value, each field others; thorough: all of them."""


def wrong_for(place: str) -> tuple[Any, ...]:
    """What a field of this name is tried with."""
    return NASTY[crc32(place.encode()) % EACH :: EACH]


def spoilt(good: Any) -> Iterator[Any]:
    """Copies of it with one value, at any depth, made nasty."""

    def walk(here: Any, path: list[Any]) -> Iterator[Any]:
        keys = list(here) if isinstance(here, dict) else range(len(here)) if isinstance(here, list) else []
        for key in keys:
            for wrong in wrong_for(str([*path, key])):
                whole = deepcopy(good)
                at = whole
                for k in path:
                    at = at[k]
                at[key] = wrong
                yield whole
            yield from walk(here[key], [*path, key])

    yield from walk(good, [])


class NastyCase(ApiCase):
    def said(self, path: str, body: Any = None, method: str = "post") -> int:
        """The code of the answer, seen to be one in words. body: bytes as they are, anything else as JSON."""
        raw = body if isinstance(body, bytes) else json.dumps(body)
        answer = self.send(method, path, raw) if body is not None else self.send(method, path)
        self.assertLess(answer.status_code, 500, f"{method} {path}: {raw[:200]!r}")
        if answer.status_code >= 400:
            self.assertEqual(answer["Content-Type"], "application/problem+json", path)
            self.assertTrue(answer.json()["title"])
        return int(answer.status_code)
