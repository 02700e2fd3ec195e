"""What a kiln is told to do: a list of segments; checked against the kiln and the steel in it."""

import csv
import io
from collections.abc import Sequence
from typing import Annotated

from pydantic import Field

from varistrat.core.errors import InputError, Problem
from varistrat.core.figures import USUAL, Numbers
from varistrat.core.findings import Code, Finding
from varistrat.core.heat.segment import Segment
from varistrat.core.laws.numbers import KILN_MOST, KILN_RATE
from varistrat.core.limits import MAX_SEGMENTS
from varistrat.core.model import Model
from varistrat.core.reading import number_in, parse, read_rows
from varistrat.core.shop import AS_SHIPS, ShopData
from varistrat.core.steels.ceiling import too_hot

AIR = 20.0
FALLS = 400.0
"""A small kiln left to itself falls about so fast at red heat, C/h; indicative."""


OUT_MINUTES = 5.0
"""A blade takes about so long to go black in still air; the plan's line only, the run goes by the blade."""


KILN_TOO_HOT = Code("kiln_too_hot", "heat", ("stop",), "Hotter than this kiln goes.")
LONG = Code("long", "heat", ("care",), "More than two days.")
KILN_LAGS = Code("kiln_lags", "heat", ("note",), "Segment {second} asks for more than the kiln gives.")


class Program(Model):
    """A named program: segments, in order."""

    name: Annotated[str, Field(min_length=1, max_length=120)]
    segments: Annotated[list[Segment], Field(min_length=1, max_length=MAX_SEGMENTS)]


def planned(program: Program, numbers: Numbers = USUAL) -> list[tuple[float, float]]:
    """(minutes, C) at the corners, if the kiln keeps up."""
    now, at = 0.0, AIR
    out = [(now, at)]
    for s in program.segments:
        if s.out:
            now += OUT_MINUTES + s.minutes
            out.append((now, at))
            continue
        rate = s.rate or (numbers.of(KILN_RATE) if s.celsius > at else FALLS)
        now += abs(s.celsius - at) / rate * 60
        out.append((now, s.celsius))
        at = s.celsius
        if s.minutes:
            now += s.minutes
            out.append((now, at))
    return out


def checks(program: Program, load: Sequence[str] = (), shop: ShopData = AS_SHIPS) -> list[Finding]:
    """What is wrong with it for this kiln and these steels; a `stop` is not started."""
    hottest, fastest = shop.numbers.of(KILN_MOST), shop.numbers.of(KILN_RATE)
    found: list[Finding] = []
    top = max((s.celsius for s in program.segments if not s.out), default=AIR)
    where = next((i for i, s in enumerate(program.segments) if s.celsius == top and not s.out), 0)
    if top > hottest:
        found.append(
            KILN_TOO_HOT.found(
                f"{top:.0f} C is asked for, {hottest:.0f} C is its most.",
                "Lower the segment, or put in what your kiln reaches under Steels, Numbers of your shop.",
                field=f"segments[{where}].celsius",
                value=top,
                limit=hottest,
                unit="C",
            )
        )
    steels = [shop.steels[k] for k in load if k in shop.steels]
    if melting := too_hot(top, steels, field=f"segments[{where}].celsius"):
        found.append(melting)
    for i, s in enumerate(program.segments):
        if not s.out and s.rate and s.rate > 1.2 * fastest and s.celsius > (program.segments[i - 1].celsius if i else AIR):
            found.append(
                KILN_LAGS.found(
                    f"{s.rate:.0f} C°/h; it makes about {fastest:.0f}.",
                    "It will lag behind its plan; the hold waits for it.",
                    second=i + 1,
                    field=f"segments[{i}].rate",
                    value=s.rate,
                    limit=fastest,
                )
            )
    hours = planned(program, shop.numbers)[-1][0] / 60
    if hours > 48:
        found.append(LONG.found(f"It takes {hours:.0f} h.", "Check the rates and holds.", value=hours, unit="h"))
    return found


COLUMNS = ("celsius", "rate_C_h", "hold_min", "hot_through", "out_in_air")


def write_program(program: Program) -> str:
    """CSV, one row a segment; an empty rate is as fast as it can."""
    out = io.StringIO()
    rows = csv.writer(out, lineterminator="\n")
    rows.writerow(COLUMNS)
    for s in program.segments:
        rows.writerow(
            [
                f"{s.celsius:g}",
                "" if s.rate is None else f"{s.rate:g}",
                f"{s.minutes:g}",
                "yes" if s.through else "no",
                "yes" if s.out else "no",
            ]
        )
    return out.getvalue()


def read_program(text: str, name: str = "From a file") -> Program:
    """From CSV. Raises InputError with line and column of everything wrong."""
    rows = read_rows(text, "celsius", COLUMNS)
    problems: list[Problem] = []
    segments: list[dict[str, object]] = []
    for line, row in enumerate(rows, 2):
        given: dict[str, object] = {}
        for column, field in (("celsius", "celsius"), ("rate_C_h", "rate"), ("hold_min", "minutes")):
            try:
                if (value := number_in(row, column)) is not None:
                    given[field] = value
            except InputError as e:
                problems += [p.under(f"line {line}") for p in e.problems]
        for column, field in (("hot_through", "through"), ("out_in_air", "out")):
            said = row.get(column, "").strip().lower()
            if said not in ("yes", "no", ""):
                problems.append(Problem(f"line {line}.{column}", f"{said[:20]!r} is neither yes nor no", "write yes or no"))
            given[field] = said == "yes"
        segments.append(given)
    if problems:
        raise InputError(problems)
    try:
        return parse(Program, {"name": name[:120] or "From a file", "segments": segments})
    except InputError as e:
        raise InputError(Problem(_line(p.path), p.wrong, p.cure) for p in e.problems) from e


def _line(path: str) -> str:
    """segments[2].celsius as line 4.celsius."""
    if not path.startswith("segments["):
        return path
    index, _, rest = path.removeprefix("segments[").partition("]")
    return f"line {int(index) + 2}{rest}"
