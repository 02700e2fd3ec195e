"""Etch tables, gradients, and points kept as shares: the small machinery under every picture."""

import numpy as np
from django.test import SimpleTestCase

from tests.core.samples import STEELS, forged, solid, stack
from varistrat.core.bars.points import Points
from varistrat.core.bars.section import Section
from varistrat.core.bars.trace import Trace
from varistrat.core.etch.daylight import GROUND, to_srgb8
from varistrat.core.etch.tones import ETCH_MINUTES, EtchTable, reflectance
from varistrat.core.pattern import sampling

DARK, BRIGHT = (reflectance(STEELS[k].shade) for k in ("1084", "15n20"))
PILE = stack(("1084", 4), ("15n20", 2), ("1084", 4), width=30, length=100)


def floats(*values: float) -> np.ndarray:
    return np.array(values, np.float32)


class EtchTableTests(SimpleTestCase):
    trace = Trace(forged(PILE))
    table = EtchTable.of(trace, 1.0)

    def mean(self, s: np.ndarray, width: np.ndarray, table: EtchTable | None = None) -> tuple[np.ndarray, np.ndarray]:
        """Heights and widths in mm of the only pile."""
        return (table or self.table).mean(self.trace.row.put(0, s), width / np.float32(self.trace.row.step[0]))

    def test_inside_a_layer_it_is_that_layer(self) -> None:
        light, depth = self.mean(floats(2.0, 5.0, 8.0), floats(0.1, 0.1, 0.1))
        np.testing.assert_allclose(light, [DARK, BRIGHT, DARK], atol=2e-3)
        # 0.8 and 0.25 um a minute over 20 minutes
        np.testing.assert_allclose(depth, [0.8 * ETCH_MINUTES, 0.25 * ETCH_MINUTES, 0.8 * ETCH_MINUTES], rtol=0.02)

    def test_over_a_boundary_it_is_the_mean_by_length(self) -> None:
        # 4 mm about s = 4: half dark, half bright; all 10 mm: 8 dark to 2 bright
        light, _ = self.mean(floats(4.0, 5.0), floats(4.0, 10.0))
        np.testing.assert_allclose(light, [(DARK + BRIGHT) / 2, 0.8 * DARK + 0.2 * BRIGHT], atol=3e-3)

    def test_a_boundary_blurs_over_45_micrometres(self) -> None:
        """Straight from one steel to the other within 0.0225 mm of the boundary: 0.01 beyond it 0.0225 + 0.01 of 0.045 are gone."""
        light, _ = self.mean(floats(4.01, 4.03), floats(0.004, 0.004))
        part = (light - DARK) / (BRIGHT - DARK)
        np.testing.assert_allclose(part, [0.0325 / 0.045, 1.0], atol=0.06)

    def test_past_the_pile_it_looks_only_at_the_pile(self) -> None:
        light, _ = self.mean(floats(0.0, 10.0), floats(1.0, 1.0))
        np.testing.assert_allclose(light, DARK, atol=3e-3)

    def test_settled_steel_has_its_own_tone_however_wide_the_pixel(self) -> None:
        f = forged(PILE, {"kind": "restack", "pieces": 2, "interleaf": {"steel": "nickel", "thickness": 1.0}})
        trace = Trace(f)
        s = trace.place(Points(floats(20), floats(0), floats(0.1)))
        light, _ = EtchTable.of(trace, 1.0).mean(s, floats(900.0))
        np.testing.assert_allclose(light, reflectance(STEELS["nickel"].shade), atol=5e-3)

    def test_welded_faces_leave_a_bright_line_and_unwelded_ones_none(self) -> None:
        welded = EtchTable.of(Trace(forged(PILE, {"kind": "fold"})), 1.0)
        at_face = [self.mean(floats(0.0), floats(0.02), t)[0][0] for t in (welded, self.table)]
        self.assertGreater(at_face[0], at_face[1] + 0.05)

    def test_srgb(self) -> None:
        # 18 % grey is 118 of 255; the plate's grey is the screen's #292929
        self.assertEqual(to_srgb8(np.array([0.18, GROUND, 0.0])).tolist(), [118, 41, 0])
        self.assertTrue((np.diff(to_srgb8(np.linspace(0, 2, 50)).astype(int)) >= 0).all())


class SamplingTests(SimpleTestCase):
    def test_gradient_is_the_draw_ratio(self) -> None:
        # a pile of 10 mm drawn to 4: 2.5 mm of pile in each mm
        f = forged(PILE, {"kind": "draw", "width": 30.0, "thickness": 4.0})
        self.assertAlmostEqual(sampling.magnification(Trace(f))[0], 2.5, 4)

    def test_each_pile_has_its_own(self) -> None:
        # side by side, drawn to half their height: a pile of 10 mm in 5, one of 20 trimmed on edge stays as wide
        flat, upright = {"start": PILE}, {"start": PILE, "steps": [{"kind": "turn", "degrees": 90.0}]}
        f = forged({"kind": "assembly", "join": "side_by_side", "bars": [flat, upright]}, {"kind": "draw", "width": 20.0, "thickness": 5.0})
        self.assertEqual(f.first.width, 40)
        np.testing.assert_allclose(sampling.magnification(Trace(f))[:2], [2.0, 2.0], rtol=1e-4)

    def test_a_joint_is_not_a_thousand_layers(self) -> None:
        s = np.array([[0.0, 0.1, 0.2, 9.0, 9.1, 9.2]] * 3)
        self.assertLess(sampling.footprint(s).max(), 0.2)


class SharesTests(SimpleTestCase):
    def test_points_kept_as_shares_are_the_same_points(self) -> None:
        square, disc = Section("rectangle", 20, 20), Section.of_area("round", 400)
        y, z = np.array([3.0, -8.0]), np.array([6.0, 1.0])
        kept = Points(np.zeros(2), y.copy(), z.copy())
        kept.put_shares(disc, *kept.shares(square))
        self.assertTrue(kept.has_shares(disc))
        self.assertFalse(kept.has_shares(square))
        at_once = disc.from_shares(*square.shares(y, z))
        np.testing.assert_allclose([kept.y, kept.z], at_once)
        self.assertFalse(kept.has_shares(disc), "once looked at they are places again")

    def test_scale_between_two_sections_is_not_skipped(self) -> None:
        # 1 mm of scale before the second: shares of the smaller round are not shares of the larger one
        f = forged(solid(100, 20, 20), {"kind": "section", "form": "round"}, {"kind": "section", "form": "square", "scale": 1.0})
        p = Trace(f).begun(Points(np.array([10.0]), np.array([f.bar.width / 2]), np.array([0.0])))
        radius, skin = f.bars[1].width / 2, f.bars[1].width / 2 - 1.0
        self.assertLess(p.y[0], 10.0 * skin / radius + 0.3)
        self.assertGreater(p.y[0], 8.0)
