"""The rack: what the shop owns, and every movement of it."""

import json
from typing import Any
from uuid import UUID

import numpy as np
from django.http import HttpRequest, HttpResponse
from ninja import Router

from varistrat.api.auth import asker, helper, smith
from varistrat.api.gate import gone
from varistrat.api.schemas import PROBLEMS, DocumentIn
from varistrat.api.schemas.rack import (
    ActOut,
    AddIn,
    BegunOut,
    CsvIn,
    FittingOut,
    ItemOut,
    KeepOffcutIn,
    MoveIn,
    MovementOut,
    OfferedOut,
    RackOut,
    ReadOut,
    SayIn,
    TakeIn,
    TypedIn,
    TypedOut,
    UseOut,
)
from varistrat.api.shop import shop_of
from varistrat.core.bars.recipe import Recipe
from varistrat.core.blade.measures import offcut_bar, offcuts
from varistrat.core.design.document import Document, read_document
from varistrat.core.errors import InputError
from varistrat.core.rack.csv_file import read_rack, write_rack
from varistrat.core.rack.item import RackItem, grams_of, size_of
from varistrat.core.rack.typed import read_lines
from varistrat.core.rack.uses import UseOf, fittings_of, uses_of
from varistrat.core.shop import ShopData
from varistrat.designs.selectors import NotFound, design_of
from varistrat.designs.services import predict
from varistrat.designs.services.keep import create_design
from varistrat.rack import selectors, services
from varistrat.rack.models import Item, Movement
from varistrat.rack.selectors import Counted

router = Router(tags=["rack"], auth=helper)
PICTURE_PX = 320
PNG: dict[str, Any] = {"responses": {200: {"content": {"image/png": {}}}}}
CSV: dict[str, Any] = {"responses": {200: {"content": {"text/csv": {}}}}}


def _out(one: Counted, data: ShopData) -> ItemOut:
    i, steel = one.item, data.steels.get(one.item.steel)
    sizes = (i.form, i.width, i.thickness, i.wall, i.length)
    each = grams_of(*sizes, steel) if steel else 0.0
    low = i.low is not None and one.there < i.low
    return ItemOut(
        id=i.pk, code=i.code, steel=i.steel, steel_name=steel.name if steel else i.steel, form=i.form, width=i.width,
        thickness=i.thickness, wall=i.wall, length=i.length, size=size_of(*sizes), there=one.there, grams_each=each, mass=each * one.there,
        each=i.each, worth=None if i.each is None else i.each * one.there, batch=i.batch, bought=i.bought, source=i.source,
        place=i.place, note=i.note, low=i.low, mark=services.mark_of_item(i), runs_low=low, moved=one.moved,
        offcut_of=i.design.name if i.design else ("a design that is gone" if i.document else ""), design=i.design_id,
        picture=f"/api/rack/items/{i.pk}/picture.png" if i.document else "",
    )  # fmt: skip


def _rack(request: HttpRequest) -> RackOut:
    data = shop_of(request)
    items = [_out(one, data) for one in selectors.rack(asker(request).shop)]
    return RackOut(items=items, mass=sum(i.mass for i in items), worth=sum(i.worth or 0.0 for i in items))


@router.get("", response={200: RackOut, **PROBLEMS})
def rack(request: HttpRequest) -> RackOut:
    return _rack(request)


@router.post("/typed", response={200: list[TypedOut], **PROBLEMS})
def typed(request: HttpRequest, asked: TypedIn) -> list[TypedOut]:
    """What is understood of lines like "1084 1/4 x 1 1/2 x 48 x 2"; nothing is kept."""
    data = shop_of(request)
    out = []
    for line in read_lines(asked.text, data, asked.unit):
        says = ""
        if line.item:
            many = f"{line.item.count:g} g of " if line.item.form == "powder" else f"{line.item.count:g} of "
            says = f"{many}{data.steels[line.item.steel].name}, {line.item.form} {line.item.size}"
        wrong, cure = (line.problem.wrong, line.problem.cure) if line.problem else ("", "")
        out.append(TypedOut(text=line.text, says=says, item=line.item, wrong=wrong, cure=cure))
    return out


