"""Pictures of a ground bar and of a blade's etched face."""

import argparse
from pathlib import Path
from typing import Any

from varistrat.commands.bars import forged_from
from varistrat.commands.blades import cut_from, warn
from varistrat.core import limits
from varistrat.core.bars.trace import Trace, pool
from varistrat.core.errors import InputError
from varistrat.core.pattern.picture import Subject, draw
from varistrat.core.pattern.png import png
from varistrat.core.pattern.views import BladeView, FaceView


def face(args: argparse.Namespace) -> str:
    forged = forged_from(args.recipe, args.shop)
    half = forged.bar.thickness / 2
    if not abs(args.z) <= half:
        raise InputError.at("--z", f"{args.z:g} mm is outside the bar", f"choose a height from {-half:.4g} to {half:.4g}")
    view = FaceView(forged.bar, args.z)
    _save(args.out, Subject(Trace(forged)), view, args.px, f"face ground to z = {args.z:g} mm")
    return ""


def render(args: argparse.Namespace) -> str:
    cut = cut_from(args)
    view = BladeView(cut.placed, args.side, margin=0.035 * cut.placed.geometry.length)
    _save(args.out, cut.subject(), view, args.px, f"{args.side} face")
    warn(args.blade, cut)
    return ""


def _save(path: str, subject: Subject, view: Any, px: int, note: str) -> None:
    if not 1 <= px <= limits.MAX_PICTURE_PX:
        raise InputError.at("--px", f"{px} is out of range", f"choose 1 to {limits.MAX_PICTURE_PX}")
    with pool() as executor:
        grey = draw(subject, view, px, executor)
    try:
        Path(path).write_bytes(png(grey, px / view.size[0], note))
    except OSError as e:
        raise InputError.at("--out", f"{path} cannot be written ({e.strerror})", "choose another place") from e
