"""Steering by a test etch: planted cores found again, corrections that work, photographs read."""

import random
import warnings
from dataclasses import replace

import numpy as np
from django.test import SimpleTestCase

from tests.core.samples import blade
from tests.profile import quick_or
from varistrat.core.blade.model import Blade, read_blade
from varistrat.core.cutting.cut import Cut
from varistrat.core.errors import InputError
from varistrat.core.laminate.aim import Aim, Band, grade, line
from varistrat.core.laminate.exposure import stations
from varistrat.core.laminate.photo import FARTHEST, Mark, Sight, sight
from varistrat.core.laminate.readings import Reading, Readings, must_be_of, surface_of
from varistrat.core.study.correction import Plan, correct
from varistrat.core.study.inference import NUISANCES, UPPER, Z90, Inferred, infer, line_of
from varistrat.core.study.lamina import Lamina
from varistrat.core.study.tolerances import LEVEL, Sizes

B = 3.6 / 45
WITHIN = 0.4
STRAIGHT = Sizes(twist=0.02, cup=0.01)
"""A blade known to be straight: twist and cup too can part left from right."""


def read_off(b: Blade, xs: tuple[float, ...] = (20.0, 60.0, 100.0, 140.0, 175.0), noise: float = 0.0, seed: int = 1) -> list[Reading]:
    """What a smith would read off that very blade."""
    rng = np.random.default_rng(seed)
    found = list(Cut.of(b).exposure(400))
    out = []
    for x in xs:
        for side in ("right", "left"):
            s = min((s for s in found if s.side == side), key=lambda s: abs(s.x - x))
            h = line(s) + rng.normal(0, noise)
            if line(s) <= 0 or h <= 0:
                out.append(Reading(x=x, side=s.side, state="none"))
            elif line(s) >= s.height * 0.999:
                out.append(Reading(x=x, side=s.side, state="spine"))
            else:
                out.append(Reading(x=x, side=s.side, height=float(h)))
    return out


def steer(plan: Blade, heights: list[Reading], n: int = 25, sizes: Sizes | None = None, **more: float) -> Inferred:
    cut = Cut.of(plan)
    return infer(Lamina.of(cut, stations(cut.geometry, n)), Readings(heights=heights, **more), sizes or Sizes())


