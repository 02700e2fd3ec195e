"""Builds: begun once, frozen, written down once whatever comes twice or late, changed with a reason, taken away only while empty."""

from datetime import UTC, datetime, timedelta
from typing import Any
from unittest.mock import patch
from uuid import UUID, uuid4

from django.db import DatabaseError, connection, transaction
from django.test import TestCase

from tests.core.test_ways_out import short
from tests.people import member
from varistrat.builds import selectors
from varistrat.builds.models import Build, BuildPlan, Record
from varistrat.builds.naming import builds_name
from varistrat.builds.services import begin as beginning
from varistrat.builds.services import log, orders
from varistrat.core.build.state import state_of
from varistrat.core.design.document import read_document
from varistrat.core.design.findings import findings_of
from varistrat.core.design.scale import scale_counted
from varistrat.core.design.worked import Worked
from varistrat.core.errors import InputError
from varistrat.core.finish.ordered import ordered
from varistrat.core.finish.purpose import SUGGESTED
from varistrat.core.rack.item import RackItem
from varistrat.core.reading import parse
from varistrat.core.shop import AS_SHIPS
from varistrat.core.stock.sheet import stock_of
from varistrat.designs.selectors import NotFound
from varistrat.designs.services.keep import create_design
from varistrat.rack import services as rack
from varistrat.shop.models import Role

BAR = {"steel": "1084", "width": 40.0, "thickness": 6.0, "length": 1000.0, "count": 2}
START = datetime(2026, 5, 17, 8, 0, tzinfo=UTC)


class BuildsCase(TestCase):
    def setUp(self) -> None:
        self.smith = member("smith")
        self.worked = short(60.0)
        self.n = 0

    def begin(self, **more: Any) -> Build:
        said = {"uid": uuid4(), "worked": self.worked, "design": None, "title": "Eel splitter"} | more
        return beginning.begin(actor=self.smith, **said)

    def entry(self, op: str, kind: str, minute: float = 0.0, **data: Any) -> dict[str, Any]:
        self.n += 1
        return {"id": str(UUID(int=self.n)), "op": op, "kind": kind, "at": (START + timedelta(minutes=minute)).isoformat(), **data}

    def write(self, build: Build, *entries: Any) -> log.Kept:
        return log.write(actor=self.smith, build=build, entries=list(entries))

    def op(self, build: Build, kind: str, at: int = 0) -> str:
        return [o.id for o in selectors.plans_of(build)[-1].operations if o.kind == kind][at]


class OrderTests(BuildsCase):
    def test_what_is_ordered_begins_the_design_and_is_begun_once(self) -> None:
        said = {
            "who": "Ferryman Dace", "title": "Eel splitter", "purpose": "slicing",
            "length": 190.0, "height": 38.0, "steels": ["1084", "15n20"],
        }  # fmt: skip
        order = orders.take(actor=self.smith, said=said)
        design = orders.begin_design(actor=self.smith, order=order, shop=AS_SHIPS)
        self.assertEqual((design.name, design.about, order.design), ("Eel splitter", "For Ferryman Dace.", design))
        document = read_document(design.revisions.get(number=design.current).document)
        worked = Worked.of(document)
        assert worked.cut
        self.assertEqual((worked.problems, worked.forged.steels), ((), ("1084", "15n20")))
        outline = worked.cut.geometry.blade.outline
        suits = SUGGESTED["slicing"]
        self.assertEqual((outline.length, outline.height, outline.shape), (190.0, 38.0, suits.shapes[0]))
        self.assertEqual((document.hardening.wanted, document.finish.angle), (61.5, 25.0))
        self.assertAlmostEqual(worked.cut.geometry.blade.grind.right.edge_thickness, sum(suits.behind) / 2, 2)
        # wide and long enough for it, its scale counted
        self.assertEqual([f.code for f in findings_of(worked) if f.grade == "stop"], [])
        self.assertGreaterEqual(stock_of(worked).spare, -0.5)
        self.assertEqual(scale_counted(worked).counting, "reckoned")
        # the same order has one design; one that was thrown away is begun anew
        self.assertEqual(orders.begin_design(actor=self.smith, order=order, shop=AS_SHIPS), design)
        design.removed = START
        design.save()
        self.assertNotEqual(orders.begin_design(actor=self.smith, order=order, shop=AS_SHIPS), design)

    def test_an_order_that_says_little_and_one_of_one_steel(self) -> None:
        for steels, kind in (([], "stack"), (["1095"], "solid")):
            order = orders.take(actor=self.smith, said={"who": "the reeve", "title": "A knife", "steels": steels, "length": 260.0})
            design = orders.begin_design(actor=self.smith, order=order, shop=AS_SHIPS)
            worked = Worked.of(read_document(design.revisions.get(number=design.current).document))
            self.assertEqual((worked.problems, worked.document.recipe.bar.start.kind), ((), kind))  # type: ignore[union-attr]
            self.assertGreaterEqual(stock_of(worked).spare, -0.5)
        for said in ({"length": 5000.0}, {"height": 2.0}, {"steels": ["moonsilver"]}, {"steels": ["moonsilver", "1084"]}):
            with self.assertRaises(InputError):
                ordered("A knife", **said)


