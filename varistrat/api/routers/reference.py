"""Steels and the catalogue of what can be done."""

from typing import Any

from django.http import HttpRequest, HttpResponse
from ninja import Router

from varistrat.accounts import services
from varistrat.api.auth import asker, signed_in
from varistrat.api.schemas import PROBLEMS, CatalogueOut, HandIn, HandOut, StarterOut, SteelOut, ToneIn
from varistrat.core.bars.fresh import HANDS, WORDS
from varistrat.core.bars.starts import STARTS
from varistrat.core.bars.steps import STEPS
from varistrat.core.blade.model import Blade
from varistrat.core.etch.tones import reflectance
from varistrat.core.laminate.study import Sizes
from varistrat.core.starters import STARTERS
from varistrat.core.steels import STEELS
from varistrat.designs.selectors import NotFound
from varistrat.designs.services import keep, predict

router = Router(tags=["reference"], auth=signed_in)


@router.get("/steels", response={200: list[SteelOut], **PROBLEMS})
def steels(request: HttpRequest) -> list[SteelOut]:
    own = services.shop_tones(asker(request))
    return [
        SteelOut(
            key=s.key, name=s.name, composition=s.composition, density=s.density, hardens=s.hardens, tone=s.tone, etch_rate=s.etch_rate,
            why_tone=s.why_tone, grey=reflectance(own.get(s.key, s.tone)), shop_tone=own.get(s.key),
            sources={"composition": s.composition_source, "density": s.density_source, "tone": s.tone_source},
        )
        for s in STEELS.values()
    ]  # fmt: skip


@router.put("/steels/{key}/tone", response={200: list[SteelOut], **PROBLEMS})
def set_tone(request: HttpRequest, key: str, asked: ToneIn) -> list[SteelOut]:
    services.set_tone(actor=asker(request), key=key, tone=asked.tone)
    return steels(request)


@router.get("/hands", response={200: list[HandOut], **PROBLEMS})
def hands(request: HttpRequest) -> list[HandOut]:
    """What hammer, press and rolls usually leave in the layers."""
    now = services.shop_hands(asker(request))
    return [HandOut(method=m, amount=h["amount"], wavelength=h["wavelength"], own=h != HANDS[m]) for m, h in now.items()]


@router.put("/hands/{method}", response={200: list[HandOut], **PROBLEMS})
def set_hand(request: HttpRequest, method: str, asked: HandIn) -> list[HandOut]:
    services.set_hand(actor=asker(request), method=method, amount=asked.amount, wavelength=asked.wavelength)
    return hands(request)


@router.get("/catalogue", response={200: CatalogueOut, **PROBLEMS})
def catalogue(request: HttpRequest) -> CatalogueOut:
    def schema(model: Any) -> dict[str, Any]:
        found: dict[str, Any] = model.model_json_schema(by_alias=True)
        return found

    return CatalogueOut(
        starts={s.model_fields["kind"].default: schema(s) for s in STARTS},
        steps={s.model_fields["kind"].default: schema(s) for s in STEPS},
        blade=schema(Blade),
        sizes=schema(Sizes),
        step_words=WORDS,
        hands=services.shop_hands(asker(request)),
        starters=[StarterOut(key=s.key, name=s.name, about=s.about) for s in STARTERS.values()],
    )


@router.get(
    "/starters/{key}/picture.png", response={200: None, **PROBLEMS}, openapi_extra={"responses": {200: {"content": {"image/png": {}}}}}
)
def starter_picture(request: HttpRequest, key: str) -> HttpResponse:
    """What a ready start looks like; drawn once and kept."""
    if key not in STARTERS:
        raise NotFound("starter")
    document = STARTERS[key].document()
    name = f"starter-{keep.digest(document)}"
    response = HttpResponse(predict.kept_picture(name, document, {}, 420), content_type="image/png")
    response["Cache-Control"] = "private, max-age=3600"
    return response
