"""The last bench: sums with any unknown, balance solved for any of its numbers, the edge's test, the grade, the film, the card."""

from typing import Any
from unittest import mock

from django.test import SimpleTestCase
from hypothesis import given
from hypothesis import strategies as st

from tests.core.samples import recipe, stack
from tests.core.test_etch_depth import design
from varistrat.core.build.card import card_of, graded_of, hardness_read
from varistrat.core.build.entry import ENTRY
from varistrat.core.build.plan import Plan
from varistrat.core.build.state import state_of
from varistrat.core.design.document import read_document
from varistrat.core.design.worked import Worked
from varistrat.core.errors import InputError
from varistrat.core.finish.balance import Fittings, balanced, solve_balance
from varistrat.core.finish.cycles import etch_plan
from varistrat.core.finish.edge_test import EdgeTest, advice, bevel_width, edge_plan, take_back
from varistrat.core.finish.film import BRIGHT, film
from varistrat.core.finish.grade import POINTS, graded
from varistrat.core.finish.tone_apart import lightness, tone_apart
from varistrat.core.paper.card import card_pdf
from varistrat.core.starters import DEFAULT_BLADE
from varistrat.core.sums.fit_up import FIT_UP

BY = {s.key: s for s in FIT_UP}


class SumTests(SimpleTestCase):
    def known(self, key: str, **more: float) -> dict[str, float]:
        return BY[key].fill(None, more)  # type: ignore[arg-type]

    def test_by_hand(self) -> None:
        """T 4, H 30, t 0.4: 2 atan(3.6/60) = 6.87 degrees; R 125, s 20: 0.40 mm; 115 long, 15 from the ends, 3 pins: 42.5 apart."""
        for key, said, wanted in (
            ("bevel_angle", {}, 6.867),
            ("hollow", {}, 0.400),
            ("middle_line", {}, 2.0),
            ("pins", {}, 42.5),
            ("washers", {}, 110 / (3.5 * 0.88)),
            ("glue_time", {"celsius": 10.0}, 60.0),
            ("tang_taper", {}, 100.0),
            ("sheath", {}, 87.0),
            ("edge_bevel", {}, 0.7727),
        ):
            s = BY[key]
            known = self.known(key, **said)
            self.assertAlmostEqual(s.solve(known, s.unknown), wanted, 2, key)

    def test_any_of_them_is_the_unknown(self) -> None:
        for s in FIT_UP:
            known = s.fill(None, {})  # type: ignore[arg-type]
            known = known | {s.unknown: s.solve(known, s.unknown)}
            for q in s.quantities:
                if q.given or q.key == s.unknown:
                    continue
                found = s.solve({k: v for k, v in known.items() if k != q.key}, q.key)
                self.assertAlmostEqual(s.gap(known | {q.key: found}), 0.0, 6, f"{s.key} {q.key}")
            self.assertTrue(all(line.label for line in s.lines(known)), s.key)

    def test_a_slot_is_drilled_thinner_than_its_tang(self) -> None:
        known = self.known("guard_slot", thickness=4.5, width=22.0)
        self.assertAlmostEqual(known["drill"], 4.3)
        found = BY["guard_slot"].solve(known, "holes")
        self.assertAlmostEqual(4.3 + 1.1 * 4.3 * (found - 1), 22.0, 6)


def with_tang() -> Worked:
    tang = {"length": 105.0, "width": 18.0, "end_width": 12.0}
    w = design("1084", "15n20").document.as_json()
    return Worked.of(read_document(w | {"blade": {**DEFAULT_BLADE, "tang": tang}}))


class BalanceTests(SimpleTestCase):
    FIT = Fittings(115.0, 24.0, 18.0, 0.95e-3, guard=30.0)

    def test_a_guard_by_hand(self) -> None:
        """A mass at x moves the balance by m (x - point)/(M + m)."""
        w = design("1084", "15n20")
        bare, guarded = balanced(w, Fittings(115.0, 24.0, 18.0, 0.95e-3)), balanced(w, self.FIT)
        self.assertAlmostEqual(guarded.mass, bare.mass + 30)
        self.assertAlmostEqual(guarded.point, bare.point + 30 * (-3.0 - bare.point) / (bare.mass + 30), 9)

    def test_each_of_them_solved(self) -> None:
        from dataclasses import replace

        w = with_tang()
        for unknown, value in (("handle", 130.0), ("guard", 55.0), ("pommel", 40.0), ("holes", 3.0)):
            fit = replace(self.FIT, **{unknown: value})
            wanted = balanced(w, fit).point
            self.assertAlmostEqual(solve_balance(w, fit, wanted, unknown), value, 3, unknown)  # type: ignore[arg-type]

    def test_holes_want_a_tang(self) -> None:
        with self.assertRaisesMessage(InputError, "no tang to drill"):
            solve_balance(design("1084", "15n20"), self.FIT, 10.0, "holes")
        w = with_tang()
        drilled = balanced(w, Fittings(115.0, 24.0, 18.0, 0.95e-3, holes=4.0))
        self.assertLess(drilled.mass, balanced(w, Fittings(115.0, 24.0, 18.0, 0.95e-3)).mass)

    def test_out_of_reach_says_how_far_it_goes(self) -> None:
        with self.assertRaisesMessage(InputError, "it can be put"):
            solve_balance(design("1084", "15n20"), self.FIT, 500.0, "guard")


