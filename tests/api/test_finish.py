"""Finish over the wire: the sheet and its film, mixing, baths that wear, faults with their log, the card."""

from typing import Any
from uuid import uuid4

from django.db import DatabaseError, connection, transaction

from tests.api.test_api import DOCUMENT, ApiCase
from varistrat.finishing.models import BathUse


class SheetTests(ApiCase):
    def sheet(self, **finish: Any) -> dict[str, Any]:
        answer = self.send("post", "/api/finish/sheet", {"document": DOCUMENT | {"finish": finish}})
        self.assertEqual(answer.status_code, 200, answer.content)
        return answer.json()  # type: ignore[no-any-return]

    def test_the_relief_wanted_is_planned(self) -> None:
        said = self.sheet(relief=12.0)
        self.assertAlmostEqual(said["relief"], 12.0, delta=0.3)
        self.assertEqual(said["minutes"], sum(c["minutes"] for c in said["cycles"]))
        self.assertEqual([len(s["depths"]) for s in said["steels"]], [len(said["cycles"])] * len(said["steels"]))
        self.assertEqual(said["relief"], said["steels"][0]["depths"][-1] - said["steels"][-1]["depths"][-1])
        self.assertEqual(len(said["stages"]), 6)
        self.assertIn("never water into acid", " ".join(said["order"]))
        self.assertGreater(said["used_after"], said["used"])

    def test_the_film_changes_from_stage_to_stage(self) -> None:
        stages = [s["key"] for s in self.sheet(relief=12.0)["stages"]]
        pictures = set()
        for stage in stages:
            asked = {"document": DOCUMENT | {"finish": {"relief": 12.0}}, "stage": stage, "px": 160}
            answer = self.send("post", "/api/finish/film.png", asked)
            self.assertEqual((answer.status_code, answer["Content-Type"]), (200, "image/png"))
            pictures.add(answer.content)
        self.assertEqual(len(pictures), len(stages))
        wrong = self.send("post", "/api/finish/film.png", {"document": DOCUMENT, "stage": "moon"})
        self.assertEqual(wrong.status_code, 422)

    def test_bad_plans_say_where(self) -> None:
        for finish, place in (
            ({"bath": {"what": "nital", "strength": 12}}, "bath"),
            ({"bath": {"temperature": 80}}, "bath"),
            ({"relief": -1}, "relief"),
            ({"last": "P77"}, "last"),
            ({"mark": {"area": 0}}, "mark"),
        ):
            answer = self.send("post", "/api/finish/sheet", {"document": DOCUMENT | {"finish": finish}})
            self.assertEqual(answer.status_code, 422, finish)
            self.assertIn(place, answer.content.decode())


class MixTests(ApiCase):
    def mix(self, **said: Any) -> Any:
        return self.send("post", "/api/finish/mix", said)

    def test_both_ways(self) -> None:
        there = self.mix(strength=10.2, litres=5).json()
        back = self.mix(stock_ml=there["stock"], solvent_ml=there["solvent"]).json()
        self.assertAlmostEqual(back["strength"], 10.2, 6)
        self.assertAlmostEqual(there["stock"], 1000, delta=8)

    def test_never_proposed_to_be_kept(self) -> None:
        strong = self.mix(what="nital", stock="percent", value=70, stock_ml=100, solvent_ml=900)
        self.assertIn("do not mix", strong.json()["keeping"])
        self.assertEqual(strong.json()["capacity"], 0.0)
        self.assertEqual(self.mix(what="nital", stock="percent", value=70, strength=11, litres=1).status_code, 422)
        self.assertEqual(self.mix(what="ferric").status_code, 422)


