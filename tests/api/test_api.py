"""The API: each route ok, invalid, not yours, signed out; safe headers; pictures; limits."""

import json
from copy import deepcopy
from io import BytesIO
from typing import Any, get_type_hints
from unittest import mock

from django.test import Client, SimpleTestCase, TestCase, override_settings
from PIL import Image

from tests.people import member
from varistrat.accounts.services import sign_in
from varistrat.api import api
from varistrat.core.starters import STARTERS
from varistrat.demo.shop import load_demo

DOCUMENT = STARTERS["bold_twist"].document()
BLADE = {"document": DOCUMENT, "side": "right", "px": 200}
BAR = {"document": DOCUMENT, "stages": 2, "view": "face", "px": 120}
LAMINATE = STARTERS["three_layer"].document()
MARKS = [{"px": 10 + x, "py": 60 - y, "x": x, "y": y} for x, y in ((0.0, 0.0), (0.0, 25.0), (90.0, 0.0), (90.0, 25.0))]
PROGRAM = {"name": "Temper", "segments": [{"celsius": 205, "minutes": 60}, {"celsius": 40}]}
HTTP = {"HTTP_HOST": "localhost"}

# method, address ({id}: a design of the smith's), body
ROUTES: list[tuple[str, str, Any]] = [
    ("patch", "/api/preferences", {"length": "thou"}),
    ("get", "/api/steels", None),
    ("put", "/api/steels/1084", {"figures": {"tone": {"ferric": 2.5}}}),
    ("post", "/api/steels", {"key": "cart-spring", "figures": {"name": "Cart spring", "composition": {"C": 0.6, "Mn": 0.9, "Cr": 0.8}}}),
    ("delete", "/api/steels/1084", None),
    ("post", "/api/steels/estimate", {"composition": {"C": 0.7}}),
    ("post", "/api/steels/coupons", {"spark": "many", "water_hrc": 62.0, "oil": "hard", "look": "dark"}),
    ("get", "/api/steels.csv", None),
    ("post", "/api/steels/csv", {"text": "key,C\n1084,0.85\n"}),
    ("put", "/api/steels-in-use", {"keys": ["1084", "15n20"]}),
    ("get", "/api/figures", None),
    ("put", "/api/figures/scale_air", {"value": 1.4}),
    ("post", "/api/pairings", {"steels": ["1084", "15n20"], "shares": [1, 2]}),
    ("post", "/api/pairings/matrix", {"steels": ["1084", "15n20", "iron"], "use": "clad"}),
    ("post", "/api/pairings/suggest", {"use": "edge", "within": ["1084", "15n20", "o1"]}),
    ("get", "/api/catalogue", None),
    ("get", "/api/hands", None),
    ("put", "/api/hands/hammer", {"amount": 0.2, "wavelength": 30.0}),
    ("get", "/api/starters/ladder/picture.png", None),
    ("get", "/api/designs", None),
    ("post", "/api/designs", {"starter": "bias"}),
    ("post", "/api/designs/import", DOCUMENT["recipe"]),
    ("get", "/api/designs/bin", None),
    ("patch", "/api/designs/{id}", {"about": "a peeler"}),
    ("get", "/api/designs/{id}/design.json", None),
    ("get", "/api/designs/{id}", None),
    ("put", "/api/designs/{id}", {"document": DOCUMENT, "base": 1}),
    ("post", "/api/designs/{id}/copy", None),
    ("get", "/api/designs/{id}/revisions", None),
    ("get", "/api/designs/{id}/revisions/1", None),
    ("post", "/api/designs/{id}/revisions/1/bring-back", None),
    ("get", "/api/designs/{id}/picture.png", None),
    ("get", "/api/designs/{id}/recipe.json", None),
    ("get", "/api/designs/{id}/blade.json", None),
    ("post", "/api/predict/ledger", {"document": DOCUMENT}),
    ("post", "/api/predict/fired-findings", {"document": DOCUMENT}),
    ("post", "/api/predict/plan", {"document": DOCUMENT}),
    ("post", "/api/predict/fresh-step", {"document": DOCUMENT, "at": 2, "kind": "twist"}),
    ("post", "/api/predict/blade.png", BLADE),
    ("post", "/api/predict/faces", {"document": DOCUMENT, "px": 160}),
    ("post", "/api/predict/bar.png", BAR),
    ("post", "/api/predict/portraits", {"document": DOCUMENT, "px_per_mm": 1.0, "max_mm": 60}),
    ("post", "/api/predict/fresh-bar", {"document": DOCUMENT, "kind": "assembly"}),
    ("post", "/api/predict/layers", {"document": DOCUMENT, "x": 60, "h": 12}),
    ("post", "/api/predict/sums", {"document": DOCUMENT, "step": "s4"}),
    ("post", "/api/predict/solve", {"key": "square_motif", "unknown": "height", "values": {"angle": 30, "width": 30, "draw": 1}}),
    ("post", "/api/predict/layer-ways", {"wanted": 300}),
    ("post", "/api/predict/parameters", {"document": DOCUMENT}),
    (
        "post",
        "/api/jobs",
        {"kind": "what_if", "document": DOCUMENT, "axes": [{"path": "recipe.bar.steps[3].turns", "low": 3.0, "high": 9.0, "count": 2}]},
    ),
    ("post", "/api/files/section", {"document": DOCUMENT, "plane": {"x": 30}, "kind": "svg"}),
    ("post", "/api/files/solid.glb", {"document": DOCUMENT, "px": 128}),
    ("post", "/api/files/outline", {"document": DOCUMENT, "kind": "dxf"}),
    ("post", "/api/stock/sheet", {"document": DOCUMENT}),
    ("post", "/api/stock/risk", {"document": DOCUMENT}),
    ("post", "/api/stock/ways", {"document": DOCUMENT}),
    ("post", "/api/stock/made-so", {"document": DOCUMENT}),
    ("post", "/api/heat/counted", {"document": DOCUMENT}),
    ("post", "/api/stock/in-sheets", {"document": DOCUMENT, "wanted": ["bar:1"], "count": 2, "sheet": 2.0}),
    ("post", "/api/stock/time", {"document": DOCUMENT, "first": 2}),
    ("post", "/api/stock/time.ics", {"document": DOCUMENT, "begun": "2031-05-14", "title": "A knife"}),
    ("post", "/api/stock/route", {"document": DOCUMENT}),
    ("post", "/api/paper/sheet.pdf", {"title": "A knife", "operations": [{"title": "Weld", "say": "Two heats."}]}),
    ("post", "/api/paper/template.pdf", {"title": "A knife", "document": DOCUMENT, "paper": "letter"}),
    ("post", "/api/paper/sheath.pdf", {"title": "A knife", "document": DOCUMENT, "paper": "a4"}),
    ("post", "/api/stock/cuts", {"document": DOCUMENT}),
    ("post", "/api/stock/cuts.csv", {"document": DOCUMENT}),
    ("post", "/api/blade/core", {"document": DOCUMENT}),
    ("post", "/api/blade/sections", {"document": DOCUMENT, "stations": 6}),
    ("post", "/api/blade/measures", {"document": DOCUMENT}),
    ("post", "/api/blade/offcut", {"document": DOCUMENT, "name": "tip end"}),
    ("post", "/api/blade/study", {"document": LAMINATE, "blades": 100, "stations": 10}),
    ("post", "/api/blade/inference", {"document": LAMINATE | {"readings": {"heights": [{"x": 40.0, "side": "right", "height": 6.0}]}}}),
    ("post", "/api/blade/photo", {"document": DOCUMENT, "marks": MARKS, "points": [[60, 30]]}),
    ("post", "/api/heat/fire", {"document": DOCUMENT}),
    ("post", "/api/heat/hardening", {"document": DOCUMENT}),
    ("get", "/api/rack", None),
    ("post", "/api/rack/fittings", {"document": DOCUMENT}),
    ("post", "/api/rack/typed", {"text": "1084 1/4 x 1 1/2 x 48 x 2", "unit": "inch"}),
    ("post", "/api/rack/items", {"items": [{"steel": "1084", "width": 40.0, "thickness": 6.0, "length": 1000.0, "count": 2}]}),
    ("get", "/api/rack/file.csv", None),
    ("post", "/api/rack/file.csv", {"text": "id,steel,width,thickness,length\nA,1084,40,6,900\n"}),
    ("post", "/api/rack/offcuts", {"design": "{id}", "document": DOCUMENT, "name": "tip end"}),
    ("get", "/api/builds", None),
    ("post", "/api/builds", {"uid": "6f0a5d8e-1c77-4c3e-9a52-0b3e1f7d2c11", "design": "{id}", "document": DOCUMENT, "title": "First"}),
    ("get", "/api/builds/learned", None),
    ("get", "/api/builds/purposes", None),
    ("get", "/api/builds/learned-sizes", None),
    ("post", "/api/builds/against", {"document": DOCUMENT}),
    ("post", "/api/builds/suits", {"document": DOCUMENT, "purpose": "slicing"}),
    ("get", "/api/builds/orders", None),
    ("post", "/api/builds/orders", {"who": "The ferry", "title": "Line knife", "purpose": "slicing", "promised": "2031-06-01"}),
    ("post", "/api/finish/sheet", {"document": DOCUMENT}),
    ("post", "/api/finish/film.png", {"document": DOCUMENT, "stage": "polished", "px": 120}),
    ("post", "/api/finish/mix", {"strength": 10, "litres": 4}),
    ("post", "/api/finish/coupon", {"bath": {}, "minutes": 20, "step": 16}),
    ("post", "/api/finish/edge-test", {"document": DOCUMENT, "test": {"test": "brass", "seen": "rolled"}}),
    ("post", "/api/finish/balance", {"document": DOCUMENT, "wanted": 5, "unknown": "guard"}),
    ("post", "/api/finish/sums", {"document": DOCUMENT}),
    ("get", "/api/finish/baths", None),
    ("get", "/api/looks", None),
    ("get", "/api/looks/face.png?candidate=%7B%22family%22%3A%22bias%22%7D&px=64", None),
    ("post", "/api/looks/measure", {"document": DOCUMENT}),
    ("post", "/api/looks/design", {"candidate": {"family": "bias"}}),
    ("get", "/api/practice", None),
    ("post", "/api/practice", {"kind": "sums", "seed": 7}),
    ("post", "/api/finish/baths", {"name": "The long tube", "bath": {"litres": 4}, "mixed": "2031-05-01"}),
    ("get", "/api/finish/faults", None),
    ("post", "/api/finish/faults", {"seen": "dark_gap", "answers": {"cold_weld": True}, "document": DOCUMENT}),
    ("post", "/api/finish/faults/change", {"document": DOCUMENT, "change": "etch_longer"}),
    ("get", "/api/kiln/programs", None),
    ("post", "/api/kiln/programs", PROGRAM),
    ("post", "/api/kiln/check", {"program": PROGRAM, "steels": ["1084"]}),
    ("post", "/api/kiln/program.csv", PROGRAM),
    ("post", "/api/kiln/program-from-csv", {"text": "celsius,hold_min\n200,60\n"}),
    ("get", "/api/kiln/runs?design={id}", None),
    ("post", "/api/kiln/runs", {"design": "{id}", "program": PROGRAM, "document": DOCUMENT}),
    ("post", "/api/kiln/tester", {"document": DOCUMENT, "stage": "quenched"}),
    ("post", "/api/jobs", {"kind": "print_face", "design": "{id}", "side": "left", "width_px": 300}),
    ("get", "/api/jobs?design={id}", None),
    ("get", "/api/shop/people", None),
    ("delete", "/api/designs/{id}", None),
    ("post", "/api/designs/{id}/restore", None),
]