class EdgeTests(SimpleTestCase):
    def test_width_and_what_to_take_back(self) -> None:
        """t_b 0.4 at 30 degrees: 0.2/sin 15 = 0.77; at 20: 1.15. From 0.2 to 0.4 mm at 6 degrees: 0.2/(2 tan 3) = 1.91 mm of edge."""
        self.assertAlmostEqual(bevel_width(0.4, 30), 0.773, 3)
        self.assertAlmostEqual(bevel_width(0.4, 20), 1.152, 3)
        self.assertAlmostEqual(take_back(0.2, 0.4, 6.0), 1.908, 3)
        self.assertEqual(take_back(0.5, 0.4, 6.0), 0.0)

    def told(self, **said: Any) -> dict[str, str]:
        w = design("1084", "15n20")
        return {a.key: a.verdict for a in advice(w, EdgeTest(test="brass", **said))}

    def test_in_the_order_to_check(self) -> None:
        self.assertEqual(self.told(seen="fine"), {})
        self.assertEqual(list(self.told(seen="rolled")), ["soft", "decarb", "thin"])
        self.assertEqual(list(self.told(seen="chipped"))[:2], ["hard", "grain"])
        self.assertEqual(list(self.told(seen="dull")), ["mixed", "soft"])

    def test_a_reading_decides_beyond_its_width(self) -> None:
        planned = design("1084", "15n20").hardening.planned
        assert planned
        for hrc, verdict in ((planned - 3, "so"), (planned - 0.8, "not"), (planned + 1, "not")):
            self.assertEqual(self.told(seen="rolled", hrc=[hrc])["soft"], verdict, hrc)
        self.assertEqual(self.told(seen="rolled")["soft"], "look")
        self.assertEqual(self.told(seen="chipped", hrc=[planned + 4])["hard"], "so")
        self.assertEqual(self.told(seen="chipped", hrc=[planned])["hard"], "not")

    def test_thickness_against_its_use(self) -> None:
        self.assertEqual(self.told(seen="rolled", behind=0.15)["thin"], "so")
        self.assertEqual(self.told(seen="rolled", behind=0.6)["thin"], "not")
        w = design("1084", "15n20")
        thin = next(a for a in advice(w, EdgeTest(test="brass", seen="rolled", behind=0.15)) if a.key == "thin")
        self.assertIn(f"{take_back(0.15, 0.4, edge_plan(w).primary):.1f} mm of height", thin.costs)

    def test_every_answer_says_its_price(self) -> None:
        for seen in ("rolled", "chipped", "dull"):
            for a in advice(design("1084", "1018"), EdgeTest(test="wood", seen=seen)):  # type: ignore[arg-type]
                self.assertTrue(a.says and a.do and a.costs)


