"""The demo's book: a knife finished, one in the middle whose bar came out short, one just begun, and older ones. All made up.

Nothing is typed in that the shop would not have typed: every entry is written down as the shop sheet does, so that sums, words and what is
learned come from the same code as a real shop's.
"""

from collections.abc import Mapping
from dataclasses import dataclass, field
from datetime import date, datetime, timedelta
from math import exp
from random import Random
from typing import Any
from uuid import UUID, uuid5

from django.utils import timezone

from varistrat.builds.models import Build, Order
from varistrat.builds.selectors import laid_aside, made_by, plans_of
from varistrat.builds.services import begin as beginning
from varistrat.builds.services import log, orders, photos
from varistrat.core.blade.geometry import SIDES
from varistrat.core.build.entry import ENTRY
from varistrat.core.build.plan import Plan
from varistrat.core.design.document import read_document
from varistrat.core.design.standing import against, made_worse
from varistrat.core.design.worked import Worked
from varistrat.core.finish.grade import POINTS
from varistrat.core.photo.bench import OnBench
from varistrat.core.photo.intake import taken_in
from varistrat.core.photo.numbers import numbers_of, taken_over
from varistrat.core.route.operation import Operation, Quantity
from varistrat.core.shop import ShopData
from varistrat.core.stock.sheet import stock_of
from varistrat.core.stock.ways import made_so
from varistrat.designs.models import Design
from varistrat.designs.selectors import revision_of
from varistrat.designs.services.predict import executor
from varistrat.shop.models import Membership
from varistrat.shop.services.own import shop_data

NAMES = UUID("a3d1c3b2-6f0e-4f6e-9a43-5a1f2d9b7c10")
MEASURED: tuple[Quantity, ...] = ("width", "thickness", "diameter", "length", "mass", "depth")
SHORT_BY = 8.0
"""mm that the bar of the one in the middle lacks, its reserve eaten up."""
HARDNESS = 59.5
"""HRC that this shop's tempers come to."""
SLOW = 1.25
"""This shop takes so many times as long as planned, at all but the saw."""


@dataclass(frozen=True)
class Told:
    """One build: after which design, begun how many days ago, how many operations are done (all, when none is said); faults and notes by
    kind of operation; how much heavier than planned it came out."""

    design: str
    title: str
    who: str
    days_ago: int
    done: int | None = None
    state: str = ""
    promised: int | None = None
    faults: Mapping[str, tuple[str, bool]] = field(default_factory=dict)
    notes: Mapping[str, str] = field(default_factory=dict)
    off: float = 1.0
    short: float = 0.0
    photographed: bool = False
    failed: tuple[str, ...] = ()
    """Points of the last look that it does not meet."""
    traced: str = ""
    """What is seen, of a fault being traced at its last operation; answers to the looks that were taken."""
    looks: Mapping[str, bool] = field(default_factory=dict)


TOLD: tuple[Told, ...] = (
    Told("Withy knife", "Withy knife for the co-operative", "Osier Holt co-operative", 320, state="done"),
    Told(
        "Thatcher's eave knife",
        "Eave knife",
        "Hob Merrow",
        255,
        state="done",
        faults={"harden": ("warped towards the left in the quench", False)},
    ),
    Told("Rush knife, right hand", "Rush knife, right", "Widow Tansy", 190, state="done", off=1.04, failed=("straight",)),
    Told(
        "Rush knife, left hand",
        "Rush knife, left",
        "Widow Tansy",
        182,
        done=6,
        state="given up",
        faults={"fire": ("a crack at the corner of the twist", False)},
    ),
    Told(
        "Reedcutter's long knife",
        "Long knife, second of three",
        "Bittern Fen reeders",
        120,
        state="done",
        faults={"fire": ("an open weld at one end", True)},
    ),
    Told(
        "Sedge knife, bold twist",
        "Sedge knife, bold twist",
        "the Wendlemarsh fair",
        41,
        state="done",
        promised=-2,
        faults={"fire": ("an open weld at one end", True), "sand": ("a scratch of the coarse belt showed after the etch", True)},
        notes={
            "etch": "stars open where the bevel nears the centre, as hoped",
            "fire": "slower gas than last time, the bottle was near its end",
        },
        off=1.02,
        photographed=True,
    ),
    Told(
        "Eel splitter, a thumb short",
        "Eel splitter",
        "Ferryman Dace",
        4,
        done=4,
        promised=19,
        notes={"fire": "left it in too long while the bellows were mended: thick scale"},
        short=SHORT_BY,
        traced="short_bar",
        looks={"drawn_wide": False},
    ),
    Told("Marsh star", "Marsh star for the fair", "the Wendlemarsh fair", 1, done=1, promised=60),
)


