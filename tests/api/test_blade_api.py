"""The blade's routes: core line and grade, measures, the streamed study, core inference, photographs, drawings."""

import json
from copy import deepcopy
from typing import Any

from django.core.files.uploadedfile import SimpleUploadedFile

from tests.api.test_api import LAMINATE, MARKS, ApiCase
from varistrat.core.starters import STARTERS

HEIGHTS = [
    {"x": x, "side": side, "height": h}
    for x, right, left in ((20.0, 9.0, 5.0), (60.0, 9.2, 5.4), (100.0, 9.0, 6.0))
    for side, h in (("right", right), ("left", left))
]


def laminate(**more: Any) -> dict[str, Any]:
    return deepcopy(LAMINATE) | more


class CoreTests(ApiCase):
    def core(self, document: dict[str, Any]) -> Any:
        return self.send("post", "/api/blade/core", {"document": document}).json()

    def test_line_band_and_grade(self) -> None:
        found = self.core(laminate(aim={"low": 2.0, "high": 40.0, "difference": 1.0}))
        self.assertTrue(found["grade"]["first"])
        self.assertTrue(found["flat"])
        self.assertEqual((found["band"]["low"], found["band"]["high"]), (2.0, 40.0))
        self.assertEqual(len(found["stations"]), 120)
        self.assertEqual({s["steel"] for s in found["edge"]}, {"1095"})

    def test_an_error_moves_left_against_right(self) -> None:
        document = laminate()
        document["blade"]["errors"] = {"core_offset": 0.02}
        found = self.core(document)
        self.assertGreater(found["grade"]["apart"], 0.5)
        self.assertFalse(self.core(document | {"aim": {"difference": 0.2}})["grade"]["first"])

    def test_no_core_no_line(self) -> None:
        found = self.core(STARTERS["bold_twist"].document())
        self.assertEqual((found["stations"], found["grade"], found["flat"]), ([], None, False))
        self.assertTrue(found["edge"])

    def test_a_core_let_in_is_not_flat(self) -> None:
        found = self.core(STARTERS["slot_core"].document())
        self.assertFalse(found["flat"])
        self.assertTrue(found["stations"])


class MeasureTests(ApiCase):
    def measures(self, document: dict[str, Any], **more: Any) -> Any:
        return self.send("post", "/api/blade/measures", {"document": document} | more).json()

    def test_handle_moves_the_balance(self) -> None:
        bare = self.measures(laminate())["balance"]
        held = self.measures(laminate(handle={"material": "brass", "length": 100.0, "width": 20.0, "thickness": 15.0}))["balance"]
        self.assertEqual(bare["handle"], 0)
        self.assertLess(held["point"], held["point_bare"])
        self.assertAlmostEqual(held["point_bare"], bare["point"])

    def test_an_unknown_material_is_refused_with_the_choice(self) -> None:
        response = self.send("post", "/api/blade/measures", {"document": laminate(handle={"material": "cheese"})})
        self.assertEqual(response.status_code, 422)
        self.assertIn("boxwood", response.content.decode())

    def test_belts_of_the_shop(self) -> None:
        usual = self.measures(laminate())["bevels"][0]["stages"]
        own = self.measures(laminate(), belts=[0.0, 0.3, 0.1, 0.0, 0.0, 0.0])["bevels"][0]["stages"]
        self.assertLess(own[0]["top"], usual[0]["top"])
        self.assertEqual(own[1]["takes"], 0.3)

    def test_a_forged_blade_says_what_it_takes(self) -> None:
        document = laminate()
        self.assertIsNone(self.measures(document)["forged"])
        document["blade"]["forging"] = {"share": 1.0, "allowance": 0.5, "point_cut": {"side": "spine", "length": 45.0}}
        found = self.measures(document)["forged"]
        self.assertGreater(found["heel"], 0)
        self.assertGreater(found["stretch"], 1.0)

    def test_an_offcut_becomes_a_bar_of_its_own(self) -> None:
        """Forged again, it is as long, wide and thick as it was said to be."""
        document = laminate()
        document["blade"]["place"] = {"x": 25.0, "y": -18.0}
        listed = self.measures(document)["offcuts"]
        self.assertGreater(len(listed), 1)
        for o in listed:
            made = self.send("post", "/api/blade/offcut", {"document": document, "name": o["name"]}).json()["document"]
            row = self.send("post", "/api/predict/ledger", {"document": made}).json()["rows"][-1]
            for size in ("length", "width", "thickness"):
                self.assertAlmostEqual(row[size], o[size], 3, f"{o['name']} {size}")
        self.assertEqual(self.send("post", "/api/blade/offcut", {"document": document, "name": "middle"}).status_code, 422)

    def test_sections(self) -> None:
        found = self.send("post", "/api/blade/sections", {"document": laminate(), "stations": 9}).json()
        self.assertEqual(len(found), 9)
        self.assertTrue(all(len(s["h"]) == len(s["right"]) == len(s["core_left"]) for s in found))


