"""The cut list of a design: every piece once, laid out by hand or by sum, how each is made, what else goes in, what must be bought."""

from typing import Any

from django.test import SimpleTestCase

from varistrat.core.design.document import read_document
from varistrat.core.design.worked import Worked
from varistrat.core.errors import InputError
from varistrat.core.laws.numbers import KERF
from varistrat.core.rack.item import RackItem, Stocked
from varistrat.core.reading import parse
from varistrat.core.route.route import route_of
from varistrat.core.shop import AS_SHIPS, ShopData
from varistrat.core.starters import STARTERS
from varistrat.core.stock.backwards import bad_ends
from varistrat.core.stock.cut_plan import CutPlan, Laid, as_rows, cut_plan, in_sheets, pieces_wanted
from varistrat.core.stock.sheet import stock_of
from varistrat.core.stock.told import told_of

Json = dict[str, Any]


def worked(starter: str, shop: ShopData = AS_SHIPS, **more: Any) -> Worked:
    return Worked.of(read_document(STARTERS[starter].document() | more, shop))


def bar(code: str, steel: str, width: float, thickness: float, length: float, count: int = 1, **more: Any) -> Stocked:
    said = {"steel": steel, "width": width, "thickness": thickness, "length": length, "count": float(count)} | more
    return Stocked(code, parse(RackItem, said, AS_SHIPS), float(count), 7)


RACK = [bar("A", "1018", 50.0, 10.0, 600.0, 2), bar("B", "1095", 50.0, 8.0, 400.0), bar("C", "1018", 50.0, 12.0, 120.0)]


