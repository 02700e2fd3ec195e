"""Ways out of a bar that came out short, once steel is cut: only those that leave alone what is done already."""

from typing import Any

from varistrat.core.build.told import Made
from varistrat.core.stock.need import Allowance
from varistrat.core.stock.ways import WayOut, ways_out


def ways_left(made: Made) -> list[WayOut]:
    """Of a build as it is being made; none when it is not short. Raises InputError as `stock_of` does."""
    worked = made.worked
    found = ways_out(worked, Allowance.planned(worked.document.stock, worked.shop.numbers))
    done = {(o.bar, o.step) for o in made.plan.operations if made.state.of(o.id).standing == "done"}
    mine = _parts(worked.document.as_json())
    return [w for w in found if not any(_touched(mine, _parts(w.document.as_json()), part) for part in done)]


def _parts(document: dict[str, Any]) -> dict[tuple[str, str | None], Any]:
    """What each bar begins with, and each of its steps, by (bar, step)."""
    out: dict[tuple[str, str | None], Any] = {}

    def walk(bar: dict[str, Any]) -> None:
        start = bar["start"]
        out[bar["id"], None] = {k: v for k, v in start.items() if k != "bars"}
        out.update({(bar["id"], s["id"]): s for s in bar["steps"]})
        for child in start.get("bars", ()):
            walk(child)

    walk(document["recipe"]["bar"])
    return out


def _touched(mine: dict[Any, Any], other: dict[Any, Any], part: tuple[str, str | None]) -> bool:
    return bool(part[0]) and mine.get(part) != other.get(part)
