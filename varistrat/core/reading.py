"""Reading what comes from outside, safely: JSON, models, and every problem with its path and its cure."""

import csv
import io
import json
import re
from collections.abc import Iterator, Mapping, Sequence
from math import isfinite
from typing import Any, TypeVar

from pydantic import BaseModel, ValidationError

from varistrat.core.errors import InputError, Problem
from varistrat.core.limits import MAX_FILE_BYTES, MAX_NESTING

MOST_PROBLEMS = 50
"""Told of one document; more help nobody."""
EXPONENT = re.compile(rb"[eE]\+?\d{3}")
HALF, HALF_ESCAPED = re.compile("[\ud800-\udfff]"), re.compile(rb"\\u[dD][89a-fA-F]")
"""Surrogates: of two together JSON makes a sign, one alone is none."""
M = TypeVar("M", bound=BaseModel)


def read_json(text: str | bytes, most: int = MAX_FILE_BYTES) -> Any:
    """JSON from outside, refused when it is too big (`most` bytes), too deep, broken, or not finite."""
    # a str that holds half a sign is refused below, as bytes that do
    raw = text.encode("utf-8", "surrogatepass") if isinstance(text, str) else text
    if len(raw) > most:
        raise InputError.at("", f"the file has {len(raw)} bytes, more than {most}", "make it smaller")
    _check_depth(raw)
    try:
        data = json.loads(raw.decode("utf-8-sig"))
    except json.JSONDecodeError as e:
        raise InputError.at(f"line {e.lineno} column {e.colno}", f"not JSON: {e.msg}", "mend the file there") from e
    except UnicodeDecodeError as e:
        raise InputError.at(f"byte {e.start}", "not UTF-8 text", "save the file as UTF-8") from e
    except ValueError as e:
        raise InputError.at("", "a number with thousands of digits", "write fewer digits") from e
    # NaN, Infinity, or 1e999: looked for only where the text has something like it
    if (b"NaN" in raw or b"Infinity" in raw or EXPONENT.search(raw)) and (path := _first_endless(data)) is not None:
        raise InputError.at(path, "not a finite number", "give a finite number")
    # half a sign, which no file, page or database can hold, comes only by its number
    if HALF_ESCAPED.search(raw) and (path := _first_half(data)) is not None:
        raise InputError.at(
            path, "half of a sign (a lone surrogate), which is no text", "type it anew, without the sign that was cut in two"
        )
    return data


def _first_half(data: Any) -> str | None:
    """Path of the first text, or name of a field, with a lone surrogate in it; None without one."""
    waiting: list[tuple[str, Any]] = [("", data)]
    while waiting:
        path, here = waiting.pop()
        if isinstance(here, str) and HALF.search(here):
            return path
        if isinstance(here, dict):
            if any(HALF.search(k) for k in here):
                return path
            waiting += [(f"{path}.{k}" if path else str(k)[:60], v) for k, v in here.items() if isinstance(v, str | dict | list)]
        elif isinstance(here, list):
            waiting += [(f"{path}[{i}]", v) for i, v in enumerate(here) if isinstance(v, str | dict | list)]
    return None


def _first_endless(data: Any) -> str | None:
    """Path of the first number that is not finite; None when all are."""
    waiting: list[tuple[str, Any]] = [("", data)]
    while waiting:
        path, here = waiting.pop()
        if isinstance(here, float) and not isfinite(here):
            return path
        if isinstance(here, dict):
            waiting += [(f"{path}.{k}" if path else str(k)[:60], v) for k, v in here.items() if isinstance(v, float | dict | list)]
        elif isinstance(here, list):
            waiting += [(f"{path}[{i}]", v) for i, v in enumerate(here) if isinstance(v, float | dict | list)]
    return None


def _check_depth(raw: bytes) -> None:
    """Count brackets outside strings, so that a hostile depth never reaches a recursive parser."""
    depth = 0
    in_text = escaped = False
    for byte in raw:
        if in_text:
            if escaped:
                escaped = False
            elif byte == 0x5C:
                escaped = True
            elif byte == 0x22:
                in_text = False
        elif byte == 0x22:
            in_text = True
        elif byte in b"{[":
            depth += 1
            if depth > MAX_NESTING:
                raise InputError.at("", f"nested more than {MAX_NESTING} levels deep", "put fewer bars inside bars")
        elif byte in b"}]":
            depth -= 1


def read_rows(text: str, key: str, columns: Sequence[str]) -> list[dict[str, str]]:
    """Rows of a CSV text with a header: `key` must be one of its columns, and all of them among `columns`. Raises InputError."""
    if len(text.encode()) > MAX_FILE_BYTES:
        raise InputError.at("", f"the file has more than {MAX_FILE_BYTES} bytes", "make it smaller")
    try:
        rows = list(csv.DictReader(io.StringIO(text.lstrip("\ufeff")), strict=True))
    except csv.Error as e:
        raise InputError.at("", f"not CSV: {e}", "save it as CSV, commas between, quotes closed") from e
    if not rows or key not in rows[0]:
        raise InputError.at("line 1", f"there is no column named {key}", f"begin with the columns {', '.join(columns[:4])}, ...")
    if odd := [c for c in rows[0] if c is not None and c not in columns]:
        raise InputError.at("line 1", f"unknown column {odd[0][:40]!r}", "remove it or mend its name")
    for line, row in enumerate(rows, 2):
        if None in row:
            raise InputError.at(f"line {line}", "more cells than there are columns", "put quotes about texts with commas")
    return [{k: v or "" for k, v in row.items()} for row in rows]


