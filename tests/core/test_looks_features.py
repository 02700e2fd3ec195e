"""Looks as numbers: worked by hand on stripes and rings, and what they do not depend on."""

import math

import numpy as np
from django.test import SimpleTestCase

from tests.core.photos import photo_of
from varistrat.core.blade.geometry import SIDES
from varistrat.core.design.document import read_document
from varistrat.core.design.worked import Worked
from varistrat.core.errors import InputError
from varistrat.core.etch.tones import EtchTable
from varistrat.core.laminate.photo import sight
from varistrat.core.looks.features import FEATURES, KEYS, PX_PER_MM, Face, faces_of, features_of, features_of_cut, grid_of, lightness
from varistrat.core.looks.from_photo import features_of_photo
from varistrat.core.looks.scales import NEAR, PLACES, examples
from varistrat.core.looks.space import Candidate
from varistrat.core.pattern.views import BladeView
from varistrat.core.photo.face import light_of, lights_of
from varistrat.core.photo.flat import grey_of
from varistrat.core.starters import STARTERS

DARK, BRIGHT = 0.06, 0.6
SHAPE = [k for k, f in FEATURES.items() if f.shape]


def stripes(width: float, degrees: float, share: float = 0.5, tones: tuple[float, float] = (DARK, BRIGHT), at: float = 0.13) -> Face:
    """Bands `width` mm wide (bright and dark together twice that) at an angle to the blade, smooth over half a pixel; 60 x 300 px."""
    rows, cols = np.mgrid[0:60, 0:300] / PX_PER_MM
    across = -(cols - at) * math.sin(math.radians(degrees)) + (29.5 / PX_PER_MM - rows) * math.cos(math.radians(degrees))
    phase = (across / (2 * width)) % 1.0
    edge = 0.5 / PX_PER_MM / (2 * width)
    # bright over the first `share` of every pair
    bright = np.clip(np.minimum(phase, share - phase) / edge + 0.5, 0, 1) if share < 1 else np.ones_like(phase)
    bright = np.maximum(bright, np.clip((phase - 1) / edge + 0.5, 0, 1))
    return Face((tones[0] + (tones[1] - tones[0]) * bright).astype(np.float32), np.ones(phase.shape, bool))


def of(face: Face) -> dict[str, float]:
    return features_of((face, face))


def real(family: str, **steels: str) -> tuple[Face, Face]:
    return faces_of(Candidate(family=family, **steels).worked().blade)


