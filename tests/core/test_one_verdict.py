"""One fact is decided in one place: what the design, the fire, the hardening and the pairing say of a blade agrees."""

import re
from typing import Any

from django.test import SimpleTestCase

from tests.core.samples import STEELS, solid, stack
from varistrat.core.advice import MAY_HOMOGENISE
from varistrat.core.bars.forged import forge
from varistrat.core.bars.recipe import BarRecipe
from varistrat.core.cutting.cut import Cut
from varistrat.core.design.document import read_document
from varistrat.core.design.findings import findings_of, late_findings_of
from varistrat.core.design.fire_sheet import fire_sheet
from varistrat.core.design.hardening_sheet import hardening_sheet
from varistrat.core.design.worked import Worked
from varistrat.core.errors import InputError
from varistrat.core.heat.fires.homogenisation import homogeneity
from varistrat.core.heat.hardening.plan import hardening_plan
from varistrat.core.pairing.pairing import Pairing
from varistrat.core.reading import parse
from varistrat.core.route.route import route_of
from varistrat.core.starters import DEFAULT_BLADE, STARTERS, design, of_steels
from varistrat.core.stock.begun import begun
from varistrat.core.stock.sheet import stock_of
from varistrat.core.stock.ways import made_so
from varistrat.demo.shop import DESIGNS

NEVER_BOTH = (
    ("edge_clad", "edge_soft"), ("edge_clad", "edge_mixed"), ("edge_clad", "edge_taken"), ("edge_soft", "edge_mixed"),
    ("edge_soft", "edge_steel_thin"), ("edge_clad", "edge_steel_thin"), ("layers_haze", "layers_fine"), ("layers_haze", "layers_lost"),
    ("layers_fine", "carbon_evened"), ("too_slow", "too_fast"), ("weld_hot", "weld_cold"), ("weld_light", "weld_much"),
)  # fmt: skip
"""Codes that would deny or repeat one another."""


def every_design() -> list[tuple[str, dict[str, Any]]]:
    starts = [(key, s.document()) for key, s in STARTERS.items()]
    return starts + [(name, document) for name, _, document in DESIGNS]


class AgreeTests(SimpleTestCase):
    def test_no_design_is_told_two_things_of_one_fact(self) -> None:
        seen: set[str] = set()
        for name, document in every_design():
            with self.subTest(name):
                w = Worked.of(read_document(document))
                told = findings_of(w) + late_findings_of(w)
                plans = hardening_plan(w.hardening) if w.hardening.parts else []
                steps = [f.as_json() for p in plans for f in p.findings]
                codes = [f.code for f in told]
                self.assertEqual(
                    len(codes), len(set(codes) | {c for c in codes if c == "clad_thin"}) + max(0, codes.count("clad_thin") - 1)
                )
                for a, b in NEVER_BOTH:
                    self.assertFalse(a in codes and b in codes, f"{a} beside {b}")
                    at_steps = {f["code"] for f in steps}
                    self.assertFalse({a, b} <= at_steps, f"{a} beside {b}")
                self.agrees(w, set(codes))
                seen |= set(codes)
        self.assertGreater(len(seen), 2, "something must be told, or nothing is tried")

    def agrees(self, w: Worked, codes: set[str]) -> None:
        fire = w.fire
        last = fire.fired[-1]
        self.assertAlmostEqual(fire.left, last.uneven, 9, "the end of the fire and its last step")
        fine = codes & {"layers_lost", "layers_haze", "layers_fine"}
        if w.cut and w.thinnest is not None and not fine:
            self.assertEqual("carbon_evened" in codes, w.thinnest < MAY_HOMOGENISE and homogeneity(last.uneven) == "even", "even carbon")
        if not w.cut:
            return
        self.assertEqual(w.quench, w.hardening.quench, "the quench")
        at = {e.steel for e in w.edge}
        hardens = {p.steel.key for p in w.hardening.parts if p.hardens}
        soft = {k for k in w.at_edge if k not in hardens}
        self.assertEqual(bool(codes & {"edge_soft", "edge_clad"}), bool(soft), f"steel at the edge: {sorted(at)}")
        self.assertEqual({p.steel.key for p in w.hardening.parts if p.edge}, set(w.at_edge), "which steels the edge is of")

    def test_layers_that_kept_their_carbon_are_not_called_even(self) -> None:
        """A 0.15 mm nickel sheet beside a thick core is thin, but the carbon of core and clad stays where it is."""
        for key in ("five_layer", "clad_core"):
            w = Worked.of(read_document(STARTERS[key].document()))
            self.assertLess(w.thinnest or 9, MAY_HOMOGENISE)
            self.assertEqual(homogeneity(w.fire.left), "own")
            self.assertNotIn("carbon_evened", {f.code for f in late_findings_of(w)})


