"""Items of the rack: how heavy, how a line is understood, CSV out and in again, what a piece is still good for."""

from math import pi

from django.test import SimpleTestCase

from varistrat.core.errors import InputError
from varistrat.core.rack.csv_file import COLUMNS, MORE, read_rack, write_rack
from varistrat.core.rack.item import FORMS, RackItem, Stocked, size_of
from varistrat.core.rack.typed import SIZES, read_lines
from varistrat.core.rack.uses import BLOCKS, Block, fittings_of, use_for, uses_of
from varistrat.core.reading import parse
from varistrat.core.shop import AS_SHIPS, ShopData

STEEL = AS_SHIPS.steels["1084"]


def item(**said: object) -> RackItem:
    return parse(RackItem, {"steel": "1084"} | said, AS_SHIPS)


class ItemTests(SimpleTestCase):
    def test_how_heavy_by_form(self) -> None:
        # a metre, 20 mm across, of the section's own formula
        per = STEEL.density * 1e-6 * 1000.0
        for said, section in (
            ({"form": "flat", "width": 40.0, "thickness": 5.0}, 200.0),
            ({"form": "square", "width": 20.0}, 400.0),
            ({"form": "round", "width": 20.0}, pi * 100),
            ({"form": "octagon", "width": 20.0}, 331.3708),
            ({"form": "hexagon", "width": 20.0}, 346.4102),
            ({"form": "tube", "width": 50.0, "thickness": 40.0, "wall": 3.0}, 50 * 40 - 44 * 34),
            ({"form": "rods", "width": 5.0}, pi * 6.25),
        ):
            one = item(length=1000.0, **said)
            self.assertAlmostEqual(one.section, section, 3, said["form"])
            self.assertAlmostEqual(one.grams(STEEL), section * per, 2, said["form"])
        self.assertEqual(item(form="powder", count=2500.0).grams(STEEL), 1.0)

    def test_it_lies_on_its_wide_side(self) -> None:
        one = item(width=5.0, thickness=40.0, length=300.0)
        self.assertEqual((one.width, one.thickness, one.size), (40.0, 5.0, "40 x 5 x 300 mm"))

    def test_what_is_missing_is_told_where(self) -> None:
        for said, path in (
            ({"width": 40.0, "length": 100.0}, "thickness"),
            ({"form": "round", "length": 100.0}, "width"),
            ({"form": "square", "width": 20.0}, "length"),
            ({"form": "tube", "width": 40.0, "length": 100.0}, "wall"),
            ({"form": "tube", "width": 40.0, "wall": 20.0, "length": 100.0}, "wall"),
            ({"form": "square", "width": 20.0, "length": 100.0, "count": 1.5}, "count"),
            ({"form": "square", "width": 20.0, "length": 100.0, "count": 10_001.0}, "count"),
            ({"form": "square", "width": 20.0, "length": 100.0, "bought": "yesterday"}, "bought"),
        ):
            with self.assertRaises(InputError, msg=said) as caught:
                item(**said)
            self.assertIn(path, [p.path for p in caught.exception.problems], said)