class ApiCase(TestCase):
    def setUp(self) -> None:
        self.smith = member("smith").user
        self.smith.set_password("anvil-and-tongs-9")
        self.smith.save()
        self.client = Client(**HTTP)
        self.client.force_login(self.smith, backend="varistrat.shop.backend.AtWork")

    def send(self, method: str, path: str, body: Any = None, client: Client | None = None, **extra: Any) -> Any:
        raw = body if isinstance(body, str | bytes) else json.dumps(body)
        return getattr(client or self.client, method)(
            path, *([] if method == "get" else [raw]), **({} if method == "get" else {"content_type": "application/json"}), **extra
        )

    def new(self, starter: str = "bold_twist") -> int:
        return self.send("post", "/api/designs", {"starter": starter}).json()["id"]

    def fill(self, path: str, body: Any, design: int) -> tuple[str, Any]:
        return path.replace("{id}", str(design)), json.loads(json.dumps(body).replace('"{id}"', str(design)))


class EveryRouteTests(ApiCase):
    def test_ok(self) -> None:
        design = self.new()
        for method, path, body in ROUTES:
            address, content = self.fill(path, body, design)
            response = self.send(method, address, content)
            self.assertIn(response.status_code, (200, 201, 204), f"{method} {address}: {getattr(response, 'content', b'')[:300]!r}")

    def test_signed_out(self) -> None:
        design = self.new()
        outside = Client(**HTTP)
        for method, path, body in ROUTES:
            address, content = self.fill(path, body, design)
            response = self.send(method, address, content, outside)
            self.assertEqual(response.status_code, 401, f"{method} {address}")
            self.assertEqual(response.json()["code"], "signed_out")

    def test_not_yours_looks_like_absent(self) -> None:
        design = self.new()
        other = Client(**HTTP)
        other.force_login(member("other").user)
        for method, path, body in ROUTES:
            if "{id}" not in path + json.dumps(body):
                continue
            answers = []
            for number in (design, 987654):
                address, content = self.fill(path, body, number)
                response = self.send(method, address, content, other)
                answers.append((response.status_code, response.content))
            self.assertEqual(answers[0][0], 404, path)
            self.assertEqual(answers[0], answers[1], path)

    def test_changes_want_the_csrf_token(self) -> None:
        strict = Client(enforce_csrf_checks=True, **HTTP)
        strict.force_login(self.smith, backend="varistrat.shop.backend.AtWork")
        for method, path, body in ROUTES:
            if method == "get":
                continue
            address, content = self.fill(path, body, 1)
            self.assertEqual(self.send(method, address, content, strict).status_code, 403, path)
        for path in ("sign-in", "demo", "sign-out"):
            refused = self.send("post", f"/api/session/{path}", {}, strict)
            self.assertEqual((refused.status_code, refused.json()["code"]), (403, "csrf"), path)
            self.assertIn("reload it and try again", refused.json()["title"])

    def test_what_the_api_does_not_know_is_told_as_all_its_errors(self) -> None:
        for method, path, status in (
            ("get", "/api/", 404),
            ("get", "/api/nothing", 404),
            ("post", "/api/designs/1/nothing", 404),
            ("put", "/api/designs", 405),
            ("delete", "/api/session", 405),
        ):
            answer = self.send(method, path, None)
            self.assertEqual((answer.status_code, answer["Content-Type"]), (status, "application/problem+json"), path)
            self.assertEqual(answer.json()["status"], status)
            self.assertIn("docs/openapi.json", answer.json()["title"])
            self.assertEqual("Allow" in answer, status == 405)


