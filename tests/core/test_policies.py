"""Where lines are drawn: each a number of the shop's trade that somebody chose, held by a case on either side of it."""

from typing import Any

from django.test import SimpleTestCase

from tests.core.samples import forged
from varistrat.core.advice import may_have_homogenised
from varistrat.core.bars.bar import Loss
from varistrat.core.bars.fresh import fresh_step, left_by
from varistrat.core.bars.steps import STEPS
from varistrat.core.cutting.edge import EdgeSteel
from varistrat.core.design.document import read_document
from varistrat.core.design.worked import Worked
from varistrat.core.heat.fires.fire import Fire, work_the_fire
from varistrat.core.laminate.core import find_core
from varistrat.core.starters import STARTERS


def pile(*steels: str) -> dict[str, Any]:
    return {"kind": "stack", "width": 40.0, "length": 100.0, "layers": [{"steel": s, "thickness": 3.0} for s in steels]}


def core_of(start: dict[str, Any], *steps: dict[str, Any]) -> str | None:
    found = find_core(forged(start, *steps), lambda: self_evident())
    return found.steel if found else None


def self_evident() -> Any:
    raise AssertionError("a pile says it without being looked at along its edge")


class CoreTests(SimpleTestCase):
    def test_nine_layers_are_a_laminate_and_eleven_a_pattern(self) -> None:
        for side, core in ((("1018", "nickel", "1018", "nickel"), "1095"), (("1018", "nickel", "1018", "nickel", "1018"), None)):
            self.assertEqual(core_of(pile(*side, "1095", *reversed(side))), core, len(side))

    def test_which_steps_leave_a_laminate_one(self) -> None:
        kinds = {s.model_fields["kind"].default: s for s in STEPS}
        self.assertEqual({k for k, s in kinds.items() if s.plain}, {"weld", "draw", "grind", "trim", "bend"})
        five = pile("nickel", "1018", "1095", "1018", "nickel")
        self.assertEqual(core_of(five, {"kind": "trim", "start": 2.0}), "1095")
        self.assertIsNone(core_of(five, {"kind": "draw", "width": 20.0, "thickness": 20.0}, {"kind": "turn", "degrees": 90.0}))

    def test_which_steps_begin_with_the_hammers_marks(self) -> None:
        """A shop's own hand goes into a new one, never more than a thirtieth of what it leaves thick."""
        bar = forged(pile("1095", "15n20", "1095"), {"kind": "weld", "thickness": 8.0}).bar
        hands = {"hammer": {"amount": 0.2, "wavelength": 31.0, "seed": 1.0}}
        marked = {k: new["uneven"] for s in STEPS if (new := fresh_step(k := s.model_fields["kind"].default, bar, hands)).get("uneven")}
        self.assertEqual(set(marked), {"weld", "draw", "fold"})
        for kind, uneven in marked.items():
            self.assertEqual(uneven["wavelength"], 31.0, kind)
        thick = forged(pile(*["1095", "15n20"] * 6)).bar
        amounts = [left_by({"amount": 0.3}, t)["amount"] for t in (9.0, 6.0, 3.0)]
        self.assertEqual(amounts, [0.3, 0.2, 0.1])
        self.assertLessEqual(fresh_step("fold", thick)["uneven"]["amount"], 0.3)

    def test_a_sliver_of_the_edge_has_no_say(self) -> None:
        worked = Worked.of(read_document(STARTERS["three_layer"].document()))
        for others, at in ((3, {"1095"}), (5, {"1095", "1018"})):
            edge = [EdgeSteel(i + 0.5, "1018" if i < others else "1095", 0.2, 0.4) for i in range(100)]
            worked.__dict__.pop("at_edge", None)
            worked.__dict__["edge"] = edge
            self.assertEqual(set(worked.at_edge), at, others)


class FireTests(SimpleTestCase):
    def test_carbon_is_asked_after_in_thin_layers_only(self) -> None:
        self.assertTrue(may_have_homogenised(0.39))
        self.assertFalse(may_have_homogenised(0.41))

    def test_what_opens_a_can(self) -> None:
        kinds = {s.model_fields["kind"].default: s for s in STEPS}
        self.assertEqual({k for k, s in kinds.items() if s.opens_can}, {"grind", "trim"})
        can = {"kind": "canister", "length": 100.0, "width": 40.0, "thickness": 40.0, "matrix": {"steel": "1084", "packing": 0.6}}
        steps: list[dict[str, Any]] = [
            {"kind": "weld", "thickness": 20.0},
            {"kind": "trim", "start": 1.0},
            {"kind": "draw", "width": 30.0, "thickness": 15.0},
        ]
        gas = [f.atmosphere for f in work_the_fire(Fire(), forged(can, *steps)).fired]
        self.assertEqual(gas, ["sealed", "neutral"])
        for release, then in (("peels", "neutral"), ("ground", "sealed")):
            whole = work_the_fire(Fire(), forged({**can, "release": release}, steps[0], steps[2])).fired
            self.assertEqual([f.atmosphere for f in whole], ["sealed", then], release)

    def test_hands_are_left_by_what_is_done_by_hand(self) -> None:
        kinds = {s.model_fields["kind"].default: s for s in STEPS}
        self.assertEqual({k for k, s in kinds.items() if s.by_hand}, {"weld", "draw", "fold"})
        self.assertEqual({k for k, s in kinds.items() if s.spreads}, {"draw"})


class LossTests(SimpleTestCase):
    def test_kinds_of_loss(self) -> None:
        """Files, screens and waterfalls call them so: none goes, none is called otherwise."""
        self.assertEqual([k.value for k in Loss], ["scale", "grind", "kerf", "ends", "offcut", "wedges", "relief", "fit"])
