"""The cut list of a design: every piece of every pile, from which bar of the rack, how it is made of it, and what must be bought.

Bars that are alike so far are one pile. What somebody has laid out by hand stays so; the rest is laid out around it.
"""

from collections import Counter
from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass, replace
from typing import Any

from varistrat.core.bars.put_in import PutIn
from varistrat.core.design.document import Document, read_document
from varistrat.core.design.worked import Worked
from varistrat.core.errors import InputError
from varistrat.core.laws.numbers import KEEP_FROM, KERF
from varistrat.core.rack.item import Stocked
from varistrat.core.stock.backwards import Address
from varistrat.core.stock.cuts import SLACK, CutBar, Piece, StockBar, cut_list
from varistrat.core.stock.making import making, work_of
from varistrat.core.stock.pieces import named
from varistrat.core.stock.sheet import StockSheet, stock_of

MOST_SHEETS = 6
"""Sheets for one layer."""


@dataclass(frozen=True)
class Laid:
    """A bar of the rack as somebody laid it out: its item, and the names of the pieces in their order."""

    item: str
    pieces: tuple[str, ...]


@dataclass(frozen=True)
class CutTold:
    """A piece of a bar, mm: what it is for, and how it is made of it where it is not as it is."""

    piece: str
    says: str
    length: float
    width: float
    thickness: float
    how: str


@dataclass(frozen=True)
class BarTold:
    """One bar with its cuts in order. left: mm, below nothing when more is laid on it than it has; keep: whether that is worth keeping;
    wrong: why it cannot be cut so; by_hand: laid out by somebody."""

    item: int
    code: str
    steel: str
    form: str
    width: float
    thickness: float
    length: float
    cuts: list[CutTold]
    left: float
    keep: bool
    wrong: str
    by_hand: bool


@dataclass(frozen=True)
class BuyTold:
    """What to buy, of one kind: mm, g, and money by the shop's price; pieces: their lengths; names: as told; wanted: as the pieces are
    called; instead: what the rack offers for it, in words, as so many sheets of so many mm."""

    steel: str
    form: str
    width: float
    thickness: float
    pieces: list[float]
    names: list[str]
    wanted: list[str]
    length: float
    mass: float
    money: float | None
    instead: str
    sheets: int
    sheet: float


@dataclass(frozen=True)
class OtherTold:
    """Cans, lids, powder: how many, of powder how much; there: whether the rack has it, None where nobody says of which steel."""

    says: str
    steel: str | None
    count: int
    grams: float
    there: bool | None


@dataclass(frozen=True)
class CutPlan:
    """used, waste, kept: g of the bars that are cut, of them not in a piece, and of that what goes back into the rack; mm.

    gap: how far from the best it may be, where that is not proven.
    """

    bars: list[BarTold]
    buy: list[BuyTold]
    others: list[OtherTold]
    used: float
    waste: float
    kept: float
    proven: bool
    gap: float
    kerf: float
    keep_from: float
    spare: list[BarTold]
    """Bars of the rack that would serve a piece and are not needed."""


def pieces_wanted(worked: Worked, sheet: StockSheet) -> tuple[list[Piece], list[PutIn]]:
    """(pieces to cut, whatever else goes in). Bars alike so far are one pile. They are as long as the design has them: whether that is
    as long as they must be, Stock says."""
    begun = {p.bar: p for p in sheet.piles}
    with_others = {bar for group in sheet.together for bar in group.bars[1:]}
    lengths = {bar: sheet.cut_to(bar) for bar in begun if bar not in with_others}
    pieces: list[Piece] = []
    others_in: list[PutIn] = []
    for wanted in sheet.wanted:
        address, forged = wanted.address, wanted.forged
        brought: list[PutIn] = []
        if address in lengths:
            pile = begun[address]
            pieces += [
                Piece(named(address, i), steel, pile.width, thickness, lengths[address])
                for i, (steel, thickness) in enumerate(pile.layers, 1)
            ]
            brought += forged.start.put_in(lengths[address], worked.shop.steels)
        for stage, off, long in zip(forged.stages, wanted.cut_off, wanted.lengths, strict=False):
            brought += stage.step.put_in(replace(stage.before, length=long - off))
        for k, one in enumerate(brought, 1):
            if one.steel and one.form in ("flat", "round", "sheet"):
                name = f"{named(address, k).replace(':', ':+')}"
                form = "round" if one.form == "round" else "flat"
                pieces += [
                    Piece(f"{name}.{n}" if one.count > 1 else name, one.steel, one.width, one.thickness, one.length, form)
                    for n in range(1, one.count + 1)
                ]
            else:
                others_in.append(one)
    return pieces, others_in