class BadInputTests(ApiCase):
    def refused(self, body: Any, path: str, status: int = 422, address: str = "/api/predict/ledger") -> Any:
        response = self.send("post", address, body)
        self.assertEqual(response.status_code, status, response.content[:300])
        self.assertEqual(response["Content-Type"], "application/problem+json")
        answer = response.json()
        if status == 422:
            self.assertEqual(answer["problems"][0]["path"], path)
            self.assertTrue(answer["problems"][0]["wrong"] and answer["problems"][0]["cure"])
        return answer

    def changed(self, *path: Any, value: Any) -> dict[str, Any]:
        document = deepcopy(DOCUMENT)
        here: Any = document
        for part in path[:-1]:
            here = here[part]
        here[path[-1]] = value
        return {"document": document}

    def test_fields_are_named(self) -> None:
        steps = ("recipe", "bar", "steps")
        self.refused(self.changed(*steps, 3, "turns", value=-1), "document.recipe.bar.steps[3].turns")
        self.refused(self.changed(*steps, 3, "turnz", value=1), "document.recipe.bar.steps[3].turnz")
        self.refused(
            self.changed("recipe", "bar", "start", "layers", 2, "steel", value="mithril"), "document.recipe.bar.start.layers[2].steel"
        )
        self.refused(self.changed("blade", "spine_thickness", "heel", value="thick"), "document.blade.spine_thickness.heel")
        self.refused(self.changed("blade", "outline", "shape", value="spoon"), "document.blade.outline.shape")
        self.refused(self.changed("recipe", "format", value="varistrat.recipe/0"), "document.recipe.format")
        many = [{"steel": "1084", "thickness": 1.0}] * 3000
        self.refused(self.changed("recipe", "bar", "start", "layers", value=many), "document.recipe.bar.start.layers")

    def test_broken_deep_and_huge_bodies(self) -> None:
        self.refused("{", "line 1 column 2")
        self.refused("[" * 10_000, "")
        self.refused('{"document": NaN}', "document")
        self.refused("x" * 2_100_000, "", 413)
        self.refused(BLADE | {"px": 10**9}, "px", address="/api/predict/blade.png")
        self.refused(BAR | {"stages": 40}, "stages", address="/api/predict/bar.png")
        self.refused("[]", "", address="/api/designs/import")
        self.refused({"format": "varistrat.recipe/9"}, "format", address="/api/designs/import")
        self.refused({"starter": "dragon"}, "starter", address="/api/designs")

    def test_what_cannot_be_done_comes_with_the_ledger_so_far(self) -> None:
        response = self.send(
            "post", "/api/predict/ledger", self.changed("recipe", "bar", "steps", 3, value={"kind": "trim", "start": 5000.0})
        )
        answer = response.json()
        self.assertEqual((response.status_code, len(answer["rows"])), (200, 4))
        self.assertEqual(answer["problems"][0]["path"], "recipe.bar.steps[3].start")
        self.assertIsNone(answer["shape"])

    def test_an_unknown_tone_is_refused(self) -> None:
        two, eleven = {"figures": {"tone": {"ferric": 2}}}, {"figures": {"tone": {"ferric": 11}}}
        self.assertEqual(self.send("put", "/api/steels/mithril", two).json()["problems"][0]["path"], "key")
        self.assertEqual(self.send("put", "/api/steels/1084", eleven).json()["problems"][0]["path"], "tone.ferric")