class BeginTests(BuildsCase):
    def test_frozen_with_its_route(self) -> None:
        build = self.begin()
        (plan,) = selectors.plans_of(build)
        self.assertEqual(read_document(plan.document), self.worked.document)
        self.assertEqual((build.state, build.summary["total"], build.summary["next"]), ("planned", len(plan.operations), "Cut 7 pieces"))
        # the shop works twice as fast from now on: the plan that was followed stays as it was
        with patch("varistrat.core.build.told.route_of", side_effect=AssertionError("worked out anew")):
            told = selectors.told(build, AS_SHIPS)
        self.assertEqual([o.attended for o in told.operations], [o.attended for o in plan.operations])

    def test_twice_is_once(self) -> None:
        uid = uuid4()
        (item,) = rack.add(actor=self.smith, items=[parse(RackItem, BAR)])
        first = self.begin(uid=uid, takes={item.pk: 1})
        self.assertEqual(self.begin(uid=uid, takes={item.pk: 1}).pk, first.pk)
        self.assertEqual((rack.there(item), BuildPlan.objects.count()), (1, 1))

    def test_the_steel_and_the_plan_or_neither(self) -> None:
        (item,) = rack.add(actor=self.smith, items=[parse(RackItem, BAR)])
        with self.assertRaises(rack.NotEnough):
            self.begin(takes={item.pk: 3})
        self.assertEqual((Build.objects.count(), rack.there(item)), (0, 2))
        build = self.begin(takes={item.pk: 2}, keep=[rack.Offcut(item.pk, 300.0)])
        self.assertEqual(rack.there(item), 0)
        beginning.put_back(actor=self.smith, build=build)
        self.assertEqual((rack.there(item), build.acts), (2, []))
        # there is nothing of it to put back twice
        beginning.put_back(actor=self.smith, build=build)
        self.assertEqual(rack.there(item), 2)

    def test_steel_taken_for_a_design_is_taken_once(self) -> None:
        (item,) = rack.add(actor=self.smith, items=[parse(RackItem, BAR)])
        design, other = (create_design(actor=self.smith, document=self.worked.document, name=n) for n in ("Eel splitter", "Reed hook"))
        act = rack.take(actor=self.smith, takes={item.pk: 1}, design=design)
        (aside,) = selectors.laid_aside(self.smith.shop, design)
        self.assertEqual((aside.act, [(b.code, b.amount) for b in aside.bars]), (act, [(item.code, 1.0)]))
        self.assertEqual(selectors.laid_aside(self.smith.shop, other), [])
        self.assertEqual(selectors.laid_aside(member("other").shop, design), [])
        for said in ({"takes": {item.pk: 1}}, {"laid": [uuid4()]}, {"laid": [act], "design": other}):
            with self.assertRaises(InputError):
                self.begin(**{"design": design} | said)
        self.assertEqual((Build.objects.count(), rack.there(item)), (0, 1))
        build = self.begin(design=design, laid=[act])
        self.assertEqual((build.acts, rack.there(item)), ([str(act)], 1))
        # a build has it: it lies ready for no other
        self.assertEqual(selectors.laid_aside(self.smith.shop, design), [])
        with self.assertRaises(InputError):
            self.begin(design=design, laid=[act])
        # given up, all of it goes back
        beginning.put_back(actor=self.smith, build=build)
        self.assertEqual((build.acts, rack.there(item)), ([], 2))
        self.assertEqual(selectors.laid_aside(self.smith.shop, design), [])

    def test_more_is_taken_besides_what_is_laid_aside_by_who_says_so(self) -> None:
        (item,) = rack.add(actor=self.smith, items=[parse(RackItem, BAR)])
        design = create_design(actor=self.smith, document=self.worked.document, name="Eel splitter")
        act = rack.take(actor=self.smith, takes={item.pk: 1}, design=design)
        second = self.begin(design=design, takes={item.pk: 1}, besides=True)
        self.assertEqual([a.act for a in selectors.laid_aside(self.smith.shop, design)], [act])
        self.assertEqual(rack.there(item), 0)
        beginning.put_back(actor=self.smith, build=second)
        both = self.begin(design=design, laid=[act], takes={item.pk: 1})
        self.assertEqual((len(both.acts), rack.there(item)), (2, 0))
        beginning.take_away(actor=self.smith, build=both)
        self.assertEqual(rack.there(item), 2)
        # what went back by hand lies nowhere
        again = rack.take(actor=self.smith, takes={item.pk: 1}, design=design)
        rack.put_back(actor=self.smith, act=again)
        self.assertEqual(selectors.laid_aside(self.smith.shop, design), [])

    def test_what_cannot_be_carried_out_is_not_begun(self) -> None:
        data = self.worked.document.as_json()
        data["recipe"]["bar"]["steps"].append({"kind": "trim", "start": 9000.0, "id": "zz"})
        with self.assertRaises(InputError) as caught:
            self.begin(worked=Worked.of(read_document(data)))
        self.assertIn("steps[", str(caught.exception))
        self.assertEqual(Build.objects.count(), 0)

    def test_what_the_sheet_was_told_of_the_hardening_the_design_can_ask_for(self) -> None:
        design = create_design(actor=self.smith, document=self.worked.document, name="Eel splitter")
        build = self.begin(design=design)
        self.assertIsNone(selectors.read_at_the_sheet(self.smith.shop, design, AS_SHIPS))
        said = {"quantity": "hardness", "value": 63.0, "spots": [62.0, 64.0]}
        self.write(build, self.entry(self.op(build, "harden", 5), "measured", **said))
        (test,) = [o.id for o in selectors.plans_of(build)[-1].operations if o.id == "blade:harden-test"]
        self.write(build, self.entry(test, "measured", **said))
        found = selectors.read_at_the_sheet(self.smith.shop, design, AS_SHIPS)
        assert found
        self.assertEqual((found.build, found.hrc, found.tempered), (build.pk, [62.0, 64.0], []))
        self.assertIsNone(selectors.read_at_the_sheet(member("other").shop, design, AS_SHIPS))
        beginning.set_state(actor=self.smith, build=build, state="given up")
        self.assertIsNone(selectors.read_at_the_sheet(self.smith.shop, design, AS_SHIPS))

    def test_a_book_is_of_one_shop(self) -> None:
        build, other = self.begin(), member("other")
        self.assertEqual((selectors.book(other.shop), selectors.orders(other.shop)), ([], []))
        with self.assertRaises(NotFound):
            selectors.build_of(other.shop, build.pk)
        # the same id in another shop is another build
        theirs = beginning.begin(actor=other, uid=build.uid, worked=self.worked, design=None, title="Theirs")
        self.assertNotEqual(theirs.pk, build.pk)

    def test_a_steel_that_a_build_names_is_in_use(self) -> None:
        self.begin()
        self.assertEqual((builds_name(self.smith.shop, "1084"), builds_name(self.smith.shop, "o1")), (True, False))
        self.assertFalse(builds_name(member("other").shop, "1084"))


