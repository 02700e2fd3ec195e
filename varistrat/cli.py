"""The `varistrat` command: recipes and blades in, sizes, steels, pictures and core lines out.

Errors: exit code 2, nothing on standard output, one line on standard error.
"""

import argparse
import csv
import io
import json
import sys
from collections.abc import Callable, Sequence
from pathlib import Path
from typing import Any, NoReturn

import numpy as np

from varistrat.core import limits
from varistrat.core.bars.forged import Forged, forge
from varistrat.core.bars.recipe import read_recipe
from varistrat.core.bars.trace import Trace, pool
from varistrat.core.blade.cut import Cut
from varistrat.core.blade.model import read_blade
from varistrat.core.errors import InputError
from varistrat.core.interchange.steels_csv import read_steels
from varistrat.core.pattern.picture import Subject, draw, png
from varistrat.core.pattern.views import BladeView, FaceView
from varistrat.core.reading import read_json
from varistrat.core.shop import AS_SHIPS, ShopData
from varistrat.core.steels.estimate import shop_steel


def _load(path: str) -> Any:
    try:
        return read_json(Path(path).read_bytes())
    except OSError as e:
        raise InputError.at("", f"cannot be read ({e.strerror})", "check the file's name") from e


def _shop(path: str) -> ShopData:
    try:
        text = Path(path).read_text(encoding="utf-8")
    except OSError as e:
        raise InputError.at("", f"cannot be read ({e.strerror})", "check the file's name") from e
    except UnicodeDecodeError as e:
        raise InputError.at("", "not UTF-8 text", "save it as UTF-8") from e
    own = {key: shop_steel(key, figures) for key, figures in read_steels(text).items()}
    return ShopData(own)


def _forged(path: str, shop: ShopData) -> Forged:
    return forge(read_recipe(_load(path), shop).bar, shop=shop)


def size(args: argparse.Namespace) -> str:
    return json.dumps(_forged(args.recipe, args.shop).rows(), indent=1) + "\n"


def probe(args: argparse.Namespace) -> str:
    forged = _forged(args.recipe, args.shop)
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
            raise _PointsError("the file is too large", "probe fewer points at a time")
        rows = list(csv.reader(Path(path).read_text(encoding="utf-8").splitlines()))
    except OSError as e:
        raise _PointsError(f"cannot be read ({e.strerror})", "check the file's name") from e
    except UnicodeDecodeError as e:
        raise _PointsError("not UTF-8 text", "save it as UTF-8") from e
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
            raise _PointsError("not three finite numbers", "write x,y,z in mm", f"line {line}")
        texts.append(",".join(c.strip() for c in row[:3]))
        numbers.append(point)
    if len(numbers) > limits.MAX_PROBE_POINTS:
        raise _PointsError(f"more than {limits.MAX_PROBE_POINTS} points", "probe fewer points at a time")
    table = np.array(numbers, float).reshape(-1, 3)
    return texts, [np.ascontiguousarray(table[:, i]) for i in range(3)]


class _PointsError(InputError):
    """A problem in the points file, not in the recipe."""

    def __init__(self, wrong: str, cure: str, path: str = ""):
        super().__init__(InputError.at(path, wrong, cure).problems)


def face(args: argparse.Namespace) -> str:
    forged = _forged(args.recipe, args.shop)
    half = forged.bar.thickness / 2
    if not abs(args.z) <= half:
        raise InputError.at("--z", f"{args.z:g} mm is outside the bar", f"choose a height from {-half:.4g} to {half:.4g}")
    view = FaceView(forged.bar, args.z)
    _save(args.out, Subject(Trace(forged)), view, args.px, f"face ground to z = {args.z:g} mm")
    return ""


def render(args: argparse.Namespace) -> str:
    cut = Cut.of(read_blade(_load(args.blade), args.shop), shop=args.shop)
    view = BladeView(cut.placed, args.side, margin=0.035 * cut.placed.geometry.length)
    _save(args.out, cut.subject(), view, args.px, f"{args.side} face")
    _warn(args.blade, cut)
    return ""


