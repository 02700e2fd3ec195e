"""What the work takes: hours by kind, waits, money by cause, what costs most, what halving the layers would save."""

from collections.abc import Sequence
from dataclasses import dataclass

from varistrat.core.design.document import read_document
from varistrat.core.design.worked import Worked
from varistrat.core.errors import InputError
from varistrat.core.laws.numbers import ACID, BELTS, GAS, GAS_PRICE, KILN_POWER, POWER_PRICE, STEEL_PRICE, WAGE
from varistrat.core.route.operation import Operation
from varistrat.core.route.route import Route, route_of
from varistrat.core.route.schedule import OPENS, Hours, Slot, critical, finish, schedule

KINDS_OF_WORK: dict[str, str] = {
    "saw": "sawing",
    "fire": "at the fire",
    "grinder": "grinding and sanding",
    "bench": "at the bench",
    "kiln": "hardening",
    "bath": "etching",
    "glue": "fitting up",
}


@dataclass(frozen=True)
class Hour:
    """Minutes with hands on, and alone, of one kind of work."""

    place: str
    says: str
    attended: float
    alone: float


@dataclass(frozen=True)
class Cost:
    """Money for one cause, and what it is reckoned from."""

    cause: str
    says: str
    money: float


@dataclass(frozen=True)
class Timed:
    """One operation with its time, its money, whether it lies on the longest way; minutes."""

    id: str
    title: str
    say: str
    place: str
    bar: str
    step: str | None
    attended: float
    alone: float
    money: float
    critical: bool
    start: float
    hands: float
    end: float


@dataclass(frozen=True)
class TimeAndMoney:
    """attended, alone: minutes in all; likely, late: minutes from the first morning until it is done, as likely as not, and nine times in
    ten; money: of all; opens: minutes after midnight at which the shop begins; halved: what half the layers would save (minutes,
    money), None where there is no one pile to halve."""

    hours: list[Hour]
    costs: list[Cost]
    operations: list[Timed]
    attended: float
    alone: float
    likely: float
    late: float
    money: float
    day: float
    opens: float
    dearest: str
    halved: tuple[float, float] | None


def time_and_money(worked: Worked, first: int = 0) -> TimeAndMoney:
    """first: the weekday it is begun on, Monday 0. Raises InputError as `stock_of` does."""
    route = route_of(worked)
    hours = Hours.of(worked.shop.numbers, first)
    operations = route.operations
    slots = {s.id: s for s in schedule(operations, hours)}
    way = set(critical(operations))
    likely, late = finish(operations, hours)
    timed = [_timed(worked, o, slots[o.id], o.id in way) for o in operations]
    costs = _costs(worked, route)
    halved = _halved(worked, route, costs)
    return TimeAndMoney(
        _hours(operations),
        costs,
        timed,
        sum(o.attended for o in operations),
        sum(o.alone for o in operations),
        likely,
        late,
        sum(c.money for c in costs),
        hours.day,
        OPENS,
        max(timed, key=lambda t: t.money).id if timed else "",
        halved,
    )


def _money(worked: Worked, o: Operation) -> float:
    n = worked.shop.numbers
    money = o.attended / 60 * n.of(WAGE)
    if o.place == "fire":
        money += o.attended / 60 * n.of(GAS) * n.of(GAS_PRICE)
    if o.place == "kiln":
        money += o.alone / 60 * n.of(KILN_POWER) * n.of(POWER_PRICE)
    return money


def _timed(worked: Worked, o: Operation, slot: Slot, on_way: bool) -> Timed:
    money = _money(worked, o)
    return Timed(o.id, o.title, o.told, o.place, o.bar, o.step, o.attended, o.alone, money, on_way, slot.start, slot.hands, slot.end)


def _hours(operations: Sequence[Operation]) -> list[Hour]:
    out = []
    for place, says in KINDS_OF_WORK.items():
        of = [o for o in operations if o.place == place]
        if of:
            out.append(Hour(place, says, sum(o.attended for o in of), sum(o.alone for o in of)))
    return out


def _costs(worked: Worked, route: Route) -> list[Cost]:
    n, steels = worked.shop.numbers, worked.shop.steels
    steel = 0.0
    for pile in route.sheet.piles:
        thick = sum(t for _, t in pile.layers)
        if thick:
            steel += sum((steels[k].price or n.of(STEEL_PRICE)) * pile.mass * t / thick / 1000 for k, t in pile.layers)
        else:
            steel += n.of(STEEL_PRICE) * pile.mass / 1000
    mass = sum(p.mass for p in route.sheet.piles)
    fire = sum(o.attended for o in route.operations if o.place == "fire") / 60
    kiln = sum(o.alone for o in route.operations if o.place == "kiln") / 60
    work = sum(o.attended for o in route.operations) / 60
    out = [
        Cost("steel", f"{mass:.0f} g of steel put in", float(steel)),
        Cost("gas", f"{fire * n.of(GAS):.1f} kg of gas in {fire:.1f} h at the fire", fire * n.of(GAS) * n.of(GAS_PRICE)),
        Cost("kiln", f"{kiln * n.of(KILN_POWER):.1f} kWh in {kiln:.1f} h of kiln", kiln * n.of(KILN_POWER) * n.of(POWER_PRICE)),
    ]
    if worked.cut:
        out += [Cost("belts", "belts and paper", n.of(BELTS)), Cost("acid", "etchant and neutraliser", n.of(ACID))]
    return [*out, Cost("wage", f"{work:.1f} h of work", work * n.of(WAGE))]


def _halved(worked: Worked, route: Route, costs: Sequence[Cost]) -> tuple[float, float] | None:
    """Half the layers, each twice as thick: the pile as high, fewer cuts, faces and welds."""
    data = worked.document.as_json()
    start = data["recipe"]["bar"]["start"]
    layers = start.get("layers", [])
    if start["kind"] != "stack" or len(layers) < 5:
        return None
    # odd stays odd, so that the outsides stay what they are
    keep = len(layers) // 2 + (len(layers) // 2 + len(layers)) % 2
    high = sum(layer["thickness"] for layer in layers)
    kept = layers[:keep]
    times = high / sum(layer["thickness"] for layer in kept)
    start["layers"] = [layer | {"thickness": layer["thickness"] * times} for layer in kept]
    try:
        other = Worked.of(read_document(data, worked.shop))
        again = route_of(other)
        cheaper = _costs(other, again)
    except InputError:
        return None
    minutes = sum(o.attended for o in route.operations) - sum(o.attended for o in again.operations)
    return minutes, sum(c.money for c in costs) - sum(c.money for c in cheaper)
