"""From a wanted look back to recipes: the scales, faces along them, what a design or a photo looks like in numbers. The search is a job."""

import json
from typing import Annotated, Any
from uuid import UUID

from django.http import HttpRequest, HttpResponse
from ninja import Query, Router

from varistrat.api.auth import asker, helper
from varistrat.api.gate import HEAVY, heavy
from varistrat.api.schemas import PROBLEMS
from varistrat.api.schemas.looks import (
    CandidateDesignOut,
    CandidateIn,
    LooksOut,
    MeasuredOut,
    MeasureIn,
    MeasurePhotoIn,
    PairOut,
    ToolOut,
)
from varistrat.api.shop import shop_of
from varistrat.builds import selectors as builds
from varistrat.builds.services import photos
from varistrat.core.laminate.photo import Mark, sight
from varistrat.core.looks.features import FEATURES, features_of_cut
from varistrat.core.looks.from_photo import features_of_photo
from varistrat.core.looks.scales import examples
from varistrat.core.looks.space import TOOLS, Candidate, pairings_of, usual_pairings
from varistrat.core.looks.taste import wants_of
from varistrat.core.photo.flat import grey_of
from varistrat.core.reading import parse, read_json
from varistrat.designs.services import predict
from varistrat.rack import selectors as rack

router = Router(tags=["looks"], auth=helper)
PNG: dict[str, Any] = {"responses": {200: {"content": {"image/png": {}}}}}
MOST_PAIRINGS = 60


@router.get("", response={200: LooksOut, **PROBLEMS})
def looks(request: HttpRequest) -> LooksOut:
    """What of a look is measured, with faces along each scale; tools, ways of forging, and the steels of the rack that go together."""
    shop = shop_of(request)
    there = sorted({c.item.steel for c in rack.rack(asker(request).shop, used_up=False)} & set(shop.steels))
    found = [(p, True) for p in pairings_of(shop, there)] if there else []
    found += [(p, False) for p in usual_pairings(shop) if (p, True) not in found]
    return LooksOut(
        features=list(FEATURES.values()),
        examples={k: list(run) for k, run in examples().items()},
        tools=[ToolOut(key=k, says=v) for k, v in TOOLS.items()],
        pairings=[
            PairOut(dark=d, bright=b, says=f"{shop.steels[d].name} and {shop.steels[b].name}", there=t)
            for (d, b), t in found[:MOST_PAIRINGS]
        ],
        mark=shop.mark[:16],
    )


@router.get("/face.png", response={200: None, **PROBLEMS}, openapi_extra=PNG)
def face(
    request: HttpRequest,
    candidate: Annotated[str, Query(max_length=800)],
    px: Annotated[int, Query(ge=64, le=1600)] = 320,
    mark: Annotated[str, Query(max_length=40)] = "",
) -> HttpResponse:
    """The right face of what a candidate (JSON) makes; mark: of the shop's steels, so that an address is good for as long as they are."""
    worked = parse(Candidate, read_json(candidate)).worked(shop_of(request))
    picture = predict.BladePicture("right", px, margin=1.0, quality="screen")
    with heavy(request, predict.blade_cost(worked, picture)) as deadline:
        body = predict.blade_png(worked, picture, None, deadline.stop)
    response = HttpResponse(body, content_type="image/png")
    response["Cache-Control"] = "private, max-age=3600"
    return response


@router.post("/measure", response={200: MeasuredOut, **PROBLEMS})
def measure(request: HttpRequest, asked: MeasureIn) -> MeasuredOut:
    """What the faces of a design look like, in numbers."""
    with heavy(request, HEAVY):
        return MeasuredOut(wants=wants_of(features_of_cut(predict.work_out(asked.document).blade)))


@router.post("/measure-photo/{build_id}/{uid}", response={200: MeasuredOut, **PROBLEMS})
def measure_photo(request: HttpRequest, build_id: int, uid: UUID, asked: MeasurePhotoIn) -> MeasuredOut:
    """What a marked photo of a face looks like: its shape; its tones are those of its light."""
    build = builds.build_of(asker(request).shop, build_id)
    cut = builds.made(build, shop_of(request)).worked.blade
    body = photos.open_photo(build, uid, small=False).read_bytes()
    seen_by = sight([Mark(m.px, m.py, m.x, m.y) for m in asked.marks])
    with heavy(request, HEAVY):
        found = features_of_photo(cut, asked.side, grey_of(body), seen_by)
    return MeasuredOut(wants=wants_of(found, shape_only=True))


@router.post("/design", response={200: CandidateDesignOut, **PROBLEMS})
def design(request: HttpRequest, asked: CandidateIn) -> CandidateDesignOut:
    """An answer as a design of one's own, its piles as long as its blade asks."""
    blade = json.loads(asked.blade.model_dump_json(by_alias=True, exclude_defaults=True)) if asked.blade else None
    worked = asked.candidate.worked(shop_of(request), blade)
    return CandidateDesignOut(name=asked.candidate.of_family.title[:60], document=worked.document.as_json())
