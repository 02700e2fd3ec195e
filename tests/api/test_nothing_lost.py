"""Nothing is lost: steels retired, designs whole in a file and back, thirty days in the bin, rounds of test etches, every save within
reach."""

from datetime import timedelta
from typing import Any
from unittest.mock import patch

from django.test import Client
from django.utils import timezone

from tests.api.test_api import DOCUMENT, HTTP, LAMINATE, ApiCase
from tests.people import member
from varistrat.core.design.document import read_document
from varistrat.core.design.file import read_design, write_design
from varistrat.core.design.upgrades import upgraded
from varistrat.core.errors import InputError
from varistrat.designs import selectors
from varistrat.designs.models import Design, Revision
from varistrat.designs.services import keep
from varistrat.shop.models import ShopSteel
from varistrat.shop.services.people import member_of
from varistrat.shop.services.retiring import names_steel

OWN = {"key": "gate-hinge", "figures": {"name": "Gate hinge", "composition": {"C": 0.5, "Mn": 0.6}}}


def with_steel(key: str) -> dict[str, Any]:
    return {
        "recipe": {
            "format": "varistrat.recipe/1",
            "bar": {"start": {"kind": "solid", "steel": key, "length": 100.0, "width": 20.0, "thickness": 6.0}},
        }
    }


class RetiredTests(ApiCase):
    def setUp(self) -> None:
        super().setUp()
        self.send("post", "/api/steels", OWN)

    def steel(self, key: str = "gate-hinge") -> dict[str, Any] | None:
        return next((s for s in self.client.get("/api/steels").json() if s["key"] == key), None)

    def test_one_that_an_old_save_names_is_retired(self) -> None:
        made = self.send("post", "/api/designs", {"document": with_steel("gate-hinge"), "name": "hinge"}).json()["id"]
        self.send("put", f"/api/designs/{made}", {"document": with_steel("1084"), "base": 1})
        self.assertEqual(self.send("delete", "/api/steels/gate-hinge").status_code, 200)
        steel = self.steel()
        assert steel
        self.assertTrue(steel["retired"])
        self.assertFalse(steel["in_use"])
        old = self.client.get(f"/api/designs/{made}/revisions/1")
        self.assertEqual((old.status_code, old.json()["problems"]), (200, []))
        back = self.send("post", f"/api/designs/{made}/revisions/1/bring-back")
        self.assertEqual(back.status_code, 200)
        self.assertEqual(self.client.get(f"/api/designs/{made}").status_code, 200)
        self.assertEqual(self.client.get(f"/api/designs/{made}/picture.png?px=80").status_code, 200)
        self.assertNotIn("gate-hinge", str(self.send("post", "/api/pairings/suggest", {"use": "decoration"}).json()))
        again = self.send("post", "/api/steels", OWN)
        self.assertEqual(again.status_code, 422)
        self.assertIn("retired", again.json()["problems"][0]["wrong"])
        self.assertEqual(self.send("post", "/api/steels/gate-hinge/bring-back").status_code, 200)
        steel = self.steel()
        assert steel
        self.assertFalse(steel["retired"])
        self.assertEqual(self.send("post", "/api/steels/gate-hinge/bring-back").status_code, 422)

    def test_one_that_a_removed_design_names_is_retired_too(self) -> None:
        made = self.send("post", "/api/designs", {"document": with_steel("gate-hinge"), "name": "hinge"}).json()["id"]
        self.send("delete", f"/api/designs/{made}")
        self.send("delete", "/api/steels/gate-hinge")
        self.assertTrue(ShopSteel.objects.get(key="gate-hinge").retired)

    def test_one_that_nothing_names_is_gone(self) -> None:
        self.send("delete", "/api/steels/gate-hinge")
        self.assertIsNone(self.steel())

    def test_one_called_like_a_step_can_be_deleted(self) -> None:
        self.new()  # has a step of kind twist in it
        self.send("post", "/api/steels", {"key": "twist", "figures": {"name": "Twist", "composition": {"C": 0.6}}})
        self.assertFalse(names_steel(DOCUMENT, "twist"))
        self.assertTrue(names_steel(with_steel("twist"), "twist"))
        self.send("delete", "/api/steels/twist")
        self.assertFalse(ShopSteel.objects.filter(key="twist").exists())

    def test_what_can_no_longer_be_read_is_shown_with_its_problems(self) -> None:
        made = self.new()
        broken = {
            **DOCUMENT,
            "recipe": {
                **DOCUMENT["recipe"],
                "bar": {"start": {"kind": "solid", "steel": "unobtainium", "length": 9, "width": 9, "thickness": 9}},
            },
        }
        Revision.objects.filter(design_id=made).update(document=broken)
        for path in (f"/api/designs/{made}", f"/api/designs/{made}/revisions/1"):
            answer = self.client.get(path)
            self.assertEqual(answer.status_code, 200)
            self.assertEqual(answer.json()["document"], upgraded(broken))
            self.assertIn("steel", answer.json()["problems"][0]["path"])
        self.assertEqual(self.client.get(f"/api/designs/{made}/picture.png").status_code, 422)
        copied = self.send("post", f"/api/designs/{made}/copy")
        self.assertEqual(copied.status_code, 201)
        self.assertEqual(self.client.get(f"/api/designs/{copied.json()['id']}").json()["document"], upgraded(broken))


