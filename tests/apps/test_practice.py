"""Exercises kept: each user's own, moved on once, bounded; nothing hidden goes to the browser."""

import json
from typing import Any
from unittest import mock

from django.test import TestCase

from tests.people import member, signed_in
from varistrat.core.errors import InputError
from varistrat.designs.selectors import NotFound
from varistrat.practice import services
from varistrat.practice.models import Attempt
from varistrat.shop.models import Role

HTTP = {"HTTP_HOST": "localhost"}


class ServicesTests(TestCase):
    def setUp(self) -> None:
        self.user = member("smith").user

    def test_begun_moved_on_ended_and_the_best_is_told(self) -> None:
        for seed, off in ((5, 0.0), (6, 30.0)):
            made = services.begin(user=self.user, kind="by_eye", seed=seed)
            rounds = services.state_of(made).rounds  # type: ignore[attr-defined]
            for n, r in enumerate(rounds):
                made = services.act(user=self.user, attempt_id=made.pk, after=n, action={"do": "say", "celsius": r.celsius + off})
            self.assertTrue(made.ended)
        best = services.bests_of(self.user)["by_eye"]
        self.assertEqual((best.ended, best.score, best.seed), (2, 100.0, 5))
        self.assertEqual(services.bests_of(member("other").user)["by_eye"].ended, 0)

    def test_an_action_chosen_on_an_older_page_is_not_taken(self) -> None:
        made = services.begin(user=self.user, kind="core_centred", seed=1)
        services.act(user=self.user, attempt_id=made.pk, after=0, action={"do": "etch"})
        with self.assertRaises(services.MovedOn):
            services.act(user=self.user, attempt_id=made.pk, after=0, action={"do": "etch"})
        self.assertEqual(len(Attempt.objects.get().actions), 1)

    def test_what_cannot_be_done_is_not_kept(self) -> None:
        made = services.begin(user=self.user, kind="read_face", seed=1)
        with self.assertRaises(InputError):
            services.act(user=self.user, attempt_id=made.pk, after=0, action={"do": "done"})
        self.assertEqual(Attempt.objects.get().actions, [])
        for kind, seed in (("juggling", 1), ("sums", -4)):
            with self.assertRaises(InputError):
                services.begin(user=self.user, kind=kind, seed=seed)
        self.assertEqual(Attempt.objects.count(), 1)

    def test_another_users_is_absent(self) -> None:
        made = services.begin(user=self.user, kind="sums")
        with self.assertRaises(NotFound):
            services.attempt_of(member("other").user, made.pk)

    def test_the_oldest_go(self) -> None:
        with mock.patch.object(services, "MOST_KEPT", 3):
            made = [services.begin(user=self.user, kind="sums", seed=n).pk for n in range(5)]
        self.assertEqual(sorted(Attempt.objects.values_list("pk", flat=True)), made[2:])
        Attempt.objects.bulk_create(Attempt(user=self.user, kind="sums", seed=n) for n in range(498))
        services.begin(user=self.user, kind="sums", seed=7)
        self.assertEqual(Attempt.objects.count(), 500)


class ApiTests(TestCase):
    def setUp(self) -> None:
        self.member = member("smith")
        self.client = signed_in(self.member, **HTTP)

    def post(self, path: str, body: Any) -> Any:
        return self.client.post(path, json.dumps(body), content_type="application/json")

    def test_nothing_hidden_goes_out_before_the_end(self) -> None:
        for kind, secret in (("find_fault", "cause"), ("read_face", "values"), ("core_centred", "errors"), ("by_eye", "celsius")):
            made = self.post("/api/practice", {"kind": kind, "seed": 12}).json()
            self.assertNotIn(f'"{secret}":', json.dumps(made["shown"]), kind)
            self.assertIsNone(made["result"])

    def test_a_face_is_drawn_and_a_guess_only_once_it_was_named(self) -> None:
        made = self.post("/api/practice", {"kind": "read_face", "seed": 3}).json()
        face = self.client.get(f"/api/practice/{made['id']}/target.png")
        self.assertEqual((face.status_code, face["Content-Type"], face["Cache-Control"]), (200, "image/png", "no-store"))
        self.assertEqual(self.client.get(f"/api/practice/{made['id']}/guess.png").status_code, 422)
        family = services.state_of(Attempt.objects.get()).family  # type: ignore[attr-defined]
        named = self.post(f"/api/practice/{made['id']}/act", {"after": 0, "action": {"do": "name", "family": family}})
        self.assertEqual(named.json()["shown"]["family"], family)
        self.assertEqual(self.client.get(f"/api/practice/{made['id']}/guess.png").status_code, 200)
        stale = self.post(f"/api/practice/{made['id']}/act", {"after": 0, "action": {"do": "done"}})
        self.assertEqual((stale.status_code, stale.json()["code"]), (409, "stale"))

    def test_bests_are_told_with_the_list_and_only_ones_own(self) -> None:
        made = self.post("/api/practice", {"kind": "core_centred", "seed": 1}).json()
        self.post(f"/api/practice/{made['id']}/act", {"after": 0, "action": {"do": "finish"}})
        open_ = self.post("/api/practice", {"kind": "sums"}).json()
        rows = {e["key"]: e for e in self.client.get("/api/practice").json()}
        self.assertEqual((rows["core_centred"]["ended"], rows["core_centred"]["best_seed"]), (1, 1))
        self.assertEqual((rows["sums"]["open"], rows["by_eye"]["open"]), (open_["id"], None))
        helper = signed_in(member("sweeper", Role.HELPER, self.member.shop), **HTTP)
        self.assertTrue(all(e["ended"] == 0 and e["open"] is None for e in helper.get("/api/practice").json()))
        self.assertEqual(helper.get(f"/api/practice/{made['id']}").status_code, 404)