def fill_book(owner: Membership, smith: Membership, designs: Mapping[str, Design]) -> None:
    """Begin and carry out all of them."""
    shop = shop_data(owner.shop)
    wanted = _orders(owner)
    for n, told in enumerate(TOLD):
        actor = smith if n % 2 else owner
        build = _begun(actor, told, designs[told.design], shop, wanted.get(told.title))
        _carried_out(actor, build, told, shop, Random(n + 5))
        if told.state:
            beginning.set_state(actor=actor, build=build, state=told.state)


def _day(days: int | None) -> date | None:
    return None if days is None else (timezone.now() + timedelta(days=days)).date()


def _orders(owner: Membership) -> dict[str, Order]:
    """By the title of the build that answers it."""
    rows = (
        ("Eel splitter", "Ferryman Dace", "slicing", 19, 260.0, "the old one's outline; a full tang"),
        ("Marsh star for the fair", "the Wendlemarsh fair", "show", 60, None, "a row of stars that can be seen from the road"),
        ("Hurdle maker's pair", "Hazel Copse hurdles", "chopping", 95, 540.0, "both alike in weight; edges that take hazel knots"),
    )
    out = {}
    for title, who, purpose, days, price, must in rows:
        said = {"who": who, "title": title, "purpose": purpose, "promised": _day(days), "price": price, "must": must}
        out[title] = orders.take(actor=owner, said=said)
    return out


def _begun(actor: Membership, told: Told, design: Design, shop: ShopData, order: Order | None) -> Build:
    worked = Worked.of(read_document(revision_of(design).up_to_date, shop))
    # as one begins it from the screen: the piles cut as the stock sheet says, where nothing tears for it
    cut_so = Worked.of(made_so(worked, stock_of(worked)))
    worked = worked if made_worse(against(worked), cut_so) else cut_so
    return beginning.begin(
        actor=actor, uid=uuid5(NAMES, told.title), worked=worked, design=design, title=told.title, who=told.who,
        due=_day(told.promised), order=order, laid=[a.act for a in laid_aside(actor.shop, design)],
    )  # fmt: skip


class _Writer:
    """Entries one after another through the working days."""

    def __init__(self, told: Told):
        self.told, self.out, self.n = told, list[dict[str, Any]](), 0
        first = timezone.now() - timedelta(days=told.days_ago)
        self.at: datetime = first.replace(hour=8, minute=10, second=0, microsecond=0)

    def write(self, op: str, kind: str, **data: Any) -> None:
        self.n += 1
        one = {"id": str(uuid5(NAMES, f"{self.told.title} {self.n}")), "op": op, "kind": kind, "at": self.at.isoformat(), **data}
        self.out.append(one)
        self.at += timedelta(seconds=20)

    def pass_time(self, minutes: float) -> None:
        self.at += timedelta(minutes=minutes)
        if self.at.hour >= 16:
            self.at = (self.at + timedelta(days=1)).replace(hour=8, minute=20)


def _carried_out(actor: Membership, build: Build, told: Told, shop: ShopData, rng: Random) -> None:
    (plan,) = plans_of(build)
    writer = _Writer(told)
    faults, notes = dict(told.faults), dict(told.notes)
    for op in plan.operations[: told.done]:
        _done(writer, op, told, rng, faults, notes)
    if told.traced:
        writer.write(plan.operations[(told.done or 1) - 1].id, "fault", fault=told.traced,
                     text="a thumb short, after the last draw", answers=dict(told.looks))  # fmt: skip
    if told.short:
        _made_short(build, plan, writer.out, shop, told.short)
    if told.photographed:
        entries = [ENTRY.validate_python(e) for e in writer.out]
        _photographed(actor, build, writer, made_by([plan], entries, shop).worked)
    log.write(actor=actor, build=build, entries=writer.out)