class PictureTests(ApiCase):
    def test_pictures_have_the_size_asked_for(self) -> None:
        for address, body, width in (("/api/predict/blade.png", BLADE, 200), ("/api/predict/bar.png", BAR, 120)):
            response = self.send("post", address, body)
            self.assertEqual(Image.open(BytesIO(response.content)).width, width)

    def test_a_kept_picture_is_fetched_once(self) -> None:
        design = self.new()
        address = f"/api/designs/{design}/picture.png"
        first = self.send("get", address)
        again = self.send("get", address, HTTP_IF_NONE_MATCH=first["ETag"])
        self.assertEqual((first.status_code, again.status_code, again.content), (200, 304, b""))
        self.send("put", "/api/steels/1084", {"figures": {"tone": {"ferric": 6.0}}})
        changed = self.send("get", address, HTTP_IF_NONE_MATCH=first["ETag"])
        self.assertEqual(changed.status_code, 200)
        self.assertNotEqual(changed.content, first.content)

    def test_a_newer_request_sets_the_older_aside(self) -> None:
        self.send("post", "/api/predict/bar.png", BAR, HTTP_X_LANE="page-face;7")
        older = self.send("post", "/api/predict/bar.png", BAR, HTTP_X_LANE="page-face;6")
        self.assertEqual((older.status_code, older.json()["code"]), (409, "superseded"))
        newer = self.send("post", "/api/predict/bar.png", BAR, HTTP_X_LANE="page-face;8")
        self.assertEqual(newer.status_code, 200)


