"""What a blade is for: what is suggested, and where a design is otherwise."""

from itertools import pairwise
from typing import Any

from django.test import SimpleTestCase

from varistrat.core.blade.measures import FOR_USE
from varistrat.core.design.document import read_document
from varistrat.core.design.worked import Worked
from varistrat.core.errors import InputError
from varistrat.core.finish.purpose import PURPOSES, SUGGESTED, suits
from varistrat.core.starters import STARTERS


def design(edge: float = 0.2, shape: str = "drop_point", target: float | None = None) -> Worked:
    data: dict[str, Any] = STARTERS["bold_twist"].document()
    for side in ("right", "left"):
        data["blade"]["grind"][side]["edge_thickness"] = edge
    data["blade"]["outline"]["shape"] = shape
    if target is not None:
        data["hardening"] = {"wanted": target}
    return Worked.of(read_document(data))


class PurposeTests(SimpleTestCase):
    def test_the_harder_it_works_the_thicker_and_softer(self) -> None:
        order = [SUGGESTED[p] for p in ("slicing", "carving", "chopping", "heavy work")]
        for a, b in pairwise(order):
            self.assertLess(a.behind[0], b.behind[0])
            self.assertLess(a.angle[0], b.angle[0])
            self.assertGreater(a.hardness[1], b.hardness[1])
        self.assertEqual(SUGGESTED["slicing"].behind, FOR_USE["slicing"])
        self.assertEqual(set(SUGGESTED), set(PURPOSES))

    def test_an_edge_within_says_nothing_and_one_beyond_does(self) -> None:
        low, high = SUGGESTED["slicing"].behind
        for edge, word in ((low, None), (high, None), (low - 0.01, "thinner"), (high + 0.01, "thicker")):
            said = [d for d in suits(design(edge), "slicing").differs if d.startswith("The edge")]
            self.assertEqual(len(said), int(word is not None), edge)
            if word:
                self.assertIn(f"{word} than 0.15 to 0.30 mm for slicing", said[0])

    def test_hardness_after_the_temper_and_only_beyond_its_own_width(self) -> None:
        """The plan tempers to what is wanted, so that is what it will be."""
        for wanted, purpose, word in (
            (60.0, "slicing", None),
            (60.0, "heavy work", "about 60 HRC, harder than 54 to 57"),
            (56.0, "heavy work", None),
            (54.0, "slicing", "about 54 HRC, softer than 60 to 63"),
        ):
            said = [d for d in suits(design(target=wanted), purpose).differs if "HRC" in d]  # type: ignore[arg-type]
            self.assertEqual(len(said), int(word is not None), (wanted, purpose, said))
            if word:
                self.assertIn(word, said[0])
        # a hair within and beyond how surely it is known
        sure = design(target=58.0).hardening.sure
        high = SUGGESTED["heavy work"].hardness[1]
        for off, much in ((-0.2, 0), (0.2, 1)):
            said = [d for d in suits(design(target=high + sure + off), "heavy work").differs if "HRC" in d]
            self.assertEqual(len(said), much, off)

    def test_an_outline_that_suits_another_work(self) -> None:
        self.assertIn("drop point or straight back suits slicing better", suits(design(shape="leaf"), "slicing").differs[-1])
        self.assertFalse(any("outline" in d for d in suits(design(shape="leaf"), "chopping").differs))

    def test_no_blade_nothing_to_suit(self) -> None:
        with self.assertRaises(InputError):
            suits(Worked.of(read_document({"recipe": STARTERS["bold_twist"].document()["recipe"]})), "slicing")
