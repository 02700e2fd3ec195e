"""Pass by pass: hand-worked, ends where the step ends, never takes more than a share, turns the bar when the width asks for it."""

from django.test import SimpleTestCase
from hypothesis import given
from hypothesis import strategies as st

from tests.core.samples import own
from tests.profile import examples
from varistrat.core.bars.bar import Bar
from varistrat.core.bars.section import Section
from varistrat.core.heat.fires.passes import MOST_PASSES, NEAR, block_for, passes_of, share_of_pass


def bar(width: float, thickness: float) -> Bar:
    return Bar(100.0, Section("rectangle", width, thickness))


class WorkedTests(SimpleTestCase):
    def test_by_hand(self) -> None:
        # s of 30 mm under a 40 mm die: b = 4/3, 0.14 + 0.48 - 0.096 = 0.524; ten per cent each: 27, 24.3, 21.87, then 20
        found = passes_of(bar(30, 30), bar(37.0, 20), "press", 2)
        self.assertEqual([round(p.thickness, 2) for p in found], [27.0, 24.3, 21.87, 20.0])
        self.assertEqual([p.block for p in found], [27, 25, 22, 20])
        self.assertEqual({p.laid for p in found}, {"flat"})
        self.assertAlmostEqual(found[0].width, 30 * (30 / 27) ** 0.524, places=2)
        self.assertEqual(found[-1].width, 37.0)
        # each wears by 1/thickness: .0370 .0412 .0457 .05 of .1739; before the third .45, before the last .71: half is passed there
        self.assertEqual([p.heat for p in found], [1, 1, 1, 2])

    def test_thin_bars_take_less(self) -> None:
        self.assertAlmostEqual(share_of_pass(30), 0.10)
        self.assertAlmostEqual(share_of_pass(12), 0.10)
        self.assertAlmostEqual(share_of_pass(9), 0.075)
        self.assertAlmostEqual(share_of_pass(3), 0.05)
        self.assertAlmostEqual(share_of_pass(30, own(pass_share=8.0)), 0.08)

    def test_blocks_of_the_shop(self) -> None:
        self.assertEqual(block_for(19.2), 20)
        self.assertEqual(block_for(19.0), 19)
        self.assertEqual(block_for(1.2), 3)
        self.assertEqual(block_for(19.2, own(block_step=6.35)), 6.35 * 4)

    def test_a_bar_to_be_wider_than_it_spreads_is_turned_along_the_die_first(self) -> None:
        found = passes_of(bar(30, 30), bar(45.0, 15), "press", 1)
        along = [p for p in found if p.laid == "along"]
        self.assertTrue(along)
        self.assertEqual([p.laid for p in found[: len(along)]], ["along"] * len(along))
        # while it widens its length stays
        for p in along:
            self.assertAlmostEqual(p.width * p.thickness, 900, places=6)
        self.assertEqual((found[-1].width, found[-1].thickness), (45.0, 15))

    def test_a_bar_to_be_narrower_is_turned_on_edge(self) -> None:
        found = passes_of(bar(40, 40), bar(20.0, 20), "press", 3)
        self.assertIn("edge", {p.laid for p in found})
        edge = next(p for p in found if p.laid == "edge")
        self.assertEqual(edge.block, block_for(edge.width))
        self.assertEqual([p.heat for p in found], sorted(p.heat for p in found))
        self.assertEqual({p.heat for p in found}, {1, 2, 3})

    def test_in_runs_and_never_on_edge_when_it_would_fold(self) -> None:
        before, after = bar(39, 27.5), bar(36, 6.4)
        found = passes_of(before, after, "press", 4)
        sizes = [(before.width, before.thickness), *((p.width, p.thickness) for p in found)]
        first = next(i for i, p in enumerate(found) if p.laid == "edge")
        # flat until it is twice as broad as thick
        self.assertGreaterEqual(sizes[first][0] / sizes[first][1], 2.0)
        self.assertLess(sizes[first - 1][0] / sizes[first - 1][1], 2.0)
        # on edge only while it is stout, but for dressing the last of the width
        for (w, t), p in zip(sizes, found, strict=False):
            if p.laid == "edge" and w > 1.05 * after.width:
                self.assertLess(w / t, 3.0 * 1.1)
        # from where it is as slender as that, flat to the end but for that dressing: its width comes by itself
        narrow = min(w for w, _ in sizes)
        self.assertLess(narrow, 28.0)
        self.assertEqual((found[-1].width, found[-1].thickness), (36, 6.4))

    def test_a_slender_bar_is_not_turned_for_every_pass(self) -> None:
        # 50 x 5 to 36 x 5: brought down on edge, it spreads again as it is flattened; turned when 6 % too wide
        found = passes_of(bar(50, 5), bar(36, 5), "press", 4)
        sizes = [(50.0, 5.0), *((p.width, p.thickness) for p in found)]
        narrow = next(i for i, (w, _) in enumerate(sizes) if w <= 36.01)
        after = sizes[narrow:]
        self.assertLess(max(w for w, _ in after), 36 * 1.06 * 1.03)
        starts = [w for (w, t), p in zip(after, found[narrow:], strict=False) if p.laid == "edge" and t > 5.0 * 1.012]
        self.assertTrue(starts)
        self.assertGreater(min(starts), 36 * 1.06)

    def test_rolls_have_no_blocks_and_a_most_of_their_own(self) -> None:
        found = passes_of(bar(30, 30), bar(30.5, 20), "rolls", 1)
        self.assertTrue(found)
        self.assertEqual({p.block for p in found}, {None})
        self.assertAlmostEqual(found[0].thickness, 28.0)  # 2 mm a pass, not 3

    def test_nothing_is_set_for_a_hammer_or_where_nothing_comes_down(self) -> None:
        self.assertEqual(passes_of(bar(30, 30), bar(37, 20), "hand_hammer", 2), ())
        self.assertEqual(passes_of(bar(30, 20), bar(20, 30), "press", 2)[-1].laid, "edge")
        self.assertEqual(passes_of(bar(20, 20), bar(25, 25), "press", 2), ())


class AllTests(SimpleTestCase):
    @examples(300)
    @given(
        st.floats(10, 120),
        st.floats(10, 120),
        st.floats(0.25, 1.6),
        st.floats(0.15, 1.0),
        st.sampled_from(["press", "rolls"]),
        st.integers(1, 9),
    )
    def test_it_gets_there_in_bounded_passes(self, w: float, t: float, wider: float, thinner: float, tool: str, heats: int) -> None:
        after = bar(w * wider, t * thinner)
        if after.section.area > w * t * 0.97:
            return
        found = passes_of(bar(w, t), after, tool, heats)
        size = (w, t)
        for p in found:
            down = {"edge": (size[0], p.width)}.get(p.laid, (size[1], p.thickness))
            self.assertLess(down[1], down[0])
            self.assertLessEqual(1 - down[1] / down[0], share_of_pass(down[0]) + 2 * NEAR)
            self.assertTrue(1 <= p.heat <= heats)
            size = (p.width, p.thickness)
        self.assertLess(len(found), MOST_PASSES)
        self.assertLessEqual(size[1], after.thickness * (1 + 2 * NEAR))
        self.assertLessEqual(size[0], after.width * (1 + 2 * NEAR))
        if tool == "press":
            self.assertLessEqual(abs(size[0] / after.width - 1), 0.06, found[-3:])
