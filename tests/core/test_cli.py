"""The command line, as other hands call it."""

import contextlib
import io
import json
import subprocess
import sys
import tempfile
from pathlib import Path

from django.test import SimpleTestCase
from PIL import Image

from tests.core.samples import LONG, Json, blade, recipe, solid, stack
from varistrat.cli import main


class CommandCase(SimpleTestCase):
    def setUp(self) -> None:
        folder = tempfile.TemporaryDirectory()
        self.addCleanup(folder.cleanup)
        self.folder = Path(folder.name)

    def call(self, *args: object) -> tuple[int, str, str]:
        out, err = io.StringIO(), io.StringIO()
        with contextlib.redirect_stdout(out), contextlib.redirect_stderr(err):
            code = main([str(a) for a in args])
        return code, out.getvalue(), err.getvalue()

    def put(self, name: str, content: Json | str) -> Path:
        path = self.folder / name
        path.write_text(content if isinstance(content, str) else json.dumps(content))
        return path


class CommandTests(CommandCase):
    def test_size(self) -> None:
        code, out, err = self.call("size", self.put("r.json", LONG))
        rows = json.loads(out)
        self.assertEqual((code, err, len(rows)), (0, "", 16))
        self.assertEqual(rows[0]["kind"], "stack")
        self.assertEqual(rows[6] | {"findings": []}, rows[6])
        for row in rows:
            self.assertLessEqual(
                {"kind", "form", "length", "width", "thickness", "volume", "mass", "losses", "gains", "estimates", "findings"}, set(row)
            )
            self.assertTrue(all(row["losses"].values()), "zero losses are left out")

    def test_steels_of_ones_own_from_a_list(self) -> None:
        mine = self.put("s.csv", "key,name,C,density_kg_m3\nhinge,Gate hinge,0.05,7000\n")
        file = self.put("r.json", recipe(solid(steel="hinge")))
        code, _, err = self.call("size", file)
        self.assertEqual((code, "no steel 'hinge'" in err), (2, True))
        code, out, err = self.call("--steels", mine, "size", file)
        row = json.loads(out)[0]
        self.assertEqual((code, err), (0, ""))
        self.assertAlmostEqual(row["mass"], row["volume"] * 7000e-6, delta=1e-6 * row["mass"])
        self.assertEqual(self.call("size", file)[0], 2)
        for bad in (self.put("bad.csv", "key,C\nhinge,lots\n"), self.folder / "nowhere.csv"):
            code, out, err = self.call("--steels", bad, "size", file)
            self.assertEqual((code, out, err.count("\n")), (2, "", 1))
            self.assertIn(bad.name, err)

    def test_probe_echoes_coordinates_as_given(self) -> None:
        points = self.put("p.csv", "x,y,z\n1.50, 0,-9.0\n1e2,0,9\n\n5,0,99\n")
        code, out, _ = self.call("probe", self.put("r.json", recipe(stack(("1084", 10), ("15n20", 10)))), "--points", points)
        self.assertEqual((code, out), (0, "x,y,z,steel\n1.50,0,-9.0,1084\n1e2,0,9,15n20\n5,0,99,\n"))

    def test_face_and_render(self) -> None:
        out = self.folder / "face.png"
        code, text, err = self.call("face", self.put("r.json", recipe(solid())), "--z", 1.5, "--px", 400, "--out", out)
        self.assertEqual((code, text, err), (0, "", ""))
        self.assertEqual(Image.open(out).size, (400, 60))
        side = self.folder / "left.png"
        self.assertEqual(self.call("render", self.put("b.json", blade().as_json()), "--side", "left", "--out", side)[0], 0)
        self.assertEqual(Image.open(side).size[0], 1400)

    def test_expose(self) -> None:
        code, out, err = self.call("expose", self.put("b.json", blade(share_right=1.0).as_json()), "--stations", 2)
        self.assertEqual((code, err), (0, ""))
        self.assertEqual(
            out.splitlines(),
            [
                "x,side,state,low,high,clad_share,core_at_edge",
                "50.0000,right,strip,14.2500,30.7500,0.6333,0.0000",
                "50.0000,left,none,,,1.0000,0.0000",
                "150.0000,right,strip,14.2500,30.7500,0.6333,0.0000",
                "150.0000,left,none,,,1.0000,0.0000",
            ],
        )

    def test_too_little_steel_is_a_line_on_standard_error(self) -> None:
        code, out, err = self.call("expose", self.put("b.json", blade(thickness=3.5).as_json()), "--stations", 1)
        self.assertEqual((code, len(out.splitlines()), err.count("\n")), (0, 3, 1))
        self.assertIn("not enough steel", err)

    def test_a_call_that_is_off_is_one_line_too(self) -> None:
        for args in (
            ("size",),
            ("face", "r.json", "--z", "deep", "--out", "x.png"),
            ("melt", "r.json"),
            ("render", "b.json", "--side", "top", "--out", "x"),
        ):
            err = io.StringIO()
            with contextlib.redirect_stderr(err), self.assertRaises(SystemExit) as left:
                main(args)
            self.assertEqual((left.exception.code, err.getvalue().count("\n")), (2, 1), err.getvalue())

    def test_errors_are_one_line_with_file_path_wrong_and_cure(self) -> None:
        good = self.put("good.json", recipe(solid()))
        bad = self.put("bad.json", recipe(solid(), {"kind": "twist", "turns": 1, "turnz": 2}))
        points = self.put("points.csv", "x,y,z\n1,2\n")
        cases = [
            (("size", bad), f"{bad}: bar.steps[0].turnz: unknown field; remove it or mend its name"),
            (("size", self.folder / "none.json"), f"{self.folder / 'none.json'}: cannot be read"),
            (("size", self.put("t.json", "{")), "not JSON"),
            (("size", self.put("deep.json", "[" * 10_000)), "levels deep"),
            (("size", self.put("v.json", '{"format": "varistrat.recipe/7"}')), "format: "),
            (("probe", good, "--points", points), f"{points}: line 2: not three finite numbers; write x,y,z in mm"),
            (("probe", good, "--points", self.folder / "no.csv"), "no.csv: cannot be read"),
            (("face", good, "--z", 99, "--out", "x.png"), "--z: 99 mm is outside the bar; choose a height from -10 to 10"),
            (("face", good, "--z", "nan", "--out", "x.png"), "--z: "),
            (("face", good, "--z", 0, "--px", 10**7, "--out", "x.png"), "--px: "),
            (("face", good, "--z", 0, "--out", self.folder / "no" / "x.png"), "cannot be written"),
            (("expose", good), "format: 'varistrat.recipe/1' is not a format this version reads"),
            (("expose", self.put("b.json", blade().as_json()), "--stations", 0), "--stations: "),
            (("expose", self.put("c.json", blade(share=None, recipe=recipe(solid())).as_json())), "recipe.bar.start: there is no core"),
            (("render", self.put("d.json", blade(share=None).as_json()), "--out", "x.png"), "recipe: the blade has neither"),
        ]
        for args, words in cases:
            code, out, err = self.call(*args)
            self.assertEqual((code, out, err.count("\n")), (2, "", 1), f"{args}: {err}")
            self.assertIn(words, err)
            self.assertIn("; ", err)


