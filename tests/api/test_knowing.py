"""A design that fails is begun only by who says that they know; what a button changes says what it makes worse."""

from typing import Any
from uuid import uuid4

from tests.api.test_api import DOCUMENT, ApiCase
from varistrat.builds.models import Build


def twisted(turns: float) -> dict[str, Any]:
    steps = [s | {"turns": turns} if s["kind"] == "twist" else s for s in DOCUMENT["recipe"]["bar"]["steps"]]
    recipe = DOCUMENT["recipe"] | {"bar": DOCUMENT["recipe"]["bar"] | {"steps": steps}}
    return DOCUMENT | {"recipe": recipe}


class KnowingTests(ApiCase):
    def begin(self, document: dict[str, Any], **more: Any) -> Any:
        return self.send("post", "/api/builds", {"uid": str(uuid4()), "document": document, "title": "First"} | more)

    def test_what_fails_is_named_and_begun_only_by_who_names_it(self) -> None:
        for knowing in ([], ["melts"]):
            refused = self.begin(twisted(40), knowing=knowing)
            self.assertEqual((refused.status_code, refused.json()["problems"][0]["path"]), (422, "knowing"))
            self.assertIn("4. Twist right, 40: The skin will tear. (twist_tears)", refused.json()["problems"][0]["wrong"])
        self.assertEqual(Build.objects.count(), 0)
        self.assertEqual(self.begin(twisted(40), knowing=["twist_tears", "melts"]).status_code, 201)
        # what only needs care is begun without a word
        self.assertEqual(self.begin(twisted(20)).status_code, 201)

    def test_what_is_kept_is_of_what_is_taken(self) -> None:
        items = [{"steel": "1084", "width": 40.0, "thickness": 6.0, "length": 1000.0, "count": 2}] * 2
        one, other = (i["id"] for i in self.send("post", "/api/rack/items", {"items": items}).json()["items"])
        for takes in ({}, {one: 1}):
            refused = self.begin(twisted(5), takes=takes, keep=[{"item": other, "length": 300.0}])
            self.assertEqual((refused.status_code, refused.json()["problems"][0]["path"]), (422, "keep"), takes)
        self.assertEqual(Build.objects.count(), 0)

    def test_it_is_asked_before(self) -> None:
        (found,) = self.send("post", "/api/builds/against", {"document": twisted(40)}).json()
        self.assertEqual((found["where"], found["finding"]["grade"]), ("4. Twist right, 40", "stop"))

    def test_piles_made_as_they_must_be_say_what_that_makes_worse(self) -> None:
        (worse,) = self.send("post", "/api/stock/made-so", {"document": twisted(16)}).json()["worse"]
        self.assertEqual((worse["finding"]["code"], worse["finding"]["grade"]), ("twist_tears", "stop"))
        self.assertEqual(self.send("post", "/api/stock/made-so", {"document": twisted(4)}).json()["worse"], [])