def cut_plan(worked: Worked, rack: Sequence[Stocked], laid: Sequence[Laid] = (), kerf: float | None = None) -> CutPlan:
    """Raises InputError as `stock_of` does, and for a layout that names what is not there."""
    numbers = worked.shop.numbers
    kerf = numbers.of(KERF) if kerf is None else kerf
    if not 0 <= kerf <= 20:
        raise InputError.at("kerf", f"{kerf:g} mm is out of range", "give 0 to 20 mm")
    pieces, others = pieces_wanted(worked, stock_of(worked))
    bars = [StockBar.of(one) for one in rack]
    by_hand, rest, left_bars = _laid(pieces, bars, laid, kerf)
    found = cut_list(rest, left_bars, kerf, work=work_of(worked.shop.steels, numbers))
    teller = _Teller(worked, numbers.of(KEEP_FROM))
    all_bars = [teller.bar(b, True) for b in by_hand] + [teller.bar(b, False) for b in found.bars]
    needed = Counter(b.bar.item for b in (*by_hand, *found.bars))
    kinds = {p.kind: p for p in pieces}.values()
    spare = [
        teller.bar(CutBar(replace(b, count=1), (), b.length), False)
        for b in bars
        if b.count > needed[b.item] and any(b.serves(p) for p in kinds)
    ]
    used = sum(teller.grams(b.steel, b.width * b.thickness * b.length) for b in all_bars)
    inside = sum(teller.grams(b.steel, c.width * c.thickness * c.length) for b in all_bars for c in b.cuts)
    kept = sum(teller.grams(b.steel, b.width * b.thickness * b.left) for b in all_bars if b.keep)
    return CutPlan(
        all_bars,
        teller.buy(found.bought, kerf, bars),
        [teller.other(o, rack) for o in others],
        used,
        used - inside,
        kept,
        found.proven,
        found.gap,
        kerf,
        numbers.of(KEEP_FROM),
        spare,
    )


def _laid(
    pieces: Sequence[Piece], bars: Sequence[StockBar], laid: Sequence[Laid], kerf: float
) -> tuple[list[CutBar], list[Piece], list[StockBar]]:
    """(bars as they were laid out by hand, pieces and bars that are left)."""
    by_name = {p.name: p for p in pieces}
    by_item = {b.item: b for b in bars}
    out = []
    for i, one in enumerate(laid):
        bar = by_item.get(one.item)
        if bar is None or bar.count < 1:
            raise InputError.at(f"laid[{i}].item", f"there is no bar {one.item[:40]!r} left", "lay it out anew")
        by_item[one.item] = replace(bar, count=bar.count - 1)
        cuts = []
        for name in one.pieces:
            if name not in by_name:
                raise InputError.at(f"laid[{i}].pieces", f"{name[:40]!r} is no piece of this design, or is there twice", "lay it out anew")
            cuts.append(by_name.pop(name))
        # a last cut may fall on the bar's end
        left = bar.length - sum(c.length + kerf for c in cuts)
        out.append(CutBar(replace(bar, count=1), tuple(cuts), left if left < -kerf - 1e-9 else max(0.0, left)))
    return out, list(by_name.values()), [b for b in by_item.values() if b.count]


@dataclass(frozen=True)
class _Teller:
    worked: Worked
    keep_from: float

    def grams(self, steel: str, mm3: float) -> float:
        return mm3 * self.worked.shop.steels[steel].density * 1e-6

    def bar(self, cut: CutBar, by_hand: bool) -> BarTold:
        b = cut.bar
        wrong = [f"{self.says(c)} is not of it" for c in cut.cuts if not b.serves(c)]
        if cut.left < 0:
            wrong.append(f"{-cut.left:.1f} mm too much is laid on it")
        cuts = [CutTold(c.name, self.says(c), c.length, c.width, c.thickness, making(b, c, self.worked.shop.numbers).how) for c in cut.cuts]
        keep = cut.left >= self.keep_from
        return BarTold(b.known_as, b.item, b.steel, b.form, b.width, b.thickness, b.length, cuts, cut.left, keep, "; ".join(wrong), by_hand)

    def says(self, piece: Piece) -> str:
        """As "bar 2, layer 3"."""
        address, _, part = piece.name.partition(":")
        bar = "" if address == "bar" else f"bar {address}, "
        if part.startswith("+"):
            return f"{bar}{'rod' if piece.form == 'round' else 'piece'} {part[1:]}"
        return f"{bar}layer {part}"

    def buy(self, bought: Sequence[Piece], kerf: float, bars: Sequence[StockBar]) -> list[BuyTold]:
        kinds: dict[tuple[str, str, float, float], list[Piece]] = {}
        for p in bought:
            kinds.setdefault((p.steel, p.form, round(p.width, 3), round(p.thickness, 3)), []).append(p)
        out = []
        for (steel, form, width, thickness), of in kinds.items():
            long = sum(p.length + kerf for p in of)
            mass, price = self.grams(steel, width * thickness * long), self.worked.shop.steels[steel].price
            lengths = [float(p.length) for p in of]
            money = None if price is None else float(price * mass / 1000)
            out.append(
                BuyTold(
                    steel,
                    form,
                    width,
                    thickness,
                    lengths,
                    [self.says(p) for p in of],
                    [p.name for p in of],
                    float(long),
                    float(mass),
                    money,
                    *instead(of[0], bars),
                )
            )
        return out

    def other(self, one: PutIn, rack: Sequence[Stocked]) -> OtherTold:
        there = None
        if one.form == "powder":
            there = bool(sum(s.there for s in rack if s.item.form == "powder" and s.item.steel == one.steel) >= one.grams)
        return OtherTold(one.says, one.steel, one.count, float(one.grams), there)


