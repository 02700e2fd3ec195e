"""Jobs through the API: ordered, watched, stopped, fetched."""

from io import BytesIO
from typing import Any
from unittest import mock

from django.test import Client
from PIL import Image

from tests.api.test_api import HTTP, ApiCase
from tests.api.test_patterning import JOINED
from tests.people import member, signed_in
from varistrat.jobs.kinds import what_if
from varistrat.jobs.models import Job
from varistrat.jobs.services import runner

AXES = (
    {"path": "recipe.bar.steps[1].thickness", "low": 5.0, "high": 7.0, "count": 3},
    {"path": "recipe.bar.start.bars[*].steps[3].turns", "low": 10.0, "high": 16.0, "count": 2},
)


class JobCase(ApiCase):
    def order(self, **asked: Any) -> Any:
        return self.send("post", "/api/jobs", asked)

    def look(self, job: int) -> dict[str, Any]:
        found: dict[str, Any] = self.send("get", f"/api/jobs/{job}").json()
        return found


class PrintTests(JobCase):
    def printed(self, **more: Any) -> dict[str, Any]:
        answer = self.order(**({"kind": "print_face", "design": self.new(), "side": "left", "width_px": 500} | more))
        self.assertEqual(answer.status_code, 201, answer.content)
        made: dict[str, Any] = answer.json()
        return made

    def test_made_watched_and_fetched(self) -> None:
        made = self.printed()
        self.assertEqual((made["state"], made["wanted"], made["by"], made["files"]), ("waiting", 1, "smith", []))
        self.assertEqual(made["about"], {"kind": "print_face", "side": "left", "width_px": 500})
        self.assertEqual(self.send("get", f"/api/jobs/{made['id']}/files/0").status_code, 404)
        runner.run_next("long")
        done = self.look(made["id"])
        self.assertEqual((done["state"], done["progress"]), ("done", 1.0))
        answer = self.send("get", f"/api/jobs/{made['id']}/files/0")
        self.assertEqual(Image.open(BytesIO(answer.content)).width, 500)
        self.assertEqual(answer["Content-Disposition"], f'attachment; filename="face-left-{made["id"]}.png"')

    def test_it_is_of_the_save_that_was_current(self) -> None:
        made = self.printed()
        design = made["design"]
        seen = self.send("get", f"/api/designs/{design}").json()["document"]
        without = {k: v for k, v in seen.items() if k != "blade"}
        self.assertEqual(self.send("put", f"/api/designs/{design}", {"document": without, "base": 1}).status_code, 200)
        runner.run_next("long")
        self.assertEqual(self.look(made["id"])["state"], "done")
        again = self.printed(design=design)
        runner.run_next("long")
        found = self.look(again["id"])
        self.assertEqual((found["state"], found["files"]), ("failed", []))
        self.assertIn("no blade", found["problem"])

    def test_stopped_before_and_during(self) -> None:
        made = self.printed()["id"]
        self.assertEqual(self.send("post", f"/api/jobs/{made}/stop").json()["state"], "stopped")
        self.assertIsNone(runner.run_next("long"))
        again = self.printed()["id"]
        real = runner.KINDS["print_face"].work

        def asked(*given: Any) -> Any:
            self.assertTrue(self.send("post", f"/api/jobs/{again}/stop").json()["stop_asked"])
            return real(*given)

        # whatever it has made is written when it is over, and it is stopped before
        every = mock.patch.multiple(runner, TELL_EVERY=0.0, KEEP_EVERY=float("inf"))
        with mock.patch.object(type(runner.KINDS["print_face"]), "work", side_effect=asked), every:
            runner.run_next("long")
        found = self.look(again)
        self.assertEqual((found["state"], found["files"]), ("stopped", []))
        # what is over stays as it is
        self.assertEqual(self.send("post", f"/api/jobs/{again}/stop").json()["state"], "stopped")

    def test_listed_by_kind_and_design(self) -> None:
        one, two = self.printed(), self.printed()
        both = self.send("get", "/api/jobs?kind=print_face").json()
        self.assertEqual([j["id"] for j in both], [two["id"], one["id"]])
        self.assertEqual([j["id"] for j in self.send("get", f"/api/jobs?design={one['design']}").json()], [one["id"]])
        self.assertEqual(self.send("get", "/api/jobs?kind=what_if").json(), [])

    def test_others_see_no_job(self) -> None:
        made = self.printed()
        other = signed_in(member("other"), **HTTP)
        for method, tail in (("get", ""), ("get", "/files/0"), ("post", "/stop")):
            self.assertEqual(self.send(method, f"/api/jobs/{made['id']}{tail}", client=other).status_code, 404)
            self.assertEqual(self.send(method, f"/api/jobs/{made['id']}{tail}", client=Client(**HTTP)).status_code, 401)
        refused = self.send(
            "post", "/api/jobs", {"kind": "print_face", "design": made["design"], "side": "left", "width_px": 500}, client=other
        )
        self.assertEqual(refused.status_code, 404)
        self.assertEqual(self.send("get", "/api/jobs", client=other).json(), [])

    def test_nonsense(self) -> None:
        for asked in (
            {},
            {"kind": "melt"},
            {"kind": "print_face"},
            {"kind": "print_face", "design": 2**70, "side": "left", "width_px": 500},
            [],
            7,
        ):
            self.assertEqual(self.send("post", "/api/jobs", asked).status_code, 422, asked)


