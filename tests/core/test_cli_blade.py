"""Blades on the command line: forged to shape, off true, put right, and refused with the place."""

import csv
import io

from PIL import Image

from tests.core.samples import blade, recipe, stack
from tests.core.test_cli import CommandCase
from varistrat.core.blade.model import read_blade


class BladeCommandTests(CommandCase):
    def expose(self, data: dict[str, object], stations: int = 4) -> list[dict[str, str]]:
        code, out, err = self.call("expose", self.put("b.json", data), "--stations", stations)
        self.assertEqual((code, err), (0, ""))
        return list(csv.DictReader(io.StringIO(out)))

    def test_errors_and_a_correction_in_the_file(self) -> None:
        off = blade(errors={"core_offset": 0.02}).as_json()
        rows = self.expose(off)
        self.assertEqual([(r["side"], r["high"]) for r in rows[:2]], [("right", "13.7000"), ("left", "9.3000")])
        put_right = off | {"correction": {"left": [[0.0, 0.2133, 0.0]]}}
        self.assertAlmostEqual(float(self.expose(put_right)[1]["high"]), 12.5, delta=1.0)

    def test_a_core_let_in_has_a_line_too(self) -> None:
        slot = {
            "kind": "assembly",
            "join": "slot",
            "depth": 20.0,
            "width": 2.0,
            "bars": [
                {"start": {"kind": "solid", "steel": s, "length": 220.0, "width": w, "thickness": t}, "steps": []}
                for s, w, t in (("1018", 4.4, 60.0), ("1095", 2.0, 20.0))
            ],
        }
        rows = self.expose(blade(share=None, recipe=recipe(slot, {"kind": "turn", "degrees": 90.0}), place={"y": -30.0}).as_json())
        self.assertEqual({r["state"] for r in rows}, {"line"})
        # a core 2 mm thick, faces 0.4 + 0.08 h apart: the line lies at 1.6/0.08 = 20 mm, where the slot ends too
        for r in rows:
            self.assertAlmostEqual(float(r["high"]), 20.0, delta=0.02)

    def test_a_patterned_blade_forged_to_shape_is_drawn(self) -> None:
        data = blade(
            share=None,
            recipe=recipe(stack(("1084", 2.2), ("15n20", 2.2), width=50, length=400)),
            forging={"share": 1.0, "allowance": 0.5, "point_cut": {"side": "spine", "length": 50.0}},
        ).as_json()
        out = self.folder / "forged.png"
        code, _, err = self.call("render", self.put("b.json", data), "--px", 300, "--out", out)
        self.assertEqual((code, err), (0, ""))
        self.assertEqual(Image.open(out).size[0], 300)

    def test_too_little_steel_is_a_line_on_standard_error(self) -> None:
        data = blade(
            share=None,
            recipe=recipe(stack(("1018", 1.5), ("1095", 1.4), ("1018", 1.5), width=50, length=60)),
            forging={"share": 1.0, "allowance": 0.5},
        ).as_json()
        code, out, err = self.call("expose", self.put("b.json", data), "--stations", 2)
        self.assertEqual(code, 0)
        self.assertIn("mm too short for this blade", err)
        self.assertTrue(out.startswith("x,side,state"))

    def test_refused_with_the_path(self) -> None:
        good = blade().as_json()
        for change, match in (
            ({"errors": {"dipp": 1.0}}, "errors.dipp"),
            ({"correction": {"right": [[10.0, -0.1, 0.0]]}}, "correction.right[0]"),
            ({"tang": {"length": 60.0, "width": 14.0}}, "tang.end_width"),
            ({"place": {"angle": 4.0}, "forging": {"share": 1.0, "allowance": 0.5}}, "place.angle"),
            ({"outline": {"shape": "leaf", "length": 100.0, "height": 30.0, "choil": {"length": 80.0, "depth": 2.0}}}, "outline.choil"),
        ):
            with self.subTest(match):
                code, out, err = self.call("expose", self.put("b.json", good | change))
                self.assertEqual((code, out), (2, ""))
                self.assertEqual(err.count("\n"), 1)
                self.assertIn(match, err)

    def test_all_that_can_be_said_is_written_and_read_again(self) -> None:
        data = blade().as_json() | {
            "tang": {"length": 60.0, "width": 14.0, "end_width": 8.0},
            "errors": {"bow": 0.1, "flow": 0.05, "edge": [[0.0, 0.1], [200.0, 0.0]], "core_share": 0.01},
            "correction": {"left": [[0.0, 0.1, 0.0], [100.0, 0.2, 0.1]]},
        }
        once = read_blade(data)
        self.assertEqual(read_blade(once.as_json()), once)
        self.assertEqual(once.as_json()["correction"], data["correction"])
