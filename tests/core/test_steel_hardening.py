"""One steel in the quench and the temper: its own figures first, its carbon second; a second derivation of the numbers in a pairing."""

from itertools import product
from math import exp, log10

import numpy as np
from django.test import SimpleTestCase

from varistrat.core.errors import InputError
from varistrat.core.heat.hardening.cycles import CYCLES, softening
from varistrat.core.laws import hardness, transform
from varistrat.core.laws.carbon import activity_factor
from varistrat.core.pairing.pairing import Pairing
from varistrat.core.reading import number_in, read_rows
from varistrat.core.steels import built_in
from varistrat.core.steels.hardening import law_of, quenched

STEELS = built_in()


class OneSteelTests(SimpleTestCase):
    def test_its_own_figure_in_its_own_window(self) -> None:
        for key, steel in STEELS.items():
            if steel.hardens not in ("yes", "shallow") or not steel.austenitise or not steel.soak or not steel.as_quenched:
                continue
            got = quenched(steel, sum(steel.austenitise) / 2, sum(steel.soak) / 2)
            self.assertAlmostEqual(got.hrc, sum(steel.as_quenched) / 2, delta=0.01, msg=key)
            self.assertEqual(got.austenite, 1.0)
            if got.retained:
                self.assertTrue(0 < got.retained[0] < got.retained[1] < 0.3, key)
            else:
                self.assertIn("do not reach", got.unknown, key)

    def test_less_carbon_is_softer_and_more_is_not_much_harder(self) -> None:
        steel = STEELS["1084"]
        hrc = [quenched(steel, 815, 8, carbon=c).hrc for c in (0.45, 0.55, 0.65, 0.75, 0.84)]
        self.assertEqual(hrc[:4], sorted(hrc[:4]))
        self.assertGreater(hrc[3] - hrc[0], 5)
        # above 0.65 % it is as hard as it gets; what austenite is left takes a little back
        self.assertLess(max(hrc[2:]) - min(hrc[2:]), 1)

    def test_the_cold_takes_austenite_out(self) -> None:
        warm, cold = (quenched(STEELS["x65cr13"], 1070, 12, cold=t) for t in (20.0, -75.0))
        self.assertLess(cold.retained[1], 0.5 * warm.retained[1])
        self.assertGreaterEqual(cold.hrc, warm.hrc)

    def test_too_cold_does_not_harden(self) -> None:
        got = quenched(STEELS["1045"], 735, 8)
        self.assertLess(got.austenite, 0.8)
        self.assertLess(got.hrc, 50)
        self.assertEqual(quenched(STEELS["1084"], 690, 8).austenite, 0.0)

    def test_a_steel_without_a_table_goes_by_its_carbon(self) -> None:
        bare = STEELS["1084"].model_copy(update={"temper": None, "as_quenched": None})
        self.assertAlmostEqual(law_of(bare).hrc(200), law_of(STEELS["1084"]).hrc(200), delta=1.0)
        self.assertGreater(law_of(bare).off, law_of(STEELS["1084"]).off)

    def test_every_cycle_of_the_list_is_known_and_falls(self) -> None:
        for key, steel in STEELS.items():
            if steel.cycle:
                found = CYCLES[steel.cycle]
                self.assertEqual(list(found.normalise), sorted(found.normalise, reverse=True), key)
                self.assertLess(found.anneal[0], transform.ac1(steel.composition), key)
        self.assertIsNone(softening([STEELS["iron"]]))
        self.assertEqual(softening([STEELS["15n20"], STEELS["125cr1"]]).normalise[0], 940)  # type: ignore[union-attr]


