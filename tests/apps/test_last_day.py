"""The last day of a build as it is kept: tests of the edge and traced faults written, taken back, carried out and in; what is fitted in
its route, its times and its card."""

from typing import Any
from unittest.mock import patch

from django.test import TestCase

from tests.api.test_api import HTTP
from tests.apps.test_builds import BuildsCase
from tests.core.test_fitted import ALL
from tests.people import member, signed_in
from varistrat.builds import selectors
from varistrat.builds.models import Record
from varistrat.builds.services import log, portable
from varistrat.core.build.card import card_of, graded_of, in_the_log, tests_of
from varistrat.core.build.entry import ENTRY, MOST_ANSWERS
from varistrat.core.build.state import state_of
from varistrat.core.design.document import read_document
from varistrat.core.design.worked import Worked
from varistrat.core.faults.knowledge import knowledge
from varistrat.core.finish.grade import EDGE, OF_FAULT, POINTS, Graded
from varistrat.core.paper.card import card_pdf
from varistrat.core.route.money import time_and_money
from varistrat.core.route.route import route_of
from varistrat.core.shop import AS_SHIPS, ShopData
from varistrat.core.starters import STARTERS


def with_finish(worked: Worked, **fit_up: Any) -> Worked:
    return Worked.of(read_document(worked.document.as_json() | {"finish": {"fit_up": fit_up}}))


class WrittenTests(BuildsCase):
    def edge_test(self, seen: str, minute: float = 0.0, **more: Any) -> dict[str, Any]:
        return self.entry("blade:sharpen", "tested", minute, tested={"test": "rope", "seen": seen, "times": 20} | more)

    def test_a_test_is_kept_once_and_told_with_its_operation(self) -> None:
        build = self.begin()
        one = self.edge_test("fine")
        for _ in range(2):
            self.write(build, one)
        self.assertEqual(Record.objects.filter(build=build).count(), 1)
        told = selectors.told(build, AS_SHIPS)
        (sharpen,) = [o for o in told.operations if o.id == "blade:sharpen"]
        self.assertEqual([t.tested.seen for t in sharpen.tests], ["fine"])

    def test_one_that_is_taken_back_does_not_count(self) -> None:
        build = self.begin()
        bad, good = self.edge_test("rolled", 1), self.edge_test("fine", 2)
        self.write(build, bad, good, self.entry("blade:sharpen", "voided", 3, entry=good["id"]))
        state = state_of(selectors.entries_of(build))
        self.assertEqual([t.tested.seen for t in tests_of(state)], ["rolled"])
        self.assertIn("edge", graded_of(state, core=False).failed)

    def test_late_and_shuffled_they_come_out_in_the_order_of_their_clocks(self) -> None:
        build = self.begin()
        first, second, third = self.edge_test("rolled", 1), self.edge_test("chipped", 2), self.edge_test("fine", 3)
        self.write(build, third, first)
        self.write(build, second)
        state = state_of(selectors.entries_of(build))
        self.assertEqual([t.tested.seen for t in tests_of(state)], ["rolled", "chipped", "fine"])
        self.assertNotIn("edge", graded_of(state, core=False).failed)

    def test_a_fault_keeps_its_answers_and_no_more_than_are_asked_for(self) -> None:
        build = self.begin()
        answers = {"drawn_wide": False, "more_scale": True}
        self.write(build, self.entry("", "fault", 1, fault="short_bar", text="a thumb short", answers=answers))
        (kept,) = state_of(selectors.entries_of(build)).of("").faults
        self.assertEqual((kept.fault, kept.answers), ("short_bar", answers))
        many = {f"cause{n}": True for n in range(MOST_ANSWERS + 1)}
        with self.assertRaises(ValueError):
            ENTRY.validate_python(self.entry("", "fault", 2, fault="short_bar", answers=many))
        with self.assertRaises(ValueError):
            ENTRY.validate_python(self.entry("", "fault", 2, fault="short_bar", answers={"x" * 500: True}))

    def test_an_older_fault_without_answers_still_reads(self) -> None:
        found = ENTRY.validate_python(self.entry("", "fault", 1, text="a crack"))
        self.assertEqual(found.answers, {})  # type: ignore[union-attr]

    def test_both_go_out_and_come_in_with_the_build(self) -> None:
        build, other = self.begin(), member("other")
        self.write(build, self.edge_test("chipped", 1, hrc=[61.0, 62.5], behind=0.4))
        self.write(build, self.entry("", "fault", 2, fault="edge_chips", answers={"grain_coarse": True}))
        again = portable.read_file(actor=other, data=portable.write_file(build), shop=AS_SHIPS)
        self.assertEqual(state_of(selectors.entries_of(again)), state_of(selectors.entries_of(build)))
        (test,) = tests_of(state_of(selectors.entries_of(again)))
        self.assertEqual((test.tested.hrc, test.tested.behind), ([61.0, 62.5], 0.4))

    def test_nonsense_is_refused_and_what_is_good_in_the_same_lot_is_kept(self) -> None:
        build = self.begin()
        for wrong in (
            {"test": "rope", "seen": "fine", "times": 0},
            {"test": "rope"},
            {"seen": "fine"},
            None,
            "rope",
            {"test": 5, "seen": []},
        ):
            kept = self.write(build, self.entry("blade:sharpen", "tested", 1, tested=wrong))
            self.assertEqual(len(kept.refused), 1, wrong)
        kept = self.write(build, self.edge_test("fine", 1), self.entry("blade:sharpen", "tested", 2, tested={"seen": "x"}))
        self.assertEqual((len(kept.refused), Record.objects.filter(build=build).count()), (1, 1))


