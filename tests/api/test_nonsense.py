"""Nonsense sent to the API, at random: always a clear answer, never a failure."""

from copy import deepcopy
from typing import Any

from django.test import Client
from hypothesis import given
from hypothesis import strategies as st
from hypothesis.extra.django import TestCase

from tests.people import member
from tests.profile import examples
from varistrat.core.starters import STARTERS

JUNK = st.one_of(
    st.none(), st.booleans(), st.integers(-(10**30), 10**30), st.floats(allow_nan=False, allow_infinity=False), st.text(max_size=6),
    st.just([]), st.just({}), st.lists(st.integers(0, 3), max_size=3), st.just({"kind": "twist"}), st.just(1e308), st.just(5e-324),
)  # fmt: skip


def places(value: Any, path: tuple[Any, ...] = ()) -> list[tuple[Any, ...]]:
    """Every place in a JSON tree."""
    found = [path] if path else []
    children = value.items() if isinstance(value, dict) else enumerate(value) if isinstance(value, list) else ()
    for key, child in children:
        found += places(child, (*path, key))
    return found


DOCUMENTS = [s.document() for s in STARTERS.values()]
PLACES = [(i, p) for i, d in enumerate(DOCUMENTS) for p in places(d)]


class NonsenseTests(TestCase):
    def setUp(self) -> None:
        self.client = Client(HTTP_HOST="localhost", raise_request_exception=False)
        self.client.force_login(member("smith").user)

    @given(st.sampled_from(PLACES), JUNK, st.sampled_from(["ledger", "blade.png", "save"]))
    @examples(120)
    def test_one_thing_wrong_anywhere(self, place: tuple[int, tuple[Any, ...]], junk: Any, route: str) -> None:
        document = deepcopy(DOCUMENTS[place[0]])
        here: Any = document
        for part in place[1][:-1]:
            here = here[part]
        here[place[1][-1]] = junk
        if route == "save":
            answer = self.client.post("/api/designs", {"document": document}, content_type="application/json")
        else:
            body = {"document": document} | ({"side": "left", "px": 60, "quality": "preview"} if route == "blade.png" else {})
            answer = self.client.post(f"/api/predict/{route}", body, content_type="application/json")
        self.assertIn(answer.status_code, (200, 201, 422), answer.content[:300])
        if answer.status_code == 422:
            for problem in answer.json()["problems"]:
                self.assertTrue(problem["wrong"] and problem["cure"], problem)
