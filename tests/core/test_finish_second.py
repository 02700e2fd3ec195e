"""The finish derived a second time, another way: by small steps, by counting squares, by drawing at random. Both must agree."""

from math import atan, degrees, exp, hypot, radians, sin, tan
from typing import Any

import numpy as np
from django.test import SimpleTestCase
from hypothesis import given
from hypothesis import strategies as st

from tests.core.samples import STEELS, blade
from tests.core.test_etch_depth import alone, design
from tests.profile import examples
from varistrat.core.blade.areas import areas_of
from varistrat.core.blade.belts import Belt, bevel_plan
from varistrat.core.blade.geometry import Geometry
from varistrat.core.blade.grits import GRITS
from varistrat.core.etch.bath import Bath
from varistrat.core.etch.etchants import ETCHANTS
from varistrat.core.etch.mixing import StockSolution, mix_for, mixed
from varistrat.core.faults.inference import find
from varistrat.core.faults.knowledge import knowledge
from varistrat.core.figures import USUAL
from varistrat.core.finish.depth import etch
from varistrat.core.finish.edge_test import bevel_width, take_back
from varistrat.core.finish.sanding import sanding
from varistrat.core.pattern.picture import PREVIEW, draw
from varistrat.core.pattern.views import BladeView

KNOWN = knowledge()


class EtchInSmallStepsTests(SimpleTestCase):
    """Euler's way through the bath, a second at a time, the wear counted after each."""

    def by_seconds(self, bath: Bath, shares: dict[str, float], minutes: float, area: float) -> tuple[dict[str, float], float]:
        both = len({k == "15n20" for k in shares}) == 2
        factor = {k: (0.8 if k == "15n20" else 1.2) if both else 1.0 for k in shares}
        depth, iron = dict.fromkeys(shares, 0.0), bath.iron
        warm = exp(-45_000 / 8.314462 * (1 / (bath.temperature + 273.15) - 1 / 293.15))
        for _ in range(int(60 * minutes)):
            speed = (min(bath.strength, 20) / 10) ** 0.6 * warm * max(0.0, 1 - iron / bath.capacity)
            for key, share in shares.items():
                gone = STEELS[key].etch_rate * factor[key] * speed / 60
                depth[key] += gone
                iron += gone * 1e-3 * area * share * STEELS[key].density * 1e-6
        return depth, iron

    @examples(12)
    @given(st.floats(4, 25), st.floats(10, 40), st.floats(0.3, 4), st.floats(0, 0.6), st.floats(2_000, 40_000))
    def test_they_agree(self, strength: float, celsius: float, litres: float, used: float, area: float) -> None:
        bath = Bath(strength=strength, temperature=celsius, litres=litres)
        bath = bath.after(used * bath.capacity)
        shares = {"1084": 0.55, "15n20": 0.45}
        found = etch(bath, [alone(k, s) for k, s in shares.items()], [30.0], area, USUAL)
        depth, iron = self.by_seconds(bath, shares, 30.0, area)
        for key in shares:
            self.assertAlmostEqual(found.depths[key][-1], depth[key], delta=0.004 * depth[key] + 1e-6)
        self.assertAlmostEqual(found.bath.iron, iron, delta=0.004 * iron + 1e-6)

    def test_a_bath_that_runs_out(self) -> None:
        """A thimble of bath and a long night: no more leaves the blade than the bath takes up."""
        bath = Bath(litres=0.01)
        found = etch(bath, [alone("1084")], [600.0] * 4, 40_000, USUAL)
        self.assertAlmostEqual(found.bath.iron, bath.capacity, delta=0.01 * bath.capacity)
        self.assertAlmostEqual(found.bath.speed, 0.0, 2)


class MixingByMassTests(SimpleTestCase):
    @given(st.sampled_from(["ferric", "muriatic", "sulphuric", "vinegar"]), st.floats(0.05, 0.95), st.floats(20, 96), st.floats(1.0, 1.84))
    def test_what_goes_in_comes_out(self, what: Any, share: float, strong: float, density: float) -> None:
        """The chloride or acid weighed before and after is the same, whatever the volumes."""
        stock = StockSolution(strong, density)
        low, high = ETCHANTS[what].weakest, min(ETCHANTS[what].strongest, 0.99 * strong)
        if high <= low:
            return
        strength = low + share * (high - low)
        mix = mix_for(what, strength, 2.0, stock)
        self.assertAlmostEqual(mix.stock_grams * strong / 100, (mix.stock_grams + mix.solvent_grams) * strength / 100, 6)
        self.assertAlmostEqual(mix.stock + mix.solvent, 2000.0, 6)
        self.assertAlmostEqual(mixed(what, stock, mix.stock, mix.solvent).strength, strength, 6)


