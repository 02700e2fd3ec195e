"""The state of a build: whatever order its entries come in, and however often; what is taken back; nonsense refused where it enters."""

import random
from datetime import UTC, datetime, timedelta
from typing import Any
from uuid import UUID

from django.test import SimpleTestCase
from hypothesis import given
from hypothesis import strategies as st
from pydantic import ValidationError

from tests.profile import examples
from varistrat.core.build.entry import AHEAD, ENTRY, Entry, check_time
from varistrat.core.build.state import in_order, state_of, void_of
from varistrat.core.errors import InputError
from varistrat.core.route.operation import UNITS, Quantity

START = datetime(2031, 5, 17, 8, 0, tzinfo=UTC)


def uid(n: int) -> str:
    return str(UUID(int=n))


def entry(n: int, kind: str, minute: float = 0.0, op: str = "bar:weld", **data: Any) -> Entry:
    return ENTRY.validate_python({"id": uid(n), "op": op, "kind": kind, "at": START + timedelta(minutes=minute), **data})


ROUTE = ["bar:cut", "bar:weld", "bar:draw"]


class FoldTests(SimpleTestCase):
    def test_done_skipped_and_what_comes_next(self) -> None:
        self.assertEqual(state_of([]).next_of(ROUTE), "bar:cut")
        state = state_of([entry(1, "done", 1, "bar:cut", minutes=20.0), entry(2, "skipped", 2, why="welded already")])
        self.assertEqual((state.of("bar:cut").standing, state.of("bar:cut").minutes), ("done", 20.0))
        self.assertEqual((state.of("bar:weld").standing, state.of("bar:weld").why), ("skipped", "welded already"))
        self.assertEqual(state.next_of(ROUTE), "bar:draw")
        self.assertIsNone(state_of([entry(i, "done", i, op) for i, op in enumerate(ROUTE)]).next_of(ROUTE))

    def test_the_last_measurement_of_a_place_counts(self) -> None:
        state = state_of(
            [
                entry(1, "measured", 1, quantity="thickness", value=28.4),
                entry(2, "measured", 5, quantity="thickness", value=28.1, typed="1 7/64"),
                entry(3, "measured", 2, quantity="thickness", value=27.0, place=40.0),
            ]
        ).of("bar:weld")
        self.assertEqual((state.last("thickness"), state.last("thickness", 40.0), state.last("width")), (28.1, 27.0, None))

    def test_once_more_asks_all_again(self) -> None:
        said = [
            entry(1, "measured", 1, quantity="width", value=40.0),
            entry(2, "checked", 2, check=0, good=False),
            entry(3, "done", 3, minutes=30.0),
            entry(4, "redone", 4, why="a line at the edge"),
        ]
        op = state_of(said).of("bar:weld")
        self.assertEqual((op.standing, op.measured, op.answers, op.minutes, op.times), ("open", {}, {}, 30.0, 1))
        op = state_of([*said, entry(5, "done", 9, minutes=25.0)]).of("bar:weld")
        self.assertEqual((op.standing, op.minutes, op.times), ("done", 55.0, 2))

    def test_timers_run_until_they_are_stopped_or_all_is_done(self) -> None:
        on = [entry(1, "timer", 1, timer=0, running=True), entry(2, "timer", 3, timer=0, running=True)]
        self.assertEqual(state_of(on).of("bar:weld").running, {0: START + timedelta(minutes=1)})
        self.assertEqual(state_of([*on, entry(3, "timer", 4, timer=0, running=False)]).of("bar:weld").running, {})
        self.assertEqual(state_of([*on, entry(3, "done", 4)]).of("bar:weld").running, {})

    def test_begun_and_ended_are_of_what_counts(self) -> None:
        state = state_of([entry(1, "note", 1, text="x"), entry(2, "done", 9), entry(3, "voided", 20, entry=uid(1))])
        self.assertEqual((state.begun, state.ended), (START + timedelta(minutes=9),) * 2)

    def test_amendments_are_in_their_order(self) -> None:
        state = state_of([entry(1, "amended", 9, "", revision=3, why="short"), entry(2, "amended", 2, "", revision=2, why="thick")])
        self.assertEqual([a.revision for a in state.amended], [2, 3])
        self.assertEqual(state.operations, {})


