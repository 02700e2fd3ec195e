"""Nonsense for every route of the finish: a clear 4xx, nothing kept, nothing hung."""

from typing import Any
from uuid import uuid4

from tests.api.test_api import DOCUMENT
from tests.nasty import NASTY, NastyCase, wrong_for
from varistrat.finishing.models import Bath, BathUse


class HostileTests(NastyCase):
    def test_every_field_of_a_plan(self) -> None:
        for name in ("last", "bath", "relief", "cycle", "polish", "moved", "tone", "mark", "use", "angle"):
            for wrong in wrong_for(name):
                self.said("/api/finish/sheet", {"document": DOCUMENT | {"finish": {name: wrong}}})

    def test_every_field_of_a_bath(self) -> None:
        for name in ("what", "strength", "temperature", "litres", "iron"):
            for wrong in wrong_for(name):
                self.said("/api/finish/sheet", {"document": DOCUMENT | {"finish": {"bath": {name: wrong}}}})
                self.said("/api/finish/baths", {"name": "b", "mixed": "2031-05-01", "bath": {name: wrong}})
        # what was taken (a field that was left out, a number as text) is a bath that can be
        for row in Bath.objects.all():
            self.assertTrue(0 < row.strength <= 42 and 5 <= row.temperature <= 60 and row.litres > 0, row.what)

    def test_every_field_of_a_mix(self) -> None:
        for name in ("what", "stock", "value", "strength", "litres", "stock_ml", "solvent_ml"):
            for wrong in wrong_for(name):
                self.said("/api/finish/mix", {"strength": 10, "litres": 4} | {name: wrong})
                self.said("/api/finish/mix", {"stock_ml": 10, "solvent_ml": 40} | {name: wrong})

    def test_the_other_questions(self) -> None:
        asked: dict[str, dict[str, Any]] = {
            "/api/finish/coupon": {"bath": {}, "minutes": 20, "step": 16},
            "/api/finish/edge-test": {"document": DOCUMENT, "test": {"test": "brass", "seen": "rolled"}},
            "/api/finish/balance": {"document": DOCUMENT, "wanted": 5, "unknown": "guard", "fittings": {}},
            "/api/finish/film.png": {"document": DOCUMENT, "stage": "polished", "px": 64, "side": "right", "bath": None},
            "/api/finish/faults": {"seen": "dark_gap", "answers": {}, "document": DOCUMENT, "build": None},
            "/api/finish/faults/change": {"document": DOCUMENT, "change": "etch_longer"},
        }
        for path, body in asked.items():
            for name in body:
                for wrong in wrong_for(name):
                    self.said(path, body | {name: wrong})
            for raw in (b"", b"{", b"[]", b'"x"', b"\xff\xfe", b"{" * 2000):
                self.said(path, raw)

    def test_etches_that_cannot_be(self) -> None:
        bath = self.send("post", "/api/finish/baths", {"name": "b", "mixed": "2031-05-01", "bath": {}}).json()["id"]
        good = {"uid": str(uuid4()), "document": DOCUMENT, "minutes": [5]}
        for name, values in {
            "uid": NASTY,
            "minutes": ([], [0], [-1], ["x"], [1e9], [1] * 500, "5", None, [None]),
            "title": (1, [], "x" * 500),
            "build": (-1, 10**20, "x", 987654),
            "document": ({}, None, [], "x"),
        }.items():
            for wrong in values:
                answer = self.send("post", f"/api/finish/baths/{bath}/etched", good | {name: wrong})
                self.assertIn(answer.status_code, (404, 422, 400), f"{name}: {str(wrong)[:40]}")
        self.assertEqual(BathUse.objects.count(), 0)
        for odd in ("0", "-1", "99999999999999999999", "x"):
            for method, tail in (("get", ""), ("patch", ""), ("post", "/etched")):
                self.assertIn(
                    self.send(method, f"/api/finish/baths/{odd}{tail}", good).status_code, (404, 405, 422), f"{method} {odd}{tail}"
                )

    def test_a_blade_that_is_not_there(self) -> None:
        bare = {k: v for k, v in DOCUMENT.items() if k != "blade"}
        for path, body in (
            ("/api/finish/sheet", {"document": bare}),
            ("/api/finish/sums", {"document": bare}),
            ("/api/finish/balance", {"document": bare}),
            ("/api/finish/film.png", {"document": bare, "stage": "polished"}),
            ("/api/finish/edge-test", {"document": bare, "test": {"test": "brass", "seen": "rolled"}}),
        ):
            answer = self.send("post", path, body)
            self.assertEqual(answer.status_code, 422, path)
            self.assertIn("blade", answer.content.decode())
        # what is seen on a bar is asked all the same
        self.assertEqual(self.send("post", "/api/finish/faults", {"seen": "dark_gap", "document": bare}).status_code, 200)
