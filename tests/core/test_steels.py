"""The steel list: complete, sourced, and forgiving of slips."""

from django.test import SimpleTestCase

from varistrat.core.etch.tones import reflectance
from varistrat.core.steels import STEELS, steel_key


class SteelTests(SimpleTestCase):
    def test_enough_of_them_each_with_sources(self) -> None:
        self.assertGreaterEqual(len(STEELS), 10)
        for key, steel in STEELS.items():
            self.assertEqual(key, steel.key)
            self.assertTrue(steel.composition and steel.composition_source and steel.density_source and steel.tone_source)
            self.assertTrue(7500 < steel.density < 9000, key)
            self.assertTrue(0 <= steel.tone <= 10)

    def test_density_follows_carbon_in_plain_steels(self) -> None:
        # 7870 kg/m3 less about 40 per % carbon
        for key in ("1018", "1045", "1084", "1095"):
            self.assertAlmostEqual(STEELS[key].density, 7870 - 40 * STEELS[key].composition["C"], delta=25)

    def test_nickel_shows_bright_and_manganese_steel_dark(self) -> None:
        self.assertGreater(reflectance(STEELS["15n20"].tone), 8 * reflectance(STEELS["1084"].tone))
        tones = [reflectance(t / 10) for t in range(101)]
        self.assertEqual(tones, sorted(tones))

    def test_a_slip_of_the_pen_names_its_neighbours(self) -> None:
        with self.assertRaisesRegex(ValueError, "15n20"):
            steel_key("15N20")
        with self.assertRaisesRegex(ValueError, "not the key"):
            steel_key(1084)
