"""What comes from strangers: drawings that would eat the machine, bodies full of errors, figures that brick, databases that fail.
Never a 500."""

import io
import json
import math
from collections.abc import Iterator
from contextlib import contextmanager
from typing import Any
from unittest import mock

from django.contrib.auth.models import User
from django.core.management import call_command
from django.core.management.base import CommandError
from django.db import OperationalError
from django.test import Client, SimpleTestCase, TestCase

from tests.api.test_api import DOCUMENT, HTTP, LAMINATE, ApiCase
from tests.described import described
from tests.profile import quick_or
from tests.work import at_most
from varistrat.accounts.models import Tries
from varistrat.accounts.services import password, sign_in
from varistrat.core.interchange import apart
from varistrat.core.interchange.outline import read_outlines
from varistrat.core.interchange.text import cell, from_cell, printable
from varistrat.designs.services import predict
from varistrat.shop.models import ShopSteel
from varistrat.shop.services.people import member_of

SVG = b'<svg xmlns="http://www.w3.org/2000/svg" xmlns:xlink="http://www.w3.org/1999/xlink">%s</svg>'


def nested_use(depth: int = 9) -> bytes:
    out = b'<defs><g id="a0"><path d="M0 0L9 0L9 9Z"/></g>'
    for i in range(depth):
        out += b'<g id="a%d">' % (i + 1) + b'<use xlink:href="#a%d"/>' % i * 10 + b"</g>"
    return SVG % (out + b'</defs><use xlink:href="#a%d"/>' % depth)


def circle_dxf(radius: str) -> bytes:
    return f"0\nSECTION\n2\nENTITIES\n0\nCIRCLE\n8\n0\n10\n0\n20\n0\n40\n{radius}\n0\nENDSEC\n0\nEOF\n".encode()


HOSTILE: dict[str, bytes] = {
    "giant rectangle": SVG % b'<rect width="1e308" height="1e308"/>',
    "giant circle": circle_dxf("1e15"),
    "circle beyond numbers": circle_dxf("1e308"),
    "uses of uses": nested_use(),
    "rules without end": SVG % (b"<style>" + b".a{fill:red}" * 60_000 + b'</style><path class="a" d="M0 0L9 0L9 9Z"/>'),
    "a megabyte of curves": SVG % (b'<path d="M0 0' + b"C1 2 3 4 5 6" * 75_000 + b'Z"/>'),
    "arcs": SVG % (b'<path d="M0 0A5 5 0 0 1 9 9Z"/>' * 30_000),
}


class DrawingTests(ApiCase):
    def test_tiny_files_do_not_stop_the_service(self) -> None:
        self.enterContext(mock.patch.object(apart, "SECONDS", quick_or(2.0, apart.SECONDS)))
        for n, (name, raw) in enumerate(HOSTILE.items()):
            # both routes read by the same readers: in quick each file goes one way
            for route in quick_or((("outlines", "blade-outline")[n % 2],), ("outlines", "blade-outline")):
                file = io.BytesIO(raw)
                file.name = "x.dxf" if raw.startswith(b"0") else "x.svg"
                answer = self.client.post(f"/api/files/{route}", {"file": file})
                self.assertIn(answer.status_code, (200, 422), (name, route))
        good = io.BytesIO(SVG % b'<path d="M0 0L9 0L9 9Z"/>')
        good.name = "x.svg"
        self.assertEqual(self.client.post("/api/files/outlines", {"file": good}).status_code, 200)

    def test_what_is_read_apart_comes_back_alike(self) -> None:
        raw = SVG % b'<path d="M0 0L9 0L9 9Z"/>'
        self.assertEqual(apart.read_apart(read_outlines, "x.svg", raw), read_outlines("x.svg", raw))

    def test_a_full_house_sends_away_at_once(self) -> None:
        with mock.patch.object(apart, "PATIENCE", 0.05):
            for _ in range(apart.AT_ONCE):
                self.assertTrue(apart._places.take(0))
            try:
                good = io.BytesIO(SVG % b'<path d="M0 0L9 0L9 9Z"/>')
                good.name = "x.svg"
                answer = self.client.post("/api/files/outlines", {"file": good})
                self.assertEqual((answer.status_code, answer.json()["code"]), (503, "busy"))
                self.assertTrue(answer["Retry-After"])
            finally:
                for _ in range(apart.AT_ONCE):
                    apart._places.give()


