"""The `varistrat` command: recipes and blades in, sizes, steels, pictures and core lines out.

Errors: exit code 2, nothing on standard output, one line on standard error. What a command does is in commands/.
"""

import argparse
import sys
from collections.abc import Callable, Sequence
from importlib import import_module
from typing import Any, NoReturn


class _Parser(argparse.ArgumentParser):
    """argparse's complaints, in one line like all others."""

    def error(self, message: str) -> NoReturn:
        self.exit(2, f"{self.prog}: {message}; see {self.prog} --help\n")


def _parser() -> argparse.ArgumentParser:
    parser = _Parser(prog="varistrat", description="Predict forged steel from a recipe or blade file.")
    parser.add_argument("--steels", help="a steel list as CSV: steels and figures of the shop's own")
    commands = parser.add_subparsers(required=True, metavar="COMMAND")

    def command(name: str, where: str, source: str, about: str) -> argparse.ArgumentParser:
        sub = commands.add_parser(name, help=about, description=about)
        sub.add_argument(source, help=f"a varistrat.{source}/1 JSON file")
        sub.set_defaults(command=name, where=where, source=source)
        return sub

    command("size", "bars", "recipe", "sizes, losses and findings after every step, as JSON")
    command("probe", "bars", "recipe", "the steel at points of the finished bar, as CSV").add_argument("--points", required=True)
    sub = command("face", "pictures", "recipe", "a picture of the face ground to a height")
    sub.add_argument("--z", type=float, required=True, help="height from the bar's middle, mm")
    sub.add_argument("--px", type=int, default=1200)
    sub.add_argument("--out", required=True)
    sub = command("expose", "blades", "blade", "where the core shows on each side, as CSV")
    sub.add_argument("--stations", type=int, default=60)
    sub = command("render", "pictures", "blade", "a picture of the etched face")
    sub.add_argument("--side", choices=("right", "left"), default="right")
    sub.add_argument("--px", type=int, default=1400)
    sub.add_argument("--out", required=True)
    asked = [
        command("stock", "stock", "design", "what every pile must be for the blade, and where the steel goes, as JSON"),
        command("cuts", "stock", "design", "what to cut from which bar of a rack, and what to buy, as JSON"),
    ]
    for sub in asked:
        sub.add_argument("--need", type=float, help="length of the finished bar, mm: all of it, nothing is added")
        sub.add_argument("--hold", type=float, help="mm to hold it by")
        sub.add_argument("--ends", type=float, help="bad ends of each weld, as a share of its thickness")
        sub.add_argument("--reserve", type=float, help="share added to all the rest")
        sub.add_argument("--short", type=float, help="a chance of coming up short, in place of the reserve: 0.05 is 1 in 20")
        sub.add_argument("--tick", type=float, default=0.0, help="mm that piles are rounded up to")
    asked[1].add_argument("--rack", required=True, help="the rack as CSV: id,steel,form,width,thickness,length,count,price")
    asked[1].add_argument("--kerf", type=float, help="of the saw, mm")
    shop_sheet = command("sheet", "paper", "design", "the shop sheet: every operation with boxes to write in, as PDF")
    shop_sheet.add_argument("--only", choices=("hardening", "cuts"), help="a sheet for the kiln, or for the saw")
    for sub in (
        shop_sheet,
        command("template", "paper", "design", "the blade to its own size, with a rule to check the printer by, as PDF"),
        command("sheath", "paper", "design", "half a sheath to its own size, to be cut through folded leather, as PDF"),
    ):
        sub.add_argument("--out", required=True)
        sub.add_argument("--paper", choices=("a4", "letter"), default="a4")
    sub = command("etch", "finish", "design", "how deep each steel is etched in a bath, as JSON")
    sub.add_argument("--bath", required=True, help="what, strength (% by weight), temperature (C), litres, iron (g), as JSON")
    sub.add_argument("--minutes", required=True, help="of each cycle: 5,5,5")
    command("fault", "finish", "seen", "what went wrong: causes of what is seen, the likeliest first, as JSON")
    return parser


def main(argv: Sequence[str] | None = None) -> int:
    args = _parser().parse_args(argv)
    # only now, and only what this question needs
    from varistrat.core.errors import InputError

    try:
        args.shop = _shop(args.steels)
    except InputError as e:
        return _complain(args.steels, e.problems[0].line())
    run: Callable[[argparse.Namespace], str] = getattr(import_module(f"varistrat.commands.{args.where}"), args.command)
    try:
        sys.stdout.write(run(args))
    except InputError as e:
        return _complain(getattr(args, getattr(e, "told_of", args.source)), e.problems[0].line())
    return 0


def _shop(steels: str | None) -> Any:
    if steels is None:
        from varistrat.core.shop import AS_SHIPS

        return AS_SHIPS
    from varistrat.commands.files import shop_in

    return shop_in(steels)


def _complain(file: str, line: str) -> int:
    print(f"{file}: {line}", file=sys.stderr)
    return 2


if __name__ == "__main__":
    sys.exit(main())
