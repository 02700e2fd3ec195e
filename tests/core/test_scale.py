"""Scale of the fires counted in the steps, and designs that begin with it."""

from unittest import TestCase

from varistrat.core.design.document import Document, read_document
from varistrat.core.design.edit import with_steps
from varistrat.core.design.fire_sheet import fire_sheet
from varistrat.core.design.scale import counted, scale_counted, scale_of_new
from varistrat.core.design.standing import against, made_worse
from varistrat.core.design.summary import summary_of
from varistrat.core.design.worked import Worked
from varistrat.core.starters import DEFAULT_BLADE, STARTERS, design, of_steels
from varistrat.core.stock.begun import begun
from varistrat.core.stock.sheet import stock_of
from varistrat.core.stock.told import told_of

DRAWN = {"kind": "draw", "width": 40.0, "thickness": 6.0}


def plain(length: float = 90.0, **weld_says: float) -> Document:
    pile = {"kind": "stack", "layers": [{"steel": s, "thickness": 4.0} for s in ("1084", "15n20") * 3], "width": 40.0, "length": length}
    return read_document(design(pile, [{"kind": "weld", "thickness": 18.0} | weld_says, DRAWN], DEFAULT_BLADE))


class ScaleTests(TestCase):
    def test_what_is_left_out_is_said_in_mm_of_the_bar(self) -> None:
        worked = Worked.of(plain())
        told = scale_counted(worked)
        self.assertEqual((told.counting, told.steps, told.counted), ("none", 2, 0))
        # by hand: both steps keep length times section, each peeled of its scale first
        first, second = (round(f.scale, 2) for f in worked.fire.fired)
        peeled = 90 * (40 - 2 * first) * (24 - 2 * first)
        welded = peeled / 18 / (40 - 2 * first)
        drawn = welded * (40 - 2 * first - 2 * second) * (18 - 2 * second)
        so = Worked.of(counted(plain())).forged.bar
        self.assertAlmostEqual(drawn / (so.width * 6.0), worked.forged.bar.length - told.takes, delta=1.0)
        self.assertEqual(told_of(worked).scale, told)
        self.assertEqual(fire_sheet(worked).counted, told)
        self.assertEqual(summary_of(worked).scale_share, 0)

    def test_counted_it_is_as_the_fires_reckon_and_nothing_is_missing(self) -> None:
        worked = Worked.of(counted(plain()))
        said = [s.scale for s in worked.document.recipe.bar.steps]
        self.assertEqual(said, [round(f.scale, 2) for f in worked.fire.fired])
        self.assertEqual((scale_counted(worked).counting, scale_counted(worked).takes), ("reckoned", 0.0))
        volume = sum(s.change.losses.get("scale", 0.0) for s in worked.forged.stages)
        self.assertAlmostEqual(summary_of(worked).scale_share, volume / worked.forged.put_in()[0])
        self.assertAlmostEqual(volume, worked.fire.scale_volume, delta=0.05 * volume)

    def test_some_left_out_and_a_smiths_own(self) -> None:
        partly = scale_counted(Worked.of(plain(scale=0.06)))
        self.assertEqual((partly.counting, partly.steps, partly.counted), ("partly", 2, 1))
        own = with_steps(counted(plain()), {"s1": {"scale": 0.5}})
        self.assertEqual(scale_counted(Worked.of(own)).counting, "own")
        cold = read_document(
            design({"kind": "solid", "steel": "1084", "length": 300.0, "width": 40.0, "thickness": 6.0}, [], DEFAULT_BLADE)
        )
        self.assertEqual(scale_counted(Worked.of(cold)).counting, "cold")

    def test_a_bar_that_scale_would_eat_is_given_back(self) -> None:
        leaf = {"kind": "solid", "steel": "1084", "length": 300.0, "width": 40.0, "thickness": 0.4}
        thin = design(leaf, [{"kind": "draw", "width": 40.0, "thickness": 0.35}], None)
        hot = read_document(thin | {"fire": {"steps": [{"step": "s1", "heats": 8, "minutes": 60}]}})
        self.assertIs(counted(hot), hot)
        self.assertEqual(scale_counted(Worked.of(hot)).takes, None)

    def test_a_new_step_counts_its_scale_where_the_others_do(self) -> None:
        step = DRAWN | {"thickness": 4.0}
        counts = Worked.of(counted(plain()))
        new = scale_of_new(counts, "", 2, step)
        self.assertGreater(new, 0.05)
        self.assertEqual(scale_of_new(Worked.of(plain()), "", 2, step), 0.0)
        self.assertEqual(scale_of_new(counts, "", 2, DRAWN | {"width": 1e9}), 0.0)
        self.assertEqual(scale_of_new(counts, "", 2, {"kind": "grind", "top": 0.2}), 0.0)


class BegunTests(TestCase):
    def test_every_start_begins_with_its_scale_counted_and_long_enough(self) -> None:
        pairs = [of_steels(["1084", "15n20"]), of_steels(["1095", "1018"], clad=True)]
        for starter in [*STARTERS.values(), *pairs]:
            drawn = read_document(starter.document())
            worked = Worked.of(begun(drawn))
            self.assertEqual(worked.problems, (), starter.name)
            self.assertIn(scale_counted(worked).counting, ("reckoned", "cold"), starter.name)
            self.assertEqual([a for a in made_worse(against(Worked.of(drawn)), worked) if a.fails], [], starter.name)
            if starter.cut:
                self.assertGreaterEqual(stock_of(worked).spare, -0.5, starter.name)

    def test_a_pile_too_short_once_scale_is_counted_is_made_longer(self) -> None:
        short = begun(plain(length=46.0))
        self.assertGreater(short.recipe.bar.start.length, 46.0)
        self.assertGreaterEqual(stock_of(Worked.of(short)).spare, 0.0)
        self.assertEqual(begun(plain(length=90.0)).recipe.bar.start.length, 90.0)
