"""Ways out of a short bar: each reaches, none more than it must, and each is what it says."""

import json
from typing import Any

from django.test import SimpleTestCase

from tests.core.test_cli import CommandCase
from tests.core.test_stock import draw, pile
from varistrat.core.design.document import read_document
from varistrat.core.design.worked import Worked
from varistrat.core.figures import USUAL
from varistrat.core.starters import blade
from varistrat.core.stock.need import Allowance
from varistrat.core.stock.sheet import stock_of
from varistrat.core.stock.ways import WayOut, ways_out

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
        self.assertEqual(set(found), {"length", "layers", "thickness", "width", "tang", "reserve"})
        for give, way in found.items():
            if give == "reserve":
                continue
            again = stock_of(Worked.of(way.document), ALLOWED).spare
            self.assertAlmostEqual(again, way.spare, 6, give)
            self.assertGreater(again, -0.5, give)
            self.assertLess(again, 30.0 if give == "length" else 2.0, give)

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
        self.assertEqual(set(found), {"length", "layers"})

    def test_every_word_is_for_people(self) -> None:
        for way in ways_out(short(50.0), ALLOWED):
            self.assertTrue(way.says[0].isupper() and way.says.endswith("."), way.says)
            self.assertNotIn("nan", way.says)