class CardTests(BuildsCase):
    def test_the_card_tells_tests_and_nothing_that_was_not_done(self) -> None:
        build = self.begin()
        (plan,) = selectors.plans_of(build)
        bare = card_of("t", "1", "m", self.worked, plan, state_of([]))
        self.assertEqual((bare.tests, bare.hardness, bare.grade), ((), (), ""))
        self.write(build, self.entry("blade:sharpen", "tested", 1, tested={"test": "brass", "seen": "fine"}))
        card = card_of("Eel splitter", "No 7", "Quillet Dyke", self.worked, plan, state_of(selectors.entries_of(build)))
        self.assertEqual(card.tests, ("brass rod: it stood",))
        self.assertTrue(card_pdf(card).startswith(b"%PDF"))

    def test_the_list_and_the_test_make_the_grade_together(self) -> None:
        build = self.begin()
        met = [self.entry("blade:look", "checked", n, check=n, good=True) for n in range(len(POINTS)) if n != EDGE]
        self.write(build, *met)
        self.assertIsNone(graded_of(state_of(selectors.entries_of(build)), core=False).grade)
        self.write(build, self.entry("blade:sharpen", "tested", 30, tested={"test": "hair", "seen": "fine"}))
        self.assertEqual(graded_of(state_of(selectors.entries_of(build)), core=False).grade, "first")
        self.write(build, self.entry("", "graded", 31, grade="second", why="a scratch under the guard"))
        own = graded_of(state_of(selectors.entries_of(build)), core=False)
        self.assertEqual((own.grade, own.own, own.why), ("second", True, "a scratch under the guard"))

    def test_a_fault_of_the_log_stands_against_the_grade_until_it_was_looked_at_again(self) -> None:
        build = self.begin()
        met = [self.entry("blade:look", "checked", n, check=n, good=True) for n, p in enumerate(POINTS) if p.key != "core"]
        self.write(build, *met)
        weld = next(i for i, p in enumerate(POINTS) if p.key == "weld")

        def now(core: bool = False) -> Graded:
            return graded_of(state_of(selectors.entries_of(build)), core)

        # of a blade without a core nobody asks for its line
        self.assertEqual((now().grade, now().open), ("first", ()))
        self.assertEqual((now(core=True).grade, now(core=True).open), (None, ("core",)))
        fault = self.entry(self.op(build, "fire"), "fault", 40, fault="black_line")
        self.write(build, fault)
        self.assertEqual((now().grade, now().failed), ("not for sale", ("weld",)))
        self.assertEqual([f.fault for f in in_the_log(state_of(selectors.entries_of(build)))["weld"]], ["black_line"])
        self.write(build, self.entry("blade:look", "checked", 41, check=weld, good=True))
        self.assertEqual((now().grade, in_the_log(state_of(selectors.entries_of(build)))), ("first", {}))
        # one that is no point of the list, and one that is taken back, stand against nothing
        later = self.entry("", "fault", 42, fault="dark_gap")
        self.write(build, self.entry("", "fault", 42, fault="patchy_etch"), later, self.entry("", "voided", 43, entry=later["id"]))
        self.assertEqual(now().grade, "first")

    def test_every_fault_that_stands_against_a_grade_is_one_we_know(self) -> None:
        self.assertLessEqual(set(OF_FAULT), set(knowledge().seen))
        self.assertLessEqual(set(OF_FAULT.values()), {p.key for p in POINTS})

    def test_the_last_look_of_a_blade_asks_what_its_design_has(self) -> None:
        for worked, core in ((self.worked, False), (Worked.of(read_document(STARTERS["three_layer"].document())), True)):
            (look,) = [o for o in route_of(worked).operations if o.kind == "look"]
            self.assertEqual([c.applies for c in look.checks], [core or p.key != "core" for p in POINTS])
            self.assertEqual([c.ask for c in look.checks], [p.ask for p in POINTS])


