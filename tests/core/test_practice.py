"""Practice: states that follow from seed and actions, truths that stay hidden, scores that mean something."""

import json
from dataclasses import asdict
from typing import Any

import numpy as np
from django.test import SimpleTestCase
from hypothesis import given
from hypothesis import strategies as st

from tests.profile import examples, quick_or
from varistrat.core.errors import InputError
from varistrat.core.faults.knowledge import knowledge
from varistrat.core.heat.colours import GLOW, RUN
from varistrat.core.practice import EXERCISES, exercise_of
from varistrat.core.practice.by_eye import ByEye, Heat, between, colour_of, glow_share
from varistrat.core.practice.core_centred import CoreCentred, Seen, _as_entered, _cut, _planned, in_band, lines_of
from varistrat.core.practice.core_centred import _x as _planned_x
from varistrat.core.practice.exercise import MOST_ACTIONS, Exercise, seed_of
from varistrat.core.practice.find_fault import WRONG_COSTS, FindFault
from varistrat.core.practice.read_face import FAMILIES, ReadFace, likeness, numbers_of
from varistrat.core.practice.sums_by_hand import BY_SUM, SumsByHand, points
from varistrat.core.study.lamina import Lamina

CENTRED, FACE, FAULT, EYE, SUMS = CoreCentred(), ReadFace(), FindFault(), ByEye(), SumsByHand()


def shown(exercise: Exercise[Any], state: Any) -> str:
    return json.dumps(asdict(exercise.shown(state)), sort_keys=True, default=str)


class EveryExerciseTests(SimpleTestCase):
    def test_a_seed_is_the_same_exercise_every_time_and_another_is_another(self) -> None:
        for key, exercise in EXERCISES.items():
            self.assertEqual(exercise.begin(7), exercise.begin(7), key)
            # what is shown of some begins alike for all: then what is hidden differs
            self.assertNotEqual(exercise.begin(7), exercise.begin(8), key)

    def test_nonsense_is_refused_with_its_place(self) -> None:
        nasty: list[Any] = [None, [], {}, {"do": "fly"}, {"do": ["name"]}, "etch", {"do": "say", "celsius": float("nan")}, {"do": "grind"}]
        for key, exercise in EXERCISES.items():
            state = exercise.begin(3)
            for action in nasty:
                with self.assertRaises(InputError, msg=f"{key} {action}") as caught:
                    exercise.advance(state, action)
                self.assertTrue(caught.exception.problems[0].path.startswith("action"), key)
        with self.assertRaises(InputError):
            exercise_of("juggling")
        for bad in (-1, 1_000_000):
            with self.assertRaises(InputError):
                seed_of(bad)

    def test_nothing_after_the_end_and_not_for_ever(self) -> None:
        state = EYE.replayed(1, [{"do": "say", "celsius": 800}] * 8)
        with self.assertRaises(InputError):
            EYE.advance(state, {"do": "say", "celsius": 800})
        state = CENTRED.replayed(1, [{"do": "measure", "at": 50}] * MOST_ACTIONS)
        with self.assertRaises(InputError):
            CENTRED.advance(state, {"do": "etch"})


