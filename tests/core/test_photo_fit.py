"""A photo held against the prediction: laid flat, evened, and read. Photos are made up by our own renderer, so that the truth is known."""

import unittest
from unittest import mock

import numpy as np

from tests.core.photos import photo_of
from tests.profile import quick_or
from varistrat.core.design.document import read_document
from varistrat.core.design.worked import Worked
from varistrat.core.errors import Cancelled, InputError
from varistrat.core.laminate.photo import sight
from varistrat.core.photo.face import PhotoOfFace, PredictedFace, alike, run_alike, tiles_of
from varistrat.core.photo.fit import LIKE, PhotoFit, fit_photo
from varistrat.core.photo.flat import evened, grey_of, to_mark
from varistrat.core.photo.numbers import changed, numbers_of, taken_over, usual_of
from varistrat.core.photo.words import word
from varistrat.core.starters import STARTERS


def worked_of(starter: str) -> Worked:
    return Worked.of(read_document(STARTERS[starter].document()))


TWIST = worked_of("bold_twist")
TURNS, PHASE = (n.key for n in numbers_of(TWIST, "right") if n.key.split(":")[0] in ("turns", "phase"))


def fitted(worked: Worked, truth: dict[str, float], seed: int, side: str = "right", off: float = 0.3) -> PhotoFit:
    made = photo_of(worked, side, truth, np.random.default_rng(seed), off=off)  # type: ignore[arg-type]
    return fit_photo(worked, side, grey_of(made.jpeg), made.marks)  # type: ignore[arg-type]


class FlatTests(unittest.TestCase):
    def test_the_photo_lies_on_the_prediction(self) -> None:
        for side in ("right", "left"):
            with self.subTest(side):
                made = photo_of(TWIST, side, {}, np.random.default_rng(3))
                face = PredictedFace(TWIST, side, [], 320)
                photo, seen = PhotoOfFace(grey_of(made.jpeg), face, sight(made.marks)).at(0.0)
                self.assertGreater(alike(face.planned, photo, seen & face.steel), 0.9)
                # and on no other: the other side, or 2 mm off
                self.assertLess(alike(np.roll(face.planned, 5, axis=1), photo, seen & face.steel), 0.75)

    def test_the_light_goes_and_the_pattern_stays(self) -> None:
        x = np.arange(320.0)
        pattern = np.tile(1 + 0.3 * np.sin(x / 3), (60, 1))
        light = 0.4 + 0.5 * x / 320 + 0.1 * np.arange(60.0)[:, None] / 60
        on = np.ones(pattern.shape, bool)
        lit, plain = evened(pattern * light, on, 18.0), evened(pattern, on, 18.0)
        self.assertLess((lit - plain)[:, 30:-30].std(), 0.03)
        self.assertGreater(plain.std(), 0.15)

    def test_the_run_of_lines_knows_no_layers(self) -> None:
        y, x = np.mgrid[0:60, 0:200]
        on = np.ones(y.shape, bool)
        bent = y + 6 * np.sin(x / 20)
        lines, half_a_line_on = np.sin(bent), np.sin(bent + np.pi)
        self.assertLess(alike(lines, half_a_line_on, on), -0.9)
        self.assertGreater(run_alike(lines, half_a_line_on, on), 0.9)
        self.assertLess(run_alike(lines, np.sin(y + 6 * np.sin(x / 20 + np.pi)), on), 0.3)

    def test_tiles_are_of_like_size(self) -> None:
        on = np.zeros((40, 200), bool)
        on[5:30, 10:150] = True
        tiles = tiles_of(on, 8, 2)
        counts = np.bincount(tiles[on])
        self.assertEqual(len(counts), 16)
        self.assertLess(counts.max() - counts.min(), 30)
        self.assertTrue((tiles[~on] == -1).all())
        with self.assertRaises(InputError):
            tiles_of(on[:8, :20], 8, 2)

    def test_what_is_marked(self) -> None:
        curves = TWIST.blade.geometry.curves
        names = [name for name, *_ in to_mark(curves)]
        self.assertEqual(names, ["the heel at the edge", "the heel at the spine", "the tip", "the edge", "the spine"])
        self.assertEqual([x for _, x, _ in to_mark(curves, 60.0)], [0, 0, curves.length, 60, 60])
        for wrong in (0.05 * curves.length, 0.95 * curves.length):
            with self.assertRaises(InputError):
                to_mark(curves, wrong)


