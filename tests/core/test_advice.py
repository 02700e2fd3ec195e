"""What is advised is judged by what comes out, agrees with itself, and can be done."""

from dataclasses import replace
from typing import Any

from django.test import SimpleTestCase

from tests.core.samples import STEELS
from tests.core.test_etch_depth import design as etched_design
from tests.core.test_hardening import codes, plan, step
from varistrat.core.design.document import read_document
from varistrat.core.design.worked import Worked
from varistrat.core.etch.bath import Bath
from varistrat.core.finish.cycles import DARK, etch_plan
from varistrat.core.finish.purpose import edge_angle, suggested_for
from varistrat.core.heat.fires.fired import Fired
from varistrat.core.heat.hardening.hardening import Hardening, of_design
from varistrat.core.pairing.pairing import Pairing
from varistrat.core.route.operation import Operation
from varistrat.core.route.route import route_of
from varistrat.core.starters import STARTERS
from varistrat.core.steels.hardening import BY_LAW, faster, quenched, short_of_full, takes


def worked(key: str, **more: Any) -> Worked:
    return Worked.of(read_document(STARTERS[key].document() | more))


def operations(w: Worked, *kinds: str) -> list[Operation]:
    return [o for o in route_of(w).operations if o.kind in kinds]


def fires(w: Worked) -> dict[str, Fired]:
    return {f.kind: f for f in w.fire.fired}


class ByWhatComesOutTests(SimpleTestCase):
    def test_a_steel_under_its_range_that_comes_to_its_hardness_is_not_called_soft(self) -> None:
        """1084 from 775 C, 20 under its range: 65.6 HRC, all of it martensite."""
        w = plan({"1084": 0.8}, celsius=770.0)
        assert w.expected
        self.assertGreater(w.expected[0], 65)
        self.assertEqual(codes(w), [])
        clad = plan({"1084": 0.8, "1095": 0.93}, edge=("1095",), celsius=770.0)
        self.assertFalse({"clad_soft", "clad_partly", "not_hot_enough"} & set(codes(clad)))

    def test_what_it_lacks_decides_and_is_told(self) -> None:
        own = STEELS["1084"].austenitise
        assert own
        self.assertAlmostEqual(short_of_full(STEELS["1084"], own, 800.0, 8, 0.8) or 0.0, 0.0, 2)
        self.assertGreater(short_of_full(STEELS["1084"], own, 740.0, 8, 0.8) or 0, BY_LAW)
        self.assertIsNone(short_of_full(STEELS["d2"], (1000.0, 1030.0), 820.0, 20, 1.5), "no law reaches it")
        (found,) = [f for f in step(plan({"1084": 0.8}, celsius=740.0), "heat").findings if f.code == "not_hot_enough"]
        self.assertEqual(found.grade, "stop")
        self.assertRegex(found.why, r"\d+ % of it is austenite. It comes out 1\d HRC softer than from its own range: about 50 HRC.")

    def test_a_clad_is_soft_only_where_it_is(self) -> None:
        soft = codes(plan({"x65cr13": 0.65, "1095": 0.93}, edge=("1095",), celsius=790.0))
        self.assertIn("clad_soft", soft)
        for celsius, code in ((745.0, "clad_soft"), (757.0, "clad_partly"), (790.0, "")):
            partly = plan({"1095": 0.93, "5160": 0.6}, edge=("1095",), celsius=celsius, quench="fast_oil")
            hrc = next(p.quenched.hrc for p in partly.parts if p.steel.key == "5160" and p.quenched)
            told = [c for c in codes(partly) if c.startswith("clad_")]
            self.assertEqual(told, [code] if code else [], (celsius, hrc))

    def test_a_shallow_steel_in_its_own_bath_is_told_its_depth(self) -> None:
        for key in ("w1", "c105"):
            own = plan({key: STEELS[key].share("C")}, quench="water")
            (found,) = step(own, "quench").findings
            self.assertEqual((found.code, found.grade), ("shallow", "note"), key)
            self.assertRegex(found.why, r"hardens through to \d\.\d mm in brine or water")
            slower = [f for f in step(plan({key: STEELS[key].share("C")}, quench="fast_oil"), "quench").findings if f.code == "too_slow"]
            self.assertRegex(slower[0].do, r"^Brine or water hardens it to \d\.\d mm")

    def test_no_faster_quench_is_asked_for_where_there_is_none(self) -> None:
        q = quenched(STEELS["1045"], 840.0, 10, 12.0, bath="water")
        self.assertEqual(takes(q, "water", "water"), "no")
        self.assertNotIn("faster quench", faster(q, "water").lower())
        self.assertTrue(faster(q, "water").startswith("No bath is faster"))

    def test_pairing_and_plan_take_the_same_view_of_the_edge(self) -> None:
        for keys in (("w1", "15n20"), ("1095", "15n20"), ("1084", "15n20"), ("c105", "l6")):
            pair = Pairing.of([STEELS[k] for k in keys], use="edge", thickness=4.0)
            told = next(r for r in pair.reasons if r.aspect == "quench")
            w = plan(
                {STEELS[k].key: c for k, c in zip(keys, pair.carbons, strict=True)}, quench=pair.quench, celsius=pair.heat, soak=pair.soak
            )
            worst = max(
                (f.grade for f in step(w, "quench").findings if f.code == "too_slow"), default="note", key=("note", "care", "stop").index
            )
            self.assertEqual("stay soft" in told.what or told.grade == "stop", worst in ("care", "stop"), (keys, told.what))

    def test_a_clad_of_no_contrast_is_no_reason_against_it(self) -> None:
        pair = Pairing.of([STEELS["x65cr13"], STEELS["304"]], use="clad")
        self.assertEqual(next(r.grade for r in pair.reasons if r.aspect == "contrast"), "care")
        self.assertNotEqual(pair.verdict, "no")
        self.assertEqual(next(r.grade for r in pair.for_use("decoration").reasons if r.aspect == "contrast"), "stop")


