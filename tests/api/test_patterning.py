"""The API for joined bars, ways to look, sums, sheets and files: right answers, and clear refusals."""

import json
from base64 import b64encode
from copy import deepcopy
from io import BytesIO
from typing import Any

import numpy as np
from django.core.files.uploadedfile import SimpleUploadedFile
from django.test import Client
from PIL import Image

from tests.api.test_api import DOCUMENT, HTTP, ApiCase
from varistrat.core.design.document import read_document
from varistrat.core.starters import STARTERS

JOINED = STARTERS["opposed_twist"].document()
SVG = b'<svg xmlns="http://www.w3.org/2000/svg" width="20mm" height="20mm" viewBox="0 0 20 20"><path d="M0 0 H20 V20 H0 Z"/></svg>'


WHOLE = read_document(JOINED).recipe.bar
FIRST, SECOND, THIRD = (b.id for b in WHOLE.start.children())
STEPS = {"": [s.id for s in WHOLE.steps]} | {b.id: [s.id for s in b.steps] for b in WHOLE.start.children()}


class JoinedBarTests(ApiCase):
    def ledger(self, document: Any, bar: str) -> Any:
        return self.send("post", "/api/predict/ledger", {"document": document, "bar": bar})

    def test_the_ledger_of_one_bar(self) -> None:
        whole = self.ledger(JOINED, "").json()
        self.assertEqual([c["label"] for c in whole["children"]], ["twisted right", "twisted left", "twisted right"])
        inner = self.ledger(JOINED, SECOND).json()
        self.assertEqual(inner["rows"][4]["brief"], "left, 17")
        self.assertEqual(inner["summary"], whole["summary"])
        self.assertAlmostEqual(whole["children"][1]["length"], inner["rows"][-1]["length"])
        self.assertEqual(self.ledger(JOINED, "b7").status_code, 422)
        self.assertEqual(self.ledger(JOINED, "b" * 25).status_code, 422)

    def test_a_bar_that_fails_is_named_and_the_others_can_still_be_opened(self) -> None:
        broken = deepcopy(JOINED)
        broken["recipe"]["bar"]["start"]["bars"][2]["steps"][5]["top"] = 99.0
        whole = self.ledger(broken, "").json()
        self.assertEqual((whole["rows"], whole["summary"], whole["shape"]), ([], None, None))
        self.assertEqual(whole["problems"][0]["path"], "recipe.bar.start.bars[2].steps[5].top")
        self.assertTrue(whole["children"][2]["problem"])
        self.assertEqual(len(self.ledger(broken, THIRD).json()["rows"]), 6)
        self.assertEqual(len(self.ledger(broken, FIRST).json()["rows"]), 7)
        picture = self.send("post", "/api/predict/bar.png", {"document": broken, "bar": FIRST, "view": "end", "px": 40})
        self.assertEqual(picture.status_code, 200)
        self.assertEqual(self.send("post", "/api/predict/bar.png", {"document": broken, "view": "end", "px": 40}).status_code, 422)

    def test_steps_switched_off_in_one_bar_only(self) -> None:
        off = deepcopy(JOINED) | {"off": [[1, 3], [0]]}
        self.assertEqual([r["step"] for r in self.ledger(off, SECOND).json()["rows"]], [None, *(STEPS[SECOND][i] for i in (0, 1, 2, 4, 5))])
        self.assertEqual([r["step"] for r in self.ledger(off, FIRST).json()["rows"]], [None, *STEPS[FIRST]])
        self.assertEqual([r["step"] for r in self.ledger(off, "").json()["rows"]], [None, *STEPS[""][1:]])

    def test_portraits_come_with_those_of_the_bars_that_go_in(self) -> None:
        found = self.send("post", "/api/predict/portraits", {"document": JOINED, "px_per_mm": 1.0, "max_mm": 60}).json()
        self.assertEqual(
            [(p["child"], p["step"]) for p in found],
            [(FIRST, None), (SECOND, None), (THIRD, None), (None, None), *((None, s) for s in STEPS[""])],
        )

    def test_another_start_and_the_opposite(self) -> None:
        made = self.send("post", "/api/predict/fresh-bar", {"document": JOINED, "bar": FIRST, "kind": "opposite"}).json()["bar"]
        self.assertEqual(made["steps"][3]["hand"], "left")
        joined = self.send("post", "/api/predict/fresh-bar", {"document": DOCUMENT, "kind": "assembly"}).json()["bar"]
        self.assertEqual([b["steps"][3].get("hand", "right") for b in joined["start"]["bars"]], ["right", "left"])
        self.assertEqual(self.send("post", "/api/predict/fresh-bar", {"document": DOCUMENT, "kind": "soup"}).status_code, 422)

    def test_a_step_is_put_into_one_bar(self) -> None:
        step = self.send("post", "/api/predict/fresh-step", {"document": JOINED, "bar": SECOND, "at": 2, "kind": "draw"}).json()["step"]
        # a 13 mm square bar by then, and left as the hammer leaves it
        self.assertEqual((step["width"], step["thickness"]), (13.0, 9.8))
        self.assertAlmostEqual(step["uneven"]["amount"], 0.3)


