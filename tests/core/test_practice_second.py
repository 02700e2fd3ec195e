"""Practice derived a second time, another way; and its thresholds, each by a case that turns on it."""

from math import exp
from typing import Any

import numpy as np
from django.test import SimpleTestCase

from varistrat.core.faults.inference import SURE, find
from varistrat.core.faults.knowledge import knowledge
from varistrat.core.laminate.aim import Aim, Band
from varistrat.core.practice.by_eye import WEAK, ByEye, Heat, glow_share
from varistrat.core.practice.core_centred import AIM, FLANK, LEFT, READ, SPARED, CoreCentred, _cut, _planned, in_band, lines_of
from varistrat.core.practice.find_fault import WRONG_COSTS, FindFault
from varistrat.core.practice.read_face import CHOICES, FAMILIES, FREE_TRIES, ReadFace, numbers_of
from varistrat.core.practice.sums_by_hand import NEAR, RIGHT, Asked, points

CENTRED, FACE, FAULT, EYE = CoreCentred(), ReadFace(), FindFault(), ByEye()


class LightTests(SimpleTestCase):
    """Wien's law against Planck's, at the eye's best: at these heats they are one to a part in a thousand."""

    def planck(self, celsius: float, um: float = 0.555) -> float:
        h, c, k = 6.62607015e-34, 2.99792458e8, 1.380649e-23
        wave, kelvin = um * 1e-6, celsius + 273.15
        return float(2 * h * c**2 / wave**5 / (exp(h * c / (wave * k * kelvin)) - 1))

    def test_share_of_glow(self) -> None:
        for light, equal in (("dark shop", 640.0), ("light shop", 820.0)):
            for celsius in (600.0, 750.0, 900.0, 1100.0, 1250.0):
                glow, reflected = self.planck(celsius), self.planck(equal)
                self.assertAlmostEqual(glow_share(celsius, light), glow / (glow + reflected), 3)  # type: ignore[arg-type]

    def test_points_fall_evenly_from_sure_to_weak(self) -> None:
        for light, sure in (("dark shop", 20.0), ("daylight", 8.0)):
            heat = Heat(800.0 if light == "dark shop" else 250.0, light)  # type: ignore[arg-type]
            at = [EYE.points(heat, heat.celsius + sure * far) for far in (0.0, 0.99, 1.0, (1 + WEAK) / 2, WEAK - 0.01, WEAK, WEAK + 5)]
            self.assertEqual(at[:3], [1.0, 1.0, 1.0])
            self.assertAlmostEqual(at[3], 0.5)
            self.assertTrue(0 < at[4] < 0.01 and at[5] == at[6] == 0)
            # as much for too cold
            self.assertAlmostEqual(EYE.points(heat, heat.celsius - sure * (1 + WEAK) / 2), 0.5)


class CoreSecondTests(SimpleTestCase):
    def test_a_belt_takes_the_volume_its_shape_says(self) -> None:
        """cos^2 flanks of FLANK mm each inside `wide`: as much as a flat cut of wide - FLANK, give or take the hand."""
        taken = []
        for seed in range(80):
            state = CENTRED.advance(CENTRED.begin(seed), {"do": "grind", "side": "left", "at": 75, "wide": 60, "depth": 0.2})
            taken.append(float(np.sum(state.left[0])) * _planned().geometry.length / len(state.left[0]))
        self.assertAlmostEqual(float(np.mean(taken)), 0.2 * (60 - FLANK), delta=0.2)
        self.assertAlmostEqual(float(np.std(taken)) / float(np.mean(taken)), 0.1, delta=0.03)

    def test_more_at_the_edge_and_more_at_the_spine(self) -> None:
        for where, (edge, spine) in {"edge": (1.0, 0.3), "even": (1.0, 1.0), "spine": (0.3, 1.0)}.items():
            cut = {"do": "grind", "side": "right", "at": 75, "wide": 80, "depth": 0.2, "where": where}
            state = CENTRED.advance(CENTRED.begin(1), cut)
            ratio = np.array(state.right[0])[15:20] / np.array(state.right[1])[15:20]
            np.testing.assert_allclose(ratio, edge / spine, rtol=1e-9)

    def test_ground_off_is_gone_from_the_thickness(self) -> None:
        begun = CENTRED.begin(3)
        ground = CENTRED.advance(begun, {"do": "grind", "side": "right", "at": 75, "wide": 100, "depth": 0.2})
        x, h = np.array([75.0]), np.array([10.0])
        less = [float(_cut(s).geometry.faces(x, h).thickness[0]) for s in (begun, ground)]
        middle = float(np.interp(75.0, CENTRED.shown(begun).x, ground.right[0]))
        self.assertAlmostEqual(less[0] - less[1], middle, 2)

    def test_it_begins_with_something_to_grind(self) -> None:
        """Left LEFT mm thick its lines begin under the band on one side at the least, and can be brought into it."""
        self.assertGreater(LEFT, 0)
        band = Band.of(AIM, _planned().geometry)
        low = [min(float(np.min(v[3:30])) for v in lines_of(_cut(CENTRED.begin(s))).values()) for s in range(20)]
        self.assertGreater(sum(v < band.low for v in low), 15)

    def test_a_line_just_out_by_less_than_it_can_be_read_to_counts(self) -> None:
        begun = CENTRED.expert(CENTRED.begin(2))
        band, lines = Band.of(Aim(school="bold"), _planned().geometry), lines_of(_cut(begun))
        judged = band.judged(np.array(CENTRED.shown(begun).x))
        low = np.minimum(lines["right"], lines["left"])[judged]
        within = in_band(begun)
        self.assertEqual(within, float(np.mean(low >= band.low - READ)))
        self.assertLess(float(np.mean(low >= band.low)), within, "some lie between the band and what is read")

    def test_steel_beyond_the_experts_costs_by_its_thickness(self) -> None:
        expert = CENTRED.expert(CENTRED.begin(2))
        self.assertGreater(SPARED, 0.05)
        steel = {p[0]: p[2] for p in CENTRED.result(expert).parts}["steel left"]
        self.assertAlmostEqual(steel, 20 * in_band(expert), 6)


