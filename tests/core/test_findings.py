"""What can be found is declared once: its place, its grades, its sentence."""

import re
from pathlib import Path
from unittest import TestCase

from varistrat.core.bars.joints import WELD_OPENS
from varistrat.core.bars.steps.split import SPLIT_COST
from varistrat.core.findings import Code, every_code

ROOT = Path(__file__).parents[2]


class FindingTest(TestCase):
    def test_a_finding_is_told_with_its_sentence_grade_and_figures(self) -> None:
        found = SPLIT_COST.found("It opens.", "Press it.", grade="note", share=12.4, field="flatten", value=0.0, unit="%")
        self.assertEqual((found.code, found.grade), ("split_cost", "note"))
        self.assertEqual(found.what, "Grinding the faces flat again costs 12 % of the bar.")
        self.assertEqual(found.as_json()["value"], 0.0)
        self.assertNotIn("limit", found.as_json())
        self.assertNotEqual(WELD_OPENS.found("", "", grade="care").what, WELD_OPENS.found("", "", grade="stop").what)

    def test_a_grade_it_cannot_have_a_word_it_does_not_know_and_one_it_misses_are_refused(self) -> None:
        for wrong in ({"share": 3.0}, {"share": 3.0, "grade": "stop"}, {"share": 3.0, "grade": "note", "by": 2.0}):
            with self.assertRaises(ValueError, msg=wrong):
                SPLIT_COST.found("why", "do", **wrong)  # type: ignore[arg-type]
        with self.assertRaises(KeyError):
            SPLIT_COST.found("why", "do", grade="care")

    def test_a_code_is_declared_once_with_grades_in_order_and_a_sentence_for_each(self) -> None:
        for name, grades, says in [
            ("weld_opens", ("stop",), "Again."),
            ("no_grade", (), "None."),
            ("order", ("stop", "care"), "Backwards."),
            ("lacks", ("note", "care", "stop"), {"care": "It leans.", "stop": "It falls."}),
        ]:
            with self.assertRaises(ValueError, msg=name):
                Code(name, "bar", grades, says)  # type: ignore[arg-type]
        self.assertFalse({"no_grade", "order", "lacks"} & {c.name for c in every_code()})

    def test_findings_are_made_from_their_codes_only(self) -> None:
        made = [p for p in (ROOT / "varistrat").rglob("*.py") if re.search(r"\bFinding\(", p.read_text()) and p.name != "findings.py"]
        self.assertEqual(made, [])

    def test_every_code_is_used_and_all_are_in_the_list(self) -> None:
        text = "\n".join(p.read_text() for p in (ROOT / "varistrat" / "core").rglob("*.py"))
        listed = (ROOT / "docs" / "findings.md").read_text()
        codes = every_code()
        self.assertGreater(len(codes), 80)
        for code in codes:
            self.assertRegex(text, rf"\b{code.name.upper()}\b(?! = Code)", code.name)
            self.assertIn(f"| `{code.name}` | {', '.join(code.grades)} |", listed)
        self.assertEqual(len(re.findall(r"^\| `", listed, re.M)), len(codes))
