"""The core line of a blade."""

import argparse
import io
import sys

from varistrat.commands.files import load
from varistrat.core import limits
from varistrat.core.blade.model import read_blade
from varistrat.core.cutting.cut import Cut
from varistrat.core.errors import InputError


def cut_from(args: argparse.Namespace) -> Cut:
    """The blade of a file, cut from its bar. Raises InputError."""
    return Cut.of(read_blade(load(args.blade), args.shop), shop=args.shop)


def warn(path: str, cut: Cut) -> None:
    """What to be careful of, on standard error."""
    for finding in cut.placed.geometry.checks() + cut.placed.checks():
        print(f"{path}: {finding.field}: {finding.what} {finding.why} {finding.do}", file=sys.stderr)


def expose(args: argparse.Namespace) -> str:
    if not 1 <= args.stations <= limits.MAX_STATIONS:
        raise InputError.at("--stations", f"{args.stations} is out of range", f"choose 1 to {limits.MAX_STATIONS}")
    cut = cut_from(args)
    out = io.StringIO()
    out.write("x,side,state,low,high,clad_share,core_at_edge\n")
    for s in cut.exposure(args.stations):
        for interval in s.shown or (None,):
            heights = f"{interval[0]:.4f},{interval[1]:.4f}" if interval else ","
            out.write(f"{s.x:.4f},{s.side},{s.state},{heights},{s.clad_share:.4f},{s.core_at_edge:.4f}\n")
    warn(args.blade, cut)
    return out.getvalue()
