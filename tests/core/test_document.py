"""A design as it is kept: bars by address, steps switched off, labels, what is told of each bar."""

import os
import subprocess
import sys
from copy import deepcopy
from pathlib import Path
from typing import Any

from django.test import SimpleTestCase

from tests.core.samples import recipe, solid, stack
from varistrat.core.bars.fresh import HANDS, WORDS, fresh_step, left_by
from varistrat.core.bars.starts import STARTS
from varistrat.core.bars.steps import STEPS
from varistrat.core.design.document import read_document
from varistrat.core.design.findings import findings_of, late_findings_of
from varistrat.core.design.ledger import children_of, label, ledger_of
from varistrat.core.design.summary import summary_of
from varistrat.core.design.upgrades import upgraded
from varistrat.core.design.worked import Worked
from varistrat.core.errors import InputError
from varistrat.core.starters import STARTERS

ROOT = Path(__file__).resolve().parents[2]
JOINED = STARTERS["opposed_twist"].document()
DEEP: dict[str, Any] = {
    "recipe": recipe(
        {
            "kind": "assembly",
            "join": "stacked",
            "bars": [
                {
                    "start": {
                        "kind": "assembly",
                        "join": "side_by_side",
                        "bars": [{"start": solid(100, 10, 8), "steps": [{"kind": "trim", "start": 5.0}]}] * 2,
                    },
                    "steps": [{"kind": "weld", "thickness": 7.0}],
                },
                {"start": solid(100, 20, 5, "15n20"), "note": "bright bar\nsecond line"},
            ],
        },
        {"kind": "draw", "width": 18.0, "thickness": 6.0},
    )
}


class AddressTests(SimpleTestCase):
    def test_a_document_that_says_it_has_no_format_is_one_without(self) -> None:
        """`null` was brought up to date for ever."""
        document = STARTERS["blank"].document()
        document.pop("format", None)
        self.assertEqual(upgraded(document | {"format": None}), upgraded(document))
        for odd in (0, False, "", [], {}, "varistrat.design/99"):
            self.assertEqual(upgraded(document | {"format": odd})["format"], odd)
            with self.assertRaises(InputError):
                read_document(document | {"format": odd})

    def test_every_bar_has_its_rows(self) -> None:
        worked = Worked.of(read_document(DEEP))
        self.assertEqual(list(worked.document.bars), ["b1", "b2", "b3", "b4", "b5"])
        self.assertEqual(sorted(worked.bars), sorted(worked.document.bars))
        self.assertEqual([r.kind for r in ledger_of(worked, "b4")], ["solid", "trim"])
        self.assertEqual([r.kind for r in ledger_of(worked)], ["assembly", "draw"])
        self.assertEqual([c.label for c in children_of(worked)], ["Joined bars", "bright bar"])
        self.assertEqual(children_of(worked, "b5"), [])

    def test_steps_switched_off_anywhere(self) -> None:
        for off, rows in (([[0, 0, 0]], (1, 2, 2)), ([[0, 0]], (2, 2, 1)), ([[0]], (2, 2, 2)), ([0], (2, 2, 2))):
            data = deepcopy(DEEP) | {"off": off}
            worked = Worked.of(read_document(data))
            self.assertEqual(tuple(len(ledger_of(worked, b)) for b in ("b3", "b4", "b2")), rows, off)
            self.assertEqual(worked.problems, ())
        gone = Worked.of(read_document(deepcopy(DEEP) | {"off": [[0, 0, 0], [0]]}))
        self.assertEqual(len(ledger_of(gone)), 1)
        self.assertEqual(len(gone.document.carried_out().bar.steps), 0)
        self.assertEqual(len(gone.document.recipe.bar.steps), 1, "kept, though not carried out")

    def test_old_designs_counted_the_whole_bars_steps(self) -> None:
        document = read_document(deepcopy(DEEP) | {"off": [0]})
        last = document.recipe.bar.steps[0].id
        self.assertEqual(document.off, [last])
        self.assertEqual(document.as_json()["off"], [last])

    def test_problems_count_steps_as_the_document_does(self) -> None:
        data = deepcopy(JOINED)
        steps = data["recipe"]["bar"]["start"]["bars"][1]["steps"]
        steps[5] = {"kind": "trim", "start": 9999.0}
        data["off"] = [[1, 0], [1, 2], [0]]
        worked = Worked.of(read_document(data))
        self.assertEqual(worked.problems[0].path, "recipe.bar.start.bars[1].steps[5].start")
        on = [s.id for s in worked.document.recipe.bar.start.children()[1].steps]
        self.assertEqual(
            [r.step for r in ledger_of(worked, worked.document.recipe.bar.start.children()[1].id)], [None, *(on[i] for i in (1, 3, 4))]
        )
        self.assertTrue(children_of(worked)[1].problem)
        self.assertFalse(children_of(worked)[0].problem)
        self.assertIsNone(summary_of(worked))
        with self.assertRaises(InputError):
            worked.bar()

    def test_no_such_bar(self) -> None:
        worked = Worked.of(read_document(DEEP))
        for bar in ("b6", "s1", "[0]"):
            with self.assertRaisesRegex(InputError, "no bar"):
                worked.bar(bar)

    def test_mass_and_loss_count_all_that_went_in(self) -> None:
        summary = summary_of(Worked.of(read_document(DEEP)))
        assert summary
        # two bars of 100 x 10 x 8 of 1084 and one of 100 x 20 x 5 of 15N20, in grams
        self.assertAlmostEqual(summary.start_mass, (2 * 8 * 7.85 + 10 * 7.86), 6)
        volume = 2 * 95 * 80 + 10_000 - 0.0
        self.assertLess(summary.mass, volume * 7.86e-3)
        self.assertGreater(summary.loss_share, 0)

    def test_offs_are_refused_when_they_name_nothing(self) -> None:
        for off in ([[]], [["a"]], [[-1]], "0", [[1.5]], ["a b"], [None], [""], ["x" * 25]):
            with self.assertRaises(InputError, msg=str(off)):
                read_document(deepcopy(DEEP) | {"off": off})