class SeenBeforeTests(BuildsCase):
    """A request reads the build, waits its turn to write, and finds that another was there first."""

    def test_what_is_written_down_does_not_bring_an_old_state_back(self) -> None:
        build = self.begin()
        seen = selectors.build_of(self.smith.shop, build.pk)
        self.write(build, self.entry(self.op(build, "cut_stock"), "begun"))
        for state in ("done", "resting"):
            beginning.set_state(actor=self.smith, build=build, state=state)
            self.write(seen, self.entry(self.op(build, "cut_stock"), "done", minute=5))
            self.assertEqual(selectors.build_of(self.smith.shop, build.pk).state, state)
            seen.state = "planned"

    def test_the_book_is_told_by_the_plan_that_counts(self) -> None:
        build = self.begin()
        seen = selectors.build_of(self.smith.shop, build.pk)
        said = {"id": str(uuid4()), "at": START.isoformat()}
        beginning.amend(actor=self.smith, build=build, worked=short(70.0), why="a shorter one", entry=said)
        seen.summary = {}
        log.summary_as_kept(seen)
        kept = selectors.build_of(self.smith.shop, build.pk)
        self.assertEqual((kept.current, seen.current), (2, 2))

    def test_a_build_that_was_taken_away_takes_no_more(self) -> None:
        build = self.begin()
        seen = selectors.build_of(self.smith.shop, build.pk)
        beginning.take_away(actor=self.smith, build=build)
        for change in (
            lambda: self.write(seen, self.entry("", "begun")),
            lambda: beginning.say(actor=self.smith, build=seen, said={"title": "x"}),
            lambda: beginning.set_state(actor=self.smith, build=seen, state="done"),
            lambda: beginning.put_back(actor=self.smith, build=seen),
        ):
            with self.assertRaises(NotFound):
                change()

    def test_steel_is_put_back_once(self) -> None:
        (item,) = rack.add(actor=self.smith, items=[parse(RackItem, BAR)])
        build = self.begin(takes={item.pk: 2})
        seen = selectors.build_of(self.smith.shop, build.pk)
        for one in (build, seen):
            beginning.put_back(actor=self.smith, build=one)
        self.assertEqual(rack.there(item), 2)


