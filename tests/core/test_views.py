"""Sections, windows, solids, layers through a blade, drawings, solids as files, what-if sheets, findings."""

from io import BytesIO, StringIO
from itertools import pairwise
from xml.etree import ElementTree

import ezdxf.filemanagement
import numpy as np
import trimesh
from django.test import SimpleTestCase
from PIL import Image

from tests.core.samples import forged, solid, stack
from varistrat.core.bars.section import Section
from varistrat.core.bars.trace import Trace, pool
from varistrat.core.cutting.layers import on_show, through
from varistrat.core.design.document import read_document
from varistrat.core.design.findings import findings_of, late_findings_of
from varistrat.core.design.ledger import ledger_of
from varistrat.core.design.summary import summary_of
from varistrat.core.design.worked import Worked
from varistrat.core.errors import InputError
from varistrat.core.interchange.drawing import NOTHING, area_of, draw_section, index_tiff, regions
from varistrat.core.interchange.glb import bar_glb, blade_glb
from varistrat.core.interchange.outline import read_outlines
from varistrat.core.pattern.cuts import BladeSectionView, Plane, SectionView, SkinView, WindowView
from varistrat.core.pattern.picture import PREVIEW, Subject, draw
from varistrat.core.pattern.sampling import seam_cover
from varistrat.core.pattern.solid import SolidView
from varistrat.core.pattern.views import BladeView, BladeWindow
from varistrat.core.starters import STARTERS
from varistrat.core.steels import built_in
from varistrat.core.steels.flow import plain_stress, stiffness_ratio
from varistrat.core.sweep import Variation, parameters, plan, sheet

PILE = stack(("1084", 6), ("15n20", 4), ("1084", 10), width=30, length=100)


def grid_of(view, n: int = 40):  # type: ignore[no-untyped-def]
    width, height = view.size
    return view.patch(
        ((np.arange(n) + 0.5) * width / n).astype(np.float32), (height - (np.arange(n) + 0.5) * height / n).astype(np.float32)
    )


def floats(*values: float) -> np.ndarray:
    return np.array(values, np.float32)


