"""The bench: designs, their revisions, their pictures; recipes in and out."""

import json
import re
from typing import Annotated, Any

from django.http import HttpRequest, HttpResponse, JsonResponse
from ninja import Query, Router

from varistrat.api.auth import asker, helper, smith
from varistrat.api.gate import HEAVY, heavy
from varistrat.api.schemas import PROBLEMS, AboutIn, BinLine, DesignIn, DesignLine, DesignOut, RevisionOut, SaveIn
from varistrat.api.shop import shop_of
from varistrat.core.design.document import read_document
from varistrat.core.design.file import read_design, write_design
from varistrat.core.errors import InputError
from varistrat.core.reading import read_json
from varistrat.core.shop import ShopData
from varistrat.core.starters import STARTERS, of_steels
from varistrat.core.stock.begun import begun
from varistrat.designs import selectors
from varistrat.designs.models import Design, Revision
from varistrat.designs.services import keep, predict

router = Router(tags=["designs"], auth=helper)


def _out(design: Design, revision: Revision, shop: ShopData) -> DesignOut | JsonResponse:
    """A document that can no longer be read in full goes out as it was saved, with what is wrong with it."""
    line: dict[str, Any] = {
        "id": design.pk,
        "name": design.name,
        "about": design.about,
        "mark": keep.mark_of_design(design),
        "changed": design.changed,
        "current": revision.number,
    }
    try:
        return DesignOut(**line, document=read_document(revision.document, shop))
    except InputError as e:
        problems = [{"path": p.path, "wrong": p.wrong, "cure": p.cure} for p in e.problems]
        return JsonResponse(line | {"document": revision.up_to_date, "problems": problems})


def _line(design: Design, digest: str) -> DesignLine:
    return DesignLine(
        id=design.pk,
        name=design.name,
        about=design.about,
        mark=keep.mark_of_design(design),
        changed=design.changed,
        current=design.current,
        picture=f"/api/designs/{design.pk}/picture.png?v={digest[:16]}",
    )


@router.get("", response={200: list[DesignLine], **PROBLEMS})
def bench(request: HttpRequest) -> list[DesignLine]:
    return [_line(design, digest) for design, digest in selectors.bench(asker(request).shop)]


@router.post("", response={201: DesignLine, **PROBLEMS}, auth=smith)
def create(request: HttpRequest, asked: DesignIn) -> tuple[int, DesignLine]:
    if asked.document:
        document, name, about = asked.document, asked.name or asked.document.recipe.name or "Unnamed", ""
    else:
        starter = (
            of_steels(asked.pile.steels, asked.pile.shares, asked.pile.clad, shop_of(request))
            if asked.pile
            else STARTERS.get(asked.starter or "blank")
        )
        if starter is None:
            raise InputError.at("starter", f"there is no starter {str(asked.starter)[:40]!r}", f"use one of {', '.join(STARTERS)}")
        document, name, about = begun(read_document(starter.document(), shop_of(request))), asked.name or starter.name, starter.about
    design = keep.create_design(actor=asker(request), document=document, name=name, about=about)
    return 201, _line(design, selectors.revision_of(design).digest)


@router.post(
    "/import",
    response={201: DesignLine, **PROBLEMS},
    openapi_extra={"requestBody": {"content": {"application/json": {"schema": {"type": "object"}}}}},
    auth=smith,
)
def import_file(request: HttpRequest) -> tuple[int, DesignLine]:
    """A design file whole, a blade file with its recipe, or a recipe file, which comes with a plain blade to look at it on."""
    found = read_design(read_json(request.body), shop_of(request))
    name = found.name or "Imported design"
    design = keep.create_design(actor=asker(request), document=found.document, name=name, about=found.about, note="imported")
    return 201, _line(design, selectors.revision_of(design).digest)


@router.get("/bin", response={200: list[BinLine], **PROBLEMS})
def thrown_away(request: HttpRequest) -> list[BinLine]:
    """Designs removed in the last thirty days, latest first."""
    return [
        BinLine(
            id=d.pk,
            name=d.name,
            about=d.about,
            removed=d.removed,
            days=keep.days_left(d),
            picture=f"/api/designs/{d.pk}/picture.png?v={digest[:16]}",
        )
        for d, digest in selectors.thrown_away(asker(request).shop)
        if d.removed
    ]


@router.delete("/bin/{design_id}", response={204: None, **PROBLEMS}, auth=smith)
def delete_for_good(request: HttpRequest, design_id: int) -> tuple[int, None]:
    keep.delete_for_good(actor=asker(request), design=selectors.design_of(asker(request).shop, design_id, removed=True))
    return 204, None


@router.get("/{design_id}", response={200: DesignOut, **PROBLEMS})
def read(request: HttpRequest, design_id: int) -> DesignOut | JsonResponse:
    design = selectors.design_of(asker(request).shop, design_id)
    return _out(design, selectors.revision_of(design), shop_of(request))


@router.put("/{design_id}", response={200: DesignLine, **PROBLEMS}, auth=smith)
def save(request: HttpRequest, design_id: int, asked: SaveIn) -> DesignLine:
    design = selectors.design_of(asker(request).shop, design_id)
    revision = keep.save_design(
        actor=asker(request), design=design, document=asked.document, base=asked.base, name=asked.name, about=asked.about
    )
    return _line(design, revision.digest)


@router.patch("/{design_id}", response={200: DesignLine, **PROBLEMS}, auth=smith)
def describe(request: HttpRequest, design_id: int, asked: AboutIn) -> DesignLine:
    """What is said of it on the bench."""
    found = selectors.design_of(asker(request).shop, design_id)
    design = keep.describe_design(actor=asker(request), design=found, about=asked.about, base=asked.base)
    return _line(design, selectors.revision_of(design).digest)


