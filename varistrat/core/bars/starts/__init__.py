"""What a bar can begin as: one file each, listed here."""

from varistrat.core.bars.starts.assembly import Assembly
from varistrat.core.bars.starts.canister import Canister
from varistrat.core.bars.starts.solid import Solid
from varistrat.core.bars.starts.stack import Stack

STARTS = (Stack, Solid, Assembly, Canister)