class InferTests(SimpleTestCase):
    def test_a_planted_offset_and_share_by_the_closed_form(self) -> None:
        """Lines 13.7 and 9.3 instead of 11.5: their difference asks for an offset of 0.02, their mean for the share planned."""
        found = steer(
            blade(), read_off(blade(errors={"core_offset": 0.02})), sizes=STRAIGHT, within=0.1, edge_thickness=0.4, off_middle=0.0
        )
        offset, sd = found.mean_offset
        self.assertAlmostEqual(offset, 0.02, delta=0.004)
        self.assertLess(sd, 0.01)
        self.assertAlmostEqual(found.mean_share[0], 0.30, delta=0.004)
        self.assertLess(found.misfit, 1.0)

    def test_offset_and_uneven_grind_look_alike_until_the_middle_is_measured(self) -> None:
        """An uneven grind of 0.1 gives the very lines of an offset of 0.1/(2 T): only the second reading parts them."""
        heights = read_off(blade(errors={"uneven": 0.1}))
        blind = steer(blade(), heights, sizes=STRAIGHT)
        seeing = steer(blade(), heights, sizes=STRAIGHT, off_middle=-0.05)
        self.assertGreater(blind.mean_offset[0], 0.004)
        self.assertLess(abs(seeing.mean_offset[0]), blind.mean_offset[0])
        self.assertLess(abs(seeing.rest["uneven"] - 0.1), Z90 * seeing.rest_sd["uneven"])
        self.assertLess(seeing.mean_offset[1], blind.mean_offset[1])
        self.assertEqual(blind.helps[0].now, max(h.now for h in blind.helps if h.of == blind.helps[0].of))
        told = next(h for h in blind.helps if (h.reading, h.of) == ("off_middle", "offset"))
        # what it promises is what the extra reading then does
        self.assertAlmostEqual(told.then, seeing.mean_offset[1], delta=0.1 * told.now)

    def test_where_it_wanders_is_told_better_than_how_much_in_all(self) -> None:
        true = blade(errors={"core_offset": [[0, 0.03], [200, -0.01]]})
        found = steer(blade(), read_off(true))
        want = np.interp(found.lamina.x, [0, 200], [0.03, -0.01])
        tilt = np.polyfit(found.lamina.x, found.offset - want, 1)[0] * 200
        self.assertLess(abs(tilt), 0.008)
        np.testing.assert_allclose(found.offset, want, atol=0.015)

    def test_no_line_seen_is_a_bound(self) -> None:
        """Left shows nothing: with a core so far right that the left edge is clad, the offset must be at least (c - t_e/2)/T."""
        heights = [Reading(x=x, side="left", state="none") for x in (40.0, 100.0, 160.0)] + [
            Reading(x=x, side="right", height=22.0) for x in (40.0, 100.0, 160.0)
        ]
        found = steer(blade(), heights, sizes=Sizes(core_offset=0.06))
        self.assertGreater(found.mean_offset[0], 0.07)
        self.assertLess(float(np.median(found.lines["left"][1])), 1.5)

    def test_lines_as_read_lie_where_they_were_read(self) -> None:
        true = blade(errors={"core_offset": [[0, 0.02], [200, 0.01]], "cup": 0.03})
        heights = read_off(true)
        found = steer(blade(), heights)
        for side in ("right", "left"):
            low, middle, high = found.lines[side]  # type: ignore[index]
            for r in heights:
                if r.side == side and r.height is not None:
                    self.assertAlmostEqual(float(np.interp(r.x, found.lamina.x, middle)), r.height, delta=0.5)
            self.assertTrue((low <= high).all())

    def test_the_inferred_blade_shows_the_lines_inferred(self) -> None:
        """as_errors goes back into the blade format: the geometry must then give the same line."""
        found = steer(blade(), read_off(blade(errors={"core_offset": 0.02, "edge": 0.05})))
        got = [line(s) for s in Cut.of(correct(found, Aim(low=0.0, high=45.0, difference=45.0)).blade).exposure(25)]
        want = np.stack([line_of(found.levels(s), found.lamina.h) for s in ("right", "left")], axis=1).ravel()
        np.testing.assert_allclose(got, want, atol=0.08)


class CoverageTests(SimpleTestCase):
    """Stated uncertainty against planted truth: 90 in 100, nuisances included."""

    def planted(self, plan: Blade, sizes: Sizes, trials: int, seed: int) -> np.ndarray:
        """For each trial whether share and offset, in the mean, lie in their 90 % interval."""
        rng = np.random.default_rng(seed)
        cut = Cut.of(plan)
        x = np.array([15.0, 45.0, 75.0, 105.0, 135.0, 165.0])
        lam = Lamina.of(cut, x)
        q = x / 200
        kernel = np.linalg.cholesky(LEVEL + (1 - LEVEL) * np.exp(-((q[:, None] - q) ** 2) / (2 * sizes.wander**2)) + 1e-9 * np.eye(6))
        thick = float(cut.geometry.faces(np.array([80.0]), np.array([1.0])).forged[0])
        out = []
        for _ in range(trials):
            share = sizes.core_share * kernel @ rng.standard_normal(6)
            offset = sizes.core_offset * kernel @ rng.standard_normal(6) + sizes.dip / thick * kernel @ rng.standard_normal(6)
            sds = (sizes.edge, UPPER, sizes.uneven, sizes.cup, sizes.twist)
            edge, upper, uneven, cup, twist = (float(v) for v in np.array(sds) * rng.standard_normal(len(NUISANCES)))

            def along(v: np.ndarray) -> list[list[float]]:
                return [[float(a), float(b)] for a, b in zip(x, v, strict=True)]

            spine = 4.0 + upper
            true = read_blade(
                plan.as_json()
                | {
                    "errors": {
                        "core_offset": along(offset),
                        "core_share": along(share),
                        "edge": edge,
                        "uneven": uneven,
                        "cup": cup,
                        "twist": twist,
                    },
                    "spine_thickness": {"heel": spine, "mid": spine, "tip": spine},
                }
            )
            heights = read_off(true, tuple(x), WITHIN, int(rng.integers(1 << 30)))
            found = infer(lam, Readings(heights=heights, within=WITHIN), sizes)
            for (mean, sd), want in ((found.mean_share, lam.share + share.mean()), (found.mean_offset, offset.mean())):
                out.append(abs(mean - want) <= Z90 * sd)
        return np.array(out).reshape(-1, 2)

    def test_ninety_in_a_hundred(self) -> None:
        """Within two standard errors of 0.90 or above (a fair 90 % interval passes 39 times in 40)."""
        many = quick_or(40, 120)
        hits = self.planted(blade(share=0.34), Sizes(dip=0.06), many, 11).mean(axis=0)
        self.assertGreaterEqual(hits.min(), 0.90 - 2 * np.sqrt(0.09 / many))
        self.assertLess(hits.max(), 1.0)

    def test_forged_bevels_too(self) -> None:
        plan, many = blade(share=0.4, forging={"share": 1.0, "allowance": 0.5, "bar_thickness": 5.0}), quick_or(30, 100)
        hits = self.planted(plan, Sizes(dip=0.02, core_offset=0.006, core_share=0.008, cup=0.01, twist=0.05, uneven=0.03), many, 2)
        self.assertGreaterEqual(hits.mean(axis=0).min(), 0.90 - 2 * np.sqrt(0.09 / many))