class TypedTests(SimpleTestCase):
    def one(self, text: str, unit: str = "mm") -> RackItem:
        (line,) = read_lines(text, AS_SHIPS, unit)  # type: ignore[arg-type]
        self.assertIsNone(line.problem, text)
        assert line.item
        return line.item

    def test_as_one_would_say_it(self) -> None:
        for unit in ("mm", "inch"):
            # fractions are inches in every shop
            two = self.one("1084 1/4 x 1 1/2 x 48 x 2", unit)
            self.assertEqual((two.steel, two.form, two.count), ("1084", "flat", 2))
            self.assertAlmostEqual(two.thickness or 0, 6.35)
            self.assertAlmostEqual(two.width or 0, 38.1)
            self.assertAlmostEqual(two.length or 0, 1219.2)
        self.assertEqual(self.one("15n20 2 x 40 x 1000").size, "40 x 2 x 1000 mm")
        self.assertAlmostEqual(self.one("15n20 .062 x 1.5 x 36", "inch").thickness or 0, 0.062 * 25.4)
        self.assertEqual(self.one("1084 round 20mm × 1m x 3").size, "20 x 1000 mm")
        self.assertEqual(self.one('1095 bar 0.25" x 1.5" x 500mm').size, "38.1 x 6.35 x 500 mm")
        self.assertEqual(self.one("1018 tube 50 x 3 x 900").wall, 3.0)
        self.assertEqual((self.one("1084 powder 2.5 kg").form, self.one("1084 powder 2.5 kg").count), ("powder", 2500.0))
        self.assertEqual(self.one("1084 rods 3 x 300 x 40").count, 40)

    def test_every_form_can_be_typed(self) -> None:
        self.assertEqual(set(SIZES) | {"powder"}, set(FORMS))
        for form, sizes in SIZES.items():
            said = {"width": "40", "thickness": "5", "wall": "3", "length": "500"}
            self.assertEqual(self.one(f"1084 {form} " + " x ".join(said[n] for n in sizes)).form, form)

    def test_what_is_not_understood_is_told_line_by_line(self) -> None:
        lines = read_lines(
            "1084 6 x 40 x 1000\n\nnosteel 6 x 40 x 10\n1084\n1084 6 x forty x 1\n1084 powder 5\n1084 6 x 40 x 10 x 1/2", AS_SHIPS, "mm"
        )
        self.assertEqual([line.problem is None for line in lines], [True, False, False, False, False, False])
        self.assertTrue(all(line.problem is None or (line.problem.wrong and line.problem.cure) for line in lines))
        self.assertEqual(lines[1].problem and lines[1].problem.path, "steel")
        with self.assertRaises(InputError):
            read_lines("1084 6 x 40 x 10\n" * 201, AS_SHIPS, "mm")

    def test_steels_are_known_by_name_too(self) -> None:
        named = next(s for s in AS_SHIPS.steels.values() if " " in s.name and s.key != s.name)
        self.assertEqual(self.one(f"{named.name} 6 x 40 x 1000").steel, named.key)


class CsvTests(SimpleTestCase):
    def test_out_and_in_again(self) -> None:
        kept = [
            Stocked(
                "A 1", item(width=40.0, thickness=6.0, length=1000.0, price=12.5, place="left rack", low=2.0, bought="2031-04-02"), 3.0
            ),
            Stocked("=B2", item(form="tube", width=50.0, wall=3.0, length=900.0, note="=1+1, a note\nof two lines", batch="@7"), 1.0),
            Stocked("P", item(form="powder", count=2500.0), 2500.0),
        ]
        text = write_rack(kept)
        again = read_rack(text, AS_SHIPS)
        self.assertEqual([(a.code, a.there) for a in again], [(k.code, k.there) for k in kept])
        for a, k in zip(again, kept, strict=True):
            self.assertEqual(a.item.model_copy(update={"count": 1}), k.item.model_copy(update={"count": 1}))
        # nothing that a spreadsheet would work out
        for cell in text.replace("\n", ",").split(","):
            self.assertFalse(cell.strip('"').startswith(("=", "+", "@")), cell)
        self.assertEqual(text.splitlines()[0], ",".join(COLUMNS + MORE))

    def test_a_decimal_comma_and_a_row_of_powder_without_mass(self) -> None:
        for row, path in (('a,1084,flat,"40,5",6,1000,1,', "line 2.width"), ("a,1084,powder,,,,1,", "line 2.mass")):
            with self.assertRaises(InputError) as caught:
                read_rack(",".join(COLUMNS) + "\n" + row + "\n", AS_SHIPS)
            self.assertEqual(caught.exception.problems[0].path, path)

    def test_a_shop_reads_its_own_steels(self) -> None:
        with self.assertRaises(InputError):
            read_rack("id,steel,width,thickness,length\na,gate,40,6,100\n", AS_SHIPS)
        shop = ShopData({"gate": STEEL.model_copy(update={"key": "gate"})}, {})
        self.assertEqual(read_rack("id,steel,width,thickness,length\na,gate,40,6,100\n", shop)[0].item.steel, "gate")