class AreaBySquaresTests(SimpleTestCase):
    def test_against_triangles(self) -> None:
        """The face cut into little triangles, each by its own corners."""
        for said in ({}, {"height": 30.0}, {"grind": {"kind": "convex", "edge_thickness": 0.5, "height": 22.0}}):
            geometry = Geometry.of(blade(**said))  # type: ignore[arg-type]
            x = np.linspace(0, geometry.length, 161)
            u = np.linspace(0, 1, 161)
            high = geometry.height(x)
            h = u[None, :] * high[:, None]
            area = 0.0
            faces = geometry.faces(x[:, None], h)
            for z in (faces.right, faces.left):
                p = np.stack([np.broadcast_to(x[:, None], h.shape), h, z], axis=-1)
                a, b, c, d = p[:-1, :-1], p[1:, :-1], p[:-1, 1:], p[1:, 1:]
                for one, two, three in ((a, b, c), (b, d, c)):
                    area += float(np.linalg.norm(np.cross(two - one, three - one), axis=-1).sum()) / 2
            self.assertAlmostEqual(areas_of(geometry).faces, area, delta=0.004 * area)


class BevelByGeometryTests(SimpleTestCase):
    @examples(30)
    @given(st.floats(0.005, 0.2), st.floats(15, 40))
    def test_a_belt_lifts_the_line_as_similar_triangles_say(self, takes: float, high: float) -> None:
        """d off square to a face that leans b lifts its top by d/sin of the angle it leans by."""
        side = {"kind": "flat", "height": high, "edge_thickness": 0.4}
        geometry = Geometry.of(blade(height=45.0, grind=side))
        plan = bevel_plan(geometry, "right", [Belt("coarse", 0.0), Belt("fine", takes)])
        lean = atan((4.0 - 0.4) / 2 / high)
        self.assertAlmostEqual(plan[1].top - plan[0].top, takes / sin(lean), delta=0.01 * takes / sin(lean))
        self.assertAlmostEqual(plan[0].edge - plan[1].edge, 2 * takes / np.cos(lean), delta=0.01 * takes)

    def test_the_whole_sequence_lands_on_the_plan(self) -> None:
        found = sanding(design("1084", "15n20", finish={"last": "P2000"}))
        lines = [g.right for g in found.grits if g.right]
        if lines:
            last = lines[-1]
            self.assertGreater(last.top, lines[0].top)
            takes = sum(g.takes for g in found.grits)
            self.assertAlmostEqual(takes, sum(1.3 * 0.2 * GRITS[g.grit].grain / 1000 for g in found.grits[:-1]), 9)
            self.assertAlmostEqual(lines[0].edge - last.edge, 2 * takes, delta=0.05 * takes)


class EdgeByTrianglesTests(SimpleTestCase):
    @given(st.floats(0.05, 2.0), st.floats(10, 60))
    def test_width(self, behind: float, angle: float) -> None:
        """Half the thickness over the bevel's slope, by Pythagoras."""
        depth = behind / 2 / tan(radians(angle) / 2)
        self.assertAlmostEqual(bevel_width(behind, angle), hypot(depth, behind / 2), 9)

    @given(st.floats(0.05, 0.5), st.floats(0.5, 1.5), st.floats(2, 20))
    def test_taking_back(self, behind: float, wanted: float, primary: float) -> None:
        back = take_back(behind, wanted, primary)
        self.assertAlmostEqual(behind + 2 * back * tan(radians(primary) / 2), wanted, 9)
        self.assertAlmostEqual(degrees(2 * atan((wanted - behind) / 2 / back)), primary, 6) if wanted > behind + 1e-6 else None


