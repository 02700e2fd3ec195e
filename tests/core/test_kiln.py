"""The kiln: programs checked and exchanged, the controller's holds and alarms, the plant's heat, the small instruments."""

from dataclasses import replace

from django.test import SimpleTestCase

from varistrat.core.errors import InputError
from varistrat.core.heat.segment import Segment
from varistrat.core.instruments.simulated import HardnessTester, Thermocouple, file_says
from varistrat.core.kiln.controller import BAND, THROUGH, KilnController, SimulatedController
from varistrat.core.kiln.plant import ELEMENT, INNER, OUTER, OUTER_TO_AIR, POWER, Kiln, Load
from varistrat.core.kiln.program import Program, checks, planned, read_program, write_program
from varistrat.core.shop import ShopData

LOAD = Load.of(180, 4, 35, 200)


def program(*segments: tuple[float, float | None, float, bool]) -> Program:
    return Program(name="A heat", segments=[Segment(celsius=c, rate=r, minutes=m, through=t) for c, r, m, t in segments])


HARDEN = program((650, None, 10, True), (805, 300, 8, True))


def run(p: Program = HARDEN, hours: float = 0.0, load: Load = LOAD, limit: float = 1215.0) -> SimulatedController:
    return SimulatedController(p, load, limit).after(hours * 3600)


class ProgramTests(SimpleTestCase):
    def test_the_plan(self) -> None:
        # 630 C at 1500 an hour: 25.2 min; 155 at 300: 31 min
        self.assertEqual([round(m, 1) for m, _ in planned(HARDEN)], [0, 25.2, 35.2, 66.2, 74.2])

    def test_what_melts_is_stopped(self) -> None:
        hot = program((1150, None, 5, False))
        self.assertEqual([(f.code, f.grade) for f in checks(hot, ["copper", "1084"])], [("copper_melts", "stop")])
        self.assertEqual(checks(hot, ["1084"]), [])
        self.assertEqual(checks(program((1030, None, 5, False)), ["copper"]), [])
        self.assertEqual(
            [f.code for f in checks(program((1300, None, 5, False)), ["1095"]) if f.field.startswith("seg")], ["kiln_too_hot", "burns"]
        )
        self.assertEqual([f.code for f in checks(program((1300, None, 5, False)))], ["kiln_too_hot"])
        self.assertEqual(checks(program((1300, None, 5, False)), shop=ShopData(figures={"kiln_most": 1400.0})), [])
        self.assertEqual([f.code for f in checks(program((600, 5000, 5, False)))], ["kiln_lags"])
        self.assertEqual([f.code for f in checks(program((600, None, 5000, False)))], ["long"])

    def test_csv_out_and_in(self) -> None:
        self.assertEqual(read_program(write_program(HARDEN), "A heat"), HARDEN)
        short = read_program("celsius,hold_min\n205,60\n40,\n205,60\n")
        self.assertEqual([(s.celsius, s.rate, s.minutes) for s in short.segments], [(205, None, 60), (40, None, 0), (205, None, 60)])

    def test_csv_that_cannot_be(self) -> None:
        cases = {
            "": "line 1",
            "heat,time\n1,2\n": "line 1",
            "celsius,colour\n1,2\n": "line 1",
            "celsius\nhot\n": "line 2.celsius",
            "celsius\n9000\n": "line 2.celsius",
            "celsius,rate_C_h\n200,-5\n": "line 2.rate",
            "celsius,hot_through\n200,maybe\n": "line 2.hot_through",
            'celsius\n"200\n': "",
            "celsius\n200\n\n\nnan\n": "line 3.celsius",
            "celsius\n" + "200\n" * 41: "segments",
        }
        for text, path in cases.items():
            with self.assertRaises(InputError, msg=text) as caught:
                read_program(text)
            self.assertEqual(caught.exception.problems[0].path, path, text)


class PlantTests(SimpleTestCase):
    def test_heat_is_kept(self) -> None:
        # what goes in is what the lumps gain and what leaves, over ten minutes from cold; a load that takes none
        kiln, none = Kiln(), Load(1e-9, 1e-12, 1.0)
        lost = 0.0
        for _ in range(300):
            lost += 2 * (OUTER_TO_AIR * (kiln.outer - 20) + 0.5 * (kiln.inner - 20))
            kiln = kiln.after(2.0, 1.0, none)
        gained = ELEMENT * (kiln.element - 20) + INNER * (kiln.inner - 20) + OUTER * (kiln.outer - 20)
        self.assertAlmostEqual((gained + lost) / (POWER * 600), 1, delta=1e-6)

    def test_a_thin_blade_follows_and_a_thick_one_lags(self) -> None:
        hot = Kiln(inner=800.0, element=850.0, outer=400.0, sensor=800.0)
        thin, thick = hot, hot
        for _ in range(150):
            thin = replace(thin.after(2.0, 0.6, Load.of(100, 3, 30, 150)), inner=800.0)
            thick = replace(thick.after(2.0, 0.6, Load.of(3000, 40, 40, 250)), inner=800.0)
        self.assertGreater(thin.centre, 740)
        self.assertLess(thick.centre, 500)
        self.assertGreater(thick.skin, thick.centre)


