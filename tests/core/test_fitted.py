"""What is fitted: colours, pins, coats, sheath as operations of the route; the sheath's piece against its definition; tests of the edge."""

from typing import Any
from uuid import UUID

import numpy as np
from django.test import SimpleTestCase

from tests.core.test_etch_depth import design
from tests.core.test_paper import paths
from varistrat.core.build.card import graded_of, tests_of
from varistrat.core.build.entry import ENTRY
from varistrat.core.build.state import state_of
from varistrat.core.design.worked import Worked
from varistrat.core.errors import InputError
from varistrat.core.finish.edge_test import EdgeTest, told
from varistrat.core.finish.grade import EDGE, POINTS
from varistrat.core.finish.sheath import MOUTH, PITCH, lower, sheath_of
from varistrat.core.heat.colours import RUN
from varistrat.core.paper.sheath import sheath_drawing, sheath_pdf
from varistrat.core.route.operation import ALONE, Operation
from varistrat.core.route.operations.colour_fittings import AT
from varistrat.core.route.route import route_of

ALL = {"pins": "peened", "colour": "blue", "coats": 3, "coat": "oil", "sheath": "leather"}


def fitted(**fit_up: Any) -> Worked:
    return design("1084", "15n20", finish={"fit_up": fit_up})


def last_day(worked: Worked) -> list[Operation]:
    kinds = ("colour", "fit_up", "peen", "coats", "sharpen", "sheath", "look")
    return [o for o in route_of(worked).operations if o.kind in kinds]


class RouteTests(SimpleTestCase):
    def test_nothing_is_fitted_that_was_not_asked_for(self) -> None:
        self.assertEqual([o.kind for o in last_day(fitted())], ["fit_up", "sharpen", "look"])

    def test_each_has_its_place_in_the_order(self) -> None:
        ops = last_day(fitted(**ALL))
        self.assertEqual([o.kind for o in ops], ["colour", "fit_up", "peen", "coats", "coats", "coats", "sharpen", "sheath", "look"])
        self.assertEqual(len({o.id for o in ops}), len(ops))

    def test_coats_dry_alone_one_after_another(self) -> None:
        for coat, dries in (("oil", 1440.0), ("lacquer", 240.0), ("wax", 30.0)):
            ops = [o for o in last_day(fitted(coats=2, coat=coat)) if o.kind == "coats"]
            for o in ops:
                self.assertIn(o.place, ALONE)
                self.assertEqual((o.alone, o.timers[0].minutes), (dries, dries))
            self.assertIn(ops[0].id, ops[1].after)
        rags = [c for o in last_day(fitted(coats=1)) for c in o.cautions if "Rags" in c]
        self.assertEqual(len(rags), 1, "oil rags take fire")

    def test_colours_are_those_of_clean_plain_steel(self) -> None:
        heats = {celsius for celsius, _, _ in RUN}
        for colour, celsius in AT.items():
            self.assertIn(celsius, heats)
            op = last_day(fitted(colour=colour))[0]
            self.assertEqual((op.kind, op.targets[0].quantity, op.targets[0].value), ("colour", "celsius", celsius))
            self.assertIn("Off the blade", op.say)