class WorkedByHandTests(SimpleTestCase):
    def test_stripes(self) -> None:
        for width in (1.5, 2.5, 4.0):
            for degrees in (0, 30, 60, 90):
                with self.subTest(width=width, degrees=degrees):
                    found = of(stripes(width, degrees))
                    self.assertAlmostEqual(found["width"], width, delta=0.12 * width)
                    self.assertAlmostEqual(found["slant"], degrees, delta=4)
                    self.assertLess(found["spread"], 25)
                    self.assertAlmostEqual(found["bright"], 50, delta=5)
                    self.assertGreater(found["order"], 50)
                    if degrees:
                        self.assertAlmostEqual(found["pitch"], 2 * width / math.sin(math.radians(degrees)), delta=0.6)
                        self.assertGreater(found["repeat"], 80)

    def test_contrast_is_how_far_lightness_lies_apart(self) -> None:
        found = of(stripes(4.0, 45))
        self.assertAlmostEqual(found["contrast"], float(lightness(BRIGHT) - lightness(DARK)), delta=3)
        # 18 % grey is about L* 50, white 100
        self.assertAlmostEqual(float(lightness(0.18418)), 50.0, delta=0.01)
        self.assertAlmostEqual(float(lightness(1.0)), 100.0, places=6)
        self.assertAlmostEqual(float(lightness(0.0)), 0.0, places=6)

    def test_how_much_is_bright(self) -> None:
        for share in (0.25, 0.5, 0.75):
            self.assertAlmostEqual(of(stripes(4.0, 45, share))["bright"], 100 * share, delta=5)

    def test_thin_and_thick(self) -> None:
        """Bands of 2 and 6 mm in turn: mean 4, spread 2 of 4."""
        found = of(stripes(4.0, 90, 0.25))
        self.assertAlmostEqual(found["width"], 4.0, delta=0.5)
        self.assertAlmostEqual(found["spread"], 50, delta=8)

    def test_two_hands_of_slants_are_one_direction_and_many_are_none(self) -> None:
        left, right = stripes(2.0, 45), stripes(2.0, -45)
        both = Face(np.where(np.arange(300) < 150, left.light, right.light), left.steel)
        self.assertAlmostEqual(of(both)["slant"], 45, delta=4)
        self.assertGreater(of(both)["order"], 45)
        rows, cols = np.mgrid[0:60, 0:300] / PX_PER_MM
        rings = 0.33 + 0.27 * np.sign(np.sin(np.hypot(rows - 15, cols % 30 - 15) * np.pi / 2))
        self.assertLess(of(Face(rings.astype(np.float32), left.steel))["order"], 15)

    def test_rings(self) -> None:
        """Twelve closed discs 4 mm across on 60 x 300 px, which is 45 cm2: 12 / 4.2 (without the rim) in 10 cm2."""
        rows, cols = np.mgrid[0:60, 0:300] / PX_PER_MM
        light = np.full(rows.shape, DARK, np.float32)
        for i in range(12):
            light[np.hypot(rows - 15, cols - (8 + 12 * i)) < 2] = BRIGHT
        face = Face(light, np.ones(rows.shape, bool))
        area = (60 - 4) * (300 - 4) / PX_PER_MM**2 / 1000
        self.assertAlmostEqual(of(face)["rings"], 12 / area, delta=1e-6)
        # one that reaches the rim is open, one as small as a pixel is none, and a long one is a band
        light[0:20, 10:14] = BRIGHT
        light[50, 200] = BRIGHT
        light[40:42, 100:200] = BRIGHT
        self.assertAlmostEqual(of(Face(light, face.steel))["rings"], 12 / area, delta=1e-6)

    def test_likeness(self) -> None:
        a, b = stripes(3.0, 60), stripes(3.0, -60)
        self.assertAlmostEqual(features_of((a, a))["sides"], 100, delta=1e-6)
        self.assertLess(features_of((a, b))["sides"], 40)
        self.assertLess(features_of((a, stripes(3.0, 60, at=0.13 + 3.0 / math.sin(math.radians(60)))))["sides"], 5)
        off = np.abs(np.arange(60) - 29.5)[:, None] / PX_PER_MM + 0 * np.arange(300)
        about = Face(np.where(off % 6 < 3, DARK, BRIGHT).astype(np.float32), a.steel)
        self.assertGreater(of(about)["halves"], 99)
        self.assertLess(of(stripes(3.0, 0))["halves"], 1)
        self.assertTrue(math.isnan(features_of((a,))["sides"]))

    def test_a_plain_face_has_no_pattern(self) -> None:
        plain = Face(np.full((60, 300), 0.2, np.float32), np.ones((60, 300), bool))
        found = of(plain)
        self.assertTrue(all(math.isfinite(v) for v in found.values()))
        self.assertEqual((found["repeat"], found["rings"], found["order"]), (0.0, 0.0, 0.0))


class NoFaceTests(SimpleTestCase):
    def test_where_nothing_shows_nothing_is_said(self) -> None:
        some, none = np.full((20, 40), 0.4), np.zeros((20, 40), bool)
        for steel in ((none, none), (~none, none)):
            with self.assertRaisesRegex(InputError, "nothing of its face is seen"):
                features_of(tuple(Face(some, s) for s in steel))


