"""A blade's outline to a drawing and back; what is mended and what is refused."""

from io import StringIO
from typing import Any

import ezdxf.filemanagement
import numpy as np
from django.test import SimpleTestCase

from tests.core.samples import blade
from varistrat.core.blade.geometry import Geometry
from varistrat.core.blade.model import read_blade
from varistrat.core.blade.outline import curves
from varistrat.core.errors import InputError
from varistrat.core.interchange.blade_outline import Asked, Found, read_blade_outline, write_blade_outline

X = np.linspace(1.0, 149.0, 60)


def geometry(shape: str = "drop_point", **more: Any) -> Geometry:
    outline = {"shape": shape, "length": 150.0, "height": 30.0}
    return Geometry.of(read_blade(blade().as_json() | {"outline": outline} | more))


def svg(*paths: str) -> bytes:
    body = "".join(f'<path d="{d}" fill="none"/>' for d in paths)
    return f'<svg xmlns="http://www.w3.org/2000/svg" width="200mm" height="60mm" viewBox="0 0 200 60">{body}</svg>'.encode()


CLOSED = "M0,30 L90,30 L150,15 L100,0 L0,0 Z"
"""Edge down (y grows downwards in SVG): straight to 90, then up to the tip at 150; spine straight to 100."""


class RoundTripTests(SimpleTestCase):
    def test_every_shape_in_both_formats(self) -> None:
        for shape in ("drop_point", "straight_back", "sheepfoot", "leaf", "skew", "clipped", "hook", "end_edge"):
            for kind in ("svg", "dxf"):
                with self.subTest(shape=shape, kind=kind):
                    g = geometry(shape)
                    found = read_blade_outline(f"blade.{kind}", write_blade_outline(g, kind, "A blade"))  # type: ignore[arg-type]
                    self.assertAlmostEqual(found.length, 150.0, 3)
                    c, base = curves(found.outline), float(g.curves.edge(np.zeros(1))[0])
                    np.testing.assert_allclose(c.edge(X), g.curves.edge(X) - base, atol=0.05)
                    np.testing.assert_allclose(c.spine(X), g.curves.spine(X) - base, atol=0.05)

    def test_the_tang_is_drawn_beside_it(self) -> None:
        g = geometry(tang={"length": 60.0, "width": 14.0, "end_width": 8.0})
        self.assertIn(b'id="tang"', write_blade_outline(g, "svg", "x"))
        document = ezdxf.filemanagement.read(StringIO(write_blade_outline(g, "dxf", "x").decode()))
        rings = {e.dxf.layer: np.array(e.get_points("xy")) for e in document.modelspace()}
        self.assertEqual(set(rings), {"blade", "tang"})
        np.testing.assert_allclose(rings["tang"].min(axis=0), [-60.0, 8.0])

    def test_titles_are_escaped(self) -> None:
        self.assertIn(b"&lt;b&gt;", write_blade_outline(geometry(), "svg", "<b>"))


class ReadTests(SimpleTestCase):
    def read(self, raw: bytes, name: str = "a.svg", **asked: Any) -> Found:
        return read_blade_outline(name, raw, Asked(**asked))

    def at(self, found: Found, x: float) -> tuple[float, float]:
        c = curves(found.outline)
        at = np.array([float(x)])
        return float(c.edge(at)[0]), float(c.spine(at)[0])

    def test_edge_and_spine_are_told_apart_by_how_it_lies(self) -> None:
        found = self.read(svg(CLOSED))
        self.assertEqual((round(found.length, 3), round(found.height, 3)), (150, 30))
        np.testing.assert_allclose(self.at(found, 120), (7.5, 30 - 6), atol=0.03)
        up = self.read(svg(CLOSED), edge="up")
        np.testing.assert_allclose(self.at(up, 120), (6, 22.5), atol=0.03)
        left = self.read(svg("M150,30 L60,30 L0,15 L50,0 L150,0 Z"), tip="left")
        np.testing.assert_allclose(self.at(left, 120), (7.5, 24), atol=0.03)

    def test_true_length_and_tang(self) -> None:
        np.testing.assert_allclose(self.at(self.read(svg(CLOSED), length=300.0), 240), (15, 48), atol=0.06)
        found = self.read(svg(CLOSED), heel=40.0)
        self.assertAlmostEqual(found.length, 110.0, 3)
        np.testing.assert_allclose(self.at(found, 80), (7.5, 24), atol=0.03)

    def test_upright_drawings_are_laid_down(self) -> None:
        found = self.read(svg("M0,0 L0,150 L30,150 L30,60 L15,0 Z"))
        self.assertEqual(found.notes, ["turned to lie along"])
        self.assertAlmostEqual(found.length, 150.0, 3)

    def test_open_curves_are_joined(self) -> None:
        edge, spine = "M0,30 L90,30 L149,15.5", "M150,15 L100,0 L0.5,0"
        found = self.read(svg(edge, spine))
        self.assertIn("2 open curves were joined into one outline", found.notes)
        np.testing.assert_allclose(self.at(found, 120), (7.5, 24), atol=0.3)

    def test_the_largest_outline_counts(self) -> None:
        found = self.read(svg("M10,10 L20,10 L20,20 L10,20 Z", CLOSED))
        self.assertAlmostEqual(found.length, 150.0, 3)

    def test_of_very_many_curves_the_first_four_hundred_are_looked_at(self) -> None:
        small = ["M10,10 L20,10 L20,20 L10,20 Z"] * 400
        self.assertAlmostEqual(self.read(svg(*small[1:], CLOSED)).length, 150.0, 3)
        self.assertAlmostEqual(self.read(svg(*small, CLOSED)).length, 10.0, 3)

    def test_lines_and_arcs_of_a_dxf(self) -> None:
        document = ezdxf.filemanagement.new("R2010")
        space = document.modelspace()
        space.add_line((0, 0), (100, 0))
        space.add_arc((100, 25), 25, 270, 360)
        space.add_line((125, 25), (0, 25))
        space.add_line((0, 25), (0, 0))
        out = StringIO()
        document.write(out)
        found = self.read(out.getvalue().encode(), "a.dxf")
        np.testing.assert_allclose(self.at(found, 115), (25 - np.sqrt(25**2 - 15**2), 25), atol=0.06)

    def test_refused_with_the_reason(self) -> None:
        cases = {
            "crosses itself": svg("M0,0 L150,30 L150,0 L0,30 Z"),
            "do not meet": svg("M0,0 L60,0", "M60,40 L150,40"),
            "runs back under itself": svg("M0,30 L150,30 L150,0 L100,0 L100,24 L20,24 L20,20 L90,20 L90,0 L0,0 Z"),
            "no closed outline": svg(),
            "neither an SVG nor a DXF": b"hello",
        }
        for match, raw in cases.items():
            with self.subTest(match), self.assertRaisesRegex(InputError, match):
                self.read(raw, "a.bin")
        with self.assertRaisesRegex(InputError, "length: the outline would be 4 mm long"):
            self.read(svg(CLOSED), length=4.0)
        with self.assertRaisesRegex(InputError, "heel: 140 mm behind the heel"):
            self.read(svg(CLOSED), heel=140.0)
