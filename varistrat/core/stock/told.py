"""The stock sheet as a screen tells it: what the bar must be, every pile as it is and must be, and the steel getting less."""

from dataclasses import dataclass

from varistrat.core.bars.bar import Loss
from varistrat.core.design.ledger import label
from varistrat.core.design.scale import ScaleCounted, scale_counted
from varistrat.core.design.worked import Worked
from varistrat.core.errors import InputError
from varistrat.core.findings import Finding
from varistrat.core.stock.backwards import WELD_ENDS
from varistrat.core.stock.need import Allowance, need_of, ticked
from varistrat.core.stock.risk import RiskCurve, curve_of
from varistrat.core.stock.sheet import PileWanted, StockSheet, bar_ends, stock_of

CAUSES: dict[str, str] = {
    Loss.SCALE: "burnt to scale",
    WELD_ENDS: "bad ends of welds",
    Loss.GRIND: "ground off faces",
    Loss.KERF: "saw cuts",
    Loss.WEDGES: "wedges between tiles",
    Loss.RELIEF: "cut or ground away for relief",
    Loss.FIT: "fitted into joints",
    Loss.ENDS: "ends trimmed",
    Loss.OFFCUT: "cut beyond need",
    "hold": "stub to hold it by",
    "reserve": "reserve",
    "shaping": "cut and ground round the blade",
    "blade": "the blade",
    "bar": "the finished bar",
}
BROUGHT = "brought_in"
KEPT = ("blade", "bar")
"""What it is all for: no loss."""


@dataclass(frozen=True)
class Fall:
    """One loss between pile and blade: mm3 and g, share of all that is put in; `left`: share that is there after it."""

    cause: str
    says: str
    volume: float
    mass: float
    share: float
    left: float


@dataclass(frozen=True)
class PileTold:
    """One pile: id and address of its bar; mm and g; has: as it is in the design; needs: as it must be, cut: that rounded up to what
    the shop cuts to."""

    bar: str
    address: list[int]
    label: str
    says: str
    steels: list[str]
    layers: int
    width: float
    height: float
    has: float
    needs: float
    cut: float
    mass_has: float
    mass_needs: float


@dataclass(frozen=True)
class GroupTold:
    """Bars forged as one and cut where they part: ids; steps they share; mm of their one pile, as it must be and as the design has it."""

    bars: list[str]
    steps: int
    length: float
    has: float


@dataclass(frozen=True)
class NeedTold:
    """mm of the finished bar, and what it is made of."""

    length: float
    occupied: float
    hold: float
    ends: float
    reserve: float
    typed: bool


@dataclass(frozen=True)
class StockTold:
    """need, have, spare: mm of the finished bar, with its width and thickness; put_in: mm3 and g as the piles must be; usual: the shop's
    own figures, for what the design does not say; reserve: the share reckoned with."""

    need: NeedTold
    have: float
    spare: float
    width: float
    thickness: float
    piles: list[PileTold]
    groups: list[GroupTold]
    falls: list[Fall]
    put_in_volume: float
    put_in_mass: float
    reserve: float
    usual: dict[str, float]
    scale: ScaleCounted
    findings: list[Finding]


def told_of(worked: Worked) -> StockTold:
    """Raises InputError as `stock_of` does."""
    sheet = stock_of(worked)
    ids = ids_of(worked)
    piles = [_pile(worked, sheet, ids, p) for p in sheet.piles]
    put_in = sum(w.begun * w.forged.first.section.area for w in sheet.wanted if not w.forged.children)
    brought = -min(0.0, sheet.losses.get(BROUGHT, 0.0))
    mass = sum(p.mass for p in sheet.piles)
    tang = worked.cut is not None and worked.cut.geometry.tang() is not None
    falls = _falls(sheet, put_in + brought, mass * (put_in + brought) / put_in, tang)
    groups = [GroupTold([ids[a] for a in t.bars], t.steps, t.length, sheet.cut_to(t.bars[0])) for t in sheet.together]
    need, bar, usual = sheet.need, worked.forged.bar, Allowance.of(worked.shop.numbers)
    return StockTold(
        NeedTold(need.length, need.occupied, need.hold, need.ends, need.reserve, need.typed),
        sheet.have,
        sheet.spare,
        bar.width,
        bar.thickness,
        piles,
        groups,
        falls,
        put_in + brought,
        mass * (put_in + brought) / put_in,
        sheet.allowed.reserve,
        {"hold": usual.hold, "ends": usual.ends, "reserve": usual.reserve},
        scale_counted(worked),
        list(sheet.findings),
    )


def risk_told(worked: Worked) -> RiskCurve:
    """The chance of coming up short against the reserve, and against the longest pile. Raises InputError as `stock_of` does."""
    sheet = stock_of(worked)
    if sheet.need.typed:
        raise InputError.at("stock.need", "a length that is typed has no reserve in it", "let the blade say how long the bar must be")
    without = need_of(worked.blade.placed, sheet.allowed, bar_ends(worked, sheet.allowed))
    return curve_of(worked.forged, without, sheet.allowed)


def ids_of(worked: Worked) -> dict[tuple[int, ...], str]:
    """Ids of the bars by address."""
    out: dict[tuple[int, ...], str] = {}

    def walk(address: tuple[int, ...]) -> None:
        bar = worked.document.recipe.bar
        for i in address:
            bar = bar.start.children()[i]
        out[address] = bar.id
        for i in range(len(bar.start.children())):
            walk((*address, i))

    walk(())
    return out


def _pile(worked: Worked, sheet: StockSheet, ids: dict[tuple[int, ...], str], pile: PileWanted) -> PileTold:
    forged = next(w.forged for w in sheet.wanted if w.address == pile.bar)
    recipe = worked.document.bar(ids[pile.bar])
    first = forged.first
    per_mm = pile.mass / pile.length
    steels = list(dict.fromkeys(k for k, _ in pile.layers)) or sorted({k for row in forged.start.piles() for k, _ in row})
    return PileTold(
        ids[pile.bar],
        list(pile.bar),
        label(recipe),
        forged.instructions()[0],
        steels,
        len(pile.layers),
        first.width,
        first.thickness,
        first.length,
        float(pile.length),
        ticked(pile.length, worked.shop.numbers),
        per_mm * first.length,
        float(pile.mass),
    )


def _falls(sheet: StockSheet, put_in: float, mass: float, tang: bool) -> list[Fall]:
    """What is there for less than a thousandth of a per cent is not told, but counted."""
    left, out = put_in, []
    order = [c for c in sheet.losses if c not in (BROUGHT, *KEPT)] + [c for c in KEPT if c in sheet.losses]
    for cause in order:
        volume = sheet.losses[cause]
        left -= volume
        if abs(volume) > 1e-5 * put_in:
            share = float(volume / put_in)
            says = "the blade with its tang" if tang and cause == "blade" else CAUSES.get(cause, cause.replace("_", " "))
            out.append(Fall(cause, says, float(volume), mass * share, share, min(1.0, max(0.0, float(left / put_in)))))
    return out