BODIES = (b"", b"null", b"[]", b'"x"', b"\xff", b'{"a":1e999}', b"{" * 100)


class BodyTests(ApiCase):
    def post(self, path: str, body: Any) -> Any:
        raw = body if isinstance(body, str | bytes) else json.dumps(body)
        return self.client.post(path, raw, content_type="application/json")

    def quick(self, path: str, body: Any, calls: int) -> None:
        with at_most(calls):
            answer = self.post(path, body)
        self.assertEqual(answer.status_code, 422)
        self.assertLessEqual(len(answer.json()["problems"]), 50)

    def test_errors_are_worded_once(self) -> None:
        self.quick("/api/predict/ledger", {"document": {**DOCUMENT, **{f"k{i}": 1 for i in range(40_000)}}}, 1_000_000)
        self.quick("/api/designs/import", {**DOCUMENT["recipe"], **{f"k{i}": 1 for i in range(100_000)}}, 3_000_000)
        layers = [{"steel": "1085", "thickness": 1.0}] * 1000
        start = {"kind": "stack", "layers": layers, "width": 30.0, "length": 90.0}
        self.quick("/api/predict/ledger", {"document": {"recipe": {"format": "varistrat.recipe/1", "bar": {"start": start}}}}, 1_000_000)
        rows = "key,C\n" + "\n".join(f"s{i},lots" for i in range(200))
        self.quick("/api/steels/csv", {"text": rows}, 1_000_000)

    def test_half_a_sign_is_no_text_wherever_it_stands(self) -> None:
        """Two surrogates are a sign; one alone cannot be kept, shown or printed by anything."""
        order = {"who": "Coppice", "title": "Spoke knife"}
        rack = "id,steel,width,thickness,length,note\na,1084,40,6,100,%s\n"
        for path, body, place in (
            ("/api/builds/orders", order | {"title": "knife \ud83d"}, "title"),
            ("/api/builds/orders", order | {"must": "\ude00\ud83d"}, "must"),
            ("/api/builds/orders", order | {"\udc80": "x"}, ""),
            ("/api/rack/file.csv", {"text": rack % "by\udfff"}, "text"),
            ("/api/rack/items", {"items": [{"steel": "1084", "note": "\ud800"}]}, "items[0].note"),
            ("/api/steels/csv", {"text": "key,name\nx,\ud900\n"}, "text"),
        ):
            refused = self.post(path, body)
            self.assertEqual(refused.status_code, 422, f"{path}: {refused.content[:200]!r}")
            self.assertEqual(refused.json()["problems"][0]["path"], place)
            self.assertIn("half of a sign", refused.json()["problems"][0]["wrong"])
        whole = self.post("/api/builds/orders", order | {"title": "knife \U0001f600"})
        self.assertEqual((whole.status_code, whole.json()["title"]), (201, "knife \U0001f600"))
        # in the bytes themselves it is not UTF-8
        self.assertEqual(self.post("/api/builds/orders", b'{"who": "a", "title": "\xed\xa0\xbd"}').status_code, 422)

    def test_nothing_in_a_body(self) -> None:
        for path, methods in described()["paths"].items():
            address = path.replace("{key}", "1084")
            for name in (
                "{design_id}",
                "{number}",
                "{job_id}",
                "{sheet_id}",
                "{index}",
                "{program_id}",
                "{run_id}",
                "{action}",
                "{method}",
            ):
                address = address.replace(name, "1")
            for method in methods:
                if method in ("post", "put", "patch") and "session" not in path:
                    for body in BODIES[:: quick_or(2, 1)]:
                        answer = getattr(self.client, method)(address, body, content_type="application/json")
                        self.assertLess(answer.status_code, 500, (method, path, body, answer.content[:200] if not answer.streaming else ""))

    def test_numbers_larger_than_any(self) -> None:
        made = self.new()
        for path in (
            f"/api/designs/{2**63}",
            f"/api/designs/{made}/revisions/{2**63}",
            f"/api/kiln/runs/{2**63}",
            f"/api/jobs/{2**70}",
            f"/api/jobs/{2**63}/files/1",
        ):
            self.assertIn(self.client.get(path).status_code, (404, 422), path)
        self.assertEqual(
            self.client.put(
                f"/api/designs/{made}", json.dumps({"document": DOCUMENT, "base": 2**63}), content_type="application/json"
            ).status_code,
            422,
        )
        self.assertEqual(self.client.get(f"/api/designs/{made}/revisions?before={2**63}").status_code, 422)

    def test_figures_that_would_brick_a_steel(self) -> None:
        for figures in (
            '{"tone": "right"}',
            '{"tone": NaN}',
            '{"tone": {"ferric": NaN}}',
            '{"density": NaN}',
            '{"solidus": 1e999}',
            '{"tone": []}',
            '{"composition": {"C": -NaN}}',
        ):
            answer = self.client.put("/api/steels/1084", '{"figures": ' + figures + "}", content_type="application/json")
            self.assertEqual(answer.status_code, 422, figures)
            self.assertFalse(ShopSteel.objects.exists(), figures)
        self.assertEqual(self.client.get("/api/steels").status_code, 200)

    def test_not_finite_is_told_with_its_place(self) -> None:
        answer = self.post("/api/predict/ledger", json.dumps({"document": DOCUMENT}).replace('"width": 34.0', '"width": NaN'))
        self.assertEqual(answer.json()["problems"][0]["path"], "document.recipe.bar.start.width")