class OrderOfTheWorkTests(SimpleTestCase):
    def test_a_split_is_welded_again_and_ground_afterwards(self) -> None:
        w = worked("feather")
        split = fires(w)["split"]
        weld = next(f for f in w.fire.fired if f.kind == "weld")
        self.assertEqual((split.celsius, split.atmosphere), (weld.celsius, "flux"))
        self.assertGreaterEqual(split.heats, 2)
        at, ground = (next(o for o in route_of(w).operations if o.step == split.step and o.kind == k) for k in ("fire", "grind"))
        self.assertIn(at.id, ground.after)
        self.assertIn("weld", " ".join(c.bad for c in at.checks))
        self.assertIn("second heat", w.forged.instructions()[2])

    def test_other_faces_are_ground_before_their_fire(self) -> None:
        w = worked("fine_restack")
        for o in operations(w, "grind"):
            same = [x for x in route_of(w).operations if x.step == o.step and x.kind == "fire"]
            self.assertFalse(any(x.id in o.after for x in same), o.title)

    def test_a_peeled_can_lets_the_fire_in(self) -> None:
        w = worked("canister")
        first, *rest = w.fire.fired
        self.assertEqual(first.atmosphere, "sealed")
        self.assertTrue(all(f.atmosphere != "sealed" and f.scale > 0 for f in rest))
        self.assertIn("bursts", first.caution)
        self.assertFalse(any("bursts" in f.caution for f in rest))
        kinds = [o.kind for o in route_of(w).operations]
        self.assertEqual(kinds[: kinds.index("uncan") + 1], ["cut_stock", "clean", "pile_up", "fire", "uncan"])

    def test_a_can_that_is_ground_off_keeps_it_out_until_then(self) -> None:
        document = STARTERS["canister"].document()
        document["recipe"]["bar"]["start"]["release"] = "ground"
        w = Worked.of(read_document(document))
        self.assertTrue(all(f.atmosphere == "sealed" and not f.scale for f in w.fire.fired))
        self.assertEqual(w.forged.in_can, next(i for i, s in enumerate(w.forged.stages) if s.step.opens_can))
        (off,) = operations(w, "uncan")
        # 90 mm of tube as it was cut, 44 x 50 outside and 2 mm thick
        can = 2 * (44 + 50) * 2 * route_of(w).sheet.cut_to(()) / 1000
        self.assertAlmostEqual(off.attended, 4.0 * can, delta=0.05 * off.attended)

    def test_bevels_are_ground_once(self) -> None:
        for bevels, between in (("before", ("blade:harden-anneal", "blade:harden-heat")), ("after", ("blade:harden-temper", "blade:sand"))):
            ids = [o.id for o in route_of(worked("bold_twist", hardening={"bevels": bevels})).operations]
            self.assertEqual(sum("bevels" in i for i in ids), 1, ids)
            low, high = (ids.index(i) for i in between)
            self.assertTrue(low < ids.index("blade:shape-bevels") < high, bevels)
        told = " ".join(o.say for o in route_of(worked("bold_twist")).operations)
        self.assertEqual(told.count("mm at the edge"), 1)

    def test_nothing_hardens_and_the_bevels_come_with_the_outline(self) -> None:
        steels = [["1018", 5.0], ["iron", 5.0], ["1018", 5.0]]
        document = STARTERS["blank"].document()
        document["recipe"]["bar"]["start"]["layers"] = [{"steel": k, "thickness": t} for k, t in steels]
        (shape,) = operations(Worked.of(read_document(document)), "shape")
        self.assertEqual(shape.title, "Profile and grind the bevels")

    def test_what_comes_off_is_counted_once(self) -> None:
        w = worked("bold_twist")
        both = [float(o.say.split(" cm3")[0].split()[-1]) for o in operations(w, "shape")]
        self.assertAlmostEqual(sum(both), route_of(w).sheet.losses["shaping"] / 1000, delta=1.0)


