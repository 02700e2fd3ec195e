"""Backwards through the tree, the chance of coming up short, the cut list."""

import json
import random
from typing import Any

from benchmarks.engine import Row
from benchmarks.quiet import timed, tries
from benchmarks.recipes import FOUR, many
from varistrat.core.bars.forged import forge
from varistrat.core.bars.recipe import read_recipe
from varistrat.core.figures import USUAL
from varistrat.core.stock.backwards import solve
from varistrat.core.stock.cuts import Piece, StockBar, cut_list
from varistrat.core.stock.need import Allowance, Need
from varistrat.core.stock.risk import risk_of


def _cuts() -> tuple[list[Piece], list[StockBar]]:
    rng = random.Random(9)
    lengths = [float(rng.choice([95, 130, 142, 180, 205, 240, 262, 310, 355, 420])) for _ in range(200)]
    pieces = [Piece(f"bar:{i}", "1084", 40.0, 5.0, length) for i, length in enumerate(lengths)]
    return pieces, [StockBar(f"r{i}", "1084", "flat", 40.0, 5.0, float(rng.randrange(400, 2000, 10)), 1) for i in range(60)]


def run() -> list[Row]:
    allowed = Allowance.of(USUAL)

    def tree(recipe: Any) -> tuple[Any, Need]:
        f = forge(read_recipe(json.loads(json.dumps(recipe))).bar)
        return f, Need(250.0, 20.0, 10.0, 28.0)

    four, need = tree(FOUR)
    thirty, _ = tree(many(30))
    back = tries(timed(lambda: solve(four, need.length, allowed)))
    risk = tries(timed(lambda: risk_of(thirty, need, allowed)))
    pieces, rack = _cuts()
    cuts = tries(timed(lambda: cut_list(pieces, rack, 1.5)), 3, 6)
    gap = cut_list(pieces, rack, 1.5).gap
    return [
        ("backwards through a tree of five bars, 62 steps", f"{1000 * back.median():.1f} ms", "10 ms", back.how),
        ("chance of coming up short, 30 steps, 4,096 draws", f"{risk.median():.2f} s", "0.5 s", risk.how),
        ("200 pieces from 60 bars", f"{cuts.median():.1f} s", "2 s, within 1 %", f"within {100 * gap:.1f} % of the bound; {cuts.how}"),
    ]