class LogTests(BuildsCase):
    def setUp(self) -> None:
        super().setUp()
        self.build = self.begin()
        self.cut, self.weld = self.op(self.build, "cut_stock"), self.op(self.build, "fire")

    def test_written_once(self) -> None:
        done = self.entry(self.cut, "done", 5, minutes=20.0)
        for _ in range(3):
            kept = self.write(self.build, done, done)
            self.assertEqual((kept.kept, kept.refused), ([done["id"], done["id"]], []))
        self.assertEqual((Record.objects.count(), self.build.state, self.build.summary["done"]), (1, "in work", 1))
        self.assertEqual((self.build.summary["took"], self.build.summary["next_op"]), (20.0, self.op(self.build, "clean")))

    def test_one_that_is_wrong_keeps_no_other_back(self) -> None:
        good = self.entry(self.cut, "done")
        bad = [
            self.entry(self.cut, "measured", quantity="smell", value=3.0),
            self.entry(self.cut, "done") | {"id": "17"},
            self.entry(self.cut, "done", 60 * 24 * 3650 * 3),
            self.entry("", "amended", revision=2, why="for a lark"),
            "nothing",
            self.entry(self.cut, "done") | {"colour": "red"},
        ]
        kept = self.write(self.build, *bad, good)
        self.assertEqual((kept.kept, len(kept.refused)), ([good["id"]], len(bad)))
        self.assertTrue(all(r.wrong and r.cure for r in kept.refused), kept.refused)
        self.assertIn("future", kept.refused[2].wrong)
        self.assertEqual(selectors.plans_of(self.build)[-1].number, 1)

    def test_late_and_shuffled_ends_alike(self) -> None:
        said = [
            self.entry(self.cut, "done", 1),
            self.entry(self.weld, "measured", 2, quantity="thickness", value=28.4),
            self.entry(self.weld, "redone", 3, why="a line"),
            self.entry(self.weld, "measured", 4, quantity="thickness", value=28.1),
            self.entry(self.weld, "done", 5, minutes=9.0),
        ]
        other = self.begin()
        self.write(self.build, *said)
        for one in reversed(said):
            self.write(other, one)
        self.assertEqual(state_of(selectors.entries_of(self.build)), state_of(selectors.entries_of(other)))
        self.assertEqual(self.build.summary, other.summary)

    def test_nothing_is_changed_afterwards(self) -> None:
        self.write(self.build, self.entry(self.cut, "done"))
        record = Record.objects.get()
        with self.assertRaises(TypeError):
            record.save()
        for table in ("builds_record SET data = '{}'", "builds_buildplan SET document = '{}'"):
            with self.assertRaisesMessage(DatabaseError, "never changes"), transaction.atomic(), connection.cursor() as c:
                c.execute(f"UPDATE {table}")
        # who wrote it may go
        self.smith.user.delete()
        self.assertIsNone(Record.objects.filter(pk=record.pk).values_list("by", flat=True).first())

    def test_no_more_than_a_build_holds(self) -> None:
        with patch.object(log, "MOST_RECORDS", 2):
            self.write(self.build, self.entry(self.cut, "note", text="a"), self.entry(self.cut, "note", text="b"))
            with self.assertRaises(InputError):
                self.write(self.build, self.entry(self.cut, "note", text="c"))
        self.assertEqual(Record.objects.count(), 2)

    def test_what_came_after(self) -> None:
        self.write(self.build, self.entry(self.cut, "done"))
        (first,) = selectors.records_after(self.build, 0)
        self.write(self.build, self.entry(self.weld, "done", -60))
        self.assertEqual([r.entry.op for r in selectors.records_after(self.build, first.pk)], [self.weld])

    def test_a_helper_writes_down_what_happens(self) -> None:
        helper = member("striker", Role.HELPER, self.smith.shop)
        log.write(actor=helper, build=self.build, entries=[self.entry(self.cut, "done")])
        self.assertEqual(Record.objects.get().by, helper.user)


