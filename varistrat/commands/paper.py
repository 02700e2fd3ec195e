"""What a design gives to print."""

import argparse
from pathlib import Path

from varistrat.commands.files import load
from varistrat.core.design.file import read_design
from varistrat.core.design.worked import Worked
from varistrat.core.errors import InputError
from varistrat.core.paper.one_to_one import one_to_one_pdf
from varistrat.core.paper.sheath import sheath_pdf
from varistrat.core.paper.sheet import pieces_said, said_of, sheet_pdf
from varistrat.core.route.route import route_of


def _worked(args: argparse.Namespace) -> tuple[Worked, str]:
    design = read_design(load(args.design), args.shop)
    worked = Worked.of(design.document)
    if worked.problems:
        raise InputError(worked.problems)
    return worked, design.document.recipe.name or Path(args.design).stem


def _keep(out: str, body: bytes) -> str:
    try:
        Path(out).write_bytes(body)
    except OSError as e:
        raise InputError.at("--out", f"{out} cannot be written ({e.strerror})", "choose another place") from e
    return ""


def sheet(args: argparse.Namespace) -> str:
    worked, title = _worked(args)
    route = route_of(worked)
    pieces = [] if args.only == "hardening" else pieces_said(worked, route)
    lines = [f"{args.only} only"] if args.only else []
    return _keep(args.out, sheet_pdf(title, said_of(route, args.only), args.paper, pieces, lines))


def template(args: argparse.Namespace) -> str:
    worked, title = _worked(args)
    return _keep(args.out, one_to_one_pdf(worked, title, args.paper))


def sheath(args: argparse.Namespace) -> str:
    worked, title = _worked(args)
    return _keep(args.out, sheath_pdf(worked, title, args.paper))
