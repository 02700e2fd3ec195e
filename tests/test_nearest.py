"""Which tests are nearest to a change, by the imports."""

import tempfile
from pathlib import Path

from django.test import SimpleTestCase

from tests import nearest

FILES = {
    "varistrat/core/twist.py": "X = 1",
    "varistrat/core/bar.py": "from varistrat.core import twist",
    "varistrat/core/other.py": "",
    "tests/core/test_bar.py": "from varistrat.core.bar import B\nimport varistrat.core.other",
    "tests/core/test_twist.py": "from varistrat.core.bar import B\nfrom varistrat.core import other\nimport tests.samples",
    "tests/core/test_turns.py": "def f():\n    from varistrat.core.twist import X",
    "tests/e2e/test_all.py": "from varistrat.core.twist import X",
    "tests/samples.py": "",
}


class NearestTests(SimpleTestCase):
    def graph(self) -> dict[str, set[str]]:
        folder = tempfile.TemporaryDirectory()
        self.addCleanup(folder.cleanup)
        for name, text in FILES.items():
            path = Path(folder.name) / name
            path.parent.mkdir(parents=True, exist_ok=True)
            path.write_text(text)
        return nearest.imports(Path(folder.name))

    def test_its_own_first_then_by_the_way_there(self) -> None:
        graph = self.graph()
        self.assertEqual(graph["varistrat.core.bar"], {"varistrat.core.twist"})
        near = nearest.nearest("varistrat.core.twist", graph)
        self.assertEqual(near, ["tests.core.test_twist", "tests.core.test_turns", "tests.core.test_bar"])
        self.assertEqual(nearest.nearest("tests.samples", graph), ["tests.core.test_twist"])
        self.assertEqual(nearest.nearest("tests.e2e.test_all", graph), ["tests.e2e.test_all"])

    def test_of_the_real_tree(self) -> None:
        graph = nearest.imports()
        self.assertEqual(nearest.nearest("varistrat.core.bars.steps.twist", graph)[0][:11], "tests.core.")
        self.assertIn("tests.core.test_kiln", nearest.nearest("varistrat.core.kiln.program", graph)[: nearest.MOST])

    def test_what_git_does_not_know_is_said(self) -> None:
        with self.assertRaisesRegex(SystemExit, "git does not know 'no-such-thing'"):
            nearest.changed_since("no-such-thing")