class AmendTests(BuildsCase):
    def test_a_change_on_the_way(self) -> None:
        build = self.begin()
        weld, draw = self.op(build, "fire"), self.op(build, "fire", 1)
        self.write(
            build,
            self.entry(self.op(build, "cut_stock"), "done", 1),
            self.entry(weld, "measured", 2, quantity="thickness", value=28.4),
            self.entry(weld, "done", 3),
        )
        data = self.worked.document.as_json()
        step = next(s for s in data["recipe"]["bar"]["steps"] if s["kind"] == "draw")
        was, step["thickness"] = step["thickness"], 5.0
        said = {"id": str(uuid4()), "at": (START + timedelta(minutes=9)).isoformat()}
        thinner = Worked.of(read_document(data))
        for _ in range(2):
            beginning.amend(actor=self.smith, build=build, worked=thinner, why="the bar came out short", entry=said)
        self.assertEqual((build.current, BuildPlan.objects.count(), build.summary["amended"]), (2, 2, 1))
        self.write(build, self.entry(draw, "measured", 20, quantity="thickness", value=5.1), self.entry(draw, "done", 21))
        told = {o.id: o for o in selectors.told(build, AS_SHIPS).operations}
        # each measured by the plan that was followed then
        self.assertEqual((told[weld].plan, told[draw].plan), (1, 2))
        self.assertEqual([t.value for t in told[draw].targets if t.quantity == "thickness"], [5.0])
        self.assertNotEqual(was, 5.0)

    def test_a_change_at_a_time_that_cannot_be_changes_nothing(self) -> None:
        build = self.begin()
        said = {"id": str(uuid4()), "at": "1970-01-01T00:00:00+00:00"}
        with self.assertRaises(InputError):
            beginning.amend(actor=self.smith, build=build, worked=self.worked, why="x", entry=said)
        build.refresh_from_db()
        self.assertEqual((build.current, BuildPlan.objects.count(), Record.objects.count()), (1, 1, 0))