class CorrectionTests(SimpleTestCase):
    AIM = Aim(low=8.0, high=15.0, difference=1.0)

    def plan(self, aim: Aim | None = None, noise: float = 0.0, **errors: float) -> tuple[Inferred, Plan]:
        found = steer(blade(), read_off(blade(errors=errors), noise=noise), within=0.1, edge_thickness=0.4, off_middle=0.0)
        return found, correct(found, aim or self.AIM)

    def test_the_lower_side_is_raised_to_the_other(self) -> None:
        _, plan = self.plan(core_offset=0.02)
        self.assertEqual(plan.removal["right_edge"], [0.0] * len(plan.x))
        self.assertGreater(min(plan.removal["left_edge"][2:-2]), 0.02)
        apart = np.abs(np.array(plan.after["right"]) - plan.after["left"])
        self.assertLess(float(apart.max()), 1.0)
        self.assertEqual(plan.unmet, [])

    def test_the_least_by_hand(self) -> None:
        """Left at 9.3 wanted at 13.7 - 0.6 = 13.1: at the edge alone d (1 - 13.1/45) = b/2 (13.1 - 9.3)."""
        _, plan = self.plan(core_offset=0.02)
        want = B / 2 * (13.1 - 9.3) / (1 - 13.1 / 45)
        self.assertAlmostEqual(float(np.median(plan.removal["left_edge"])), want, delta=0.03)
        self.assertEqual(max(plan.removal["left_spine"]), 0.0)

    def test_the_corrected_blade_is_of_first_grade(self) -> None:
        """The true blade, ground as advised, judged by the geometry."""
        true = blade(errors={"core_offset": 0.02})
        _, plan = self.plan(core_offset=0.02)
        ground = read_blade(true.as_json() | {"correction": plan.blade.correction.model_dump(mode="json")})
        cut = Cut.of(ground)
        band = Band.of(self.AIM, cut.geometry)
        self.assertFalse(grade(list(Cut.of(true).exposure(40)), band).first)
        self.assertTrue(grade(list(cut.exposure(40)), band).first)

    def test_a_line_too_high_cannot_be_ground_down(self) -> None:
        _, plan = self.plan(Aim(low=2.0, high=9.0, difference=5.0))
        self.assertEqual({u.kind for u in plan.unmet}, {"high"})
        self.assertAlmostEqual(plan.shorten, 2.5, delta=0.3)
        self.assertLess(plan.most, 1e-6)

    def test_steel_is_left(self) -> None:
        _, plan = self.plan(Aim(low=20.0, high=40.0, difference=5.0, edge_least=0.3, spine_least=3.9))
        self.assertGreaterEqual(min(plan.edge_left), 0.3 - 2e-3)
        self.assertGreaterEqual(min(plan.spine_left), 3.9 - 2e-3)
        self.assertEqual({u.kind for u in plan.unmet}, {"low"})

    def test_nothing_to_do(self) -> None:
        _, plan = self.plan()
        self.assertEqual(plan.most, 0.0)
        self.assertEqual(plan.blade.correction.right, [])

    def test_an_earlier_correction_is_added_to(self) -> None:
        before = blade(errors={"core_offset": 0.02}, correction={"left": [[0, 0.05, 0.0]]})
        found = steer(before, read_off(before))
        plan = correct(found, self.AIM)
        self.assertTrue(all(row[1] >= 0.05 - 1e-9 for row in plan.blade.correction.left))

    def test_smooth_along_the_blade(self) -> None:
        _, plan = self.plan(noise=0.5, core_offset=0.02)
        kinks = np.abs(np.diff(plan.removal["left_edge"], 2))
        self.assertLess(float(kinks.max()), 0.05)


