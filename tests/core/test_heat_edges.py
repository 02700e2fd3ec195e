"""What could hurt someone or waste steel: copper, soft quenches, skins, words of caution, pairings at their edges."""

from itertools import combinations, pairwise

import numpy as np
from django.test import SimpleTestCase

from tests.core.plans import STEELS, found, plan, step
from tests.core.samples import own
from varistrat.core.design.document import read_document
from varistrat.core.design.worked import Worked
from varistrat.core.errors import InputError
from varistrat.core.heat.fires import skin
from varistrat.core.heat.fires.fire import Fire, work_the_fire
from varistrat.core.heat.hardening.edge import edge_to_leave, skin_of_heats, too_thin
from varistrat.core.heat.segment import Segment
from varistrat.core.kiln.program import Program, checks
from varistrat.core.laws import hardenability, hardness
from varistrat.core.laws.column import Column
from varistrat.core.pairing.pairing import Pairing
from varistrat.core.shop import ShopData
from varistrat.core.starters import design, of_steels
from varistrat.core.steels.ceiling import ceiling, too_hot
from varistrat.core.steels.estimate import from_coupons, shop_steel


class CopperTests(SimpleTestCase):
    """1050 C is the end of everything that has copper in it; its eutectic with its oxide melts at 1066 C."""

    def test_it_is_the_lowest_limit_of_all_materials(self) -> None:
        self.assertEqual(ceiling([STEELS["x65cr13"], STEELS["copper"]]), 1050)
        for celsius, grade in ((1051.0, "stop"), (1070.0, "stop"), (1090.0, "stop"), (1050.0, None), (1000.0, None)):
            got = too_hot(celsius, [STEELS["copper"], STEELS["x65cr13"]])
            self.assertEqual(got and got.grade, grade, celsius)

    def test_a_stainless_core_with_copper_is_not_sent_to_its_own_heat(self) -> None:
        for materials in (("copper",), ()):
            carbon = {"x65cr13": 0.67} if materials else {"x65cr13": 0.67, "copper": 0.0}
            w = plan(carbon, at=("x65cr13",), materials=materials)
            self.assertLessEqual(w.heat, 1050)
            asked = plan(carbon, at=("x65cr13",), materials=materials, celsius=1080.0)
            self.assertEqual(found(asked).get("copper_melts"), "stop")
        hot = STEELS["x65cr13"].model_copy(update={"key": "hot", "austenitise": (1060.0, 1080.0)})
        w = plan({"hot": 0.67, "copper": 0.0}, at=("hot",), shop=ShopData({"hot": hot}))
        self.assertEqual(found(w).get("no_window"), "stop")
        self.assertLessEqual(w.heat, 1050)
        p = Pairing.of([hot, STEELS["copper"]], use="clad")
        self.assertEqual(next(r.grade for r in p.reasons if r.aspect == "harden"), "stop")
        self.assertLessEqual(p.heat, 1050)

    def test_the_kiln_stops(self) -> None:
        program = Program(name="hot", segments=[Segment(celsius=1070, minutes=10)])
        self.assertEqual([(f.code, f.grade) for f in checks(program, ["x65cr13", "copper"])], [("copper_melts", "stop")])
        self.assertEqual(checks(program, ["x65cr13"]), [])

    def test_fires_bond_it_at_its_own_heat(self) -> None:
        worked = Worked.of(read_document(of_steels(["copper", "1084"]).document()))
        for celsius, codes in ((960.0, set()), (1060.0, {"copper_melts"}), (800.0, {"weld_cold"}), (1045.0, {"weld_hot"})):
            out = work_the_fire(Fire(weld=celsius), worked.forged)
            weld = next(f for f in out.fired if f.kind == "weld")
            self.assertEqual({x.code for x in weld.findings if x.field == "celsius"}, codes, celsius)

    def test_its_load_counts_copper_off_the_line(self) -> None:
        start = {"kind": "canister", "length": 60.0, "width": 40.0, "thickness": 40.0, "matrix": {"steel": "powder1084", "packing": 0.6}}
        inserts = [{"shape": "rod", "steel": k, "size": 4.0, "positions": [[x, 0.0]]} for k, x in (("15n20", -8.0), ("copper", 8.0))]
        try:
            document = read_document(design({**start, "inserts": inserts}, [], None))
        except InputError as e:
            self.fail(str(e))
        self.assertIn("copper", [s.key for s in Worked.of(document).hardening.materials])


