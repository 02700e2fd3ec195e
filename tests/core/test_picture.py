"""Pictures: true to scale, evenly grey where too fine to see, right-handed, and cancellable."""

from io import BytesIO

import numpy as np
from django.test import SimpleTestCase
from PIL import Image

from tests.core.samples import LONG, STEELS, blade, forged, recipe, solid, stack
from varistrat.core.bars.forged import forge
from varistrat.core.bars.recipe import read_recipe
from varistrat.core.bars.trace import Trace, pool
from varistrat.core.cutting.cut import Cut
from varistrat.core.cutting.layers import thinnest_layer
from varistrat.core.errors import Cancelled, InputError
from varistrat.core.etch import daylight
from varistrat.core.etch.tones import EtchTable, reflectance
from varistrat.core.pattern import sampling
from varistrat.core.pattern.picture import FULL, PORTRAIT, PREVIEW, Subject, draw
from varistrat.core.pattern.png import png
from varistrat.core.pattern.views import BladeView, EndView, FaceView, SideView


def picture(f, view, px: int, quality=FULL, **more) -> np.ndarray:  # type: ignore[no-untyped-def]
    with pool() as executor:
        return draw(Subject(Trace(f), more.pop("tones", {})), view, px, executor, quality, **more)


class FaceTests(SimpleTestCase):
    def test_size_and_scale(self) -> None:
        f = forged(solid(300, 40, 6))
        grey = picture(f, FaceView(f.bar, 1.0), 600)
        self.assertEqual(grey.shape, (80, 600))
        image = Image.open(BytesIO(png(grey, 2.0, "test")))
        self.assertEqual(image.size, (600, 80))
        self.assertAlmostEqual(image.info["dpi"][0], 50.8, delta=0.05)
        self.assertEqual(image.info["Scale"], "2 px/mm")

    def test_a_picture_is_read_back_as_it_was_by_somebody_elses_reader(self) -> None:
        rng = np.random.default_rng(3)
        for shape in ((7, 5), (1, 1), (9, 300), (4, 6, 2), (1, 2, 2)):
            grey = rng.integers(0, 256, shape, np.uint8)
            image = Image.open(BytesIO(png(grey[::-1], 3.25, "a weld, 5 µm; \u2205")))
            self.assertEqual(image.mode, "LA" if grey.ndim == 3 else "L")
            np.testing.assert_array_equal(np.asarray(image), grey[::-1])
            self.assertEqual(image.info["Description"], "a weld, 5 µm; \u2205")

    def test_dark_and_bright_where_probe_says(self) -> None:
        f = forge(read_recipe(LONG).bar)
        px = 1500
        grey = picture(f, FaceView(f.bar, 0.7), px)
        trace = Trace(f)
        rows, cols = grey.shape
        rng = np.random.default_rng(2)
        i, j = rng.integers(2, rows - 2, 3000), rng.integers(2, cols - 2, 3000)
        x = (j + 0.5) * f.bar.length / cols
        y = f.bar.width / 2 - (i + 0.5) * f.bar.width / rows
        # only where the steel is the same a pixel around
        d = 1.2 * f.bar.length / cols
        around = [trace.probe(x + a * d, y + b * d, np.full(3000, 0.7)) for a, b in ((0, 0), (1, 0), (-1, 0), (0, 1), (0, -1))]
        same = np.all([a == around[0] for a in around], axis=0)
        self.assertGreater(same.sum(), 200)
        bright = np.isin(around[0], [trace.steels.index("15n20"), trace.steels.index("nickel")])
        agree = (grey[i, j] > 120) == bright
        self.assertGreater(agree[same].mean(), 0.985)

    def test_left_and_right_twists_are_mirror_pictures(self) -> None:
        start = stack(("1084", 6), ("15n20", 8), ("1084", 6), width=20, length=120)
        px = 480
        right, left = (forged(start, {"kind": "twist", "turns": 4.0, "hand": hand}) for hand in ("right", "left"))
        a = picture(right, FaceView(right.bar, 4.0), px, PREVIEW).astype(float)
        b = picture(left, FaceView(left.bar, 4.0), px, PREVIEW).astype(float)
        middle = slice(20, -20)
        self.assertLess(np.abs(a - b[::-1])[middle].mean(), 14)
        self.assertGreater(np.abs(a - b)[middle].mean(), 25)

    def test_four_hundred_layers_are_an_even_grey(self) -> None:
        f = forged(stack(*[("1084", 0.05), ("15n20", 0.05)] * 200, width=40, length=100), {"kind": "turn", "degrees": 90.0})
        view = FaceView(f.bar, 3.0, 10.0, 60.0)
        trace = Trace(f)
        table = EtchTable.of(trace, sampling.magnification(trace))
        patch = view.patch(*(((np.arange(n) + 0.5) / 10).astype(np.float32) for n in (500, 200)))
        s = sampling.sample(trace, patch.x, patch.y, patch.z).place
        light, _ = table.mean(s, sampling.footprint(s))
        want = (reflectance(STEELS["1084"].shade) + reflectance(STEELS["15n20"].shade)) / 2
        inner = light[20:-20]
        self.assertAlmostEqual(float(inner.mean()), want, delta=0.01)
        self.assertLess(float(inner.std()), 0.02)

    def test_coverage_agrees_with_sixty_four_samples_a_pixel(self) -> None:
        f = forged(
            stack(*[("1084", 1.0), ("15n20", 0.8)] * 12, width=24, length=100),
            {"kind": "draw", "width": 20.0, "thickness": 20.0},
            {"kind": "turn", "degrees": 45.0},
            {"kind": "section", "form": "square"},
            {"kind": "twist", "turns": 3.0},
        )
        trace = Trace(f)
        table = EtchTable.of(trace, sampling.magnification(trace))
        view = FaceView(f.bar, 5.0, 20.0, 60.0)

        def light(n: int) -> np.ndarray:
            a = ((np.arange(240 * n) + 0.5) / (6 * n)).astype(np.float32)
            b = ((np.arange(90 * n) + 0.5) / (6 * n) + 4).astype(np.float32)
            p = view.patch(a, b)
            s = sampling.sample(trace, p.x, p.y, p.z).place
            got, _ = table.mean(s, sampling.footprint(s))
            return got.reshape(90, n, 240, n).mean(axis=(1, 3))

        self.assertLess(float(np.sqrt(((light(1) - light(8)) ** 2).mean())), 0.02)

    def test_the_shop_tone_is_what_is_drawn(self) -> None:
        f = forged(solid(100, 40, 6))
        dark = picture(f, FaceView(f.bar, 0.0), 200).mean()
        self.assertGreater(picture(f, FaceView(f.bar, 0.0), 200, tones={"1084": 8.0}).mean(), dark + 60)

    def test_same_again_whatever_the_bands(self) -> None:
        f = forge(read_recipe(LONG).bar)
        view = FaceView(f.bar, 0.3)
        first = picture(f, view, 700)
        from varistrat.core.pattern import picture as module

        kept, module.BAND_POINTS = module.BAND_POINTS, 9_000
        try:
            again = picture(f, view, 700)
        finally:
            module.BAND_POINTS = kept
        self.assertLess(np.abs(first.astype(int) - again).max(), 3)

    def test_refuses_what_is_out_of_reach_and_stops_when_told(self) -> None:
        f = forged(solid(100, 40, 6))
        with self.assertRaisesRegex(InputError, "out of reach"):
            picture(f, FaceView(f.bar, 0.0), 50_000)
        with self.assertRaises(Cancelled):
            picture(f, FaceView(f.bar, 0.0), 2000, cancelled=lambda: True)
        seen: list[float] = []
        picture(f, FaceView(f.bar, 0.0), 900, progress=seen.append)
        self.assertEqual((seen, seen[-1]), (sorted(seen), 1.0))


