"""The catalogue of what can be done, ready starts, and what the shop's tools leave behind."""

from functools import cache
from typing import Any

from django.http import HttpRequest, HttpResponse
from ninja import Router

from varistrat.api.auth import asker, helper, smith
from varistrat.api.schemas import PROBLEMS, CatalogueOut, HandIn, HandOut, StarterOut
from varistrat.core.bars.fresh import HANDS, WORDS
from varistrat.core.bars.starts import STARTS
from varistrat.core.bars.steps import STEPS
from varistrat.core.blade.model import Blade
from varistrat.core.shop import AS_SHIPS
from varistrat.core.starters import STARTERS
from varistrat.core.study.tolerances import Sizes
from varistrat.designs.selectors import NotFound
from varistrat.designs.services import keep, predict
from varistrat.shop.services import own

router = Router(tags=["reference"], auth=helper)


@router.get("/hands", response={200: list[HandOut], **PROBLEMS})
def hands(request: HttpRequest) -> list[HandOut]:
    """What hammer, press and rolls usually leave in the layers."""
    now = own.shop_hands(asker(request).shop)
    return [HandOut(method=m, amount=h["amount"], wavelength=h["wavelength"], own=h != HANDS[m]) for m, h in now.items()]


@router.put("/hands/{method}", response={200: list[HandOut], **PROBLEMS}, auth=smith)
def set_hand(request: HttpRequest, method: str, asked: HandIn) -> list[HandOut]:
    own.set_hand(actor=asker(request), method=method, amount=asked.amount, wavelength=asked.wavelength)
    return hands(request)


@cache
def _schema(model: Any) -> dict[str, Any]:
    """Of a model, which is the same for everybody: making all of them takes a third of a second."""
    found: dict[str, Any] = model.model_json_schema(by_alias=True)
    return found


@router.get("/catalogue", response={200: CatalogueOut, **PROBLEMS})
def catalogue(request: HttpRequest) -> CatalogueOut:
    return CatalogueOut(
        starts={s.model_fields["kind"].default: _schema(s) for s in STARTS},
        steps={s.model_fields["kind"].default: _schema(s) for s in STEPS},
        blade=_schema(Blade),
        sizes=_schema(Sizes),
        step_words=WORDS,
        hands=own.shop_hands(asker(request).shop),
        starters=[StarterOut(key=s.key, name=s.name, about=s.about) for s in STARTERS.values()],
    )


@router.get(
    "/starters/{key}/picture.png", response={200: None, **PROBLEMS}, openapi_extra={"responses": {200: {"content": {"image/png": {}}}}}
)
def starter_picture(request: HttpRequest, key: str) -> HttpResponse:
    """What a ready start looks like with steels as they ship; drawn once and kept, for all shops."""
    if key not in STARTERS:
        raise NotFound("starter")
    document = STARTERS[key].document()
    name = f"starter-{keep.digest(document)}"
    response = HttpResponse(predict.kept_picture(name, document, AS_SHIPS, 420), content_type="image/png")
    response["Cache-Control"] = "private, max-age=3600"
    return response
