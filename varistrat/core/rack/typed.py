"""A line typed as one would say it: "1084 1/4 x 1 1/2 x 48 x 2" is two flat bars of 1084, 48 inches long."""

import re
from collections.abc import Mapping
from dataclasses import dataclass
from typing import Any, Literal

from varistrat.core.errors import InputError, Problem
from varistrat.core.limits import MAX_TEXT
from varistrat.core.rack.item import FORMS, RackItem
from varistrat.core.reading import parse
from varistrat.core.shop import ShopData
from varistrat.core.steels import Steel

Unit = Literal["mm", "inch"]
MOST_LINES = 200
INCH = 25.4
_SIZE = re.compile(r"^(?:(\d+)\s*[- ]\s*)?(\d+)/(\d+)$|^(\d+(?:[.,]\d+)?|[.,]\d+)$")
_SAID = re.compile(r"(mm|cm|m|inches|inch|in|\"|”|''|kg|g|lb|oz)$")
_SCALE = {"mm": 1.0, "cm": 10.0, "m": 1000.0, "inches": INCH, "inch": INCH, "in": INCH, '"': INCH, "”": INCH, "''": INCH}
_GRAMS = {"g": 1.0, "kg": 1000.0, "oz": 28.349523125, "lb": 453.59237}
_WORDS = {
    "bar": "flat",
    "strip": "flat",
    "rod": "round",
    "plate": "sheet",
    "hex": "hexagon",
    "oct": "octagon",
    "pipe": "tube",
    "bundle": "rods",
}
SIZES = {
    "flat": ("thickness", "width", "length"),
    "sheet": ("thickness", "width", "length"),
    "square": ("width", "length"),
    "round": ("width", "length"),
    "octagon": ("width", "length"),
    "hexagon": ("width", "length"),
    "rods": ("width", "length"),
    "tube": ("width", "wall", "length"),
}
"""What is said of each form, in this order; a number more is how many."""


@dataclass(frozen=True)
class Line:
    """One line and what was understood of it; or what was not."""

    text: str
    item: RackItem | None
    problem: Problem | None


def read_lines(text: str, shop: ShopData, unit: Unit) -> list[Line]:
    """Every line that is not empty. Raises InputError for more than anybody types."""
    lines = [line.strip() for line in text.splitlines() if line.strip()]
    if len(lines) > MOST_LINES or len(text) > MOST_LINES * 200:
        raise InputError.at("text", f"{len(lines)} lines, more than {MOST_LINES}", "add them in turns, or read a CSV file")
    return [_line(line, shop, unit) for line in lines]


def _line(line: str, shop: ShopData, unit: Unit) -> Line:
    try:
        return Line(line, parse(RackItem, _read(line[:MAX_TEXT], shop.steels, unit), shop), None)
    except InputError as e:
        return Line(line, None, e.problems[0])


def _read(line: str, steels: Mapping[str, Steel], unit: Unit) -> dict[str, Any]:
    words = line.replace("×", "x").replace("*", "x").split()
    key, rest = _steel(words, steels)
    form = "flat"
    if rest and (named := _WORDS.get(rest[0].lower(), rest[0].lower())) in FORMS:
        form, rest = named, rest[1:]
    said = " ".join(rest).lower()
    # what is said by mass is powder: there are steels that are nothing else
    if form == "powder" or re.fullmatch(r"[\d.,/ ]+(kg|g|lb|oz)", said):
        form = "powder"
        return {"steel": key, "form": form, "count": _grams(said)}
    parts = [p.strip() for p in re.split(r"\s*x\s*", said) if p.strip()]
    if not parts:
        raise InputError.at("", "there are no sizes", "write it like 1084 6 x 40 x 1000 x 2")
    names = SIZES[form]
    if len(parts) not in (len(names), len(names) + 1):
        raise InputError.at("", f"{len(parts)} numbers for {form}", f"give {', '.join(names)}, and how many")
    inches = unit == "inch" or any("/" in p for p in parts)
    found: dict[str, Any] = {n: _mm(p, n, inches) for n, p in zip(names, parts, strict=False)}
    if len(parts) > len(names):
        found["count"] = _count(parts[-1])
    return {"steel": key, "form": form, **found}


def _steel(words: list[str], steels: Mapping[str, Steel]) -> tuple[str, list[str]]:
    """The longest beginning of the line that is the key or the name of a steel, and the rest."""
    names = {s.name.lower(): k for k, s in steels.items()} | {k.lower(): k for k in steels}
    for n in range(min(4, len(words)), 0, -1):
        for said in (" ".join(words[:n]), "-".join(words[:n])):
            if (key := names.get(said.lower())) is not None:
                return key, words[n:]
    return (words[0] if words else ""), words[1:]


def _number(text: str, name: str) -> float:
    found = _SIZE.match(text.strip())
    if not found:
        raise InputError.at(name, f"{text[:20]!r} is no {name}", "write it like 6, 1/4 or 1 1/2")
    whole, top, bottom, plain = found.groups()
    if plain is not None:
        return float(plain.replace(",", "."))
    if int(bottom) == 0:
        raise InputError.at(name, f"{text[:20]!r} is no {name}", "a fraction needs something under the line")
    return int(whole or 0) + int(top) / int(bottom)


def _mm(text: str, name: str, inches: bool) -> float:
    unit = _SAID.search(text)
    if unit and unit.group(1) in _SCALE:
        return _number(text[: unit.start()], name) * _SCALE[unit.group(1)]
    return _number(text, name) * (INCH if inches else 1.0)


def _count(text: str) -> float:
    if not re.fullmatch(r"\d{1,6}", text):
        raise InputError.at("count", f"{text[:20]!r} is no number of bars", "end the line with how many, like x 2")
    return float(text)


def _grams(text: str) -> float:
    unit = _SAID.search(text)
    if not unit or unit.group(1) not in _GRAMS:
        raise InputError.at("count", f"{text[:20]!r} is no mass", "powder is kept by mass: write 5 kg")
    return _number(text[: unit.start()].strip(), "count") * _GRAMS[unit.group(1)]