def expose(args: argparse.Namespace) -> str:
    if not 1 <= args.stations <= limits.MAX_STATIONS:
        raise InputError.at("--stations", f"{args.stations} is out of range", f"choose 1 to {limits.MAX_STATIONS}")
    cut = Cut.of(read_blade(_load(args.blade), args.shop), shop=args.shop)
    out = io.StringIO()
    out.write("x,side,state,low,high,clad_share,core_at_edge\n")
    for s in cut.exposure(args.stations):
        for interval in s.shown or (None,):
            heights = f"{interval[0]:.4f},{interval[1]:.4f}" if interval else ","
            out.write(f"{s.x:.4f},{s.side},{s.state},{heights},{s.clad_share:.4f},{s.core_at_edge:.4f}\n")
    _warn(args.blade, cut)
    return out.getvalue()


def _warn(path: str, cut: Cut) -> None:
    for finding in cut.placed.geometry.checks() + cut.placed.checks():
        print(f"{path}: {finding.field}: {finding.what} {finding.why} {finding.do}", file=sys.stderr)


def _save(path: str, subject: Subject, view: Any, px: int, note: str) -> None:
    if not 1 <= px <= limits.MAX_PICTURE_PX:
        raise InputError.at("--px", f"{px} is out of range", f"choose 1 to {limits.MAX_PICTURE_PX}")
    with pool() as executor:
        grey = draw(subject, view, px, executor)
    try:
        Path(path).write_bytes(png(grey, px / view.size[0], note))
    except OSError as e:
        raise InputError.at("--out", f"{path} cannot be written ({e.strerror})", "choose another place") from e


class _Parser(argparse.ArgumentParser):
    """argparse's complaints, in one line like all others."""

    def error(self, message: str) -> NoReturn:
        self.exit(2, f"{self.prog}: {message}; see {self.prog} --help\n")


def _parser() -> argparse.ArgumentParser:
    parser = _Parser(prog="varistrat", description="Predict forged steel from a recipe or blade file.")
    parser.add_argument("--steels", help="a steel list as CSV: steels and figures of the shop's own")
    commands = parser.add_subparsers(required=True, metavar="COMMAND")

    def command(name: str, run: Callable[[argparse.Namespace], str], source: str, about: str) -> argparse.ArgumentParser:
        sub = commands.add_parser(name, help=about, description=about)
        sub.add_argument(source, help=f"a varistrat.{source}/1 JSON file")
        sub.set_defaults(run=run, source=source)
        return sub

    command("size", size, "recipe", "sizes, losses and findings after every step, as JSON")
    command("probe", probe, "recipe", "the steel at points of the finished bar, as CSV").add_argument("--points", required=True)
    sub = command("face", face, "recipe", "a picture of the face ground to a height")
    sub.add_argument("--z", type=float, required=True, help="height from the bar's middle, mm")
    sub.add_argument("--px", type=int, default=1200)
    sub.add_argument("--out", required=True)
    sub = command("expose", expose, "blade", "where the core shows on each side, as CSV")
    sub.add_argument("--stations", type=int, default=60)
    sub = command("render", render, "blade", "a picture of the etched face")
    sub.add_argument("--side", choices=("right", "left"), default="right")
    sub.add_argument("--px", type=int, default=1400)
    sub.add_argument("--out", required=True)
    return parser


def main(argv: Sequence[str] | None = None) -> int:
    args = _parser().parse_args(argv)
    try:
        args.shop = _shop(args.steels) if args.steels else AS_SHIPS
    except InputError as e:
        print(f"{args.steels}: {e.problems[0].line()}", file=sys.stderr)
        return 2
    try:
        sys.stdout.write(args.run(args))
    except _PointsError as e:
        print(f"{args.points}: {e.problems[0].line()}", file=sys.stderr)
        return 2
    except InputError as e:
        print(f"{getattr(args, args.source)}: {e.problems[0].line()}", file=sys.stderr)
        return 2
    return 0


if __name__ == "__main__":
    sys.exit(main())
