"""Work done elsewhere: what crosses the wire is a design's JSON and which piece of it; who works carries the design out once."""

import json
from collections.abc import Callable, Sequence
from concurrent.futures import Executor
from functools import lru_cache, partial

from varistrat.core.bars.points import Array
from varistrat.core.bars.trace import run_blocks
from varistrat.core.blade.geometry import Side
from varistrat.core.design.document import read_document
from varistrat.core.design.worked import Worked
from varistrat.core.errors import InputError
from varistrat.core.pattern.picture import FULL, Drawing
from varistrat.core.pattern.views import BladeView
from varistrat.core.shop import ShopData
from varistrat.core.study.family import Chance, chances
from varistrat.core.study.tolerances import Sizes

KEPT = 4
"""Designs that a worker keeps at hand: their tables are some tens of MB at print size."""


@lru_cache(KEPT)
def worked_out(document: str, shop: ShopData) -> Worked:
    """A design (JSON) carried out, once for all of its pieces."""
    return Worked.of(read_document(json.loads(document), shop))


@lru_cache(KEPT)
def drawing(document: str, shop: ShopData, side: Side, width_px: int, margin: float) -> Drawing:
    """A face of a design (JSON) at print size. Raises InputError when there is no blade, or the size is out of reach."""
    cut = worked_out(document, shop).cut
    if cut is None:
        raise InputError.at("blade", "there is no blade to print", "add one to the design")
    return Drawing.of(cut.subject(), BladeView(cut.placed, side, margin=margin), width_px, FULL)


def band(document: str, shop: ShopData, side: Side, width_px: int, margin: float, first: int) -> Array:
    """The rows of one band, from `first` on: 8-bit grey."""
    return drawing(document, shop, side, width_px, margin).band(first)


def face(
    document: str,
    shop: ShopData,
    side: Side,
    width_px: int,
    margin: float,
    executor: Executor,
    cancelled: Callable[[], bool] | None = None,
    progress: Callable[[float], None] | None = None,
) -> Array:
    """The whole of it, (rows, columns); the same to the last bit wherever its bands are drawn. Raises InputError, Cancelled."""
    here = drawing(document, shop, side, width_px, margin)
    bands = run_blocks(partial(band, document, shop, side, width_px, margin), iter(here.starts), executor, cancelled)
    return here.assembled(bands, progress)


def chances_of(document: str, shop: ShopData, sizes: Sizes, error: str, points: Sequence[tuple[float, float]]) -> list[Chance]:
    """First-grade chances of a design (JSON) at these points of a grid of errors. Raises InputError when it has no flat core."""
    worked = worked_out(document, shop)
    return chances(worked.blade, worked.document.aim, sizes, error, points)
