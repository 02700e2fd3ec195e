"""Kiln runs through the API: by the clock at any speed, kept between looks, refused when they would melt the blade."""

from datetime import timedelta
from typing import Any
from unittest.mock import patch

from django.test import Client
from django.utils import timezone

from tests.api.test_api import DOCUMENT, HTTP, PROGRAM, ApiCase
from tests.people import member
from varistrat.kiln.models import KilnRun


class KilnTests(ApiCase):
    def setUp(self) -> None:
        super().setUp()
        self.design = self.new()

    def start(self, program: dict[str, Any] = PROGRAM, speed: float = 600.0) -> Any:
        return self.send("post", "/api/kiln/runs", {"design": self.design, "program": program, "document": DOCUMENT, "speed": speed})

    def later(self, run: int, seconds: float, after: int = 0) -> dict[str, Any]:
        at = KilnRun.objects.get(pk=run).looked + timedelta(seconds=seconds)
        with patch.object(timezone, "now", return_value=at):
            return self.client.get(f"/api/kiln/runs/{run}?after={after}").json()

    def test_a_run_by_the_clock_to_its_end(self) -> None:
        run = self.start().json()["id"]
        first = self.later(run, 2.0)
        self.assertAlmostEqual(first["reading"][0], 1200, delta=30)
        self.assertEqual(first["state"], "running")
        more = self.later(run, 2.0, first["rows"])
        self.assertEqual(len(more["record"]), more["rows"] - first["rows"])
        end = self.later(run, 100.0)
        self.assertEqual(end["state"], "done")
        self.assertEqual(self.later(run, 1000.0)["rows"], end["rows"])
        text = self.client.get(f"/api/kiln/runs/{run}/record.csv").content.decode().splitlines()
        self.assertEqual(len(text), end["rows"] + 1)
        self.assertTrue(text[0].startswith("minutes,set_point_C"))
        self.assertEqual(self.client.get(f"/api/kiln/runs?design={self.design}").json()[0]["state"], "done")

    def test_true_time_loses_nothing_between_looks(self) -> None:
        run = self.start(speed=1.0).json()["id"]
        began = KilnRun.objects.get(pk=run).looked
        for look in range(1, 8):
            with patch.object(timezone, "now", return_value=began + timedelta(seconds=1.3 * look)):
                self.client.get(f"/api/kiln/runs/{run}")
        self.assertEqual(KilnRun.objects.get(pk=run).controller["seconds"], 8.0)

    def test_what_would_melt_is_refused_before_it_starts(self) -> None:
        hot = {"name": "Too hot", "segments": [{"celsius": 1390, "minutes": 5}]}
        answer = self.start(hot)
        self.assertEqual(answer.status_code, 422)
        self.assertEqual(answer.json()["problems"][0]["path"], "segments[0].celsius")
        self.assertFalse(KilnRun.objects.exists())
        check = self.send("post", "/api/kiln/check", {"program": hot, "steels": ["1084"]}).json()
        self.assertIn("melts", [f["code"] for f in check["findings"]])

    def test_one_kiln_one_run(self) -> None:
        run = self.start(speed=1.0).json()["id"]
        self.assertIn("at work", self.start(speed=1.0).json()["problems"][0]["wrong"])
        self.send("post", f"/api/kiln/runs/{run}/do/stop")
        self.assertEqual(self.start(speed=1.0).status_code, 200)

    def test_hands_on(self) -> None:
        run = self.start(speed=1.0).json()["id"]
        for action, state in (
            ("hold", "held"),
            ("resume", "running"),
            ("fail", "running"),
            ("mend", "running"),
            ("open", "running"),
            ("shut", "running"),
            ("skip", "running"),
            ("stop", "stopped"),
        ):
            self.assertEqual(self.send("post", f"/api/kiln/runs/{run}/do/{action}").json()["state"], state, action)
        self.assertEqual(self.send("post", f"/api/kiln/runs/{run}/do/sing").status_code, 422)
        other = self.start(speed=1.0).json()["id"]
        self.assertEqual(self.send("post", f"/api/kiln/runs/{other}/speed", {"speed": 60}).json()["speed"], 60)
        self.assertEqual(self.send("post", f"/api/kiln/runs/{other}/speed", {"speed": 7}).status_code, 422)

    def test_programs_are_kept_changed_and_removed(self) -> None:
        kept = self.send("post", "/api/kiln/programs", PROGRAM).json()
        changed = {**PROGRAM, "name": "Second temper"}
        self.assertEqual(self.send("put", f"/api/kiln/programs/{kept['id']}", changed).json()["program"]["name"], "Second temper")
        self.assertEqual(self.send("delete", f"/api/kiln/programs/{kept['id']}").json(), [])
        self.assertEqual(self.send("delete", f"/api/kiln/programs/{kept['id']}").status_code, 404)
        for bad in (
            {"name": "", "segments": []},
            {"name": "x", "segments": [{"celsius": "hot"}]},
            {"name": "x", "segments": [{"celsius": 200}] * 41},
        ):
            self.assertEqual(self.send("post", "/api/kiln/programs", bad).status_code, 422)

    def test_another_shops_kiln_is_not_there(self) -> None:
        run = self.start().json()["id"]
        kept = self.send("post", "/api/kiln/programs", PROGRAM).json()["id"]
        other = Client(**HTTP)
        other.force_login(member("other").user)
        for method, path, body in (
            ("get", f"/api/kiln/runs/{run}", None),
            ("post", f"/api/kiln/runs/{run}/do/stop", None),
            ("get", f"/api/kiln/runs/{run}/record.csv", None),
            ("post", f"/api/kiln/runs/{run}/speed", {"speed": 1}),
            ("put", f"/api/kiln/programs/{kept}", PROGRAM),
            ("delete", f"/api/kiln/programs/{kept}", None),
            ("get", f"/api/kiln/runs?design={self.design}", None),
        ):
            self.assertEqual(self.send(method, path, body, client=other).status_code, 404, path)
            self.assertEqual(self.send(method, path, body, client=Client(**HTTP)).status_code, 401, path)

    def test_the_tester_reads_near_what_is_predicted(self) -> None:
        plan = self.send("post", "/api/heat/hardening", {"document": DOCUMENT}).json()
        read = self.send("post", "/api/kiln/tester", {"document": DOCUMENT, "stage": "quenched"}).json()
        self.assertAlmostEqual(sum(read["hrc"]) / 3, plan["expected"][0], delta=3)
        self.assertEqual(read["file"], "skates")
        soft = self.send("post", "/api/kiln/tester", {"document": DOCUMENT, "stage": "tempered", "celsius": 340}).json()
        self.assertEqual(soft["file"], "bites")
        # tempers add up: a cool one after a hot one reads as the hot one left it
        twice = DOCUMENT | {"hardening": {"tempered": [{"celsius": 340.0, "hours": 2.0}, {"celsius": 160.0, "hours": 1.0}]}}
        both = self.send("post", "/api/kiln/tester", {"document": twice, "stage": "tempered", "celsius": 160, "hours": 1}).json()
        self.assertAlmostEqual(sum(both["hrc"]) / 3, sum(soft["hrc"]) / 3, delta=1.5)
        bare = {
            "recipe": {
                "format": "varistrat.recipe/1",
                "bar": {"start": {"kind": "solid", "steel": "iron", "length": 90.0, "width": 9.0, "thickness": 9.0}},
            }
        }
        self.assertEqual(self.send("post", "/api/kiln/tester", {"document": bare, "stage": "quenched"}).status_code, 422)
