"""Sizes of a recipe, and the steel at points of its bar."""

import argparse
import csv
import io
import json
from pathlib import Path

import numpy as np

from varistrat.commands.files import load
from varistrat.core import limits
from varistrat.core.bars.forged import Forged, forge
from varistrat.core.bars.recipe import read_recipe
from varistrat.core.errors import InputError
from varistrat.core.shop import ShopData


def forged_from(path: str, shop: ShopData) -> Forged:
    """The bar of a recipe file. Raises InputError."""
    return forge(read_recipe(load(path), shop).bar, shop=shop)


def size(args: argparse.Namespace) -> str:
    return json.dumps(forged_from(args.recipe, args.shop).rows(), indent=1) + "\n"


def probe(args: argparse.Namespace) -> str:
    forged = forged_from(args.recipe, args.shop)
    from varistrat.core.bars.trace import Trace

    texts, values = _points(args.points)
    trace = Trace(forged)
    steel = trace.probe(*values)
    out = io.StringIO()
    out.write("x,y,z,steel\n")
    for text, index in zip(texts, steel, strict=True):
        out.write(f"{text},{trace.steels[index] if index >= 0 else ''}\n")
    return out.getvalue()


def _points(path: str) -> tuple[list[str], list[np.ndarray]]:
    """The points file: coordinates as written, and as numbers."""
    try:
        if Path(path).stat().st_size > 100 * limits.MAX_FILE_BYTES:
            raise PointsError("the file is too large", "probe fewer points at a time")
        rows = list(csv.reader(Path(path).read_text(encoding="utf-8").splitlines()))
    except OSError as e:
        raise PointsError(f"cannot be read ({e.strerror})", "check the file's name") from e
    except UnicodeDecodeError as e:
        raise PointsError("not UTF-8 text", "save it as UTF-8") from e
    first = 1 if rows and [c.strip().lower() for c in rows[0][:3]] == ["x", "y", "z"] else 0
    texts, numbers = [], []
    for line, row in enumerate(rows[first:], first + 1):
        if not any(c.strip() for c in row):
            continue
        try:
            point = [float(c) for c in row[:3]]
        except ValueError:
            point = []
        if len(point) < 3 or not np.isfinite(point).all():
            raise PointsError("not three finite numbers", "write x,y,z in mm", f"line {line}")
        texts.append(",".join(c.strip() for c in row[:3]))
        numbers.append(point)
    if len(numbers) > limits.MAX_PROBE_POINTS:
        raise PointsError(f"more than {limits.MAX_PROBE_POINTS} points", "probe fewer points at a time")
    table = np.array(numbers, float).reshape(-1, 3)
    return texts, [np.ascontiguousarray(table[:, i]) for i in range(3)]


class PointsError(InputError):
    """A problem in the points file, not in the recipe."""

    told_of = "points"

    def __init__(self, wrong: str, cure: str, path: str = ""):
        super().__init__(InputError.at(path, wrong, cure).problems)