class FailingTests(ApiCase):
    def test_a_failing_database_is_told_in_words(self) -> None:
        made = self.new()
        for said, word in (
            ("database or disk is full", "full"),
            ("attempt to write a readonly database", "written"),
            ("database is locked", "busy"),
        ):
            with mock.patch("varistrat.designs.services.keep._write", side_effect=OperationalError(said)):
                answer = self.client.put(
                    f"/api/designs/{made}", json.dumps({"document": LAMINATE, "base": 1}), content_type="application/json"
                )
            self.assertEqual((answer.status_code, answer["Content-Type"]), (503, "application/problem+json"))
            self.assertIn(word, answer.json()["title"])
            self.assertTrue(answer["Retry-After"])

    def test_what_nothing_caught_is_problem_json(self) -> None:
        self.client.raise_request_exception = False
        with mock.patch("varistrat.designs.selectors.bench", side_effect=RuntimeError("boom")):
            answer = self.client.get("/api/designs")
        self.assertEqual((answer.status_code, answer["Content-Type"], answer.json()["code"]), (500, "application/problem+json", "failed"))
        self.assertNotIn("boom", answer.content.decode())

    def test_a_picture_is_drawn_though_it_cannot_be_kept(self) -> None:
        made = self.new()
        with mock.patch("django.core.cache.backends.filebased.FileBasedCache.set", side_effect=OSError(28, "No space left on device")):
            answer = self.client.get(f"/api/designs/{made}/picture.png?px=64")
        self.assertEqual((answer.status_code, answer["Content-Type"]), (200, "image/png"))

    def test_errors_are_documented_as_they_are_sent(self) -> None:
        for path, methods in described()["paths"].items():
            for method, about in methods.items():
                for code, answer in about["responses"].items():
                    if int(code) >= 400:
                        self.assertEqual(list(answer["content"]), ["application/problem+json"], (method, path, code))

    def test_the_description_is_not_made_for_everybody(self) -> None:
        self.assertEqual(Client(**HTTP).get("/api/openapi.json").status_code, 404)


