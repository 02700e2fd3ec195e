"""Changing the rack: each a movement or several, in one transaction; nothing is overwritten."""

import re
import uuid
from collections.abc import Iterable, Iterator, Mapping, Sequence
from dataclasses import dataclass
from typing import Any

from django.db import transaction
from django.db.models import Sum
from django.utils import timezone

from varistrat.core.errors import InputError
from varistrat.core.rack.item import RackItem, Stocked
from varistrat.designs.models import Design
from varistrat.designs.selectors import NotFound
from varistrat.rack.models import Item, Movement
from varistrat.shop.models import Membership
from varistrat.shop.services.marks import mark_of, unchanged

MOST_ITEMS = 5_000
"""In one shop's rack."""
SAID = ("batch", "bought", "source", "place", "note", "low")
"""What may be said of an item later; what it is may not be changed."""
NEAR = 1e-6


class NotEnough(Exception):
    """Somebody else took it first, or it never was there."""

    def __init__(self, item: Item, there: float):
        super().__init__(f"{item.code}: {there:g} left")
        self.item, self.there = item, there


class PutBackAlready(Exception):
    """What was taken is in the rack again."""


@dataclass(frozen=True)
class Offcut:
    """What is left of a bar that was cut, and goes back as an item of its own: mm; so many of them."""

    item: int
    length: float
    count: int = 1


@transaction.atomic
def add(*, actor: Membership, items: Sequence[RackItem], codes: Sequence[str] | None = None, note: str = "") -> list[Item]:
    """New items with what is there of them. Raises InputError for a code that is taken, or more than a rack holds."""
    taken = set(Item.objects.filter(shop=actor.shop).values_list("code", flat=True))
    if len(taken) + len(items) > MOST_ITEMS:
        raise InputError.at("items", f"there are {len(taken)} items already", f"a rack holds {MOST_ITEMS}: clear out what is used up")
    fresh = _fresh_codes(taken)
    act, made = uuid.uuid4(), []
    for i, one in enumerate(items):
        code = codes[i] if codes else next(fresh)
        if code in taken:
            raise InputError.at(f"items[{i}].code", f"{code!r} is in the rack already", "give it another")
        taken.add(code)
        each = one.price / one.count if one.price is not None and one.count else None
        made.append(_made(actor, code, one, each))
        if one.count:
            _move(actor, made[-1], Movement.Kind.BOUGHT, one.count, act, note)
    return made


def _fresh_codes(taken: Iterable[str]) -> Iterator[str]:
    """R8, R9 and so on, after the highest that is taken."""
    used = {int(m.group(1)) for code in taken if (m := re.fullmatch(r"R(\d{1,8})", code))}
    n = max(used, default=0)
    while True:
        n += 1
        yield f"R{n}"


def _made(actor: Membership, code: str, one: RackItem, each: float | None, **more: Any) -> Item:
    names = ("steel", "form", "width", "thickness", "wall", "length", *SAID)
    return Item.objects.create(shop=actor.shop, code=code, each=each, **{n: getattr(one, n) for n in names}, **more)


def _move(
    actor: Membership, item: Item, kind: Movement.Kind, amount: float, act: uuid.UUID, note: str = "", design: Design | None = None
) -> Movement:
    return Movement.objects.create(
        item=item, kind=kind, amount=amount, at=timezone.now(), by=actor.user, design=design, note=note[:200], act=act
    )


def there(item: Item) -> float:
    """How many there are, of powder the grams: the sum of its movements."""
    return float(item.movements.aggregate(sum=Sum("amount"))["sum"] or 0.0)


def _checked(item: Item, amount: float, name: str = "amount") -> None:
    if item.form != "powder" and amount != int(amount):
        raise InputError.at(name, f"{amount:g} is no number of bars", "give a whole number")


@transaction.atomic
def bring(*, actor: Membership, item: Item, amount: float, note: str = "") -> Movement:
    """So many more came. Raises InputError."""
    _checked(item, amount)
    if amount <= 0:
        raise InputError.at("amount", f"{amount:g} is nothing to bring", "give how many came; what went is taken")
    return _move(actor, item, Movement.Kind.BOUGHT, amount, uuid.uuid4(), note)


@transaction.atomic
def correct(*, actor: Membership, item: Item, to: float, note: str = "") -> Movement | None:
    """It was counted: so many are there. None when that is what the rack says already. Raises InputError."""
    _checked(item, to, "to")
    if to < 0:
        raise InputError.at("to", f"{to:g} cannot be there", "give what was counted")
    change = to - there(item)
    return _move(actor, item, Movement.Kind.CORRECTED, change, uuid.uuid4(), note) if abs(change) > NEAR else None