class ManyTests(SimpleTestCase):
    def test_no_more_rows_than_a_rack_holds(self) -> None:
        row = "a,1084,40,6,100\n"
        with self.assertRaisesRegex(InputError, "5001 rows, more than 5000"):
            read_rack("id,steel,width,thickness,length\n" + 5001 * row, AS_SHIPS)
        with self.assertRaisesRegex(InputError, "twice"):
            read_rack("id,steel,width,thickness,length\n" + 5000 * row, AS_SHIPS)


class UsesTests(SimpleTestCase):
    def test_as_it_is_sawn_or_rolled_out(self) -> None:
        def by(length: float, width: float, thickness: float) -> dict[str, tuple[str, int]]:
            return {u.name: (u.how, u.count) for u in uses_of(length, width, thickness)}

        guard = by(62.0, 19.0, 7.5)
        self.assertEqual(guard["guard"], ("as it is", 1))
        self.assertNotIn("pommel", guard)
        self.assertEqual(by(250.0, 40.0, 7.5)["guard"], ("sawn", 8))
        # 60 x 30 x 6 is steel enough for a knife of 110 x 28 x 3.5 but half as long: rolled
        self.assertEqual(by(66.0, 30.0, 6.2)["folding-knife blade"][0], "rolled out")
        self.assertEqual(by(10.0, 5.0, 3.0), {})

    def test_nothing_is_said_to_be_made_of_less_steel_than_it_takes(self) -> None:
        for length in (20.0, 60.0, 110.0, 300.0):
            for width in (8.0, 20.0, 40.0):
                for thick in (1.6, 4.0, 9.0):
                    for use in uses_of(length, width, thick):
                        block = next(b for b in BLOCKS if b.name == use.name)
                        self.assertGreaterEqual(
                            length * width * thick, use.count * block.volume * (1.1 if use.how == "rolled out" else 1.0)
                        )

    def test_what_is_left_nearly_as_it_is_comes_first(self) -> None:
        for size in ((62.0, 30.0, 7.5), (66.0, 30.0, 9.0), (110.0, 28.0, 5.2)):
            order = [("as it is", "sawn", "rolled out").index(u.how) for u in uses_of(*size)]
            self.assertEqual(order, sorted(order))
            self.assertGreater(len(set(order)), 1, size)

    def test_half_as_large_again_is_sawn(self) -> None:
        guard = Block("guard", 60.0, 18.0, 7.0)
        self.assertEqual(use_for(guard, 60.0 * 1.45, 18.0, 7.0).how, "as it is")  # type: ignore[union-attr]
        self.assertEqual(use_for(guard, 60.0 * 1.55, 18.0, 7.0).how, "sawn")  # type: ignore[union-attr]

    def test_half_its_thickness_is_left_of_what_is_rolled(self) -> None:
        # 60 mm long and twice as wide: steel enough for the thin block as it comes, not for one half as thick as the bar
        liner = Block("liner", 100.0, 20.0, 2.0)
        self.assertEqual(use_for(liner, 60.0, 20.0, 4.0).how, "rolled out")  # type: ignore[union-attr]
        self.assertIsNone(use_for(liner, 52.0, 20.0, 8.0))
        self.assertEqual(use_for(liner, 56.0, 20.0, 8.0).how, "rolled out")  # type: ignore[union-attr]

    def test_a_guard_is_as_large_as_the_blade_asks(self) -> None:
        by_name = {b.name: b for b in fittings_of(30.0, 4.6)}
        guard = by_name["guard"]
        self.assertEqual((guard.length, guard.width, guard.thickness), (50.0, 16.6, 7.0))
        self.assertEqual(set(by_name), {"guard", "pair of bolsters", "ferrule", "pommel", "ring"})
        self.assertIsNone(use_for(guard, 48.0, 16.0, 7.0))
        self.assertEqual(use_for(guard, 52.0, 17.0, 7.2).how, "as it is")  # type: ignore[union-attr]


class SizeTests(SimpleTestCase):
    def test_sizes_are_told_as_calipers_do(self) -> None:
        self.assertEqual(size_of("flat", 34.0, 5.6, None, 80.8579), "34 x 5.6 x 80.86 mm")
        self.assertEqual(size_of("round", 12.7, 12.7, None, 1000.0), "12.7 x 1000 mm")
        self.assertEqual(size_of("tube", 40.0, 40.0, 3.0, 100.0), "40 x 100 mm, wall 3 mm")