class BoundsTests(ApiCase):
    def test_no_request_draws_for_ever(self) -> None:
        tall = deepcopy(DOCUMENT)
        tall["recipe"]["bar"] |= {"start": {"kind": "solid", "steel": "1084", "length": 100, "width": 1, "thickness": 900}, "steps": []}
        asked = {"document": tall, "stages": 0, "view": "end", "px": 2000}
        self.assertIn("down", self.send("post", "/api/predict/bar.png", asked).json()["problems"][0]["wrong"])
        with mock.patch("varistrat.designs.services.predict.MAX_DRAW_SECONDS", -1.0):
            late = self.send("post", "/api/predict/bar.png", BAR)
        self.assertEqual((late.status_code, late.json()["problems"][0]["path"]), (422, "recipe"))


class KeepingTests(ApiCase):
    def test_stale_save(self) -> None:
        design = self.new()
        other = deepcopy(DOCUMENT)
        other["recipe"]["bar"]["steps"][3]["turns"] = 9.0
        self.assertEqual(self.send("put", f"/api/designs/{design}", {"document": other, "base": 1}).json()["current"], 2)
        other["recipe"]["bar"]["steps"][3]["turns"] = 5.0
        refused = self.send("put", f"/api/designs/{design}", {"document": other, "base": 1})
        self.assertEqual(
            (refused.status_code, refused.json()["code"], refused.json()["current"], refused.json()["kept"]), (409, "stale", 2, 3)
        )
        kept = self.send("get", f"/api/designs/{design}/revisions/3").json()["document"]
        self.assertEqual(kept["recipe"]["bar"]["steps"][3]["turns"], 5.0)

    def test_out_and_in_again_is_the_same_recipe(self) -> None:
        design = self.new("fine_restack")
        out = self.send("get", f"/api/designs/{design}/recipe.json")
        self.assertIn("fine-restack.recipe.json", out["Content-Disposition"])
        again = self.send("post", "/api/designs/import", out.content).json()["id"]
        self.assertEqual(self.send("get", f"/api/designs/{again}/recipe.json").json(), out.json())

    def test_the_bench_asks_a_fixed_number_of_queries(self) -> None:
        for _ in range(3):
            self.new()
        with self.assertNumQueries(3):  # session, user and where they work, bench
            self.send("get", "/api/designs")
        for _ in range(9):
            self.new()
        with self.assertNumQueries(3):
            self.assertEqual(len(self.send("get", "/api/designs").json()), 12)