class FileTests(ApiCase):
    whole = {
        **LAMINATE,
        "off": [[0]],
        "aim": {"school": "bold"},
        "readings": {"heights": [{"x": 40.0, "side": "right", "height": 6.0}]},
        "fire": {"gas": "rich"},
        "hardening": {"wanted": 61.0},
        "handle": {"material": "boxwood"},
    }

    def make(self) -> int:
        try:
            document = read_document(self.whole).as_json()
        except InputError:
            document = read_document({k: v for k, v in self.whole.items() if k != "aim"}).as_json()
        return self.send("post", "/api/designs", {"document": document, "name": "First name"}).json()["id"]

    def test_a_whole_design_out_and_in(self) -> None:
        made = self.make()
        self.send("patch", f"/api/designs/{made}", {"about": "For the reed cutter"})
        kept = self.client.get(f"/api/designs/{made}").json()
        self.send("put", f"/api/designs/{made}", {"document": kept["document"], "base": kept["current"], "name": "Second name"})
        file = self.client.get(f"/api/designs/{made}/design.json").json()
        self.assertEqual(
            (file["format"], file["name"], file["about"], file["recipe"]["name"]),
            ("varistrat.design/1", "Second name", "For the reed cutter", "Second name"),
        )
        there = self.send("post", "/api/designs/import", file)
        self.assertEqual(there.status_code, 201, there.content)
        copy = self.client.get(f"/api/designs/{there.json()['id']}").json()
        self.assertEqual((copy["name"], copy["about"]), ("Second name", "For the reed cutter"))
        for part in ("blade", "off", "readings", "fire", "hardening", "handle"):
            self.assertEqual(copy["document"].get(part), kept["document"].get(part), part)

    def test_the_recipe_file_bears_the_name_of_now(self) -> None:
        made = self.make()
        kept = self.client.get(f"/api/designs/{made}").json()
        self.send("put", f"/api/designs/{made}", {"document": kept["document"], "base": kept["current"], "name": "Renamed"})
        self.assertEqual(self.client.get(f"/api/designs/{made}/recipe.json").json()["name"], "Renamed")
        blade = self.client.get(f"/api/designs/{made}/blade.json").json()
        self.assertEqual((blade["name"], blade["recipe"]["name"]), ("Renamed", "Renamed"))

    def test_a_saved_blade_file_opens_with_its_blade(self) -> None:
        made = self.new()
        blade = self.client.get(f"/api/designs/{made}/blade.json").json()
        there = self.send("post", "/api/designs/import", blade)
        self.assertEqual(there.status_code, 201, there.content)
        copy = self.client.get(f"/api/designs/{there.json()['id']}").json()
        mine = self.client.get(f"/api/designs/{made}").json()
        self.assertEqual(copy["document"]["blade"]["outline"], mine["document"]["blade"]["outline"])
        self.assertEqual(copy["document"]["recipe"]["bar"], mine["document"]["recipe"]["bar"])

    def test_what_is_no_file_of_ours(self) -> None:
        recipe = DOCUMENT["recipe"]
        cases: list[tuple[Any, str]] = [
            ([], ""),
            ({}, "format"),
            ({"format": "other/3"}, "format"),
            ({"format": "varistrat.design/1", "name": 3, "recipe": recipe}, "name"),
            ({"format": "varistrat.design/1", "name": "x" * 201, "recipe": recipe}, "name"),
            ({"format": "varistrat.design/1"}, "recipe"),
            ({"format": "varistrat.design/1", "recipe": recipe, "colour": 1}, "colour"),
            ({**DOCUMENT["blade"]}, "recipe"),
        ]
        for data, path in cases:
            answer = self.send("post", "/api/designs/import", data)
            self.assertEqual(answer.status_code, 422, data)
            self.assertEqual(answer.json()["problems"][0]["path"], path, answer.content)

    def test_written_and_read_alone(self) -> None:
        document = read_document(DOCUMENT)
        back = read_design(write_design("n", "", document))
        self.assertEqual((back.name, back.about, back.document, back.with_blade), ("n", "", document, True))
        self.assertFalse(read_design(DOCUMENT["recipe"]).with_blade)


