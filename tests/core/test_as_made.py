"""Measured sizes in place of planned ones: what was lost is told as scale, what follows is worked out anew, what cannot be is refused."""

from typing import Any

from django.test import SimpleTestCase

from tests.core.test_build_state import entry
from tests.core.test_ways_out import ALLOWED, short
from varistrat.core.build.as_made import AsMade, as_made
from varistrat.core.build.as_read import TEMPER, TEST, follows
from varistrat.core.build.entry import Entry
from varistrat.core.build.state import state_of
from varistrat.core.build.words import word
from varistrat.core.design.document import read_document
from varistrat.core.design.hardening_sheet import hardening_sheet
from varistrat.core.design.worked import Worked
from varistrat.core.errors import InputError
from varistrat.core.route.operation import Operation, Target
from varistrat.core.route.route import Route, route_of
from varistrat.core.starters import STARTERS
from varistrat.core.stock.sheet import stock_of


class MadeTests(SimpleTestCase):
    def setUp(self) -> None:
        self.worked = short(60.0)
        self.route = route_of(self.worked)
        self.weld, self.draw, self.grind = (self.of(i) for i in range(3))

    def of(self, at: int) -> Operation:
        step = self.worked.forged.stages[at].step.id
        return [o for o in self.route.operations if o.step == step][-1]

    def made(self, *said: tuple[Operation, dict[str, float]]) -> AsMade:
        entries: list[Entry] = []
        for op, sizes in said:
            for quantity, value in sizes.items():
                entries.append(entry(len(entries) + 1, "measured", len(entries), op.id, quantity=quantity, value=value))
        return as_made(self.worked, self.route, state_of(entries))

    def test_nothing_measured_changes_nothing(self) -> None:
        made = self.made()
        self.assertEqual((made.document, made.changed, made.odd), (self.worked.document, [], []))

    def test_what_is_missing_is_scale(self) -> None:
        # a pile of 34 x 33 x 60, 0.2 mm off every face, welded to 34 x 28.4
        length = 60 * 33.6 * 32.6 / (34 * 28.4)
        made = self.made((self.weld, {"width": 34.0, "thickness": 28.4, "length": length}))
        self.assertEqual((made.changed, made.odd), ([self.weld.id], []))
        again = Worked.of(made.document)
        stage = again.forged.stages[0]
        self.assertAlmostEqual(stage.step.scale, 0.2, 6)
        self.assertEqual((stage.after.width, stage.after.thickness), (34.0, 28.4))
        self.assertAlmostEqual(stage.after.length, length, 6)
        # what follows is as planned, from the steel that is left
        self.assertEqual(again.forged.stages[1].after.thickness, self.worked.forged.stages[1].after.thickness)
        self.assertAlmostEqual(again.forged.stages[1].after.volume, stage.after.volume, 3)
        self.assertLess(stock_of(again, ALLOWED).spare, stock_of(self.worked, ALLOWED).spare)

    def test_without_its_length_what_was_lost_stays_as_planned(self) -> None:
        made = self.made((self.draw, {"thickness": 6.5}))
        step = Worked.of(made.document).forged.stages[1]
        self.assertEqual((step.after.width, step.after.thickness, step.step.scale), (34.0, 6.5, 0.0))
        # thicker than planned is shorter
        self.assertLess(stock_of(Worked.of(made.document), ALLOWED).spare, stock_of(self.worked, ALLOWED).spare)

    def test_one_after_the_other(self) -> None:
        first = self.made((self.weld, {"thickness": 28.4, "width": 34.0, "length": 61.0}))
        both = self.made((self.weld, {"thickness": 28.4, "width": 34.0, "length": 61.0}), (self.draw, {"thickness": 6.0}))
        self.assertEqual(both.changed, [self.weld.id, self.draw.id])
        steps = [d.recipe.bar.steps[0] for d in (first.document, both.document)]
        self.assertEqual(steps[0], steps[1])

    def test_what_was_ground_off_comes_off_as_planned(self) -> None:
        before = self.worked.forged.stages[2].before
        made = self.made((self.grind, {"thickness": before.thickness - 1.2}))
        step: Any = made.document.recipe.bar.steps[2]
        self.assertAlmostEqual(step.top, 0.6)
        self.assertAlmostEqual(step.bottom, 0.6)
        self.assertAlmostEqual(Worked.of(made.document).forged.bar.thickness, before.thickness - 1.2)

    def test_more_steel_than_went_in_cannot_be(self) -> None:
        made = self.made((self.weld, {"thickness": 28.0, "width": 34.0, "length": 90.0}), (self.draw, {"thickness": 6.0}))
        self.assertEqual(made.changed, [self.draw.id])
        (odd,) = made.odd
        self.assertEqual(odd.op, self.weld.id)
        self.assertIn("more steel than went in", odd.wrong)
        self.assertIn("far less", self.made((self.weld, {"thickness": 28.0, "width": 34.0, "length": 5.0})).odd[0].wrong)

    def test_an_operation_of_which_the_plan_knows_no_more(self) -> None:
        gone = Operation("bar:fire-zz", "fire", "Draw", "", self.weld.bar, "zz", "fire", 1.0, 0.0, 1.0, ())
        made = as_made(
            self.worked, Route((gone,), self.route.sheet), state_of([entry(1, "measured", 1, gone.id, quantity="width", value=3.0)])
        )
        self.assertIn("no longer in the plan", made.odd[0].wrong)


