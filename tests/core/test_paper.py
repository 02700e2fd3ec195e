"""On paper: one to one to 0.05 mm, nothing left out over several sheets, every operation with its box; a code that can be read."""

import io
import json
import tempfile
from contextlib import redirect_stderr, redirect_stdout
from pathlib import Path
from typing import Any

import numpy as np
import segno
from django.test import SimpleTestCase
from pypdf import PdfReader
from pypdf.generic import ContentStream

from varistrat.cli import main
from varistrat.core.design.document import read_document
from varistrat.core.design.worked import Worked
from varistrat.core.errors import InputError
from varistrat.core.paper.label import label_pdf
from varistrat.core.paper.one_to_one import MARGIN, OVERLAP, drawing_of, one_to_one_pdf
from varistrat.core.paper.sheet import pieces_said, said_of, sheet_pdf
from varistrat.core.paper.typeset import PAPERS, SIZES, check_paper
from varistrat.core.route.route import Route, route_of
from varistrat.core.starters import STARTERS

PT = 25.4 / 72


def worked(length: float = 168.0, tang: float | None = None, starter: str = "bold_twist") -> Worked:
    data: dict[str, Any] = json.loads(json.dumps(STARTERS[starter].document()))
    data["blade"]["outline"]["length"] = length
    if tang:
        data["blade"]["tang"] = {"length": tang, "width": 18.0, "end_width": 12.0}
    return Worked.of(read_document(data))


def paths(pdf: bytes, page: int = 0) -> list[np.ndarray]:
    """Every path of a page as points (n, 2), mm from the top left of the paper."""
    reader = PdfReader(io.BytesIO(pdf))
    sheet = reader.pages[page]
    high = float(sheet.mediabox.height)
    now, kept, out, here = np.eye(3), [], [], []  # type: ignore[var-annotated]
    content = ContentStream(sheet.get_contents(), reader)
    for operands, operator in content.operations:
        given = [float(o) for o in operands] if operator in (b"cm", b"m", b"l") else []
        if operator == b"q":
            kept.append(now)
        elif operator == b"Q":
            now = kept.pop()
        elif operator == b"cm":
            a, b, c, d, e, f = given
            now = np.array([[a, b, 0], [c, d, 0], [e, f, 1]]) @ now
        elif operator in (b"m", b"l"):
            if operator == b"m" and here:
                out.append(np.array(here))
                here = []
            x, y, _ = np.array([*given, 1.0]) @ now
            here.append((x * PT, (high - y) * PT))
        elif operator in (b"S", b"s", b"n", b"f") and here:
            out.append(np.array(here))
            here = []
    return out


def text(pdf: bytes) -> str:
    return "\n".join(p.extract_text() for p in PdfReader(io.BytesIO(pdf)).pages)


class OneToOneTests(SimpleTestCase):
    def outline(self, pdf: bytes, page: int = 0) -> np.ndarray:
        return max(paths(pdf, page), key=len)

    def test_it_is_one_to_one(self) -> None:
        for paper in PAPERS:
            blade = worked(168.0, 60.0)
            pdf = one_to_one_pdf(blade, "Line knife", paper)
            page = PdfReader(io.BytesIO(pdf)).pages[0]
            size = (float(page.mediabox.width) * PT, float(page.mediabox.height) * PT)
            np.testing.assert_allclose(size, SIZES[paper][::-1], atol=0.05)
            found = self.outline(pdf)
            low, high = blade.blade.geometry.curves.span()
            np.testing.assert_allclose(np.ptp(found, axis=0), (168.0 + 60.0, high - low), atol=0.05)
            # every point of it where the blade has it, the tang's end at the margin
            want = np.array(drawing_of(blade).lines[0].points)
            np.testing.assert_allclose(found[: len(want)] - found[0], want - want[0], atol=0.05)
            rules = [p for p in paths(pdf) if len(p) == 2 and abs(np.ptp(p[:, 0]) - 100) < 0.05 and np.ptp(p[:, 1]) < 0.05]
            self.assertEqual(len(rules), 1, "the rule to check the printer by")

    def test_sections_have_the_thickness_of_the_blade(self) -> None:
        blade = worked()
        drawing = drawing_of(blade)
        for cut in drawing.cuts:
            x = np.array([float(cut.says.split()[1])])
            wide = np.ptp(np.array(cut.points)[:, 0])
            self.assertAlmostEqual(wide, float(blade.blade.geometry.faces(x, blade.blade.geometry.height(x)).thickness[0]), delta=0.05)

    def test_a_long_blade_on_several_sheets_that_share_crosses(self) -> None:
        blade = worked(420.0, 150.0)
        pdf = one_to_one_pdf(blade, "Hedge sword")
        reader = PdfReader(io.BytesIO(pdf))
        room = 297.0 - 2 * MARGIN
        self.assertEqual(len(reader.pages), 3)
        self.assertLess(570.0, 3 * room - 2 * OVERLAP)
        starts = [float(self.outline(pdf, n)[:, 0].min()) for n in range(3)]
        np.testing.assert_allclose(np.diff(starts), -(room - OVERLAP), atol=0.05)

        def crosses(n: int) -> set[float]:
            return {round(float(p[:, 0].mean()), 1) for p in paths(pdf, n) if len(p) == 2 and abs(np.ptp(p[:, 0]) - 4) < 0.01}

        # the same place of the blade on both sheets
        first, second = sorted(crosses(0)), sorted(crosses(1))
        self.assertAlmostEqual(first[-1] - second[0], room - OVERLAP, 1)

    def test_without_a_blade_there_is_nothing_to_draw(self) -> None:
        data = STARTERS["bold_twist"].document()
        with self.assertRaises(InputError):
            one_to_one_pdf(Worked.of(read_document({"recipe": data["recipe"]})), "A bar")