class RefusedReadingTests(SimpleTestCase):
    def refused(self, match: str, *heights: Reading) -> None:
        with self.assertRaisesRegex(InputError, match):
            steer(blade(), list(heights))

    def test_each_with_its_place(self) -> None:
        self.refused("nothing has been read")
        self.refused(r"heights\[0\].x", Reading(x=300.0, side="left", height=5.0))
        self.refused(r"heights\[0\].height: 60 mm is above the spine", Reading(x=30.0, side="left", height=60.0))
        self.refused(r"heights\[0\].height: the height is missing", Reading(x=30.0, side="left"))

    def test_heights_of_faces_that_are_gone(self) -> None:
        plan = blade()
        read = Readings(heights=[Reading(x=40.0, side="left", height=5.0)], surface=surface_of(plan))
        must_be_of(read, plan)
        must_be_of(read, blade(errors={"core_offset": 0.3}))
        for other in (
            blade(correction={"left": [[0, 0.05, 0.0]]}),
            blade(spine=3.5),
            blade(edge=0.2),
        ):
            with self.assertRaisesRegex(InputError, "readings.surface: .*changed since"):
                must_be_of(read, other)
            must_be_of(Readings(surface=read.surface), other)
            must_be_of(Readings(heights=read.heights), other)

    def test_the_mark_of_a_surface_is_of_the_faces_alone(self) -> None:
        mark = surface_of(blade())
        self.assertEqual(mark, surface_of(blade()))
        self.assertEqual(mark, surface_of(read_blade(blade().as_json())), "written and read again")
        self.assertEqual(mark, surface_of(blade(errors={"uneven": 0.2}, place={"angle": 10.0})))
        self.assertNotEqual(mark, surface_of(blade(spine=4.01)))

    def test_contradictions_are_seen_in_the_misfit(self) -> None:
        mixed = [Reading(x=x, side=s, height=h) for x, h in ((20.0, 3.0), (24.0, 20.0), (28.0, 4.0)) for s in ("right", "left")]  # type: ignore[arg-type]
        self.assertGreater(steer(blade(), mixed).misfit, 2.0)


