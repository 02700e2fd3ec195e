"""Baths: what is in them, how they are mixed, how they wear. Worked by hand."""

from math import exp

from django.test import SimpleTestCase
from hypothesis import given
from hypothesis import strategies as st

from varistrat.core.errors import InputError
from varistrat.core.etch.bath import Bath, tank_for, warmth
from varistrat.core.etch.etchants import ETCHANTS, WHATS
from varistrat.core.etch.masks import masks_for
from varistrat.core.etch.mixing import STOCKS, StockSolution, keeping, mix_for, mixed, of_baume, stock_of
from varistrat.core.reading import parse


class BathTests(SimpleTestCase):
    def test_strength_by_its_power(self) -> None:
        """(5/10)^0.6 = 0.6598; level from 20 % on."""
        self.assertAlmostEqual(Bath(strength=5).speed, 0.6598, 4)
        self.assertEqual(Bath(strength=10).speed, 1.0)
        self.assertEqual(Bath(strength=20).speed, Bath(strength=30).speed)

    def test_warmth_by_arrhenius(self) -> None:
        """exp(-45000/8.314 (1/313.15 - 1/293.15)) = 3.25; 27 C 1.54."""
        self.assertAlmostEqual(warmth(40), 3.25, 2)
        self.assertAlmostEqual(warmth(27), 1.54, 2)
        self.assertAlmostEqual(warmth(40), exp(45000 / 8.314462 * (1 / 293.15 - 1 / 313.15)), 9)

    def test_capacity_as_published(self) -> None:
        """A litre of 1:4 (10.2 %) takes up 19 g of iron, 1:1 (23.0 %) 48, the stock itself 95."""
        for percent, grams in ((10.2, 19), (23.0, 48), (39.3, 95), (5.9, 11)):
            self.assertAlmostEqual(Bath(strength=percent, litres=1).capacity, grams, delta=0.6)

    def test_wear(self) -> None:
        fresh = Bath(litres=2.0)
        worn = fresh.model_copy(update={"iron": 0.3 * fresh.capacity})
        self.assertAlmostEqual(worn.speed, 0.7 * fresh.speed, 9)
        self.assertEqual(fresh.after(1000).used, 1.0)
        self.assertEqual(fresh.after(1000).speed, 0.0)
        self.assertEqual(Bath(what="coffee", iron=5).used, 0.0)

    def test_bicarbonate(self) -> None:
        """3 mol to a mol: 252 g x 0.69 mol/l = 174 g for a litre of 1:4."""
        self.assertAlmostEqual(Bath(strength=10.2, litres=1).bicarbonate, 174, delta=2)

    def test_what_nobody_may_keep_is_refused(self) -> None:
        for said, told in (
            ({"what": "nital", "strength": 11.6}, "may explode"),
            ({"temperature": 60}, "fumes"),
            ({"temperature": 2}, "colder"),
            ({"strength": 0.2}, "nothing is known"),
            ({"what": "muriatic", "strength": 31}, "nothing is known"),
            ({"litres": 0}, "litres"),
            ({"iron": -1}, "iron"),
            ({"what": "aqua regia"}, "what"),
        ):
            with self.assertRaises(InputError) as caught:
                parse(Bath, said)
            self.assertIn(told, str(caught.exception))

    def test_every_etchant_says_its_order_its_enemies_and_its_waste(self) -> None:
        self.assertEqual(set(ETCHANTS), set(WHATS))
        for e in ETCHANTS.values():
            self.assertTrue(e.order and e.waste, e.key)
            if e.mole:
                self.assertTrue(any("leach" in n or "flame" in n for n in e.never_with), e.key)
                self.assertRegex(e.waste, "local rules", e.key)
            if e.key in ("ferric", "muriatic", "ferric+muriatic", "sulphuric"):
                self.assertTrue(any("into water, never water into acid" in o for o in e.order), e.key)
        self.assertIn("into the alcohol", " ".join(ETCHANTS["nital"].order))
        self.assertIn("Never above 5 %", ETCHANTS["nital"].order[0])

    def test_masks_stand_what_they_are_said_to(self) -> None:
        names = {m.key for m in masks_for("ferric")}
        self.assertLessEqual({"varnish", "wax", "tape", "discs", "grease"}, names)
        self.assertNotIn("varnish", {m.key for m in masks_for("muriatic")})
        self.assertNotIn("varnish", {m.key for m in masks_for("nital")})
        for what in WHATS:
            self.assertTrue(masks_for(what), what)

    def test_a_tank_holds_its_blade(self) -> None:
        tank = tank_for(300, 40, 5)
        self.assertEqual((tank.length, tank.width, tank.depth), (330, 35, 75))
        self.assertAlmostEqual(tank.litres, (330 * 35 * 75 - 300 * 40 * 5) / 1e6)

    @given(st.floats(1, 20), st.floats(5, 45), st.floats(0, 60))
    def test_stronger_warmer_and_fresher_is_faster(self, percent: float, celsius: float, iron: float) -> None:
        at = Bath(strength=percent, temperature=celsius, iron=iron)
        fresh = Bath(strength=percent, temperature=celsius)
        self.assertGreaterEqual(Bath(strength=percent + 1, temperature=celsius).speed, fresh.speed)
        self.assertLessEqual(at.speed, fresh.speed)
        if celsius <= 44:
            self.assertGreaterEqual(at.model_copy(update={"temperature": celsius + 1}).speed, at.speed)