class StudyTests(ApiCase):
    def test_progress_then_the_study(self) -> None:
        response = self.send("post", "/api/blade/study", {"document": laminate(), "blades": 2000, "stations": 12})
        self.assertEqual(response["Content-Type"], "application/x-ndjson")
        said = [json.loads(line) for line in b"".join(response.streaming_content).decode().splitlines()]
        done = [s["done"] for s in said[:-1]]
        self.assertEqual(done, sorted(done))
        self.assertGreater(len(done), 3)
        study = said[-1]["study"]
        self.assertEqual(len(study["right"]["low"]), 12)
        self.assertTrue(0 <= study["first"] <= 1)

    def test_refused_before_it_begins(self) -> None:
        response = self.send("post", "/api/blade/study", {"document": STARTERS["bold_twist"].document()})
        self.assertEqual(response.status_code, 422)
        self.assertIn("no core lying flat", response.content.decode())


class SteerTests(ApiCase):
    def inference(self, document: dict[str, Any]) -> Any:
        return self.send("post", "/api/blade/inference", {"document": document})

    def test_readings_become_a_correction_that_works(self) -> None:
        document = laminate(readings={"heights": HEIGHTS}, aim={"low": 2.0, "high": 14.0, "difference": 2.0})
        found = self.inference(document).json()
        self.assertGreater(found["mean_offset"][0], 0)
        self.assertGreater(max(found["removal"]["left_edge"]), 0.02)
        self.assertEqual(found["unmet"], [])

        def apart(blade: dict[str, Any]) -> float:
            answer = self.send("post", "/api/blade/core", {"document": document | {"blade": blade}})
            self.assertEqual(answer.status_code, 200, answer.content[:300])
            return float(answer.json()["grade"]["apart"])

        self.assertGreater(apart(found["as_read"]), 2.0)
        self.assertLess(apart(found["corrected"]), 2.0)

    def test_bad_readings(self) -> None:
        for heights, match in (
            ([], "nothing has been read"),
            ([{"x": 900.0, "side": "right", "height": 5.0}], "beyond the tip"),
            ([{"x": 50.0, "side": "right", "height": 500.0}], "above the spine"),
            ([{"x": 50.0, "side": "middle", "height": 5.0}], "side"),
        ):
            response = self.inference(laminate(readings={"heights": heights}))
            self.assertEqual(response.status_code, 422)
            self.assertIn(match, response.content.decode())

    def test_readings_are_kept_with_the_design(self) -> None:
        made = self.send("post", "/api/designs", {"starter": "three_layer"}).json()
        design = self.send("get", f"/api/designs/{made['id']}").json()
        document = design["document"] | {"readings": {"heights": HEIGHTS}, "aim": {"school": "bold"}}
        saved = self.send("put", f"/api/designs/{design['id']}", {"document": document, "base": design["current"]})
        self.assertEqual(saved.status_code, 200, saved.content[:300])
        kept = self.send("get", f"/api/designs/{design['id']}").json()["document"]
        self.assertEqual(len(kept["readings"]["heights"]), len(HEIGHTS))
        self.assertEqual(kept["aim"]["school"], "bold")


class PhotoTests(ApiCase):
    def test_picked_places(self) -> None:
        found = self.send(
            "post", "/api/blade/photo", {"document": laminate(), "marks": MARKS, "points": [[50.0, 52.0], [50.0, 90.0]]}
        ).json()
        first, second = found["points"]
        self.assertAlmostEqual(first["x"], 40.0, 3)
        self.assertAlmostEqual(first["height"], 8.0, 3)
        self.assertTrue(first["inside"])
        self.assertFalse(second["inside"])
        self.assertGreater(len(found["rim"]), 20)

    def test_too_few_marks(self) -> None:
        response = self.send("post", "/api/blade/photo", {"document": laminate(), "marks": MARKS[:3], "points": []})
        self.assertEqual(response.status_code, 422)


class DrawingTests(ApiCase):
    def upload(self, raw: bytes, query: str = "", name: str = "blade.svg") -> Any:
        return self.client.post(f"/api/files/blade-outline{query}", {"file": SimpleUploadedFile(name, raw)})

    def test_out_and_in_again(self) -> None:
        for kind in ("svg", "dxf"):
            raw = self.send("post", "/api/files/outline", {"document": laminate(), "kind": kind})
            self.assertEqual(raw.status_code, 200)
            found = self.upload(raw.content, name=f"blade.{kind}").json()
            document = laminate()
            document["blade"]["outline"] = found["outline"]
            self.assertEqual(self.send("post", "/api/blade/core", {"document": document}).status_code, 200)
            self.assertAlmostEqual(found["length"], laminate()["blade"]["outline"]["length"], 2)

    def test_refused(self) -> None:
        for raw, query in ((b"hello", ""), (b"<svg></svg>", ""), (b"<svg></svg>", "?length=nan"), (b"<svg></svg>", "?tip=up")):
            self.assertEqual(self.upload(raw, query).status_code, 422, (raw, query))
        self.assertEqual(self.upload(b"x" * 1_100_000).status_code, 422)

    def test_rims_are_drawn(self) -> None:
        for view in ("spine", "edge"):
            response = self.send(
                "post", "/api/predict/blade.png", {"document": laminate(), "view": view, "side": "right", "px": 200, "margin": 1.5}
            )
            self.assertEqual(response.status_code, 200)
            self.assertEqual(response.content[:4], b"\x89PNG")
