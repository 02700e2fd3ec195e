"""What was saved of the passes over the points changed nothing of what they say."""

from concurrent.futures import ThreadPoolExecutor

import numpy as np
from django.test import SimpleTestCase

from tests.core.samples import forged, solid
from varistrat.core.bars.points import Points
from varistrat.core.bars.section import Section
from varistrat.core.bars.steps.restack import _SIGNS


def spread(n: int, *sizes: float, dtype: type = np.float64) -> list[np.ndarray]:
    rng = np.random.default_rng(4)
    return [(rng.uniform(-0.5, 0.5, n) * s).astype(dtype) for s in sizes]


class ScaleTests(SimpleTestCase):
    def test_scaling_waits_and_is_the_same(self) -> None:
        x, y, z = spread(50, 100.0, 30.0, 10.0)
        p = Points(x.copy(), y.copy(), z.copy())
        p.scale(2.0, 3.0, 0.5)
        p.scale(0.25, 1.0, 4.0)
        p.z += 1.0
        p.scale(10.0, 1.0, 2.0)
        np.testing.assert_allclose(p.x, 5.0 * x)
        np.testing.assert_allclose(p.y, 3.0 * y)
        np.testing.assert_allclose(p.z, 2 * (2.0 * z + 1.0))
        p.scale(3.0)
        p.x = x.copy()
        np.testing.assert_array_equal(p.x, x)

    def test_shares_take_what_waits_along(self) -> None:
        y, z = spread(400, 6.0, 4.0)
        for form in ("rectangle", "diamond", "octagon", "round"):
            section = Section(form, 40.0, 36.0)
            p = Points(np.zeros(400), y.copy(), z.copy())
            p.scale(1.0, 2.0, 3.0)
            for got, want in zip(p.shares(section), section.shares(2 * y, 3 * z), strict=True):
                np.testing.assert_allclose(got, want, atol=1e-12)
            # and they stand where they stood
            np.testing.assert_allclose(p.z, 3 * z)
            p.scale(1.0, 5.0, 5.0)
            p.put_shares(section, *section.shares(2 * y, 3 * z))
            np.testing.assert_allclose(p.y, 2 * y, atol=1e-9)


class SectionTests(SimpleTestCase):
    def test_there_and_back_in_both_widths(self) -> None:
        for form in ("rectangle", "diamond", "octagon", "round"):
            for dtype, within in ((np.float64, 1e-11), (np.float32, 3e-5)):
                section = Section(form, 24.0, 18.0)
                y, z = spread(20_000, 24.0, 18.0, dtype=dtype)
                keep = section.holds(y, z)
                y, z = y[keep], z[keep]
                back = section.from_shares(*section.shares(y, z))
                self.assertLess(max(np.abs(back[0] - y).max(), np.abs(back[1] - z).max()), within, (form, dtype))

    def test_answers_are_the_askers_own(self) -> None:
        """Arrays to work in are used again; what was answered before stays as it was, in every thread."""
        section = Section("rectangle", 20.0, 14.0)
        y, z = spread(5000, 20.0, 14.0, dtype=np.float32)
        first = section.shares(y, z)
        kept = [a.copy() for a in first]
        placed = section.from_shares(*first)
        held = [a.copy() for a in placed]
        section.from_shares(*section.shares(z.copy(), (y / 2).copy()))
        for now, then in zip((*first, *placed), (*kept, *held), strict=True):
            np.testing.assert_array_equal(now, then)

        def again(_: int) -> bool:
            return all(np.array_equal(a, b) for a, b in zip(section.from_shares(*section.shares(y, z)), held, strict=True))

        with ThreadPoolExecutor(4) as many:
            self.assertTrue(all(many.map(again, range(60))))


class LayTests(SimpleTestCase):
    def test_lays_are_repeated_in_their_order(self) -> None:
        lays = list(_SIGNS)
        for pieces in (2, 3, 5, 8):
            for lay in ([lays[1]], lays[:2], lays[:3], lays, lays * 3):
                lay = lay[:pieces]
                f = forged(solid(400.0, 30.0, 10.0), {"kind": "restack", "pieces": pieces, "lay": lay})
                before, after = f.bars[0], f.bar
                x, y, _ = spread(60, 0.8 * after.length, 20.0, 1.0)
                for k in range(pieces):
                    z = np.full(60, -after.thickness / 2 + (k + 0.3) * before.thickness)
                    p = Points(x + after.length / 2, y.copy(), z)
                    f.stages[0].step.pull(p, before, after)
                    signs = _SIGNS[lay[k % len(lay)]]
                    np.testing.assert_allclose(p.x, signs[0] * x + (k + 0.5) * after.length, atol=1e-9)
                    np.testing.assert_allclose(p.y, signs[1] * y, atol=1e-9)
                    np.testing.assert_allclose(p.z, signs[2] * (0.3 - 0.5) * before.thickness, atol=1e-6)