class MixingTests(SimpleTestCase):
    def test_baume(self) -> None:
        """145/(145 - 42) = 1.408 g/ml, 39.3 %."""
        stock = of_baume(42)
        self.assertAlmostEqual(stock.density or 0, 1.408, 3)
        self.assertAlmostEqual(stock.strength, 39.3, 1)

    def test_one_to_four(self) -> None:
        """1 l of 42 Be + 4 l of water: 1408 x 0.393/(1408 + 3992) = 10.2 % by weight."""
        self.assertAlmostEqual(mixed("ferric", of_baume(42), 1000, 4000).strength, 10.2, 1)

    def test_published_dilutions(self) -> None:
        for parts, percent in ((1, 23.0), (2, 16.2), (3, 12.6), (5, 8.6), (8, 5.9), (10, 4.9)):
            self.assertAlmostEqual(mixed("ferric", of_baume(42), 100, 100 * parts).strength, percent, delta=0.12)

    def test_no_more_than_a_bath_may_hold(self) -> None:
        self.assertEqual(mixed("ferric", of_baume(42), 600_000, 400_000).litres, 1000)
        with self.assertRaisesRegex(InputError, "1000.01 litres"):
            mixed("ferric", of_baume(42), 600_000, 400_010)

    def test_nine_to_one_of_nitric_in_alcohol(self) -> None:
        """0.9891/(0.9891 + 0.4239 + 7.101) = 11.6 % by weight: told, and never proposed."""
        mix = mixed("nital", STOCKS["nital"], 100, 900)
        self.assertAlmostEqual(mix.strength, 11.6, 1)
        self.assertIn("do not mix it", keeping(mix))
        self.assertIn("never keeps it", keeping(mix))
        self.assertEqual(keeping(mix_for("nital", 4, 0.2, STOCKS["nital"])), "")
        with self.assertRaisesMessage(InputError, "must never stand in alcohol"):
            mix_for("nital", 6, 0.2, STOCKS["nital"])

    def test_crystals_by_weight(self) -> None:
        """A litre of 10 % weighs 1085 g: 108.5 g of chloride, 180.8 g of the hexahydrate, 904.2 g of water."""
        mix = mix_for("ferric", 10, 1, stock_of("ferric", "hexahydrate"))
        self.assertAlmostEqual(mix.stock_grams, 180.8, 1)
        self.assertAlmostEqual(mix.solvent_grams, 904.2, 1)
        self.assertAlmostEqual(mix_for("ferric", 10, 1, stock_of("ferric", "anhydrous")).stock_grams, 108.5, 1)

    def test_a_mix_has_its_limit_too(self) -> None:
        self.assertGreater(mix_for("ferric", 10, 1000, of_baume(42)).stock, 0)
        with self.assertRaisesRegex(InputError, "give up to 1000"):
            mix_for("ferric", 10, 1000.5, of_baume(42))

    @given(st.floats(1, 39), st.floats(0.1, 50))
    def test_there_and_back(self, percent: float, litres: float) -> None:
        mix = mix_for("ferric", percent, litres, of_baume(42))
        back = mixed("ferric", of_baume(42), mix.stock, mix.solvent)
        self.assertAlmostEqual(back.strength, percent, 6)
        self.assertAlmostEqual(back.litres, litres, 9)

    def test_nonsense(self) -> None:
        for wrong in (
            lambda: of_baume(80),
            lambda: mix_for("ferric", 40, 1, of_baume(42)),
            lambda: mix_for("ferric", 10, -1, of_baume(42)),
            lambda: mixed("ferric", of_baume(42), 0, 5),
            lambda: mixed("ferric", StockSolution(60, None), 10, 5),
            lambda: stock_of("coffee"),
            lambda: stock_of("muriatic", "anhydrous"),
            lambda: stock_of("muriatic", "percent", 90),
        ):
            with self.assertRaises(InputError):
                wrong()

    def test_weaker_stocks_weigh_what_they_weigh(self) -> None:
        self.assertAlmostEqual(stock_of("muriatic", "percent", 20).density or 0, 1.098, 3)
        self.assertAlmostEqual(stock_of("muriatic", "percent", 31.45).density or 0, 1.16, 3)
        between = stock_of("sulphuric", "percent", 50).density or 0
        self.assertTrue(1.102 < between < 1.84)