class CutPlanTests(SimpleTestCase):
    def names(self, plan: CutPlan) -> list[str]:
        return sorted(c.piece for b in plan.bars for c in b.cuts)

    def test_every_layer_once_from_a_bar_of_its_steel(self) -> None:
        plan = cut_plan(worked("three_layer"), RACK)
        self.assertEqual((self.names(plan), plan.buy, plan.proven), (["bar:1", "bar:2", "bar:3"], [], True))
        for b in plan.bars:
            self.assertAlmostEqual(b.left, b.length - sum(c.length + plan.kerf for c in b.cuts))
            self.assertEqual((b.keep, b.item, b.wrong, b.by_hand), (b.left >= plan.keep_from, 7, "", False))
        self.assertEqual({s.code for s in plan.spare}, {"A", "B", "C"} - {b.code for b in plan.bars} | {"A"})
        self.assertAlmostEqual(plan.waste / plan.used, 1 - self.inside(plan) / plan.used)

        back = sum(b.width * b.thickness * b.left * AS_SHIPS.steels[b.steel].density * 1e-6 for b in plan.bars if b.left >= 60.0)
        self.assertAlmostEqual(plan.kept, back)
        self.assertGreater(plan.kept, 0)

    def test_sixty_millimetres_are_worth_keeping(self) -> None:
        design = worked("three_layer")
        (core,) = [p for p in pieces_wanted(design, stock_of(design))[0] if p.steel == "1095"]
        for left, kept in ((58.0, False), (62.0, True)):
            rack = [bar("A", "1018", 50.0, 10.0, 600.0, 2), bar("B", "1095", 50.0, 8.0, core.length + 1.5 + left)]
            (b,) = [b for b in cut_plan(design, rack).bars if b.code == "B"]
            self.assertAlmostEqual(b.left, left)
            self.assertEqual(b.keep, kept)

    def inside(self, plan: CutPlan) -> float:
        steels = AS_SHIPS.steels
        return sum(c.width * c.thickness * c.length * steels[b.steel].density * 1e-6 for b in plan.bars for c in b.cuts)

    def test_what_is_done_to_a_piece_of_a_larger_bar_is_said(self) -> None:
        (layer,) = {
            (p.width, p.thickness) for p in pieces_wanted(worked("three_layer"), stock_of(worked("three_layer")))[0] if p.steel == "1095"
        }
        plan = cut_plan(worked("three_layer"), RACK)
        (core,) = [c for b in plan.bars for c in b.cuts if c.piece == "bar:2"]
        self.assertEqual(core.how, f"rip to {layer[0]:.4g} mm, grind or forge to {layer[1]:.4g} mm")
        same = cut_plan(worked("three_layer"), [*RACK, bar("E", "1095", layer[0], layer[1] + 0.2, 90.0)])
        (core,) = [c for b in same.bars for c in b.cuts if c.piece == "bar:2"]
        self.assertEqual(core.how, "")

    def test_what_was_laid_out_by_hand_stays(self) -> None:
        plan = cut_plan(worked("three_layer"), RACK, [Laid("C", ("bar:3",))])
        (hand,) = [b for b in plan.bars if b.by_hand]
        self.assertEqual(([c.piece for c in hand.cuts], hand.code, hand.wrong), (["bar:3"], "C", ""))
        self.assertEqual(self.names(plan), ["bar:1", "bar:2", "bar:3"])
        # too much on one bar, or of another steel: it is shown and said, not refused
        over = cut_plan(worked("three_layer"), RACK, [Laid("C", ("bar:3", "bar:1", "bar:2"))])
        (hand,) = [b for b in over.bars if b.by_hand]
        self.assertLess(hand.left, 0)
        self.assertIn("layer 2 is not of it", hand.wrong)
        self.assertIn("too much is laid on it", hand.wrong)
        for laid, path in (
            ([Laid("Z", ("bar:1",))], "laid[0].item"),
            ([Laid("B", ()), Laid("B", ())], "laid[1].item"),
            ([Laid("A", ("bar:9",))], "laid[0].pieces"),
            ([Laid("A", ("bar:1", "bar:1"))], "laid[0].pieces"),
        ):
            with self.assertRaises(InputError) as caught:
                cut_plan(worked("three_layer"), RACK, laid)
            self.assertEqual(caught.exception.problems[0].path, path)
        with self.assertRaises(InputError):
            cut_plan(worked("three_layer"), RACK, kerf=-1.0)

    def test_bars_alike_are_cut_as_one_pile_unless_refused(self) -> None:
        alike, apart = worked("opposed_twist"), worked("opposed_twist", stock={"apart": True})
        together, _ = pieces_wanted(alike, stock_of(alike))
        each, _ = pieces_wanted(apart, stock_of(apart))
        self.assertEqual(len(each), 3 * len(together))
        (length,) = {p.length for p in together}
        sheet = stock_of(alike)
        (group,) = sheet.together
        self.assertEqual(length, 3 * alike.forged.children[0].first.length)
        self.assertEqual(length, sheet.cut_to(group.bars[0]))
        # drawn out and parted, each of the three is as long as the design has it, without its bad ends
        one = alike.forged.children[0].upto(group.steps)
        ends = sum(bad_ends(one, sheet.allowed)[1])
        parted = length * one.bar.length / one.first.length - ends - 2 * alike.shop.numbers.of(KERF)
        self.assertGreaterEqual(parted, 3 * (one.bar.length - ends))

    def test_pieces_are_as_long_as_stock_the_sheet_and_the_paper_say(self) -> None:
        for key in ("three_layer", "opposed_twist", "fine_restack", "five_layer"):
            w = worked(key)
            route = route_of(w)
            said = {t.value for o in route.operations if o.kind == "cut_stock" for t in o.targets if t.quantity == "length"}
            cut = {p for b in cut_plan(w, []).buy for p in b.pieces}
            self.assertEqual(said, cut, key)
            self.assertEqual({p.length for p in pieces_wanted(w, route.sheet)[0]}, cut, key)
            told = told_of(w)
            shared = {bar for g in told.groups for bar in g.bars}
            self.assertEqual({p.has for p in told.piles if p.bar not in shared} | {g.has for g in told.groups}, cut, key)

    def test_a_can_with_all_that_goes_into_it(self) -> None:
        w = worked("canister")
        start = w.document.recipe.bar.start
        long = float(w.forged.first.length)
        pieces, others = pieces_wanted(w, stock_of(w))
        said = {o.name: o for o in others}
        self.assertEqual(set(said), {"powder", "can", "lid"})
        rods = sum(len(i.positions or []) or (i.count or 0) for i in start.inserts)  # type: ignore[union-attr]
        self.assertEqual(len(pieces), rods)
        self.assertTrue(all(p.form == "round" and p.length == long for p in pieces))
        # powder and rods together are what the pile weighs
        solid = sum(3.14159265 / 4 * p.width**2 * p.length * w.shop.steels[p.steel].density * 1e-6 for p in pieces)
        self.assertAlmostEqual(said["powder"].grams + solid, w.forged.first.volume * w.forged.densities[0], delta=0.5)
        self.assertEqual((said["lid"].count, said["can"].wall), (2, 2.0))
        powder = Stocked("P", parse(RackItem, {"steel": said["powder"].steel, "form": "powder", "count": 5000.0}, AS_SHIPS), 5000.0)
        self.assertEqual([o.there for o in cut_plan(w, [powder]).others if o.grams], [True])
        self.assertEqual([o.there for o in cut_plan(w, []).others if o.grams], [False])
        self.assertEqual(len(cut_plan(w, []).buy[0].pieces) + sum(len(b.pieces) for b in cut_plan(w, []).buy[1:]), rods)

    def test_a_rod_comes_from_a_rod_as_thick(self) -> None:
        w = worked("canister")
        rod = pieces_wanted(w, stock_of(w))[0][0]
        for across, served in ((rod.width, True), (rod.width + 0.2, True), (rod.width + 1.0, False)):
            rack = [Stocked("R", parse(RackItem, {"steel": rod.steel, "form": "rods", "width": across, "length": 3000.0}, AS_SHIPS), 9.0)]
            self.assertEqual(bool(cut_plan(w, rack).bars), served, across)

    def test_a_sheet_between_is_a_piece_too(self) -> None:
        start = {"kind": "stack", "width": 40.0, "length": 100.0, "layers": [{"steel": "1084", "thickness": 10.0}]}
        steps = [{"kind": "restack", "pieces": 3, "kerf": 2.0, "interleaf": {"steel": "nickel", "thickness": 0.5}}]
        recipe = {"format": "varistrat.recipe/1", "bar": {"start": start, "steps": steps}}
        w = Worked.of(read_document({"recipe": recipe, "stock": {"need": 50.0}}))
        sheets = [p for p in pieces_wanted(w, stock_of(w))[0] if p.steel == "nickel"]
        self.assertEqual([(round(p.length, 6), p.width, p.thickness) for p in sheets], [(50.0, 40.0, 0.5)] * 2)

    def test_no_layer_is_cut_from_what_carries_a_pattern(self) -> None:
        pattern = Stocked("P", RACK[0].item, 2.0, 0, patterned=True)
        plan = cut_plan(worked("three_layer"), [pattern])
        self.assertEqual((plan.bars, plan.spare, len(plan.buy)), ([], [], 2))

    def test_what_to_buy_by_kind_with_mass_and_money(self) -> None:
        shop = ShopData({"1095": AS_SHIPS.steels["1095"].model_copy(update={"price": 10.0})}, {})
        plan = cut_plan(worked("three_layer", shop), [])
        by = {b.steel: b for b in plan.buy}
        self.assertEqual((len(by["1018"].pieces), len(by["1095"].pieces)), (2, 1))
        core = by["1095"]
        self.assertAlmostEqual(core.length, core.pieces[0] + plan.kerf)
        self.assertAlmostEqual(core.mass, core.length * core.width * core.thickness * shop.steels["1095"].density * 1e-6)
        self.assertAlmostEqual(core.money or 0, core.mass / 100)
        self.assertIsNone(by["1018"].money)

    def test_sheets_for_a_layer_that_no_bar_gives(self) -> None:
        w = worked("three_layer")
        core = next(p for p in pieces_wanted(w, stock_of(w))[0] if p.steel == "1095")
        half = bar("S", "1095", 60.0, core.thickness / 2, 500.0, 3)
        (buy,) = [b for b in cut_plan(w, [half]).buy if b.steel == "1095"]
        self.assertEqual(buy.instead, f"2 x {core.thickness / 2:.4g} mm of S for {core.thickness:.4g} mm")
        self.assertEqual((buy.sheets, buy.sheet, buy.wanted), (2, core.thickness / 2, [core.name]))
        odd = bar("S", "1095", 60.0, core.thickness / 2 - 0.4, 500.0, 3)
        self.assertEqual([b.instead for b in cut_plan(w, [odd]).buy if b.steel == "1095"], [""])

    def test_sheets_taken_over_into_the_pile(self) -> None:
        w = worked("three_layer")
        made = in_sheets(w, ["bar:2"], 3, 1.5)
        before, after = w.document.recipe.bar.start.layers, made.recipe.bar.start.layers  # type: ignore[union-attr]
        self.assertEqual([(x.steel, x.thickness) for x in after][1:4], [(before[1].steel, 1.5)] * 3)
        self.assertEqual((len(after), after[0], after[-1]), (5, before[0], before[2]))
        # bars forged as one stay alike
        alike = worked("opposed_twist")
        bars = in_sheets(alike, ["1:1", "1:3"], 2, 1.0).recipe.bar.start.children()
        self.assertEqual(len({str(b.start.model_dump(exclude={"id"})) for b in bars}), 1)
        self.assertEqual(len(stock_of(Worked.of(in_sheets(alike, ["1:1"], 2, 1.0))).together[0].bars), 3)
        for wanted, count in ((["bar:9"], 2), (["bar:x"], 2), (["7:1"], 2), (["bar:1"], 9), (["bar:0"], 2)):
            with self.assertRaises(InputError):
                in_sheets(w, wanted, count, 1.0)

    def test_as_a_table(self) -> None:
        rows = list(as_rows(cut_plan(worked("three_layer"), RACK[:1])))
        self.assertEqual([r["bar"] for r in rows], ["A", "A", "buy"])
        self.assertEqual([bool(r["left"]) for r in rows], [False, True, False])