class FittedTests(BuildsCase):
    def test_what_is_fitted_is_frozen_with_the_build_and_followed(self) -> None:
        worked = with_finish(self.worked, **ALL)
        build = self.begin(worked=worked)
        kinds = [o.kind for o in selectors.plans_of(build)[-1].operations]
        for kind, many in (("colour", 1), ("peen", 1), ("coats", 3), ("sheath", 1)):
            self.assertEqual(kinds.count(kind), many, kind)
        coats = [o.id for o in selectors.plans_of(build)[-1].operations if o.kind == "coats"]
        self.assertEqual(coats, ["blade:coats-1", "blade:coats-2", "blade:coats-3"])
        self.write(build, self.entry(coats[0], "done", 1, minutes=9.0), self.entry(coats[1], "timer", 2, timer=0, running=True))
        build.refresh_from_db()
        waiting = selectors.told(build, AS_SHIPS)
        (second,) = [o for o in waiting.operations if o.id == coats[1]]
        self.assertEqual(set(second.running), {0})

    def test_days_of_drying_make_it_later_and_hands_only_a_little(self) -> None:
        bare, coated = (time_and_money(with_finish(self.worked, coats=n)) for n in (0, 3))
        self.assertAlmostEqual(coated.attended - bare.attended, 30.0, 6)
        self.assertAlmostEqual(coated.alone - bare.alone, 3 * 1440.0, 6)
        self.assertGreater(coated.likely, bare.likely + 1440)

    def test_the_shops_own_minutes_are_planned_with(self) -> None:
        document = with_finish(self.worked, **ALL).document.as_json()
        shop = ShopData(figures={"time_sheath": 100.0, "time_coat": 4.0, "time_oil_dries": 600.0})
        ops = {o.id: o for o in route_of(Worked.of(read_document(document, shop))).operations}
        self.assertEqual(ops["blade:sheath"].attended, 100.0)
        self.assertEqual((ops["blade:coats-2"].attended, ops["blade:coats-2"].alone), (4.0, 600.0))
        # what is learned from it is told against ours
        self.assertEqual(ops["blade:sheath"].usual, 240.0)

    def test_a_log_of_before_still_finds_its_operations(self) -> None:
        before = {o.id for o in route_of(self.worked).operations}
        after = {o.id for o in route_of(with_finish(self.worked, **ALL)).operations}
        self.assertLess(before, after)

    def test_every_new_operation_says_what_to_do_and_what_to_take_care_of(self) -> None:
        for o in route_of(with_finish(self.worked, **ALL)).operations:
            if o.kind in ("colour", "peen", "coats", "sheath"):
                self.assertTrue(o.say and o.checks and o.cautions, o.id)
                for check in o.checks:
                    self.assertTrue(check.ask.endswith("?") and check.good and check.bad, o.id)


class OverHttpTests(TestCase):
    def setUp(self) -> None:
        self.member = member("smith")
        self.client = signed_in(self.member, **HTTP)

    def test_a_sheath_is_printed_as_the_design_has_it(self) -> None:
        from tests.api.test_api import DOCUMENT

        body = {"title": "A knife", "document": DOCUMENT | {"finish": {"fit_up": {"seam": 8.0}}}, "paper": "letter"}
        answer = self.client.post("/api/paper/sheath.pdf", body, content_type="application/json")
        self.assertEqual((answer.status_code, answer["Content-Type"]), (200, "application/pdf"))
        bare = {k: v for k, v in DOCUMENT.items() if k != "blade"}
        refused = self.client.post("/api/paper/sheath.pdf", body | {"document": bare}, content_type="application/json")
        self.assertEqual(refused.status_code, 422)

    def test_nonsense_for_what_is_fitted(self) -> None:
        from tests.api.test_api import DOCUMENT
        from tests.nasty import wrong_for

        for name in ("pins", "colour", "coat", "coats", "sheath", "leather", "seam", "welt"):
            for wrong in wrong_for(name):
                body = {"document": DOCUMENT | {"finish": {"fit_up": {name: wrong}}}}
                answer = self.client.post("/api/finish/sheet", body, content_type="application/json")
                self.assertLess(answer.status_code, 500, f"{name} {wrong!r:.40}")
                if answer.status_code >= 400:
                    self.assertIn("finish.fit_up", str(answer.json()["problems"]) or name)

    def test_the_log_is_written_even_when_the_summary_cannot_be(self) -> None:
        with patch.object(log, "summary_of", side_effect=ArithmeticError("no")), self.assertRaises(ArithmeticError):
            build = BuildsCase.begin(self._case())
            log.write(actor=self.member, build=build, entries=[self._case().entry("", "note", text="x")])
        self.assertEqual(Record.objects.count(), 0, "both or neither: nothing was acknowledged")

    def _case(self) -> BuildsCase:
        case = BuildsCase()
        case.smith, case.n = self.member, 0
        from tests.core.test_ways_out import short

        case.worked = short(60.0)
        return case
