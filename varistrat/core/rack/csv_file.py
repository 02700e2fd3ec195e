"""The rack as CSV: one row for bars that are alike. Sizes in mm, powder in g (`mass`), a price for all of a row."""

import csv
import io
from collections.abc import Iterable, Mapping
from typing import Any

from varistrat.core.errors import InputError, Problem
from varistrat.core.rack.item import RackItem, Stocked
from varistrat.core.reading import number_in, parse, read_rows
from varistrat.core.shop import ShopData

COLUMNS = ("id", "steel", "form", "width", "thickness", "length", "count", "price")
"""What another program must write; those below it may."""
MORE = ("wall", "mass", "batch", "bought", "source", "place", "note", "low")
MOST_ROWS, MOST_PROBLEMS, MOST_CODE = 5_000, 50, 40
_FORMULA = ("=", "+", "-", "@", "\t", "\r")
"""A text that begins so is worked out by a spreadsheet instead of shown."""


def read_rack(text: str, shop: ShopData) -> list[Stocked]:
    """Raises InputError with line and column of everything that cannot be used; nothing is taken from a file with a mistake."""
    rows = read_rows(text, "id", COLUMNS + MORE)
    if len(rows) > MOST_ROWS:
        raise InputError.at("", f"{len(rows)} rows, more than {MOST_ROWS}", "keep what is really there")
    found: list[Stocked] = []
    problems: list[Problem] = []
    seen: set[str] = set()
    for line, row in enumerate(rows, 2):
        try:
            one = _row(row, shop)
            if one.code in seen:
                raise InputError.at("id", f"{one.code[:40]!r} is there twice", "give each row an id of its own")
            seen.add(one.code)
            found.append(one)
        except InputError as e:
            problems += [p.under(f"line {line}") for p in e.problems]
            if len(problems) >= MOST_PROBLEMS:
                break
    if problems:
        raise InputError(problems)
    return found


def _row(row: Mapping[str, str], shop: ShopData) -> Stocked:
    code = _plain(row["id"].strip())
    if not code or len(code) > MOST_CODE:
        raise InputError.at("id", f"an id has 1 to {MOST_CODE} letters", "name the bar, so that it is found again")
    form = row.get("form", "").strip().lower() or "flat"
    said: dict[str, Any] = {"steel": row.get("steel", "").strip().lower(), "form": form}
    for name in ("width", "thickness", "wall", "length", "price", "low"):
        value = number_in(row, name)
        if value is not None:
            said[name] = value
    count = number_in(row, "mass" if form == "powder" else "count")
    if form == "powder" and count is None:
        raise InputError.at("mass", "powder is kept by mass", "give it in g")
    said["count"] = 1.0 if count is None else count
    for name in ("batch", "source", "place", "note", "bought"):
        if text := _plain(row.get(name, "").strip()):
            said[name] = text
    item = parse(RackItem, said, shop)
    return Stocked(code, item, item.count)


def write_rack(items: Iterable[Stocked]) -> str:
    """As `read_rack` reads it."""
    out = io.StringIO()
    writer = csv.writer(out, lineterminator="\n")
    writer.writerow(COLUMNS + MORE)
    for one in items:
        i, powder = one.item, one.item.form == "powder"
        sizes = [_number(v) for v in (i.width, i.thickness, i.length)]
        count, mass = ("", _number(one.there)) if powder else (_number(one.there), "")
        texts = [_guarded(t) for t in (i.batch, i.bought.isoformat() if i.bought else "", i.source, i.place, i.note)]
        writer.writerow(
            [_guarded(one.code), i.steel, i.form, *sizes, count, _number(i.price), _number(i.wall), mass, *texts, _number(i.low)]
        )
    return out.getvalue()


def _number(value: float | None) -> str:
    return "" if value is None else f"{value:.10g}"


def _guarded(text: str) -> str:
    """With an apostrophe before what a spreadsheet would work out."""
    return f"'{text}" if text.startswith(_FORMULA) else text


def _plain(text: str) -> str:
    """Without the apostrophe that `_guarded` put there."""
    return text[1:] if text.startswith("'") and text[1:].startswith(_FORMULA) else text
