"""A build told: planned, what follows, measured; which plan was followed when; what may still give way; what the book tells."""

import json
from copy import deepcopy

from django.test import SimpleTestCase

from tests.core.test_build_state import entry, uid
from tests.core.test_ways_out import short
from varistrat.core.build.entry import Entry
from varistrat.core.build.plan import Plan, in_force, read_operations
from varistrat.core.build.state import state_of
from varistrat.core.build.summary import summary_of
from varistrat.core.build.told import BuildTold, OperationTold, made_of, told_of
from varistrat.core.build.ways import ways_left
from varistrat.core.build.words import MEANS, within, word
from varistrat.core.design.document import read_document
from varistrat.core.design.worked import Worked
from varistrat.core.errors import InputError
from varistrat.core.laws.numbers import SAND
from varistrat.core.route.operation import UNITS, Target
from varistrat.core.route.route import route_of
from varistrat.core.shop import ShopData
from varistrat.core.starters import STARTERS


class PlanTests(SimpleTestCase):
    def test_kept_and_read_again_it_is_the_same(self) -> None:
        for key, starter in STARTERS.items():
            worked = Worked.of(read_document(starter.document()))
            if worked.problems or worked.cut is None:
                continue
            try:
                plan = Plan.begun(worked)
            except InputError as e:
                # a slice that is too thin to become so long: said, with its cure
                self.assertEqual((key, bool(e.problems[0].cure)), ("end_slice", True))
                continue
            again = read_operations(json.loads(json.dumps(plan.operations_json)))
            self.assertEqual(again, plan.operations, key)

    def test_an_older_one_without_what_came_later_is_read(self) -> None:
        kept = Plan.begun(short(60.0)).operations_json
        for one in kept:
            for name in ("by_heat", "lay_out", "bars", "usual"):
                del one[name]
        self.assertEqual(read_operations(kept)[0].bars, 1)

    def test_our_own_numbers_are_told_beside_the_shops(self) -> None:
        worked = short(60.0)
        data = worked.document.as_json()
        mine = Worked.of(read_document(data, ShopData(figures={SAND.key: 3 * SAND.usual})))
        sand = next(o for o in route_of(mine).operations if o.kind == "sand")
        self.assertAlmostEqual(sand.attended, 3 * sand.usual)
        self.assertTrue(all(o.usual == o.attended for o in route_of(worked).operations))


class AlikeTests(SimpleTestCase):
    def test_bars_that_are_one_piece_are_told_and_measured_as_one(self) -> None:
        worked = Worked.of(read_document(STARTERS["opposed_twist"].document()))
        route = route_of(worked)
        shared = [o for o in route.operations if o.bars > 1]
        self.assertTrue(shared, "bars of this start are alike at first")
        weld = next(o for o in shared if o.step)
        stage = next(s for s in worked.bar(weld.bar).stages if s.step.id == weld.step)
        length = next(t for t in weld.targets if t.quantity == "length")
        self.assertAlmostEqual(length.value, weld.bars * stage.after.length)
        cut = next(o for o in shared if o.kind == "cut_stock")
        self.assertAlmostEqual(cut.targets[0].value, weld.bars * worked.bar(weld.bar).first.length)
        # measured as planned nothing changes, for none of them
        plan = Plan.begun(worked)
        said = [
            entry(n, "measured", n, weld.id, quantity=t.quantity, value=t.value) for n, t in enumerate(weld.targets, 1) if t.unit == "mm"
        ]
        made = made_of([plan], said, worked)
        self.assertEqual(made.made.odd, [])
        for bar in worked.bars:
            self.assertAlmostEqual(made.worked.bar(bar).bar.length, worked.bar(bar).bar.length, 3)


