"""Two change the same thing at once: the second is told, nothing is written over unseen."""

from typing import Any
from uuid import uuid4

from tests.api.test_api import DOCUMENT, PROGRAM, ApiCase
from tests.described import described
from varistrat.builds.models import BuildPlan

ONE_VALUE = {
    "patch /api/preferences": "each is of one person",
    "put /api/figures/{key}": "one number",
    "put /api/hands/{method}": "one number and how far it reaches",
    "put /api/steels/{key}": "only the figures that are sent",
    "patch /api/shop": "one name",
    "put /api/shop/people/{person_id}": "one role",
}
"""Where the last word counts: what is changed is seen whole by who changes it."""


class OvertakenTests(ApiCase):
    def put_twice(self, method: str, path: str, base: Any, one: dict[str, Any], other: dict[str, Any]) -> Any:
        """Both looked at it with this base: the second finds it changed. Gives the answer to the second."""
        first = self.send(method, path, one | {"base": base})
        self.assertLess(first.status_code, 300, first.content)
        second = self.send(method, path, other | {"base": base})
        self.assertEqual((second.status_code, second.json()["code"]), (409, "overtaken"), second.content)
        return second

    def test_an_order(self) -> None:
        said = {"who": "Coppice", "title": "Spoke knife", "price": 200.0, "must": "a loop"}
        order = self.send("post", "/api/builds/orders", said).json()
        path = f"/api/builds/orders/{order['id']}"
        late = self.put_twice("put", path, order["mark"], said | {"price": 5.0}, said | {"title": "A knife"})
        (now,) = self.send("get", "/api/builds/orders").json()
        self.assertEqual((now["price"], now["title"]), (5.0, "Spoke knife"))
        # with what it is now before one's eyes it is one's own to say
        self.assertEqual(late.json()["mark"], now["mark"])
        again = self.send("put", path, said | {"title": "A knife", "price": 5.0, "base": now["mark"]})
        self.assertEqual((again.status_code, again.json()["title"]), (200, "A knife"))
        # the same content has the same mark: what was changed and changed back has overtaken nobody
        self.assertEqual(self.send("put", path, said | {"base": again.json()["mark"]}).json()["mark"], order["mark"])

    def test_a_build_and_its_plan(self) -> None:
        build = self.send("post", "/api/builds", {"uid": str(uuid4()), "document": DOCUMENT, "title": "First"}).json()
        path = f"/api/builds/{build['id']}"
        self.put_twice("patch", path, build["mark"], {"who": "Coppice", "due": "2031-05-01"}, {"due": None, "state": "resting"})
        now = self.send("get", path).json()
        self.assertEqual((now["who"], now["due"], now["state"]), ("Coppice", "2031-05-01", "planned"))

        def amended() -> dict[str, Any]:
            return {"id": str(uuid4()), "at": "2026-05-17T08:00:00Z", "document": DOCUMENT, "why": "shorter"}

        self.put_twice("post", f"{path}/amend", build["plan"], amended(), amended())
        self.assertEqual(BuildPlan.objects.count(), 2)
        # the same change sent again by one who heard nothing is not overtaken by itself
        twice = amended()
        for _ in range(2):
            self.assertEqual(self.send("post", f"{path}/amend", twice | {"base": 2}).status_code, 200)
        self.assertEqual(BuildPlan.objects.count(), 3)

    def test_an_item_of_the_rack(self) -> None:
        items = [{"steel": "1084", "width": 40.0, "thickness": 6.0, "length": 1000.0, "count": 2}]
        (item,) = self.send("post", "/api/rack/items", {"items": items}).json()["items"]
        self.put_twice("patch", f"/api/rack/items/{item['id']}", item["mark"], {"place": "by the door"}, {"place": "under the bench"})
        (now,) = self.send("get", "/api/rack").json()["items"]
        self.assertEqual(now["place"], "by the door")

    def test_a_bath(self) -> None:
        bath = self.send("post", "/api/finish/baths", {"name": "The tube", "bath": {"litres": 4}, "mixed": "2031-05-01"}).json()
        path = f"/api/finish/baths/{bath['id']}"
        self.put_twice("patch", path, bath["mark"], {"note": "weak"}, {"gone": "2031-06-01"})
        self.assertEqual((self.send("get", path).json()["note"], self.send("get", path).json()["gone"]), ("weak", None))

    def test_a_kiln_program(self) -> None:
        kept = self.send("post", "/api/kiln/programs", PROGRAM).json()
        hotter = PROGRAM | {"segments": [{"celsius": 230, "minutes": 60}]}
        self.put_twice("put", f"/api/kiln/programs/{kept['id']}", kept["mark"], hotter, PROGRAM)
        (now,) = self.send("get", "/api/kiln/programs").json()
        self.assertEqual(now["program"]["segments"][0]["celsius"], 230)

    def test_what_a_design_is(self) -> None:
        path = f"/api/designs/{self.new()}"
        mark = self.send("get", path).json()["mark"]
        self.put_twice("patch", path, mark, {"about": "for the fair"}, {"about": "mine"})
        self.assertEqual(self.send("get", path).json()["about"], "for the fair")

    def test_the_steels_in_use(self) -> None:
        base = [s["key"] for s in self.send("get", "/api/steels").json() if s["in_use"]]
        self.put_twice("put", "/api/steels-in-use", base, {"keys": [*base, "w1"]}, {"keys": base[1:]})
        now = {s["key"] for s in self.send("get", "/api/steels").json() if s["in_use"]}
        self.assertEqual(now, {*base, "w1"})

    def test_who_asks_nothing_changes_it_as_it_stands(self) -> None:
        said = {"who": "Coppice", "title": "Spoke knife"}
        order = self.send("post", "/api/builds/orders", said).json()
        for title in ("A", "B"):
            self.assertEqual(self.send("put", f"/api/builds/orders/{order['id']}", said | {"title": title}).status_code, 200)

    def test_every_change_can_be_held_against_what_was_seen(self) -> None:
        told = described()
        for path, methods in told["paths"].items():
            for method in {"put", "patch"} & set(methods):
                schema = methods[method]["requestBody"]["content"]["application/json"]["schema"]
                fields = told["components"]["schemas"][schema["$ref"].rpartition("/")[2]]["properties"]
                self.assertNotEqual("base" in fields, f"{method} {path}" in ONE_VALUE, f"{method} {path}")
