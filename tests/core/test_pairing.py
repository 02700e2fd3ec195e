"""What goes together: known good and bad pairs, each for its reason."""

from django.test import SimpleTestCase

from varistrat.core.design.document import read_document
from varistrat.core.design.worked import Worked
from varistrat.core.errors import InputError
from varistrat.core.laws.transform import austenite
from varistrat.core.pairing.pairing import USES, Pairing, Use, lightness, suggestions
from varistrat.core.starters import of_steels
from varistrat.core.steels import built_in
from varistrat.core.steels.model import ETCHANTS, Steel

STEELS = built_in()


def pair(*keys: str, use: Use = "edge", **more: object) -> Pairing:
    return Pairing.of([STEELS[k] for k in keys], use=use, **more)


def reason(p: Pairing, aspect: str) -> tuple[str, float | None]:
    found = next(r for r in p.reasons if r.aspect == aspect)
    return found.grade, found.value


class PairingTests(SimpleTestCase):
    def test_the_pair_most_smiths_begin_with(self) -> None:
        p = pair("1084", "15n20")
        self.assertEqual((p.verdict, p.quench, p.window), ("good", "fast_oil", (795, 820)))
        self.assertEqual(p.weld_window, (1100, 1210))
        self.assertTrue(60 < p.hrc[0] < 61.5 and 59 < p.hrc[1] < 60.5, p.hrc)
        self.assertLess(p.stiffness[0], 1.05)

    def test_known_verdicts(self) -> None:
        known: dict[tuple[str, str, Use], str] = {
            ("1084", "1095", "edge"): "no",  # no contrast
            ("1084", "nickel", "edge"): "no",  # nickel does not harden
            ("1084", "nickel", "decoration"): "good",
            ("iron", "1095", "clad"): "care",
            ("304", "1095", "clad"): "care",  # sealed
            ("304", "1095", "edge"): "no",
            ("416", "1095", "clad"): "no",  # hot short
            ("c105", "x65cr13", "edge"): "no",  # hardened 250 degrees apart
            ("wrought", "iron", "decoration"): "no",
            ("wrought", "iron", "edge"): "no",
            ("copper", "1084", "edge"): "no",
            ("copper", "1084", "clad"): "care",
        }
        for (a, b, use), want in known.items():
            self.assertEqual(pair(a, b, use=use).verdict, want, (a, b, use))

    def test_copper_is_held_below_its_melting(self) -> None:
        p = pair("copper", "15n20", use="clad")
        assert p.weld_window
        self.assertLess(p.weld_window[1], 1050)
        self.assertEqual(reason(p, "weld")[0], "care")

    def test_mild_steel_takes_carbon_in_fine_layers_only(self) -> None:
        fine, thick = pair("1084", "1018"), pair("1084", "1018", use="clad")
        self.assertAlmostEqual(fine.carbons[0], 0.51, delta=0.01)
        self.assertEqual(thick.carbons, (0.84, 0.18))
        self.assertEqual(fine.hardeners, (0, 1))
        self.assertEqual(thick.hardeners, (0,))
        self.assertEqual(reason(fine, "contrast")[0], "care")
        # three parts of 1084 keep more of it
        self.assertGreater(pair("1084", "1018", shares=(3, 1)).carbons[0], 0.65)

    def test_as_quenched_of_the_mixed_stack(self) -> None:
        # mean of 0.51 %: about 61, not 65
        got = pair("1084", "1018").quenched[0].hrc
        self.assertAlmostEqual(got, 61, delta=1.2)

    def test_thicker_blades_want_faster_quenches(self) -> None:
        order = ["air", "slow_oil", "medium_oil", "fast_oil", "water", None]
        found = [pair("15n20", "80crv2", thickness=t).through for t in (2, 5, 8, 14, 40)]
        ranks = [order.index(q) for q in found]
        self.assertEqual(ranks, sorted(ranks))
        self.assertIsNone(found[-1])

    def test_tempering_softens_all(self) -> None:
        hot, cool = pair("1084", "15n20", temper=250.0), pair("1084", "15n20", temper=175.0)
        self.assertTrue(all(hot.hrc[i] < cool.hrc[i] - 3 for i in hot.hrc))

    def test_three_steels(self) -> None:
        p = pair("1084", "15n20", "o1")
        self.assertEqual(len(p.hardeners), 3)
        self.assertEqual(p.window, (795, 815))
        self.assertIn(p.verdict, ("good", "care"))

    def test_other_baths(self) -> None:
        for bath in ETCHANTS:
            self.assertNotEqual(lightness(STEELS["1084"], bath), lightness(STEELS["nickel"], bath))
        self.assertLess(pair("1084", "15n20", etchant="nital").points, pair("1084", "15n20").points)

    def test_every_pair_has_an_answer_with_reasons(self) -> None:
        keys = list(STEELS)
        for use in USES:
            for i, a in enumerate(keys):
                for b in keys[:i:3]:
                    p = pair(a, b, use=use)
                    self.assertIn(p.verdict, ("good", "care", "no"))
                    self.assertTrue(all(r.what.endswith(".") and "nan" not in r.why and "inf" not in r.why.split() for r in p.reasons))
                    self.assertTrue(p.verdict == "good" or p.decides, (a, b, use))

    def test_suggestions_are_ranked_and_suit(self) -> None:
        for use in USES:
            found = suggestions(list(STEELS.values()), use)
            self.assertEqual([p.points for p in found], sorted((p.points for p in found), reverse=True))
            self.assertNotIn("no", [p.verdict for p in found])
        # apart by less than 10 in L* nobody sees a pattern: not even offered last
        near = pair("1084", "1075")
        self.assertTrue(1 < near.apart < 10, near.apart)
        self.assertEqual(suggestions([STEELS["1084"], STEELS["1075"]], "clad"), [])
        best = suggestions(list(STEELS.values()), "edge")[0]
        self.assertEqual({s.key for s in best.steels}, {"1084", "15n20"})

    def test_wrong_ones(self) -> None:
        s = STEELS["1084"]
        for steels, shares in (((s,), ()), ((s, s), ()), ((s, STEELS["o1"]), (1.0,)), ((s, STEELS["o1"]), (1.0, -1.0))):
            with self.assertRaises(InputError):
                Pairing.of(steels, shares)

    def test_a_shops_own_hardness_is_kept(self) -> None:
        softer: Steel = STEELS["1084"].model_copy(update={"as_quenched": (60.0, 61.0)})
        p = Pairing.of([softer, STEELS["15n20"]])
        self.assertAlmostEqual(p.quenched[0].hrc, 60.5, delta=0.6)