class GradeTests(SimpleTestCase):
    ALL = dict.fromkeys(range(len(POINTS)), True)

    def test_first_only_when_all_is_met(self) -> None:
        self.assertEqual(graded(self.ALL).grade, "first")
        self.assertIsNone(graded({}).grade)
        for i, p in enumerate(POINTS):
            found = graded(self.ALL | {i: False})
            self.assertEqual(found.grade, "not for sale" if p.fatal else "second", p.key)
            self.assertIn(p.flaw, found.why)

    def test_what_is_not_safe_waits_for_nothing(self) -> None:
        crack = next(i for i, p in enumerate(POINTS) if p.key == "crack")
        self.assertEqual(graded({crack: False}).grade, "not for sale")
        pits = next(i for i, p in enumerate(POINTS) if p.key == "pits")
        self.assertIsNone(graded({pits: False}).grade)

    def test_the_smiths_own_with_its_reason(self) -> None:
        found = graded(self.ALL, ("second", "a hair's scratch"))
        self.assertEqual((found.grade, found.why, found.own), ("second", "a hair's scratch", True))

    def test_the_card_has_only_what_was_measured_or_chosen(self) -> None:
        bar = recipe(stack(*[("1084", 4.0), ("15n20", 3.0)] * 4, width=40, length=220), {"kind": "weld", "thickness": 24.0},
                     {"kind": "draw", "width": 36.0, "thickness": 6.0})  # fmt: skip
        w = Worked.of(read_document({"recipe": bar, "blade": DEFAULT_BLADE}))
        plan = Plan.begun(w)
        bare = card_of("Reed knife", "2031-1", "Quillet Dyke", w, plan, state_of([]))
        self.assertEqual((bare.hardness, bare.mass, bare.grade, bare.flaws), ((), None, "", ()))

        def entry(n: int, **said: Any) -> Any:
            return ENTRY.validate_python({"id": f"00000000-0000-4000-8000-{n:012d}", "at": f"2031-05-01T10:00:{n:02d}Z", "op": ""} | said)

        said = [entry(1, op="blade:harden-test", kind="measured", quantity="hardness", value=65.0, place=10.0),
                entry(2, op="blade:harden-temper", kind="measured", quantity="hardness", value=59.0, place=10.0),
                entry(3, op="blade:harden-temper", kind="measured", quantity="hardness", value=60.0, place=90.0),
                entry(4, op="blade:look", kind="checked", check=0, good=False),
                entry(5, op="blade:sand", kind="measured", quantity="mass", value=88.0)]  # fmt: skip
        state = state_of(said)
        self.assertEqual(hardness_read(plan, state), (59.0, 60.0))
        self.assertEqual(graded_of(state, core=False).grade, "not for sale")
        card = card_of("Reed knife", "2031-1", "Quillet Dyke", w, plan, state)
        self.assertEqual((card.mass, card.flaws), (88.0, ("a crack",)))
        self.assertTrue(card_pdf(card).startswith(b"%PDF"))
        self.assertTrue(card_pdf(bare).startswith(b"%PDF"))


class FilmTests(SimpleTestCase):
    def test_stages_in_order(self) -> None:
        w = design("1084", "15n20", finish={"relief": 12.0})
        plan = etch_plan(w)
        stages = film(w, plan)
        self.assertEqual(len(stages), 6)
        minutes = [s.minutes for s in stages if not s.polished]
        self.assertEqual(minutes, sorted(minutes))
        # in one go or in cycles: the bath wears alike
        self.assertAlmostEqual(stages[-2].relief, plan.etched.relief, 6)
        self.assertGreater(stages[-1].relief, stages[-2].relief)

    def test_tone_and_depth_agree(self) -> None:
        """What is eaten deeper is darker than as it was sanded; tops are lit by polishing, and only they."""
        w = design("1084", "15n20", finish={"relief": 12.0})
        by = {s.key: s for s in film(w, etch_plan(w))}
        first, oxide, polished = by["first"], by["oxide"], by["polished"]
        self.assertLess(oxide.tones["1084"], first.tones["1084"])
        self.assertLess(first.tones["1084"], BRIGHT)
        self.assertGreater(polished.tones["15n20"], oxide.tones["15n20"])
        self.assertEqual(polished.tones["1084"], oxide.tones["1084"])
        self.assertEqual(polished.depths, oxide.depths)

    def test_a_tone_bath_is_the_last(self) -> None:
        w = design("1084", "15n20", finish={"tone": "coffee"})
        stages = film(w, etch_plan(w))
        self.assertIn("toned", [s.key for s in stages])
        self.assertEqual(len(stages), 6)

    @given(st.floats(0, 10), st.floats(0, 10))
    def test_lightness_rises_with_tone(self, a: float, b: float) -> None:
        self.assertLessEqual(lightness(min(a, b)), lightness(max(a, b)) + 1e-9)

    def test_lightness_as_published(self) -> None:
        """CIE 1976: a luminous share of 0.1842 is L* 50, one of 0.005 is 903.3 x 0.005 = 4.52."""
        for share, l_star in ((0.1842, 50.0), (0.005, 4.52), (1.0, 100.0)):
            with mock.patch("varistrat.core.finish.tone_apart.reflectance", return_value=share):
                self.assertAlmostEqual(lightness(5.0), l_star, 1)

    def test_pairs_apart(self) -> None:
        close, wide = tone_apart(design("1084", "1075")), tone_apart(design("1084", "15n20"))
        assert close is not None and wide is not None
        self.assertLess(close, 12)
        self.assertGreater(wide, 30)
        self.assertIsNone(tone_apart(design("1084")))