class BayesByDrawingTests(SimpleTestCase):
    def test_odds_as_counted(self) -> None:
        """A hundred thousand smiths with the same fault: of those with these answers, so many had each cause."""
        rng = np.random.default_rng(3)
        seen = "edge_chips"
        causes = KNOWN.seen[seen].causes
        keys = list(causes)
        p = np.array(list(causes.values())) / sum(causes.values())
        truth = rng.choice(len(keys), 200_000, p=p)
        answers = {keys[0]: False, keys[1]: False}
        keep = np.ones(len(truth), bool)
        for cause, yes in answers.items():
            chance = np.array([KNOWN.chance(cause, k) for k in keys])[truth]
            keep &= (rng.random(len(truth)) < chance) == yes
        counted = np.bincount(truth[keep], minlength=len(keys)) / keep.sum()
        told = {s.cause: s.odds for s in find(seen, {}, answers).suspects}
        for key, share in zip(keys, counted, strict=True):
            self.assertAlmostEqual(told[key], share, delta=0.006)

    def test_the_look_that_tells_most_by_counting(self) -> None:
        """Expected bits of each look against those counted from drawn smiths."""
        seen = "dark_gap"
        causes = KNOWN.seen[seen].causes
        p = {k: v / sum(causes.values()) for k, v in causes.items()}

        def bits(of: dict[str, float]) -> float:
            whole = sum(of.values())
            return -sum(v / whole * np.log2(v / whole) for v in of.values() if v > 0)

        for look in find(seen, {}, {}).looks:
            yes = {k: v * KNOWN.chance(look.cause, k) for k, v in p.items()}
            no = {k: v * (1 - KNOWN.chance(look.cause, k)) for k, v in p.items()}
            told = bits(p) - sum(yes.values()) * bits(yes) - sum(no.values()) * bits(no)
            self.assertAlmostEqual(look.tells, told, 9, look.cause)
        rates = [look.tells / look.minutes for look in find(seen, {}, {}).looks]
        self.assertEqual(rates, sorted(rates, reverse=True))

    @given(st.permutations(["outer_thin", "not_tacked", "heated_too_fast"]), st.lists(st.booleans(), min_size=3, max_size=3))
    def test_the_order_of_answers_says_nothing(self, order: list[str], said: list[bool]) -> None:
        answers = dict(zip(order, said, strict=True))
        sorted_ = dict(sorted(answers.items()))
        one = {s.cause: s.odds for s in find("outer_layer_lifts", {"outer_layer": 2.4}, answers).suspects}
        two = {s.cause: s.odds for s in find("outer_layer_lifts", {"outer_layer": 2.4}, sorted_).suspects}
        for cause, odds in one.items():
            self.assertAlmostEqual(odds, two[cause], 12)
        self.assertAlmostEqual(sum(one.values()), 1.0, 12)


class PictureAgreesTests(SimpleTestCase):
    """What the film draws is what the sums say: tone by steel, shading by depth."""

    def test_the_picture_is_darker_where_more_is_eaten(self) -> None:
        from concurrent.futures import ThreadPoolExecutor

        from varistrat.core.finish.cycles import etch_plan
        from varistrat.core.finish.film import film, subject_at

        w = design("1084", "15n20", finish={"relief": 12.0})
        view = BladeView(w.blade.placed, "right", 0.0)
        with ThreadPoolExecutor(1) as pool:
            means = {s.key: float(draw(subject_at(w, s), view, 200, pool, PREVIEW).mean()) for s in film(w, etch_plan(w))}
        self.assertGreater(means["first"], means["third"])
        self.assertGreater(means["third"], means["oxide"])
        self.assertGreater(means["polished"], means["oxide"])

    def test_relief_shades_more_the_deeper(self) -> None:
        from concurrent.futures import ThreadPoolExecutor

        from varistrat.core.pattern.picture import SCREEN, Subject

        w = design("1084", "15n20")
        view = BladeView(w.blade.placed, "right", 0.0)
        flat = {"1084": 5.0, "15n20": 5.0}
        with ThreadPoolExecutor(1) as pool:

            def drawn(depths: dict[str, float]) -> Any:
                subject = Subject(w.blade.trace, {"1084": 5.0, "15n20": 5.0}, 0.035, depths)
                return draw(subject, view, 300, pool, SCREEN).astype(float)

            even = drawn(flat)
            some, more = (drawn({"1084": 5.0 + d, "15n20": 5.0}) for d in (6.0, 25.0))
        apart = [float(np.abs(one - even).mean()) for one in (some, more)]
        self.assertGreater(apart[0], 0.02)
        self.assertGreater(apart[1], 1.5 * apart[0])


class FaradayByChargeTests(SimpleTestCase):
    def test_atoms_counted(self) -> None:
        """Amperes times seconds over the charge of two electrons: atoms; times their mass."""
        from varistrat.core.finish.mark import dissolved

        atoms = 2.0 * 45 / (2 * 1.602176634e-19)
        self.assertAlmostEqual(dissolved(2.0, 45), atoms * 55.845 / 6.02214076e23, 6)