class PlantedTests(unittest.TestCase):
    def test_planted_numbers_lie_in_their_ranges_nine_times_in_ten(self) -> None:
        held: list[bool] = []
        for starter, seeds in (("bold_twist", range(quick_or(3, 5))), ("feather", range(quick_or(1, 3))), ("ladder", range(1))):
            worked = worked_of(starter)
            numbers = {n.key: n for n in numbers_of(worked, "right")}
            for seed in seeds:
                rng = np.random.default_rng(1000 + seed)
                keys = usual_of(list(numbers.values()))
                truth = {k: float(rng.uniform(0.6 * numbers[k].least, 0.6 * numbers[k].most)) for k in keys}
                found = fitted(worked, truth, seed, ("right", "left")[seed % 2])
                self.assertGreater(found.like, 0.8)
                told = {n.number.key: n for n in found.numbers if n.told}
                self.assertGreaterEqual(len(told), 2 if starter != "feather" else 1)
                held += [n.low <= truth[k] <= n.high for k, n in told.items()]
        self.assertGreaterEqual(len(held), quick_or(10, 18))
        self.assertGreaterEqual(sum(held) / len(held), 0.9)

    def test_ranges_are_no_wider_than_they_must_be(self) -> None:
        found = {n.number.key: n for n in fitted(TWIST, {"ground": 0.31, TURNS: -0.04}, 5).numbers}
        for key, most in (("ground", 0.15), (TURNS, 0.02), (PHASE, 12.0)):
            self.assertLess(found[key].high - found[key].low, most, key)
        self.assertTrue(found["ground"].differs and found[TURNS].differs)
        self.assertAlmostEqual(found["ground"].change, 0.31, delta=0.06)
        self.assertRegex(word(found["ground"]), r"^ground 0\.\d\d mm deeper than planned$")
        self.assertRegex(word(found[TURNS]), r"^twisted \d\.\d % less than planned: 13\.\d\d turns$")

    def test_a_blade_made_as_planned_is_said_to_be(self) -> None:
        found = fitted(TWIST, {}, 8, off=0.0)
        self.assertEqual(found.changes, {})
        self.assertAlmostEqual(found.like, found.like_planned, delta=0.08)
        self.assertIn("as planned", word(found.numbers[0]))

    def test_another_blade_is_refused(self) -> None:
        other = photo_of(worked_of("feather"), "right", {}, np.random.default_rng(2))
        with self.assertRaisesRegex(InputError, "not like the predicted face"):
            fit_photo(TWIST, "right", grey_of(other.jpeg), other.marks)
        self.assertGreater(LIKE, 0.3)

    def test_layers_too_fine_to_be_seen_are_not_looked_for(self) -> None:
        photo = photo_of(TWIST, "right", {}, np.random.default_rng(2))
        with (
            mock.patch.object(PredictedFace, "contrast", property(lambda self: 0.019)),
            self.assertRaisesRegex(InputError, "too fine to be told apart"),
        ):
            fit_photo(TWIST, "right", grey_of(photo.jpeg), photo.marks)

    def test_what_a_face_does_not_show_is_not_told(self) -> None:
        plain = worked_of("three_layer")
        found = {n.number.key: n for n in fitted(plain, {"ground": 0.2}, 1).numbers}
        # layers that run straight along the bar look alike however far along the blade lies
        self.assertFalse(found["along"].told)
        self.assertEqual(word(found["along"]), "this photo does not tell")

    def test_stopped_and_asked_for_what_is_not_there(self) -> None:
        made = photo_of(TWIST, "right", {}, np.random.default_rng(2))
        with self.assertRaises(Cancelled):
            fit_photo(TWIST, "right", grey_of(made.jpeg), made.marks, cancelled=lambda: True)
        for wrong in ([], ["depth:x:y"]):
            with self.assertRaises(InputError):
                fit_photo(TWIST, "right", grey_of(made.jpeg), made.marks, wrong)
        with self.assertRaisesRegex(InputError, "pixels long"):
            fit_photo(TWIST, "right", grey_of(made.jpeg), [type(m)(m.px / 9, m.py / 9, m.x, m.y) for m in made.marks])

    def test_progress_goes_up_to_one(self) -> None:
        told: list[float] = []
        made = photo_of(TWIST, "right", {}, np.random.default_rng(2))
        fit_photo(TWIST, "right", grey_of(made.jpeg), made.marks, ["ground"], told.append)
        self.assertEqual(told, sorted(told))
        self.assertEqual(told[-1], 1.0)


