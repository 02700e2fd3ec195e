"""What stands against making a design as it is, with its place; what a change makes worse."""

from typing import Any

from django.test import SimpleTestCase

from varistrat.core.design.document import read_document
from varistrat.core.design.standing import Against, against, made_worse
from varistrat.core.design.worked import Worked
from varistrat.core.starters import STARTERS
from varistrat.core.stock.need import Allowance
from varistrat.core.stock.ways import ways_to_save


def twisted(turns: float, **more: Any) -> Worked:
    """A knife of one twisted bar: from 3.5 of shear laminates begin to tear, at 5 the skin tears."""
    data = STARTERS["bold_twist"].document() | more
    twist = next(s for s in data["recipe"]["bar"]["steps"] if s["kind"] == "twist")
    twist["turns"] = turns
    return Worked.of(read_document(data))


def told(found: tuple[Against, ...]) -> list[tuple[str, str, str]]:
    return [(a.where, a.finding.code, a.finding.grade) for a in found]


class AgainstTests(SimpleTestCase):
    def test_what_fails_is_told_with_its_place(self) -> None:
        self.assertEqual(told(against(twisted(5.0))), [])
        self.assertEqual(told(against(twisted(20.0))), [("4. Twist right, 20", "twist_tears", "care")])
        (tears,) = against(twisted(40.0))
        self.assertEqual((tears.where, tears.fails, tears.step), ("4. Twist right, 40", True, "s4"))

    def test_the_fire_and_the_blade_count_too_and_what_fails_comes_first(self) -> None:
        data = STARTERS["bold_twist"].document()
        melts = against(twisted(20.0, fire={"weld": 1450.0}))
        self.assertEqual(told(melts)[0], ("1. Weld", "melts", "stop"))
        self.assertIn(("4. Twist right, 20", "twist_tears", "care"), told(melts))
        wide = against(twisted(5.0, blade=data["blade"] | {"outline": data["blade"]["outline"] | {"height": 60.0}}))
        self.assertEqual([a.where for a in wide if a.fails], ["Blade"] * sum(a.fails for a in wide))
        self.assertTrue(any(a.fails for a in wide))

    def test_several_bars_are_told_by_name(self) -> None:
        places = {a.where for a in against(Worked.of(read_document(STARTERS["clad_core"].document())))}
        self.assertIn("twisted right, 4. Twist right, 15", places)

    def test_no_start_that_ships_fails(self) -> None:
        for key, starter in STARTERS.items():
            self.assertEqual([a.where for a in against(Worked.of(read_document(starter.document()))) if a.fails], [], key)


class WorseTests(SimpleTestCase):
    def test_only_what_a_change_brings(self) -> None:
        calm, close, torn = twisted(5.0), twisted(20.0), twisted(40.0)
        self.assertEqual([a.finding.grade for a in made_worse(against(calm), close)], ["care"])
        self.assertEqual([a.finding.grade for a in made_worse(against(close), torn)], ["stop"], "what needed care fails")
        for before, after in ((torn, close), (close, close), (torn, torn), (close, calm)):
            self.assertEqual(made_worse(against(before), after), ())

    def test_a_way_says_what_it_makes_worse(self) -> None:
        """The pile of a bar that is twisted can be shorter: then the same turns tear it."""
        worked = twisted(16.0)
        ways = {w.give: w for w in ways_to_save(worked, Allowance.planned(worked.document.stock, worked.shop.numbers))}
        self.assertEqual([(a.finding.code, a.finding.grade) for a in ways["length"].worse], [("twist_tears", "stop")])