def number_in(row: Mapping[str, str], column: str) -> float | None:
    """The number in a cell, None when it is empty. Raises InputError at the column."""
    cell = row.get(column, "").strip()
    try:
        return float(cell) if cell else None
    except ValueError as e:
        raise InputError.at(column, f"{cell[:20]!r} is no number", "write it with a point, like 0.84") from e


def let_go(error: ValidationError) -> None:
    """Take from an error, and from all that it is made of, the frames they were raised in.

    pydantic's core holds what our checks raised where Python's collector does not look: a circle through it (error, frame, caller's
    frame, error) would keep the whole request that was refused for ever.
    """
    error.__traceback__ = None
    todo: list[BaseException | None] = list(_within(error))
    while todo:
        e = todo.pop()
        if e is not None and e.__traceback__ is not None:
            e.__traceback__ = None
            todo += [e.__cause__, e.__context__, *(_within(e) if isinstance(e, ValidationError) else ())]


def _within(error: ValidationError) -> Iterator[BaseException]:
    """What our checks raised."""
    for one in error.errors(include_url=False):
        found = one.get("ctx", {}).get("error")
        if isinstance(found, BaseException):
            yield found


def parse(kind: type[M], data: Any, shop: object = None) -> M:
    """`data` as a model, read for a shop (ShopData; None: as it ships), or InputError with every problem and its path."""
    if not isinstance(data, dict):
        raise InputError.at("", f"expected an object, got {_type_word(data)}", "start the file with {")
    try:
        return kind.model_validate(data, context={"shop": shop})
    except ValidationError as e:
        let_go(e)
        raise InputError(problem_of(error, data) for error in e.errors(include_url=False)[:MOST_PROBLEMS]) from e
    except RecursionError as e:
        raise InputError.at("", "nested too deep", "put fewer bars inside bars") from e


def check_format(data: dict[str, Any], wanted: str) -> None:
    """Refuse what is missing its format or of another version, with the reason."""
    found = data.get("format")
    if found == wanted:
        return
    if found is None:
        raise InputError.at("format", "the format is missing", f'add "format": "{wanted}"')
    raise InputError.at("format", f"{str(found)[:60]!r} is not a format this version reads", f'it reads "{wanted}"')


def _type_word(value: Any) -> str:
    names = {dict: "an object", list: "a list", str: "text", bool: "true or false", type(None): "nothing"}
    return names.get(type(value), "a number")


def find(loc: tuple[int | str, ...], data: Any) -> tuple[str, Any]:
    """`bar.steps[0].turns` and what stands there, from pydantic's location without the tags of unions it adds."""
    path, here = "", data
    for i, part in enumerate(loc):
        if isinstance(part, int):
            path += f"[{part}]"
            here = here[part] if isinstance(here, list) and part < len(here) else None
        elif isinstance(here, dict) and (part in here or i == len(loc) - 1):
            path += f".{part}" if path else part
            here = here.get(part)
    return path, here


_CURES = {
    "missing": ("it is missing", "add it"),
    "extra_forbidden": ("unknown field", "remove it or mend its name"),
    "finite_number": ("not a finite number", "give a finite number"),
    "union_tag_not_found": ("it has no kind", 'add "kind"'),
}


def problem_of(error: Any, data: Any) -> Problem:
    """One of pydantic's errors, in our words and with our kind of path."""
    kind, context = error["type"], error.get("ctx", {})
    path, given = find(error["loc"], data)
    if kind in _CURES:
        return Problem(path, *_CURES[kind])
    if kind == "union_tag_invalid":
        known = context["expected_tags"].replace("'", "")
        return Problem(f"{path}.kind", f"unknown kind {str(context['tag'])[:40]!r}", f"use one of {known}")
    if kind == "value_error":
        wrong, _, cure = str(context.get("error", error["msg"])).removeprefix("Value error, ").partition("; ")
        return Problem(path, wrong, cure or "change it")
    if kind == "literal_error":
        return Problem(path, f"{str(given)[:40]!r} is not known here", f"use {context['expected']}")
    bounds = {"greater_than": "gt", "greater_than_equal": "ge", "less_than": "lt", "less_than_equal": "le"}
    if kind in bounds:
        word = kind.replace("_", " ").replace("equal", "or equal to")
        limit = context[bounds[kind]]
        return Problem(path, f"{given!r} is out of range"[:80], f"give a number {word} {limit:g}")
    if kind in ("too_long", "too_short", "string_too_long"):
        return Problem(
            path, error["msg"][0].lower() + error["msg"][1:], "change how many there are" if kind != "string_too_long" else "shorten it"
        )
    return Problem(path, f"{_type_word(given)} is not what belongs here", error["msg"][0].lower() + error["msg"][1:])
