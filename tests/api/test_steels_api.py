"""The shop's own steels and numbers through the API: kept, used everywhere, taken back; pairings."""

from typing import Any

from django.test import Client

from tests.api.test_api import DOCUMENT, HTTP, ApiCase
from tests.people import member
from varistrat.core.steels import built_in


class ShopSteelTests(ApiCase):
    def steel(self, key: str) -> dict[str, Any]:
        return next(s for s in self.client.get("/api/steels").json() if s["key"] == key)

    def put(self, key: str, **figures: Any) -> Any:
        return self.send("put", f"/api/steels/{key}", {"figures": figures})

    def test_every_figure_says_where_it_comes_from(self) -> None:
        for s in self.client.get("/api/steels").json():
            for figure in ("composition", "density", "solidus", "forge", "tone", "flow", "price"):
                self.assertTrue(s["sources"][figure]["text"], (s["key"], figure))

    def test_an_override_is_marked_and_goes_back(self) -> None:
        self.put("1084", solidus=1355.0, temper=[63, 62, 61, 59, 57, 54, 50])
        got = self.steel("1084")
        self.assertEqual((got["solidus"], got["own"], got["usual"]["solidus"]), (1355.0, ["solidus", "temper"], 1360.0))
        self.assertEqual((got["sources"]["solidus"]["sure"], got["sources"]["forge"]["sure"]), ("own", "fair"))
        self.put("1084", solidus=None)
        self.assertEqual(self.steel("1084")["own"], ["temper"])
        self.send("delete", "/api/steels/1084")
        self.assertEqual(self.steel("1084")["own"], [])

    def test_one_tone_of_four(self) -> None:
        self.put("o1", tone={"coffee": 0.0})
        self.put("o1", tone={"ferric": 4.0})
        tone = self.steel("o1")["tone"]
        self.assertEqual((tone["coffee"], tone["ferric"], tone["nital"]), (0.0, 4.0, built_in()["o1"].tone["nital"]))
        self.put("o1", tone={"ferric": None})
        self.assertEqual(self.steel("o1")["tone"]["ferric"], built_in()["o1"].tone["ferric"])

    def test_nonsense_is_refused_with_its_place(self) -> None:
        cases: list[tuple[dict[str, Any], str]] = [
            ({"solidus": 900.0}, ""),
            ({"solidus": "hot"}, "solidus"),
            ({"forge": [1100, 900]}, "forge"),
            ({"composition": {"Xx": 1}}, "composition"),
            ({"colour": 3}, "colour"),
            ({"temper": [50, 60, 61, 62, 63, 64, 65]}, ""),
            ({"density": -1}, "density"),
            ({"composition": {"C": 80, "Ni": 60}}, ""),
        ]
        for figures, path in cases:
            answer = self.put("1084", **figures)
            self.assertEqual(answer.status_code, 422, figures)
            self.assertEqual(answer.json()["problems"][0]["path"], path, figures)
            self.assertTrue(answer.json()["problems"][0]["cure"])
        self.assertEqual(self.steel("1084")["own"], [])

    def test_a_steel_of_ones_own_is_forged_weighed_and_drawn(self) -> None:
        made = self.send(
            "post", "/api/steels", {"key": "gate-hinge", "figures": {"name": "Gate hinge", "composition": {"C": 0.05, "P": 0.2}}}
        )
        self.assertEqual(made.status_code, 200, made.content)
        self.put("gate-hinge", density=7000.0)
        document = {
            "recipe": {
                "format": "varistrat.recipe/1",
                "bar": {"start": {"kind": "solid", "steel": "gate-hinge", "length": 100.0, "width": 10.0, "thickness": 10.0}, "steps": []},
            }
        }
        ledger = self.send("post", "/api/predict/ledger", {"document": document}).json()
        self.assertAlmostEqual(ledger["rows"][0]["mass"], 70.0)
        picture = self.send("post", "/api/predict/bar.png", {"document": document, "stages": 0, "view": "face", "px": 60})
        self.assertEqual(picture["Content-Type"], "image/png")
        # another shop does not know it
        other = Client(**HTTP)
        other.force_login(member("other").user)
        refused = self.send("post", "/api/predict/ledger", {"document": document}, client=other)
        self.assertEqual(refused.status_code, 422)
        # nor is it taken away under a design that uses it
        kept = self.send("post", "/api/designs", {"name": "Hinge bar", "document": document}).json()["id"]
        self.send("delete", "/api/steels/gate-hinge")
        self.assertTrue(self.steel("gate-hinge")["retired"])
        self.send("delete", f"/api/designs/{kept}")
        self.assertEqual(self.send("delete", "/api/steels/gate-hinge").status_code, 200)

    def test_an_override_changes_what_was_worked_out_before(self) -> None:
        before = self.send("post", "/api/predict/ledger", {"document": DOCUMENT}).json()["rows"][0]["mass"]
        for key in ("1084", "15n20"):
            self.put(key, density=5000.0)
        after = self.send("post", "/api/predict/ledger", {"document": DOCUMENT}).json()["rows"][0]["mass"]
        self.assertLess(after, 0.7 * before)

    def test_key_taken_or_bad(self) -> None:
        figures = {"composition": {"C": 0.8}}
        for key in ("1084", "Two words", "", "x" * 60):
            self.assertEqual(self.send("post", "/api/steels", {"key": key, "figures": figures}).status_code, 422, key)
        self.assertEqual(self.send("post", "/api/steels", {"key": "mine", "figures": {}}).json()["problems"][0]["path"], "composition")

    def test_csv_out_in_and_wrong(self) -> None:
        self.put("1084", price=4.5)
        text = self.client.get("/api/steels.csv").content.decode()
        self.send("delete", "/api/steels/1084")
        self.assertEqual(self.send("post", "/api/steels/csv", {"text": text}).json(), {"taken": 1})
        self.assertEqual(self.steel("1084")["price"], 4.5)
        wrong = self.send("post", "/api/steels/csv", {"text": "key,C\nmine,lots\n1084,0.9\n"})
        self.assertEqual(wrong.json()["problems"][0]["path"], "line 2.C")
        self.assertEqual(self.steel("1084")["composition"]["C"], 0.84)

    def test_the_steels_in_use_decide_what_is_suggested(self) -> None:
        self.assertEqual(self.send("put", "/api/steels-in-use", {"keys": ["o1", "l6", "o1"]}).json(), ["o1", "l6"])
        self.assertEqual([s["key"] for s in self.client.get("/api/steels").json() if s["in_use"]], ["o1", "l6"])
        self.assertEqual(self.send("put", "/api/steels-in-use", {"keys": ["mithril"]}).status_code, 422)

    def test_numbers_of_the_shop(self) -> None:
        got = {f["key"]: f for f in self.send("put", "/api/figures/scale_air", {"value": 1.5}).json()}
        self.assertEqual((got["scale_air"]["now"], got["scale_air"]["own"]), (1.5, True))
        self.assertEqual(self.send("put", "/api/figures/scale_air", {"value": 90}).json()["problems"][0]["path"], "value")
        self.assertEqual(self.send("put", "/api/figures/luck", {"value": 1}).json()["problems"][0]["path"], "key")
        back = {f["key"]: f for f in self.send("put", "/api/figures/scale_air", {"value": None}).json()}
        self.assertEqual((back["scale_air"]["now"], back["scale_air"]["own"]), (1.0, False))


