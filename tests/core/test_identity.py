"""Every bar, start and step has a name of its own; designs of every version open, and come to the same."""

import json
from copy import deepcopy
from pathlib import Path
from typing import Any

from django.test import SimpleTestCase

from tests.core.samples import recipe, solid
from varistrat.core.bars.identity import made_alike, parts_of, told_twice, with_ids, without_ids
from varistrat.core.bars.recipe import read_recipe
from varistrat.core.design.document import read_document
from varistrat.core.design.file import read_design, write_design
from varistrat.core.design.upgrades import FORMAT, UPGRADES, upgraded
from varistrat.core.design.worked import Worked
from varistrat.core.errors import InputError
from varistrat.core.starters import STARTERS

DESIGNS = Path(__file__).resolve().parents[1] / "fixtures" / "designs"
JOINED = STARTERS["opposed_twist"].document()


def of_version(version: str) -> dict[str, Any]:
    """Documents as a version kept them, by name."""
    found: dict[str, Any] = json.loads((DESIGNS / f"{version}.json").read_text())
    return found


class IdTests(SimpleTestCase):
    def test_all_parts_are_named_and_no_two_alike(self) -> None:
        for key, starter in STARTERS.items():
            bar = read_document(starter.document()).as_json()["recipe"]["bar"]
            ids = [part["id"] for _, part in parts_of(bar)]
            self.assertTrue(all(ids), key)
            self.assertEqual(len(ids), len(set(ids)), key)

    def test_reading_gives_the_same_ones_to_the_same_recipe(self) -> None:
        one, other = read_document(JOINED), read_document(JOINED)
        self.assertEqual(one, other)
        again = read_document(json.loads(json.dumps(one.as_json())))
        self.assertEqual(again.as_json(), one.as_json())

    def test_those_in_use_are_passed_over(self) -> None:
        bar = with_ids(
            {"start": {"kind": "solid"}, "steps": [{"kind": "weld"}, {"kind": "draw", "id": "s1"}, {"kind": "weld", "id": "mine"}]}
        )
        self.assertEqual([s["id"] for s in bar["steps"]], ["s2", "s1", "mine"])

    def test_they_are_kept_when_steps_move(self) -> None:
        data = read_document(JOINED).as_json()
        steps = data["recipe"]["bar"]["steps"]
        steps.reverse()
        self.assertEqual([s.id for s in read_document(data).recipe.bar.steps], [s["id"] for s in steps])

    def test_two_of_one_name_are_refused(self) -> None:
        twice = recipe(solid(), {"kind": "weld", "thickness": 20.0, "id": "a"}, {"kind": "weld", "thickness": 19.0, "id": "a"})
        with self.assertRaisesRegex(InputError, "two parts have the id 'a'; give one of them another"):
            read_recipe(twice)
        self.assertIsNone(told_twice(without_ids(twice["bar"])))

    def test_names_that_are_none(self) -> None:
        for name in ("a b", "ä", "x" * 25, 5, [], "../s1"):
            with self.assertRaises(InputError, msg=str(name)):
                read_recipe(recipe(solid() | {"id": name}))

    def test_a_recipe_file_leaves_out_what_reading_gives(self) -> None:
        plain = read_recipe(JOINED["recipe"]).as_json()
        self.assertNotIn('"id"', json.dumps(plain))
        own = deepcopy(JOINED["recipe"])
        own["bar"]["steps"][0]["id"] = "last-weld"
        kept = read_recipe(own).as_json()
        self.assertEqual(kept["bar"]["steps"][0]["id"], "last-weld")
        self.assertEqual(read_recipe(kept).as_json(), kept)

    def test_what_is_made_alike_is_alike_whatever_it_is_called(self) -> None:
        one, two, other = (read_recipe(recipe(solid(100, w, 8))).bar for w in (10, 10, 11))
        self.assertTrue(made_alike(one, two.model_copy(update={"id": "z"})))
        self.assertFalse(made_alike(one, other))


class UpgradeTests(SimpleTestCase):
    def test_designs_of_every_version_open(self) -> None:
        known = sorted(p.stem for p in DESIGNS.glob("*.json"))
        self.assertEqual(len(known), len(UPGRADES), "a fixture for every version there was")
        for version in known:
            for name, data in of_version(version).items():
                with self.subTest(version=version, name=name):
                    document = read_document(data)
                    self.assertEqual(document.format, FORMAT)
                    self.assertEqual(Worked.of(document).problems, ())
                    self.assertEqual(read_document(document.as_json()).as_json(), document.as_json())

    def test_what_was_said_of_steps_is_said_of_the_same_ones(self) -> None:
        data = of_version("0")["switched off and heated"]
        self.assertEqual((data["off"], [s["at"] for s in data["fire"]["steps"]]), ([[0, 1], [2]], [[0, 0], [1]]))
        document = read_document(data)
        whole = document.recipe.bar
        first = whole.start.children()[0]
        self.assertEqual(set(document.off), {first.steps[1].id, whole.steps[2].id})
        self.assertEqual([s.step for s in document.fire.steps], [first.steps[0].id, whole.steps[1].id])
        old = read_document(of_version("0")["of before bars were nested"])
        self.assertEqual(old.off, [old.recipe.bar.steps[1].id])

    def test_a_file_by_hand_may_tell_steps_by_where_they_stand(self) -> None:
        data = deepcopy(JOINED) | {"format": FORMAT, "off": [[1, 0], "s9"]}
        document = read_document(data)
        self.assertEqual(document.off, [document.recipe.bar.start.children()[1].steps[0].id, "s9"])

    def test_what_is_said_of_steps_that_are_gone_goes_when_it_is_kept(self) -> None:
        data = deepcopy(JOINED) | {"off": ["gone", [7, 7]], "fire": {"steps": [{"step": "gone", "heats": 2}, {"at": [50], "heats": 3}]}}
        document = read_document(data)
        self.assertEqual((document.off, [s.step for s in document.fire.steps]), (["gone"], ["gone"]))
        kept = document.as_json()
        self.assertNotIn("off", kept)
        self.assertEqual(kept["fire"]["steps"], [])

    def test_whatever_it_is_it_is_left_for_the_models_to_say(self) -> None:
        for data in (
            None,
            [],
            "x",
            {},
            {"recipe": None},
            {"recipe": {"bar": []}},
            {"recipe": {"bar": {"start": 5, "steps": [3, None]}}, "off": 7, "fire": []},
        ):
            upgraded(data)
            with self.assertRaises(InputError):
                read_document(data)
        with self.assertRaisesRegex(InputError, "format"):
            read_document(deepcopy(JOINED) | {"format": "varistrat.design/9"})
        with self.assertRaisesRegex(InputError, "format"):
            read_document(deepcopy(JOINED) | {"format": ["varistrat.design/1"]})

    def test_a_design_file_goes_out_and_in(self) -> None:
        document = read_document(of_version("0")["switched off and heated"])
        file = write_design("Two of a kind", "told", document)
        self.assertEqual(list(file)[:3], ["format", "name", "about"])
        self.assertEqual(read_design(file).document, document)
        # written by the version before, which told steps by address
        old = {"format": FORMAT, "name": "Old", **of_version("0")["switched off and heated"]}
        self.assertEqual(read_design(old).document, document)
