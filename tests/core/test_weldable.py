"""What a steel asks of the fire, told alike by pairing, fire, a new step and a start begun from a pairing."""

from typing import Any

from django.test import SimpleTestCase

from tests.core.samples import STEELS
from varistrat.core.bars.fresh import fresh_step
from varistrat.core.design.document import read_document
from varistrat.core.design.standing import against
from varistrat.core.design.worked import Worked
from varistrat.core.findings import Finding
from varistrat.core.pairing.pairing import Pairing
from varistrat.core.starters import design, of_steels
from varistrat.core.steels.weldable import wants_seal


def found(*steels: str, fire: dict[str, Any] | None = None, weld: dict[str, Any] | None = None) -> list[Finding]:
    layers = [{"steel": s, "thickness": 6.0} for s in (*steels, steels[0])]
    steps = [
        {"kind": "weld", "thickness": 15.0, "id": "w"} | (weld or {}),
        {"kind": "draw", "width": 40.0, "thickness": 8.0, "id": "d"},
    ]
    data = design({"kind": "stack", "layers": layers, "width": 40.0, "length": 90.0}, steps, None) | {"fire": fire or {}}
    worked = Worked.of(read_document(data))
    return [f for fired in worked.fire.fired for f in fired.findings]


def codes(*steels: str, **more: Any) -> set[str]:
    return {f.code for f in found(*steels, **more)}


def drawn_at(celsius: float) -> dict[str, Any]:
    return {"steps": [{"step": "d", "celsius": celsius}]}


class SealTests(SimpleTestCase):
    def test_chromium_over_four_per_cent_is_sealed_or_refused_with_the_cure(self) -> None:
        self.assertEqual(
            {k for k, s in STEELS.items() if wants_seal(s)} & {"304", "a2", "d2", "1095", "80crv2", "nickel"}, {"304", "a2", "d2"}
        )
        (stop,) = [f for f in found("1095", "304") if f.code == "wants_seal"]
        self.assertEqual((stop.grade, stop.value, stop.limit), ("stop", 18.2, 4.0))
        self.assertIn("use a can", stop.do)
        self.assertIn("poisonous", stop.do)
        self.assertIn("wants_seal", codes("1095", "304", weld={"atmosphere": "dry"}))
        self.assertNotIn("wants_seal", codes("1095", "304", weld={"atmosphere": "sealed"}))
        self.assertNotIn("wants_seal", codes("1095", "15n20"))

    def test_a_start_from_the_pairing_that_says_so_is_sealed(self) -> None:
        pairing = Pairing.of([STEELS["1095"], STEELS["304"]])
        weld = next(r for r in pairing.reasons if r.aspect == "weld")
        self.assertIn("welds only sealed", weld.what)
        for clad in (False, True):
            begun = Worked.of(read_document(of_steels(["1095", "304"], clad=clad).document()))
            self.assertEqual(begun.fire.fired[0].atmosphere, "sealed")
            self.assertNotIn("wants_seal", {a.finding.code for a in against(begun)})
        self.assertNotIn("atmosphere", of_steels(["1095", "15n20"]).steps[0])

    def test_a_new_weld_is_too(self) -> None:
        bar = Worked.of(read_document(of_steels(["1095", "304"]).document())).forged.bar
        self.assertEqual(fresh_step("weld", bar, sealed=True)["atmosphere"], "sealed")
        self.assertNotIn("atmosphere", fresh_step("weld", bar))
        self.assertNotIn("atmosphere", fresh_step("twist", bar, sealed=True))


class ForgeTests(SimpleTestCase):
    def test_outside_the_forging_range_by_more_than_it_is_known(self) -> None:
        self.assertEqual((STEELS["wrought"].forge[0], STEELS["w1"].forge[1]), (950.0, 1065.0))
        for steel in ("d2", "wrought", "1084", "w1"):
            low, high = STEELS[steel].forge
            for celsius, code in (
                (low - 30, "forge_cold"), (low - 20, ""), (high + 20, ""), (high + 30, "forge_hot"),
            ):  # fmt: skip
                told = {f.code for f in found(steel, steel, fire=drawn_at(celsius)) if f.code.startswith("forge_")}
                # what melts or burns already is told as that
                self.assertLessEqual(told, {code} - {""}, (steel, celsius))
                if code and celsius < STEELS[steel].solidus - 60:
                    self.assertEqual(told, {code}, (steel, celsius))

    def test_the_plans_own_heat_is_within(self) -> None:
        for pair in (("1084", "15n20"), ("1095", "wrought"), ("w1", "15n20"), ("d2", "1084")):
            self.assertEqual({c for c in codes(*pair, weld={"atmosphere": "sealed"}) if c.startswith("forge_")}, set(), pair)

    def test_seams_and_sulphur(self) -> None:
        self.assertIn("seams_run", codes("meteoritic", "15n20"))
        self.assertNotIn("seams_run", {f.code for f in found("meteoritic", "15n20", fire=drawn_at(980.0)) if f.value == 980.0})
        self.assertIn("Seams in", next(r for r in Pairing.of([STEELS["meteoritic"], STEELS["15n20"]]).reasons if r.aspect == "weld").what)
        self.assertIn("sulphur", codes("1084", "nickel"))
        self.assertNotIn("sulphur", codes("1084", "nickel", weld={"atmosphere": "sealed"}))
        weld = next(r for r in Pairing.of([STEELS["1084"], STEELS["nickel"]]).reasons if r.aspect == "weld")
        self.assertIn("fire with sulphur", weld.why)

    def test_free_machining_steel_does_not_weld_well(self) -> None:
        turned = STEELS["1084"].model_copy(
            update={"key": "turned", "name": "Turned", "composition": {**STEELS["1084"].composition, "S": 0.3}}
        )
        weld = next(r for r in Pairing.of([turned, STEELS["15n20"]]).reasons if r.aspect == "weld")
        self.assertEqual((weld.grade, weld.value), ("care", 0.3))
        plain = turned.model_copy(update={"composition": {**turned.composition, "S": 0.05}})
        self.assertEqual(next(r for r in Pairing.of([plain, STEELS["15n20"]]).reasons if r.aspect == "weld").grade, "note")