class VoidTests(SimpleTestCase):
    def test_what_is_made_void_does_not_count(self) -> None:
        state = state_of([entry(1, "done", 1), entry(2, "voided", 2, entry=uid(1))])
        self.assertEqual(state.of("bar:weld").standing, "open")
        self.assertEqual(state.void, {uid(1)})

    def test_a_slow_clock_makes_void_all_the_same(self) -> None:
        self.assertEqual(void_of([entry(2, "voided", 0, entry=uid(1)), entry(1, "done", 5)]), {uid(1)})

    def test_what_was_taken_back_counts_again(self) -> None:
        said = [entry(1, "done", 1), entry(2, "voided", 2, entry=uid(1)), entry(3, "voided", 3, entry=uid(2))]
        self.assertEqual(state_of(said).of("bar:weld").standing, "done")
        self.assertEqual(state_of(said).void, {uid(2)})

    def test_entries_that_make_one_another_void_end(self) -> None:
        said = [entry(1, "voided", 1, entry=uid(2)), entry(2, "voided", 2, entry=uid(1)), entry(3, "voided", 3, entry=uid(3))]
        self.assertEqual(void_of(said), {uid(1)})

    def test_what_is_not_there_yet_is_void_when_it_comes(self) -> None:
        void = entry(2, "voided", 2, entry=uid(1))
        self.assertEqual(state_of([void]).void, set())
        self.assertEqual(state_of([void, entry(1, "done", 1)]).of("bar:weld").standing, "open")


def _entries() -> st.SearchStrategy[Entry]:
    def made(n: int, minute: int, op: str, what: tuple[str, dict[str, Any]]) -> Entry:
        return entry(n, what[0], minute, op, **what[1])

    kinds = st.one_of(
        st.just(("done", {})),
        st.just(("redone", {})),
        st.just(("skipped", {"why": "x"})),
        st.just(("note", {"text": "n"})),
        st.builds(lambda v: ("measured", {"quantity": "width", "value": float(v)}), st.integers(1, 5)),
        st.builds(lambda on: ("timer", {"timer": 0, "running": on}), st.booleans()),
        st.builds(lambda n: ("voided", {"entry": uid(n)}), st.integers(1, 12)),
    )
    return st.builds(made, st.integers(1, 12), st.integers(0, 4), st.sampled_from(ROUTE), kinds)


class OrderTests(SimpleTestCase):
    @examples(300)
    @given(st.lists(_entries(), max_size=14), st.integers(0, 10**6))
    def test_late_twice_or_out_of_order_it_ends_alike(self, said: list[Entry], seed: int) -> None:
        shuffled = [*said, *said[: seed % 5]]
        random.Random(seed).shuffle(shuffled)
        self.assertEqual(state_of(said), state_of(shuffled))

    @examples(150)
    @given(st.lists(_entries(), max_size=14))
    def test_what_is_void_is_as_if_it_were_not_there(self, said: list[Entry]) -> None:
        state = state_of(said)
        left = [e for e in in_order(said) if e.id not in state.void and e.kind != "voided"]
        self.assertEqual(state_of(left).operations, state.operations)


class NonsenseTests(SimpleTestCase):
    def test_what_is_no_entry_is_refused(self) -> None:
        good = {"id": uid(1), "op": "bar:weld", "kind": "measured", "at": "2031-05-17T08:00:00+02:00", "quantity": "width", "value": 40.0}
        self.assertEqual(ENTRY.validate_python(good).id, uid(1))
        for change in (
            {"id": "7"},
            {"at": "yesterday"},
            {"at": "2031-05-17T08:00:00"},
            {"kind": "guessed"},
            {"quantity": "beauty"},
            {"value": -1.0},
            {"value": float("nan")},
            {"value": "40"},
            {"more": 1},
            {"op": "x" * 400},
        ):
            with self.subTest(change=change), self.assertRaises(ValidationError):
                ENTRY.validate_python(good | change)

    def test_a_clock_that_is_wrong_is_told(self) -> None:
        check_time(entry(1, "done"), START)
        check_time(entry(1, "done"), START - AHEAD)
        for now in (START - AHEAD - timedelta(minutes=1), START - timedelta(days=400)):
            with self.assertRaises(InputError):
                check_time(entry(1, "done"), now)
        with self.assertRaises(InputError):
            check_time(ENTRY.validate_python({"id": uid(1), "kind": "done", "at": "1970-01-01T00:00:00+00:00"}), START)

    def test_every_quantity_has_its_unit(self) -> None:
        self.assertEqual(set(UNITS), set(Quantity.__args__))  # type: ignore[attr-defined]
