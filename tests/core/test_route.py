"""The route, its days and its money: in order, nothing twice, by hand where it can be worked by hand."""

from typing import Any

from django.test import SimpleTestCase

from varistrat.core.bars.forged import Stage
from varistrat.core.design.document import read_document
from varistrat.core.design.worked import Worked
from varistrat.core.errors import InputError
from varistrat.core.heat.fires.fired import Fired
from varistrat.core.laws.numbers import AT_ANVIL, DAY, GAS, GAS_PRICE, SAW, SAW_SET, WAGE, WEEK
from varistrat.core.route.money import time_and_money
from varistrat.core.route.operation import ALONE, UNITS, Job, Kind, Operation, Part
from varistrat.core.route.operations import KINDS
from varistrat.core.route.route import route_of
from varistrat.core.route.schedule import Hours, critical, finish, schedule, ways_left
from varistrat.core.shop import AS_SHIPS, ShopData
from varistrat.core.starters import STARTERS
from varistrat.core.stock.backwards import Wanted


def worked(starter: str = "bold_twist", shop: ShopData = AS_SHIPS, **more: Any) -> Worked:
    return Worked.of(read_document(STARTERS[starter].document() | more, shop))


def op(name: str, attended: float, alone: float = 0.0, *after: str, place: str = "bench", spread: float = 1.0) -> Operation:
    return Operation(name, name, name, "", "", None, place, attended, alone, spread, after)  # type: ignore[arg-type]


class RouteTests(SimpleTestCase):
    def test_every_starter_has_a_route_in_order(self) -> None:
        for key in STARTERS:
            w = worked(key, **({} if worked(key).cut else {"stock": {"need": 150.0}}))
            try:
                operations = route_of(w).operations
            except InputError:
                continue
            with self.subTest(key):
                seen: set[str] = set()
                for o in operations:
                    self.assertNotIn(o.id, seen)
                    self.assertLessEqual(set(o.after), seen, o.id)
                    self.assertTrue(o.title and o.say, o.id)
                    self.assertGreater(o.attended, 0, o.id)
                    self.assertTrue(o.alone == 0 or o.place in ALONE, o.id)
                    self.assertGreaterEqual(o.spread, 1.0)
                    seen.add(o.id)
                on_blade = [o for o in operations if o.id.startswith("blade:")]
                self.assertEqual(bool(on_blade), w.cut is not None)
                if w.cut:
                    self.assertEqual(operations[-1].kind, "look")
                    order = [o.kind for o in on_blade]
                    self.assertLess(order.index("shape"), order.index("sand"))
                    self.assertLess(order.index("sand"), order.index("etch"))
                # every step that goes into the fire is there, bars alike once
                fired = {f.step for f in w.fire.fired if f.heats}
                alike = {s.id for g in route_of(w).sheet.together for bar in g.bars[1:] for s in self.steps(w, bar)[: g.steps]}
                self.assertEqual({o.step for o in operations if o.kind == "fire"}, fired - alike)

    def steps(self, w: Worked, address: tuple[int, ...]) -> Any:
        bar = w.document.recipe.bar
        for i in address:
            bar = bar.start.children()[i]
        return bar.steps

    def test_a_joined_bar_waits_for_all_that_go_into_it(self) -> None:
        operations = {o.id: o for o in route_of(worked("opposed_twist")).operations}
        joined = operations["bar:pile_up"]
        self.assertEqual(len(joined.after), 3)
        # the second and third bar begin where the one of them all is parted
        twists = [o for o in operations.values() if o.kind == "fire" and o.title.startswith("Twist")]
        self.assertEqual(len({o.after for o in twists}), 1)

    def test_by_hand(self) -> None:
        w = worked("three_layer")
        n = w.shop.numbers
        by = {o.id: o for o in route_of(w).operations}
        layers = w.forged.start.piles()[0]
        area = sum(t for _, t in layers) * w.forged.first.width / 100
        self.assertAlmostEqual(by["bar:cut_stock"].attended, 3 * n.of(SAW_SET) + area * n.of(SAW))
        for f in w.fire.fired:
            self.assertAlmostEqual(
                by[f"bar:fire-{f.step}"].attended, f.soak * (1 + (f.heats - 1) / 2) + f.heats * (f.minutes + n.of(AT_ANVIL))
            )

    def test_what_is_not_needed_is_no_operation(self) -> None:
        said = [o.title for key in ("bold_twist", "three_layer") for o in route_of(worked(key)).operations]
        self.assertFalse([t for t in said if "not needed" in t])

    def test_a_kind_is_one_class(self) -> None:
        class Bless(Kind):
            key, place = "bless", "bench"

            def step(self, job: Job, wanted: Wanted, stage: Stage, fired: Fired | None) -> list[Part]:
                return [Part("Look at it", "Is it still straight?", 1.0)] if fired and fired.heats else []

        plain, more = route_of(worked()), route_of(worked(), [*KINDS, Bless()])
        self.assertEqual(len(more.operations) - len(plain.operations), sum(1 for o in plain.operations if o.kind == "fire"))


