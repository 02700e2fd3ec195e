"""Backwards through the tree, the chance of coming up short, the cut list."""

import json
import random
from typing import Any

from playwright.sync_api import Page, expect

from benchmarks.engine import Row
from benchmarks.quiet import timed, tries
from benchmarks.recipes import FOUR, many
from varistrat.core.bars.forged import forge
from varistrat.core.bars.recipe import read_recipe
from varistrat.core.design.document import read_document
from varistrat.core.design.worked import Worked
from varistrat.core.figures import USUAL
from varistrat.core.starters import STARTERS
from varistrat.core.stock.backwards import solve
from varistrat.core.stock.cuts import Piece, StockBar, cut_list
from varistrat.core.stock.need import Allowance, Need
from varistrat.core.stock.risk import risk_of
from varistrat.core.stock.told import told_of


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
    worked = Worked.of(read_document(STARTERS["clad_core"].document()))
    sheet = tries(timed(lambda: told_of(worked)))
    pieces, rack = _cuts()
    cuts = tries(timed(lambda: cut_list(pieces, rack, 1.5)), 3, 6)
    gap = cut_list(pieces, rack, 1.5).gap
    return [
        ("stock sheet of five bars, told", f"{1000 * sheet.median():.1f} ms", "30 ms", sheet.how),
        ("backwards through a tree of five bars, 62 steps", f"{1000 * back.median():.1f} ms", "10 ms", back.how),
        ("chance of coming up short, 30 steps, 4,096 draws", f"{risk.median():.2f} s", "0.5 s", risk.how),
        ("200 pieces from 60 bars", f"{cuts.median():.1f} s", "2 s, within 1 %", f"within {100 * gap:.1f} % of the bound; {cuts.how}"),
    ]


MANY_ITEMS = """
from django.contrib.auth.models import User
from varistrat.core.rack.item import RackItem
from varistrat.rack.services import add
from varistrat.shop.services.people import member_of
user = member_of(User.objects.get(username="quillet-dyke"))
add(actor=user, items=[RackItem(steel=("1084", "15n20", "1095", "1018")[i % 4], width=40.0, thickness=1.5 + 0.5 * (i % 12),
    length=300.0 + i, count=1 + i % 5) for i in range(1956)])
"""


def browser(page: Page, address: str) -> list[Row]:
    """Stock of a design and a rack of two thousand items, as they open. Each try in a page that has been there before."""

    def stock(_: int) -> tuple[float, ...]:
        page.get_by_role("link", name="Heat", exact=True).click()
        page.wait_for_timeout(1500)
        page.evaluate("window.start = performance.now()")
        page.get_by_role("link", name="Stock", exact=True).click()
        expect(page.get_by_role("region", name="Where the steel goes")).to_be_visible()
        return (page.evaluate("performance.now() - window.start"),)

    def rack(_: int) -> tuple[float, ...]:
        page.get_by_role("link", name="Bench", exact=True).click()
        page.wait_for_timeout(10_500)
        page.evaluate("window.start = performance.now()")
        page.get_by_role("link", name="Rack", exact=True).click()
        expect(page.get_by_role("region", name="What there is").get_by_role("listitem")).not_to_have_count(0)
        return (page.evaluate("performance.now() - window.start"),)

    page.goto(address)
    page.get_by_role("link", name="Sedge knife, bold twist", exact=True).click()
    expect(page.get_by_alt_text("Right face of the blade as")).to_be_visible()
    opened = tries(stock, 5, 9)
    listed = tries(rack, 3, 5)
    return [
        ("Stock of a design opens", f"{opened.median():.0f} ms", "300 ms", f"{opened.how}; from the click to the waterfall"),
        ("rack of 2,000 items opens", f"{listed.median() / 1000:.2f} s", "0.5 s", f"{listed.how}; from the click to its rows"),
    ]