@router.delete("/{design_id}", response={204: None, **PROBLEMS}, auth=smith)
def remove(request: HttpRequest, design_id: int) -> tuple[int, None]:
    keep.remove_design(actor=asker(request), design=selectors.design_of(asker(request).shop, design_id))
    return 204, None


@router.post("/{design_id}/restore", response={200: DesignLine, **PROBLEMS}, auth=smith)
def restore(request: HttpRequest, design_id: int) -> DesignLine:
    design = selectors.design_of(asker(request).shop, design_id, removed=True)
    keep.restore_design(actor=asker(request), design=design)
    return _line(design, selectors.revision_of(design).digest)


@router.post("/{design_id}/copy", response={201: DesignLine, **PROBLEMS}, auth=smith)
def copy(request: HttpRequest, design_id: int) -> tuple[int, DesignLine]:
    design = keep.copy_design(actor=asker(request), design=selectors.design_of(asker(request).shop, design_id))
    return 201, _line(design, selectors.revision_of(design).digest)


@router.get("/{design_id}/revisions", response={200: list[RevisionOut], **PROBLEMS})
def revisions(request: HttpRequest, design_id: int, before: Annotated[int | None, Query(ge=1, le=2**31 - 1)] = None) -> list[Revision]:
    """Two hundred at a time, latest first; `before`: the number of the oldest one seen so far."""
    return selectors.history(selectors.design_of(asker(request).shop, design_id), before)


@router.get("/{design_id}/revisions/{number}", response={200: DesignOut, **PROBLEMS})
def revision(request: HttpRequest, design_id: int, number: int) -> DesignOut | JsonResponse:
    design = selectors.design_of(asker(request).shop, design_id)
    return _out(design, selectors.revision_of(design, number), shop_of(request))


@router.post("/{design_id}/revisions/{number}/bring-back", response={200: DesignOut, **PROBLEMS}, auth=smith)
def bring_back(request: HttpRequest, design_id: int, number: int) -> DesignOut | JsonResponse:
    design = selectors.design_of(asker(request).shop, design_id)
    selectors.revision_of(design, number)
    return _out(design, keep.bring_back(actor=asker(request), design=design, number=number), shop_of(request))


@router.get(
    "/{design_id}/picture.png", response={200: None, **PROBLEMS}, openapi_extra={"responses": {200: {"content": {"image/png": {}}}}}
)
def picture(request: HttpRequest, design_id: int, px: int = 640) -> HttpResponse:
    found = selectors.revision_of(selectors.any_design_of(asker(request).shop, design_id))
    px = min(max(px, 64), 1600)
    shop = shop_of(request)
    etag = f'"{found.digest[:24]}-{px}-{shop.mark}"'
    if request.headers.get("If-None-Match") == etag:
        return HttpResponse(status=304)
    drawn = predict.picture_kept(etag)
    # one that must be drawn waits its turn among the heavy ones, so that a bench full of them keeps nobody waiting
    with heavy(request, 0 if drawn else HEAVY) as deadline:
        body = predict.kept_picture(etag, found.document, shop, px, deadline.stop)
    response = HttpResponse(body, content_type="image/png")
    response["ETag"] = etag
    response["Cache-Control"] = "private, max-age=0, must-revalidate"
    return response


@router.get(
    "/{design_id}/design.json", response={200: None, **PROBLEMS}, openapi_extra={"responses": {200: {"content": {"application/json": {}}}}}
)
def export_design(request: HttpRequest, design_id: int) -> HttpResponse:
    """Everything that is kept of it in one file, which can be taken in again here or in another shop."""
    design = selectors.design_of(asker(request).shop, design_id)
    document = read_document(selectors.revision_of(design).document, shop_of(request))
    document = document.model_copy(update={"recipe": document.recipe.model_copy(update={"name": design.name})})
    return _file(write_design(design.name, design.about, document), design.name, "design")


@router.get(
    "/{design_id}/recipe.json", response={200: None, **PROBLEMS}, openapi_extra={"responses": {200: {"content": {"application/json": {}}}}}
)
def export(request: HttpRequest, design_id: int) -> HttpResponse:
    """The recipe file, steps that are switched off left out."""
    design = selectors.design_of(asker(request).shop, design_id)
    recipe = read_document(selectors.revision_of(design).document, shop_of(request)).carried_out()
    # the design's name counts, as it is now
    recipe = recipe.model_copy(update={"name": design.name})
    return _file(recipe.as_json(), design.name, "recipe")


@router.get(
    "/{design_id}/blade.json", response={200: None, **PROBLEMS}, openapi_extra={"responses": {200: {"content": {"application/json": {}}}}}
)
def export_blade(request: HttpRequest, design_id: int) -> HttpResponse:
    """The blade file with the recipe in it, as the command line reads it."""
    design = selectors.design_of(asker(request).shop, design_id)
    document = read_document(selectors.revision_of(design).document, shop_of(request))
    if document.blade is None:
        raise InputError.at("blade", "there is no blade in this design", "add one")
    recipe = document.carried_out().model_copy(update={"name": design.name})
    blade = document.blade.model_copy(update={"recipe": recipe, "name": design.name})
    return _file(blade.as_json(), design.name, "blade")


def _file(content: dict[str, Any], name: str, kind: str) -> HttpResponse:
    stem = re.sub(r"[^a-z0-9]+", "-", name.lower()).strip("-") or kind
    response = HttpResponse(json.dumps(content, indent=1), content_type="application/json")
    response["Content-Disposition"] = f'attachment; filename="{stem}.{kind}.json"'
    return response
