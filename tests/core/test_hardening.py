"""The hardening plan: windows, quench and temper of known steels; what readings change; what is warned of."""

from math import log10
from typing import Any

from django.test import SimpleTestCase

from varistrat.core.cutting.edge import EdgeSteel
from varistrat.core.design.document import read_document
from varistrat.core.design.worked import Worked
from varistrat.core.errors import InputError
from varistrat.core.heat.hardening.hardening import BladeHardening as Plan
from varistrat.core.heat.hardening.hardening import Hardened, Hardening, Tempered, of_design
from varistrat.core.heat.hardening.plan import hardening_plan
from varistrat.core.heat.hardening.plan.step import PlanStep
from varistrat.core.laws.temper import parameter, together
from varistrat.core.shop import AS_SHIPS, ShopData
from varistrat.core.starters import STARTERS


def plan(
    carbon: dict[str, float] | None = None, edge: tuple[str, ...] | None = None, spine: float = 4.0, shop: ShopData = AS_SHIPS, **said: Any
) -> Plan:
    found = carbon or {"1084": 0.80, "15n20": 0.76}
    return of_design(Hardening(**said), found, edge or tuple(found), spine, 200.0, 35.0, 180.0, shop=shop)


def step(w: Plan, key: str) -> PlanStep:
    return next(s for s in hardening_plan(w) if s.key == key)


def codes(w: Plan) -> list[str]:
    return [f.code for s in hardening_plan(w) for f in s.findings]


class PlanTests(SimpleTestCase):
    def test_the_usual_pair(self) -> None:
        w = plan()
        self.assertEqual((w.window, w.heat, w.soak, w.quench, w.lead), ((795, 820), 805, 8, "fast_oil", "1084"))
        # the table: 61 HRC at 200, 59.5 at 225
        assert w.temper and w.expected
        self.assertAlmostEqual(w.temper, 206, delta=5)
        self.assertAlmostEqual(w.hrc_after("1084", w.temper) or 0, 60, delta=0.01)
        self.assertAlmostEqual(w.expected[0], 65.5, delta=1)
        self.assertEqual([s.key for s in hardening_plan(w)][:5], ["normalise", "anneal", "ready", "heat", "quench"])
        self.assertEqual(codes(w), [])

    def test_both_schools(self) -> None:
        self.assertIn("magnet", step(plan(school="magnet"), "heat").do)
        self.assertIn("full cherry", step(plan(school="magnet"), "heat").do)
        self.assertIn("Kiln at 805 C", step(plan(), "heat").do)
        self.assertIn("soak_by_eye", codes(plan({"52100": 1.0}, school="magnet")))

    def test_cascades(self) -> None:
        self.assertIn("870 C, then 840 C, then 800 C", step(plan(), "normalise").do)
        self.assertIn("890 C", step(plan({"1095": 0.93}), "normalise").do)
        self.assertIn("935 C", step(plan({"52100": 1.0, "15n20": 0.75}), "normalise").do)
        self.assertIn("Leave it out", step(plan({"x65cr13": 0.67}), "normalise").do)

    def test_what_does_not_harden_has_no_plan(self) -> None:
        for key, c in (("iron", 0.02), ("nickel", 0.1), ("304", 0.3), ("copper", 0.0)):
            self.assertEqual(hardening_plan(plan({key: c})), [])
        # mild steel that took up carbon does
        self.assertTrue(plan({"1018": 0.55, "1084": 0.55}).parts[0].hardens)

    def test_no_common_window_goes_by_the_edge(self) -> None:
        w = plan({"5160": 0.7, "1095": 0.8}, edge=("1095", "5160"))
        self.assertIsNone(w.window)
        self.assertTrue(775 <= w.heat <= 805)
        self.assertIn("no_window", codes(w))
        # a clad need not harden: the edge alone decides, and nothing is wrong with it
        clad = plan({"5160": 0.7, "1095": 0.8}, edge=("1095",))
        self.assertEqual(clad.window, (775, 805))
        self.assertNotIn("no_window", codes(clad))

    def test_heats_that_fail(self) -> None:
        self.assertIn("not_hot_enough", codes(plan(celsius=700.0)))
        self.assertIn("overheated", codes(plan(celsius=900.0)))
        self.assertIn("melts", [f.code for s in hardening_plan(plan({"125cr1": 1.2}, celsius=1295.0)) for f in s.findings])
        self.assertIn("plate", codes(plan({"125cr1": 1.25}, celsius=860.0)))

    def test_quench_against_steel_and_edge(self) -> None:
        self.assertIn("too_slow", codes(plan(quench="air")))
        self.assertIn("too_fast", codes(plan({"o1": 0.93}, quench="water")))
        cracks = [
            f
            for s in hardening_plan(of_design(Hardening(quench="water", edge=0.5), {"w1": 1.0}, ("w1",), 4, 200, 35, 180))
            for f in s.findings
        ]
        self.assertIn(("edge_cracks", "stop"), [(f.code, f.grade) for f in cracks])
        self.assertEqual(step(plan(bevels="after"), "ready").findings, ())

    def test_cold_only_when_asked_for(self) -> None:
        self.assertFalse(plan().cold)
        stainless = plan({"x65cr13": 0.67})
        self.assertTrue(stainless.cold)
        self.assertIn("-75 C", step(stainless, "cold").do)
        self.assertLess(stainless.parts[0].quenched.retained[1], 0.1)  # type: ignore[union-attr]
        self.assertFalse(plan({"x65cr13": 0.67}, cold="no").cold)

    def test_a_wish_out_of_reach(self) -> None:
        self.assertIn("out_of_reach", codes(plan(wanted=66.0)))
        self.assertIn("brittle_range", codes(plan(wanted=55.0)))

    def test_back_and_clamp(self) -> None:
        self.assertIn("blue", step(plan(back="soft"), "back").do)
        self.assertNotIn("clamp", [s.key for s in hardening_plan(plan())])
        w = plan(hardened=Hardened(bow=2.0))
        self.assertIn("2.0 mm", step(w, "clamp").do)
        self.assertIn("For the second temper", step(w, "clamp").do)
        after = plan(hardened=Hardened(bow=2.0), tempered=[Tempered(celsius=205), Tempered(celsius=210, hours=1)])
        self.assertIn("one more hour, the oven at 210 C", step(after, "clamp").do)
        # over-bent by 2 (1 / 0.8 - 1) = 0.5 mm
        own = ShopData(figures={"relax": 0.8})
        self.assertIn("0.5 mm", step(plan(hardened=Hardened(bow=2.0), shop=own), "clamp").do)
        self.assertIn("clamp_breaks", codes(plan(hardened=Hardened(bow=15.0), spine=6.0)))

    def test_every_ready_start_has_a_plan_without_stops(self) -> None:
        for key, starter in STARTERS.items():
            steps = hardening_plan(Worked.of(read_document(starter.document())).hardening)
            self.assertGreater(len(steps), 5, key)
            self.assertNotIn("stop", [f.grade for s in steps for f in s.findings], key)
            self.assertTrue(all("nan" not in s.do and s.title for s in steps))


