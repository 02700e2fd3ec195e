"""Nonsense in fires, hardenings, steels and kiln programs, at random: always a clear answer from every route of the heat."""

from copy import deepcopy
from typing import Any

from django.contrib.auth.models import User
from django.test import Client
from hypothesis import given
from hypothesis import strategies as st
from hypothesis.extra.django import TestCase

from tests.api.test_nonsense import JUNK, places
from tests.profile import examples
from varistrat.core.starters import STARTERS
from varistrat.core.steels import built_in


def rich(starter: str) -> dict[str, Any]:
    """A design with everything said of its heats and its hardening that can be."""
    return STARTERS[starter].document() | {
        "fire": {
            "weld": 1150.0,
            "forge": 1100.0,
            "gas": "rich",
            "tool": "hand_hammer",
            "steps": [{"at": [0], "heats": 2, "celsius": 1140.0, "minutes": 6.0, "atmosphere": "flux"}, {"at": [1], "heats": 5}],
        },
        "hardening": {
            "school": "magnet",
            "bevels": "after",
            "back": "soft",
            "wanted": 58.0,
            "celsius": 810.0,
            "soak": 6.0,
            "quench": "fast_oil",
            "edge": 1.0,
            "cold": "no",
            "hardened": {"hrc": [64.0, 65.5], "file": "skates", "bow": 1.5},
            "tempered": [{"celsius": 200.0, "hours": 2.0, "hrc": [60.0], "colour": 215.0}],
        },
    }


DOCUMENTS = [rich("bold_twist"), rich("three_layer")]
PLACES = [(i, p) for i, d in enumerate(DOCUMENTS) for p in places(d) if p[0] in ("fire", "hardening")]
PROGRAM: dict[str, Any] = {
    "name": "x",
    "segments": [{"celsius": 650.0, "rate": None, "minutes": 10.0, "through": True}, {"celsius": 805.0, "rate": 300.0}],
}
STEEL = {
    k: v
    for k, v in built_in()["o1"].model_dump(mode="json").items()
    if k
    in (
        "composition",
        "density",
        "solidus",
        "forge",
        "weld",
        "austenitise",
        "soak",
        "quench",
        "as_quenched",
        "temper",
        "tone",
        "etch_rate",
        "hardens",
    )
}
WITHOUT_LIMIT = examples(90)


def spoilt(whole: Any, path: tuple[Any, ...], junk: Any) -> Any:
    out = deepcopy(whole)
    here = out
    for part in path[:-1]:
        here = here[part]
    here[path[-1]] = junk
    return out


class HeatNonsenseTests(TestCase):
    def setUp(self) -> None:
        self.client = Client(HTTP_HOST="localhost", raise_request_exception=False)
        self.client.force_login(User.objects.get_or_create(username="smith")[0], backend="varistrat.shop.backend.AtWork")

    def answered(self, path: str, body: Any, method: str = "post") -> None:
        answer = getattr(self.client, method)(path, body, content_type="application/json")
        self.assertIn(answer.status_code, (200, 422), answer.content[:300])
        if answer.status_code == 422:
            for problem in answer.json()["problems"]:
                self.assertTrue(problem["wrong"] and problem["cure"], problem)
        else:
            self.assertNotIn(b"NaN", answer.content)
            self.assertNotIn(b"Infinity", answer.content)

    def test_as_it_stands_every_route_answers(self) -> None:
        for document in DOCUMENTS:
            for route in ("heat/fire", "heat/hardening"):
                self.assertEqual(
                    self.client.post(f"/api/{route}", {"document": document}, content_type="application/json").status_code, 200
                )

    @given(st.sampled_from(PLACES), JUNK, st.sampled_from(["heat/fire", "heat/hardening", "kiln/tester"]))
    @WITHOUT_LIMIT
    def test_one_thing_wrong_in_a_design(self, place: tuple[int, tuple[Any, ...]], junk: Any, route: str) -> None:
        body: dict[str, Any] = {"document": spoilt(DOCUMENTS[place[0]], place[1], junk)}
        self.answered(f"/api/{route}", body | ({"stage": "quenched"} if route == "kiln/tester" else {}))

    @given(st.sampled_from(places(PROGRAM)), JUNK, st.sampled_from(["kiln/check", "kiln/programs", "kiln/program.csv"]))
    @WITHOUT_LIMIT
    def test_one_thing_wrong_in_a_program(self, place: tuple[Any, ...], junk: Any, route: str) -> None:
        program = spoilt(PROGRAM, place, junk)
        self.answered(f"/api/{route}", {"program": program} if route == "kiln/check" else program)

    @given(st.sampled_from(places(STEEL)), JUNK)
    @WITHOUT_LIMIT
    def test_one_thing_wrong_in_a_steel(self, place: tuple[Any, ...], junk: Any) -> None:
        self.answered("/api/steels/o1", {"figures": spoilt(STEEL, place, junk)}, "put")
        # whatever was kept, the list and the pairings still come
        self.answered("/api/pairings", {"steels": ["o1", "15n20"]})
        self.assertEqual(self.client.get("/api/steels").status_code, 200)

    @given(st.text(max_size=200))
    @WITHOUT_LIMIT
    def test_any_text_as_csv(self, text: str) -> None:
        self.answered("/api/steels/csv", {"text": text})
        self.answered("/api/kiln/program-from-csv", {"text": text})
        self.answered("/api/steels/csv", {"text": "key,C,name\n" + text})
        self.answered("/api/kiln/program-from-csv", {"text": "celsius,rate_C_h\n" + text})