def instead(piece: Piece, bars: Sequence[StockBar]) -> tuple[str, int, float]:
    """What the rack offers for a layer that no bar of it gives: several sheets as thick together (in words, how many, mm each); nothing."""
    if piece.form != "flat":
        return "", 0, 0.0
    for n in range(2, MOST_SHEETS + 1):
        thin = replace(piece, thickness=piece.thickness / n)
        for b in bars:
            flat = sorted((b.width, b.thickness))
            if b.count and b.serves(thin) and abs(flat[0] * n - piece.thickness) <= SLACK and b.length >= piece.length:
                return f"{n} x {flat[0]:.4g} mm of {b.item} for {piece.thickness:.4g} mm", n, flat[0]
    return "", 0, 0.0


def in_sheets(worked: Worked, wanted: Sequence[str], count: int, sheet: float) -> Document:
    """The design with these layers (as pieces are called) piled of so many sheets each; bars forged as one stay alike.

    Raises InputError for what is no layer of a pile.
    """
    if not 2 <= count <= MOST_SHEETS:
        raise InputError.at("count", f"{count} sheets for a layer", f"give 2 to {MOST_SHEETS}")
    data = worked.document.as_json()
    mates = {group.bars[0]: group.bars for group in stock_of(worked).together}
    layers: dict[Address, set[int]] = {}
    for i, name in enumerate(wanted):
        where, _, layer = name.partition(":")
        try:
            address = () if where == "bar" else tuple(int(n) - 1 for n in where.split("."))
            at = int(layer) - 1
        except ValueError:
            raise InputError.at(f"wanted[{i}]", f"{name[:40]!r} is no layer of a pile", "choose one of the pieces") from None
        for bar in mates.get(address, (address,)):
            layers.setdefault(bar, set()).add(at)
    for address, which in layers.items():
        start = _start_at(data["recipe"]["bar"], address)
        if start is None or start["kind"] != "stack" or not which <= set(range(len(start["layers"]))):
            raise InputError.at("wanted", "there is no such layer in a pile", "choose one of the pieces")
        thin = [[layer | {"thickness": sheet}] * count if i in which else [layer] for i, layer in enumerate(start["layers"])]
        start["layers"] = [layer for several in thin for layer in several]
    return read_document(data, worked.shop)


def _start_at(bar: dict[str, Any], address: Address) -> dict[str, Any] | None:
    for i in address:
        bars = bar["start"].get("bars", ())
        if not 0 <= i < len(bars):
            return None
        bar = bars[i]
    found: dict[str, Any] = bar["start"]
    return found


def as_rows(plan: CutPlan) -> Iterator[Mapping[str, object]]:
    """The cut list as rows of a table: every cut in order, then what to buy."""
    for bar in plan.bars:
        for n, cut in enumerate(bar.cuts, 1):
            yield {
                "bar": bar.code, "cut": n, "for": cut.says, "steel": bar.steel, "width": cut.width, "thickness": cut.thickness,
                "length": round(cut.length, 2), "how": cut.how, "left": round(bar.left, 2) if n == len(bar.cuts) else "",
            }  # fmt: skip
    for buy in plan.buy:
        for name, length in zip(buy.names, buy.pieces, strict=True):
            yield {
                "bar": "buy", "cut": "", "for": name, "steel": buy.steel, "width": buy.width, "thickness": buy.thickness,
                "length": round(length, 2), "how": buy.instead, "left": "",
            }  # fmt: skip