class CoreCentredTests(SimpleTestCase):
    """A hidden blade, ground until its line lies right."""

    def test_its_line_is_the_one_exposure_finds(self) -> None:
        for seed in (1, 5, 9):
            state = CENTRED.begin(seed)
            found = lines_of(_cut(state))
            exact = {"right": [], "left": []}
            for s in _cut(state).exposure(36):
                exact[s.side].append(s.shown[0][1] if s.shown and s.shown[0][0] <= 1e-6 else 0.0)
            for side in ("right", "left"):
                np.testing.assert_allclose(found[side], exact[side], atol=0.12)

    def test_the_truth_is_not_in_what_is_shown_before_the_end(self) -> None:
        hidden = CENTRED.begin(4)
        before = CENTRED.advance(hidden, {"do": "etch"})
        told = CENTRED.shown(before)
        self.assertEqual((told.true_right, told.true_left), ((), ()))
        for x, v in hidden.errors.core_offset:  # type: ignore[union-attr]
            self.assertNotIn(f"{v:.8f}"[:9], shown(CENTRED, before), x)
        true = lines_of(_cut(hidden))
        self.assertTrue(all(abs(a - b) > 0 for a, b in zip(told.right, true["right"], strict=True)), "read, not told")
        ended = CENTRED.advance(before, {"do": "finish"})
        np.testing.assert_allclose(CENTRED.shown(ended).true_right, true["right"])

    def test_grinding_raises_the_line_of_its_side_where_it_was_ground(self) -> None:
        state = CENTRED.begin(2)
        cut = {"do": "grind", "side": "right", "at": 80, "wide": 60, "depth": 0.15}
        after = CENTRED.advance(state, cut)
        a, b = lines_of(_cut(state)), lines_of(_cut(after))
        x = np.array(CENTRED.shown(state).x)
        here, away = np.abs(x - 80) < 15, np.abs(x - 80) > 35
        self.assertTrue((b["right"] >= a["right"] - 1e-9)[here].all() and (b["right"] > a["right"] + 0.2)[here].any())
        np.testing.assert_allclose(b["right"][away], a["right"][away])
        np.testing.assert_allclose(b["left"], a["left"])

    def test_the_caliper_reads_to_its_noise_and_longer_when_warm(self) -> None:
        state, geometry = CENTRED.begin(11), _planned().geometry
        reads = []
        for seed in range(60):
            s = CENTRED.advance(CENTRED.begin(seed), {"do": "measure", "at": 60, "up": 0.5})
            true = _cut(CENTRED.begin(seed)).geometry
            x = np.array([60.0])
            reads.append(s.measured[0].thickness - float(true.faces(x, 0.5 * geometry.height(x)).thickness[0]))
        self.assertLess(abs(float(np.mean(reads))), 0.01)
        self.assertAlmostEqual(float(np.std(reads)), 0.02, delta=0.008)
        warm = CENTRED.advance(state, {"do": "grind", "side": "left", "at": 60, "wide": 60, "depth": 0.3})
        self.assertGreater(warm.warm, 100)
        cooled = CENTRED.advance(warm, {"do": "etch"})
        self.assertLess(cooled.warm, 0.4 * warm.warm)

    def test_an_expert_ends_with_more_of_it_in_the_band_than_it_began(self) -> None:
        better = []
        for seed in range(6):
            begun, ended = CENTRED.begin(seed), CENTRED.expert(CENTRED.begin(seed))
            better.append(in_band(ended) - in_band(begun))
            self.assertGreater(len(ended.etches), 0)
        self.assertGreater(float(np.mean(better)), 0.2)
        self.assertGreater(min(better), -0.1)

    def test_the_steering_is_told_heights_as_it_takes_them(self) -> None:
        """Square to the edge: near the point that is less than straight up, and more than the blade is high there was refused."""
        lamina = Lamina.of(_planned(), _planned_x())
        seen = Seen(tuple(0.9 * lamina.height), tuple(0.9 * lamina.height), 1)
        square = np.cos(lamina.geometry.curves.edge_angle(lamina.x))
        self.assertLess(float(square[-3]), 0.95, "a point where it matters")
        for r in _as_entered(lamina, seen):
            i = int(np.argmin(np.abs(lamina.x - r.x)))
            self.assertAlmostEqual(r.height or 0.0, 0.9 * float(lamina.height[i]) * float(square[i]))
        for seed in (1154, *range(2000, quick_or(2006, 2030))):
            self.assertTrue(CENTRED.expert(CENTRED.begin(seed)).ended, seed)

    def test_leaving_it_as_it_is_is_no_way_to_points(self) -> None:
        """All that is spared by doing nothing counts only by what lies in the band."""
        seed = next(s for s in range(30) if in_band(CENTRED.begin(s)) < 0.2)
        lazy = CENTRED.result(CENTRED.replayed(seed, [{"do": "finish", "believe": 1.0}]))
        self.assertLess(lazy.score, 25)
        self.assertTrue(any("You believed 1.0 % right" in t for t in lazy.truth))
        self.assertTrue(any("steering" in m.says for m in lazy.expert))