class OtherViewTests(SimpleTestCase):
    def test_end_grain_shows_layers_level_and_upright_after_a_quarter_turn(self) -> None:
        pile = stack(("1084", 10), ("15n20", 10), width=20, length=100)
        for turn, axis in ((0.0, 0), (90.0, 1)):
            f = forged(pile, {"kind": "turn", "degrees": turn})
            grey = picture(f, EndView(f.bar, 50.0), 80).astype(float)
            halves = np.split(grey, 2, axis=axis)
            # the bright steel was on top; +90 about x carries +z to -y, seen at the left from the far end
            self.assertGreater(halves[0].mean() - halves[1].mean(), 80)

    def test_portraits_of_round_bars_are_cut_out(self) -> None:
        f = forged(solid(100, 20, 20), {"kind": "section", "form": "round"})
        end = picture(f, EndView(f.bar, 50.0), 60, PORTRAIT)
        self.assertEqual(end.shape, (60, 60, 2))
        self.assertEqual((end[0, 0, 1], end[30, 30, 1]), (0, 255))
        side = picture(f, SideView(f.bar, 60.0), 120, PORTRAIT)
        self.assertEqual(side.shape[:2], (45, 120))

    def test_a_round_bar_ground_down_shows_its_flat_and_its_shoulders(self) -> None:
        f = forged(solid(100, 20, 20), {"kind": "section", "form": "round"})
        view = FaceView(f.bar, 8.0)
        b = np.linspace(0.1, f.bar.width - 0.1, 60).astype(np.float32)
        patch = view.patch(np.array([10.0], np.float32), b)
        self.assertTrue((patch.z <= 8.0).all() and (patch.z == 8.0).any() and (patch.z < 6.0).any())
        self.assertTrue(f.bar.section.holds(patch.y, patch.z, 1e-3).all())


class BladeViewTests(SimpleTestCase):
    cut = Cut.of(
        blade(
            share=None,
            recipe=recipe(stack(("1018", 1.5), ("1095", 1.4), ("1018", 1.5), width=60, length=220)),
            outline={"shape": "drop_point", "length": 180, "height": 40},
        )
    )

    def test_the_tip_points_right_on_the_right_face_and_left_on_the_left(self) -> None:
        with pool() as executor:
            right = draw(self.cut.subject(), BladeView(self.cut.placed, "right"), 360, executor)
            left = draw(self.cut.subject(), BladeView(self.cut.placed, "left"), 360, executor)
            book = draw(self.cut.subject(), BladeView(self.cut.placed, "left", book=True), 360, executor)
        ground = daylight.to_srgb8(np.array([daylight.GROUND]))[0]

        def steel(grey: np.ndarray, columns: slice) -> float:
            return float((grey[:, columns] > ground + 8).mean())

        self.assertGreater(steel(right, slice(0, 40)), 3 * steel(right, slice(-20, None)))
        self.assertGreater(steel(left, slice(-40, None)), 3 * steel(left, slice(0, 20)))
        # opened like a book the left face is the same page turned half about
        self.assertLess(np.abs(book[::-1, ::-1].astype(int) - left).mean(), 9)

    def test_thinnest_layer_of_a_plain_laminate(self) -> None:
        # nothing was drawn: the thinnest layer is the core, 1.4 mm
        self.assertAlmostEqual(thinnest_layer(self.cut) or 0, 1.4, delta=0.02)
