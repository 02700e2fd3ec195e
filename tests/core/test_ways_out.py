"""Ways out of a short bar: each reaches, none more than it must, and each is what it says."""

import json
from typing import Any

from django.test import SimpleTestCase

from tests.core.test_cli import CommandCase
from tests.core.test_stock import draw, pile
from varistrat.core.design.document import read_document
from varistrat.core.design.worked import Worked
from varistrat.core.errors import InputError
from varistrat.core.figures import USUAL
from varistrat.core.starters import STARTERS, blade
from varistrat.core.stock.need import Allowance
from varistrat.core.stock.sheet import stock_of
from varistrat.core.stock.ways import WayOut, made_so, ways_out, ways_to_save

ALLOWED = Allowance.of(USUAL, ends=0.0)


def short(length: float, **more: Any) -> Worked:
    cut = blade("drop_point", 150.0, 30.0, (4.0, 3.6, 2.2), 0.4) | {"tang": {"length": 90.0, "width": 18.0, "end_width": 12.0}}
    steps = [{"kind": "weld", "thickness": 28.0}, draw(34.0, 6.2), {"kind": "grind", "top": 0.4, "bottom": 0.4}]
    bar = {"start": pile([5, 4, 5, 5, 5, 4, 5], 34.0, length), "steps": steps}
    return Worked.of(read_document({"recipe": {"format": "varistrat.recipe/1", "bar": bar}, "blade": cut} | more))


class WaysOutCommandTests(CommandCase):
    def test_the_command_tells_them(self) -> None:
        design = {"format": "varistrat.design/1", "name": "x"} | short(50.0).document.as_json()
        code, out, _ = self.call("stock", self.put("d.json", design), "--ends", "0")
        self.assertEqual(code, 0)
        (found,) = [f for f in json.loads(out)["findings"] if f["code"] == "bar_short"]
        for said in ("Cut the pile 55 mm long.", "Make every layer", "Draw the bar thinner", "Make the tang"):
            self.assertIn(said, found["do"])


