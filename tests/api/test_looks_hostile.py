"""Nonsense for every field of the routes and jobs of looks and family studies: a clear 4xx, nothing kept, nothing hung."""

import json
from urllib.parse import quote
from uuid import uuid4

from tests.api.test_api import DOCUMENT
from tests.nasty import NASTY, NastyCase, spoilt
from varistrat.jobs.models import Job

CANDIDATE = {"family": "bias", "values": {"pairs": 4.0}, "dark": "1084", "bright": "15n20"}
ASK = {
    "wants": [{"feature": "width", "value": 2.0, "sure": "near"}],
    "liked": [CANDIDATE],
    "disliked": [CANDIDATE],
    "lacks": ["can"],
    "pairings": [{"dark": "1084", "bright": "15n20"}],
    "heats": 20,
    "hours": 12.0,
    "loss": 0.5,
    "finest": 0.1,
    "faces": 64,
    "seed": 1,
}


class HostileTests(NastyCase):
    def test_a_search_that_cannot_be_is_not_ordered(self) -> None:
        for ask in spoilt(ASK):
            code = self.said("/api/jobs", {"kind": "looks", "ask": ask})
            self.assertIn(code, (201, 422), str(ask)[:200])
            Job.objects.all().delete()
        for ask in ({}, [], None, {"wants": []}, {"wants": [ASK["wants"][0]] * 2}, ASK | {"faces": 10**9}, ASK | {"seed": -1}):
            self.assertEqual(self.said("/api/jobs", {"kind": "looks", "ask": ask}), 422)
        self.assertFalse(Job.objects.exists())

    def test_family_studies(self) -> None:
        one, two = self.new(), self.new()
        good = {"kind": "family_study", "designs": [one, two], "error": "dip", "sizes": {"dip": 0.1}}
        for body in spoilt(good):
            self.assertIn(self.said("/api/jobs", body), (201, 404, 422), str(body)[:200])
            Job.objects.all().delete()
        self.assertEqual(self.said("/api/jobs", good | {"designs": list(range(1, 40))}), 422)
        self.assertEqual(self.said("/api/jobs", good), 201)

    def test_faces_and_designs_of_candidates(self) -> None:
        for wrong in spoilt(CANDIDATE):
            self.said("/api/looks/design", {"candidate": wrong})
            try:
                text = json.dumps(wrong)
            except ValueError:
                continue
            if len(text) < 700:
                self.said(f"/api/looks/face.png?candidate={quote(text)}&px=64", method="get")
        for text in ("", "{", "[]", "null", "{" * 300, "x" * 2000, '{"family": "bias", "values": {"pairs": 1e999}}'):
            self.assertEqual(self.said(f"/api/looks/face.png?candidate={quote(text)}", method="get"), 422, text[:20])
        for px in ("0", "-1", "999999", "x", "1e9"):
            self.assertEqual(self.said(f"/api/looks/face.png?candidate={quote(json.dumps(CANDIDATE))}&px={px}", method="get"), 422)

    def test_measuring(self) -> None:
        bare = {k: v for k, v in DOCUMENT.items() if k != "blade"}
        self.assertEqual(self.said("/api/looks/measure", {"document": bare}), 422)
        for wrong in NASTY:
            self.said("/api/looks/measure", {"document": wrong})
            self.said(f"/api/looks/measure-photo/{self.new()}/{uuid4()}", {"marks": wrong, "side": "right"})