class EdgeLeftTests(SimpleTestCase):
    def test_it_follows_the_blade(self) -> None:
        """A sword's edge of 3 mm is not ground down to 1."""
        thin, thick = (of_design(Hardening(), {"1084": 0.8}, ("1084",), 6.0, 700.0, 40.0, 900.0, finished=f) for f in (0.4, 3.0))
        self.assertEqual((thin.edge, thick.edge), (1.0, 3.0))
        self.assertIn("Leave 3 mm at the edge, all that it will have", step(thick, "ready").do)
        self.assertEqual(replace(thick, said=Hardening(edge=0.9)).edge, 0.9)
        slim = of_design(Hardening(), {"1084": 0.8}, ("1084",), 2.5, 300.0, 35.0, 180.0)
        self.assertAlmostEqual(slim.edge, 1.3, msg="0.3 more on a long thin blade")
        self.assertNotIn("edge_cracks", codes(slim))

    def test_no_demo_or_start_is_called_too_thin_by_a_plan_that_leaves_enough(self) -> None:
        from tests.core.test_one_verdict import every_design
        from varistrat.core.design.findings import findings_of

        for name, document in every_design():
            w = Worked.of(read_document(document))
            self.assertFalse({f.code for f in findings_of(w)} & {"edge_thin_to_harden"}, name)
        thin = worked("bold_twist", hardening={"edge": 0.3})
        self.assertIn("edge_thin_to_harden", {f.code for f in findings_of(thin)})

    def test_the_angle_is_one_that_its_use_wants(self) -> None:
        for use in ("slicing", "general", "chopping", "sword"):
            w = worked("bold_twist", finish={"use": use})
            low, high = suggested_for(w.document.finish.use).angle
            self.assertTrue(low <= edge_angle(w.document.finish) <= high)
        self.assertEqual(edge_angle(worked("bold_twist", finish={"angle": 40.0}).document.finish), 40.0)


class EtchForToneTests(SimpleTestCase):
    def test_a_plain_laminate_is_etched_for_tone(self) -> None:
        found = etch_plan(worked("three_layer"))
        self.assertTrue(found.for_tone)
        self.assertLess(found.minutes, 10)
        self.assertAlmostEqual(found.etched.deepest, DARK, delta=0.4)
        self.assertAlmostEqual(found.wanted, found.etched.relief)
        self.assertFalse(etch_plan(worked("bold_twist")).for_tone)
        self.assertAlmostEqual(etch_plan(worked("bold_twist")).wanted, 6.0)

    def test_a_relief_that_is_asked_for_comes_in_few_long_cycles(self) -> None:
        found = etch_plan(worked("three_layer", finish={"relief": 6.0}))
        self.assertFalse(found.for_tone)
        self.assertAlmostEqual(found.etched.relief, 6.0, delta=0.2)
        self.assertLessEqual(len(found.cycles), 9)
        self.assertEqual(found.cycles[1].minutes, 10)
        said = etch_plan(worked("three_layer", finish={"relief": 6.0, "cycle": 5.0}))
        self.assertGreater(len(said.cycles), 9)

    def test_a_slow_bath_is_left_to_work(self) -> None:
        quick, slow = (etch_plan(etched_design("1084", "15n20"), Bath(strength=s, temperature=t)) for s, t in ((10.0, 20.0), (1.0, 6.0)))
        self.assertEqual(quick.cycles[1].minutes, 5)
        self.assertGreater(slow.cycles[1].minutes, 5)
        self.assertLessEqual(len(slow.cycles), 10)

    def test_alike_steels_are_toned_without_a_complaint(self) -> None:
        found = etch_plan(etched_design("1084", "1075"))
        self.assertEqual((found.for_tone, found.why_not), (True, ""))