class ToldTests(SimpleTestCase):
    def setUp(self) -> None:
        self.worked = short(60.0)
        self.plan = Plan.begun(self.worked)
        fires = [o for o in self.plan.operations if o.kind == "fire"]
        self.weld, self.draw = fires[0].id, fires[1].id

    def told(self, *entries: Entry, plans: list[Plan] | None = None) -> BuildTold:
        plans = plans or [self.plan]
        planned = Worked.of(read_document(plans[-1].document))
        return told_of(plans, entries, made_of(plans, entries, planned))

    def of(self, told: BuildTold, op: str) -> OperationTold:
        return next(o for o in told.operations if o.id == op)

    def test_nothing_said(self) -> None:
        told = self.told()
        self.assertEqual((told.next, told.begun, told.changed), (self.plan.operations[0].id, None, []))
        for o in told.operations:
            for t in o.targets:
                self.assertEqual((t.now, t.measured, t.off), (t.value, None, ""))

    def test_what_follows_from_what_was_measured(self) -> None:
        before = self.told()
        told = self.told(entry(1, "measured", 1, self.weld, quantity="thickness", value=30.0))
        thick = next(t for t in self.of(told, self.weld).targets if t.quantity == "thickness")
        planned = next(t for t in self.of(before, self.weld).targets if t.quantity == "thickness").value
        self.assertEqual((thick.value, thick.measured), (planned, 30.0))
        self.assertAlmostEqual(thick.difference or 0, 30.0 - planned)
        self.assertIn("thicker", thick.off)
        length = next(t for t in self.of(told, self.weld).targets if t.quantity == "length")
        self.assertLess(length.now, length.value)
        self.assertEqual(told.changed, [self.weld])

    def test_what_is_to_spare_without_the_reserve(self) -> None:
        told = self.told()
        self.assertGreater(told.sure, told.spare)
        self.assertEqual(told.short, told.spare < -0.5)

    def test_a_plan_that_can_no_longer_be_worked_out_still_tells_its_log(self) -> None:
        said = [entry(1, "measured", 1, self.weld, quantity="thickness", value=30.0)]
        told = told_of([self.plan], said, InputError.at("steel", "'mithril' is not in the list", "bring it back"))
        self.assertIn("mithril", told.wrong)
        self.assertEqual(next(t.measured for t in self.of(told, self.weld).targets if t.quantity == "thickness"), 30.0)

    def second(self) -> Plan:
        data = deepcopy(self.plan.document)
        steps = data["recipe"]["bar"]["steps"]
        next(s for s in steps if s["kind"] == "draw")["thickness"] = 5.0
        return Plan.begun(Worked.of(read_document(data)), 2, "thinner")

    def test_each_against_the_plan_that_was_followed_then(self) -> None:
        plans = [self.plan, self.second()]
        told = self.told(
            entry(1, "measured", 1, self.draw, quantity="thickness", value=6.0),
            entry(2, "amended", 5, "", revision=2, why="thinner"),
            entry(3, "measured", 9, self.weld, quantity="width", value=34.0),
            plans=plans,
        )
        self.assertEqual((self.of(told, self.draw).plan, self.of(told, self.weld).plan), (1, 2))
        # an entry that came late counts by its clock
        self.assertEqual(in_force(plans, state_of([entry(2, "amended", 5, "", revision=2, why="x")]), entry(9, "done", 3)).number, 1)
        again = self.told(
            entry(2, "amended", 5, "", revision=2, why="thinner"),
            entry(1, "measured", 6, self.draw, quantity="thickness", value=5.1),
            plans=plans,
        )
        self.assertEqual(next(t.value for t in self.of(again, self.draw).targets if t.quantity == "thickness"), 5.0)

    def test_what_is_no_longer_in_the_plan_is_told_after_it(self) -> None:
        data = deepcopy(self.plan.document)
        steps = data["recipe"]["bar"]["steps"]
        gone = next(o for o in self.plan.operations if o.step == steps[-1]["id"])
        del steps[-1]
        plans = [self.plan, Plan.begun(Worked.of(read_document(data)), 2, "left out")]
        said = [entry(1, "done", 1, gone.id), entry(2, "amended", 2, "", revision=2, why="left out")]
        told = self.told(*said, plans=plans)
        self.assertEqual([o.id for o in told.operations if o.gone], [gone.id])
        self.assertEqual(self.told(said[1], plans=plans).operations[-1].gone, False)

    def test_pictures_before_and_after(self) -> None:
        told = self.told()
        self.assertEqual((self.of(told, self.weld).before, self.of(told, self.weld).stage), (0, 1))
        self.assertEqual((told.operations[0].before, told.operations[0].stage), (None, 0))
        self.assertEqual((told.operations[-1].before, told.operations[-1].stage), (None, None))


class WaysLeftTests(SimpleTestCase):
    def test_only_what_is_not_done_may_give_way(self) -> None:
        worked = short(60.0)
        plan = Plan.begun(worked)
        all_ways = {w.give for w in ways_left(made_of([plan], [], worked))}
        self.assertIn("length", all_ways)
        done = [entry(n, "done", n, o.id) for n, o in enumerate(plan.operations, 1) if o.bar]
        left = ways_left(made_of([plan], done, worked))
        self.assertNotIn("length", {w.give for w in left})
        self.assertNotIn("thickness", {w.give for w in left})
        self.assertTrue({w.give for w in left} < all_ways)
        mine = worked.document.as_json()["recipe"]
        for way in left:
            self.assertEqual(way.document.as_json()["recipe"], mine, way.give)


class WordsTests(SimpleTestCase):
    def test_every_quantity_has_both(self) -> None:
        self.assertEqual(set(MEANS), set(UNITS))

    def test_only_beyond_the_tolerance(self) -> None:
        target = Target("thickness", 18.0, 0.3)
        self.assertEqual((word(target, 18.3), word(target, 17.7)), ("", ""))
        self.assertEqual(word(target, 18.4), "0.4 mm thicker: more passes, or the bar stays shorter")
        self.assertTrue(word(target, 17.6).startswith("0.4 mm thinner"))
        self.assertTrue(within(target, 18.3) and not within(target, 18.31))
        # a difference of heat is not a heat
        self.assertTrue(word(Target("celsius", 1100.0, 25.0), 1140.0).startswith("40 C° hotter"))


class SummaryTests(SimpleTestCase):
    def test_how_far_what_next_hours_yield(self) -> None:
        plan = Plan.begun(short(60.0))
        ops = plan.operations
        sand = next(o for o in ops if o.kind == "sand")
        said = [
            entry(1, "measured", 1, ops[0].id, quantity="mass", value=800.0),
            entry(2, "done", 2, ops[0].id, minutes=30.0),
            entry(3, "skipped", 3, ops[1].id, why="bright already"),
            entry(4, "fault", 4, ops[2].id, text="a gap"),
            entry(5, "timer", 5, ops[3].id, timer=0, running=True),
            entry(6, "measured", 6, sand.id, quantity="mass", value=200.0),
            entry(7, "done", 7, ops[4].id),
        ]
        found = summary_of(plan, state_of(said))
        self.assertEqual((found.total, found.done, found.skipped, found.next_op), (len(ops), 2, 1, ops[2].id))
        self.assertEqual((found.took, found.planned_of_said), (30.0, ops[0].attended))
        self.assertEqual((found.put_in, found.blade, found.share, found.faults), (800.0, 200.0, 0.25, ["a gap"]))
        self.assertEqual([(w.op, w.says) for w in found.waiting], [(ops[3].id, ops[3].timers[0].says)])
        self.assertEqual([(k.op, k.took) for k in found.kinds], [(ops[0].id, 30.0), (ops[4].id, None)])
        self.assertIsNone(summary_of(plan, state_of([])).share)
        self.assertEqual(uid(1), said[0].id)