class ControllerTests(SimpleTestCase):
    def test_a_whole_hardening(self) -> None:
        done = run(hours=6)
        self.assertEqual(done.state, "done")
        self.assertLess(max(r.chamber for r in done.record), 805 + 15)
        self.assertGreater(max(r.chamber for r in done.record), 805)  # it overshoots a little
        last = [r for r in done.record if r.segment == 1 and abs(r.wanted - 805) < 1e-6]
        self.assertTrue(all(abs(r.chamber - 805) < 12 for r in last))
        self.assertGreater(done.record[-1].centre, 805 - THROUGH)
        self.assertEqual([e.kind for e in done.events], ["segment", "done"])

    def test_the_hold_waits_for_the_load(self) -> None:
        heavy = Load.of(4000, 45, 45, 250)
        through = run(program((800, None, 2, True)), hours=10, load=heavy)
        plain = run(program((800, None, 2, False)), hours=10, load=heavy)
        self.assertEqual((through.state, plain.state), ("done", "done"))
        self.assertGreater(through.seconds, plain.seconds + 200)
        self.assertLess(plain.record[-1].centre, 800 - THROUGH)

    def test_ramps_are_kept(self) -> None:
        half = run(program((700, 200, 5, False)), hours=2)
        self.assertAlmostEqual(half.wanted, 20 + 400, delta=1)
        self.assertAlmostEqual(half.kiln.sensor, half.wanted, delta=BAND)

    def test_hold_resume_skip_stop(self) -> None:
        held = run(hours=0.3).hold()
        later = held.after(1800)
        self.assertEqual((later.state, later.segment, later.wanted), ("held", 0, held.wanted))
        self.assertEqual(later.resume().state, "running")
        self.assertEqual(later.skip().segment, 1)
        self.assertEqual(later.skip().skip().state, "done")
        stopped = later.stop()
        self.assertEqual((stopped.state, stopped.power, stopped.after(3600).seconds), ("stopped", 0.0, stopped.seconds))
        self.assertIs(stopped.resume(), stopped)
        driver: KilnController = stopped
        self.assertEqual(driver.read().power, 0.0)

    def test_a_failing_element_raises_an_alarm(self) -> None:
        sound = run(hours=0.4)
        failing = sound.with_fault(failed=True).after(3600)
        self.assertIn("lag", failing.raised)
        self.assertEqual([e.alarm for e in failing.events if e.kind == "alarm"], ["lag"])
        self.assertNotIn("lag", [e.alarm for e in run(hours=6).events])
        mended = failing.with_fault(failed=False).after(3600 * 2)
        self.assertEqual((mended.raised, mended.state), ((), "done"))

    def test_a_cascade_down_raises_no_alarm(self) -> None:
        done = run(program((870, None, 8, True), (840, None, 8, True), (800, None, 8, True)), hours=12)
        self.assertEqual((done.state, [e for e in done.events if e.kind == "alarm"]), ("done", []))

    def test_a_runaway_does(self) -> None:
        steady = run(program((500, None, 600, False)), hours=2)
        stuck = replace(steady, kiln=replace(steady.kiln, inner=540.0, sensor=530.0), over=60.0)
        self.assertIn("over", stuck._alarms().raised)

    def test_an_open_door_and_the_limit(self) -> None:
        opened = run(hours=0.5).with_fault(door=True)
        self.assertIn("door", opened.after(60).raised)
        self.assertLess(opened.after(600).kiln.sensor, run(hours=0.5).after(600).kiln.sensor)
        hot = run(program((900, None, 60, False)), limit=700.0, hours=3)
        self.assertEqual(hot.state, "stopped")
        self.assertIn("limit", [e.alarm for e in hot.events])

    def test_put_away_and_taken_up_it_goes_on_alike(self) -> None:
        straight = run(hours=1.2)
        half = run(hours=0.6)
        again = SimulatedController.taken_up(half.put_away()).after(0.6 * 3600)
        self.assertEqual((again.seconds, again.kiln, again.segment), (straight.seconds, straight.kiln, straight.segment))
        self.assertEqual(half.record + again.record, straight.record)

    def test_a_temper_cools_between(self) -> None:
        done = run(program((205, None, 60, False), (60, None, 0, False), (205, None, 60, False)), hours=20)
        self.assertEqual(done.state, "done")
        self.assertLess(min(r.chamber for r in done.record if r.seconds > 2 * 3600), 70)
        self.assertLess(max(r.chamber for r in done.record), 215)


class InstrumentTests(SimpleTestCase):
    def test_the_tester_reads_the_mean_of_fine_layers(self) -> None:
        read = HardnessTester(spread=0.5, seed=3).read([62.0, 58.0], [3.0, 1.0], 20)
        self.assertAlmostEqual(sum(read) / 20, 61.0, delta=0.4)
        self.assertTrue(all((2 * r).is_integer() for r in read))
        self.assertEqual(HardnessTester(seed=3).read([60.0], [1.0]), HardnessTester(seed=3).read([60.0], [1.0]))

    def test_files(self) -> None:
        self.assertEqual([file_says(h) for h in (64, 59, 50)], ["skates", "slips", "bites"])

    def test_a_thermocouple_on_the_blade(self) -> None:
        self.assertAlmostEqual(Thermocouple(off=2.0).read(800, 60), 802, delta=4)
        self.assertEqual(Thermocouple().read(800, 60), Thermocouple().read(800, 60))