class WordTests(SimpleTestCase):
    def test_every_start_and_step_has_its_words(self) -> None:
        for part in (*STARTS, *STEPS):
            words = WORDS[part.model_fields["kind"].default]
            self.assertTrue(words["name"] and words["about"], part)
            self.assertTrue(words["about"].endswith("."))
        self.assertEqual(len({w["name"] for w in WORDS.values()}), len(WORDS), "no two alike")

    def test_labels_say_what_makes_the_pattern(self) -> None:
        document = read_document(STARTERS["bold_twist"].document())
        self.assertEqual(label(document.recipe.bar), "Pile, twist right, 14")
        self.assertEqual(label(read_document(DEEP).recipe.bar), "Joined bars")

    def test_briefs(self) -> None:
        briefs = {
            kind: [r.brief for r in ledger_of(Worked.of(read_document(STARTERS[s].document()))) if r.kind == kind]
            for s, kind in (("four_way", "grid"), ("tiled", "tiles"), ("dimple", "relief"), ("feather", "end_slice"), ("bias", "turn"))
        }
        self.assertEqual(briefs, {"grid": ["2 × 2"], "tiles": ["8 at 35°"], "relief": ["dimples"], "end_slice": ["24 mm"], "turn": ["45°"]})

    def test_new_steps_are_left_as_the_hammer_leaves_them(self) -> None:
        bar = Worked.of(read_document({"recipe": recipe(stack(("1084", 20), ("15n20", 20), width=40, length=100))})).forged.bar
        self.assertEqual(fresh_step("draw", bar)["uneven"]["amount"], 0.3)
        self.assertNotIn("uneven", fresh_step("twist", bar))
        self.assertNotIn("uneven", fresh_step("relief", bar))
        thin = left_by(HANDS["hammer"], 3.0)
        self.assertAlmostEqual(thin["amount"], 0.1)
        self.assertEqual(thin["wavelength"], HANDS["hammer"]["wavelength"])
        self.assertEqual(fresh_step("weld", bar, {"hammer": {"amount": 0.05, "wavelength": 9.0, "seed": 4}})["uneven"]["amount"], 0.05)


class StarterTests(SimpleTestCase):
    def test_each_says_how_it_comes_about_in_a_line(self) -> None:
        for key, starter in STARTERS.items():
            self.assertTrue(starter.about.endswith("."), key)
            self.assertLess(len(starter.about), 160, key)
            self.assertEqual(starter.document()["recipe"]["name"], starter.name)

    def test_no_two_are_the_same_bar(self) -> None:
        kept = [str(s.document()["recipe"]["bar"]) for s in STARTERS.values()]
        self.assertEqual(len(set(kept)), len(kept))


class WorkedOnceAskedTests(SimpleTestCase):
    def test_the_fires_wait_until_they_are_asked_for(self) -> None:
        """What follows the hand (ledger, findings of a blade that hardens by itself) never waits for them."""
        worked = Worked.of(read_document(STARTERS["ladder"].document()))
        ledger_of(worked), summary_of(worked), findings_of(worked)
        self.assertNotIn("fire", worked.__dict__)
        self.assertEqual([f.code for f in late_findings_of(worked)], ["carbon_evened"])
        # a share that rounds to nothing is not told as nothing
        self.assertRegex(late_findings_of(worked)[0].why, r"(less than 1|[1-5]) % of the difference")
        self.assertIn("fire", worked.__dict__)

    def test_nor_where_no_fire_could_even_it(self) -> None:
        """Twelve layers 2 mm and more: no forging holds long enough."""
        data = {"recipe": recipe(stack(*[("1084", 3.0), ("15n20", 2.5)] * 6)), "blade": STARTERS["ladder"].document()["blade"]}
        worked = Worked.of(read_document(data))
        self.assertEqual(late_findings_of(worked), [])
        self.assertNotIn("fire", worked.__dict__)


class SameEverywhereTests(SimpleTestCase):
    def test_what_is_told_does_not_hang_on_the_order_of_a_set(self) -> None:
        """Texts are hashed anew in every process: two of them must say the same of an edge of many steels, and of steels that flow
        unlike."""
        code = (
            "import json; from tests.core.test_identity import of_version; from varistrat.core.design.document import read_document;"
            "from varistrat.core.design.findings import findings_of; from varistrat.core.design.ledger import ledger_of; from "
            "dataclasses import asdict;"
            "from varistrat.core.design.worked import Worked;"
            "w = [Worked.of(read_document(d)) for n, d in of_version('0').items() if n in ('Eel rope', 'Marsh star', 'start: canister')];"
            "print(json.dumps([[asdict(f) for f in findings_of(x)] + [asdict(r) for r in ledger_of(x)] for x in w]))"
        )
        said = {
            subprocess.run(
                [sys.executable, "-c", code],
                capture_output=True,
                text=True,
                check=True,
                cwd=ROOT,
                env=os.environ | {"PYTHONHASHSEED": str(seed)},
            ).stdout
            for seed in (1, 2, 3)
        }
        self.assertEqual(len(said), 1)

    def test_the_core_reads_nothing_that_is_in_force(self) -> None:
        for source in (ROOT / "varistrat" / "core").rglob("*.py"):
            self.assertNotIn("contextvars", source.read_text(), source.name)
