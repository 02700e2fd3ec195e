"""The bench: designs, their revisions, their pictures; recipes in and out."""

import json
import re
from typing import Any

from django.http import HttpRequest, HttpResponse
from ninja import Router

from varistrat.api.auth import asker, signed_in
from varistrat.api.schemas import PROBLEMS, DesignIn, DesignLine, DesignOut, RevisionOut, SaveIn
from varistrat.core.bars.recipe import read_recipe
from varistrat.core.document import Document, read_document
from varistrat.core.errors import InputError
from varistrat.core.reading import read_json
from varistrat.core.starters import DEFAULT_BLADE, STARTERS, of_steels
from varistrat.core.shop import shop_in_force
from varistrat.designs import selectors
from varistrat.designs.models import Design, Revision
from varistrat.designs.services import keep, predict

router = Router(tags=["designs"], auth=signed_in)


def _out(design: Design, revision: Revision) -> dict[str, Any]:
    return {
        "id": design.pk, "name": design.name, "about": design.about, "changed": design.changed, "current": revision.number,
        "document": revision.document,
    }  # fmt: skip


def _line(design: Design, digest: str) -> DesignLine:
    return DesignLine(
        id=design.pk, name=design.name, about=design.about, changed=design.changed, current=design.current,
        picture=f"/api/designs/{design.pk}/picture.png?v={digest[:16]}",
    )  # fmt: skip


@router.get("", response={200: list[DesignLine], **PROBLEMS})
def bench(request: HttpRequest) -> list[DesignLine]:
    return [_line(design, digest) for design, digest in selectors.bench(asker(request))]


@router.post("", response={201: DesignLine, **PROBLEMS})
def create(request: HttpRequest, asked: DesignIn) -> tuple[int, DesignLine]:
    if asked.document:
        document, name, about = asked.document, asked.name or asked.document.recipe.name or "Unnamed", ""
    else:
        starter = of_steels(asked.pile.steels, asked.pile.shares, asked.pile.clad) if asked.pile else STARTERS.get(asked.starter or "blank")
        if starter is None:
            raise InputError.at("starter", f"there is no starter {str(asked.starter)[:40]!r}", f"use one of {', '.join(STARTERS)}")
        document, name, about = read_document(starter.document()), asked.name or starter.name, starter.about
    design = keep.create_design(actor=asker(request), document=document, name=name, about=about)
    return 201, _line(design, selectors.revision_of(design).digest)


@router.post(
    "/import",
    response={201: DesignLine, **PROBLEMS},
    openapi_extra={"requestBody": {"content": {"application/json": {"schema": {"type": "object"}}}}},
)
def import_recipe(request: HttpRequest) -> tuple[int, DesignLine]:
    """A recipe file as it is; it comes with a plain blade to look at it on."""
    recipe = read_recipe(read_json(request.body))
    document = Document(recipe=recipe, blade=read_document({"recipe": recipe.as_json(), "blade": DEFAULT_BLADE}).blade)
    design = keep.create_design(actor=asker(request), document=document, name=recipe.name or "Imported recipe", note="imported")
    return 201, _line(design, selectors.revision_of(design).digest)


@router.get("/{design_id}", response={200: DesignOut, **PROBLEMS})
def read(request: HttpRequest, design_id: int) -> Any:
    design = selectors.design_of(asker(request), design_id)
    return _out(design, selectors.revision_of(design))


@router.put("/{design_id}", response={200: DesignLine, **PROBLEMS})
def save(request: HttpRequest, design_id: int, asked: SaveIn) -> DesignLine:
    design = selectors.design_of(asker(request), design_id)
    revision = keep.save_design(actor=asker(request), design=design, document=asked.document, base=asked.base, name=asked.name)
    return _line(design, revision.digest)


@router.delete("/{design_id}", response={204: None, **PROBLEMS})
def remove(request: HttpRequest, design_id: int) -> tuple[int, None]:
    keep.remove_design(actor=asker(request), design=selectors.design_of(asker(request), design_id))
    return 204, None


