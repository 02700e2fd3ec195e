"""The rack as CSV: one row for bars that are alike."""

from collections.abc import Mapping

from varistrat.core.errors import InputError, Problem
from varistrat.core.limits import MAX_MM
from varistrat.core.reading import number_in, read_rows
from varistrat.core.shop import ShopData
from varistrat.core.stock.cuts import StockBar

COLUMNS = ("id", "steel", "form", "width", "thickness", "length", "count", "price")
FORMS = ("flat", "square", "round", "octagon", "hexagon", "sheet", "tube", "powder", "rods")
MOST_ROWS, MOST_PROBLEMS, MOST_COUNT = 5_000, 50, 10_000


def read_rack(text: str, shop: ShopData) -> list[StockBar]:
    """Raises InputError with line and column of everything that cannot be used; nothing is taken from a file with a mistake."""
    rows = read_rows(text, "id", COLUMNS)
    if len(rows) > MOST_ROWS:
        raise InputError.at("", f"{len(rows)} rows, more than {MOST_ROWS}", "keep what is really there")
    found: list[StockBar] = []
    problems: list[Problem] = []
    seen: set[str] = set()
    for line, row in enumerate(rows, 2):
        try:
            bar = _row(row, shop)
            if bar.item in seen:
                raise InputError.at("id", f"{bar.item[:40]!r} is there twice", "give each row an id of its own")
            seen.add(bar.item)
            found.append(bar)
        except InputError as e:
            problems += [p.under(f"line {line}") for p in e.problems]
            if len(problems) >= MOST_PROBLEMS:
                break
    if problems:
        raise InputError(problems)
    return found


def _row(row: Mapping[str, str], shop: ShopData) -> StockBar:
    item, steel = row["id"].strip(), row.get("steel", "").strip().lower()
    form = row.get("form", "").strip().lower() or "flat"
    if not item or len(item) > 80:
        raise InputError.at("id", "an id has 1 to 80 letters", "name the bar, so that it is found again")
    if steel not in shop.steels:
        raise InputError.at("steel", f"there is no steel {steel[:40]!r}", "use the short name in the list of steels, or add it there")
    if form not in FORMS:
        raise InputError.at("form", f"{form[:40]!r} is no form", f"use one of {', '.join(FORMS)}")
    sizes = {name: number_in(row, name) for name in ("width", "thickness", "length")}
    if sizes["thickness"] is None and form in ("square", "round", "octagon", "hexagon"):
        sizes["thickness"] = sizes["width"]
    for name, value in sizes.items():
        if value is None or not 0 < value <= MAX_MM:
            raise InputError.at(name, "there is no size" if value is None else f"{value:g} mm is out of range", f"give 0 to {MAX_MM:g} mm")
    count, price = number_in(row, "count"), number_in(row, "price")
    count = 1.0 if count is None else count
    if count != int(count) or not 0 <= count <= MOST_COUNT:
        raise InputError.at("count", f"{count:g} is no number of bars", f"give a whole number, 0 to {MOST_COUNT}")
    if price is not None and not 0 <= price < 1e9:
        raise InputError.at("price", f"{price:g} is no price", "give it without a sign or a currency")
    return StockBar(item, steel, form, sizes["width"] or 0.0, sizes["thickness"] or 0.0, sizes["length"] or 0.0, int(count), price)
