"""The command line on joined bars, canisters and every patterning step: what other hands will check."""

import csv
import io
import json

from PIL import Image

from tests.core.samples import Json, recipe, solid, stack
from tests.core.test_cli import CommandCase
from varistrat.core.starters import STARTERS

PAIR: Json = {
    "kind": "assembly",
    "join": "side_by_side",
    "bars": [
        {"start": solid(100, 20, 10, "1084"), "steps": [{"kind": "trim", "end": 10.0}]},
        {"start": solid(90, 20, 12, "15n20"), "steps": []},
    ],
}
CAN: Json = {
    "kind": "canister",
    "length": 60.0,
    "width": 20.0,
    "thickness": 20.0,
    "matrix": {"steel": "1084", "packing": 0.5},
    "inserts": [{"shape": "rod", "steel": "15n20", "size": 8.0, "positions": [[0, 0]]}],
}


class PatterningCommandTests(CommandCase):
    def rows(self, start: Json, *steps: Json) -> list[Json]:
        code, out, err = self.call("size", self.put("r.json", recipe(start, *steps)))
        self.assertEqual((code, err), (0, ""))
        return json.loads(out)

    def steels(self, start: Json, points: list[tuple[float, float, float]], *steps: Json) -> list[str]:
        table = "x,y,z\n" + "".join(f"{x},{y},{z}\n" for x, y, z in points)
        code, out, err = self.call("probe", self.put("r.json", recipe(start, *steps)), "--points", self.put("p.csv", table))
        self.assertEqual((code, err), (0, ""))
        return [row["steel"] for row in csv.DictReader(io.StringIO(out))]

    def test_an_assembly_lists_its_bars(self) -> None:
        (row,) = self.rows(PAIR)
        self.assertEqual((row["kind"], row["length"], row["width"], row["thickness"]), ("assembly", 90, 40, 10))
        self.assertEqual([[r["kind"] for r in bar] for bar in row["bars"]], [["solid", "trim"], ["solid"]])
        # the second bar is 2 mm too thick: 90 x 20 x 2 goes
        self.assertEqual(row["losses"], {"fit": 3600.0})
        self.assertAlmostEqual(row["mass"], 90 * 200 * (7.85 + 7.86) * 1e-3, 6)

    def test_an_assembly_is_probed(self) -> None:
        self.assertEqual(self.steels(PAIR, [(5, -1, 0), (5, 0, 0), (5, 1, 0), (5, 21, 0)]), ["1084", "15n20", "15n20", ""])
        drawn = [(5, -1, 0), (5, 1, 0)]
        self.assertEqual(self.steels(PAIR, drawn, {"kind": "draw", "width": 10.0, "thickness": 4.0}), ["1084", "15n20"])

    def test_a_canister(self) -> None:
        (row,) = self.rows(CAN)
        share = 3.141592653589793 * 16 / 400
        self.assertAlmostEqual(row["thickness"], 20 * (share + (1 - share) * 0.5))
        self.assertEqual(self.steels(CAN, [(9, 3.9, 0), (9, 4.1, 0), (9, 0, 2.2), (9, 0, 2.4)]), ["15n20", "1084", "15n20", "1084"])

    def test_each_patterning_step_has_its_losses(self) -> None:
        for step, keys in (
            ({"kind": "grid", "cells": [[{}, {}]], "grind": 0.5, "kerf": 1.0}, {"kerf", "grind"}),
            ({"kind": "tiles", "angle": 40.0, "thickness": 6.0, "count": 3, "kerf": 1.0}, {"wedges", "kerf", "offcut"}),
            ({"kind": "end_slice", "thickness": 9.0, "kerf": 1.0}, {"kerf", "offcut"}),
            (
                {"kind": "relief", "shape": "rungs", "method": "cut_forged", "profile": "vee", "pitch": 20.0, "groove": 9.0, "depth": 3.0},
                {"relief"},
            ),
            (
                {
                    "kind": "relief",
                    "shape": "rungs",
                    "method": "pressed_ground",
                    "profile": "vee",
                    "pitch": 20.0,
                    "groove": 9.0,
                    "depth": 3.0,
                },
                {"grind"},
            ),
            ({"kind": "split", "drag": 5.0, "reach": 6.0}, {"grind"}),
            ({"kind": "bend", "radius": 100.0}, set()),
        ):
            first, last = self.rows(solid(), step)
            self.assertEqual(set(last["losses"]), keys, step)
            gone = sum(last["losses"].values())
            self.assertAlmostEqual(first["volume"] - gone, last["volume"], delta=1e-9 * first["volume"], msg=str(step))

    def test_the_face_of_every_family_is_a_picture(self) -> None:
        for key, starter in STARTERS.items():
            path = self.put("r.json", starter.document()["recipe"])
            out = self.folder / f"{key}.png"
            self.assertEqual(self.call("face", path, "--z", 0.5, "--px", 200, "--out", out)[::2], (0, ""), key)
            self.assertEqual(Image.open(out).size[0], 200)

    def test_errors_name_the_bar_and_the_cure(self) -> None:
        deep = recipe(
            {
                "kind": "assembly",
                "join": "stacked",
                "bars": [{"start": PAIR, "steps": []}, {"start": stack(("1084", 5)), "steps": [{"kind": "twist", "turnz": 3}]}],
            }
        )
        for data, path in (
            (deep, "bar.start.bars[1].steps[0].turnz"),
            (recipe(PAIR | {"join": "braid"}), "bar.start.join"),
            (recipe(PAIR | {"fit": "exact"}), "bar.start.fit"),
            (recipe(CAN | {"matrix": {"steel": "unobtainium", "packing": 0.5}}), "bar.start.matrix.steel"),
            (
                recipe(CAN | {"inserts": [{"shape": "rod", "steel": "15n20", "size": 30.0, "positions": [[0, 0]]}]}),
                "bar.start.inserts[0].positions[0]",
            ),
            (recipe(solid(), {"kind": "tiles", "angle": 40.0, "thickness": 6.0, "count": 300}), "bar.steps[0].count"),
        ):
            code, out, err = self.call("size", self.put("bad.json", data))
            self.assertEqual((code, out), (2, ""))
            self.assertIn(f": {path}: ", err)
            self.assertIn("; ", err)
            self.assertEqual(err.count("\n"), 1)