class ReadFaceTests(SimpleTestCase):
    def right(self, seed: int) -> Any:
        begun = FACE.begin(seed)
        return FACE.replayed(seed, [{"do": "name", "family": begun.family}, {"do": "try", "values": dict(begun.values)}, {"do": "done"}])

    def test_every_family_can_be_forged_over_all_of_its_numbers(self) -> None:
        for key in FAMILIES:
            for end in (0.0, 1.0):
                values = {n.key: n.low + end * (n.high - n.low) for n in numbers_of(key)}
                begun = next(FACE.begin(s) for s in range(200) if FACE.begin(s).family == key)
                state = FACE.advance(FACE.advance(begun, {"do": "name", "family": key}), {"do": "try", "values": values})
                self.assertEqual(dict(state.tried or {}), {k: round(v, 4) for k, v in values.items()}, key)
                self.assertIsNotNone(FACE.picture(state, "guess"))

    def test_the_very_face_is_worth_all_points(self) -> None:
        for seed in (1, 2, 3):
            result = FACE.result(self.right(seed))
            self.assertAlmostEqual(result.score, 100.0, 6)

    def test_wrong_names_and_far_numbers_cost(self) -> None:
        begun = FACE.begin(5)
        wrong = [k for k in begun.choices if k != begun.family]
        named = [{"do": "name", "family": k} for k in (*wrong[:2], begun.family)]
        far = {n.key: n.low if begun.values[n.key] > (n.low + n.high) / 2 else n.high for n in numbers_of(begun.family)}
        result = FACE.result(FACE.replayed(5, [*named, {"do": "try", "values": far}, {"do": "done"}]))
        self.assertLess(result.score, 55)
        self.assertAlmostEqual(result.parts[0][2], 40 / 3)

    def test_family_and_numbers_are_hidden_until_they_are_found(self) -> None:
        begun = FACE.begin(6)
        told = FACE.shown(begun)
        self.assertEqual((told.family, told.numbers, dict(told.truth)), ("", (), {}))
        self.assertTrue(all(not c.tells for c in told.choices))
        named = FACE.advance(begun, {"do": "name", "family": begun.family})
        self.assertEqual(dict(FACE.shown(named).truth), {})
        self.assertNotEqual({n.key: n.value for n in FACE.shown(named).numbers}, dict(begun.values))
        with self.assertRaises(InputError):
            FACE.advance(begun, {"do": "done"})
        self.assertIsNone(FACE.picture(begun, "guess"))

    def test_likeness_by_hand(self) -> None:
        a = np.array([[0.0, 1.0], [0.0, 1.0]])
        self.assertAlmostEqual(likeness(a, a), 1.0)
        self.assertAlmostEqual(likeness(a, 1 - a), -1.0)
        self.assertEqual(likeness(a, np.ones((2, 2))), 0.0)


class FindFaultTests(SimpleTestCase):
    def test_the_best_look_each_time_names_it_and_is_worth_all_points(self) -> None:
        for seed in range(12):
            state = FAULT.begin(seed)
            names = {k: c.sign.ask for k, c in knowledge().causes.items()}
            for move in FAULT.best(state)[:-1]:
                if move.minutes == WRONG_COSTS:
                    break
                cause = next(k for k in knowledge().seen[state.seen].causes if move.says.startswith(names[k]))
                state = FAULT.advance(state, {"do": "look", "cause": cause})
            else:
                state = FAULT.advance(state, {"do": "name", "cause": state.cause})
                result = FAULT.result(state)
                self.assertAlmostEqual(result.score, 100.0, msg=f"{seed}: {result.says}")

    def test_planted_as_often_as_its_odds_say(self) -> None:
        seen = "crack_quench"
        causes = knowledge().seen[seen].causes
        planted = [s.cause for s in (FAULT.begin(i) for i in range(4000)) if s.seen == seen]
        self.assertGreater(len(planted), 60)
        total = sum(causes.values())
        for cause, odds in causes.items():
            share = planted.count(cause) / len(planted)
            self.assertAlmostEqual(share, odds / total, delta=4 * (odds / total * (1 - odds / total) / len(planted)) ** 0.5 + 1e-9)

    def test_neither_cause_nor_signs_are_told(self) -> None:
        state = FAULT.begin(3)
        told = FAULT.shown(state)
        self.assertTrue(all(c.answer is None and not c.wrong for c in told.causes))
        self.assertEqual([c.key for c in told.causes], sorted(c.key for c in told.causes), "in an order that tells nothing")

    def test_a_wrong_cure_costs_half_an_hour_and_points(self) -> None:
        state = FAULT.begin(3)
        wrong = [c for c in knowledge().seen[state.seen].causes if c != state.cause][:2]
        for c in wrong:
            state = FAULT.advance(state, {"do": "name", "cause": c})
        self.assertEqual(state.minutes, 2 * WRONG_COSTS)
        with self.assertRaises(InputError):
            FAULT.advance(state, {"do": "name", "cause": wrong[0]})
        result = FAULT.result(FAULT.advance(state, {"do": "name", "cause": state.cause}))
        self.assertEqual(result.parts[0][2], 0.0)
        self.assertLess(result.score, 30)