class ToldTests(SimpleTestCase):
    """What is to be reached, looked at, taken care of and timed."""

    def all(self) -> dict[str, list[Operation]]:
        out = {}
        for key in STARTERS:
            w = worked(key, **({} if worked(key).cut else {"stock": {"need": 150.0}}))
            try:
                out[key] = list(route_of(w).operations)
            except InputError:
                continue
        return out

    def test_every_target_is_a_size_and_every_timer_runs(self) -> None:
        for key, operations in self.all().items():
            for o in operations:
                for t in o.targets:
                    with self.subTest(f"{key} {o.id} {t.quantity}"):
                        self.assertGreater(t.value, 0)
                        self.assertGreaterEqual(t.tolerance, 0)
                        self.assertEqual(t.unit, UNITS[t.quantity])
                self.assertEqual(len({(t.quantity, t.says) for t in o.targets}), len(o.targets), o.id)
                for timer in o.timers:
                    self.assertGreater(timer.minutes, 0, o.id)
                    self.assertTrue(timer.says)
                for check in o.checks:
                    self.assertTrue(check.ask.endswith("?") and check.good and check.bad)

    def test_every_length_of_a_list_has_its_unit(self) -> None:
        # the screen tells quantities in the user's own units, and "24.8, 22.4 mm" is one of them only by its end
        for key, operations in self.all().items():
            for o in operations:
                self.assertNotRegex(f"{o.title} {o.told}", r"\d[,;] \d[\d.]*(?:[,;] \d[\d.]*)* mm", f"{key} {o.id}")
        self.assertTrue(any("Stop blocks: " in o.told for of in self.all().values() for o in of))

    def test_nobody_is_hurt_unwarned(self) -> None:
        for key, operations in self.all().items():
            for o in operations:
                if o.place in ("saw", "fire", "grinder", "bath"):
                    self.assertTrue(o.cautions, f"{key} {o.id}")
                if o.kind == "etch" and not o.id.endswith("-stop"):
                    self.assertIn("Acid into water, never water into acid", o.told)

    def test_a_fire_asks_for_the_bar_as_it_comes_out(self) -> None:
        w = worked("bold_twist")
        by = {o.step: o for o in route_of(w).operations if o.kind == "fire"}
        for stage in w.forged.stages:
            if stage.step.id not in by:
                continue
            targets = {t.quantity: t.value for t in by[stage.step.id].targets}
            self.assertAlmostEqual(targets["length"], stage.after.length)
            if "diameter" in targets:
                self.assertEqual(stage.after.section.form, "round")
                self.assertAlmostEqual(targets["diameter"], stage.after.width)
            else:
                self.assertAlmostEqual(targets["thickness"], stage.after.thickness)
        kinds = {s.step.id: s.step.fire for s in w.forged.stages}
        welds = [o for step, o in by.items() if kinds[step or ""] == "weld"]
        self.assertTrue(welds)
        for o in welds:
            self.assertIn("can you still see a line?", " ".join(c.ask for c in o.checks))
            fired = next(f for f in w.fire.fired if f.step == o.step)
            self.assertAlmostEqual(o.timers[0].minutes, fired.soak + fired.minutes)
            self.assertTrue(o.timers[1].again)
        twists = [o for step, o in by.items() if kinds[step or ""] == "twist"]
        self.assertTrue(all(any(t.quantity == "turns" for t in o.targets) for o in twists))

    def test_what_runs_alone_is_timed(self) -> None:
        for key, operations in self.all().items():
            for o in operations:
                if o.alone:
                    self.assertTrue(o.timers, f"{key} {o.id}")