class FaceSecondTests(SimpleTestCase):
    def named(self, seed: int, wrong: int) -> list[dict[str, Any]]:
        begun = FACE.begin(seed)
        others = [k for k in begun.choices if k != begun.family][:wrong]
        return [{"do": "name", "family": k} for k in (*others, begun.family)]

    def test_each_wrong_name_costs_a_third_of_it(self) -> None:
        for wrong in range(CHOICES):
            begun = FACE.begin(8)
            tried = [{"do": "try", "values": dict(begun.values)}, {"do": "done"}]
            parts = FACE.result(FACE.replayed(8, [*self.named(8, wrong), *tried])).parts
            self.assertAlmostEqual(parts[0][2], 40 * (1 - wrong / 3), 9)

    def test_a_number_a_third_of_its_range_away_is_worth_nothing(self) -> None:
        begun = FACE.begin(8)
        for share, wanted in ((0.0, 1.0), (1 / 6, 0.5), (0.4, 0.0)):
            values = {}
            for n in numbers_of(begun.family):
                way = 1 if begun.values[n.key] < (n.low + n.high) / 2 else -1
                values[n.key] = begun.values[n.key] + way * share * (n.high - n.low)
            state = FACE.replayed(8, [*self.named(8, 0), {"do": "try", "values": values}])
            self.assertAlmostEqual(FACE.near(state), wanted, delta=0.12)

    def test_the_fifth_try_is_the_first_that_costs(self) -> None:
        begun = FACE.begin(8)
        one = {"do": "try", "values": dict(begun.values)}
        few = []
        for tries in (1, FREE_TRIES, FREE_TRIES + 1, 2 * FREE_TRIES):
            few.append(FACE.result(FACE.replayed(8, [*self.named(8, 0), *[one] * tries, {"do": "done"}])).parts[3][2])
        self.assertEqual(few[:2], [10.0, 10.0])
        self.assertAlmostEqual(few[2], 8.0, 9)
        self.assertAlmostEqual(few[3], 5.0, 9)

    def test_every_family_comes_up_and_every_choice_is_there(self) -> None:
        found = [FACE.begin(s) for s in range(300)]
        self.assertEqual({f.family for f in found}, set(FAMILIES))
        self.assertTrue(all(f.family in f.choices and len(set(f.choices)) == CHOICES for f in found))


class FaultSecondTests(SimpleTestCase):
    def test_the_best_way_is_the_inferences_own_step_by_step(self) -> None:
        for seed in range(10):
            state, answers = FAULT.begin(seed), {}
            for move in FAULT.best(state):
                found = find(state.seen, state.figures, answers)
                if found.look is None or found.suspects[0].odds >= SURE:
                    break
                self.assertTrue(move.says.startswith(found.look.ask), f"{seed}: {move.says}")
                answers[found.look.cause] = state.signs[found.look.cause]

    def test_quickness_is_against_the_best(self) -> None:
        """All looks taken before it is named: 50 points of (best + 5) / (yours + 5)."""
        state = FAULT.begin(7)
        causes = list(knowledge().seen[state.seen].causes)
        ended = FAULT.replayed(7, [*({"do": "look", "cause": c} for c in causes), {"do": "name", "cause": state.cause}])
        best = sum(m.minutes for m in FAULT.best(state))
        yours = sum(knowledge().causes[c].sign.minutes for c in causes)
        self.assertAlmostEqual(FAULT.result(ended).parts[1][2], 50 * min(1.0, (best + 5) / (yours + 5)), 6)
        self.assertEqual(WRONG_COSTS, 30.0)


class PointsTests(SimpleTestCase):
    def test_a_hundredth_and_a_twentieth_both_ways(self) -> None:
        asked = Asked("pins", "pitch", (), 40.0)
        for off, wanted in ((0.0, 1.0), (RIGHT, 1.0), (RIGHT * 1.02, 0.5), (NEAR * 0.99, 0.5), (NEAR * 1.01, 0.0)):
            for way in (1, -1):
                self.assertEqual(points(asked, 40.0 * (1 + way * off)), wanted, off)