class CutTests(SimpleTestCase):
    def test_a_plain_cut_is_the_section(self) -> None:
        bar = forged(PILE).bar
        view = SectionView(bar, Plane(40.0))
        self.assertEqual(tuple(round(v, 6) for v in view.size), (30, 20))
        patch = grid_of(view)
        self.assertTrue((patch.cover == 1).all())
        np.testing.assert_allclose(patch.x, 40, atol=1e-4)
        np.testing.assert_allclose((patch.y[0, 0], patch.z[0, 0]), (-15 + 30 / 80, 10 - 20 / 80), atol=1e-4)

    def test_turned_and_leant_planes(self) -> None:
        bar = forged(PILE).bar
        # at 60 degrees to straight across the cut is 30 / cos 60 = 60 long; lengthwise it is the whole bar
        self.assertAlmostEqual(SectionView(bar, Plane(50.0, 60.0)).size[0], 60, 4)
        self.assertAlmostEqual(SectionView(bar, Plane(50.0, 90.0)).size[0], 100, 4)
        # leant by 45 degrees it is 20 / cos 45 high; flat it is the face at mid-height
        self.assertAlmostEqual(SectionView(bar, Plane(50.0, 0.0, 45.0)).size[1], 20 * 2**0.5, 4)
        flat = grid_of(SectionView(bar, Plane(50.0, 0.0, 90.0)))
        np.testing.assert_allclose(flat.z, 0, atol=1e-4)
        a, b, n = Plane(0, 33.0, 21.0).axes
        np.testing.assert_allclose(np.cross(a, b), n, atol=1e-12)

    def test_a_window_is_as_deep_as_said_and_slopes_out(self) -> None:
        bar = forged(PILE).bar
        view = WindowView(bar, "top", 50.0, 0.0, 20.0, 10.0, 3.0, 2.0)
        patch = view.patch(floats(10, 50, 61, 63), floats(15, 21))
        # middle: 3 down; 1 mm out of the floor: half a mm up again; 5 mm across: still floor
        np.testing.assert_allclose(patch.z[0], [10, 7, 7.5, 8.5], atol=1e-4)
        np.testing.assert_allclose(patch.z[1, 1], 7.5, atol=1e-4)
        for face, where in (("bottom", (0, 0, -7)), ("front", (0, -12, 0)), ("back", (0, 12, 0))):
            one = WindowView(bar, face, 50.0, 0.0, 20.0, 6.0, 3.0).patch(floats(50), floats(15 if face == "bottom" else 10))  # type: ignore[arg-type]
            np.testing.assert_allclose((one.y[0, 0], one.z[0, 0]), where[1:], atol=1e-4, err_msg=face)

    def test_the_solid_shows_top_front_and_far_end(self) -> None:
        bar = forged(PILE).bar
        patch = grid_of(SolidView(bar, 35, 30), 120)
        hit = patch.cover > 0
        top, front, end = (np.isclose(v, w, atol=1e-3) & hit for v, w in ((patch.z, 10), (patch.y, -15), (patch.x, 100)))
        self.assertTrue((top | front | end)[hit].all())
        self.assertTrue(min(top.sum(), front.sum(), end.sum()) > 100)
        cut = grid_of(SolidView(bar, 35, 30, Plane(60.0)), 120)
        self.assertLessEqual(cut.x[cut.cover > 0].max(), 60.001)
        with pool() as executor:
            self.assertEqual(draw(Subject(Trace(forged(PILE))), SolidView(bar), 200, executor).shape[1], 200)

    def test_a_ring_goes_once_round_the_section(self) -> None:
        for form in ("rectangle", "diamond", "octagon", "round"):
            section = Section(form, 20.0, 20.0)  # type: ignore[arg-type]
            ring = section.ring()
            np.testing.assert_allclose(ring[0], ring[-1], atol=1e-12)
            self.assertAlmostEqual(area_of(ring) / section.area, 1, 2, form)
            self.assertTrue(section.holds(ring[:, 0], ring[:, 1], 1e-6).all())

    def test_the_skin_unrolled_is_on_the_skin(self) -> None:
        bar = forged(PILE).bar
        view = SkinView(bar, bar.section.ring())
        self.assertAlmostEqual(view.size[1], 100)
        patch = grid_of(view)
        on = np.isclose(np.abs(patch.y), 15, atol=1e-4) | np.isclose(np.abs(patch.z), 10, atol=1e-4)
        self.assertTrue(on.all())

    def test_a_joint_line_is_never_thinner_than_a_sample(self) -> None:
        # samples 1 mm apart crossing a joint: one of them is covered whole, the line is not lost
        seam = np.tile(np.arange(-3.3, 4), (3, 1)).astype(np.float32)
        self.assertGreater(seam_cover(seam)[1].sum(), 0.9)
        # samples of 0.01 mm: the line is a tenth of a millimetre wide
        fine = np.tile(np.arange(-1, 1, 0.01), (3, 1)).astype(np.float32)
        self.assertAlmostEqual(float(seam_cover(fine)[1].sum()) * 0.01, 0.1, delta=0.02)