class TextTests(SimpleTestCase):
    def test_formulas_sleep_in_cells(self) -> None:
        for said in ("=HYPERLINK(1)", "+1", "-2", "@x", "'quoted", "plain", "\t=1"):
            self.assertFalse(cell(said).startswith(("=", "+", "-", "@", "\t")))
            self.assertEqual(from_cell(cell(said)), said)
        self.assertEqual(cell("plain"), "plain")

    def test_titles_of_drawings(self) -> None:
        self.assertEqual(printable("a\x00b\x1b\u202ec\nd"), "abc\nd")


class FormulaTests(ApiCase):
    def test_a_name_that_is_a_formula(self) -> None:
        self.send("post", "/api/steels", {"key": "bad", "figures": {"name": '=HYPERLINK("x")', "composition": {"C": 0.6}}})
        text = self.client.get("/api/steels.csv").content.decode()
        self.assertNotIn(",=HYPERLINK", text)
        self.assertNotIn(',"=HYPERLINK', text)
        self.assertEqual(self.send("post", "/api/steels/csv", {"text": text}).status_code, 200)
        self.assertEqual(next(s["name"] for s in self.client.get("/api/steels").json() if s["key"] == "bad"), '=HYPERLINK("x")')

    def test_a_title_with_control_characters(self) -> None:
        document = {**DOCUMENT, "recipe": {**DOCUMENT["recipe"], "name": "a\x08b"}}
        answer = self.send("post", "/api/files/section", {"document": document, "plane": {"x": 30}, "kind": "svg"})
        self.assertNotIn(b"\x08", answer.content)