class SheetTests(SimpleTestCase):
    """A hard sheet laid between two pieces is the core."""

    def design(self, sheet: str, clad: str = "1018", *more: dict[str, Any], pieces: int = 2, thickness: float = 6.0) -> Worked:
        steps = [
            {"kind": "restack", "pieces": pieces, "interleaf": {"steel": sheet, "thickness": thickness}},
            {"kind": "weld", "thickness": 22.0},
            *more,
            {"kind": "draw", "width": 40.0, "thickness": 5.0},
        ]
        return Worked.of(read_document(design(solid(200, 40, 10, clad), steps, DEFAULT_BLADE)))

    def test_it_is_found_and_measured(self) -> None:
        """10 + 6 + 10 mm: the core is 6 of 26 of the thickness, in the middle."""
        w = self.design("80crv2")
        assert w.cut and w.cut.part and w.cut.flat_core
        self.assertEqual((w.cut.part.steel, w.cut.part.low, w.cut.part.high), ("80crv2", 10.0, 16.0))
        self.assertAlmostEqual(w.cut.flat_core[0], 6 / 26, 2)
        self.assertAlmostEqual(w.cut.flat_core[1], 0.0, 6)
        lines = list(w.cut.exposure(5))
        self.assertTrue(all(s.state == "line" for s in lines))
        codes = {f.code for f in findings_of(w)}
        self.assertFalse(codes & {"edge_clad", "edge_soft"}, "80CrV2 lies all along the edge")

    def test_its_line_is_that_of_a_pile_of_three(self) -> None:
        w = self.design("80crv2")
        assert w.cut
        pile = stack(("1018", 10.0), ("80crv2", 6.0), ("1018", 10.0), width=40, length=100)
        steps = [{"kind": "weld", "thickness": 22.0}, {"kind": "draw", "width": 40.0, "thickness": 5.0}]
        three = Worked.of(read_document(design(pile, steps, DEFAULT_BLADE)))
        assert three.cut
        for a, b in zip(w.cut.exposure(7), three.cut.exposure(7), strict=True):
            self.assertAlmostEqual(a.shown[0][1], b.shown[0][1], 4)

    def test_what_is_no_core(self) -> None:
        fold = {"kind": "fold"}
        for w in (self.design("nickel"), self.design("80crv2", pieces=3), self.design("80crv2", "1018", fold)):
            assert w.cut
            self.assertIsNone(w.cut.part)

    def test_its_steel_counts_in_the_mass(self) -> None:
        """Two pieces 100 x 40 x 10 of 1018 and a 2 mm sheet of nickel: the masses add up."""
        bar = {
            "start": solid(200, 40, 10, "1018"),
            "steps": [{"kind": "restack", "pieces": 2, "interleaf": {"steel": "nickel", "thickness": 2.0}}],
        }
        f = forge(parse(BarRecipe, bar))
        want = (80_000 * STEELS["1018"].density + 8_000 * STEELS["nickel"].density) * 1e-6
        self.assertAlmostEqual(f.rows()[-1]["mass"], want, 6)
        self.assertAlmostEqual(f.put_in()[1], want, 6)
        self.assertAlmostEqual(f.density * f.bar.volume, want, 6)
        # what is drawn and ground off later goes evenly
        bar["steps"] += [{"kind": "weld", "thickness": 20.0}, {"kind": "grind", "top": 1.0}]
        drawn = forge(parse(BarRecipe, bar))
        self.assertAlmostEqual(drawn.density, f.density, 12)

    def test_clad_at_the_edge_is_told_by_what_lies_there(self) -> None:
        """The core runs off the edge to one side: the middle of the edge is clad, and that alone decides."""
        pile = stack(("1018", 15.0), ("1095", 3.0), ("1018", 2.0), width=40, length=100)
        steps = [{"kind": "weld", "thickness": 18.0}, {"kind": "draw", "width": 40.0, "thickness": 5.0}]
        cold = {"fire": {"steps": [{"at": i, "heats": 1, "celsius": 900, "minutes": 1} for i in (0, 1)]}}
        w = Worked.of(read_document(design(pile, steps, DEFAULT_BLADE) | cold))
        found = [f for f in findings_of(w) if f.code == "edge_clad"]
        self.assertEqual(len(found), 1)
        self.assertTrue(re.search(r"Over \d+ % of its length", found[0].why))
        assert isinstance(w.cut, Cut)
        self.assertAlmostEqual(found[0].value, 100 * sum(e.steel == "1018" for e in w.edge) / len(w.edge))