class HandTests(ApiCase):
    def test_the_shops_own_hand_goes_into_new_steps(self) -> None:
        self.send("put", "/api/hands/hammer", {"amount": 0.11, "wavelength": 33.0})
        step = self.send("post", "/api/predict/fresh-step", {"document": DOCUMENT, "at": 0, "kind": "weld"}).json()["step"]
        self.assertEqual((step["uneven"]["amount"], step["uneven"]["wavelength"]), (0.11, 33.0))
        self.assertEqual(self.send("get", "/api/catalogue").json()["hands"]["hammer"]["amount"], 0.11)
        listed = {h["method"]: h["own"] for h in self.send("get", "/api/hands").json()}
        self.assertEqual(listed, {"hammer": True, "press": False, "roll": False})
        back = self.send("put", "/api/hands/hammer", {}).json()
        self.assertFalse(any(h["own"] for h in back))

    def test_nonsense_is_refused(self) -> None:
        for body in ({"amount": -1}, {"wavelength": 0.0}, {"amount": 1e9}, {"amount": "much"}):
            self.assertEqual(self.send("put", "/api/hands/press", body).status_code, 422, body)
        self.assertEqual(self.send("put", "/api/hands/feet", {"amount": 1.0}).status_code, 422)


class LookTests(ApiCase):
    def test_every_view_of_a_bar_is_a_picture(self) -> None:
        plane = {"x": 60, "turn": 20, "lean": 10}
        for more in (
            {"view": "section", "plane": plane},
            {"view": "solid"},
            {"view": "solid", "plane": plane, "yaw": -40, "pitch": 60, "x1": 90},
            {"view": "window", "window": {"face": "front", "x": 40, "depth": 2.0}},
        ):
            answer = self.send("post", "/api/predict/bar.png", {"document": JOINED, "px": 160, **more})
            self.assertEqual(answer.status_code, 200, more)
            grey = np.asarray(Image.open(BytesIO(answer.content)))
            self.assertEqual(grey.shape[1], 160)
            self.assertGreater(grey.std(), 20, f"{more} shows no pattern")

    def test_the_blade_cut_across_and_ground_further(self) -> None:
        plain = self.send("post", "/api/predict/blade.png", {"document": JOINED, "side": "right", "px": 200})
        ground = self.send("post", "/api/predict/blade.png", {"document": JOINED, "side": "right", "px": 200, "ground": 1.0})
        self.assertNotEqual(plain.content, ground.content)
        cut = self.send("post", "/api/predict/blade.png", {"document": JOINED, "side": "right", "px": 60, "view": "section", "x": 50})
        self.assertGreater(Image.open(BytesIO(cut.content)).height, 200)
        # where the picture lies: as wide as the bar is thick and a little, as high as the blade there
        width, height, middle = map(float, cut["X-Section-Mm"].split())
        self.assertAlmostEqual(width, 5.5 * 1.05, places=3)
        self.assertAlmostEqual(middle, height / 2 / 1.04, delta=0.3)
        window = self.send("post", "/api/predict/blade.png", {"document": JOINED, "side": "right", "px": 200, "window": {"x": 60, "h": 12}})
        self.assertNotIn(window.content, (plain.content, ground.content))

    def test_both_faces_at_once_are_the_two_asked_for_one_by_one(self) -> None:
        asked = {"document": JOINED, "px": 160, "quality": "preview"}
        both = self.send("post", "/api/predict/faces", asked).json()
        for side in ("right", "left"):
            one = self.send("post", "/api/predict/blade.png", asked | {"side": side})
            self.assertEqual(both[side], "data:image/png;base64," + b64encode(one.content).decode())
        self.assertNotEqual(both["right"], both["left"])
        self.assertEqual(self.send("post", "/api/predict/faces", {"document": {"recipe": JOINED["recipe"]}, "px": 160}).status_code, 422)

    def test_layers_at_a_point(self) -> None:
        found = self.send("post", "/api/predict/layers", {"document": JOINED, "x": 60, "h": 12}).json()
        self.assertGreater(len(found["runs"]), 2)
        self.assertAlmostEqual(sum(found["steels"].values()), 1)
        bare = {"recipe": JOINED["recipe"]}
        self.assertEqual(self.send("post", "/api/predict/layers", {"document": bare, "x": 1, "h": 1}).status_code, 422)

    def test_sums_know_the_bar_they_stand_beside(self) -> None:
        found = {
            s["key"]: s for s in self.send("post", "/api/predict/sums", {"document": JOINED, "bar": FIRST, "step": STEPS[FIRST][3]}).json()
        }
        known = {q["key"]: q["value"] for q in found["twist_heats"]["quantities"]}
        self.assertEqual(known["turns"], 17.0)
        self.assertIsNone(known["shear"])
        answer = self.send("post", "/api/predict/solve", {"key": "twist_heats", "unknown": "shear", "values": known})
        self.assertGreater(answer.json()["value"], 2)
        self.assertTrue(answer.json()["lines"])
        self.assertEqual(self.send("post", "/api/predict/sums", {"document": JOINED, "step": 99}).status_code, 422)
        wrong = self.send("post", "/api/predict/solve", {"key": "twist_heats", "unknown": "shear", "values": {"turns": -1}})
        self.assertEqual((wrong.status_code, wrong.json()["problems"][0]["path"]), (422, "values.turns"))


