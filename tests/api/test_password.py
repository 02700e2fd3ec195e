"""A password of one's own: changed by who knows it, all other browsers signed out; the security log, and that no secret is in it."""

import json
import re
from pathlib import Path
from typing import Any
from unittest import mock

from django.contrib.auth.models import User
from django.contrib.sessions.models import Session
from django.test import Client, SimpleTestCase, TestCase, override_settings

from tests.api.test_api import HTTP
from tests.people import member
from varistrat.accounts.models import Tries
from varistrat.accounts.services import sign_in
from varistrat.demo.people import DEMO_PEOPLE
from varistrat.shop.models import Membership, Role
from varistrat.shop.services import people

OLD, NEW = "lantern-and-quay-7", "a row of nine plain words"


class PasswordTests(TestCase):
    def setUp(self) -> None:
        self.who = member("smith")
        self.who.user.set_password(OLD)
        self.who.user.save()

    def browser(self, password: str = OLD) -> Client:
        client = Client()
        answer = self.post(client, "/api/session/sign-in", {"user": "smith", "password": password})
        self.assertEqual(answer.status_code, 200, answer.content)
        return client

    def post(self, client: Client, path: str, body: Any = None) -> Any:
        return client.post(path, json.dumps(body or {}), content_type="application/json", **HTTP)

    def signed_in(self, client: Client) -> bool:
        return client.get("/api/session", **HTTP).json()["user"] == "smith"

    def test_changed_by_who_knows_it_and_others_are_signed_out(self) -> None:
        here, tablet = self.browser(), self.browser()
        answer = self.post(here, "/api/session/password", {"old": OLD, "password": NEW})
        self.assertEqual(answer.status_code, 200, answer.content)
        self.assertTrue(self.signed_in(here))
        self.assertFalse(self.signed_in(tablet))
        self.assertEqual(self.post(Client(), "/api/session/sign-in", {"user": "smith", "password": OLD}).status_code, 401)
        self.browser(NEW)

    def test_refused(self) -> None:
        here = self.browser()
        for old, new, place in (
            ("guess", NEW, "old"),
            (OLD, OLD, "password"),
            (OLD, "elevenchars", "password"),
            (OLD, "password1234", "password"),
            (OLD, "123456789012345", "password"),
        ):
            answer = self.post(here, "/api/session/password", {"old": old, "password": new})
            self.assertEqual((answer.status_code, answer.json()["problems"][0]["path"]), (422, place), new)
        self.assertEqual(self.post(here, "/api/session/password", {"old": OLD, "password": "x" * 129}).status_code, 422)
        self.assertTrue(User.objects.get(username="smith").check_password(OLD))
        self.assertEqual(self.post(Client(), "/api/session/password", {"old": OLD, "password": NEW}).status_code, 401)

    def test_twelve_are_enough_and_any_sign_will_do(self) -> None:
        for new in ("x7 -quay rop", "ünïcødé wörds ✓ fine", "w" * 20 + " and quite some more until it is a hundred and more " * 2):
            Tries.objects.all().delete()
            here = self.browser()
            answer = self.post(here, "/api/session/password", {"old": OLD, "password": new})
            self.assertEqual(answer.status_code, 200, (new, answer.content))
            self.who.user.set_password(OLD)
            self.who.user.save()

    def test_guessing_the_old_one_is_paced(self) -> None:
        here = self.browser()
        with mock.patch.object(sign_in.pace, "_clock", lambda: 1_900_000_000.0):
            codes = [self.post(here, "/api/session/password", {"old": f"guess {i}", "password": NEW}).status_code for i in range(6)]
        self.assertEqual(codes[0], 422)
        self.assertEqual(codes[-1], 429)

    def test_signed_out_everywhere_else(self) -> None:
        here, tablet, phone = self.browser(), self.browser(), self.browser()
        other = member("other")
        theirs = Client()
        theirs.force_login(other.user, backend="varistrat.shop.backend.AtWork")
        answer = self.post(here, "/api/session/sign-out-elsewhere")
        self.assertEqual(answer.json(), {"ended": 2})
        self.assertEqual([self.signed_in(c) for c in (here, tablet, phone)], [True, False, False])
        self.assertEqual(theirs.get("/api/session", **HTTP).json()["user"], "other")
        self.assertEqual(Session.objects.count(), 2)
        self.assertEqual(self.post(here, "/api/session/sign-out-elsewhere").json(), {"ended": 0})

    def test_where_one_is_signed_in_and_signed_out_of_one(self) -> None:
        here = self.browser()
        held = Client(headers={"User-Agent": "Mozilla/5.0 (Linux; Android 14) Mobile"})
        self.post(held, "/api/session/sign-in", {"user": "smith", "password": OLD})
        other = Client()
        other.force_login(member("other").user, backend="varistrat.shop.backend.AtWork")
        told = here.get("/api/session/browsers", **HTTP).json()
        self.assertEqual([(b["held"], b["here"], b["address"]) for b in told], [(True, False, "127.0.0.1"), (False, True, "127.0.0.1")])
        self.assertEqual([b["since"] is not None for b in told], [True, True])
        said = json.dumps(told)
        for client in (here, held):
            self.assertNotIn(client.session.session_key[:10], said)
        # nobody ends another's
        self.assertEqual(other.delete(f"/api/session/browsers/{told[0]['key']}", **HTTP).status_code, 204)
        self.assertTrue(self.signed_in(held))
        self.assertEqual(here.delete(f"/api/session/browsers/{told[0]['key']}", **HTTP).status_code, 204)
        self.assertEqual([self.signed_in(c) for c in (here, held)], [True, False])
        self.assertEqual(len(here.get("/api/session/browsers", **HTTP).json()), 1)

    def test_a_changed_password_is_told_at_the_next_sign_in_and_only_then(self) -> None:
        here, tablet = self.browser(), self.browser()
        self.assertIsNone(tablet.get("/api/session", **HTTP).json()["password_changed"])
        self.post(here, "/api/session/password", {"old": OLD, "password": NEW})
        # who changed it knows
        self.assertIsNone(here.get("/api/session", **HTTP).json()["password_changed"])
        told = self.post(tablet, "/api/session/sign-in", {"user": "smith", "password": NEW}).json()["password_changed"]
        self.assertIsNotNone(told)
        self.assertEqual(tablet.get("/api/session", **HTTP).json()["password_changed"], told)
        self.assertIsNone(self.post(Client(), "/api/session/sign-in", {"user": "smith", "password": NEW}).json()["password_changed"])

    def test_a_session_is_a_new_one_after_signing_in(self) -> None:
        client = Client()
        client.get("/api/session", **HTTP)
        before = client.session.session_key
        self.post(client, "/api/session/sign-in", {"user": "smith", "password": OLD})
        self.assertNotEqual(client.session.session_key, before)

    def test_the_demo_has_none(self) -> None:
        with override_settings(DEMO=True):
            client = Client()
            client.force_login(member(DEMO_PEOPLE[Role.OWNER]).user, backend="varistrat.shop.backend.AtWork")
            answer = self.post(client, "/api/session/password", {"old": "x", "password": NEW})
            self.assertEqual((answer.status_code, answer.json()["code"]), (403, "demo"))