class PaceTests(TestCase):
    def setUp(self) -> None:
        self.now = 1e9
        self.pace = sign_in.Pace(lambda: self.now, most=60)

    def wrong(self, name: str, address: str, times: int) -> None:
        for _ in range(times):
            self.pace.wrong(name, address)

    def test_waits_grow(self) -> None:
        waits = []
        for _ in range(9):
            self.pace.wrong("smith", "1.1.1.1")
            waits.append(self.pace.must_wait("smith", "1.1.1.1"))
        self.assertEqual(waits, [0, 0, 1, 2, 4, 8, 16, 32, 64])
        self.now += 63.0
        self.assertEqual(self.pace.must_wait("smith", "1.1.1.1"), 1.0)
        # asking does not lengthen it
        self.assertEqual(self.pace.must_wait("smith", "1.1.1.1"), 1.0)

    def test_nobody_locks_another_out(self) -> None:
        self.wrong("smith", "6.6.6.6", 500)
        self.assertGreater(self.pace.must_wait("smith", "6.6.6.6"), 600)
        self.assertLessEqual(self.pace.must_wait("smith", "1.1.1.1"), sign_in.LONGEST["name"])

    def test_many_at_once_are_not_many_tries(self) -> None:
        """Whoever waits for a turn is looked at only if those before, wrong by then, leave a try."""
        smith = User.objects.create_user("smith", password="anvil-and-tongs-9")
        request = mock.Mock(META={"REMOTE_ADDR": "1.1.1.1"})

        @contextmanager
        def others_first() -> Iterator[None]:
            self.wrong("smith", "1.1.1.1", 5)
            yield

        for tried in (
            lambda: sign_in.check(request, "smith", "anvil-and-tongs-9"),
            lambda: password.is_theirs(request, user=smith, password="anvil-and-tongs-9", field="old"),
        ):
            Tries.objects.all().delete()
            with (
                mock.patch.object(sign_in, "pace", self.pace),
                mock.patch.object(sign_in, "turn", others_first),
                mock.patch.object(sign_in, "authenticate") as looked,
                mock.patch.object(User, "check_password") as asked,
                self.assertRaises(sign_in.Wait),
            ):
                tried()
            looked.assert_not_called()
            asked.assert_not_called()

    def test_a_wrong_one_is_counted_before_the_next_has_its_turn(self) -> None:
        request = mock.Mock(META={"REMOTE_ADDR": "1.1.1.1"})
        counted: list[int] = []

        @contextmanager
        def turn() -> Iterator[None]:
            yield
            counted.append(max(Tries.objects.values_list("wrong", flat=True), default=0))

        with mock.patch.object(sign_in, "turn", turn):
            for _ in range(2):
                sign_in.check(request, "smith", "guess")
        self.assertEqual(counted, [1, 2])

    def test_one_count_for_all_serving_processes_and_over_a_restart(self) -> None:
        for i in range(8):
            sign_in.Pace(lambda: self.now).wrong("smith", "1.1.1.1")
            self.assertEqual(sign_in.Pace(lambda: self.now).must_wait("smith", "1.1.1.1"), [0, 0, 1, 2, 4, 8, 16, 32][i])

    def test_a_clock_set_back_keeps_nobody_out_for_longer(self) -> None:
        self.wrong("smith", "1.1.1.1", 30)
        self.now -= 86400
        self.assertEqual(self.pace.must_wait("smith", "1.1.1.1"), sign_in.LONGEST["both"])

    def test_many_names_from_one_address(self) -> None:
        for i in range(40):
            self.pace.wrong(f"n{i}", "6.6.6.6")
        self.assertGreater(self.pace.must_wait("new", "6.6.6.6"), 60)
        self.assertEqual(self.pace.must_wait("new", "1.1.1.1"), 0)

    def test_bounded_and_forgotten(self) -> None:
        for i in range(200):
            self.pace.wrong(f"made-up-{i}", f"10.0.{i % 250}.{i // 250}")
        self.assertEqual(Tries.objects.count(), 60)
        # the newest are those that are kept
        self.assertEqual(Tries.objects.filter(key__in=sign_in._keys("made-up-199", "10.0.199.0", code=False)).count(), 3)
        self.wrong("smith", "1.1.1.1", 5)
        self.now += sign_in.FORGOTTEN + 10
        self.pace.wrong("smith", "1.1.1.1")
        self.assertEqual(self.pace.must_wait("smith", "1.1.1.1"), 0)
        self.wrong("smith", "1.1.1.1", 5)
        self.pace.right("smith", "1.1.1.1")
        self.assertEqual(self.pace.must_wait("smith", "1.1.1.1"), 0)

    def test_only_trusted_proxies_are_believed(self) -> None:
        from django.test import RequestFactory, override_settings

        request = RequestFactory().get("/", REMOTE_ADDR="9.9.9.9", HTTP_X_FORWARDED_FOR="6.6.6.6, 1.1.1.1")
        for trusted, want in ((0, "9.9.9.9"), (1, "1.1.1.1"), (2, "6.6.6.6"), (3, "9.9.9.9")):
            with override_settings(TRUSTED_PROXIES=trusted):
                self.assertEqual(sign_in.address_of(request), want)


class PasswordTests(TestCase):
    def test_a_poor_password_is_refused_without_asking_too(self) -> None:
        with mock.patch.dict("os.environ", {"DJANGO_SUPERUSER_PASSWORD": "123"}), self.assertRaises(CommandError):
            call_command("createsuperuser", "--noinput", "--username", "smith", "--email", "a@example.org")
        self.assertFalse(User.objects.exists())
        with mock.patch.dict("os.environ", {"DJANGO_SUPERUSER_PASSWORD": "anvil-and-tongs-9"}):
            call_command("createsuperuser", "--noinput", "--username", "smith", "--email", "a@example.org")
        self.assertTrue(User.objects.get().password.startswith("argon2$argon2id$v=19$m=19456,t=2"))