@transaction.atomic
def take(
    *,
    actor: Membership,
    takes: Mapping[int, float],
    keep: Sequence[Offcut] = (),
    design: Design | None = None,
    note: str = "",
) -> uuid.UUID:
    """Take so many of these items (by id), all or none; what is left of a bar that is cut goes back as an item of its own.

    Returns what undoes it. Raises NotEnough, InputError.
    """
    # the write lock is held from here on: of two who take the last one only one finds it
    items = {i.pk: i for i in Item.objects.filter(shop=actor.shop, pk__in=takes)}
    act = uuid.uuid4()
    if not takes:
        raise InputError.at("takes", "there is nothing to take", "say what")
    for pk, amount in takes.items():
        item = items.get(pk)
        if item is None:
            raise InputError.at("takes", "one of these is not in your rack", "look again: it may have been cleared out")
        _checked(item, amount, "takes")
        if amount <= 0:
            raise InputError.at("takes", f"{amount:g} of {item.code} is nothing to take", "give how many")
        if (left := there(item)) + NEAR < amount:
            raise NotEnough(item, left)
        _move(actor, item, Movement.Kind.TAKEN, -amount, act, note, design)
    codes = _fresh_codes(Item.objects.filter(shop=actor.shop).values_list("code", flat=True))
    for left_over in keep:
        whole = items.get(left_over.item)
        if left_over.item not in takes:
            raise InputError.at("keep", "something is kept of what is not taken", "name what it is left of in takes")
        if whole is None or whole.length is None or not 0 < left_over.length < whole.length:
            raise InputError.at("keep", "what is left is longer than the bar it is of", "give what is really left, in mm")
        each = whole.each * left_over.length / whole.length if whole.each is not None else None
        one = Item.objects.create(
            shop=actor.shop,
            code=next(codes),
            each=each,
            length=left_over.length,
            **{n: getattr(whole, n) for n in ("steel", "form", "width", "thickness", "wall", "batch", "bought", "source", "place")},
            note=f"left of {whole.code}"[:400],
        )
        _move(actor, one, Movement.Kind.OFFCUT, left_over.count, act, note, design)
    return act


def undoing(act: uuid.UUID) -> uuid.UUID:
    """The act in which all of this one is put back."""
    return uuid.uuid5(act, "put back")


@transaction.atomic
def put_back(*, actor: Membership, act: uuid.UUID) -> list[Movement]:
    """Undo what was done in one go: each movement is written again the other way. Raises NotFound, PutBackAlready, NotEnough."""
    done = list(Movement.objects.filter(item__shop=actor.shop, act=act).select_related("item", "design"))
    if not done:
        raise NotFound("act")
    undone = undoing(act)
    if Movement.objects.filter(item__shop=actor.shop, act=undone).exists():
        raise PutBackAlready
    back = []
    for one in done:
        if one.amount > 0 and (left := there(one.item)) + NEAR < one.amount:
            raise NotEnough(one.item, left)
        back.append(_move(actor, one.item, Movement.Kind.PUT_BACK, -one.amount, undone, one.note, one.design))
    return back


def mark_of_item(item: Item) -> str:
    """Of what may be said of it."""
    return mark_of(item, (*SAID, "each"))


@transaction.atomic
def say(*, actor: Membership, item: Item, said: Mapping[str, Any], base: str = "") -> Item:
    """Where it lies, a note, when it runs low, what one piece cost; base: its mark when it was looked at. Raises Overtaken."""
    item.refresh_from_db()
    unchanged(base, mark_of_item(item))
    for name, value in said.items():
        if name in (*SAID, "each"):
            setattr(item, name, value)
    item.save(update_fields=[n for n in said if n in (*SAID, "each")])
    return item


@transaction.atomic
def keep_offcut(*, actor: Membership, item: RackItem, design: Design, document: dict[str, Any], note: str) -> Item:
    """A piece of a blade's bar that is kept for its pattern: `document` the bar that it is."""
    if Item.objects.filter(shop=actor.shop).count() >= MOST_ITEMS:
        raise InputError.at("items", f"there are {MOST_ITEMS} items already", "clear out what is used up")
    code = next(_fresh_codes(Item.objects.filter(shop=actor.shop).values_list("code", flat=True)))
    made = _made(actor, code, item, None, design=design, document=document)
    _move(actor, made, Movement.Kind.OFFCUT, item.count, uuid.uuid4(), note, design)
    return made


@dataclass(frozen=True)
class Read:
    """How many rows of a file were new, and how many counts were put right."""

    new: int
    corrected: int


@transaction.atomic
def read_file(*, actor: Membership, rows: Sequence[Stocked]) -> Read:
    """A file says what is there: rows with a code that is in the rack put its count right, all others are new. Raises InputError."""
    known = {i.code: i for i in Item.objects.filter(shop=actor.shop)}
    corrected, new = 0, []
    for line, row in enumerate(rows, 2):
        item = known.get(row.code)
        if item is None:
            new.append(row)
            continue
        for name in ("steel", "form", "width", "thickness", "wall", "length"):
            mine, said = getattr(item, name), getattr(row.item, name)
            alike = abs(mine - said) < 1e-3 if isinstance(mine, float) and isinstance(said, float) else mine == said
            if not alike:
                raise InputError.at(
                    f"line {line}.{name}", f"{row.code!r} is another {name} in your rack", "give what is new an id of its own"
                )
        corrected += correct(actor=actor, item=item, to=row.there, note="as the file says") is not None
        said_of = {n: getattr(row.item, n) for n in SAID if getattr(row.item, n) not in (None, "")}
        if said_of:
            say(actor=actor, item=item, said=said_of)
    add(actor=actor, items=[r.item for r in new], codes=[r.code for r in new], note="from a file")
    return Read(len(new), corrected)