class FileTests(ApiCase):
    def test_sections_in_every_format(self) -> None:
        for kind, begins in (("svg", b"<svg"), ("dxf", b"  0"), ("tiff", b"II*")):
            answer = self.send(
                "post", "/api/files/section", {"document": JOINED, "bar": SECOND, "plane": {"x": 20, "turn": 10}, "kind": kind}
            )
            self.assertTrue(answer.content.startswith(begins), kind)
            self.assertIn(f"section.{kind}", answer["Content-Disposition"])

    def test_solids(self) -> None:
        for more in ({"bar": FIRST, "x1": 50}, {"blade": True}, {"stages": 0}):
            answer = self.send("post", "/api/files/solid.glb", {"document": JOINED, "px": 128, **more})
            self.assertTrue(answer.content.startswith(b"glTF"), more)
        bare = {"recipe": JOINED["recipe"]}
        self.assertEqual(self.send("post", "/api/files/solid.glb", {"document": bare, "blade": True}).status_code, 422)

    def outlines(self, raw: bytes, name: str = "a.svg", client: Client | None = None) -> Any:
        return (client or self.client).post("/api/files/outlines", {"file": SimpleUploadedFile(name, raw)})

    def test_an_outline_is_read_into_the_can(self) -> None:
        corners = self.outlines(SVG).json()["outlines"][0]
        self.assertEqual(sorted(map(tuple, corners)), [(-10, -10), (-10, 10), (10, -10), (10, 10)])
        can = STARTERS["canister"].document()
        can["recipe"]["bar"]["start"]["inserts"] = [
            {"shape": "outline", "steel": "15n20", "size": 12.0, "outline": corners, "positions": [[0, 0]]}
        ]
        self.assertEqual(self.send("post", "/api/predict/ledger", {"document": can}).json()["problems"], [])

    def test_hostile_and_broken_files_are_refused(self) -> None:
        for raw in (b"", b"PK\x03\x04", b"<svg><!DOCTYPE a", b"\x00" * 5000, b"<svg" + b"a" * 1_000_100):
            answer = self.outlines(raw)
            self.assertEqual((answer.status_code, answer.json()["problems"][0]["path"]), (422, "file"))
        self.assertEqual(self.client.post("/api/files/outlines", {}).status_code, 422)
        self.assertEqual(self.outlines(SVG, client=Client(**HTTP)).status_code, 401)

    def test_a_joined_recipe_goes_out_and_comes_in_again(self) -> None:
        made = self.send("post", "/api/designs", {"starter": "clad_core"}).json()["id"]
        out = self.send("get", f"/api/designs/{made}/recipe.json")
        again = self.send("post", "/api/designs/import", out.content).json()["id"]
        self.assertEqual(self.send("get", f"/api/designs/{again}/recipe.json").json(), out.json())
        self.assertEqual(json.loads(out.content)["bar"]["start"]["bars"][1]["start"]["kind"], "solid")
