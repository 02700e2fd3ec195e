"""The routes that hold a photo of a build against its prediction."""

import io
import json
import tempfile
import time
from collections.abc import Callable
from threading import Event
from typing import Any
from uuid import uuid4

import numpy as np
from django.test import override_settings
from PIL import Image

from tests.api.test_api import ApiCase as _ApiCase
from tests.core.photos import MadeUp, photo_of
from tests.waiting import PATIENCE
from varistrat.api.routers.photos import _lines
from varistrat.builds.models import BuildPlan
from varistrat.builds.services import photos
from varistrat.builds.services.begin import begin
from varistrat.core.design.document import read_document
from varistrat.core.design.worked import Worked
from varistrat.core.errors import Cancelled
from varistrat.core.instruments.camera import SIZE
from varistrat.core.laminate.photo import Mark
from varistrat.core.photo.bench import DEEPER, OnBench, as_it_comes_out
from varistrat.core.photo.fit import PhotoFit, fit_photo
from varistrat.core.photo.flat import grey_of, to_mark
from varistrat.core.photo.intake import taken_in
from varistrat.core.starters import STARTERS
from varistrat.designs.services import predict
from varistrat.shop.services.people import member_of

TRUTH = {"ground": 0.3}


class PhotosCase(_ApiCase):
    worked: Worked
    made: MadeUp

    @classmethod
    def setUpClass(cls) -> None:
        super().setUpClass()
        cls.worked = Worked.of(read_document(STARTERS["bold_twist"].document()))
        cls.made = photo_of(cls.worked, "right", TRUTH, np.random.default_rng(4), px=800)

    def setUp(self) -> None:
        super().setUp()
        folder = tempfile.TemporaryDirectory()
        self.addCleanup(folder.cleanup)
        kept = override_settings(PHOTOS_DIR=folder.name)
        kept.enable()
        self.addCleanup(kept.disable)
        self.actor = member_of(self.smith)
        self.build = begin(actor=self.actor, uid=uuid4(), worked=self.worked, design=None, title="Sedge knife")
        self.uid = uuid4()
        photos.keep(actor=self.actor, build=self.build, uid=self.uid, taken=taken_in(self.made.jpeg))
        self.marks = [{"px": m.px, "py": m.py, "x": m.x, "y": m.y} for m in self.made.marks]

    @property
    def here(self) -> str:
        return f"/api/builds/{self.build.pk}"

    def lines(self, **body: Any) -> list[dict[str, Any]]:
        answer = self.send("post", f"{self.here}/photos/{self.uid}/fit", {"marks": self.marks, "side": "right", **body})
        self.assertEqual(answer.status_code, 200)
        return [json.loads(line) for line in b"".join(answer.streaming_content).splitlines()]  # type: ignore[attr-defined]


