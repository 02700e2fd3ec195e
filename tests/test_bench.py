"""What is only started by hand: it still loads, and keeps what was measured."""

import importlib
import os
import subprocess
import sys
from pathlib import Path

from django.test import SimpleTestCase

from benchmarks import __main__ as bench
from benchmarks import mutants

ROOT = Path(__file__).resolve().parents[1]


class HandToolTests(SimpleTestCase):
    def test_what_is_only_started_by_hand_still_loads(self) -> None:
        for folder in ("benchmarks", "tests"):
            for file in (ROOT / folder).glob("*.py"):
                if file.stem not in ("__init__", "__main__"):
                    with self.subTest(file.name):
                        importlib.import_module(f"{folder}.{file.stem}")


class BenchTests(SimpleTestCase):
    def test_it_starts_by_itself_and_names_its_parts(self) -> None:
        bare = {k: v for k, v in os.environ.items() if not k.startswith("DJANGO_")}
        said = subprocess.run([sys.executable, "-m", "benchmarks", "nowhere"], cwd=ROOT, env=bare, capture_output=True, text=True)
        self.assertIn("there is no part 'nowhere': start, engine", said.stderr)

    def test_a_part_measured_anew_leaves_the_others_as_they_were(self) -> None:
        page = (ROOT / "docs" / "benchmarks.md").read_text()
        kept = bench.kept_of(page)
        self.assertEqual(bench.page_of(kept), page)
        self.assertEqual(bench.page_of(kept | {"looks": "## looks\n\nnew"}).count("\n## "), len(kept))

    def test_what_the_mutants_change_is_there(self) -> None:
        for folder, mutant in mutants.every():
            self.assertEqual((ROOT / folder / mutant.file).read_text().count(mutant.old), 1, f"{mutant.file}: {mutant.old}")
            self.assertNotEqual(mutant.old, mutant.new)
