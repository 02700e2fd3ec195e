"""Nonsense in blades, aims, errors and readings, at random: always a clear answer from every route of the blade."""

from copy import deepcopy
from typing import Any

from django.test import Client
from hypothesis import given
from hypothesis import strategies as st
from hypothesis.extra.django import TestCase

from tests.api.test_nonsense import JUNK, places
from tests.people import member
from tests.profile import examples
from varistrat.core.starters import STARTERS

ROUTES = ("core", "sections", "measures", "inference", "study", "photo")


def rich() -> dict[str, Any]:
    """A laminate with everything said that can be."""
    document = STARTERS["three_layer"].document()
    blade = document["blade"]
    blade["outline"] |= {"tip": 0.5, "belly": 0.02, "clip": 0.4, "heel": 2.0, "choil": {"length": 6.0, "depth": 2.0}}
    blade["grind"] |= {
        "share_right": 0.45,
        "ricasso": 10.0,
        "plunge": 6.0,
        "swedge": {"length": 40.0, "height": 5.0, "thickness": 1.0, "sides": "right"},
        "fuller": {"start": 15.0, "end": 70.0, "middle": 20.0, "width": 5.0, "depth": 0.3, "sides": "both"},
    }
    blade["errors"] = {
        "core_offset": [[0.0, 0.02], [120.0, 0.0]],
        "dip": 0.05,
        "cup": 0.02,
        "twist": 0.1,
        "uneven": 0.05,
        "bow": 0.1,
        "edge": 0.05,
        "flow": 0.05,
    }
    blade["correction"] = {"right": [[10.0, 0.05, 0.0], [90.0, 0.1, 0.05]], "left": []}
    blade["tang"] = {"length": 60.0, "width": 14.0, "end_width": 8.0}
    blade["forging"] = {"share": 0.5, "allowance": 0.4, "skin": 0.05, "point_cut": {"side": "spine", "length": 40.0}}
    return document | {
        "aim": {
            "school": "bold",
            "low": 4.0,
            "high": 14.0,
            "difference": 2.0,
            "start": 0.1,
            "end": 0.8,
            "edge_least": 0.2,
            "spine_least": 1.5,
        },
        "sizes": {"core_offset": 0.01, "dip": 0.05, "wander": 0.5},
        "readings": {
            "heights": [{"x": 40.0, "side": "right", "height": 7.0}, {"x": 70.0, "side": "left", "state": "none"}],
            "within": 0.3,
            "off_middle": 0.05,
        },
        "handle": {"material": "horn", "length": 110.0, "width": 24.0, "thickness": 17.0},
    }


DOCUMENTS = [rich(), STARTERS["slot_core"].document() | {"readings": rich()["readings"]}]
PLACES = [(i, p) for i, d in enumerate(DOCUMENTS) for p in places(d) if p[0] != "recipe"]
MARKS = [{"px": x, "py": -y, "x": x, "y": y} for x, y in ((10.0, 0.0), (10.0, 20.0), (80.0, 1.0), (80.0, 22.0))]


class BladeNonsenseTests(TestCase):
    def setUp(self) -> None:
        self.client = Client(HTTP_HOST="localhost", raise_request_exception=False)
        self.client.force_login(member("smith").user)

    def ask(self, route: str, document: dict[str, Any]) -> Any:
        more: dict[str, Any] = {
            "photo": {"marks": MARKS, "points": [[40.0, -8.0]]},
            "study": {"blades": 100, "stations": 10},
            "sections": {"stations": 5},
        }.get(route, {})
        answer = self.client.post(f"/api/blade/{route}", {"document": document} | more, content_type="application/json")
        if getattr(answer, "streaming", False):
            # what goes wrong while it streams would show here
            self.assertIn(b'"study"', b"".join(answer.streaming_content))  # type: ignore[attr-defined]
        return answer

    def test_as_it_stands_every_route_answers(self) -> None:
        for route in ROUTES:
            self.assertEqual(self.ask(route, deepcopy(DOCUMENTS[0])).status_code, 200, route)

    @given(st.sampled_from(PLACES), JUNK, st.sampled_from(ROUTES))
    @examples(110)
    def test_one_thing_wrong_anywhere(self, place: tuple[int, tuple[Any, ...]], junk: Any, route: str) -> None:
        document = deepcopy(DOCUMENTS[place[0]])
        here: Any = document
        for part in place[1][:-1]:
            here = here[part]
        here[place[1][-1]] = junk
        answer = self.ask(route, document)
        self.assertIn(answer.status_code, (200, 422))
        if answer.status_code == 422:
            for problem in answer.json()["problems"]:
                self.assertTrue(problem["wrong"] and problem["cure"], problem)
