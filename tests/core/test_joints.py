"""Loose piles stand nothing but a weld, and a weld is judged by what crosses the joint."""

from typing import Any

from django.test import SimpleTestCase

from varistrat.core.design.document import read_document
from varistrat.core.design.findings import findings_of
from varistrat.core.design.ledger import ledger_of
from varistrat.core.design.worked import Worked
from varistrat.core.errors import InputError
from varistrat.core.starters import STARTERS, of_steels


class LooseTests(SimpleTestCase):
    def rows(self, steps: list[dict[str, Any]], start: dict[str, Any] | None = None) -> list[list[tuple[str, str]]]:
        base = STARTERS["blank"].document()
        recipe = {**base["recipe"], "bar": {"start": start or base["recipe"]["bar"]["start"], "steps": steps}}
        worked = Worked.of(read_document({**base, "recipe": recipe}))
        return [[(f.code, f.grade) for f in r.findings] for r in ledger_of(worked)], worked  # type: ignore[return-value]

    def test_a_loose_pile_stands_nothing_but_a_weld(self) -> None:
        for kind in (
            {"kind": "draw", "width": 40.0, "thickness": 12.0},
            {"kind": "fold"},
            {"kind": "restack", "pieces": 2},
            {"kind": "section", "form": "octagon"},
            {"kind": "twist", "turns": 2.0, "hand": "right"},
            {"kind": "bend", "angle": 10.0, "radius": 200.0},
        ):
            try:
                rows, worked = self.rows([kind])  # type: ignore[misc]
            except InputError:
                continue
            if len(rows) > 1:
                self.assertIn(("not_welded", "stop"), rows[1], kind)
                self.assertIn("blade_not_welded", [f.code for f in findings_of(worked)] if worked.cut else ["blade_not_welded"])
        rows, worked = self.rows(
            [{"kind": "turn", "degrees": 180.0}, {"kind": "weld", "thickness": 20.0}, {"kind": "draw", "width": 40.0, "thickness": 6.0}]
        )  # type: ignore[misc]
        self.assertNotIn("not_welded", [c for r in rows for c, _ in r])
        self.assertNotIn("blade_not_welded", [f.code for f in findings_of(worked)])

    def test_a_weld_is_judged_by_what_crosses_the_joint(self) -> None:
        bars = [{"start": {"kind": "solid", "steel": k, "length": 100.0, "width": 18.0, "thickness": 20.0}} for k in ("1084", "15n20")]
        side = {"kind": "assembly", "join": "side_by_side", "bars": bars}

        def told(step: dict[str, Any], start: dict[str, Any] = side) -> dict[str, str]:
            rows, _ = self.rows([{"kind": "weld", **step}], start)  # type: ignore[misc]
            return dict(rows[1])

        self.assertEqual(told({"thickness": 20.0, "width": 31.0}), {})
        self.assertEqual(told({"thickness": 17.0}), {"weld_sideways": "note"})
        self.assertEqual(told({"thickness": 17.0, "width": 40.0}), {"weld_opens": "stop"})
        self.assertEqual(told({"thickness": 20.0, "width": 34.5}), {"weld_light": "care"})
        self.assertEqual(told({"thickness": 20.0, "width": 13.0})["weld_much"], "care")
        pile = {
            "kind": "stack",
            "layers": [{"steel": "1084", "thickness": 8.5}, {"steel": "15n20", "thickness": 8.5}] * 5,
            "width": 18.0,
            "length": 80.0,
        }
        self.assertEqual(told({"thickness": 35.0, "width": 35.0}, pile)["weld_buckles"], "stop")
        grown = told({"thickness": 400.0}, {**pile, "width": 60.0})
        self.assertEqual(grown, {"weld_opens": "stop"})

    def test_what_is_light_is_told_with_what_heals(self) -> None:
        """A weld heals by about 30 % in all, a first pass brings 5 to 10."""
        pile = {"kind": "stack", "layers": [{"steel": "1084", "thickness": 4}] * 5, "width": 30.0, "length": 80.0}
        _, worked = self.rows([{"kind": "weld", "thickness": 19.6}], pile)  # type: ignore[misc]
        light = next(f for r in ledger_of(worked) for f in r.findings if f.code == "weld_light")
        self.assertIn("falls by 2 %. A first pass takes 5 to 10 %", light.why)
        self.assertIn("about 30 % in all", light.why)

    def test_no_ready_start_has_a_weld_that_fails(self) -> None:
        for key, starter in STARTERS.items():
            worked = Worked.of(read_document(starter.document()))
            for address in worked.bars:
                codes = [f.code for r in ledger_of(worked, address) for f in r.findings]
                self.assertFalse({"not_welded", "weld_light", "weld_opens", "weld_much", "weld_buckles"} & set(codes), (key, codes))


class HeatsTests(SimpleTestCase):
    def test_the_floor_is_that_of_the_bar(self) -> None:
        document = of_steels(["wrought", "1095"], [2, 1], clad=True).document()
        worked = Worked.of(read_document(document))
        draw = next(f for f in worked.fire.fired if f.kind == "draw")
        self.assertLess(draw.heats, 20)
        one = Worked.of(read_document(of_steels(["1084", "1095"], [2, 1], clad=True).document()))
        plain = next(f for f in one.fire.fired if f.kind == "draw")
        self.assertLess(draw.heats, 3.0 * plain.heats)
