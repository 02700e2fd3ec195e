"""Patches kept: the same picture, sooner; another blade, another place or another look is never shown instead."""

from dataclasses import replace
from typing import Any
from unittest import mock

import numpy as np
from django.test import SimpleTestCase

from tests.core.samples import ALTERNATE, blade, forged, stack
from varistrat.core.bars.bar import Bar
from varistrat.core.bars.section import Section
from varistrat.core.bars.trace import pool
from varistrat.core.blade.geometry import SIDES
from varistrat.core.cutting.cut import Cut
from varistrat.core.pattern import laid as kept
from varistrat.core.pattern import sampling
from varistrat.core.pattern.laid import laid
from varistrat.core.pattern.picture import FULL, PREVIEW, draw
from varistrat.core.pattern.views import BladeView, BladeWindow, EndView


def cut(turns: float = 3.0, length: float = 260.0, **changed: Any) -> Cut:
    twist = {"kind": "twist", "turns": turns, "hand": "right"}
    bar = forged(stack(*ALTERNATE * 2, width=20, length=length), twist, {"kind": "draw", "width": 34.0, "thickness": 5.5})
    return Cut.of(blade(**{"height": 28.0, "share": None} | changed), bar)


A = np.linspace(0.5, 150, 80, dtype=np.float32)
B = np.linspace(30, 0.5, 30, dtype=np.float32)


class KeptPatchTests(SimpleTestCase):
    def setUp(self) -> None:
        kept._kept.clear()

    def test_it_is_made_once_while_only_the_steps_move(self) -> None:
        first, second = (BladeView(cut(turns).placed, "left", 1.8, True) for turns in (3.0, 4.0))
        self.assertIs(laid(first, A, B), laid(second, A, B))
        self.assertIsNot(laid(first, A, B), laid(first, A, B[1:]))
        self.assertIsNot(laid(first, A, B), laid(first, A[1:], B))

    def test_whatever_moves_a_point_is_told_apart(self) -> None:
        placed = cut().placed
        view = BladeView(placed, "right", 1.8, True)
        window = BladeWindow(60, 10, 20, 8, 0.5)
        others = [
            replace(view, side="left"),
            replace(view, side="left", book=False),
            replace(view, margin=2.0),
            replace(view, ground=0.2),
            replace(view, window=window),
            replace(view, window=replace(window, depth=0.6)),
            *(replace(view, placed=p) for p in _other_places(placed)),
        ]
        marks = [v.mark for v in [view, *others]]
        self.assertEqual(len(set(marks)), len(marks))
        for other in others:
            got, fresh = laid(other, A, B), other.patch(A, B)
            for name, array in vars(fresh).items():
                np.testing.assert_array_equal(getattr(got, name), array, err_msg=f"{other.mark}: {name}")

    def test_a_bar_longer_and_wider_than_its_blade_is_as_good_as_any_other(self) -> None:
        placed = cut().placed
        longer = replace(placed, bar=Bar(placed.bar.length + 40.0, Section("rectangle", 40.0, placed.bar.thickness)))
        views = [BladeView(p, side, 1.8) for p in (placed, longer) for side in SIDES]
        for one, other in zip(views[:2], views[2:], strict=True):
            self.assertIs(laid(one, A, B), laid(other, A, B))
            fresh = other.patch(A, B)
            for name, array in vars(fresh).items():
                np.testing.assert_array_equal(getattr(laid(other, A, B), name), array, err_msg=name)

    def test_a_forged_blade_takes_its_steel_from_a_bar_of_this_length(self) -> None:
        one, other = (cut(length=long, forging={"share": 1.0, "allowance": 0.5}).placed for long in (260.0, 270.0))
        self.assertNotEqual(BladeView(one, "right").mark, BladeView(other, "right").mark)

    def test_nobody_writes_to_what_is_kept(self) -> None:
        patch = laid(BladeView(cut().placed, "right"), A, B)
        with self.assertRaises(ValueError):
            patch.cover[0, 0] = 1

    def test_views_that_say_nothing_and_patches_too_large_are_not_kept(self) -> None:
        c = cut()
        laid(EndView(c.placed.bar, 10.0), A, B)
        self.assertEqual(len(kept._kept), 0)
        with mock.patch.object(kept, "MOST_EACH", 10):
            laid(BladeView(c.placed, "right"), A, B)
        self.assertEqual(len(kept._kept), 0)

    def test_it_is_bounded_in_bytes(self) -> None:
        self.assertLessEqual(kept.MOST_BYTES, 64_000_000)
        view = BladeView(cut().placed, "right")
        wide = np.linspace(0, 150, 2000, dtype=np.float32)
        high = np.linspace(0, 30, 150, dtype=np.float32)
        for margin in range(12):
            laid(replace(view, margin=float(margin)), wide, high)
        held = sum(kept._bytes(p) for p in kept._kept.values())
        self.assertEqual(held, kept._kept.currsize)
        self.assertLessEqual(held, kept.MOST_BYTES)
        self.assertGreater(len(kept._kept), 2)


def _other_places(placed):  # type: ignore[no-untyped-def]
    thicker, wider = cut(spine=4.4), cut(height=30.0)
    yield from (thicker.placed, wider.placed)
    # bars whose end or whose side cuts the blade
    yield from (replace(placed, bar=replace(placed.bar, length=long)) for long in (110.0, 120.0))
    yield from (replace(placed, bar=placed.bar.with_section(Section("rectangle", wide, 5.5))) for wide in (20.0, 24.0))
    yield from (replace(placed, x=placed.x + 1), replace(placed, y=placed.y + 0.5), replace(placed, angle=2.0))


class OnlySteelTests(SimpleTestCase):
    """Only samples on steel, and what their slopes need, are carried back; the picture is the same."""

    def test_the_same_picture_from_fewer_points(self) -> None:
        c = cut()
        for quality in (PREVIEW, FULL):
            for side in ("left", "right"):
                view = BladeView(c.placed, side, 6.0, True)
                seen: list[int] = []
                real = sampling.sample

                def counted(trace, x, y, z, seams=True, where=None, seen=seen, real=real):  # type: ignore[no-untyped-def]
                    seen.append(int(where.sum()) if where is not None else x.size)
                    return real(trace, x, y, z, seams, where)

                def whole(trace, x, y, z, seams=True, where=None, seen=seen, real=real):  # type: ignore[no-untyped-def]
                    seen.append(x.size)
                    return real(trace, x, y, z, seams)

                drawn = []
                for how in (counted, whole):
                    with mock.patch.object(sampling, "sample", how), pool() as threads:
                        drawn.append(draw(c.subject(), view, 300, threads, quality))
                np.testing.assert_array_equal(*drawn)
                self.assertLess(seen[0], 0.8 * seen[-1])
