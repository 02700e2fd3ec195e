"""The steel list as CSV: one row a steel, one column a figure, for a spreadsheet."""

import csv
import io
from collections.abc import Iterable, Mapping
from typing import Any

from varistrat.core.errors import InputError, Problem
from varistrat.core.interchange.text import cell, from_cell
from varistrat.core.limits import MAX_SHOP_STEELS
from varistrat.core.reading import number_in, read_rows
from varistrat.core.steels.estimate import shop_steel
from varistrat.core.steels.list import built_in
from varistrat.core.steels.model import ELEMENTS, ETCHANTS, TEMPERS, Steel

MOST_PROBLEMS = 50
"""Told of one file."""
_PAIRS = ("forge", "weld", "austenitise", "soak", "as_quenched")
_WORDS = ("family", "hardens", "quench", "cycle", "why_tone", "note")
_NUMBERS = ("density", "solidus", "etch_rate", "flow", "cost", "price")
_UNITS = {
    "density": "kg_m3",
    "solidus": "C",
    "etch_rate": "um_min",
    "forge": "C",
    "weld": "C",
    "austenitise": "C",
    "soak": "min",
    "as_quenched": "HRC",
}


def _column(figure: str, part: str = "") -> str:
    return "_".join(filter(None, (figure, part, _UNITS.get(figure, ""))))


COLUMNS: tuple[str, ...] = (
    "key", "name", "family", *ELEMENTS, "density_kg_m3", "solidus_C",
    *(_column(p, end) for p in _PAIRS[:2] for end in ("low", "high")), "hardens",
    *(_column(p, end) for p in _PAIRS[2:4] for end in ("low", "high")), "quench", "cycle",
    *(_column("as_quenched", end) for end in ("low", "high")), *(f"temper_{t}_HRC" for t in TEMPERS),
    *(f"tone_{e}" for e in ETCHANTS), "etch_rate_um_min", "flow", "cost", "price", "why_tone", "note", "own", "sources",
)  # fmt: skip


def write_steels(steels: Iterable[Steel]) -> str:
    """Every figure in force. `own`: which the shop put in; `sources`: where the rest comes from."""
    out = io.StringIO()
    rows = csv.DictWriter(out, COLUMNS, lineterminator="\n")
    rows.writeheader()
    rows.writerows(_row(s) for s in steels)
    return out.getvalue()


def _row(steel: Steel) -> dict[str, Any]:
    row: dict[str, Any] = {"key": steel.key, "name": cell(steel.name)} | {k: f"{v:g}" for k, v in steel.composition.items()}
    for name in _WORDS:
        row[name] = cell(getattr(steel, name) or "")
    for name in _NUMBERS:
        value = getattr(steel, name)
        row[_column(name)] = "" if value is None else f"{value:g}"
    for name in _PAIRS:
        for end, value in zip(("low", "high"), getattr(steel, name) or ("", ""), strict=True):
            row[_column(name, end)] = value if value == "" else f"{value:g}"
    row |= {f"temper_{t}_HRC": f"{v:g}" for t, v in zip(TEMPERS, steel.temper or (), strict=False)}
    row |= {f"tone_{e}": f"{steel.tone[e]:g}" for e in ETCHANTS}
    row["own"] = " ".join(steel.own)
    row["sources"] = cell("; ".join(f"{group}: {source.text} ({source.sure})" for group, source in steel.source.items()))
    return row


def read_steels(text: str) -> dict[str, dict[str, Any]]:
    """What a shop's CSV says of each steel: only figures that differ from the built-in ones.

    Empty cells keep what is known; columns may be left out; `own` and `sources` are not read. Raises
    InputError with row and column of everything that cannot be used.
    """
    rows = read_rows(text, "key", COLUMNS)
    if len(rows) > MAX_SHOP_STEELS + len(built_in()):
        raise InputError.at("", f"{len(rows)} steels, more than {MAX_SHOP_STEELS + len(built_in())}", "keep those you use")
    found: dict[str, dict[str, Any]] = {}
    problems: list[Problem] = []
    for line, row in enumerate(rows, 2):
        try:
            given = _read_row(row)
            key = row["key"].strip()
            if key in found:
                raise InputError.at("key", f"{key!r} is there twice", "take one of the two out")
            steel = shop_steel(key, given)
        except InputError as e:
            problems += [p.under(f"line {line}") for p in e.problems]
            if len(problems) >= MOST_PROBLEMS:
                break
            continue
        changed = _changed(key, given)
        if changed or key not in built_in():
            found[steel.key] = changed
    if problems:
        raise InputError(problems)
    return found


def _read_row(row: Mapping[str, str]) -> dict[str, Any]:
    given: dict[str, Any] = {}
    composition = {e: v for e in ELEMENTS if (v := number_in(row, e)) is not None}
    if composition:
        given["composition"] = composition
    for name in ("name", *_WORDS):
        if said := from_cell(row.get(name, "").strip()):
            given[name] = said
    for name in _NUMBERS:
        if (value := number_in(row, _column(name))) is not None:
            given[name] = value
    for name in _PAIRS:
        pair = [number_in(row, _column(name, end)) for end in ("low", "high")]
        if (pair[0] is None) != (pair[1] is None):
            raise InputError.at(_column(name, "low"), "a range wants both ends", "fill in both, or neither")
        if pair[0] is not None:
            given[name] = tuple(pair)
    tempers = [number_in(row, f"temper_{t}_HRC") for t in TEMPERS]
    if any(t is not None for t in tempers):
        if None in tempers:
            raise InputError.at("temper_150_HRC", "the table wants a hardness at every temperature", f"fill in all {len(TEMPERS)}, or none")
        given["temper"] = tuple(tempers)
    tones = {e: v for e in ETCHANTS if (v := number_in(row, f"tone_{e}")) is not None}
    return given | ({"tone": tones} if tones else {})


def _changed(key: str, given: dict[str, Any]) -> dict[str, Any]:
    """Only what differs from the built-in steel of that key."""
    base = built_in().get(key)
    if base is None:
        return given
    changed = {k: v for k, v in given.items() if k != "tone" and v != getattr(base, k)}
    tones = {e: v for e, v in given.get("tone", {}).items() if v != base.tone[e]}
    return changed | ({"tone": tones} if tones else {})