class DocumentTests(SimpleTestCase):
    def test_every_test_that_the_page_on_security_names_is_there(self) -> None:
        root = Path(__file__).resolve().parents[2]
        named = set(re.findall(r"\btest_\w+", (root / "docs" / "security.md").read_text()))
        there = {p.stem for p in (root / "tests").rglob("test_*.py")}
        self.assertEqual(named - there, set())
        self.assertGreater(len(named), 15)


class SecurityLogTests(TestCase):
    """Who was let in, turned away, or changed what others may; never a password, a token or a session."""

    def setUp(self) -> None:
        self.owner = member("owner")
        self.owner.user.set_password(OLD)
        self.owner.user.save()

    def test_what_is_written_down(self) -> None:
        with self.assertLogs("varistrat.security", "INFO") as told:
            client = Client()
            send = lambda path, body: client.post(path, json.dumps(body), content_type="application/json", **HTTP)  # noqa: E731
            send("/api/session/sign-in", {"user": "owner", "password": "guess-the-word"})
            send("/api/session/sign-in", {"user": "owner", "password": OLD})
            send("/api/session/password", {"old": "guess-the-word", "password": NEW})
            send("/api/session/password", {"old": OLD, "password": NEW})
            token, _ = people.invite(actor=self.owner, role=Role.HELPER)
            joined = people.join_as_new(token=token, name="striker", password=NEW)
            helper = Client()
            helper.force_login(joined.user, backend="varistrat.shop.backend.AtWork")
            self.assertEqual(helper.post("/api/designs", "{}", content_type="application/json", **HTTP).status_code, 403)
            people.set_role(actor=self.owner, person_id=joined.pk, role=Role.SMITH)
            people.send_away(actor=self.owner, person_id=joined.pk)
            send("/api/session/sign-out", {})
        said = "\n".join(told.output)
        let_in = ("wrong sign-in", "signed in", "gave a wrong password", "changed, from", "signed out")
        others = ("invited", "joined", "refused POST", "made user", "took user")
        for word in (*let_in, *others):
            self.assertIn(word, said)
        for secret in (OLD, NEW, "guess-the-word", token, client.session.session_key or "none"):
            self.assertNotIn(secret, said)
        self.assertFalse(Membership.objects.filter(user=joined.user, shop=self.owner.shop).exists())

    def test_nobody_on_the_way_keeps_an_answer(self) -> None:
        client = Client()
        client.force_login(self.owner.user, backend="varistrat.shop.backend.AtWork")
        for path in ("/api/session", "/api/designs", "/api/rack", "/api/shop/people", "/api/nowhere"):
            self.assertEqual(client.get(path, **HTTP)["Cache-Control"], "no-store", path)
        self.assertIn("private", client.get("/api/starters/ladder/picture.png", **HTTP)["Cache-Control"])
