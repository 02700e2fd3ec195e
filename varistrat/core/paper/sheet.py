"""The shop sheet: every operation with what to reach, a box to write in, and what must be taken care of."""

from collections import Counter
from collections.abc import Sequence
from dataclasses import asdict, dataclass, field
from datetime import date
from typing import Literal

from varistrat.core.design.worked import Worked
from varistrat.core.errors import InputError
from varistrat.core.paper.typeset import Paper, typeset
from varistrat.core.route.money import KINDS_OF_WORK
from varistrat.core.route.operation import Operation, Target
from varistrat.core.route.route import Route
from varistrat.core.stock.cut_plan import pieces_wanted

Part = Literal["hardening", "cuts"]
PARTS: dict[Part, tuple[str, ...]] = {"hardening": ("harden",), "cuts": ("cut_stock",)}
"""Sheets of their own, for the kiln and for the saw: the kinds of operation on them."""
NAMES: dict[str, str] = {"mass": "weight", "celsius": "temperature", "minutes": "time"}
WHOLE: tuple[str, ...] = ("heats", "count", "celsius", "mass")


@dataclass(frozen=True)
class TargetSaid:
    """What to reach, as it is read: "18 mm", "± 0.5"."""

    name: str
    text: str
    tolerance: str = ""


@dataclass(frozen=True)
class CheckSaid:
    """A question, and what a good answer looks like."""

    ask: str
    good: str


@dataclass(frozen=True)
class OperationSaid:
    """One operation in words and numbers, in whatever units they are to be read."""

    title: str
    say: str
    place: str = ""
    minutes: str = ""
    by_heat: list[str] = field(default_factory=list)
    lay_out: str = ""
    cautions: list[str] = field(default_factory=list)
    targets: list[TargetSaid] = field(default_factory=list)
    checks: list[CheckSaid] = field(default_factory=list)
    timers: list[str] = field(default_factory=list)


@dataclass(frozen=True)
class PieceSaid:
    """Pieces to cut that are alike: of which steel and what for, their section and length, how many."""

    says: str
    section: str
    length: str
    count: str


def sheet_pdf(
    title: str,
    operations: Sequence[OperationSaid],
    paper: Paper = "a4",
    pieces: Sequence[PieceSaid] = (),
    lines: Sequence[str] = (),
    about: str = "",
    made: date | None = None,
) -> bytes:
    """A PDF; lines: below the title; about: at the head of every page; made: the day it is printed."""
    return typeset(
        "sheet",
        {
            "paper": paper,
            "title": title,
            "about": about,
            "lines": list(lines),
            "made": made.isoformat() if made else "",
            "pieces": [asdict(p) for p in pieces],
            "operations": [asdict(o) for o in operations],
        },
    )


def said_of(route: Route, part: Part | None = None) -> list[OperationSaid]:
    """In mm, C and g; part: only this of it. Raises InputError for a part that the route has not."""
    found = [_said(o) for o in route.operations if part is None or o.kind in PARTS[part]]
    if not found:
        raise InputError.at("only", f"there is no {part} in this design", "print all of it")
    return found


def _said(o: Operation) -> OperationSaid:
    return OperationSaid(
        o.title,
        o.say,
        KINDS_OF_WORK[o.place],
        f"about {o.attended:.0f} min",
        list(o.by_heat),
        o.lay_out,
        list(o.cautions),
        [_target(t) for t in o.targets],
        [CheckSaid(c.ask, c.good) for c in o.checks if c.applies],
        [f"{t.says}: {'every ' if t.again else ''}{t.minutes:.0f} min" for t in o.timers],
    )


def _target(t: Target) -> TargetSaid:
    digits = 0 if t.quantity in WHOLE else 1
    off = f"± {t.tolerance:.2g} {t.unit}".strip() if t.tolerance else ""
    return TargetSaid(t.says or NAMES.get(t.quantity, t.quantity), f"{t.value:.{digits}f} {t.unit}".strip(), off)


def pieces_said(worked: Worked, route: Route) -> list[PieceSaid]:
    """As long as the design has them, those alike together; mm."""
    pieces, others = pieces_wanted(worked, route.sheet)
    steels = worked.shop.steels

    def name(key: str) -> str:
        return steels[key].name if key in steels else key

    alike = Counter((name(p.steel), f"{p.width:.4g} x {p.thickness:.4g} mm", f"{p.length:.1f} mm") for p in pieces)
    out = [PieceSaid(steel, section, length, f"{n} x") for (steel, section, length), n in alike.items()]
    return out + [PieceSaid(o.says, "", "", f"{o.count} x" if o.count else "") for o in others]
