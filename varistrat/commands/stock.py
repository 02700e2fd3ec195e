"""What a design asks of the stock."""

import argparse
import json
from pathlib import Path

from varistrat.commands.files import load
from varistrat.core.design.file import read_design
from varistrat.core.design.worked import Worked
from varistrat.core.errors import InputError
from varistrat.core.stock.need import Allowance
from varistrat.core.stock.sheet import BAR_SHORT, stock_of


def _asked(args: argparse.Namespace) -> tuple[Worked, Allowance]:
    design = read_design(load(args.design), args.shop)
    document = design.document
    if not design.with_blade:
        # a plain blade was put on it to look at: it says nothing of how long the bar must be
        document = document.model_copy(update={"blade": None})
    said = {"need": args.need, "hold": args.hold, "ends": args.ends, "reserve": args.reserve, "short": args.short}
    return Worked.of(document), Allowance.planned(document.stock, args.shop.numbers, **said)


def stock(args: argparse.Namespace) -> str:
    from varistrat.core.stock.ways import ways_out

    worked, allowed = _asked(args)
    sheet = stock_of(worked, allowed, args.tick)
    told = sheet.as_json()
    if sheet.spare < 0 and (ways := ways_out(worked, sheet.allowed)):
        for finding in told["findings"]:
            if finding["code"] == BAR_SHORT.name:
                finding["do"] = "One of these: " + " ".join(w.says for w in ways)
    return json.dumps(told, indent=1) + "\n"


def cuts(args: argparse.Namespace) -> str:
    from varistrat.core.laws.numbers import KERF
    from varistrat.core.rack.csv_file import read_rack
    from varistrat.core.stock.cuts import StockBar, cut_list
    from varistrat.core.stock.making import work_of
    from varistrat.core.stock.pieces import pieces_of

    sheet = stock_of(*_asked(args), args.tick)
    try:
        rack = [StockBar.of(one) for one in read_rack(Path(args.rack).read_text(encoding="utf-8"), args.shop)]
    except OSError as e:
        raise RackError(InputError.at("", f"cannot be read ({e.strerror})", "check the file's name").problems) from e
    except UnicodeDecodeError as e:
        raise RackError(InputError.at("", "not UTF-8 text", "save it as UTF-8").problems) from e
    except InputError as e:
        raise RackError(e.problems) from e
    kerf = args.shop.numbers.of(KERF) if args.kerf is None else args.kerf
    if not 0 <= kerf <= 20:
        raise InputError.at("--kerf", f"{kerf:g} mm is out of range", "give 0 to 20 mm")
    found = cut_list(list(pieces_of(sheet.piles)), rack, kerf, work=work_of(args.shop.steels, args.shop.numbers))
    out = {
        "bars": [{"item": b.bar.item, "cuts": [{"piece": c.name, "length": c.length} for c in b.cuts], "left": b.left} for b in found.bars],
        "buy": [{"piece": p.name, "steel": p.steel, "width": p.width, "thickness": p.thickness, "length": p.length} for p in found.bought],
        "used": found.used,
        "waste": found.waste,
        "proven": found.proven,
    }
    return json.dumps(out, indent=1) + "\n"


class RackError(InputError):
    """A problem in the rack's file, not in the design."""

    told_of = "rack"