@router.post("/items", response={201: RackOut, **PROBLEMS}, auth=smith)
def add(request: HttpRequest, asked: AddIn) -> tuple[int, RackOut]:
    if asked.codes is not None and len(asked.codes) != len(asked.items):
        raise InputError.at("codes", f"{len(asked.codes)} codes for {len(asked.items)} items", "give each its own, or none at all")
    services.add(actor=asker(request), items=asked.items, codes=asked.codes)
    return 201, _rack(request)


@router.patch("/items/{item_id}", response={200: RackOut, **PROBLEMS}, auth=smith)
def say(request: HttpRequest, item_id: int, asked: SayIn) -> RackOut:
    said = asked.dict(exclude_unset=True)
    texts = {n: v or "" for n, v in said.items() if n in ("batch", "source", "place", "note")}
    services.say(actor=asker(request), item=selectors.item_of(asker(request).shop, item_id).item, said=said | texts, base=asked.base)
    return _rack(request)


@router.post("/items/{item_id}/move", response={200: RackOut, **PROBLEMS}, auth=smith)
def move(request: HttpRequest, item_id: int, asked: MoveIn) -> RackOut:
    actor = asker(request)
    item = selectors.item_of(actor.shop, item_id).item
    if asked.do == "bring":
        services.bring(actor=actor, item=item, amount=asked.amount, note=asked.note)
    elif asked.do == "count":
        services.correct(actor=actor, item=item, to=asked.amount, note=asked.note)
    else:
        services.take(actor=actor, takes={item.pk: asked.amount}, note=asked.note)
    return _rack(request)


@router.get("/items/{item_id}/movements", response={200: list[MovementOut], **PROBLEMS})
def movements(request: HttpRequest, item_id: int, before: int | None = None) -> list[MovementOut]:
    item = selectors.item_of(asker(request).shop, item_id).item

    def out(m: Movement) -> MovementOut:
        by, name = m.by.get_username() if m.by else "", m.design.name if m.design else ""
        return MovementOut(id=m.pk, kind=m.kind, amount=m.amount, at=m.at, by=by, for_design=name, note=m.note, act=m.act)

    return [out(m) for m in selectors.movements_of(item, before)]


@router.get("/items/{item_id}/uses", response={200: list[UseOut], **PROBLEMS})
def uses(request: HttpRequest, item_id: int) -> list[UseOut]:
    """What one piece of it is still good for."""
    item = selectors.item_of(asker(request).shop, item_id).item
    if not (item.width and item.thickness and item.length) or item.form in ("tube", "powder", "rods"):
        return []
    return [UseOut(name=u.name, how=u.how, count=u.count, stretch=u.stretch) for u in uses_of(item.length, item.width, item.thickness)]


@router.post("/fittings", response={200: list[FittingOut], **PROBLEMS})
def fittings(request: HttpRequest, asked: DocumentIn) -> list[FittingOut]:
    """What goes on this blade, and the offcuts of the rack that would do for it. Raises InputError without a blade."""
    worked = predict.work_out(asked.document)
    geometry = worked.blade.geometry
    at = np.array([0.0])
    blocks = fittings_of(float(geometry.height(at)[0]), float(geometry.blade.spine_thickness.heel))
    offered = selectors.offcuts_for(asker(request).shop, blocks)

    def out(item: Item, use: UseOf) -> OfferedOut:
        picture = f"/api/rack/items/{item.pk}/picture.png"
        return OfferedOut(
            name=use.name, how=use.how, count=use.count, stretch=use.stretch, item=item.pk, code=item.code, picture=picture,
            width=item.width or 0.0, thickness=item.thickness or 0.0, length=item.length or 0.0,
        )  # fmt: skip

    return [
        FittingOut(name=b.name, length=b.length, width=b.width, thickness=b.thickness, offered=[out(*o) for o in offered[b.name]])
        for b in blocks
    ]