class BathTests(ApiCase):
    def setUp(self) -> None:
        super().setUp()
        asked = {"name": "The long tube", "bath": {"litres": 2.0, "strength": 10}, "mixed": "2031-05-01"}
        self.bath = self.send("post", "/api/finish/baths", asked).json()
        self.path = f"/api/finish/baths/{self.bath['id']}"

    def etch(self, **more: Any) -> Any:
        return self.send("post", f"{self.path}/etched", {"uid": str(uuid4()), "document": DOCUMENT, "minutes": [1, 5, 5]} | more)

    def test_wear_is_counted_once(self) -> None:
        self.assertEqual(self.bath["used"], 0)
        uid = str(uuid4())
        once, twice = self.etch(uid=uid).json(), self.etch(uid=uid).json()
        self.assertGreater(once["used"], 0)
        self.assertEqual(once["used"], twice["used"])
        again = self.etch().json()
        self.assertAlmostEqual(again["bath"]["iron"], 2 * once["bath"]["iron"], delta=0.02 * once["bath"]["iron"])
        self.assertLess(again["bath"]["iron"], 2 * once["bath"]["iron"], "a worn bath takes up less")
        self.assertAlmostEqual(sum(again["dissolved"].values()), again["bath"]["iron"], 6)
        detail = self.send("get", self.path).json()
        self.assertEqual(len(detail["history"]), 2)

    def test_a_sheet_in_a_worn_bath_takes_longer(self) -> None:
        plain = self.send("post", "/api/finish/sheet", {"document": DOCUMENT, "bath": self.bath["id"]}).json()
        for _ in range(14):
            self.etch(minutes=[60] * 4)
        worn = self.send("post", "/api/finish/sheet", {"document": DOCUMENT, "bath": self.bath["id"]}).json()
        self.assertGreater(worn["minutes"], plain["minutes"])
        self.assertIn("bath_worn", [f["code"] for f in worn["findings"]])
        self.assertTrue(self.send("get", self.path).json()["renew"])

    def test_what_is_gone_is_not_etched_in(self) -> None:
        self.assertEqual(self.send("patch", self.path, {"gone": "2031-06-01"}).json()["gone"], "2031-06-01")
        self.assertEqual(self.etch().status_code, 422)
        self.assertIsNone(self.send("patch", self.path, {"gone": None}).json()["gone"])
        self.assertEqual(self.etch().status_code, 200)
        self.assertEqual(self.send("patch", self.path, {"temperature": 90}).status_code, 422)
        self.assertEqual(self.send("get", self.path).json()["bath"]["temperature"], 20)

    def test_a_use_never_changes(self) -> None:
        self.etch()
        with self.assertRaises(DatabaseError), transaction.atomic(), connection.cursor() as cursor:
            cursor.execute("UPDATE finishing_bathuse SET grams = 0")
        self.assertGreater(BathUse.objects.get().grams, 0)


class FaultTests(ApiCase):
    def build(self) -> int:
        design = self.new()
        asked = {"uid": str(uuid4()), "design": design, "document": DOCUMENT, "title": "Reed knife"}
        return self.send("post", "/api/builds", asked).json()["id"]  # type: ignore[no-any-return]

    def ask(self, **said: Any) -> Any:
        return self.send("post", "/api/finish/faults", said).json()["found"]

    def test_the_log_speaks(self) -> None:
        build = self.build()
        told = self.send("get", f"/api/builds/{build}/told").json()
        op = next(o for o in told["operations"] if o["kind"] == "fire")
        before = self.ask(seen="short_bar", build=build)
        planned = next(t["value"] for t in op["targets"] if t["quantity"] == "heats")
        entry = {
            "id": str(uuid4()),
            "op": op["id"],
            "at": "2026-05-14T10:00:00Z",
            "kind": "measured",
            "quantity": "heats",
            "value": 3 * planned,
        }
        kept = self.send("post", f"/api/builds/{build}/entries", {"entries": [entry]}).json()
        self.assertEqual(kept["refused"], [])
        after = self.ask(seen="short_bar", build=build)

        def odds(found: Any) -> float:
            return next(float(s["odds"]) for s in found["suspects"] if s["cause"] == "more_scale")

        self.assertGreater(odds(after), odds(before))
        self.assertTrue(any("heats planned" in r["says"] for s in after["suspects"] for r in s["reasons"]))

    def test_grade_and_card(self) -> None:
        build = self.build()
        path = f"/api/builds/{build}"
        said = self.send("get", f"{path}/card").json()
        self.assertIsNone(said["grade"])
        self.assertEqual(len(said["open"]), len(said["points"]))

        def entry(**more: Any) -> dict[str, Any]:
            return {"id": str(uuid4()), "op": "blade:look", "at": "2026-05-14T10:00:00Z"} | more

        checks = [entry(kind="checked", check=p["check"], good=p["key"] != "pits") for p in said["points"]]
        read = entry(op="blade:harden-temper", kind="measured", quantity="hardness", value=59.5, place=40)
        self.send("post", f"{path}/entries", {"entries": [*checks, read]})
        said = self.send("get", f"{path}/card").json()
        self.assertEqual((said["grade"], said["failed"]), ("second", ["pits"]))
        self.assertEqual(said["card"]["hardness"], [59.5])
        self.assertEqual(said["card"]["flaws"], ["a pit in the face"])
        self.assertAlmostEqual(sum(s["share"] for s in said["card"]["steels"]), 1.0)
        own = entry(op="", kind="graded", grade="first", why="the pit is under the guard", at="2026-05-14T11:00:00Z")
        self.send("post", f"{path}/entries", {"entries": [own]})
        said = self.send("get", f"{path}/card").json()
        self.assertEqual((said["grade"], said["own"], said["why"]), ("first", True, "the pit is under the guard"))
        paper = self.client.get(f"{path}/card.pdf")
        self.assertEqual(paper["Content-Type"], "application/pdf")
        self.assertTrue(paper.content.startswith(b"%PDF"))