class StateTests(BuildsCase):
    def test_from_planned_to_done(self) -> None:
        build = self.begin()
        for wanted, is_ in (("in work", "planned"), ("resting", "resting"), ("planned", "planned")):
            self.assertEqual(beginning.set_state(actor=self.smith, build=build, state=wanted).state, is_)
        self.write(build, self.entry(self.op(build, "cut_stock"), "done"))
        for wanted, is_ in (("planned", "in work"), ("done", "done"), ("in work", "in work"), ("given up", "given up")):
            self.assertEqual(beginning.set_state(actor=self.smith, build=build, state=wanted).state, is_)

    def test_taken_away_only_while_nothing_was_written(self) -> None:
        (item,) = rack.add(actor=self.smith, items=[parse(RackItem, BAR)])
        build = self.begin(takes={item.pk: 1})
        beginning.take_away(actor=self.smith, build=build)
        self.assertEqual((Build.objects.count(), rack.there(item)), (0, 2))
        build = self.begin()
        self.write(build, self.entry(self.op(build, "cut_stock"), "note", text="it begins"))
        with self.assertRaises(beginning.Begun):
            beginning.take_away(actor=self.smith, build=build)

    def test_orders(self) -> None:
        order = orders.take(actor=self.smith, said={"who": "The ferry", "title": "Line knife", "price": 240.0})
        build = self.begin(order=order)
        self.assertEqual([b.pk for b in selectors.orders(self.smith.shop)[0].builds.all()], [build.pk])
        said = {
            "who": "The ferry",
            "title": "Line knife",
            "purpose": "",
            "promised": None,
            "price": 260.0,
            "must": "",
            "state": "delivered",
        }
        self.assertEqual(orders.change(actor=self.smith, order=order, said=said).state, "delivered")
        with patch.object(orders, "MOST_ORDERS", 1), self.assertRaises(InputError):
            orders.take(actor=self.smith, said={"who": "x", "title": "y"})


class ErrorsReadTests(BuildsCase):
    def amended(self, build: Build, **errors: float) -> None:
        data = self.worked.document.as_json()
        data["blade"]["errors"] = errors
        entry = self.entry("", "amended", revision=2, why="as the photo shows it")
        beginning.amend(actor=self.smith, build=build, worked=Worked.of(read_document(data)), why="as the photo shows it", entry=entry)

    def test_only_what_was_said_on_the_way_and_only_of_this_shop(self) -> None:
        planned = self.worked.document.as_json()
        planned["blade"]["errors"] = {"cup": 0.2}
        # an error that is planned is a question, and a build that nobody read says nothing
        self.begin(worked=Worked.of(read_document(planned)))
        self.assertEqual(selectors.errors_of(self.smith.shop), [])
        for uneven in (0.2, -0.3):
            self.amended(self.begin(), uneven=uneven)
        self.assertEqual([e.uneven for e in selectors.errors_of(self.smith.shop)], [0.2, -0.3])
        self.assertEqual(selectors.errors_of(member("other").shop), [])
        with self.assertNumQueries(1):
            selectors.errors_of(self.smith.shop)
