"""The space of what can be forged, and the search in it: planted designs found again, likes, limits, spread, stop."""

import json
from concurrent.futures import Executor, ThreadPoolExecutor
from itertools import product
from typing import Any, ClassVar
from unittest import mock

import numpy as np
from django.test import SimpleTestCase

from tests.profile import quick_or
from varistrat.core.errors import Cancelled, InputError
from varistrat.core.looks import search
from varistrat.core.looks.features import FEATURES, KEYS, features_of_cut
from varistrat.core.looks.search import Ask, Details, Pair, Search, Step, beyond, details, families_for, measured
from varistrat.core.looks.space import FAMILIES, HAND, TOOLS, Candidate, Number, drawn_from, pairings_of, usual_pairings
from varistrat.core.looks.taste import REPEATS_FROM, SURE, Want, away, off_by, on_scales, taste_of, wants_of
from varistrat.core.shop import AS_SHIPS, ShopData
from varistrat.core.starters import DEFAULT_BLADE
from varistrat.core.steels.estimate import shop_steel

FLAT = np.full(len(KEYS), 0.2)
FEW = ["twisting", "saw", "mill", "drill", "can"]
"""Without these there are two families left: quick to search."""


class SpaceTests(SimpleTestCase):
    def test_every_family_can_be_forged_at_all_its_ends_and_holds_its_blade(self) -> None:
        from varistrat.core.design.findings import findings_of

        for key, family in FAMILIES.items():
            ends = list(product((0.0, 0.999), repeat=len(family.numbers) + 1))
            # of many ends a part: each number still at both of its own
            for unit in ends if len(ends) <= 8 else ends[:: len(ends) // 8] + ends[-1:]:
                c = drawn_from(key, unit, usual_pairings())
                worked = c.worked()
                stops = [f.what for f in findings_of(worked) if f.grade == "stop"]
                self.assertEqual(stops, [], c.key)

    def test_a_pile_is_no_longer_than_its_blade_asks(self) -> None:
        short = Candidate(family="twist").worked()
        long = Candidate(family="twist").worked(blade=DEFAULT_BLADE | {"outline": DEFAULT_BLADE["outline"] | {"length": 220.0}})
        self.assertAlmostEqual(long.forged.bar.length - short.forged.bar.length, 70, delta=12)

    def test_numbers_are_on_their_steps_and_each_has_the_same_room(self) -> None:
        n = Number("n", "N", "", 2.0, 5.0, 0.5, 3.0)
        drawn = [n.at(u) for u in np.linspace(0, 0.9999, 700)]
        self.assertEqual(sorted(set(drawn)), [2.0, 2.5, 3.0, 3.5, 4.0, 4.5, 5.0])
        self.assertTrue(all(abs(drawn.count(v) - 100) <= 1 for v in set(drawn)))
        self.assertEqual((n.snapped(3.2), n.snapped(99), n.snapped(-1)), (3.0, 5.0, 2.0))
        self.assertEqual({HAND.at(0.2), HAND.at(0.8)}, {-1.0, 1.0})

    def test_what_is_left_out_is_usual_and_what_is_wrong_is_told(self) -> None:
        plain = Candidate(family="twist")
        self.assertEqual(plain.key, Candidate(family="twist", values={"pairs": 4.0, "turns": 5.0}).key)
        self.assertNotEqual(plain.key, Candidate(family="twist", values={"turns": 5.5}).key)
        for wrong in (Candidate(family="weave"), Candidate(family="twist", values={"turns": 500.0})):
            with self.assertRaises(InputError):
                wrong.key  # noqa: B018
            with self.assertRaises(InputError):
                wrong.worked()

    def test_steels_are_those_that_are_asked_for(self) -> None:
        for key in FAMILIES:
            used = set(Candidate(family=key, dark="80crv2", bright="nickel").worked().forged.steels)
            self.assertEqual(used - {"80crv2", "nickel", "powder1084"}, set(), key)
        self.assertIn("twisted left", Candidate(family="twist", values={"hand": -1.0}).says())
        self.assertIn(", not cut and piled again, ", Candidate(family="random", values={"pieces": 1.0}).says())
        self.assertIn(", cut and piled again in 2 pieces, ", Candidate(family="random", values={"pieces": 2.0}).says())

    def test_pairings_are_told_apart_and_go_together(self) -> None:
        found = pairings_of(AS_SHIPS, ("1084", "15n20", "1075", "80crv2"))
        self.assertIn(("1084", "15n20"), found)
        self.assertNotIn(("1084", "1075"), found)
        self.assertNotIn(("15n20", "1084"), found)
        own = ShopData({"1084": shop_steel("1084", {"tone": {"ferric": 7.5}})}, {})
        self.assertNotIn(("1084", "15n20"), pairings_of(own, ("1084", "15n20")))
        self.assertEqual(pairings_of(AS_SHIPS, ("1084",)), [])

    def test_tools(self) -> None:
        self.assertTrue(all(set(f.needs) <= set(TOOLS) for f in FAMILIES.values()))
        asked = Ask(wants=[Want(feature="width", value=2.0)], lacks=["twisting"])
        self.assertEqual(set(families_for(asked)), {k for k, f in FAMILIES.items() if "twisting" not in f.needs})
        self.assertEqual(set(families_for(asked.model_copy(update={"lacks": FEW}))), {"random", "bias"})


class TasteTests(SimpleTestCase):
    def test_a_slider_is_as_wide_as_one_is_sure(self) -> None:
        f = FEATURES["width"]
        taste = taste_of([Want(feature="width", value=f.from_scale(0.4), sure="about")], [], [], FLAT)
        i = KEYS.index("width")
        self.assertAlmostEqual(taste.at[i], 0.4, places=2)
        self.assertAlmostEqual(taste.give[i], SURE["about"])
        self.assertEqual(int(taste.wanted.sum()), 1)

    def test_precisions_add_up(self) -> None:
        """Slider at 0.2 with width 0.12; one liked at 0.6 with the usual spread 0.2: 1/0.12^2 = 69.4, 1/0.2^2 = 25 -> 0.306, 0.103."""
        i = KEYS.index("spread")
        liked = np.full(len(KEYS), 0.6)
        taste = taste_of([Want(feature="spread", value=FEATURES["spread"].from_scale(0.2))], [liked], [], FLAT)
        self.assertAlmostEqual(taste.at[i], 0.3059, places=3)
        self.assertAlmostEqual(taste.give[i], 0.1029, places=3)
        # what was liked says something of what nothing was said of
        self.assertAlmostEqual(taste.at[KEYS.index("rings")], 0.6)
        self.assertAlmostEqual(taste.give[KEYS.index("rings")], 0.2)

    def test_liked_faces_that_agree_are_surer_than_those_that_do_not(self) -> None:
        a, b = np.full(len(KEYS), 0.5), np.full(len(KEYS), 0.5)
        b[KEYS.index("slant")] = 0.9
        taste = taste_of([], [a, b], [], FLAT)
        self.assertLess(taste.give[KEYS.index("width")], taste.give[KEYS.index("slant")])

    def test_what_hardly_repeats_has_no_length_to_repeat_after(self) -> None:
        pitch = Want(feature="pitch", value=20.0)
        for repeat, matters in ((REPEATS_FROM - 5, False), (REPEATS_FROM + 5, True)):
            taste = taste_of([pitch, Want(feature="repeat", value=repeat)], [], [], FLAT)
            self.assertEqual(bool(taste.wanted[KEYS.index("pitch")]), matters)

    def test_mahalanobis_by_hand(self) -> None:
        """Two features, unrelated (few were seen): (0.1 / 0.12)^2 + (0.05 / 0.05)^2."""
        wants = [
            Want(feature="width", value=FEATURES["width"].from_scale(0.5)),
            Want(feature="slant", value=FEATURES["slant"].from_scale(0.5), sure="exactly"),
        ]
        taste = taste_of(wants, [], [], FLAT)
        place = np.full((1, len(KEYS)), 0.77)
        place[0, KEYS.index("width")], place[0, KEYS.index("slant")] = 0.6, 0.55
        none = np.zeros((0, len(KEYS)))
        self.assertAlmostEqual(float(away(taste, place, none)[0]), (0.1 / 0.12) ** 2 + 1.0, places=2)
        self.assertAlmostEqual(off_by(taste, place[0]), 0.075, places=3)

    def test_related_features_count_less_together(self) -> None:
        """Two that always go together tell one thing, not two: off along that line costs less than off across it."""
        rng = np.random.default_rng(1)
        people = np.full((200, len(KEYS)), 0.5)
        i, j = KEYS.index("width"), KEYS.index("slant")
        people[:, i] = rng.normal(0.5, 0.2, 200)
        people[:, j] = people[:, i] + rng.normal(0, 0.02, 200)
        taste = taste_of([Want(feature=k, value=FEATURES[k].from_scale(0.5)) for k in ("width", "slant")], [], [], FLAT)
        places = np.full((2, len(KEYS)), 0.5)
        places[0, [i, j]] = 0.6, 0.6
        places[1, [i, j]] = 0.6, 0.4
        along, across = away(taste, places, people)
        self.assertLess(along, 0.7 * across)

    def test_near_one_that_was_disliked_is_further_off(self) -> None:
        taste = taste_of([Want(feature="width", value=FEATURES["width"].from_scale(0.5))], [], [np.full(len(KEYS), 0.5)], FLAT)
        places = np.array([np.full(len(KEYS), 0.5), np.full(len(KEYS), 0.95)])
        places[1, KEYS.index("width")] = 0.5
        near, far = away(taste, places, np.zeros((0, len(KEYS))))
        self.assertGreater(near, far + 3)


class SearchTests(SimpleTestCase):
    pool: ClassVar[Executor]

    @classmethod
    def setUpClass(cls) -> None:
        super().setUpClass()
        cls.pool = ThreadPoolExecutor(2)
        cls.addClassCleanup(cls.pool.shutdown)
        # what each takes is worked out in half a second: of a few is enough here
        for name, few in {"ANSWERS": 4, "GENERATIONS": quick_or(1, 2), "CLIMBED": 1, "MOST_DETAILED": 8}.items():
            patch = mock.patch.object(search, name, few)
            patch.start()
            cls.addClassCleanup(patch.stop)

    def run_of(self, **ask: Any) -> tuple[Search, list[Step]]:
        found = Search(Ask(**{"faces": 64, "lacks": FEW, **ask}))
        return found, list(found.run(self.pool))

    def test_planted_designs_are_found_again(self) -> None:
        """The proof of it on a small scale, with the walk cut short; benchmarks/looks.py does it over all families."""
        rng = np.random.default_rng(3)
        for family in quick_or(("bias",), ("random", "bias")):
            hidden = drawn_from(family, rng.random(len(FAMILIES[family].numbers) + 1), usual_pairings())
            told = features_of_cut(hidden.worked().blade)
            with mock.patch.object(search, "GENERATIONS", 6):
                found, steps = self.run_of(wants=wants_of(told, "exactly"), faces=128)
            best = on_scales(found.features[found.ranked()[0][1]])
            off = np.abs(np.clip(best, 0, 1) - np.clip(on_scales(list(told.values())), 0, 1))
            if told["repeat"] < REPEATS_FROM:
                off[KEYS.index("pitch")] = 0
            self.assertLess(off.max(), 0.12, dict(zip(KEYS, off.round(3), strict=True)))
            self.assertLess(off.mean(), 0.03)
            self.assertEqual(steps[-1].answers[0].candidate.family, family)

    def test_step_by_step_to_the_very_design(self) -> None:
        """Two numbers some steps off: they are put right, and nothing nearer is left on any side."""
        hidden = Candidate(family="bias", values={n.key: n.at(0.55) for n in FAMILIES["bias"].numbers})
        near = {n.key: n.at(0.55 + 2.0 / (n.steps + 1)) for n in FAMILIES["bias"].numbers[:2]}
        wants = wants_of(features_of_cut(hidden.worked().blade), "exactly")
        climbing = Search(Ask(wants=wants, lacks=FEW, faces=64))
        climbing._try(climbing._walk(), self.pool)
        climbing.walked = list(climbing.places)
        climbing._try([hidden.model_copy(update={"values": hidden.values | near})], self.pool)
        with mock.patch.object(search, "CLIMBED", 2):
            steps = list(climbing._climbed(self.pool, lambda: False))
        self.assertEqual(climbing.ranked()[0][1], hidden.key)
        self.assertLess(len(steps), 2 * search.CLIMBS)
        with self.assertRaises(Cancelled):
            list(climbing._climbed(self.pool, lambda: True))

    def test_steps_answers_and_what_each_takes(self) -> None:
        found, steps = self.run_of(wants=[Want(feature="width", value=3.0)])
        self.assertEqual([s.share for s in steps], sorted(s.share for s in steps))
        first = next(s for s in steps if s.answers)
        self.assertLess(first.share, 0.75)
        self.assertIsNone(first.answers[0].details)
        last = steps[-1]
        self.assertEqual((last.share, last.doing), (1.0, "done"))
        self.assertEqual(len(last.answers), 4)
        self.assertEqual(len({a.candidate.key for a in last.answers}), len(last.answers))
        self.assertEqual(len({a.candidate.family for a in last.answers[:2]}), 2, "of several kinds from the first on")
        for a in last.answers:
            assert a.details
            self.assertGreater(a.details.heats, 2)
            self.assertGreater(a.details.money, 50)
            self.assertTrue(0 <= a.details.short <= 1)
            self.assertEqual(tuple(a.features.values()), tuple(round(v, 2) for v in found.features[a.candidate.key]))
        # the nearest of all comes first
        self.assertEqual(last.answers[0].candidate.key, found.ranked()[0][1])

    def test_the_same_ask_has_the_same_answers_and_every_face_is_tried_once(self) -> None:
        asked: dict[str, Any] = {"wants": [Want(feature="slant", value=40.0)], "seed": 5}
        one, a = self.run_of(**asked)
        _, b = self.run_of(**asked)
        self.assertEqual(a[-1], b[-1])
        self.assertEqual(one.tried, len(one.candidates))

    def test_limits(self) -> None:
        wants = [Want(feature="width", value=1.5)]
        _, free = self.run_of(wants=wants)
        heats = sorted(a.details.heats for a in free[-1].answers if a.details)
        most = heats[len(heats) // 2] - 1
        _, less = self.run_of(wants=wants, heats=most)
        self.assertTrue(all(a.details and a.details.heats <= most for a in less[-1].answers))
        self.assertGreater(less[-1].refused, 0)
        _, none = self.run_of(wants=wants, heats=1)
        self.assertEqual(none[-1].answers, ())

    def test_each_limit_bites_by_itself(self) -> None:
        d = Details(12, 600.0, 300.0, 0.3, 0.2, 0.2, 400.0, (), ())
        ask = Ask(wants=[Want(feature="width", value=1.5)])
        self.assertFalse(beyond(ask, d))
        for limit, ok in (
            ({"heats": 11}, {"heats": 12}),
            ({"hours": 9.9}, {"hours": 10.0}),
            ({"loss": 0.29}, {"loss": 0.3}),
            ({"finest": 0.21}, {"finest": 0.2}),
        ):
            self.assertTrue(beyond(ask.model_copy(update=limit), d), limit)
            self.assertFalse(beyond(ask.model_copy(update=ok), d), ok)
        self.assertTrue(beyond(ask, Details(1, 1.0, 1.0, 0.0, 0.0, None, 1.0, (), ("it tears",))))

    def test_what_is_liked_leads(self) -> None:
        liked = Candidate(family="random", values={"pairs": 12.0, "pieces": 4.0})
        found, steps = self.run_of(liked=[liked])
        self.assertEqual(found.ranked()[0][1], liked.key, "nothing is nearer to what is liked than itself")
        self.assertTrue(steps[-1].answers)
        other, _ = self.run_of(liked=[liked], disliked=[liked])
        self.assertNotEqual(other.ranked()[0][1], liked.key)

    def test_stopped(self) -> None:
        found = Search(Ask(wants=[Want(feature="width", value=3.0)], faces=512, lacks=FEW, seed=99))
        run = found.run(self.pool, lambda: found.tried > 100)
        with self.assertRaises(Cancelled):
            list(run)
        self.assertLess(found.tried, 250)

    def test_shops_do_not_see_one_anothers(self) -> None:
        """A shop whose dark steel etches bright has other faces, though the other shop's were measured before."""
        c = Candidate(family="bias")
        plain, own = (
            Search(Ask(liked=[c], faces=64, lacks=FEW)),
            Search(Ask(liked=[c], faces=64, lacks=FEW), ShopData({"1084": shop_steel("1084", {"tone": {"ferric": 4.5}})}, {})),
        )
        for s in (plain, own):
            s._try([c], self.pool)
        i = KEYS.index("contrast")
        self.assertGreater(plain.features[c.key][i], own.features[c.key][i] + 10)

    def test_the_pieces_of_work_are_plain_data(self) -> None:
        c = Candidate(family="bias").model_dump(mode="json")
        wrong = {"family": "bias", "values": {"pairs": 99.0}}
        found = measured([json.loads(json.dumps(c)), wrong], "", AS_SHIPS)
        self.assertIsNone(found[1])
        self.assertEqual(len(found[0] or ()), len(KEYS))
        longer = json.dumps(DEFAULT_BLADE | {"outline": DEFAULT_BLADE["outline"] | {"length": 200.0}})
        self.assertGreater(details(c, longer, AS_SHIPS).mass, 1.2 * details(c, "", AS_SHIPS).mass)

    def test_nonsense_is_told_with_its_place(self) -> None:
        good = Want(feature="width", value=2.0)
        wrong: list[tuple[dict[str, Any], str]] = [
            ({}, "wants"),
            ({"wants": [Want(feature="smell", value=1.0)]}, "wants[0].feature"),
            ({"wants": [good, good]}, "wants[1].feature"),
            ({"wants": [good], "lacks": ["luck"]}, "lacks[0]"),
            ({"wants": [good], "pairings": [Pair(dark="1084", bright="unobtainium")]}, "pairings[0]"),
            ({"liked": [Candidate(family="weave")]}, "liked[0].family"),
            ({"wants": [good], "disliked": [Candidate(family="twist", values={"turns": -3.0})]}, "disliked[0].values.turns"),
        ]
        for said, place in wrong:
            with self.assertRaises(InputError) as caught:
                Search(Ask(**said))
            self.assertEqual(caught.exception.problems[0].path, place)

    def test_a_photo_is_wanted_by_its_shape_only(self) -> None:
        told = dict.fromkeys(KEYS, 10.0) | {"sides": float("nan")}
        wanted = {w.feature for w in wants_of(told, shape_only=True)}
        self.assertEqual(wanted, {k for k, f in FEATURES.items() if f.shape} - {"sides"})
        self.assertIn("contrast", {w.feature for w in wants_of(told)})