class QuenchTests(SimpleTestCase):
    def test_air_makes_pearlite_of_plain_steel(self) -> None:
        w = plan({"1084": 0.84}, quench="air")
        back = w.parts[0].middle
        assert back and back.hrc and w.expected
        # 4 mm of 1084 in still air: about 31 HRC
        self.assertAlmostEqual(back.hrc, 31, delta=2)
        self.assertLess(w.expected[0], 45)
        self.assertEqual(found(w)["too_slow"], "stop")
        self.assertIn("A file bites", step(w, "test").do)

    def test_the_shallower_steel_gets_the_harder_word(self) -> None:
        for key in ("w1", "1095"):
            for bath in ("air", "slow_oil"):
                w = plan({key: STEELS[key].share("C")}, spine=6.0, quench=bath)
                back = w.parts[0].middle
                assert back and back.hrc is not None
                self.assertLess(back.hrc, 45, (key, bath))
                self.assertIn(found(w).get("too_slow"), ("stop", "care"), (key, bath))
        order = {"note": 0, "care": 1, "stop": 2, None: -1}
        for bath in ("fast_oil", "medium_oil", "slow_oil", "air"):
            grades = [order[found(plan({k: STEELS[k].share("C")}, quench=bath)).get("too_slow")] for k in ("15n20", "1084", "1095", "w1")]
            self.assertEqual(grades, sorted(grades), bath)

    def test_edge_and_back_are_told_apart(self) -> None:
        w = plan({"w1": 1.0}, spine=6.0)
        edge, back = w.parts[0].quenched, w.parts[0].middle
        assert edge and back and edge.hrc and back.hrc
        self.assertGreater(edge.hrc, 63)
        self.assertLess(back.hrc, edge.hrc - 5)
        self.assertGreater(back.sure, 5)
        self.assertIn("At the spine, 6.0 mm", step(w, "test").do)

    def test_share_of_martensite_by_hand(self) -> None:
        # a plate that is half martensite by the ideal diameter's own definition, and 2^-(0.65^10) = 0.991 at FULL of it
        d, h = 30.0, 0.8
        half = hardenability.plate_half(d, h)
        self.assertAlmostEqual(hardenability.martensite_share(d, half, h), 0.5, delta=0.005)
        equal = hardenability.equivalent_diameter(half, h)
        self.assertAlmostEqual(equal, d, delta=0.05)
        thick = np.linspace(0.3, 12, 60)
        share = [hardenability.martensite_share(d, float(t), h) for t in thick]
        self.assertEqual(share, sorted(share, reverse=True))
        # H 0.02, 4 mm: lumped, half way cold after rho c s ln2 / 2h; h = 2 k H = 44 W/m2K, c of the same diffusivity
        rate = hardenability.cooling_rate(4.0, 0.02)
        k = 28.0
        by_hand = 680 * 2 * (2 * k * 0.02 / 0.0254) / (k / 6e-6 * 4e-3)
        self.assertAlmostEqual(rate, by_hand, delta=0.12 * by_hand)

    def test_pearlite_by_hand(self) -> None:
        # Maynier, 0.45 C 0.22 Si 0.7 Mn at 1 K/s: 42 + 100.35 + 11.66 + 21 + (10 - 4.18) 3.556 = 195.7 HV
        got = hardness.pearlite({"Si": 0.22, "Mn": 0.7}, 0.45, 1.0)
        self.assertAlmostEqual(hardness.hv(got), 195.7, delta=0.5)
        self.assertAlmostEqual(hardness.pearlite({"Si": 0.22, "Mn": 0.7}, 0.8, 10.0), 34, delta=0.01)
        for a, b in pairwise(np.geomspace(0.01, 1000, 40)):
            self.assertLess(hardness.pearlite({"Mn": 0.7}, 0.8, float(a)), hardness.pearlite({"Mn": 0.7}, 0.8, float(b)))

    def test_the_tempered_figure_is_no_surer_than_the_quench(self) -> None:
        mine = shop_steel("spring", {"composition": from_coupons("many", 62.0, "hard", "dark")[0]})
        w = plan({"spring": mine.share("C")}, shop=ShopData({"spring": mine}))
        assert w.expected
        self.assertGreaterEqual(w.sure, w.expected[1])
        self.assertGreaterEqual(w.expected[1], 3)
        for key, steel in STEELS.items():
            if steel.hardens != "no":
                w = plan({key: steel.share("C")})
                self.assertGreaterEqual(w.sure, w.expected[1] if w.expected else 0, key)


