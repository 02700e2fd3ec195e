"""Instruments: the line a real one sends, and simulated ones by their noise, wear and wrong zero."""

import io
import json
from pathlib import Path

import numpy as np
from django.test import SimpleTestCase
from hypothesis import given
from hypothesis import strategies as st
from PIL import Image

from varistrat.core.instruments.camera import SIZE, Camera
from varistrat.core.instruments.instrument import Eye, Instrument
from varistrat.core.instruments.line import MOST, understood
from varistrat.core.instruments.simulated import Caliper, HeightGauge, Scale, Simulated, Tester, Thermometer

LINES = json.loads((Path(__file__).parents[1] / "fixtures" / "instruments" / "lines.json").read_text())


class LineTests(SimpleTestCase):
    def test_the_lines_both_ends_are_held_against(self) -> None:
        for case in LINES:
            found = understood(case["line"])
            self.assertEqual((found.unit if found else None), case["unit"], case["line"])
            if found:
                self.assertAlmostEqual(found.value, case["value"], 9, case["line"])

    @given(st.text(max_size=400))
    def test_no_line_breaks_it(self, line: str) -> None:
        found = understood(line)
        self.assertTrue(found is None or np.isfinite(found.value))

    def test_an_endless_line_is_none(self) -> None:
        self.assertIsNone(understood("9" * MOST + " mm"))


class SimulatedTests(SimpleTestCase):
    def reads(self, make: type[Simulated], true: float, **said: float) -> np.ndarray:
        instruments: list[Instrument] = [make(lambda: true, seed=s, **said) for s in range(400)]  # type: ignore[arg-type]
        return np.array([i.read().value for i in instruments])

    def test_each_reads_what_is_so_within_its_spread_and_step(self) -> None:
        for make, true, spread, step, unit in (
            (Caliper, 12.3, 0.02, 0.01, "mm"),
            (HeightGauge, 40.0, 0.03, 0.02, "mm"),
            (Scale, 812.0, 0.4, 1.0, "g"),
            (Thermometer, 815.0, 0.8, 0.1, "C"),
            (Tester, 61.0, 0.6, 0.5, "HRC"),
        ):
            found = self.reads(make, true)
            self.assertAlmostEqual(float(found.mean()), true, delta=4 * (spread + step) / 20, msg=make.__name__)
            self.assertAlmostEqual(float(found.std()), (spread**2 + step**2 / 12) ** 0.5, delta=0.25 * spread, msg=make.__name__)
            np.testing.assert_allclose(found / step, np.round(found / step), atol=1e-6)
            self.assertEqual(make(lambda: 1.0).unit, unit)

    def test_wrong_zero_wear_and_warmth(self) -> None:
        self.assertAlmostEqual(float(self.reads(Caliper, 10.0, off=0.05).mean()), 10.05, delta=0.005)
        self.assertAlmostEqual(float(self.reads(Caliper, 10.0, worn=0.01).mean()), 10.10, delta=0.005)
        # 100 mm at 100 C above the shop: 12e-6 x 100 x 100 = 0.12 mm
        self.assertAlmostEqual(float(self.reads(Caliper, 100.0, warm=100.0).mean()), 100.12, delta=0.005)

    def test_one_draw_is_one_reading(self) -> None:
        self.assertEqual(Tester(lambda: 60.0, draw=3).read(), Tester(lambda: 60.0, draw=3).read())
        self.assertGreater(len({Tester(lambda: 60.0, draw=n).read().value for n in range(20)}), 1)


class CameraTests(SimpleTestCase):
    """A bright plate with three dark dots lies on the bench."""

    DOTS = ((120, 60), (700, 150), (420, 250))

    def lies(self) -> tuple[np.ndarray, np.ndarray]:
        y, x = np.mgrid[0:300, 0:800]
        grey = np.full((300, 800), 210, np.uint8)
        for px, py in self.DOTS:
            grey[np.hypot(x - px, y - py) < 7] = 10
        return grey, np.full((300, 800), 255, np.uint8)

    def seen(self, **said: float) -> np.ndarray:
        eye: Eye = Camera(self.lies, **said)  # type: ignore[arg-type]
        photo = Image.open(io.BytesIO(eye.read().jpeg))
        self.assertEqual((photo.format, photo.size), ("JPEG", SIZE))
        return np.asarray(photo.convert("L"), float)

    def test_each_place_is_where_the_lens_puts_it(self) -> None:
        for turned in (0.0, 7.0, -12.0):
            photo = self.seen(turned=turned)
            for dot in self.DOTS:
                u, v = Camera(self.lies, turned=turned).sees(*dot, 800, 300)
                near = photo[round(v) - 14 : round(v) + 15, round(u) - 14 : round(u) + 15]
                y, x = np.mgrid[-14:15, -14:15]
                dark = np.clip(near.max() - near - 60, 0, None)
                off = np.hypot((dark * x).sum(), (dark * y).sum()) / dark.sum()
                self.assertLess(off, 1.0, (turned, dot))

    def test_lit_from_one_corner_and_noisy(self) -> None:
        clear, noisy = self.seen(turned=0.0, noise=0.0), self.seen(turned=0.0, noise=12.0)
        u, v = (round(c) for c in Camera(self.lies, turned=0.0).sees(40, 40, 800, 300))
        w, z = (round(c) for c in Camera(self.lies, turned=0.0).sees(760, 270, 800, 300))
        self.assertGreater(clear[v - 5 : v + 5, u - 5 : u + 5].mean(), 1.2 * clear[z - 5 : z + 5, w - 5 : w + 5].mean())
        self.assertGreater((noisy - clear)[z - 20 : z + 20, w - 20 : w + 20].std(), 4.0)

    def test_the_same_scene_is_the_same_photo(self) -> None:
        self.assertEqual(Camera(self.lies).read().jpeg, Camera(self.lies).read().jpeg)
        self.assertNotEqual(Camera(self.lies).read().jpeg, Camera(self.lies, seed=5).read().jpeg)