class ByEyeTests(SimpleTestCase):
    def test_colours_are_those_of_the_table_and_between(self) -> None:
        self.assertEqual(between(RUN, 225.0), (0xE6, 0xC8, 0x73))
        self.assertEqual(colour_of(Heat(225.0, "daylight")), "#e6c873")
        (cold, _, low), (hot, _, high) = GLOW[3], GLOW[4]
        reds = [int(h[1:3], 16) for h in (low, high)]
        self.assertEqual(between(GLOW, (cold + hot) / 2)[0], round(sum(reds) / 2))

    def test_the_same_heat_glows_less_in_a_light_shop(self) -> None:
        for celsius in (700.0, 800.0, 900.0, 1000.0):
            self.assertLess(glow_share(celsius, "light shop"), glow_share(celsius, "dark shop"))
        self.assertAlmostEqual(glow_share(640.0, "dark shop"), 0.5)
        self.assertGreater(glow_share(1000.0, "dark shop"), 0.99)
        # Wien: 640 to 740 C at 0.555 um is exp(25924 (1/913.15 - 1/1013.15)) = 16.5 times as bright
        self.assertAlmostEqual(glow_share(740.0, "dark shop"), 16.5 / 17.5, 3)

    @given(st.integers(0, 999_999))
    @examples(30)
    def test_every_heat_is_one_that_has_a_colour(self, seed: int) -> None:
        for r in EYE.begin(seed).rounds:
            low, high = (205, 340) if r.light == "daylight" else (700, 1230)
            self.assertTrue(low <= r.celsius <= high)

    def test_right_is_right_and_far_is_nothing(self) -> None:
        begun = EYE.begin(9)
        right = EYE.result(EYE.replayed(9, [{"do": "say", "celsius": r.celsius} for r in begun.rounds]))
        self.assertEqual(right.score, 100.0)
        far = EYE.result(EYE.replayed(9, [{"do": "say", "celsius": r.celsius + 60} for r in begun.rounds]))
        self.assertEqual(far.score, 0.0)
        # half way between sure (20) and three times that: 40 C off
        self.assertAlmostEqual(EYE.points(Heat(900.0, "dark shop"), 940.0), 0.5)
        self.assertTrue(any("Screens differ" in t for t in far.truth))


class SumsTests(SimpleTestCase):
    def test_five_different_sums_that_have_answers(self) -> None:
        for seed in range(25):
            rounds = SUMS.begin(seed).rounds
            self.assertEqual(len({r.key for r in rounds}), 5, seed)
            for r in rounds:
                s = BY_SUM[r.key]
                self.assertAlmostEqual(s.gap(dict(r.known) | {r.wanted: r.value}), 0.0, 6)
                self.assertFalse(r.quantity.given)

    def test_right_to_a_hundredth_half_to_a_twentieth(self) -> None:
        asked = SUMS.begin(2).rounds[0]
        self.assertEqual([points(asked, asked.value * f) for f in (1.0, 1.009, 1.04, 1.06, -1.0)], [1.0, 1.0, 0.5, 0.0, 0.0])

    def test_answers_are_told_only_once_given(self) -> None:
        state = SUMS.begin(2)
        now = SUMS.shown(state).now
        assert now
        self.assertEqual((now.value, now.said), (None, None))
        after = SUMS.advance(state, {"do": "answer", "value": state.rounds[0].value})
        self.assertEqual(SUMS.shown(after).before[0].points, 1.0)
        result = SUMS.result(SUMS.replayed(2, [{"do": "answer", "value": r.value} for r in state.rounds]))
        self.assertEqual((result.score, result.says), (100.0, "5 of 5 right to a hundredth."))
