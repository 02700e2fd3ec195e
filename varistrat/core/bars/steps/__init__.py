"""Everything that can be done to a bar: one file each, listed here in the order of the work."""

from varistrat.core.bars.steps.bend import Bend
from varistrat.core.bars.steps.draw import Draw
from varistrat.core.bars.steps.end_slice import EndSlice
from varistrat.core.bars.steps.fold import Fold
from varistrat.core.bars.steps.grid import Grid
from varistrat.core.bars.steps.grind import Grind
from varistrat.core.bars.steps.relief import Relief
from varistrat.core.bars.steps.restack import Restack
from varistrat.core.bars.steps.section import SectionStep
from varistrat.core.bars.steps.split import Split
from varistrat.core.bars.steps.tiles import Tiles
from varistrat.core.bars.steps.trim import Trim
from varistrat.core.bars.steps.turn import Turn
from varistrat.core.bars.steps.twist import Twist
from varistrat.core.bars.steps.uneven import Uneven
from varistrat.core.bars.steps.weld import Weld

STEPS = (
    Weld, Draw, Turn, SectionStep, Twist, Restack, Fold, Grid, Tiles, EndSlice, Relief, Split, Bend, Uneven, Grind, Trim,
)  # fmt: skip
