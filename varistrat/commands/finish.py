"""The etch of a design in a bath, and what went wrong."""

import argparse
import json
import math
from pathlib import Path
from typing import Annotated, Any

from pydantic import Field

from varistrat.commands.files import load
from varistrat.core.design.file import read_design
from varistrat.core.design.worked import Worked
from varistrat.core.errors import InputError
from varistrat.core.etch.bath import Bath
from varistrat.core.faults.cues import figures_of
from varistrat.core.faults.inference import find
from varistrat.core.finish.depth import etch_findings, etch_of, surface_of
from varistrat.core.model import Model
from varistrat.core.reading import parse
from varistrat.core.shop import ShopData

MOST_CYCLES, MOST_MINUTES = 200, 10_000.0


class BathError(InputError):
    """Told of the bath's file, not of the design's."""

    told_of = "bath"


def _worked(data: Any, shop: ShopData) -> Worked:
    design = read_design(data, shop)
    # a plain blade is put on a recipe file to look at it: it masks nothing, and says nothing of areas
    document = design.document if design.with_blade else design.document.model_copy(update={"blade": None})
    worked = Worked.of(document)
    if worked.problems:
        raise InputError(worked.problems)
    return worked


def _minutes(said: str) -> list[float]:
    parts = [p.strip() for p in said.split(",")]
    try:
        found = [float(p) for p in parts]
    except ValueError:
        raise InputError.at("--minutes", f"{said[:40]!r} is no list of minutes", "write it like 5,5,5") from None
    if not all(math.isfinite(m) and 0 < m <= MOST_MINUTES for m in found) or len(found) > MOST_CYCLES:
        cure = f"up to {MOST_CYCLES} cycles, each over 0 up to {MOST_MINUTES:g} minutes"
        raise InputError.at("--minutes", "a cycle is out of reach", cure)
    return found


def etch(args: argparse.Namespace) -> str:
    minutes = _minutes(args.minutes)
    try:
        bath = parse(Bath, load(args.bath), args.shop)
    except InputError as e:
        raise BathError(e.problems) from e
    worked = _worked(load(args.design), args.shop)
    etched = etch_of(worked, bath, minutes)
    return json.dumps(
        {
            "steels": {k: [round(d, 6) for d in depths] for k, depths in etched.depths.items()},
            "relief": etched.relief,
            "felt": etched.felt,
            "findings": [f.as_json() for f in etch_findings(worked, bath, etched, surface_of(worked))],
        },
        indent=2,
    ) + "\n"  # fmt: skip


class SeenFile(Model):
    """seen: the key of what is seen; design: a design, or the name of its file beside this one; answers: to looks, by cause."""

    seen: Annotated[str, Field(max_length=60)]
    design: Any = None
    answers: Annotated[dict[str, bool], Field(max_length=100)] = {}


def fault(args: argparse.Namespace) -> str:
    said = parse(SeenFile, load(args.seen), args.shop)
    worked = None
    if said.design is not None:
        data = said.design
        if isinstance(data, str):
            data = load(str(Path(args.seen).parent / data))
        try:
            worked = _worked(data, args.shop)
        except InputError as e:
            raise InputError([p.under("design") for p in e.problems]) from e
    found = find(said.seen, figures_of(worked), said.answers)
    return json.dumps(
        [
            {
                "cause": s.cause,
                "odds": round(s.odds, 4),
                "reasons": [r.says if r.speaks == "for" else f"against: {r.says}" for r in s.reasons],
                "cure": s.cure,
            }
            for s in found.suspects
        ],
        indent=2,
    ) + "\n"  # fmt: skip