class BladeTests(SimpleTestCase):
    worked = Worked.of(read_document(STARTERS["clad_core"].document()))

    def test_through_the_blade_adds_up_to_its_thickness(self) -> None:
        cut = self.worked.cut
        assert cut
        runs = through(cut, 40.0, 15.0)
        g = cut.placed.geometry
        at = np.array([40.0])
        self.assertAlmostEqual(sum(t for _, t in runs), float(g.faces(at, np.array([15.0])).thickness[0]), 6)
        self.assertIn("1095", [k for k, _ in runs])
        self.assertTrue(all(a[0] != b[0] for a, b in pairwise(runs)), "likes are merged")

    def test_what_is_on_show_adds_up(self) -> None:
        assert self.worked.cut
        shown = on_show(self.worked.cut)
        self.assertAlmostEqual(sum(shown.steels.values()), 1)
        self.assertAlmostEqual(sum(shown.shares), 1)
        self.assertEqual(len(shown.edges), len(shown.shares) + 1)
        # the bevel lays the core bare along the edge
        self.assertGreater(shown.steels["1095"], 0.15)

    def test_a_core_between_joined_plates_has_a_core_line(self) -> None:
        summary = summary_of(self.worked)
        assert summary and summary.core
        self.assertTrue(any(s.state == "line" for s in summary.core))

    def test_a_section_of_the_blade_is_as_thick_as_the_blade(self) -> None:
        cut = self.worked.cut
        assert cut
        view = BladeSectionView(cut.placed, 30.0)
        patch = grid_of(view, 200)
        width, height = view.size
        area = float(patch.cover.mean()) * width * height
        g = cut.placed.geometry
        h = (np.arange(400) + 0.5) / 400 * float(g.height(np.array([30.0]))[0])
        want = float(g.faces(np.array([30.0]), h).thickness.mean() * g.height(np.array([30.0]))[0])
        self.assertAlmostEqual(area / want, 1, delta=0.02)

    def test_ground_further_both_faces_meet_in_the_middle(self) -> None:
        cut = self.worked.cut
        assert cut
        right, left = (grid_of(BladeView(cut.placed, s, ground=50.0)) for s in ("right", "left"))  # type: ignore[arg-type]
        on = (right.cover > 0.9)[:, ::-1] & (left.cover > 0.9)
        self.assertTrue(on.any())
        np.testing.assert_allclose(right.z[:, ::-1][on], left.z[on], atol=0.02)

    def test_a_window_in_a_face_is_as_deep_as_said_and_nowhere_else(self) -> None:
        cut = self.worked.cut
        assert cut
        window = BladeWindow(60.0, 15.0, 20.0, 8.0, 0.6, 4.0)
        np.testing.assert_allclose(window.off(floats(60, 71, 80), floats(15, 15, 15)), [0.6, 0.35, 0.0], atol=1e-6)
        plain, ground = (grid_of(BladeView(cut.placed, "right", window=w), 60) for w in (None, window))
        deeper = plain.z - ground.z
        self.assertAlmostEqual(float(deeper.max()), 0.6, 4)
        self.assertLess(float(np.abs(deeper[:, :18][plain.cover[:, :18] > 0.9]).max()), 1e-5)

    def test_findings_about_the_pattern_on_the_blade(self) -> None:
        document = STARTERS["fine_restack"].document()
        thin = deepen(document, 24)
        codes = {f.code for f in findings_of(Worked.of(read_document(thin)))}
        self.assertTrue(codes & {"layers_haze", "layers_lost"}, codes)
        plain = STARTERS["hand_forged"].document()
        for layer in plain["recipe"]["bar"]["start"]["layers"]:
            layer["steel"] = {"15n20": "1018"}.get(layer["steel"], layer["steel"])
        evened = [f for f in late_findings_of(Worked.of(read_document(plain))) if f.code == "carbon_evened"]
        self.assertEqual(evened[0].grade, "care", "no nickel to keep the contrast")
        core = STARTERS["three_layer"].document()
        for layer, t in zip(core["recipe"]["bar"]["start"]["layers"], (9.0, 2.0, 9.0), strict=True):
            layer["thickness"] = t
        self.assertIn("core_thin", {f.code for f in findings_of(Worked.of(read_document(core)))})
        for layer, t in zip(core["recipe"]["bar"]["start"]["layers"], (1.0, 18.0, 1.0), strict=True):
            layer["thickness"] = t
        self.assertIn("clad_thin", {f.code for f in findings_of(Worked.of(read_document(core)))})
        for layer, t in zip(core["recipe"]["bar"]["start"]["layers"], (14.0, 4.0, 2.0), strict=True):
            layer["thickness"] = t
        self.assertIn("edge_clad", {f.code for f in findings_of(Worked.of(read_document(core)))})

    def test_steels_that_will_not_flow_together(self) -> None:
        # checked against the published curve: 0.84 C at 10 /s, MPa
        for celsius, mpa in ((950, 162), (1000, 138), (1100, 104), (1200, 81)):
            self.assertAlmostEqual(plain_stress(0.84, celsius, 0.2, 10.0), mpa, delta=1)
        self.assertAlmostEqual(plain_stress(0.84, 1000), 97, delta=1)
        self.assertGreater(stiffness_ratio(built_in()["1084"], built_in()["304"]), 1.5)
        self.assertLess(stiffness_ratio(built_in()["1084"], built_in()["15n20"]), 1.1)
        document = STARTERS["blank"].document()
        document["recipe"]["bar"]["start"]["layers"][1]["steel"] = "304"
        self.assertIn("unlike_flow", [f.code for f in ledger_of(Worked.of(read_document(document)))[0].findings])


def deepen(document, pieces: int):  # type: ignore[no-untyped-def]
    """The same design with its restacks in many more pieces."""
    for step in document["recipe"]["bar"]["steps"]:
        if step["kind"] == "restack":
            step["pieces"] = pieces
            step["kerf"] = 0.0
    return document


