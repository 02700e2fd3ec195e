"""The kinds of operation, in their order within one point of the work. A new one is a file and a line here."""

from varistrat.core.route.operation import Kind
from varistrat.core.route.operations.at_the_fire import AtTheFire
from varistrat.core.route.operations.clean import Clean
from varistrat.core.route.operations.coats import Coats
from varistrat.core.route.operations.colour_fittings import ColourFittings
from varistrat.core.route.operations.cut_stock import CutStock
from varistrat.core.route.operations.etch import Etch
from varistrat.core.route.operations.fit_up import FitUp
from varistrat.core.route.operations.grind_faces import CutAcross, GrindFaces, GrindFlat
from varistrat.core.route.operations.harden import Harden, Soften
from varistrat.core.route.operations.last_look import LastLook
from varistrat.core.route.operations.mark import Mark
from varistrat.core.route.operations.peen import Peen
from varistrat.core.route.operations.pile_up import PileUp
from varistrat.core.route.operations.sand import Sand
from varistrat.core.route.operations.shape import Bevels, BevelsAfter, Shape
from varistrat.core.route.operations.sharpen import Sharpen
from varistrat.core.route.operations.sheath import Sheath
from varistrat.core.route.operations.uncan import Uncan

KINDS: tuple[Kind, ...] = (
    CutStock(),
    Clean(),
    PileUp(),
    CutAcross(),
    GrindFaces(),
    AtTheFire(),
    GrindFlat(),
    Uncan(),
    Shape(),
    Soften(),
    Bevels(),
    Harden(),
    BevelsAfter(),
    Sand(),
    Etch(),
    Mark(),
    ColourFittings(),
    FitUp(),
    Peen(),
    Coats(),
    Sharpen(),
    Sheath(),
    LastLook(),
)