class SheathTests(SimpleTestCase):
    def test_the_border_keeps_its_distance(self) -> None:
        """Of a straight line at 30 it is 30 + r; past its end by d it is 30 + sqrt(r^2 - d^2); further than r there is none."""
        x, px = np.array([50.0, 106.0, 111.0]), np.linspace(0, 100, 1001)
        found = lower(x, px, np.full(1001, 30.0), 10.0)
        np.testing.assert_allclose(found[:2], [40.0, 38.0], atol=1e-9)
        self.assertEqual(found[2], -np.inf)

    def test_against_every_point_of_the_blade(self) -> None:
        worked = fitted(seam=6, welt=4)
        found, geometry = sheath_of(worked), worked.blade.geometry
        on_edge = found.welt
        for points, reach in ((found.half[:-1], 10.0), (found.stitch, 7.0)):
            # beyond the tip it goes straight up to the fold, further away
            inside = points[(points[:, 0] >= 0) & (points[:, 0] < geometry.length + reach - 0.05) & (points[:, 1] > 0)]
            away = np.hypot(inside[:, None, 0] - on_edge[None, :, 0], inside[:, None, 1] - on_edge[None, :, 1]).min(axis=1)
            np.testing.assert_allclose(away, reach, atol=0.08)
        apart = np.hypot(*np.diff(found.stitch, axis=0).T)
        self.assertTrue(np.all(abs(apart - PITCH) < 0.1))
        self.assertAlmostEqual(found.length, MOUTH + geometry.length + 10.0, 6)

    def test_it_is_as_wide_as_the_sum_says(self) -> None:
        """B = 2 (H + s + w) + t + l, H where the blade is highest below its spine."""
        worked = fitted(seam=5, welt=3, leather=2.5)
        curves, blade = worked.blade.geometry.curves, worked.blade.geometry.blade
        x = np.arange(0.0, worked.blade.geometry.length, 0.5)
        high = float(curves.spine(x).max() - curves.edge(x).min())
        wanted = 2 * (high + 5 + 3) + float(blade.spine_thickness.most) + 2.5
        self.assertAlmostEqual(sheath_of(worked).width, wanted, 2)

    def test_the_paper_is_one_to_one(self) -> None:
        worked = fitted(sheath="leather")
        found = sheath_of(worked)
        outline = max(paths(sheath_pdf(worked, "A knife"), 0), key=len)
        np.testing.assert_allclose(np.ptp(outline, axis=0), (found.length, found.width / 2), atol=0.05)
        ticks = [line for line in sheath_drawing(worked).lines if line.kind == "tick"]
        self.assertEqual(len(ticks), 2 * found.stitches)

    def test_without_a_blade(self) -> None:
        with self.assertRaises(InputError):
            sheath_of(design("1084", "15n20", blade=False))


class EdgeTestedTests(SimpleTestCase):
    """A test of the edge is a record of its own, and the grade hears of it."""

    def entries(self, *said: tuple[str, dict[str, Any]]) -> list[Any]:
        out = []
        for n, (kind, more) in enumerate(said, 1):
            op = "blade:look" if kind == "checked" else "blade:sharpen"
            out.append(
                ENTRY.validate_python({"id": str(UUID(int=n)), "op": op, "at": f"2031-05-17T10:{n:02}:00+00:00", "kind": kind, **more})
            )
        return out

    def edge(self, seen: str) -> tuple[str, dict[str, Any]]:
        return "tested", {"tested": {"test": "brass", "seen": seen}}

    def met(self, *but: int) -> list[tuple[str, dict[str, Any]]]:
        return [("checked", {"check": i, "good": True}) for i in range(len(POINTS)) if i not in but]

    def grade(self, *said: tuple[str, dict[str, Any]]) -> tuple[str | None, tuple[str, ...], tuple[str, ...]]:
        found = graded_of(state_of(self.entries(*said)), core=True)
        return found.grade, found.open, found.failed

    def test_one_that_stood_answers_the_point(self) -> None:
        self.assertEqual(self.grade(*self.met(EDGE)), (None, ("edge",), ()))
        self.assertEqual(self.grade(*self.met(EDGE), self.edge("fine")), ("first", (), ()))

    def test_one_that_failed_counts_whatever_the_list_says(self) -> None:
        self.assertEqual(self.grade(*self.met(), self.edge("rolled")), ("second", (), ("edge",)))

    def test_the_last_counts_and_one_before_it_was_done_anew_does_not(self) -> None:
        self.assertEqual(self.grade(*self.met(), self.edge("rolled"), self.edge("fine"))[0], "first")
        self.assertEqual(self.grade(*self.met(EDGE), self.edge("rolled"), ("redone", {}))[:2], (None, ("edge",)))

    def test_it_is_told_in_words(self) -> None:
        self.assertEqual(told(EdgeTest(test="rope", seen="fine", times=20)), "hard rope, 20 times: it stood")
        self.assertEqual(told(EdgeTest(test="hair", seen="dull")), "hair: dull soon")
        self.assertEqual(len(tests_of(state_of(self.entries(self.edge("fine"), self.edge("rolled"))))), 2)

    def test_nonsense_is_refused(self) -> None:
        for bad in ({"test": "axe", "seen": "fine"}, {"test": "brass", "seen": "fine", "hrc": [5]}, {}):
            with self.assertRaises(ValueError):
                self.entries(("tested", {"tested": bad}))