class DrawingTests(SimpleTestCase):
    def setUp(self) -> None:
        self.f = forged(PILE)
        self.view = SectionView(self.f.bar, Plane(30.0))

    def test_areas_of_a_flat_pile(self) -> None:
        found = {r.steel: r for r in regions(Trace(self.f), self.view)}
        areas = {k: sum(abs(area_of(ring)) for ring in r.rings) for k, r in found.items()}
        self.assertAlmostEqual(areas["15n20"], 120, delta=1.5)
        self.assertAlmostEqual(areas["1084"], 480, delta=2.5)

    def test_svg_and_dxf_are_to_scale(self) -> None:
        svg = draw_section(Trace(self.f), self.view, "svg", "A <section> & more")
        root = ElementTree.fromstring(svg)
        self.assertEqual((root.get("width"), root.get("height")), ("30.000mm", "20.000mm"))
        self.assertEqual({e.get("id") for e in root if e.get("id")}, {"1084", "15n20"})
        dxf = draw_section(Trace(self.f), self.view, "dxf", "")
        document = ezdxf.filemanagement.read(StringIO(dxf.decode()))
        self.assertEqual(document.units, 4)  # mm
        lines = list(document.modelspace().query('LWPOLYLINE[layer=="15n20"]'))
        self.assertEqual(len(lines), 1)
        heights = [p[1] for p in lines[0].get_points()]
        self.assertAlmostEqual(max(heights) - min(heights), 4, delta=0.05)

    def test_tiff_tells_which_steel_is_where(self) -> None:
        round_bar = forged(PILE, {"kind": "section", "form": "round"})
        view = SectionView(round_bar.bar, Plane(10.0))
        raw = index_tiff(Trace(round_bar), view, 200, "test")
        image = Image.open(BytesIO(raw))
        values = np.asarray(image)
        self.assertEqual(values.dtype, np.uint16)
        self.assertEqual(set(np.unique(values)), {0, 1, NOTHING})
        self.assertIn("0 = 1084; 1 = 15n20", image.tag_v2[270])  # type: ignore[attr-defined]
        self.assertAlmostEqual(image.info["dpi"][0] / 25.4, 200 / view.size[0], 2)
        with self.assertRaisesRegex(InputError, "too many"):
            index_tiff(Trace(round_bar), view, 9000)

    def test_outlines_come_back_from_our_own_drawings(self) -> None:
        for kind in ("svg", "dxf"):
            raw = draw_section(Trace(forged(solid(100, 30, 20))), SectionView(self.f.bar, Plane(30.0)), kind, "")
            (corners,) = read_outlines(f"a.{kind}", raw)
            np.testing.assert_allclose(np.ptp(np.array(corners), axis=0), (30, 20), atol=0.1)

    def test_curves_units_and_holes_in_svg(self) -> None:
        circle = (
            b'<svg xmlns="http://www.w3.org/2000/svg" width="20mm" height="20mm" viewBox="0 0 40 40"><circle cx="20" cy="20" r="16"/></svg>'
        )
        ring = np.array(read_outlines("c.svg", circle)[0])
        np.testing.assert_allclose(np.hypot(*ring.T), 8, atol=0.03)
        arrow = b'<svg xmlns="http://www.w3.org/2000/svg"><path d="M0 0 L10 0 L5 -8 Z M2 20 L4 20"/></svg>'
        ring = np.array(read_outlines("a.svg", arrow)[0])
        self.assertGreater(ring[np.abs(ring[:, 0]).argmin(), 1], 3, "up in the drawing is up")

    def test_broken_and_hostile_drawings_are_refused_with_a_reason(self) -> None:
        bomb = (
            b'<?xml version="1.0"?><!DOCTYPE x [<!ENTITY a "aaaa"><!ENTITY b "&a;&a;&a;">]><svg '
            b'xmlns="http://www.w3.org/2000/svg">&b;</svg>'
        )
        huge = b"<svg>" + b" " * 1_000_001
        open_line = b'<svg xmlns="http://www.w3.org/2000/svg"><path d="M0 0 L10 0 L5 8"/></svg>'
        crossing = b'<svg xmlns="http://www.w3.org/2000/svg"><path d="M0 0 L10 10 L10 0 L0 10 Z"/></svg>'
        for raw, why in (
            (bomb, "document type"),
            (huge, "bytes"),
            (b"PK\x03\x04zip", "an archive"),
            (b"\x89PNG\r\n", "a picture"),
            (b"%PDF-1.7", "a PDF"),
            (b"", "neither"),
            (b"hello", "neither"),
            (b"<svg", "cannot be read"),
            (b"<svg \xff\xfe", "UTF-8"),
            (open_line, "no closed outline"),
            (crossing, "no closed outline"),
            (b"0\nSECTION\n2\nENTITIES\n0\n", "cannot be read"),
            (b"0\nEOF\n", "no closed outline"),
            (b'<svg xmlns="http://www.w3.org/2000/svg"><path d="M0 0 L1e999 0 L5 8 Z"/></svg>', "goes beyond"),
        ):
            with self.assertRaisesRegex(InputError, why, msg=raw[:40]):
                read_outlines("file", raw)


