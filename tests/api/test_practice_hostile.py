"""Nonsense for every exercise: a clear 4xx, nothing kept, nothing hung; a score never beyond its scale, whatever was done."""

import json
from typing import Any

from hypothesis import given
from hypothesis import strategies as st
from hypothesis.extra.django import TestCase as HypothesisCase

from tests.nasty import NASTY, NastyCase, wrong_for
from tests.people import member
from tests.profile import examples
from varistrat.core.errors import InputError
from varistrat.core.practice import EXERCISES
from varistrat.practice import services
from varistrat.practice.models import Attempt

GOOD: dict[str, list[dict[str, Any]]] = {
    "core_centred": [
        {"do": "grind", "side": "right", "at": 60, "wide": 50, "depth": 0.1, "where": "edge"},
        {"do": "measure", "at": 60, "up": 0.5},
        {"do": "finish", "believe": 1.0},
    ],
    "read_face": [{"do": "name", "family": "twist"}, {"do": "try", "values": {"turns": 10, "hand": 1, "ground": 0.3}}],
    "find_fault": [{"do": "look", "cause": "x"}, {"do": "name", "cause": "x"}],
    "by_eye": [{"do": "say", "celsius": 800}],
    "sums": [{"do": "answer", "value": 5}],
}


class HostileTests(NastyCase):
    def begun(self, kind: str) -> int:
        return int(self.send("post", "/api/practice", json.dumps({"kind": kind, "seed": 4})).json()["id"])

    def test_every_field_of_every_action(self) -> None:
        self.assertEqual(set(GOOD), set(EXERCISES))
        for kind, actions in GOOD.items():
            for action in actions:
                for name in action:
                    made = self.begun(kind)
                    for wrong in wrong_for(f"{kind} {name}"):
                        after = len(Attempt.objects.get(pk=made).actions)
                        if Attempt.objects.get(pk=made).ended:
                            made, after = self.begun(kind), 0
                        self.said(f"/api/practice/{made}/act", {"after": after, "action": action | {name: wrong}})

    def test_what_is_refused_leaves_it_as_it_was(self) -> None:
        for kind in GOOD:
            made = self.begun(kind)
            before = self.client.get(f"/api/practice/{made}", HTTP_HOST="localhost").json()
            for action in ({}, {"do": "fly"}, {"do": []}, {"do": "grind", "side": "up"}, {"do": "try", "values": {"turns": "many"}}):
                self.assertIn(self.said(f"/api/practice/{made}/act", {"after": 0, "action": action}), (400, 422))
            self.assertEqual(self.client.get(f"/api/practice/{made}", HTTP_HOST="localhost").json(), before, kind)

    def test_the_other_fields(self) -> None:
        made = self.begun("sums")
        for wrong in NASTY:
            self.said("/api/practice", {"kind": wrong})
            self.said("/api/practice", {"kind": "sums", "seed": wrong})
            self.said(f"/api/practice/{made}/act", {"after": wrong, "action": {"do": "answer", "value": 1}})
            self.said(f"/api/practice/{made}/act", {"after": 0, "action": wrong})
        for raw in (b"", b"{", b"[]", b'"x"', b"\xff\xfe", b"{" * 2000):
            self.said("/api/practice", raw)
            self.said(f"/api/practice/{made}/act", raw)
        for name in ("guess", "target", "..", "%2e%2e", "x" * 300):
            answer = self.client.get(f"/api/practice/{made}/{name}.png", HTTP_HOST="localhost")
            self.assertIn(answer.status_code, (404, 422), name)


def _actions(kind: str) -> st.SearchStrategy[dict[str, Any]]:
    number = st.floats(0.01, 160, allow_nan=False)
    small = st.floats(0.01, 0.5)
    grind = st.builds(
        lambda side, at, wide, depth, where: {"do": "grind", "side": side, "at": at, "wide": 10 + wide, "depth": depth, "where": where},
        st.sampled_from(["left", "right"]), number, number, small, st.sampled_from(["edge", "even", "spine"]),
    )  # fmt: skip
    each: dict[str, st.SearchStrategy[dict[str, Any]]] = {
        "core_centred": st.one_of(
            grind,
            st.just({"do": "etch"}),
            st.builds(lambda at, up: {"do": "measure", "at": at, "up": 0.02 + up}, number, small),
            st.just({"do": "finish"}),
        ),
        "by_eye": st.builds(lambda c: {"do": "say", "celsius": 20 + 9 * c}, number),
        "sums": st.builds(lambda v: {"do": "answer", "value": v}, st.floats(-1e6, 1e6)),
    }
    return each[kind]


class AnyCourseTests(HypothesisCase):
    """Whatever is done, in whatever order: replayed it comes to the same, and the score stays on its scale."""

    def course(self, kind: str, seed: int, actions: list[dict[str, Any]]) -> None:
        exercise = EXERCISES[kind]
        state, taken = exercise.begin(seed), []
        for action in actions:
            try:
                state = exercise.advance(state, action)
            except InputError:
                break
            taken.append(action)
        self.assertEqual(exercise.replayed(seed, taken), state)
        self.assertEqual(state.done, len(taken))
        self.assertEqual(len(exercise.shown(state).__dict__), len(exercise.shown(exercise.begin(seed)).__dict__))
        if state.ended:
            result = exercise.result(state)
            self.assertTrue(-1e-9 <= result.score <= 100 + 1e-9, result.score)
            for what, of, got in result.parts:
                self.assertTrue(-1e-9 <= got <= of + 1e-9, what)

    @given(seed=st.integers(0, 999_999), actions=st.lists(_actions("core_centred"), max_size=8))
    @examples(25)
    def test_the_core(self, seed: int, actions: list[dict[str, Any]]) -> None:
        self.course("core_centred", seed, actions)

    @given(seed=st.integers(0, 999_999), actions=st.lists(_actions("by_eye"), max_size=10))
    @examples(40)
    def test_heats(self, seed: int, actions: list[dict[str, Any]]) -> None:
        self.course("by_eye", seed, actions)

    @given(seed=st.integers(0, 999_999), actions=st.lists(_actions("sums"), max_size=7))
    @examples(40)
    def test_sums(self, seed: int, actions: list[dict[str, Any]]) -> None:
        self.course("sums", seed, actions)

    def test_a_fault_by_every_order_of_its_looks(self) -> None:
        for seed in range(15):
            exercise = EXERCISES["find_fault"]
            causes = [c.key for c in exercise.shown(exercise.begin(seed)).causes]  # type: ignore[attr-defined]
            for order in (causes, causes[::-1]):
                looks = [{"do": "look", "cause": c} for c in order]
                names = [{"do": "name", "cause": c} for c in order]
                self.course("find_fault", seed, looks + names)
                self.course("find_fault", seed, names)


class SameForEverybodyTests(HypothesisCase):
    def test_two_people_with_one_seed_have_one_exercise(self) -> None:
        one, other = member("one").user, member("other").user
        for kind in EXERCISES:
            a, b = (services.begin(user=u, kind=kind, seed=77) for u in (one, other))
            self.assertEqual(services.state_of(a), services.state_of(b), kind)

    def test_without_a_seed_it_is_another_each_time(self) -> None:
        user = member("one").user
        self.assertGreater(len({services.begin(user=user, kind="sums").seed for _ in range(12)}), 10)