class AlikeTests(SimpleTestCase):
    def test_what_is_measured_of_bars_forged_as_one_holds_for_all(self) -> None:
        worked = Worked.of(read_document(STARTERS["opposed_twist"].document()))
        route = route_of(worked)
        operations = route.operations
        group = next(g for g in stock_of(worked).together)
        op = next(o for o in operations if o.kind == "fire" and o.bar and o.bar != worked.document.recipe.bar.id)
        before = worked.bar(op.bar)
        at = next(i for i, s in enumerate(before.stages) if s.step.id == op.step)
        self.assertLess(at, group.steps)
        thick = before.stages[at].after.thickness + 0.5
        said = state_of([entry(1, "measured", 1, op.id, quantity="thickness", value=thick)])
        made = Worked.of(as_made(worked, route, said).document)
        for address in group.bars:
            bar = made.document.recipe.bar
            for i in address:
                bar = bar.start.children()[i]
            self.assertAlmostEqual(made.bar(bar.id).stages[at].after.thickness, thick, msg=str(address))

    def test_every_starter_as_planned_is_as_planned(self) -> None:
        for key in STARTERS:
            worked = Worked.of(read_document(STARTERS[key].document()))
            if worked.problems or not worked.cut:
                continue
            try:
                route = route_of(worked)
            except InputError:
                # a slice off the end of a bar that is not thick enough: it says so in Stock
                continue
            entries = []
            for op in route.operations:
                if op.kind != "fire":
                    continue
                for t in op.targets:
                    if t.quantity in ("width", "thickness", "diameter"):
                        entries.append(entry(len(entries) + 1, "measured", len(entries), op.id, quantity=t.quantity, value=t.value))
            made = as_made(worked, route, state_of(entries))
            with self.subTest(key):
                self.assertEqual(made.odd, [])
                again = Worked.of(made.document)
                self.assertAlmostEqual(again.forged.bar.length, worked.forged.bar.length, 6)
                self.assertAlmostEqual(again.forged.bar.thickness, worked.forged.bar.thickness, 6)

    def test_a_size_that_no_number_of_the_step_sets_changes_nothing(self) -> None:
        worked = Worked.of(read_document(STARTERS["bold_twist"].document()))
        route = route_of(worked)
        twist = next(o for o in route.operations if o.kind == "fire" and o.title.startswith("Twist"))
        said = state_of([entry(1, "measured", 1, twist.id, quantity="diameter", value=17.0)])
        made = as_made(worked, route, said)
        self.assertEqual((made.changed, made.odd, made.document), ([], [], worked.document))