PAIRS = (
    ("1084", "15n20"), ("1095", "15n20"), ("o1", "l6"), ("c105", "15n20"), ("80crv2", "15n20"), ("w1", "15n20"), ("1084", "nickel"),
    ("o1", "15n20"), ("5160", "15n20"), ("1075", "15n20"),
)  # fmt: skip


class OneHeatTests(SimpleTestCase):
    """Pairing, Heat, the shop sheet and the build name one hardening heat, one soak and one bath for a pair."""

    def test_patterned_and_clad(self) -> None:
        told = 0
        for keys in PAIRS:
            for clad in (False, True):
                pairing = Pairing.of([STEELS[k] for k in keys], use="clad" if clad else "edge")
                if pairing.window is None:
                    continue
                begins = begun(read_document(of_steels(keys, clad=clad).document()))
                drawn = Worked.of(begins)
                for w in (drawn, Worked.of(made_so(drawn, stock_of(drawn)))):
                    sheet = hardening_sheet(w)
                    said = (sheet.heat, sheet.soak, sheet.quench)
                    self.assertEqual(said, (pairing.heat, float(round(pairing.soak)), pairing.quench), (keys, clad))
                    self.assertEqual(w.quench, sheet.quench, (keys, clad))
                    (harden,) = [o for o in route_of(w).operations if o.id == "blade:harden-heat"]
                    self.assertIn(f"{sheet.heat:.0f} C", harden.say)
                    told += 1
        self.assertGreater(told, 30)

    def test_what_the_fire_takes_is_one_number_in_words_and_on_the_clock(self) -> None:
        for name, document in every_design():
            w = Worked.of(read_document(document))
            fires = {f.step: f for f in fire_sheet(w).steps}
            try:
                operations = route_of(w).operations
            except InputError:
                continue
            for o in (o for o in operations if o.kind == "fire"):
                f = fires[o.step or ""]
                clock = next(t.minutes for t in o.timers if not t.again)
                said = re.search(r"(\d+) min in the fire from cold, (\d+) of them", o.say)
                assert said, (name, o.say)
                self.assertEqual((int(said[1]), int(said[2])), (round(clock), round(f.soak)), name)
                self.assertAlmostEqual(clock, f.soak + f.minutes)
                (heats,) = [t.value for t in o.targets if t.quantity == "heats"]
                self.assertEqual(heats, f.heats)
            hours = sum(f.all_in_fire for f in w.fire.fired) / 60
            self.assertAlmostEqual(fire_sheet(w).hours, hours)