class SecondDerivationTests(SimpleTestCase):
    """Written from the formulas again, point by point, sharing nothing with the code but the list of steels."""

    def test_martensite_start_and_what_is_left(self) -> None:
        for key, c in product(("1084", "15n20", "52100", "o1", "5160"), (0.55, 0.7, 0.9)):
            e = STEELS[key].composition
            mn, si, cr, ni, mo = (e.get(x, 0.0) for x in ("Mn", "Si", "Cr", "Ni", "Mo"))
            start = 565 - 600 * (1 - exp(-0.96 * c)) - 31 * mn - 13 * si - 10 * cr - 18 * ni - 12 * mo
            rate = 0.0272 - 0.00014 * mn - 0.00021 * si - 0.00011 * cr - 0.00008 * ni - 0.00005 * mo - 0.0198 * (1 - exp(-1.56 * c))
            self.assertAlmostEqual(transform.ms(e, c), start, delta=1e-9)
            self.assertAlmostEqual(transform.retained(e, c), exp(-rate * (start - 20)), delta=1e-12)

    def test_evened_carbon_of_three(self) -> None:
        keys, shares = ("1084", "15n20", "52100"), (2.0, 1.0, 1.0)
        p = Pairing.of([STEELS[k] for k in keys], shares)
        total = sum(s * STEELS[k].share("C") for k, s in zip(keys, shares, strict=True))
        self.assertAlmostEqual(sum(s * c for s, c in zip(shares, p.carbons, strict=True)), total, delta=1e-9)
        level = [activity_factor(STEELS[k].composition) * c for k, c in zip(keys, p.carbons, strict=True)]
        self.assertAlmostEqual(max(level), min(level), delta=1e-9)
        si, mn, cr, ni = (STEELS["52100"].share(x) for x in ("Si", "Mn", "Cr", "Ni"))
        self.assertAlmostEqual(
            log10(activity_factor(STEELS["52100"].composition)), 0.055 * si - 0.013 * mn - 0.040 * cr + 0.014 * ni, delta=1e-9
        )

    def _plain(self) -> tuple[list[float], list[float], list[float]]:
        """Carbon, slope and H10 of the plain steels, by least squares over their tables."""
        out: tuple[list[float], list[float], list[float]] = ([], [], [])
        for key in ("1045", "1075", "1084", "1095", "c105", "125cr1"):
            m = np.array([(t + 273.15) * (20 + log10(2)) / 1000 - 10 for t in (150, 175, 200, 225, 250, 300, 350)])
            (slope, h10), *_ = np.linalg.lstsq(np.vstack([m, np.ones_like(m)]).T, np.array(STEELS[key].temper), rcond=None)
            for row, value in zip(out, (STEELS[key].share("C"), slope, h10), strict=True):
                row.append(float(value))
        return out

    def test_the_common_temper(self) -> None:
        # HRC = H10 + s (M - 10), straight from the table by least squares, moved by the carbon and topped by the quench
        p = Pairing.of([STEELS["1084"], STEELS["15n20"]], temper=225.0)
        for i, steel in enumerate(p.steels):
            m = np.array([(t + 273.15) * (20 + log10(2)) / 1000 - 10 for t in (150, 175, 200, 225, 250, 300, 350)])
            a = np.vstack([m, np.ones_like(m)]).T
            (slope, h10), *_ = np.linalg.lstsq(a, np.array(steel.temper), rcond=None)
            more = [
                np.interp(p.carbons[i], self._plain()[0], v) - np.interp(steel.share("C"), self._plain()[0], v) for v in self._plain()[1:]
            ]
            want = h10 + more[1] + (slope + more[0]) * ((225 + 273.15) * (20 + log10(2)) / 1000 - 10)
            self.assertAlmostEqual(p.hrc[i], min(want, p.quenched[i].hrc), delta=1e-6)

    def test_windows_are_the_tightest_of_all(self) -> None:
        rng = np.random.default_rng(5)
        keys = [k for k, s in STEELS.items() if s.hardening and s.share("Cr") < 4]
        for _ in range(40):
            chosen = [STEELS[str(k)] for k in rng.choice(keys, 3, replace=False)]
            p = Pairing.of(chosen)
            low, high = max(s.austenitise[0] for s in chosen if s.austenitise), min(s.austenitise[1] for s in chosen if s.austenitise)
            self.assertEqual(p.window, (low, high) if low <= high else None)
            if p.window:
                self.assertTrue(low - 2.5 <= p.heat <= high + 2.5)
            assert p.weld_window is None or p.weld_window[1] <= min(s.solidus for s in chosen) - 60

    def test_hardness_scales_are_one_another_undone(self) -> None:
        for h in np.arange(20, 68.1, 0.5):
            self.assertAlmostEqual(hardness.hrc(hardness.hv(float(h))), float(h), delta=1e-6)


class RowsTests(SimpleTestCase):
    def test_rows_of_a_file(self) -> None:
        self.assertEqual(read_rows("\ufeffa,b\n1,\n", "a", ("a", "b")), [{"a": "1", "b": ""}])
        for text in ("", "b\n1\n", "a,c\n1,2\n", 'a\n"1\n', "a\n1,2\n", "a\n" + "1\n" * 1_100_000):
            with self.assertRaises(InputError):
                read_rows(text, "a", ("a", "b"))

    def test_numbers_in_cells(self) -> None:
        self.assertEqual(number_in({"a": " 1.5 "}, "a"), 1.5)
        self.assertIsNone(number_in({"a": ""}, "a"))
        self.assertIsNone(number_in({}, "a"))
        with self.assertRaises(InputError):
            number_in({"a": "1,5"}, "a")
