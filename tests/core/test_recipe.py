"""Reading recipes from other hands: what is wrong is said with its place and the cure."""

import json
from typing import Any

from django.test import SimpleTestCase
from hypothesis import given
from hypothesis import strategies as st

from tests.core.samples import LONG, recipe, solid, stack
from tests.profile import examples
from varistrat.core.bars.forged import forge
from varistrat.core.bars.recipe import read_recipe
from varistrat.core.errors import InputError
from varistrat.core.interchange.published import PUBLISHED
from varistrat.core.reading import read_json


def refusal(data: Any) -> str:
    try:
        forge(read_recipe(data).bar)
    except InputError as e:
        return e.problems[0].line()
    return ""


class ReadingTests(SimpleTestCase):
    def test_paths_and_cures(self) -> None:
        twist = {"kind": "twist", "turns": 3.0}
        cases: list[tuple[Any, str, str]] = [
            (recipe(solid(), twist | {"turnz": 3}), "bar.steps[0].turnz", "unknown field"),
            (recipe(solid(steel="1085")), "bar.start.steel", "1084"),
            (recipe(stack(("1084", 2), ("unobtainium", 2))), "bar.start.layers[1].steel", "no steel"),
            (recipe(stack(("1084", 0))), "bar.start.layers[0].thickness", "greater than"),
            (recipe(stack()), "bar.start.layers", "at least 1"),
            (recipe(solid(length=float("nan"))), "bar.start.length", "finite"),
            (recipe(solid(length=1e12)), "bar.start.length", "less than"),
            (recipe(solid(length="long")), "bar.start.length", "text"),  # type: ignore[arg-type]
            (recipe(solid(length=True)), "bar.start.length", "true or false"),
            (recipe(solid(), {"kind": "fuse"}), "bar.steps[0].kind", "use one of weld"),
            (recipe(solid(), {"turns": 2}), "bar.steps[0]", "no kind"),
            (recipe(solid(), 7), "bar.steps[0]", ""),  # type: ignore[arg-type]
            (recipe({"kind": "solid"}), "bar.start.steel", "missing"),
            ({"format": "varistrat.recipe/1"}, "bar", "missing"),
            ({"format": "varistrat.recipe/9", "bar": {}}, "format", 'reads "varistrat.recipe/1"'),
            ([1, 2], "", "expected an object, got a list"),
        ]
        for data, path, word in cases:
            line = refusal(data)
            self.assertTrue(line.startswith(f"{path}: " if path else ""), line)
            self.assertIn(word, line)
            self.assertIn("; ", line)

    def test_a_bar_that_vanishes_or_runs_away_is_refused(self) -> None:
        self.assertIn("becomes", refusal(recipe(solid(), {"kind": "draw", "width": 20000.0, "thickness": 20000.0})))

    def test_broken_text(self) -> None:
        for text, word in (
            ("", "not JSON"),
            ("{", "not JSON"),
            ('{"a": 1,}', "line 1 column"),
            ("[" * 100_000, "levels deep"),
            (b"\xff\xfe{}", "UTF-8"),
            ("1" * 5000, "digits"),
            (" " * 2_000_001, "bytes"),
        ):
            with self.assertRaisesRegex(InputError, word):
                read_json(text)

    def test_brackets_inside_text_are_not_depth(self) -> None:
        self.assertEqual(read_json(json.dumps({"note": "[" * 500 + '\\"'})), {"note": "[" * 500 + '\\"'})

    def test_numbers_without_a_point_are_numbers(self) -> None:
        self.assertEqual(forge(read_recipe(recipe(solid(100, 30, 20))).bar).bar.length, 100.0)

    def test_defaults_are_left_out_when_written(self) -> None:
        written = read_recipe(LONG).as_json()
        self.assertEqual(written["bar"]["steps"][5], {"kind": "turn", "degrees": 45.0})
        self.assertEqual(read_recipe(written).as_json(), written)

    def test_published_schemas_know_every_kind(self) -> None:
        text = PUBLISHED["recipe.schema.json"]()
        for kind in ("stack", "solid", "restack", "twist", "uneven"):
            self.assertIn(f'"{kind}"', text)
        self.assertEqual(set(PUBLISHED), {"recipe.schema.json", "blade.schema.json", "findings.md"})

    json_values = st.recursive(
        st.none() | st.booleans() | st.integers(-(10**400), 10**400) | st.floats() | st.text(max_size=8),
        lambda inner: (
            st.lists(inner, max_size=3) | st.dictionaries(st.sampled_from(["kind", "start", "steps", "layers", "x"]), inner, max_size=3)
        ),
        max_leaves=12,
    )

    @given(json_values, st.sampled_from(["format", "bar", "start", "steps", "layer", "turns"]))
    @examples(150)
    def test_nonsense_anywhere_is_refused_never_a_crash(self, junk: Any, place: str) -> None:
        data: Any = recipe(stack(("1084", 2)), {"kind": "twist", "turns": 1.0})
        if place in ("format", "bar"):
            data[place] = junk
        elif place == "turns":
            data["bar"]["steps"][0]["turns"] = junk
        elif place == "layer":
            data["bar"]["start"]["layers"][0] = junk
        else:
            data["bar"][place] = junk
        try:
            forge(read_recipe(data).bar)
        except InputError as e:
            self.assertTrue(all(p.wrong and p.cure for p in e.problems))