class SheetTests(SimpleTestCase):
    def test_every_operation_with_what_it_asks(self) -> None:
        blade = worked()
        route = route_of(blade)
        told = text(sheet_pdf("Line knife", said_of(route), pieces=pieces_said(blade, route)))
        flat = " ".join(told.split())
        for n, o in enumerate(route.operations, 1):
            self.assertIn(f"{n}. {o.title}", flat)
            for caution in o.cautions:
                self.assertIn(" ".join(caution.split()), flat)
            for check in o.checks:
                (self.assertIn if check.applies else self.assertNotIn)(check.ask, flat)
        pile = route.operations[0].targets[0]
        self.assertIn(f"{pile.value:.1f} mm", flat)
        self.assertIn("To cut", flat)

    def test_any_words_are_only_words(self) -> None:
        odd = "#panic() $x$ *bold* _it_ `raw` <a> @ref \\ // [ ] é ½"
        self.assertIn("#panic()", text(sheet_pdf(odd, [])))

    def test_paper(self) -> None:
        self.assertEqual(check_paper("letter"), "letter")
        with self.assertRaises(InputError):
            check_paper("papyrus")
        page = PdfReader(io.BytesIO(sheet_pdf("x", [], "letter"))).pages[0]
        np.testing.assert_allclose((float(page.mediabox.width) * PT, float(page.mediabox.height) * PT), SIZES["letter"], atol=0.05)

    def test_fonts_are_within(self) -> None:
        fonts = PdfReader(io.BytesIO(sheet_pdf("Line knife", said_of(route_of(worked()))))).pages[0]["/Resources"]["/Font"]  # type: ignore[index]
        names = {str(f.get_object()["/BaseFont"]) for f in fonts.values()}
        self.assertTrue(names and all("Atkinson" in n for n in names), names)


class PartTests(SimpleTestCase):
    def test_a_sheet_for_the_kiln_has_each_step_of_the_hardening_once(self) -> None:
        found = worked()
        route = route_of(found)
        titles = [o.title for o in said_of(route, "hardening")]
        self.assertEqual(titles, [o.title for o in route.operations if o.kind == "harden"])
        self.assertEqual(len(titles), len(set(titles)))
        self.assertEqual(len(said_of(route)), len(route.operations))
        self.assertRaises(InputError, said_of, Route((), route.sheet), "hardening")


class LabelTests(SimpleTestCase):
    def test_its_code_is_the_address(self) -> None:
        address = "https://forge.example/build/417"
        rows = [[int(c) for c in row] for row in segno.make(address, error="m", micro=False).matrix]
        pdf = label_pdf("Eel splitter", ["for Ferryman Dace"], address)
        page = PdfReader(io.BytesIO(pdf)).pages[0]
        content = ContentStream(page.get_contents(), PdfReader(io.BytesIO(pdf)))
        squares = sum(1 for _, operator in content.operations if operator in (b"f", b"f*"))
        self.assertEqual(squares, sum(map(sum, rows)))
        self.assertIn("Eel splitter", page.extract_text())


class CommandTests(SimpleTestCase):
    def run_it(self, *args: str) -> tuple[int, str, str]:
        """The code it ends with, what it says, and what it complains of."""
        out, err = io.StringIO(), io.StringIO()
        with redirect_stdout(out), redirect_stderr(err):
            code = main(args)
        return code, out.getvalue(), err.getvalue()

    def test_sheet_and_template(self) -> None:
        with tempfile.TemporaryDirectory() as folder:
            design, out = Path(folder) / "d.json", Path(folder) / "out.pdf"
            design.write_text(json.dumps(worked().document.as_json()))
            for what in ("sheet", "template"):
                done = self.run_it(what, str(design), "--out", str(out), "--paper", "letter")
                self.assertEqual(done, (0, "", ""), what)
                self.assertTrue(out.read_bytes().startswith(b"%PDF"), what)
                out.unlink()
            for only, there, absent in (("hardening", "quench", "Cut "), ("cuts", "To cut", "quench")):
                self.assertEqual(self.run_it("sheet", str(design), "--out", str(out), "--only", only)[0], 0)
                text = "".join(p.extract_text() for p in PdfReader(out).pages)
                self.assertIn(there.lower(), text.lower(), only)
                self.assertNotIn(absent.lower(), text.lower().replace("to cut", ""), only)
                out.unlink()
            code, _, complaint = self.run_it("sheet", str(design), "--out", f"{folder}/no/where.pdf")
            self.assertEqual((code, len(complaint.splitlines())), (2, 1))
            design.write_text("{}")
            self.assertEqual((self.run_it("template", str(design), "--out", str(out))[0], out.exists()), (2, False))