class SolidFileTests(SimpleTestCase):
    def merged(self, raw: bytes) -> trimesh.Trimesh:
        scene = trimesh.load(BytesIO(raw), file_type="glb")
        points, faces, n = [], [], 0
        for g in scene.geometry.values():
            self.assertTrue(g.visual.material.baseColorTexture.size[0] > 4)
            points.append(g.vertices)
            faces.append(g.faces + n)
            n += len(g.vertices)
        mesh = trimesh.Trimesh(np.vstack(points), np.vstack(faces), process=False)
        mesh.merge_vertices(digits_vertex=8)
        return mesh

    def test_bars_of_every_form_are_closed_and_hold_their_volume(self) -> None:
        for form in ("square", "octagon", "round", "diamond"):
            f = forged(PILE, {"kind": "section", "form": form})
            with pool() as executor:
                mesh = self.merged(bar_glb(Subject(Trace(f)), executor, 128, 60.0))
            self.assertTrue(mesh.is_watertight and mesh.is_winding_consistent, form)
            # metres in the file; a round is a polygon of 48 sides there
            self.assertAlmostEqual(mesh.volume * 1e9 / (f.bar.section.area * 60), 1, delta=0.005)

    def test_a_blade_holds_its_volume(self) -> None:
        worked = Worked.of(read_document(STARTERS["bold_twist"].document()))
        assert worked.cut
        with pool() as executor:
            mesh = self.merged(blade_glb(worked.cut, worked.cut.subject(), executor, 128))
        self.assertTrue(mesh.is_winding_consistent)
        self.assertAlmostEqual(mesh.volume * 1e9 / worked.blade_volume, 1, delta=0.005)


class SheetTests(SimpleTestCase):
    document = read_document(STARTERS["opposed_twist"].document())

    def axis(self, path: str, low: float, high: float, count: int) -> Variation:
        return Variation(path=path, low=low, high=high, count=count)

    def test_every_number_can_be_found_and_set(self) -> None:
        found = parameters(self.document)
        self.assertGreater(len(found), 40)
        for p in found:
            jobs = plan(self.document, [self.axis(p.path, p.value, p.value + 1, 2)])
            self.assertEqual(len(jobs), 2, p.path)
        alike = next(p for p in found if p.path == "recipe.bar.start.bars[*].steps[3].turns")
        _, last = plan(self.document, [self.axis(alike.path, 3.0, 8.0, 2)])
        self.assertEqual([b["steps"][3]["turns"] for b in last[1]["recipe"]["bar"]["start"]["bars"]], [8.0] * 3)

    def test_two_numbers_make_rows_and_columns(self) -> None:
        a, b = "recipe.bar.steps[0].thickness", "recipe.bar.steps[1].thickness"
        jobs = plan(self.document, [self.axis(a, 9.0, 10.0, 2), self.axis(b, 5.0, 6.0, 3)])
        self.assertEqual([v for v, _ in jobs], [(9, 5), (10, 5), (9, 5.5), (10, 5.5), (9, 6), (10, 6)])

    def test_pictures_differ_and_what_cannot_be_is_told(self) -> None:
        with pool() as executor:
            cells = list(sheet(self.document, [self.axis("recipe.bar.steps[2].top", 0.3, 9.0, 3)], executor, lambda: False, (120, 40)))
        self.assertTrue(cells[0].picture and cells[0].picture.startswith(b"\x89PNG"))
        self.assertIsNone(cells[2].picture)
        self.assertIn("recipe.bar", cells[2].problem)

    def test_it_stops_when_told_to(self) -> None:
        with pool() as executor:
            cells = sheet(self.document, [self.axis("recipe.bar.steps[1].thickness", 5.0, 7.0, 24)], executor, lambda: True, (60, 20))
            self.assertEqual(list(cells), [])

    def test_refusals(self) -> None:
        a = self.axis("recipe.bar.steps[0].thickness", 5.0, 6.0, 24)
        for axes, path in (
            ([self.axis("recipe.bar.steps[99].thickness", 1, 2, 2)], "axes[0].path"),
            ([a, a], "axes[1].path"),
            ([a, self.axis("recipe.bar.steps[1].thickness", 5.0, 6.0, 24)], "axes"),
            ([], "axes"),
        ):
            with self.assertRaises(InputError) as caught:
                plan(self.document, axes)
            self.assertEqual(caught.exception.problems[0].path, path)

    def test_a_preview_of_every_starter_can_be_drawn(self) -> None:
        with pool() as executor:
            for key, starter in STARTERS.items():
                worked = Worked.of(read_document(starter.document()))
                if worked.cut:
                    grey = draw(worked.cut.subject(), BladeView(worked.cut.placed, "right"), 160, executor, PREVIEW)
                    self.assertGreater(grey[:, :100].std(), 20, f"{key} shows no pattern")
