"""The rack over the API: typed in, counted, taken, put back, kept for its pattern; and what is refused."""

from typing import Any

from tests.api.test_api import DOCUMENT, ApiCase

BAR = {"steel": "1084", "width": 40.0, "thickness": 6.0, "length": 1000.0, "count": 3, "price": 45.0}


class RackApiTests(ApiCase):
    def add(self, **more: Any) -> dict[str, Any]:
        answer = self.send("post", "/api/rack/items", {"items": [BAR | more]})
        self.assertEqual(answer.status_code, 201, answer.content)
        return max(answer.json()["items"], key=lambda i: i["id"])

    def test_from_an_empty_rack_to_bars_in_it(self) -> None:
        self.assertEqual(self.send("get", "/api/rack").json(), {"items": [], "mass": 0.0, "worth": 0.0})
        lines = self.send("post", "/api/rack/typed", {"text": "1084 1/4 x 1 1/2 x 48 x 2\nnonsense", "unit": "mm"}).json()
        self.assertEqual(lines[0]["says"], "2 of 1084, flat 38.1 x 6.35 x 1219.2 mm")
        self.assertTrue(lines[1]["wrong"] and lines[1]["cure"] and lines[1]["item"] is None)
        found = self.send("post", "/api/rack/items", {"items": [lines[0]["item"]]}).json()["items"][0]
        self.assertEqual((found["there"], found["code"], found["size"]), (2, "R1", "38.1 x 6.35 x 1219.2 mm"))
        self.assertAlmostEqual(found["mass"], 2 * 38.1 * 6.35 * 1219.2 * 7.85e-3, delta=20)

    def test_counting_taking_and_putting_back(self) -> None:
        item = self.add()
        self.assertEqual((item["each"], item["worth"]), (15.0, 45.0))
        path = f"/api/rack/items/{item['id']}"
        self.send("post", f"{path}/move", {"do": "bring", "amount": 2})
        counted = self.send("post", f"{path}/move", {"do": "count", "amount": 4}).json()["items"][0]
        self.assertEqual(counted["there"], 4)
        act = self.send("post", "/api/rack/take", {"design": self.new(), "takes": {str(item["id"]): 4}}).json()["act"]
        over = self.send("post", f"{path}/move", {"do": "take", "amount": 1})
        self.assertEqual((over.status_code, over.json()["code"]), (409, "not_enough"))
        self.assertIn("R1", over.json()["title"])
        history = self.send("get", f"{path}/movements").json()
        self.assertEqual([(m["kind"], m["amount"]) for m in history], [("taken", -4), ("corrected", -1), ("bought", 2), ("bought", 3)])
        self.assertEqual((history[0]["for_design"], history[0]["by"]), ("Bold twist", "smith"))
        back = self.send("post", f"/api/rack/acts/{act}/put-back", {}).json()["items"][0]
        self.assertEqual(back["there"], 4)
        again = self.send("post", f"/api/rack/acts/{act}/put-back", {})
        self.assertEqual((again.status_code, again.json()["code"]), (409, "put_back"))

    def test_what_is_said_of_an_item_may_change_and_what_it_is_may_not(self) -> None:
        item = self.add(low=2)
        path = f"/api/rack/items/{item['id']}"
        said = self.send("patch", path, {"place": "by the door", "low": 4}).json()["items"][0]
        self.assertEqual((said["place"], said["runs_low"], said["note"]), ("by the door", True, ""))
        self.assertFalse(self.send("patch", path, {"low": None}).json()["items"][0]["runs_low"])
        self.send("patch", path, {"width": 50.0, "steel": "1095"})
        now = self.send("get", "/api/rack").json()["items"][0]
        self.assertEqual((now["width"], now["steel"]), (40.0, "1084"))

    def test_an_offcut_keeps_its_pattern_and_begins_a_design(self) -> None:
        design = self.new()
        kept = self.send("post", "/api/rack/offcuts", {"design": design, "document": DOCUMENT, "name": "tip end"})
        item = kept.json()["items"][0]
        self.assertTrue(item["picture"] and item["offcut_of"] and item["design"] == design)
        picture = self.client.get(item["picture"])
        self.assertEqual((picture.status_code, picture["Content-Type"]), (200, "image/png"))
        begun = self.send("post", f"/api/rack/items/{item['id']}/begin", {}).json()["id"]
        document = self.send("get", f"/api/designs/{begun}").json()["document"]
        self.assertEqual(document["recipe"]["bar"]["steps"][-1]["kind"], "trim")
        plain = self.add()
        self.assertEqual(self.send("post", f"/api/rack/items/{plain['id']}/begin", {}).status_code, 422)
        self.assertEqual(self.client.get(f"/api/rack/items/{plain['id']}/picture.png").status_code, 404)
        self.assertEqual(self.send("post", "/api/rack/offcuts", {"design": design, "document": DOCUMENT, "name": "moon"}).status_code, 422)

    def test_uses_of_a_piece(self) -> None:
        item = self.add(width=40.0, thickness=8.0, length=250.0, count=1)
        found = self.send("get", f"/api/rack/items/{item['id']}/uses").json()
        self.assertIn({"name": "guard", "how": "sawn", "count": 8, "stretch": 1.0}, found)
        tube = self.add(form="tube", wall=3.0, thickness=40.0)
        self.assertEqual(self.send("get", f"/api/rack/items/{tube['id']}/uses").json(), [])

    def test_offcuts_that_would_do_for_the_fittings_of_a_blade(self) -> None:
        ask = {"document": DOCUMENT}
        empty = {f["name"]: f for f in self.send("post", "/api/rack/fittings", ask).json()}
        self.assertEqual(empty["guard"]["offered"], [])
        self.assertGreater(empty["guard"]["length"], 20.0)
        design = self.new()
        item = self.send("post", "/api/rack/offcuts", {"design": design, "document": DOCUMENT, "name": "tip end"}).json()["items"][0]
        # a plain bar is steel, not a fitting with a pattern
        self.add(width=60.0, thickness=30.0, length=500.0)
        with self.assertNumQueries(5):
            offered = self.send("post", "/api/rack/fittings", ask).json()
        found = [o for f in offered for o in f["offered"]]
        self.assertTrue(found)
        self.assertEqual({o["item"] for o in found}, {item["id"]})
        self.assertEqual(self.client.get(found[0]["picture"]).status_code, 200)
        bare = {"document": {k: v for k, v in DOCUMENT.items() if k != "blade"}}
        self.assertEqual(self.send("post", "/api/rack/fittings", bare).status_code, 422)

    def test_csv_out_and_in(self) -> None:
        self.add()
        text = self.client.get("/api/rack/file.csv").content.decode()
        self.assertIn("R1,1084,flat,40,6,1000,3,45", text)
        same = self.send("post", "/api/rack/file.csv", {"text": text})
        self.assertEqual(same.json(), {"new": 0, "corrected": 0})
        wrong = self.send("post", "/api/rack/file.csv", {"text": text + "R2,nosteel,flat,40,6,1000,1,,,,,,,,,\n"})
        self.assertEqual(wrong.status_code, 422)
        self.assertEqual(wrong.json()["problems"][0]["path"], "line 3.steel")

    def test_nonsense_is_refused(self) -> None:
        for body in (
            {"items": []},
            {"items": [BAR | {"width": -4.0}]},
            {"items": [BAR | {"steel": "cheese"}]},
            {"items": [BAR | {"count": 1.5}]},
            {"items": [BAR | {"length": None}]},
            {"items": [BAR], "codes": ["a", "b"]},
            {"items": [BAR] * 201},
        ):
            self.assertEqual(self.send("post", "/api/rack/items", body).status_code, 422, body)
        item = self.add()
        for body in (
            {"do": "eat", "amount": 1},
            {"do": "take", "amount": -1},
            {"do": "bring", "amount": 0},
            {"do": "count", "amount": 0.5},
        ):
            self.assertEqual(self.send("post", f"/api/rack/items/{item['id']}/move", body).status_code, 422, body)
        self.assertEqual(self.send("post", "/api/rack/take", {"takes": {"987654": 1}}).status_code, 422)
        self.assertEqual(self.send("post", "/api/rack/take", {"design": 987654, "takes": {str(item["id"]): 1}}).status_code, 404)