@router.get("/items/{item_id}/picture.png", response={200: None, **PROBLEMS}, openapi_extra=PNG)
def picture(request: HttpRequest, item_id: int) -> HttpResponse:
    """The pattern an offcut carries."""
    item, data = selectors.item_of(asker(request).shop, item_id).item, shop_of(request)
    if item.document is None:
        raise NotFound("picture")
    key = f"{json.dumps(item.document, sort_keys=True)}|{data.mark}|{PICTURE_PX}"
    body = predict.kept_picture(key, item.document, data, PICTURE_PX, gone(request))
    response = HttpResponse(body, content_type="image/png")
    response["Cache-Control"] = "private, max-age=3600"
    return response


@router.post("/items/{item_id}/begin", response={201: BegunOut, **PROBLEMS}, auth=smith)
def begin(request: HttpRequest, item_id: int) -> tuple[int, BegunOut]:
    """A design begun with this offcut: the bar that it is."""
    actor = asker(request)
    item = selectors.item_of(actor.shop, item_id).item
    if item.document is None:
        raise InputError.at("item", "it carries no pattern", "begin a design with its steel")
    document = read_document(item.document, shop_of(request))
    made = create_design(actor=actor, document=document, name=f"Begun with {item.code}"[:200], about=f"From {item.code} of the rack.")
    return 201, BegunOut(id=made.pk)


@router.post("/take", response={200: ActOut, **PROBLEMS}, auth=smith)
def take(request: HttpRequest, asked: TakeIn) -> ActOut:
    """Take it for this design, all or none; what is left of the bars goes back as items of their own."""
    actor = asker(request)
    design = design_of(actor.shop, asked.design) if asked.design is not None else None
    keep = [services.Offcut(k.item, k.length, k.count) for k in asked.keep]
    return ActOut(act=services.take(actor=actor, takes=asked.takes, keep=keep, design=design))


@router.post("/acts/{act}/put-back", response={200: RackOut, **PROBLEMS}, auth=smith)
def put_back(request: HttpRequest, act: UUID) -> RackOut:
    services.put_back(actor=asker(request), act=act)
    return _rack(request)


@router.post("/offcuts", response={201: RackOut, **PROBLEMS}, auth=smith)
def keep_offcut(request: HttpRequest, asked: KeepOffcutIn) -> tuple[int, RackOut]:
    """One of the offcuts of a blade, kept in the rack with its pattern."""
    actor, data = asker(request), shop_of(request)
    design = design_of(actor.shop, asked.design)
    worked = predict.work_out(asked.document)
    found = {o.name: o for o in offcuts(worked.blade.placed)}
    if asked.name not in found:
        raise InputError.at("name", f"there is no offcut called {asked.name[:40]}", "choose one that is there")
    piece = found[asked.name]
    bar = offcut_bar(worked.blade.placed, piece, asked.document.carried_out().bar, data)
    item = RackItem(
        steel=worked.forged.most_of, form="flat", width=piece.width, thickness=piece.thickness, length=piece.length, note=piece.name
    )
    document = Document(recipe=Recipe(name=f"{design.name}: {piece.name}"[:200], bar=bar)).as_json()
    services.keep_offcut(actor=actor, item=item, design=design, document=document, note=piece.name)
    return 201, _rack(request)


@router.get("/file.csv", response={200: None, **PROBLEMS}, openapi_extra=CSV)
def as_csv(request: HttpRequest) -> HttpResponse:
    text = write_rack(selectors.stocked(asker(request).shop, shop_of(request)))
    response = HttpResponse(text, content_type="text/csv; charset=utf-8")
    response["Content-Disposition"] = 'attachment; filename="rack.csv"'
    return response


@router.post("/file.csv", response={200: ReadOut, **PROBLEMS}, auth=smith)
def from_csv(request: HttpRequest, asked: CsvIn) -> ReadOut:
    """A file says what is there; nothing is taken from one with a mistake."""
    found = services.read_file(actor=asker(request), rows=read_rack(asked.text, shop_of(request)))
    return ReadOut(new=found.new, corrected=found.corrected)