class DoorTests(ApiCase):
    def test_sign_in_and_out(self) -> None:
        door = Client(**HTTP)
        self.assertEqual(door.get("/api/session").json()["user"], None)
        wrong = self.send("post", "/api/session/sign-in", {"user": "smith", "password": "guess"}, door)
        self.assertEqual((wrong.status_code, wrong.json()["code"]), (401, "wrong_sign_in"))
        right = self.send("post", "/api/session/sign-in", {"user": "smith", "password": "anvil-and-tongs-9"}, door)
        self.assertEqual(right.json()["user"], "smith")
        self.send("post", "/api/session/sign-out", {}, door)
        self.assertEqual(door.get("/api/designs").status_code, 401)

    # no try waits its time out, however slow the machine is
    @mock.patch.object(sign_in.pace, "_clock", lambda: 1_900_000_000.0)
    def test_guessing_is_throttled(self) -> None:
        door = Client(**HTTP)
        codes = [
            self.send("post", "/api/session/sign-in", {"user": "smith", "password": f"guess {i}"}, door).json()["code"] for i in range(8)
        ]
        self.assertEqual(codes[:3], ["wrong_sign_in"] * 3)
        self.assertIn("wait", codes)
        right = self.send("post", "/api/session/sign-in", {"user": "smith", "password": "anvil-and-tongs-9"}, door)
        self.assertEqual((right.status_code, right.json()["code"]), (429, "wait"))
        self.assertGreaterEqual(int(right["Retry-After"]), 1)

    def test_passwords_are_kept_by_argon2(self) -> None:
        self.assertTrue(self.smith.password.startswith("argon2"))

    def test_the_demo_door_opens_only_in_a_demo(self) -> None:
        self.smith.delete()
        load_demo()
        door = Client(**HTTP)
        with override_settings(DEMO=False):
            self.assertEqual(self.send("post", "/api/session/demo", {}, door).status_code, 403)
        with override_settings(DEMO=True):
            self.assertEqual(self.send("post", "/api/session/demo", {}, door).json()["user"], "quillet-dyke")

    def test_safe_headers(self) -> None:
        page = self.client.get("/design/1")
        policy = page["Content-Security-Policy"]
        self.assertIn("script-src 'self'", policy)
        self.assertNotIn("unsafe", policy)
        self.assertEqual((page["X-Frame-Options"], page["X-Content-Type-Options"]), ("DENY", "nosniff"))
        self.assertIn("csrftoken", page.cookies)
        self.assertEqual(self.client.get("/api/nothing").status_code, 404)


class TypedTests(SimpleTestCase):
    def test_no_route_answers_with_just_anything(self) -> None:
        """What a route gives is said by its type, and is what its description says."""
        for path, view in ((p, v) for _, r in api._routers for p, v in r.path_operations.items()):
            for operation in view.operations:
                told = get_type_hints(operation.view_func, include_extras=True).get("return")
                self.assertIsNotNone(told, f"{path}: {operation.view_func.__name__}")
                self.assertNotIn("Any", str(told).replace("dict[str, typing.Any]", ""), f"{path}: {operation.view_func.__name__}")