class ScheduleTests(SimpleTestCase):
    SIX = Hours(360.0, 5)

    def test_hands_rest_at_night_and_the_kiln_does_not(self) -> None:
        operations = [op("a", 300.0), op("b", 100.0, 600.0, "a", place="kiln"), op("c", 30.0, 0.0, "b")]
        a, b, c = schedule(operations, self.SIX)
        self.assertEqual((a.start, a.end), (0.0, 300.0))
        # an hour is left today, forty minutes are tomorrow's; the kiln is done in the evening, the hands are there the morning after
        self.assertEqual((b.start, b.hands, b.end), (300.0, 1440.0 + 40.0, 1440.0 + 640.0))
        self.assertEqual((c.start, c.end), (2 * 1440.0, 2 * 1440.0 + 30.0))

    def test_while_the_glue_sets_something_else_is_done(self) -> None:
        operations = [op("glue", 10.0, 120.0, place="glue"), op("other", 50.0), op("last", 5.0, 0.0, "glue", "other")]
        slots = {s.id: s for s in schedule(operations, self.SIX)}
        self.assertEqual((slots["glue"].start, slots["other"].start, slots["last"].start), (0.0, 10.0, 130.0))

    def test_one_kiln_holds_one_thing(self) -> None:
        operations = [op("a", 5.0, 100.0, place="kiln"), op("b", 5.0, 100.0, place="kiln")]
        a, b = schedule(operations, self.SIX)
        self.assertGreaterEqual(b.start, a.end)

    def test_the_longest_way_goes_first(self) -> None:
        operations = [
            op("short", 10.0),
            op("long", 10.0),
            op("kiln", 1.0, 300.0, "long", place="kiln"),
            op("end", 1.0, 0.0, "short", "kiln"),
        ]
        self.assertEqual([s.id for s in schedule(operations, self.SIX)], ["long", "kiln", "short", "end"])
        self.assertEqual(critical(operations), ["long", "kiln", "end"])
        self.assertEqual(ways_left(operations)["long"], 312.0)

    def test_free_days(self) -> None:
        friday = Hours(360.0, 5, 4)
        (slot,) = schedule([op("a", 400.0)], friday)
        self.assertEqual(slot.end, 3 * 1440.0 + 40.0)
        self.assertEqual(Hours(360.0, 5, 6).next(0.0), 1440.0)
        self.assertEqual(Hours(360.0, 7, 6).next(0.0), 0.0)

    def test_late_is_later_than_likely(self) -> None:
        sure = finish([op("a", 100.0)], self.SIX)
        self.assertEqual(sure, (100.0, 100.0))
        likely, late = finish([op("a", 100.0, spread=1.5)], self.SIX, draws=2000)
        self.assertAlmostEqual(likely, 100.0, delta=4.0)
        # ln 1.5 times 1.2816
        self.assertAlmostEqual(late, 100.0 * 1.5**1.2816, delta=9.0)


class MoneyTests(SimpleTestCase):
    def test_the_sums_agree(self) -> None:
        told = time_and_money(worked())
        self.assertAlmostEqual(told.money, sum(c.money for c in told.costs))
        self.assertAlmostEqual(told.attended, sum(h.attended for h in told.hours))
        n = AS_SHIPS.numbers
        fire = next(h.attended for h in told.hours if h.place == "fire") / 60
        by = {c.cause: c.money for c in told.costs}
        self.assertAlmostEqual(by["gas"], fire * n.of(GAS) * n.of(GAS_PRICE))
        self.assertAlmostEqual(by["wage"], told.attended / 60 * n.of(WAGE))
        self.assertAlmostEqual(sum(o.money for o in told.operations), by["wage"] + by["gas"] + by["kiln"])
        self.assertEqual(told.dearest, max(told.operations, key=lambda o: o.money).id)
        self.assertGreaterEqual(told.late, told.likely)

    def test_the_shops_numbers_count(self) -> None:
        usual = time_and_money(worked())
        dear = time_and_money(worked(shop=ShopData({}, {WAGE.key: 50.0})))
        self.assertAlmostEqual(dear.money - usual.money, usual.attended / 60 * 25.0)
        slow = time_and_money(worked(shop=ShopData({}, {DAY.key: 2.0, WEEK.key: 1.0})))
        self.assertGreater(slow.likely, 3 * usual.likely)

    def test_half_the_layers_save_something_and_odd_stays_odd(self) -> None:
        told = time_and_money(worked("ladder"))
        assert told.halved
        self.assertGreater(told.halved[0], 0)
        self.assertGreater(told.halved[1], 0)
        self.assertIsNone(time_and_money(worked("opposed_twist")).halved)
        self.assertIsNone(time_and_money(worked("three_layer")).halved)

    def test_the_weekday_it_is_begun_on(self) -> None:
        monday, saturday = time_and_money(worked(), 0), time_and_money(worked(), 5)
        self.assertEqual(monday.operations[0].start, 0.0)
        self.assertEqual(saturday.operations[0].start, 2 * 1440.0)