class HeavyTests(ApiCase):
    def steps(self, n: int) -> dict[str, Any]:
        base = LAMINATE["recipe"]["bar"]
        more = [{"kind": "turn", "degrees": 180.0}] * (n - len(base["steps"]))
        return {**LAMINATE, "recipe": {**LAMINATE["recipe"], "bar": {**base, "steps": base["steps"] + more}}}

    def test_a_row_of_many_portraits_is_drawn_smaller_not_late(self) -> None:
        with at_most(8_000_000):
            answer = self.send("post", "/api/predict/portraits", {"document": self.steps(200), "px_per_mm": 40, "max_mm": 500})
        self.assertEqual(answer.status_code, 200, answer.content[:200])
        self.assertEqual(len(answer.json()), 201)

    def test_a_slanting_section(self) -> None:
        for kind in ("dxf", "svg", "tiff"):
            with at_most(1_500_000):
                answer = self.send("post", "/api/files/section", {"document": DOCUMENT, "plane": {"x": 60, "turn": 80}, "kind": kind})
            self.assertIn(answer.status_code, (200, 422), kind)

    def test_a_can_of_hundreds_of_drawn_pieces(self) -> None:
        """Told or dropped in, with as many corners together as there may be."""
        ring = [[math.cos(a) * (3 + math.cos(4 * a)), math.sin(a) * (3 + math.cos(4 * a))] for a in (k * math.pi / 16 for k in range(32))]
        grid = [[-19 + 1.55 * (k % 25), -19 + 1.6 * (k // 25)] for k in range(600)]
        bar = LAMINATE["recipe"]["bar"]
        # by chance in the thorough profile: what is told and what falls go the same ways from there on
        for places in quick_or([{"positions": grid}], [{"positions": grid}, {"count": 600, "seed": 1}]):
            pieces = {"shape": "outline", "steel": "15n20", "size": 0.8, "outline": ring, **places}
            can = {
                "kind": "canister",
                "length": 200,
                "width": 40,
                "thickness": 40,
                "matrix": {"steel": "1084", "packing": 0.6},
                "inserts": [pieces],
            }
            document = {**LAMINATE, "recipe": {**LAMINATE["recipe"], "bar": {**bar, "start": can, "steps": []}}}
            for path, more in (
                ("ledger", {}),
                ("bar.png", {"stages": 0, "view": "face", "px": 1200}),
                ("blade.png", {"side": "right", "px": 1200}),
                ("portraits", {"px_per_mm": 8, "max_mm": 200}),
            ):
                with at_most(3_000_000):
                    answer = self.send("post", f"/api/predict/{path}", {"document": document, **more})
                self.assertIn(answer.status_code, (200, 422), (path, answer.content[:200]))

    def test_a_study_has_a_budget(self) -> None:
        answer = self.send("post", "/api/blade/study", {"document": LAMINATE, "blades": 50_000, "stations": 200})
        self.assertEqual(answer.status_code, 422)
        self.assertIn("blades", answer.json()["problems"][0]["path"])

    def test_two_hundred_steels_are_suggested_from_in_time(self) -> None:
        for i in range(200):
            ShopSteel.objects.create(
                shop=member_of(self.smith).shop,
                key=f"own-{i}",
                figures={"name": f"Own {i}", "composition": {"C": 0.6 + i / 500, "Mn": 0.5, "Ni": (i % 7) / 3}},
            )
        with at_most(16_000_000):
            answer = self.send("post", "/api/pairings/suggest", {"use": "edge"})
        self.assertEqual(answer.status_code, 200)
        self.assertGreater(len(answer.json()), 5)

    def test_costs_are_reckoned_before(self) -> None:
        worked = predict.work_out(predict.read_document(DOCUMENT))
        small = predict.blade_cost(worked, predict.BladePicture("right", 200))
        large = predict.blade_cost(worked, predict.BladePicture("right", 2000))
        self.assertAlmostEqual(large / small, 100, delta=1)
        full = predict.blade_cost(worked, predict.BladePicture("right", 200, quality="full"))
        self.assertGreater(full, 3 * small)