class PairingEdgesTests(SimpleTestCase):
    def test_a_clad_need_not_harden(self) -> None:
        p = Pairing.of([STEELS["420"], STEELS["1095"]], use="clad")
        self.assertNotEqual(p.verdict, "no")
        self.assertTrue(775 <= p.heat <= 805, p.heat)

    def test_a_verdict_does_not_turn_on_less_than_its_figures_width(self) -> None:
        p = Pairing.of([STEELS["wrought"], STEELS["1095"]], use="clad")
        self.assertNotEqual(p.verdict, "no")
        self.assertEqual(next(r.grade for r in p.reasons if r.aspect == "weld"), "care")

    def test_the_heat_always_suits_the_one_it_goes_by(self) -> None:
        hardening = [s for s in STEELS.values() if s.hardening]
        for a, b in combinations(hardening, 2):
            p = Pairing.of([a, b])
            suits = [p.range_of(i)[0] <= p.heat <= p.range_of(i)[1] for i in p.asked]
            self.assertTrue(any(suits), (a.key, b.key, p.heat))

    def test_pairing_and_plan_take_one_bath(self) -> None:
        for a, b in combinations([s for s in STEELS.values() if s.hardening and s.share("Cr") < 4], 2):
            p = Pairing.of([a, b])
            self.assertEqual(p.quench, plan({a.key: a.share("C"), b.key: b.share("C")}).quench)

    def test_brine_is_named(self) -> None:
        for steel in STEELS.values():
            if not steel.hardening:
                continue
            p = Pairing.of([steel, STEELS["1018"]], use="clad", thickness=4.0)
            r = next(r for r in p.reasons if r.aspect == "quench")
            if "hardens all" in r.what and r.value is not None and p.quench:
                self.assertLessEqual(r.value, hardenability.severity_of(p.quench) * 1.001, steel.key)


class SkinTests(SimpleTestCase):
    def test_a_thin_edge_is_not_quenched(self) -> None:
        self.assertEqual(too_thin(0.2, "fast_oil", 200, 4), "stop")
        self.assertEqual(too_thin(0.2, "medium_oil", 200, 4), "stop")
        self.assertEqual(too_thin(0.6, "fast_oil", 200, 4), "care")
        self.assertIsNone(too_thin(0.8, "fast_oil", 200, 4))
        self.assertEqual(edge_to_leave("fast_oil", 300, 2.5), (1.1, 1.5))
        self.assertEqual(found(plan({"1084": 0.8}, edge=0.2))["edge_cracks"], "stop")

    def test_the_skin_of_the_last_heats_is_counted(self) -> None:
        lost, deep = skin_of_heats([(805.0, 13.0)], 0.84, "air")
        self.assertTrue(0.05 < deep < 0.25 and 0 < lost < 0.05)
        both = skin_of_heats([(870.0, 8.0), (840.0, 8.0), (800.0, 8.0), (805.0, 13.0)], 0.84, "air")
        self.assertGreater(both[1], deep)
        w = plan({"1084": 0.8})
        self.assertIn("soft skin", step(w, "ready").do)
        self.assertEqual(found(plan({"1084": 0.8}, edge=0.4))["skin_at_edge"], "care")
        self.assertNotIn("skin_at_edge", found(plan({"1084": 0.8}, edge=0.4, guarded="foil")))
        self.assertNotIn("soft skin", step(plan({"1084": 0.8}, guarded="foil"), "ready").do)

    def test_the_shops_own_skin_reaches_the_carbon_that_is_drawn(self) -> None:
        column = Column.of([("1084", 6.0)], [0.84], [1.0], cells=400)
        depth = []
        for factor in (1.0, 1.6):
            mine = own(decarb=factor)
            eaten = skin.scale_loss(1050, 20, "rich", numbers=mine)
            now = column.heated(1050, 20, open_bottom=eaten, open_top=eaten, deeper=skin.depth_factor(1050, mine))
            reach = float(np.interp(0.9 * 0.84, now.carbon[:200], now.middles[:200]))
            self.assertAlmostEqual(reach, skin.decarb_depth(1050, 20, 0.84, "rich", numbers=mine), delta=0.12 * reach)
            depth.append(reach)
        self.assertAlmostEqual(depth[1] / depth[0], 1.6, delta=0.16)


class WordsTests(SimpleTestCase):
    def test_cold_burns(self) -> None:
        self.assertIn("burn the skin", step(plan({"x65cr13": 0.67}), "cold").caution)

    def test_what_the_temper_does_to_austenite_fits_the_temper(self) -> None:
        cool = plan({"125cr1": 1.25}, wanted=64.0, celsius=820.0)
        warm = plan({"125cr1": 1.25}, wanted=59.0, celsius=820.0)
        assert cool.temper and warm.temper
        self.assertLess(cool.temper, 205)
        self.assertIn("it stays", step(cool, "cold").why)
        self.assertGreater(warm.temper, 205)
        self.assertIn("turns in the second temper", step(warm, "cold").why)

    def test_softening_stays_under_the_first_to_transform(self) -> None:
        for carbon in ({"52100": 1.0, "15n20": 0.76}, {"1084": 0.8, "l6": 0.7}, {"80crv2": 0.8, "15n20": 0.75}):
            w = plan(carbon)
            celsius = step(w, "anneal").program[0].celsius
            from varistrat.core.laws.transform import ac1

            self.assertLess(celsius, min(ac1(STEELS[k].composition) for k in carbon) - 10)