class PairingApiTests(ApiCase):
    def test_a_pair_with_its_reasons(self) -> None:
        got = self.send("post", "/api/pairings", {"steels": ["1084", "15n20"]}).json()
        self.assertEqual((got["verdict"], got["uses"]["edge"], got["quench"]), ("good", "good", "fast_oil"))
        self.assertEqual(len(got["reasons"]), 8)
        self.assertTrue(all(r["what"] and r["why"] for r in got["reasons"]))

    def test_the_matrix_has_every_two_once(self) -> None:
        keys = ["1084", "15n20", "iron", "copper"]
        cells = self.send("post", "/api/pairings/matrix", {"steels": keys, "use": "clad"}).json()
        self.assertEqual(len(cells), 6)
        self.assertEqual({tuple(sorted(c["steels"])) for c in cells}, {tuple(sorted((a, b))) for i, a in enumerate(keys) for b in keys[:i]})

    def test_a_shop_figure_changes_the_verdict(self) -> None:
        self.send("put", "/api/steels/15n20", {"figures": {"tone": {"ferric": 1.0}}})
        got = self.send("post", "/api/pairings", {"steels": ["1084", "15n20"]}).json()
        self.assertEqual(got["verdict"], "no")

    def test_wrong_questions(self) -> None:
        for body in (
            {"steels": ["1084"]},
            {"steels": ["1084", "1084"]},
            {"steels": ["1084", "mithril"]},
            {"steels": ["1084", "o1"], "shares": [1]},
            {"steels": ["1084", "o1"], "thickness": 0},
            {"steels": ["1084", "o1"], "temper": 900},
            {"steels": ["1084", "o1"], "use": "soup"},
        ):
            self.assertEqual(self.send("post", "/api/pairings", body).status_code, 422, body)

    def test_a_design_begun_from_a_pair(self) -> None:
        made = self.send("post", "/api/designs", {"pile": {"steels": ["1084", "15n20"], "shares": [1, 1]}})
        self.assertEqual(made.status_code, 201)
        document = self.client.get(f"/api/designs/{made.json()['id']}").json()["document"]
        self.assertEqual(len(document["recipe"]["bar"]["start"]["layers"]), 7)
        for pile in ({"steels": ["1084"]}, {"steels": ["1084", "mithril"]}, {"steels": ["1084", "o1"], "shares": [1, -1]}):
            self.assertEqual(self.send("post", "/api/designs", {"pile": pile}).status_code, 422, pile)