def _photographed(actor: Membership, build: Build, writer: _Writer, worked: Worked) -> None:
    """Both sides after the etch: as such a blade comes out, a little otherwise than planned, which its photo can tell."""
    twist = next(n.key for n in numbers_of(worked, "right") if n.key.startswith("turns:"))
    worked = Worked.of(taken_over(worked, "right", {"ground": 0.31, twist: -0.04, twist.replace("turns:", "phase:"): 14.0}))
    op = next(o for o in plans_of(build)[-1].operations if o.kind == "etch")
    for side in SIDES:
        uid = uuid5(NAMES, f"{build.title} {side}")
        picture = OnBench(worked, side, executor()).camera().read()
        photos.keep(actor=actor, build=build, uid=uid, taken=taken_in(picture.jpeg))
        writer.write(op.id, "photo", photo=str(uid), caption=f"{side} side, etched")


def _done(writer: _Writer, op: Operation, told: Told, rng: Random, faults: dict[str, Any], notes: dict[str, Any]) -> None:
    pace = (1.0 if op.place == "saw" else SLOW) * exp(rng.gauss(0.0, 0.12))
    minutes = max(1.0, round(op.attended * pace))
    writer.pass_time(minutes)
    for target in op.targets:
        if target.quantity in MEASURED:
            # weighed heavier than planned, and within what calipers and hands do
            off = target.value * (told.off - 1) if target.quantity == "mass" and not op.bar else 0.6 * target.tolerance * rng.gauss(0, 0.6)
            value = round(target.value + off, 0 if target.quantity == "mass" else 1)
            writer.write(op.id, "measured", quantity=target.quantity, value=float(value), typed=f"{value:g}")
        elif target.quantity == "heats":
            heats = round(target.value * exp(rng.gauss(0.1, 0.15)))
            writer.write(op.id, "measured", quantity="heats", value=float(max(1, heats)), typed=str(max(1, heats)))
    for n, _ in enumerate(op.checks):
        writer.write(op.id, "checked", check=n, good=op.kind != "look" or POINTS[n].key not in told.failed)
    if op.kind == "sharpen":
        writer.write(op.id, "tested", tested={"test": "brass", "seen": "fine", "times": 5})
    if op.id.endswith("-temper"):
        for place in (20.0, 60.0, 110.0):
            read = round(HARDNESS + rng.gauss(0, 0.4), 1)
            writer.write(op.id, "measured", quantity="hardness", value=read, typed=f"{read:g}", place=place)
    if op.kind in faults:
        text, again = faults.pop(op.kind)
        writer.write(op.id, "fault", text=text)
        if again:
            writer.write(op.id, "note", text="put right in the same hour")
    if op.kind in notes:
        writer.write(op.id, "note", text=notes.pop(op.kind))
    writer.write(op.id, "done", minutes=float(minutes))
    writer.pass_time(op.alone)


def _made_short(build: Build, plan: Plan, entries: list[dict[str, Any]], shop: ShopData, by: float) -> None:
    """The length measured last, so that the finished bar lacks just so much."""
    from scipy.optimize import brentq

    last = next(e for e in reversed(entries) if e["kind"] == "measured" and e["quantity"] == "length")
    whole = last["value"]

    def lacks(length: float) -> float:
        last["value"] = length
        found = made_by([plan], [ENTRY.validate_python(e) for e in entries], shop)
        sheet = stock_of(found.worked)
        return float(-(sheet.spare + sheet.need.reserve))

    last["value"] = round(float(brentq(lambda length: lacks(length) - by, 0.7 * whole, whole, xtol=0.02)), 1)
    last["typed"] = f"{last['value']:g}"
