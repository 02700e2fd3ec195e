"""Straightening: which side up, how far past straight, and while it can still be bent; normalising out of the kiln."""

from django.test import SimpleTestCase

from tests.core.plans import STEELS, plan, step
from tests.core.samples import own
from varistrat.core.heat.hardening.hardening import Hardened
from varistrat.core.heat.hardening.plan.soften import BLACK
from varistrat.core.heat.hardening.straighten import Straightness, StraightPlace, bend, moves, window
from varistrat.core.heat.segment import Segment
from varistrat.core.kiln.controller import SimulatedController
from varistrat.core.kiln.plant import Load
from varistrat.core.kiln.program import Program, checks, read_program, write_program


class StraightenTests(SimpleTestCase):
    def test_the_hollow_side_lies_up_on_a_shim(self) -> None:
        w = plan({"1084": 0.8, "15n20": 0.76}, hardened=Hardened(bow=2.0, hollow="left"))
        do = step(w, "clamp").do
        self.assertIn("hollow side (left) up, a shim of 2.0 mm under the bulge", do)
        self.assertNotIn("down, a shim", do)

    def test_sides_of_a_bow_from_places(self) -> None:
        # the middle line lies 1.5 mm towards the left of a straight edge: it bulges left, the right face is hollow
        read = Straightness(places=[StraightPlace(x=0), StraightPlace(x=90, bow=1.5), StraightPlace(x=200)])
        got = moves(read, "clamp", 200, 4, 35)
        self.assertEqual([(m.way, m.at, m.up, m.supports) for m in got], [("bow", 90, "right", (0, 200))])
        other = Straightness(places=[StraightPlace(x=50, bow=-1.0), StraightPlace(x=120, bow=0.8, edgewise=0.6, twist=4.0)])
        ways = {m.way: m for m in moves(other, "soft", 200, 4, 35)}
        self.assertEqual((ways["bow"].up, ways["bow"].supports, ways["edgewise"].up), ("left", (0.0, 120), "edge"))
        self.assertEqual(ways["twist"].at, 120)
        self.assertEqual(moves(Straightness(), "soft", 200, 4, 35), [])

    def test_how_far_past_straight(self) -> None:
        # soft: what springs back is sigma L^2 / (6 E t) = 500 x 200^2 / (6 x 206000 x 4) = 4.05 mm
        self.assertAlmostEqual(bend("bow", 100, (0, 200), "left", 2.0, 4.0, "soft").over, 4.045, delta=0.01)
        self.assertAlmostEqual(bend("bow", 100, (0, 200), "left", 2.0, 4.0, "clamp", own(relax=0.8)).over, 0.5, delta=1e-9)
        grades = [bend("bow", 100, (0, 200), "left", s, 6.0, "clamp").grade for s in (2.0, 6.0, 15.0)]
        self.assertEqual(grades, ["note", "care", "stop"])

    def test_the_window_goes_by_what_has_turned(self) -> None:
        # f = 1 - exp(-0.013 (210 - T)): a tenth at 210 - 8.1, half at 210 - 53.3
        got = window(210.0, 0.013)
        self.assertAlmostEqual(got.easy, 201.9, delta=0.1)
        self.assertAlmostEqual(got.gently, 156.7, delta=0.1)
        self.assertIn("It bends easily down to", step(plan({"1084": 0.8}), "straighten").do)


class KilnOutTests(SimpleTestCase):
    def test_the_plans_own_normalising_refines_the_grain(self) -> None:
        for key in ("1084", "1095", "52100"):
            w = plan({key: STEELS[key].share("C")})
            program = Program(name="n", segments=list(step(w, "normalise").program))
            run = SimulatedController(program, Load.of(180, 4, 35, 200), 1215).after(24 * 3600)
            self.assertEqual(run.state, "done")
            coldest: dict[int, float] = {}
            for r in run.record:
                # the line written as a segment ends already bears the next one's number
                for k in (r.segment, r.segment - 1):
                    coldest[k] = min(coldest.get(k, 9e9), r.centre)
            for i, s in enumerate(program.segments):
                if s.out:
                    self.assertLess(coldest[i], 600, (key, i))
                    self.assertLess(coldest[i], BLACK + 20)
            hot = [max(r.centre for r in run.record if r.segment == i) for i, s in enumerate(program.segments) if not s.out]
            for got, s in zip(hot, [s for s in program.segments if not s.out], strict=True):
                self.assertAlmostEqual(got, s.celsius, delta=15)

    def test_it_goes_to_a_file_and_back(self) -> None:
        program = Program(name="n", segments=[Segment(celsius=870, minutes=8, through=True), Segment(celsius=480, out=True)])
        self.assertEqual(read_program(write_program(program), "n"), program)
        self.assertEqual(checks(program, ["1084"]), [])
        old = read_program("celsius,rate_C_h,hold_min,hot_through\n870,,8,yes\n", "n")
        self.assertFalse(old.segments[0].out)