class TakenOverTests(unittest.TestCase):
    def test_ground_deeper_is_uneven_by_twice_that(self) -> None:
        for side, sign in (("right", 1), ("left", -1)):
            made = taken_over(TWIST, side, {"ground": 0.31})  # type: ignore[arg-type]
            assert made.blade and TWIST.document.blade
            self.assertAlmostEqual(made.blade.errors.uneven, sign * 0.62)
            x, h = np.array([30.0]), np.array([10.0])
            was, now = TWIST.blade.geometry.faces(x, h), Worked.of(made).blade.geometry.faces(x, h)
            self.assertAlmostEqual(float(getattr(was, side)[0] - getattr(now, side)[0]) * sign, 0.31, places=6)
            self.assertAlmostEqual(float(was.thickness[0]), float(now.thickness[0]), places=6)

    def test_more_turns_turn_about_the_middle_of_the_blade(self) -> None:
        step = next(s for s in TWIST.document.bars[TURNS.split(":")[1]].steps if s.kind == "twist")  # type: ignore[attr-defined]
        made = next(s for s in changed(TWIST, "right", {TURNS: 0.05}).bar.steps if s.id == step.id)
        self.assertAlmostEqual(made.turns, step.turns * 1.05)  # type: ignore[attr-defined]
        long = 240.0
        placed = TWIST.blade.placed
        middle = np.array([(placed.x + placed.signs[0] * placed.geometry.length / 2) / placed.bar.length * long])
        turned = np.rad2deg(made.phi(middle, long) - step.phi(middle, long))  # type: ignore[attr-defined]
        self.assertAlmostEqual(float((turned[0] + 180) % 360 - 180), 0.0, places=6)

    def test_longer_is_thinner_and_no_steel_is_made(self) -> None:
        made = Worked.of(taken_over(TWIST, "right", {"stretch": 0.03}))
        was, now = TWIST.forged.bar, made.forged.bar
        self.assertAlmostEqual(now.length / was.length, 1.03, places=4)
        self.assertAlmostEqual(now.volume, was.volume, delta=1e-6 * was.volume)

    def test_every_number_of_every_start_is_taken_over(self) -> None:
        for name in ("bold_twist", "ladder", "opposed_twist", "feather", "hand_forged"):
            worked = worked_of(name)
            for n in numbers_of(worked, "right"):
                change = 0.25 * (n.most if n.most > 0 else n.least)
                with self.subTest(n.key, name=name):
                    again = taken_over(worked, "right", {n.key: change})
                    self.assertNotEqual(again, worked.document)
                    self.assertEqual(taken_over(worked, "right", {n.key: 0.0}).recipe, worked.document.recipe)

    def test_a_change_of_nothing_known_is_refused(self) -> None:
        for wrong, much in (("size", 0.1), ("turns:b1:nothing", 0.01), ("depth:b1", 0.1), ("ground", 3.0), ("along", -400.0)):
            with self.subTest(wrong), self.assertRaises(InputError):
                taken_over(TWIST, "right", {wrong: much})