class StartTests(SimpleTestCase):
    """A short question has a short start: what it does not need is not fetched."""

    def fetched(self, *args: str) -> set[str]:
        code = (
            "import sys\nfrom varistrat.cli import main\ntry: main(sys.argv[1:])\nexcept SystemExit: pass\n"
            "print('fetched', *sorted({m.partition('.')[0] for m in sys.modules}), file=sys.stderr)"
        )
        done = subprocess.run([sys.executable, "-c", code, *args], capture_output=True, text=True, check=True)
        return set(done.stderr.splitlines()[-1].split()[1:])

    def test_help_fetches_nothing_of_the_core(self) -> None:
        self.assertFalse({"numpy", "pydantic", "scipy", "PIL"} & self.fetched("--help"))

    def test_sizes_need_no_pictures_and_no_laws_of_heat(self) -> None:
        with tempfile.TemporaryDirectory() as folder:
            file = Path(folder) / "r.json"
            file.write_text(json.dumps(recipe(solid(), {"kind": "draw", "width": 20.0, "thickness": 10.0})))
            self.assertFalse({"scipy", "PIL", "skimage", "shapely", "ezdxf"} & self.fetched("size", str(file)))


class SheathTests(CommandCase):
    def test_half_a_sheath_to_its_own_size(self) -> None:
        from varistrat.core.starters import STARTERS

        whole = {"format": "varistrat.design/1"} | STARTERS["ladder"].document()
        design, out = self.put("d.json", whole), self.folder / "sheath.pdf"
        for paper in ("a4", "letter"):
            code, said, err = self.call("sheath", design, "--out", out, "--paper", paper)
            self.assertEqual((code, said.strip(), err), (0, "", ""))
            self.assertTrue(out.read_bytes().startswith(b"%PDF"))
        bar = {k: v for k, v in whole.items() if k != "blade"}
        code, _, err = self.call("sheath", self.put("bar.json", bar), "--out", out)
        self.assertEqual(code, 2)
        self.assertEqual(len(err.strip().splitlines()), 1)
        code, _, err = self.call("sheath", design, "--out", "/nowhere/x.pdf")
        self.assertEqual(code, 2)
        self.assertIn("cannot be written", err)