class PhotoTests(SimpleTestCase):
    """A known camera: where it puts known places, and the way back."""

    CAMERA = np.array([[3.1, -0.4, 120.0], [0.25, -2.9, 700.0], [2.5e-4, -6e-4, 1.0]])
    MARKS = ((12.0, 0.0), (12.0, 30.0), (110.0, 2.0), (110.0, 29.0))

    def seen(self, places: np.ndarray) -> np.ndarray:
        p = np.column_stack([places, np.ones(len(places))]) @ self.CAMERA.T
        return p[:, :2] / p[:, 2:]

    def marks(self, places: tuple[tuple[float, float], ...], noise: float = 0.0) -> list[Mark]:
        at = self.seen(np.array(places)) + np.random.default_rng(1).normal(0, noise, (len(places), 2))
        return [Mark(float(u), float(v), x, y) for (u, v), (x, y) in zip(at, places, strict=True)]

    def test_four_marks_give_every_place_back(self) -> None:
        found = sight(self.marks(self.MARKS))
        places = np.array([[0.0, 5.0], [60.0, 12.0], [140.0, 3.0]])
        np.testing.assert_allclose(found.blade(self.seen(places)), places, atol=1e-6)
        np.testing.assert_allclose(found.picture(places), self.seen(places), atol=1e-6)
        self.assertLess(found.worst, 1e-6)

    def test_more_marks_average_the_hand(self) -> None:
        many = tuple((x, y) for x in (10.0, 60.0, 110.0) for y in (0.0, 15.0, 30.0))
        found = sight(self.marks(many, 0.8))
        place = np.array([[80.0, 10.0]])
        np.testing.assert_allclose(found.blade(self.seen(place)), place, atol=0.6)
        self.assertGreater(found.worst, 0.01)

    def test_a_left_side_turns_itself_round(self) -> None:
        marks = [Mark(1000 - m.px, m.py, m.x, m.y) for m in self.marks(self.MARKS)]
        place = np.array([[80.0, 10.0]])
        turned = self.seen(place) * [-1, 1] + [1000, 0]
        np.testing.assert_allclose(sight(marks).blade(turned), place, atol=1e-6)

    def test_refused(self) -> None:
        with self.assertRaisesRegex(InputError, "3 marks"):
            sight(self.marks(self.MARKS)[:3])
        with self.assertRaisesRegex(InputError, "along one line"):
            sight(self.marks(((10.0, 0.0), (50.0, 0.0), (90.0, 0.0), (110.0, 29.0))))
        a, b, c, d = self.marks(self.MARKS)
        swapped = [Mark(b.px, b.py, a.x, a.y), Mark(a.px, a.py, b.x, b.y), c, d]
        with self.assertRaisesRegex(InputError, "probably swapped"):
            sight(swapped)
        for far in (1e154, -1e308, float("inf"), float("nan"), 1.1 * FARTHEST):
            for name in ("px", "py", "x", "y"):
                with self.assertRaisesRegex(InputError, "marks\\[2\\]"):
                    sight([a, b, replace(c, **{name: far}), d])

    def test_nothing_overflows_whatever_is_marked_within_reach(self) -> None:
        odd = (0.0, -0.0, 1.0, -1.0, FARTHEST, -FARTHEST, 5e-324, 1e-12, 1e-160, 12.5, 400.0)
        rng, refused = random.Random(1), 0
        with warnings.catch_warnings():
            warnings.simplefilter("error", RuntimeWarning)
            for _ in range(4000):
                marks = [[rng.uniform(0, 1000) for _ in range(4)] for _ in range(rng.choice((4, 4, 5, 6)))]
                for _ in range(rng.choice((1, 1, 2, 3, 8))):
                    marks[rng.randrange(len(marks))][rng.randrange(4)] = rng.choice(odd)
                try:
                    found = sight([Mark(*m) for m in marks])
                except InputError:
                    refused += 1
                    continue
                self.assertTrue(np.isfinite(found.matrix).all())
                found.blade(np.array([[1.0, 2.0], [FARTHEST, 0.0]]))
                found.picture(np.array([[1.0, 2.0]]))
        self.assertLess(refused, 3900)

    def test_a_place_on_the_horizon_is_none(self) -> None:
        tilted = Sight(np.array([[1.0, 0, 0], [0, 1.0, 0], [0, -0.01, 1.0]]), 0.0)
        with warnings.catch_warnings():
            warnings.simplefilter("error", RuntimeWarning)
            there = tilted.blade(np.array([[5.0, 100.0], [0.0, 100.0], [5.0, 50.0]]))
        self.assertFalse(np.isfinite(there[:2]).all(axis=1).any())
        np.testing.assert_allclose(there[2], [10.0, 100.0])