@router.post("/{design_id}/restore", response={200: DesignLine, **PROBLEMS})
def restore(request: HttpRequest, design_id: int) -> DesignLine:
    design = selectors.design_of(asker(request), design_id, removed=True)
    keep.restore_design(actor=asker(request), design=design)
    return _line(design, selectors.revision_of(design).digest)


@router.post("/{design_id}/copy", response={201: DesignLine, **PROBLEMS})
def copy(request: HttpRequest, design_id: int) -> tuple[int, DesignLine]:
    design = keep.copy_design(actor=asker(request), design=selectors.design_of(asker(request), design_id))
    return 201, _line(design, selectors.revision_of(design).digest)


@router.get("/{design_id}/revisions", response={200: list[RevisionOut], **PROBLEMS})
def revisions(request: HttpRequest, design_id: int) -> Any:
    return selectors.history(selectors.design_of(asker(request), design_id))


@router.get("/{design_id}/revisions/{number}", response={200: DesignOut, **PROBLEMS})
def revision(request: HttpRequest, design_id: int, number: int) -> Any:
    design = selectors.design_of(asker(request), design_id)
    return _out(design, selectors.revision_of(design, number))


@router.post("/{design_id}/revisions/{number}/bring-back", response={200: DesignOut, **PROBLEMS})
def bring_back(request: HttpRequest, design_id: int, number: int) -> Any:
    design = selectors.design_of(asker(request), design_id)
    selectors.revision_of(design, number)
    return _out(design, keep.bring_back(actor=asker(request), design=design, number=number))


@router.get(
    "/{design_id}/picture.png", response={200: None, **PROBLEMS}, openapi_extra={"responses": {200: {"content": {"image/png": {}}}}}
)
def picture(request: HttpRequest, design_id: int, px: int = 640) -> HttpResponse:
    user = asker(request)
    found = selectors.revision_of(selectors.design_of(user, design_id))
    px = min(max(px, 64), 1600)
    etag = f'"{found.digest[:24]}-{px}-{shop_in_force().mark}"'
    if request.headers.get("If-None-Match") == etag:
        return HttpResponse(status=304)
    response = HttpResponse(predict.kept_picture(etag, found.document, px), content_type="image/png")
    response["ETag"] = etag
    response["Cache-Control"] = "private, max-age=0, must-revalidate"
    return response


@router.get(
    "/{design_id}/recipe.json", response={200: None, **PROBLEMS}, openapi_extra={"responses": {200: {"content": {"application/json": {}}}}}
)
def export(request: HttpRequest, design_id: int) -> HttpResponse:
    """The recipe file, steps that are switched off left out."""
    design = selectors.design_of(asker(request), design_id)
    recipe = read_document(selectors.revision_of(design).document).carried_out()
    recipe = recipe.model_copy(update={"name": recipe.name or design.name})
    return _file(recipe.as_json(), design.name, "recipe")


@router.get(
    "/{design_id}/blade.json", response={200: None, **PROBLEMS}, openapi_extra={"responses": {200: {"content": {"application/json": {}}}}}
)
def export_blade(request: HttpRequest, design_id: int) -> HttpResponse:
    """The blade file with the recipe in it, as the command line reads it."""
    design = selectors.design_of(asker(request), design_id)
    document = read_document(selectors.revision_of(design).document)
    if document.blade is None:
        raise InputError.at("blade", "there is no blade in this design", "add one")
    blade = document.blade.model_copy(update={"recipe": document.carried_out(), "name": design.name})
    return _file(blade.as_json(), design.name, "blade")


def _file(content: dict[str, Any], name: str, kind: str) -> HttpResponse:
    stem = re.sub(r"[^a-z0-9]+", "-", name.lower()).strip("-") or kind
    response = HttpResponse(json.dumps(content, indent=1), content_type="application/json")
    response["Content-Disposition"] = f'attachment; filename="{stem}.{kind}.json"'
    return response