class InvariantTests(SimpleTestCase):
    """What a feature must not depend on."""

    FACES = ("twist", "opposed", "dimples", "random", "tiled")

    def near(self, a: dict[str, float], b: dict[str, float], keys: list[str], give: float, msg: str) -> None:
        for k in keys:
            f = FEATURES[k]
            self.assertAlmostEqual(f.on_scale(a[k]), f.on_scale(b[k]), delta=give, msg=f"{msg}: {k} {a[k]:.2f} {b[k]:.2f}")

    def test_mirrored(self) -> None:
        for family in self.FACES:
            right, left = real(family)
            turned = tuple(Face(f.light[:, ::-1], f.steel[:, ::-1]) for f in (right, left))
            # places to measure lie on a grid that does not mirror into itself: all but that is the same
            self.near(features_of((right, left)), features_of(turned), list(KEYS), 0.06, family)

    def test_tones(self) -> None:
        for family in self.FACES:
            one, other = features_of(real(family)), features_of(real(family, dark="1084", bright="l6"))
            # a blurred edge lies a little elsewhere in other tones
            self.near(one, other, SHAPE, 0.07, family)
            self.assertNotAlmostEqual(one["contrast"], other["contrast"], delta=2)
            scaled = features_of(tuple(Face(f.light * np.float32(0.8), f.steel) for f in real(family)))
            self.near(one, scaled, SHAPE, 0.05, family)

    def test_shifted(self) -> None:
        for degrees in (30, 90):
            a, b = of(stripes(2.0, degrees)), of(stripes(2.0, degrees, at=1.3))
            self.near(a, b, list(KEYS), 0.04, str(degrees))

    def test_faces_drawn_together_are_those_drawn_alone(self) -> None:
        for key in ("plug", "ladder"):
            cut = Worked.of(read_document(STARTERS[key].document())).blade
            table = EtchTable.of(cut.trace, 1.0)
            faces = [(view := BladeView(cut.placed, side), *grid_of(view)) for side in SIDES]
            for alone, together in zip([light_of(cut, table, *f) for f in faces], lights_of(cut, table, faces), strict=True):
                for a, b in zip(alone, together, strict=True):
                    np.testing.assert_array_equal(a, b)

    def test_the_left_face_lies_as_the_right_one(self) -> None:
        right, left = real("feather")
        np.testing.assert_array_equal(right.steel, left.steel)


class ScaleTests(SimpleTestCase):
    def test_there_and_back(self) -> None:
        for f in FEATURES.values():
            for at in (0.0, 0.3, 1.0):
                self.assertAlmostEqual(f.on_scale(f.from_scale(at)), at, places=9)
            np.testing.assert_allclose(f.on_scale(np.array([f.low, f.high])), [0, 1], atol=1e-9)

    def test_every_example_stands_where_it_is_said_to(self) -> None:
        self.assertEqual(set(examples()), set(KEYS))
        for key, run in examples().items():
            self.assertEqual(tuple(e.at for e in run), PLACES)
            for e in run:
                found = features_of_cut(e.candidate.worked().blade)[key]
                self.assertAlmostEqual(FEATURES[key].on_scale(found), e.at, delta=NEAR, msg=f"{key} {e.candidate.key}")


class PhotoTests(SimpleTestCase):
    def test_a_photo_of_a_face_has_its_shape(self) -> None:
        worked = Worked.of(read_document(STARTERS["bold_twist"].document()))
        right, left = faces_of(worked.blade)
        for side, face in zip(SIDES, (right, left), strict=True):
            made = photo_of(worked, side, {}, np.random.default_rng(5))
            told = features_of((face,))
            seen = features_of_photo(worked.blade, side, grey_of(made.jpeg), sight(made.marks))
            for key, give in {"width": 0.08, "slant": 0.08, "repeat": 0.12, "pitch": 0.06, "spread": 0.15, "rings": 0.15}.items():
                f = FEATURES[key]
                self.assertAlmostEqual(f.on_scale(seen[key]), f.on_scale(told[key]), delta=give, msg=f"{side} {key}")
            self.assertTrue(math.isnan(seen["sides"]))

    def test_half_a_blade_is_no_face(self) -> None:
        worked = Worked.of(read_document(STARTERS["bold_twist"].document()))
        made = photo_of(worked, "right", {}, np.random.default_rng(5))
        with self.assertRaises(InputError):
            features_of_photo(worked.blade, "right", grey_of(made.jpeg)[:, :300], sight(made.marks))
