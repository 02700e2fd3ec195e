"""A code of one's phone at sign-in: set up, asked for, counted once, guessed at slowly, lost; and owners who must have one."""

import json
from io import StringIO
from typing import Any
from unittest import mock

import pyotp
from django.core.management import CommandError, call_command
from django.test import Client, SimpleTestCase, TestCase, override_settings

from tests.api.test_api import HTTP
from tests.people import member, signed_in
from varistrat.accounts.models import SecondSign, Tries
from varistrat.accounts.services import second, sign_in
from varistrat.demo.people import DEMO_PEOPLE
from varistrat.shop.models import Role

PASSWORD = "lantern-and-quay-7"
NOW = 1_900_000_000.0


def post(client: Client, path: str, **body: Any) -> Any:
    return client.post(f"/api/session{path}", json.dumps(body), content_type="application/json", **HTTP)


class PublishedTests(SimpleTestCase):
    def test_codes_are_those_of_rfc_6238(self) -> None:
        # its appendix B, SHA-1, the last six of eight digits
        secret = "GEZDGNBVGY3TQOJQGEZDGNBVGY3TQOJQ"
        for at, code in ((59, "287082"), (1111111109, "081804"), (1234567890, "005924"), (20000000000, "353130")):
            with mock.patch.object(second.time, "time", lambda at=at: float(at)):
                sign = SecondSign(secret=secret)
                self.assertTrue(second._of_phone(sign, code), at)
                self.assertEqual(sign.counter, at // 30)
                self.assertFalse(second._of_phone(SecondSign(secret=secret), "000000"))


class SecondTests(TestCase):
    def setUp(self) -> None:
        self.who = member("smith")
        self.who.user.set_password(PASSWORD)
        self.who.user.save()
        self.now = NOW
        # the waits of who guesses go by the same clock, which stands still unless a test says otherwise
        for clock in (
            mock.patch.object(second.time, "time", lambda: self.now),
            mock.patch.object(sign_in.pace, "_clock", lambda: self.now),
        ):
            clock.start()
            self.addCleanup(clock.stop)

    def code(self, steps: int = 0) -> str:
        """What the phone shows so many half minutes from now."""
        return pyotp.TOTP(SecondSign.objects.get(user=self.who.user).secret).generate_otp(int(self.now // 30) + steps)

    def set_up(self) -> list[str]:
        """The spare codes; the clock stands a minute later, so that the phone shows another code."""
        client = signed_in(self.who)
        self.assertEqual(post(client, "/second/begin", password=PASSWORD).status_code, 200)
        answer = post(client, "/second", code=self.code())
        self.assertEqual(answer.status_code, 200, answer.content)
        self.now += 60
        spare: list[str] = answer.json()["spare"]
        return spare

    def enter(self, code: str = "", password: str = PASSWORD, **more: Any) -> Any:
        return post(Client(**more), "/sign-in", user="smith", password=password, code=code)

    def test_set_up_by_who_knows_the_password_and_has_the_phone(self) -> None:
        here, tablet = signed_in(self.who), signed_in(self.who)
        self.assertEqual(post(here, "/second/begin", password="guess").json()["problems"][0]["path"], "password")
        begun = post(here, "/second/begin", password=PASSWORD).json()
        self.assertEqual(begun["secret"].replace(" ", ""), SecondSign.objects.get().secret)
        self.assertTrue(begun["picture"].startswith("data:image/svg+xml"))
        # nothing is asked for until a code was given back
        self.assertEqual(self.enter().status_code, 200)
        answer = post(here, "/second", code="123")
        self.assertEqual((answer.status_code, answer.json()["problems"][0]["path"]), (422, "code"))
        spare = post(here, "/second", code=self.code()).json()["spare"]
        self.assertEqual(len(set(spare)), second.SPARE)
        told = here.get("/api/session", **HTTP).json()
        self.assertEqual((told["user"], told["spare_codes"]), ("smith", second.SPARE))
        # one that gave no code is signed out
        self.assertIsNone(tablet.get("/api/session", **HTTP).json()["user"])
        self.assertEqual(self.enter().json()["code"], "code_wanted")
        # a second phone would leave the first one without knowing
        self.assertEqual(post(here, "/second/begin", password=PASSWORD).status_code, 422)
        self.assertEqual(post(here, "/second", code=self.code()).status_code, 422)

    def test_nothing_but_hashes_of_spare_codes_is_kept(self) -> None:
        spare = self.set_up()
        kept = json.dumps(SecondSign.objects.get().spare)
        for one in spare:
            self.assertNotIn(one.replace("-", ""), kept)

    def test_a_password_alone_lets_nobody_in(self) -> None:
        self.set_up()
        for code in ("", "  ", "000000", "x" * 60):
            answer = self.enter(code)
            self.assertEqual((answer.status_code, answer.json()["code"]), (401, "code_wanted"), code)
        # nor does a code alone, and nothing tells that it was right
        self.assertEqual(self.enter(self.code(), password="guess").json()["code"], "wrong_sign_in")
        Tries.objects.all().delete()
        code = self.code()
        self.assertEqual(self.enter(f" {code[:3]} {code[3:]} ").status_code, 200)

    def test_a_code_counts_once_and_those_before_it_no_more(self) -> None:
        self.set_up()
        before, now, after = self.code(-1), self.code(), self.code(1)
        self.assertEqual(self.enter(now).status_code, 200)
        for used in (now, before):
            self.assertEqual(self.enter(used).status_code, 401)
        Tries.objects.all().delete()
        self.assertEqual(self.enter(after).status_code, 200)

    def test_clocks_may_differ_by_half_a_minute_not_by_more(self) -> None:
        self.set_up()
        early, late = self.code(-2), self.code(2)
        self.assertEqual([self.enter(c).status_code for c in (early, late)], [401, 401])
        Tries.objects.all().delete()
        self.assertEqual(self.enter(self.code(-1)).status_code, 200)

    def test_a_spare_code_counts_once(self) -> None:
        first, other = self.set_up()[:2]
        self.assertEqual(self.enter(first.upper().replace("-", " ")).status_code, 200)
        self.assertEqual(self.enter(first).status_code, 401)
        answer = self.enter(other)
        self.assertEqual((answer.status_code, answer.json()["spare_codes"]), (200, second.SPARE - 2))

    def test_guessing_codes_is_slow_from_wherever_one_does_it(self) -> None:
        self.set_up()
        answers = [self.enter("000000", REMOTE_ADDR=f"10.0.0.{i}").status_code for i in range(9)]
        self.assertEqual(answers[:5], [401] * 5)
        self.assertEqual(answers[-1], 429)
        # while one waits a right one is not looked at either
        self.assertEqual(self.enter(self.code(), REMOTE_ADDR="10.0.1.1").status_code, 429)

    def test_strangers_who_do_not_know_the_password_keep_nobody_out(self) -> None:
        self.set_up()
        for i in range(30):
            self.enter("000000", password="guess", REMOTE_ADDR=f"10.0.2.{i}")
        self.assertFalse(Tries.objects.filter(key__startswith="code").exists())

    def test_ended_by_who_knows_the_password(self) -> None:
        self.set_up()
        here = signed_in(self.who)
        self.assertEqual(post(here, "/second/end", password="guess").status_code, 422)
        self.assertIsNone(post(here, "/second/end", password=PASSWORD).json()["spare_codes"])
        self.assertEqual(self.enter().status_code, 200)

    def test_it_is_ones_own(self) -> None:
        self.set_up()
        other = member("other")
        other.user.set_password(PASSWORD)
        other.user.save()
        self.assertEqual(post(Client(), "/sign-in", user="other", password=PASSWORD).status_code, 200)
        post(signed_in(other), "/second/end", password=PASSWORD)
        self.assertEqual(self.enter().status_code, 401)

    def test_a_lost_phone_is_ended_by_who_runs_the_server(self) -> None:
        self.set_up()
        said = StringIO()
        call_command("end_code", "Smith", stdout=said)
        self.assertIn("password alone", said.getvalue())
        self.assertEqual(self.enter().status_code, 200)
        for name in ("smith", "nobody"):
            with self.assertRaises(CommandError):
                call_command("end_code", name)

    def test_the_demo_has_none(self) -> None:
        with override_settings(DEMO=True):
            answer = post(signed_in(member(DEMO_PEOPLE[Role.OWNER])), "/second/begin", password="x")
        self.assertEqual((answer.status_code, answer.json()["code"]), (403, "demo"))

    def test_no_code_or_secret_is_in_the_log(self) -> None:
        with self.assertLogs("varistrat.security", "INFO") as told:
            spare = self.set_up()
            code = self.code()
            self.enter("000000")
            self.enter(code)
            self.enter(spare[0])
            second.end(user=self.who.user)
        said = "\n".join(told.output)
        for word in ("asks for a code", "wrong code", "spare code, 7 left", "no code"):
            self.assertIn(word, said)
        for secret in (code, "000000", spare[0], *spare[0].split("-")):
            self.assertNotIn(secret, said)


@override_settings(CODE_FOR_OWNERS=True)
class OwnersTests(TestCase):
    def test_owners_without_one_may_look_until_they_have_one(self) -> None:
        owner = member("owner")
        client = signed_in(owner)

        def rename() -> Any:
            return client.patch("/api/shop", json.dumps({"name": "Ours"}), content_type="application/json", **HTTP)

        self.assertTrue(client.get("/api/session", **HTTP).json()["code_needed"])
        answer = rename()
        self.assertEqual((answer.status_code, answer.json()["code"]), (403, "code_needed"))
        self.assertEqual(client.get("/api/designs", **HTTP).status_code, 200)
        SecondSign.objects.create(user=owner.user, secret=pyotp.random_base32())
        self.assertEqual(rename().status_code, 403, "not confirmed yet")
        SecondSign.objects.update(confirmed="2026-01-01T00:00:00Z")
        self.assertEqual(rename().status_code, 200)
        self.assertFalse(client.get("/api/session", **HTTP).json()["code_needed"])

    def test_nobody_else_has_to(self) -> None:
        owner = member("owner")
        client = signed_in(member("striker", Role.SMITH, owner.shop))
        self.assertFalse(client.get("/api/session", **HTTP).json()["code_needed"])
        with override_settings(CODE_FOR_OWNERS=False):
            self.assertFalse(signed_in(owner).get("/api/session", **HTTP).json()["code_needed"])