class PhotosTests(PhotosCase):
    def test_what_is_marked_and_what_is_looked_for(self) -> None:
        told = self.client.get(f"{self.here}/face-to-mark?side=right").json()
        self.assertEqual([m["name"] for m in told["marks"]][:3], ["the heel at the edge", "the heel at the spine", "the tip"])
        self.assertEqual({k.split(":")[0] for k in told["usual"]}, {"ground", "turns", "phase"})
        self.assertEqual(self.client.get(f"{self.here}/face-to-mark?side=right&station=3").status_code, 422)

    def test_the_stand_in_for_a_camera_is_the_demos_only(self) -> None:
        refused = self.client.get(f"{self.here}/stand-in-photo.jpg")
        self.assertEqual((refused.status_code, refused.json()["code"]), (404, "no_stand_in"))
        with override_settings(DEMO=True):
            right, left = (self.client.get(f"{self.here}/stand-in-photo.jpg?side={side}") for side in ("right", "left"))
        self.assertEqual((right.status_code, right["Content-Type"]), (200, "image/jpeg"))
        self.assertEqual(Image.open(io.BytesIO(right.content)).size, SIZE)
        self.assertNotEqual(right.content, left.content)

    def test_a_made_up_blade_is_a_little_off_and_the_photo_tells_by_how_much(self) -> None:
        off = [as_it_comes_out(self.worked, "right", s).document.blade.errors.uneven for s in range(12)]  # type: ignore[union-attr]
        self.assertEqual(len(set(map(str, off))), 12)
        most = DEEPER * self.worked.blade.placed.bar.thickness
        self.assertTrue(all(abs(u) <= 2 * most for u in off))  # type: ignore[operator, arg-type]
        seen = OnBench(as_it_comes_out(self.worked, "right", 3), "right", predict.executor())
        marks = [
            Mark(*OnBench(self.worked, "right", predict.executor()).seen_at(x, y), x, y)
            for _, x, y in to_mark(seen.worked.blade.geometry.curves)
        ]
        found = fit_photo(self.worked, "right", grey_of(taken_in(seen.camera(3).read().jpeg).large), marks)
        told = {n.number.name: n.change for n in found.numbers}
        self.assertAlmostEqual(told["ground"], off[3] / 2, delta=0.03)  # type: ignore[operator]

    def test_laid_flat_to_the_scale_of_the_prediction(self) -> None:
        answer = self.send("post", f"{self.here}/photos/{self.uid}/laid", {"marks": self.marks, "side": "right", "px": 600})
        made = self.send("post", f"{self.here}/made-face", {"side": "right", "px": 600, "changes": TRUTH})
        planned = self.send("post", f"{self.here}/made-face", {"side": "right", "px": 600})
        photo = Image.open(io.BytesIO(answer.content))
        grey, alpha = (np.asarray(photo.getchannel(c), float) for c in ("L", "A"))
        like, unlike = (np.asarray(Image.open(io.BytesIO(a.content)).convert("L"), float) for a in (made, planned))
        self.assertEqual((photo.size[0], like.shape), (600, grey.shape))
        on = alpha > 0
        self.assertGreater(np.corrcoef(grey[on], like[on])[0, 1], 0.85)
        self.assertLess(np.corrcoef(grey[on], unlike[on])[0, 1], 0.8)
        even = self.send("post", f"{self.here}/photos/{self.uid}/laid", {"marks": self.marks, "side": "right", "px": 600, "even": True})
        self.assertNotEqual(even.content, answer.content)

    def test_read_and_taken_over(self) -> None:
        *steps, last = self.lines(numbers=["ground"])
        self.assertTrue(all(0 <= s["done"] <= 1 for s in steps))
        (number,) = last["fit"]["numbers"]
        self.assertAlmostEqual(number["made"], 0.3, delta=0.05)
        self.assertLess(number["made_low"], number["made_high"])
        self.assertRegex(number["words"], "^ground 0.\\d\\d mm deeper than planned$")
        over = self.send("post", f"{self.here}/take-over", {"side": "right", "changes": {"ground": number["fitted"]["change"]}}).json()
        body = {"id": str(uuid4()), "at": "2026-05-17T10:00:00Z", "document": over["document"], "why": over["why"]}
        self.assertEqual(self.send("post", f"{self.here}/amend", body).status_code, 200)
        plan = BuildPlan.objects.filter(build=self.build).order_by("number").last()
        assert plan
        self.assertAlmostEqual(plan.document["blade"]["errors"]["uneven"], 2 * number["fitted"]["change"])
        # the face as it was made is now the planned one
        again = self.lines(numbers=["ground"])[-1]["fit"]["numbers"][0]
        self.assertFalse(again["fitted"]["differs"])

    def test_what_cannot_be_is_said(self) -> None:
        (last,) = self.lines(numbers=["size"])[-1:]
        self.assertIn("no such numbers", last["problem"])
        for marks in (self.marks[:3], [{**m, "px": 5.0} for m in self.marks]):
            answer = self.send("post", f"{self.here}/photos/{self.uid}/laid", {"marks": marks, "side": "right"})
            self.assertEqual(answer.status_code, 422)
        for changes in ({"size": 1}, {"ground": 9}):
            self.assertEqual(self.send("post", f"{self.here}/take-over", {"side": "right", "changes": changes}).status_code, 422)
        self.assertEqual(self.send("post", f"{self.here}/photos/{uuid4()}/fit", {"marks": self.marks, "side": "right"}).status_code, 404)

    def test_a_build_without_a_blade_says_so(self) -> None:
        bar = Worked.of(read_document({"recipe": STARTERS["bold_twist"].document()["recipe"], "stock": {"need": 150.0}}))
        other = begin(actor=self.actor, uid=uuid4(), worked=bar, design=None, title="A bar")
        answer = self.client.get(f"/api/builds/{other.pk}/face-to-mark?side=right")
        self.assertEqual((answer.status_code, "no blade" in answer.content.decode()), (422, True))

    def test_going_away_stops_it(self) -> None:
        stopped = Event()

        def work(progress: Callable[[float], None], cancelled: Callable[[], bool]) -> PhotoFit:
            while not cancelled():
                time.sleep(0.01)
            stopped.set()
            raise Cancelled

        lines = _lines(work)
        self.assertEqual(json.loads(next(lines)), {"done": 0.0})
        lines.close()
        self.assertTrue(stopped.wait(PATIENCE))
        # the next one is not kept waiting by what nobody wants any more
        self.assertIn("fit", self.lines(numbers=["ground"])[-1])