class ReadTests(SimpleTestCase):
    """What is read at the shop sheet is what the rest of the plan goes by."""

    def setUp(self) -> None:
        self.worked = Worked.of(read_document(STARTERS["three_layer"].document()))
        self.route = route_of(self.worked)

    def target(self, op: str, quantity: str) -> Target:
        (one,) = [o for o in self.route.operations if o.id == op]
        return next(t for t in one.targets if t.quantity == quantity)

    def made(self, *entries: Entry) -> tuple[AsMade, Worked]:
        made = as_made(self.worked, self.route, state_of(entries))
        return made, Worked.of(made.document)

    def read(self, n: int, op: str, *spots: float, quantity: str = "hardness") -> Entry:
        return entry(n, "measured", n, op, quantity=quantity, value=sum(spots) / len(spots), spots=list(spots))

    def test_what_is_to_be_read_stands_on_the_sheet(self) -> None:
        sheet = hardening_sheet(self.worked)
        assert sheet.expected and sheet.set_oven
        quenched = self.target(TEST, "hardness")
        self.assertEqual((quenched.value, quenched.tolerance), sheet.expected)
        self.assertEqual(self.target(TEMPER, "celsius").value, sheet.set_oven)
        self.assertEqual(self.target("blade:harden-heat", "celsius").value, sheet.heat)

    def test_readings_after_the_quench_change_the_temper_and_are_judged(self) -> None:
        expected = self.target(TEST, "hardness").value
        low = [expected - 3.5, expected - 3.0, expected - 4.0]
        made, worked = self.made(self.read(1, TEST, *low))
        self.assertEqual((made.changed, made.odd), ([TEST], []))
        self.assertEqual(worked.document.hardening.hardened.hrc, low)
        planned, now = self.worked.hardening.temper, worked.hardening.temper
        assert planned and now
        # softer to begin with, it is tempered less for the same hardness
        self.assertLess(now, planned - 10)
        said = follows(worked)
        self.assertIn("It did not come to full hardness.", said[TEST])
        self.assertIn(f"oven at {hardening_sheet(worked).set_oven:.0f} C", said[TEST])
        self.assertNotIn(TEMPER, said)
        # told to what a tester tells
        self.assertEqual(word(self.target(TEST, "hardness"), expected - 3.5 - 1 / 6)[:14], "3.7 HRC softer")
        # as it should be there is nothing to be said against it
        _, good = self.made(self.read(1, TEST, expected, expected - 0.5))
        self.assertNotIn("full hardness", follows(good)[TEST])
        self.assertEqual(follows(self.worked), {})

    def test_a_temper_that_was_done_and_one_more(self) -> None:
        oven = self.target(TEMPER, "celsius").value
        _, once = self.made(self.read(1, TEMPER, 62.0, 62.5), entry(2, "done", 2, TEMPER))
        (first,) = once.document.hardening.tempered
        self.assertEqual((first.celsius, first.hours, first.hrc), (oven, 2.0, [62.0, 62.5]))
        self.assertIn("once more", follows(once)[TEMPER])
        _, twice = self.made(
            self.read(1, TEMPER, 62.0, 62.5), entry(2, "done", 2, TEMPER), entry(3, "redone", 3, TEMPER),
            self.read(4, TEMPER, 60.0), self.read(5, TEMPER, 215.0, quantity="celsius"), entry(6, "done", 6, TEMPER),
        )  # fmt: skip
        self.assertEqual([(t.celsius, t.hours, t.hrc) for t in twice.document.hardening.tempered], [
            (oven, 2.0, [62.0, 62.5]), (215.0, 1.0, [60.0]),
        ])  # fmt: skip
        # read, and not done yet, it is no temper
        _, open_ = self.made(self.read(1, TEMPER, 62.0))
        self.assertEqual(open_.document.hardening.tempered, [])

    def test_a_reading_that_cannot_be_is_said(self) -> None:
        made, _ = self.made(self.read(1, TEST, 150.0))
        self.assertEqual((made.document, [o.op for o in made.odd]), (self.worked.document, [TEST]))