class BeginTests(SimpleTestCase):
    def test_where_the_carbon_in_solution_is_right(self) -> None:
        low, high = pair("52100", "15n20").dissolving or (0, 0)
        for t, fits in ((low, True), (high, True), (low - 10, False)):
            p = pair("52100", "15n20")
            worst = [austenite({**s.composition, "C": c}, t, p.soak).carbon for s, c in zip(p.steels, p.carbons, strict=True)]
            self.assertEqual(all(0.55 <= c <= 0.85 for c in worst), fits, t)
        self.assertIsNone(pair("52100", "1084").dissolving)
        self.assertIsNone(pair("iron", "nickel", use="decoration").dissolving)

    def test_a_bar_of_a_pair(self) -> None:
        layers = of_steels(["1084", "15n20"]).start["layers"]
        self.assertEqual([x["steel"] for x in layers], ["1084", "15n20"] * 3 + ["1084"])
        self.assertAlmostEqual(sum(x["thickness"] for x in layers if x["steel"] == "1084"), 12, delta=0.1)
        three = of_steels(["1084", "15n20", "o1"], [2, 1, 1]).start["layers"]
        self.assertAlmostEqual(sum(x["thickness"] for x in three if x["steel"] == "15n20"), 6, delta=0.1)
        clad = of_steels(["1095", "1018", "nickel"], [3, 6, 0.5], clad=True).start["layers"]
        self.assertEqual([x["steel"] for x in clad], ["1018", "nickel", "1095", "nickel", "1018"])
        usual = of_steels(["304", "1095"], [1, 1], clad=True).start["layers"]
        self.assertAlmostEqual(usual[1]["thickness"] / sum(x["thickness"] for x in usual), 0.3, delta=0.01)

    def test_every_bar_of_a_pair_can_be_made(self) -> None:
        for keys in (["1084", "15n20"], ["304", "1095"], ["copper", "1084"], ["w1", "l6", "nickel", "iron", "o1", "5160"]):
            for clad in (False, True):
                worked = Worked.of(read_document(of_steels(keys, clad=clad).document()))
                self.assertGreater(worked.forged.bar.length, 200)
                self.assertTrue(worked.fire.fired)
        for keys, shares in ((["1084"], []), (["1084", "mithril"], []), (["1084", "o1"], [1.0]), (["1084", "o1"], [1.0, 0.0])):
            with self.assertRaises(InputError):
                of_steels(keys, shares)