class WaysOutTests(SimpleTestCase):
    def by_give(self, worked: Worked) -> dict[str, WayOut]:
        return {w.give: w for w in ways_out(worked, ALLOWED)}

    def test_none_is_needed_where_there_is_enough(self) -> None:
        self.assertEqual(ways_out(short(60.0), ALLOWED), [])

    def test_each_reaches_and_no_further_than_it_must(self) -> None:
        # 286 mm are wanted, 50 mm of pile give 266
        worked = short(50.0)
        self.assertAlmostEqual(stock_of(worked, ALLOWED).spare, 50 * 33 / 6.2 - 286, 6)
        found = self.by_give(worked)
        self.assertEqual(set(found), {"length", "layers", "count", "thickness", "width", "tang", "reserve"})
        for give, way in found.items():
            if give == "reserve":
                continue
            again = stock_of(Worked.of(way.document), ALLOWED).spare
            self.assertAlmostEqual(again, way.spare, 6, give)
            self.assertGreater(again, -0.5, give)
            self.assertLess(again, 30.0 if give == "length" else 140.0 if give == "count" else 2.0, give)

    def test_by_hand(self) -> None:
        found = self.by_give(short(50.0))
        # up to the next five millimetres
        self.assertEqual(found["length"].value, 55.0)
        self.assertAlmostEqual(found["layers"].value, 286 / (50 * 33 / 6.2), 4)
        self.assertAlmostEqual(found["thickness"].value, 6.2 * (50 * 33 / 6.2) / 286, 1)
        # what the tang gives up the reserve on it gives up too
        self.assertAlmostEqual(found["tang"].value, 90 - (286 - 50 * 33 / 6.2) / 1.1, 2)
        self.assertAlmostEqual(found["reserve"].value, (50 * 33 / 6.2) / 260 - 1, 6)
        self.assertAlmostEqual(found["reserve"].spare, 0.0, 6)

    def test_what_would_make_the_blade_impossible_is_no_way_out(self) -> None:
        # so short that the bar would be thinner than the blade's spine, and the tang gone
        found = self.by_give(short(30.0))
        self.assertEqual(set(found), {"length", "layers", "count"})

    def test_more_layers_follow_as_they_did_and_odd_stays_odd(self) -> None:
        way = self.by_give(short(50.0))["count"]
        before, after = (w.document.recipe.bar.start.layers for w in (short(50.0), way))  # type: ignore[union-attr]
        # 5, 4, 5, 5 and again from the start: four layers more
        self.assertEqual((len(after), way.value), (11, 11.0))
        self.assertEqual(after, [before[i % 4] for i in range(11)])
        worked = Worked.of(
            read_document(
                {"recipe": {"format": "varistrat.recipe/1", "bar": {"start": pile([4.0] * 11, 40.0, 40.0), "steps": [draw(34.0, 6.2)]}}}
            )
        )
        need = stock_of(worked, Allowance.of(USUAL, need=1.0)).have + 9.0
        (two,) = [w for w in ways_out(worked, Allowance.of(USUAL, need=need)) if w.give == "count"]
        self.assertEqual(two.value, 13.0)
        self.assertEqual([x.steel for x in two.document.recipe.bar.start.layers], ["1084", "15n20"] * 6 + ["1084"])  # type: ignore[union-attr]

    def test_what_is_too_long_can_do_with_less(self) -> None:
        worked = short(80.0)
        now = stock_of(worked, ALLOWED)
        self.assertGreater(now.spare, 100.0)
        found = {w.give: w for w in ways_to_save(worked, ALLOWED)}
        self.assertEqual(set(found), {"length", "layers"})
        self.assertEqual(found["length"].value, 55.0)
        self.assertAlmostEqual(found["layers"].value, 286 / (80 * 33 / 6.2), 4)
        for give, way in found.items():
            again = stock_of(Worked.of(way.document), ALLOWED)
            self.assertGreater(again.spare, -1e-3, give)
            self.assertLess(way.mass, 0.75 * sum(p.mass for p in now.piles) * 80 / now.piles[0].length, give)
        self.assertEqual(ways_to_save(short(50.0), ALLOWED), [])

    def test_a_reserve_given_up_is_in_the_design(self) -> None:
        way = self.by_give(short(50.0))["reserve"]
        self.assertAlmostEqual(way.document.stock.reserve or 0.0, way.value)
        self.assertAlmostEqual(stock_of(Worked.of(way.document), Allowance.planned(way.document.stock, USUAL, ends=0.0)).spare, 0.0, 6)

    def test_made_so_it_is_long_enough_with_as_many_pieces_as_that_takes(self) -> None:
        usual = Allowance.of(USUAL)
        for key, starter in STARTERS.items():
            worked = Worked.of(read_document(starter.document()))
            allowed = usual if worked.cut else Allowance.of(USUAL, need=200.0)
            try:
                sheet = stock_of(worked, allowed)
            except InputError:
                continue
            again = stock_of(Worked.of(made_so(worked, sheet)), allowed)
            self.assertGreaterEqual(again.spare, -1e-6, key)
            for before, after in zip(sheet.piles, again.piles, strict=True):
                # what dimples and grooves take hangs a little on where along the bar they fall
                self.assertAlmostEqual(before.length, after.length, delta=0.02, msg=key)

    def test_only_the_pile_that_is_asked_for_changes(self) -> None:
        worked = Worked.of(read_document(STARTERS["opposed_twist"].document()))
        first, second, *_ = worked.document.recipe.bar.start.children()
        made = made_so(worked, stock_of(worked), [first.id])
        self.assertNotEqual(made.bar(first.id).start.length, first.start.length)  # type: ignore[union-attr]
        self.assertEqual(made.bar(second.id), second)
        with self.assertRaises(InputError):
            made_so(worked, stock_of(worked), ["nobody"])

    def test_every_word_is_for_people(self) -> None:
        for way in ways_out(short(50.0), ALLOWED):
            self.assertTrue(way.says[0].isupper() and way.says.endswith("."), way.says)
            self.assertNotIn("nan", way.says)