class SheetTests(JobCase):
    def sheet(self, *axes: Any) -> Any:
        return self.order(kind="what_if", document=JOINED, axes=list(axes or AXES))

    def test_made_watched_and_fetched(self) -> None:
        made = self.sheet().json()
        self.assertEqual((made["state"], made["wanted"], made["about"]["axes"]), ("waiting", 6, list(AXES)))
        runner.run_next("short")
        done = self.look(made["id"])
        self.assertEqual((done["state"], [f["values"] for f in done["files"]][:2]), ("done", [[5.0, 10.0], [6.0, 10.0]]))
        picture = Image.open(BytesIO(self.send("get", f"/api/jobs/{made['id']}/files/5").content))
        self.assertTrue(picture.width <= 320 and picture.height <= 100 and max(picture.width / 320, picture.height / 100) > 0.95)
        self.assertEqual(self.send("get", f"/api/jobs/{made['id']}/files/6").status_code, 404)

    def test_stopped_half_way_it_keeps_what_came_before(self) -> None:
        made = self.sheet().json()["id"]
        real = what_if.sheet

        def some(*given: Any) -> Any:
            for i, cell in enumerate(real(*given)):
                if i == 2:
                    self.send("post", f"/api/jobs/{made}/stop")
                yield cell

        with mock.patch.object(what_if, "sheet", some), mock.patch.multiple(runner, TELL_EVERY=0.0, KEEP_EVERY=0.0):
            runner.run_next("short")
        found = self.look(made)
        self.assertEqual(found["state"], "stopped")
        self.assertEqual([f["index"] for f in found["files"]], [0, 1, 2])

    def test_refused_with_the_place(self) -> None:
        bad = self.sheet({"path": "recipe.bar.steps[1].colour", "low": 1.0, "high": 2.0, "count": 3})
        self.assertEqual((bad.status_code, bad.json()["problems"][0]["path"]), (422, "axes[0].path"))
        self.assertEqual(self.sheet({**AXES[0], "count": 24}, {**AXES[1], "count": 24}).status_code, 422)
        self.assertFalse(Job.objects.exists())

    def test_only_the_last_few_are_kept(self) -> None:
        self.assertEqual({k.key: k.kept for k in runner.KINDS.values()}, {"print_face": 20, "what_if": 8, "looks": 12, "family_study": 6})
        for _ in range(11):
            made = self.sheet(AXES[0]).json()["id"]
            Job.objects.filter(pk=made).update(state="done")
        self.assertEqual(Job.objects.count(), 8)