class EdgeTests(SimpleTestCase):
    def test_a_sliver_of_the_edge_has_no_say(self) -> None:
        """Of 100 stations 3 of another steel are 3 % of the edge, 5 are 5 %: the bound is 4."""
        worked = Worked.of(read_document(STARTERS["blank"].document()))
        for few, says in ((3, ("1084",)), (5, ("1084", "15n20"))):
            worked.__dict__["edge"] = [EdgeSteel(float(x), "15n20" if x < few else "1084", 0.4, 0.4) for x in range(100)]
            worked.__dict__.pop("at_edge", None)
            self.assertEqual(tuple(sorted(worked.at_edge)), says)


class ReadingTests(SimpleTestCase):
    def test_a_soft_reading_asks_for_its_cause(self) -> None:
        self.assertIn("soft_quenched", codes(plan(hardened=Hardened(hrc=[58.0, 57.0, 58.5]))))
        self.assertIn("uneven", codes(plan(hardened=Hardened(hrc=[66.0, 58.0]))))
        self.assertIn("hard_reading", codes(plan(hardened=Hardened(hrc=[69.5, 69.5]))))
        self.assertIn("file_bites", codes(plan(hardened=Hardened(file="bites"))))
        self.assertEqual(codes(plan(hardened=Hardened(hrc=[65.0, 66.0], file="skates"))), [])

    def test_readings_and_law_are_weighed_by_their_squares(self) -> None:
        # one reading 2 HRC under: 2 x 1.5^2 / (1.5^2 + 1) = 1.385
        expected, usual = plan().expected, plan().temper
        assert expected and usual
        w = plan(hardened=Hardened(hrc=[expected[0] - 2]))
        self.assertAlmostEqual(w.shift, -2 * 2.25 / 3.25, delta=1e-6)
        assert w.temper
        # softer than thought: tempered cooler, by about 1.385 / 3.23 of the parameter
        self.assertAlmostEqual(usual - w.temper, 1.385 / 3.23 * 1000 / 20.3, delta=1)
        self.assertLess(w.sure, plan().sure)

    def test_the_newest_readings_count(self) -> None:
        law = plan().parts[0].quenched.law  # type: ignore[union-attr]
        done = Tempered(celsius=180, hours=2, hrc=[law.hrc(180) + 1.0] * 3)
        w = plan(hardened=Hardened(hrc=[60.0]), tempered=[done])
        self.assertAlmostEqual(w.shift, 2.25 / (2.25 + 1 / 3), delta=1e-6)
        self.assertAlmostEqual(w.now or 0, law.hrc(180) + w.shift, delta=1e-6)

    def test_tempers_add_up(self) -> None:
        # one after another at one heat: the hours add
        self.assertAlmostEqual(together([(200, 1), (200, 1)]) or 0, parameter(200, 2), delta=1e-9)
        # 473.15 (20 + log 2) / 1000 = 9.6054; at 503.15 K as much as 10^(19.0906 - 20) = 0.1232 h: 1.1232 h in all
        self.assertAlmostEqual(together([(200, 2), (230, 1)]) or 0, 503.15 * (20 + log10(1.1232)) / 1000, delta=2e-4)
        self.assertIsNone(together([]))

    def test_still_too_hard_is_tempered_again(self) -> None:
        w = plan(tempered=[Tempered(celsius=170, hours=2)])
        assert w.now and w.temper
        self.assertGreater(w.now, 61)
        self.assertGreater(w.temper, 195)
        again = step(w, "temper")
        self.assertEqual((again.title, again.done, w.hours), ("Temper again", False, 1.0))
        self.assertEqual([g.minutes for g in again.program], [60])
        # done as it says, it is where it should be
        then = plan(tempered=[Tempered(celsius=170, hours=2), Tempered(celsius=round(w.temper), hours=1)])
        self.assertAlmostEqual(then.now or 0, 60, delta=0.1)
        self.assertEqual((step(then, "temper").title, step(then, "temper").done, step(then, "temper").program), ("Tempered", True, ()))

    def test_one_hour_wants_another_and_too_soft_cannot_be_mended(self) -> None:
        first = step(plan(tempered=[Tempered(celsius=215, hours=1)]), "temper")
        self.assertEqual((first.title, [(g.celsius, g.minutes) for g in first.program]), ("Temper again", [(215, 60)]))
        soft = plan(tempered=[Tempered(celsius=260, hours=2, hrc=[56.0, 56.5])])
        self.assertIn("tempered_soft", codes(soft))
        self.assertIsNone(soft.temper)

    def test_run_colours_say_what_the_oven_really_does(self) -> None:
        w = plan(tempered=[Tempered(celsius=180, hours=0.5, colour=205)])
        self.assertEqual(w.oven, 25)
        assert w.temper
        self.assertIn(f"oven at {5 * round((w.temper - 25) / 5):.0f} C", step(w, "temper").do)
        self.assertEqual(plan(shop=ShopData(figures={"oven_off": -10.0})).oven, -10)

    def test_how_thick_it_hardens_through(self) -> None:
        # DI 29 mm (grain 8): half martensite to about 6.6 mm in fast oil (H 0.8), all of it to 0.65 of that
        part = next(p for p in plan().parts if p.steel.key == "1084")
        assert part.quenched
        self.assertAlmostEqual(part.quenched.through("fast_oil"), 0.65 * 6.6, delta=0.4)
        self.assertIn("Hardens through in fast oil: 1084 4.", step(plan(), "quench").why)
        faster = ShopData(figures={"severity_fast_oil": 1.6})
        there = next(p for p in plan(shop=faster).parts if p.steel.key == "1084")
        assert there.quenched
        self.assertGreater(there.quenched.through("fast_oil"), 6)
        self.assertEqual(plan({"w2": 1.0}, spine=3.0, shop=faster).parts[0].middle.quench, "fast_oil")  # type: ignore[union-attr]
        self.assertEqual(plan({"w2": 1.0}, spine=3.0).parts[0].middle.quench, "water")  # type: ignore[union-attr]
        self.assertIn("at any thickness here", step(plan({"x65cr13": 0.67}), "quench").why)

    def test_readings_out_of_range_are_refused(self) -> None:
        base = STARTERS["bold_twist"].document()
        for said in (
            {"hardened": {"hrc": [99.0]}},
            {"hardened": {"hrc": [5.0]}},
            {"hardened": {"file": "sings"}},
            {"hardened": {"bow": -1.0}},
            {"wanted": 80.0},
            {"tempered": [{"celsius": 2000.0}]},
            {"celsius": 5000.0},
            {"quench": "milk"},
        ):
            with self.assertRaises(InputError, msg=str(said)):
                read_document({**base, "hardening": said})