class BinTests(ApiCase):
    def test_thirty_days(self) -> None:
        made = self.new()
        self.send("delete", f"/api/designs/{made}")
        self.assertEqual([(d["id"], d["days"]) for d in self.client.get("/api/designs/bin").json()], [(made, 30)])
        self.assertEqual(self.client.get(f"/api/designs/{made}/picture.png?px=64").status_code, 200)
        now = timezone.now()
        with patch.object(timezone, "now", return_value=now + timedelta(days=29, hours=1)):
            self.assertEqual(keep.empty_bin(), 0)
            self.assertEqual([keep.days_left(d) for d, _ in selectors.thrown_away(member_of(self.smith).shop)], [1])
        with patch.object(timezone, "now", return_value=now + timedelta(days=30, hours=1)):
            self.assertEqual(keep.empty_bin(), 1)
        self.assertFalse(Design.objects.filter(pk=made).exists())

    def test_back_or_gone(self) -> None:
        one, two, kept = self.new(), self.new(), self.new()
        for d in (one, two):
            self.send("delete", f"/api/designs/{d}")
        self.assertEqual(self.send("post", f"/api/designs/{one}/restore").status_code, 200)
        self.assertEqual(self.send("delete", f"/api/designs/bin/{two}").status_code, 204)
        self.assertEqual(self.send("delete", f"/api/designs/bin/{kept}").status_code, 404)
        self.assertEqual({d["id"] for d in self.client.get("/api/designs").json()}, {one, kept})
        other = Client(**HTTP)
        other.force_login(member("other").user)
        self.send("delete", f"/api/designs/{kept}")
        self.assertEqual(other.get("/api/designs/bin").json(), [])
        self.assertEqual(other.delete(f"/api/designs/bin/{kept}").status_code, 404)


class HistoryTests(ApiCase):
    def test_every_save_is_within_reach(self) -> None:
        made = Design.objects.get(pk=self.new())
        first = made.revisions.get(number=1)
        Revision.objects.bulk_create(
            Revision(design=made, number=n, base=n - 1, document=first.document, digest=str(n))
            for n in range(2, 2 * selectors.HISTORY + 31)
        )
        seen: list[int] = []
        before = ""
        while True:
            page = self.client.get(f"/api/designs/{made.pk}/revisions{before}").json()
            if not page:
                break
            seen += [r["number"] for r in page]
            before = f"?before={seen[-1]}"
        self.assertEqual(seen, list(range(2 * selectors.HISTORY + 30, 0, -1)))


class RoundTests(ApiCase):
    def test_readings_belong_to_the_surface_they_were_read_on(self) -> None:
        """Taken over, the heights become a round; nothing is advised until the new faces are read; so nothing compounds."""
        document = {
            **LAMINATE,
            "readings": {
                "heights": [
                    {"x": x, "side": s, "height": 5.0 if s == "right" else 8.0} for x in (30.0, 60.0, 90.0) for s in ("right", "left")
                ]
            },
        }
        first = self.send("post", "/api/blade/inference", {"document": document}).json()
        rounds = [{"heights": document["readings"]["heights"], "ground": first["corrected"].get("correction", {})}]
        taken = {**document, "blade": first["corrected"], "readings": {"heights": [], "rounds": rounds, "stations": [30.0, 60.0, 90.0]}}
        kept = read_document(taken)
        self.assertEqual(len(kept.readings.rounds), 1)
        self.assertEqual(kept.as_json()["readings"]["stations"], [30.0, 60.0, 90.0])
        again = self.send("post", "/api/blade/inference", {"document": taken})
        self.assertEqual(again.status_code, 422)
        self.assertIn("nothing has been read", again.json()["problems"][0]["wrong"])