class TileTests(SimpleTestCase):
    def tiled(self, angle: float, count: int, length: float) -> Worked:
        cut = blade("drop_point", 150.0, 30.0, (4.0, 3.6, 2.2), 0.4) | {"tang": {"length": 20.0, "width": 18.0, "end_width": 12.0}}
        tiles = {"kind": "tiles", "angle": angle, "thickness": 8.0, "count": count, "kerf": 1.5}
        steps = [{"kind": "weld", "thickness": 28.0}, tiles, {"kind": "weld", "thickness": 6.0}]
        bar = {"start": pile([5, 4, 5, 5, 5, 4, 5], 34.0, length), "steps": steps}
        return Worked.of(read_document({"recipe": {"format": "varistrat.recipe/1", "bar": bar}, "blade": cut}))

    def test_cut_at_another_angle_it_reaches_from_the_same_bar(self) -> None:
        worked = self.tiled(75.0, 4, 50.0)
        self.assertFalse(worked.problems)
        self.assertLess(stock_of(worked, ALLOWED).spare, -1.0)
        way = next(w for w in ways_out(worked, ALLOWED) if w.give == "tiles")
        self.assertGreaterEqual(stock_of(Worked.of(way.document), ALLOWED).spare, 0.0)
        # the piles are as they were
        self.assertEqual(way.document.recipe.bar.start, worked.document.recipe.bar.start)
        # no angle nearer to the planned one does it, whatever the count
        step = worked.forged.stages[1]
        for angle in range(int(min(way.value, 75)) + 1, int(max(way.value, 75))):
            with self.subTest(angle=angle):
                cut = step.step.model_copy(update={"angle": float(angle)})
                most = cut.most(step.before)  # type: ignore[attr-defined]
                self.assertLess(stock_of(self.tiled(float(angle), most, 50.0), ALLOWED).spare, 0.0)

    def test_more_of_them_where_the_bar_has_room(self) -> None:
        (way,) = [w for w in ways_out(self.tiled(60.0, 4, 90.0), ALLOWED) if w.give == "tiles"]
        self.assertEqual(way.says, "Cut 5 tiles instead of 4.")

    def test_an_end_slice_that_is_too_short_is_cut_thicker(self) -> None:
        # a slice is as long as the bar is thick, 28 mm: 20 mm of it drawn from 34 x 20 to 34 x 2.5 give 224 of the 286 mm that are wanted
        cut = blade("drop_point", 150.0, 30.0, (2.4, 2.2, 1.5), 0.4) | {"tang": {"length": 90.0, "width": 18.0, "end_width": 12.0}}
        steps = [{"kind": "weld", "thickness": 28.0}, {"kind": "end_slice", "thickness": 20.0}, draw(34.0, 2.5)]
        bar = {"start": pile([5, 4, 5, 5, 5, 4, 5], 34.0, 40.0), "steps": steps}
        worked = Worked.of(read_document({"recipe": {"format": "varistrat.recipe/1", "bar": bar}, "blade": cut}))
        sheet = stock_of(worked, ALLOWED)
        self.assertAlmostEqual(sheet.spare, 28 * 20 / 2.5 - sheet.need.length, 6)
        self.assertEqual([f.code for f in sheet.findings], ["bar_short", "more_pieces"])
        thick = sheet.wanted[0].steps[1].thickness
        self.assertTrue(0 <= thick - sheet.need.length * 2.5 / 28 < 0.1, thick)
        self.assertAlmostEqual(sheet.piles[0].length, thick * 28 / 33, 6)
        # its steel is told to the last: what is put in is what is lost and kept
        put_in = sheet.wanted[0].begun * 34 * 33
        self.assertAlmostEqual(sum(sheet.losses.values()), put_in, delta=1e-6 * put_in)
        self.assertTrue(0 <= stock_of(Worked.of(made_so(worked, sheet)), ALLOWED).spare < 2.0)
        way = next(w for w in ways_out(worked, ALLOWED) if w.give == "tiles")
        self.assertEqual((way.says, way.spare >= 0), (f"Cut the slice {thick:g} mm thick instead of 20.", True))

    def test_no_tiles_no_such_way(self) -> None:
        self.assertNotIn("tiles", {w.give for w in ways_out(short(50.0), ALLOWED)})


class LightTests(SimpleTestCase):
    def test_thirty_grams_are_worth_telling(self) -> None:
        # 53.7 mm of pile would do: 3.3 mm of 34 x 33 are 29 g
        worked = short(57.0)
        told = {w.give: w for w in ways_to_save(worked, ALLOWED)}
        self.assertIn("layers", told)
        put_in = sum(f.forged.first.volume * f.forged.densities[0] for f in stock_of(worked, ALLOWED).wanted)
        self.assertAlmostEqual(put_in - told["layers"].mass, 29.0, delta=2.0)

    def test_less_than_a_gram_is_not(self) -> None:
        worked = short(286.0 * 6.2 / 33 + 0.1)
        self.assertGreater(stock_of(worked, ALLOWED).spare, 0.5)
        self.assertEqual([w.says for w in ways_to_save(worked, ALLOWED) if w.give in ("layers", "thickness", "width")], [])
