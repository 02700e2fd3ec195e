"""What one shop owns no other ever sees, not through anything that is kept: every figure and steel changed, every route, both ways
round."""

from concurrent.futures import ThreadPoolExecutor
from typing import Any
from unittest import mock

from django.core.cache import caches
from django.test import Client, SimpleTestCase

from tests.api.test_api import DOCUMENT, HTTP, LAMINATE, ApiCase
from tests.people import member
from tests.waiting import until
from varistrat.core.design.document import read_document
from varistrat.core.design.worked import Worked
from varistrat.core.laws.numbers import FIGURES
from varistrat.core.shop import AS_SHIPS, ShopData
from varistrat.core.starters import STARTERS
from varistrat.core.steels import built_in
from varistrat.core.steels.estimate import shop_steel
from varistrat.designs.services import predict
from varistrat.shop.services import own

READ = LAMINATE | {"readings": {"heights": [{"x": 40.0, "side": "right", "height": 6.0}]}}
ASKED: list[tuple[str, dict[str, Any]]] = [
    ("/api/predict/ledger", {"document": DOCUMENT}),
    ("/api/heat/fire", {"document": DOCUMENT}),
    ("/api/heat/hardening", {"document": DOCUMENT}),
    ("/api/heat/fire", {"document": LAMINATE}),
    ("/api/heat/hardening", {"document": LAMINATE}),
    ("/api/predict/blade.png", {"document": DOCUMENT, "side": "right", "px": 160}),
    ("/api/predict/blade.png", {"document": DOCUMENT, "side": "right", "px": 160, "fired": True}),
    ("/api/predict/faces", {"document": DOCUMENT, "px": 160}),
    ("/api/predict/bar.png", {"document": DOCUMENT, "stages": 2, "view": "end", "px": 80}),
    ("/api/predict/portraits", {"document": DOCUMENT, "px_per_mm": 1.0, "max_mm": 40}),
    ("/api/predict/layers", {"document": DOCUMENT, "x": 60, "h": 12}),
    ("/api/blade/core", {"document": LAMINATE}),
    ("/api/blade/measures", {"document": LAMINATE}),
    ("/api/blade/study", {"document": LAMINATE, "blades": 100, "stations": 10}),
    ("/api/blade/inference", {"document": READ}),
    ("/api/pairings", {"steels": ["1084", "15n20"]}),
    ("/api/pairings/matrix", {"steels": ["1084", "15n20", "iron"]}),
    ("/api/pairings/suggest", {"use": "edge", "within": ["1084", "15n20", "o1"]}),
    ("/api/predict/fired-findings", {"document": STARTERS["ladder"].document()}),
    ("/api/files/section", {"document": DOCUMENT, "plane": {"x": 30}, "kind": "svg"}),
    ("/api/kiln/check", {"program": {"name": "p", "segments": [{"celsius": 1190, "minutes": 5}]}, "document": DOCUMENT}),
]
DIFFERS = {
    "/api/predict/ledger",
    "/api/heat/fire",
    "/api/heat/hardening",
    "/api/predict/blade.png",
    "/api/predict/faces",
    "/api/predict/bar.png",
    "/api/predict/portraits",
    "/api/blade/measures",
    "/api/pairings",
}


class TwoShopsTests(ApiCase):
    def setUp(self) -> None:
        super().setUp()
        self.odd = member("odd")
        for key, steel in built_in().items():
            figures: dict[str, Any] = {
                "density": steel.density * 0.9,
                "tone": {k: 10 - v for k, v in steel.tone.items()},
                "etch_rate": steel.etch_rate * 1.5 + 0.01,
            }
            figures |= {"solidus": steel.solidus - 4, "flow": 1.7, "cost": 9.0, "forge": [steel.forge[0] + 5, steel.forge[1] - 5]}
            if steel.austenitise and steel.as_quenched and steel.temper:
                figures |= {
                    "as_quenched": [40.0, 41.0],
                    "temper": [40, 39, 38, 37, 36, 35, 34],
                    "austenitise": [steel.austenitise[0] + 3, steel.austenitise[1] + 3],
                }
            own.set_steel(actor=self.odd, key=key, figures=figures)
        for f in FIGURES.values():
            own.set_figure(actor=self.odd, key=f.key, value=f.low + 0.73 * (f.high - f.low))
        self.theirs = Client(**HTTP)
        self.theirs.force_login(self.odd.user)

    def all(self, client: Client) -> list[tuple[str, bytes]]:
        out = []
        for path, body in ASKED:
            answer = client.post(path, body, content_type="application/json")
            self.assertLess(answer.status_code, 400, (path, answer.content[:300] if not answer.streaming else ""))
            out.append((path, b"".join(answer.streaming_content) if answer.streaming else answer.content))
        return out

    def test_neither_sees_the_others(self) -> None:
        predict._recent.clear()
        alone = self.all(self.client)
        predict._recent.clear()
        theirs = self.all(self.theirs)
        # the odd shop's answers lie about when ours asks, and the other way round
        for (path, want), (_, got) in zip(alone, self.all(self.client), strict=True):
            self.assertEqual(want, got, path)
        for (path, want), (_, got) in zip(theirs, self.all(self.theirs), strict=True):
            self.assertEqual(want, got, path)
        differ = {path for (path, a), (_, b) in zip(alone, theirs, strict=True) if a != b}
        self.assertLessEqual(DIFFERS, differ, DIFFERS - differ)

    def test_a_figure_changed_shows_in_an_open_design(self) -> None:
        def scale() -> float:
            return float(self.send("post", "/api/heat/fire", {"document": DOCUMENT}).json()["scale_mass"])

        before = scale()
        self.send("put", "/api/figures/scale_neutral", {"value": 1.7})
        self.assertGreater(scale(), 1.3 * before)
        self.send("put", "/api/figures/scale_neutral", {"value": None})
        self.assertAlmostEqual(scale(), before, delta=1e-9)

    def test_pictures_on_disk(self) -> None:
        mine = self.new()
        first = self.client.get(f"/api/designs/{mine}/picture.png?px=96")
        theirs = self.theirs.post("/api/designs", {"document": DOCUMENT, "name": "x"}, content_type="application/json").json()["id"]
        other = self.theirs.get(f"/api/designs/{theirs}/picture.png?px=96")
        self.assertNotEqual(first["ETag"], other["ETag"])
        self.assertNotEqual(first.content, other.content)
        caches["pictures"].clear()

    def test_what_is_worked_out_carries_its_shop(self) -> None:
        odd = ShopData({"1084": shop_steel("1084", {"as_quenched": (50.0, 51.0)})}, {"scale_neutral": 2.0})
        worked = Worked.of(read_document(DOCUMENT, odd))
        self.assertEqual((worked.shop, worked.forged.shop), (odd, odd))
        plain = Worked.of(read_document(DOCUMENT))
        self.assertEqual(plain.shop, AS_SHIPS)
        self.assertNotEqual(worked.fire.fired[1].scale, plain.fire.fired[1].scale)
        self.assertNotEqual(worked.hardening.expected, plain.hardening.expected)

    def test_a_start_looks_alike_to_all(self) -> None:
        """Its picture is kept for everybody: it shows steels as they ship, whoever asked first."""
        seen = []
        for who in (self.theirs, self.client):
            caches["pictures"].clear()
            seen.append(who.get("/api/starters/ladder/picture.png").content)
        self.assertEqual(seen[0], seen[1])
        caches["pictures"].clear()

    def test_what_is_kept_is_bounded_in_bytes(self) -> None:
        kept = predict._Recent(2_000_000)
        for n in range(12):
            kept.get(read_document({**DOCUMENT, "recipe": {**DOCUMENT["recipe"], "name": str(n)}}))
        self.assertLessEqual(kept._bytes, 2_000_000)
        self.assertEqual(kept._bytes, sum(c for _, c in kept._kept.values()))
        self.assertGreater(len(kept._kept), 1)


class MadeOnceTests(SimpleTestCase):
    def test_made_once_however_many_ask_at_once(self) -> None:
        kept, real, made = predict._Recent(2_000_000), Worked.of, []

        def slow(document: Any) -> Worked:
            made.append(1)
            until(lambda: kept.asked == 6, "they do not all ask")
            return real(document)

        document = read_document(DOCUMENT)
        with mock.patch.object(Worked, "of", side_effect=slow), ThreadPoolExecutor(6) as many:
            found = list(many.map(lambda _: kept.get(document), range(6)))
        self.assertEqual((len(made), len({id(w) for w in found})), (1, 1))
        self.assertEqual((kept.asked, kept.made, kept._making), (6, 1, {}))

    def test_one_that_breaks_keeps_nobody_waiting(self) -> None:
        kept, document = predict._Recent(2_000_000), read_document(DOCUMENT)
        with mock.patch.object(Worked, "of", side_effect=RuntimeError("boom")), self.assertRaises(RuntimeError):
            kept.get(document)
        self.assertEqual(kept._making, {})
        self.assertIsInstance(kept.get(document), Worked)
