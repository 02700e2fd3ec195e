"""Builds: begun, followed operation by operation, written down; orders."""

import json
from typing import Annotated, Any, Literal
from uuid import UUID

from django.http import HttpRequest, HttpResponse
from django.utils.http import content_disposition_header
from ninja import File, Path, Query, Router
from ninja.files import UploadedFile

from varistrat.api import uploads
from varistrat.api.auth import asker, helper, smith
from varistrat.api.gate import HEAVY, Busy, heavy
from varistrat.api.schemas import PROBLEMS, DocumentIn
from varistrat.api.schemas.builds import (
    AmendIn,
    BeginIn,
    BookOut,
    BuildOut,
    BuildSayIn,
    BuildWaysOut,
    EntriesIn,
    KeptOut,
    KeptPhotoOut,
    MadeOut,
    OddIn,
    OrderIn,
    OrderOut,
    RecordOut,
    RefusedOut,
    SuitsIn,
)
from varistrat.api.schemas.finish import CardOut, LoggedOut, PointOut
from varistrat.api.schemas.stock import WayOutOut
from varistrat.api.shop import shop_of
from varistrat.builds import selectors
from varistrat.builds.models import Build, Order
from varistrat.builds.services import begin as beginning
from varistrat.builds.services import log, photos, portable
from varistrat.builds.services import orders as ordering
from varistrat.core.build.card import Card, card_of, graded_of, in_the_log
from varistrat.core.build.told import BuildTold, Made
from varistrat.core.build.ways import ways_left
from varistrat.core.design.document import read_document
from varistrat.core.design.standing import Against, against
from varistrat.core.errors import InputError
from varistrat.core.finish.grade import points_for
from varistrat.core.finish.purpose import SUGGESTED, Suggested, Suits, suits
from varistrat.core.interchange.apart import ReadersBusy
from varistrat.core.learning.factors import FactorTold, learned_of
from varistrat.core.learning.sizes import SizeLearned, sizes_learned
from varistrat.core.limits import MAX_PHOTO_BYTES
from varistrat.core.paper.card import card_pdf
from varistrat.core.paper.label import label_pdf
from varistrat.core.steels import named_steel
from varistrat.designs.selectors import design_of
from varistrat.designs.services import predict
from varistrat.rack.services import Offcut

router = Router(tags=["builds"], auth=helper)
JPEG: dict[str, Any] = {"responses": {200: {"content": {"image/jpeg": {}}}}}
ZIP: dict[str, Any] = {"responses": {200: {"content": {"application/zip": {}}}}}
PDF: dict[str, Any] = {"responses": {200: {"content": {"application/pdf": {}}}}}
PNG: dict[str, Any] = {"responses": {200: {"content": {"image/png": {}}}}}
PICTURE_PX, BAR_PX = 480, 640


def _out(build: Build) -> BuildOut:
    design, order = build.design, build.order
    return BuildOut(
        id=build.pk, uid=build.uid, title=build.title, who=build.who, due=build.due, state=build.state, made=build.made,  # type: ignore[arg-type]
        by=build.by.get_username() if build.by else "", design=build.design_id, design_name=design.name if design else "",
        order=build.order_id, order_title=order.title if order else "", laid_aside=bool(build.acts), plan=build.current,
        mark=beginning.mark_of_build(build),
        picture=f"/api/builds/{build.pk}/picture.png", summary=log.summary_as_kept(build),
    )  # fmt: skip


def _order_out(order: Order) -> OrderOut:
    names = ("id", "who", "title", "purpose", "promised", "price", "must", "length", "height", "steels", "state", "made")
    return OrderOut(
        **{n: getattr(order, n) for n in names},
        builds=[b.pk for b in order.builds.all()],
        design=order.design_id if order.design and not order.design.removed else None,
        mark=ordering.mark_of_order(order),
    )


def _card(request: HttpRequest, found: Build, now: Made) -> Card:
    return card_of(found.title, f"{found.made:%Y}-{found.pk}", asker(request).shop.name, now.worked, now.plan, now.state, found.who)


@router.get("", response={200: BookOut, **PROBLEMS})
def book(request: HttpRequest) -> BookOut:
    return BookOut(builds=[_out(b) for b in selectors.book(asker(request).shop)])


@router.post("", response={201: BuildOut, **PROBLEMS}, auth=smith)
def begin(request: HttpRequest, asked: BeginIn) -> tuple[int, BuildOut]:
    """The plan is frozen and the steel laid aside, or neither; the same `uid` twice begins it once."""
    actor = asker(request)
    build = beginning.begin(
        actor=actor, uid=asked.uid, worked=predict.work_out(asked.document),
        design=design_of(actor.shop, asked.design) if asked.design is not None else None,
        title=asked.title, who=asked.who, due=asked.due,
        order=selectors.order_of(actor.shop, asked.order) if asked.order is not None else None,
        takes=asked.takes, keep=[Offcut(k.item, k.length, k.count) for k in asked.keep], knowing=asked.knowing,
        laid=asked.laid, besides=asked.besides,
    )  # fmt: skip
    return 201, _out(build)


@router.post("/against", response={200: list[Against], **PROBLEMS})
def what_is_against(request: HttpRequest, asked: DocumentIn) -> list[Against]:
    """What fails of a design as it stands, and what needs care, each with its place: before it is begun."""
    return list(against(predict.work_out(asked.document)))


@router.get("/laid-aside/{design_id}", response={200: list[selectors.LaidAside], **PROBLEMS})
def laid_aside(request: HttpRequest, design_id: int) -> list[selectors.LaidAside]:
    """Steel that was taken out of the rack for a design, and that no build of it has yet."""
    shop = asker(request).shop
    return selectors.laid_aside(shop, design_of(shop, design_id))


@router.get("/read/{design_id}", response={200: selectors.BuildRead | None, **PROBLEMS})
def read_at_the_sheet(request: HttpRequest, design_id: int) -> selectors.BuildRead | None:
    """What the shop sheet was told of the hardening, in the last build of a design where anything was."""
    shop = asker(request).shop
    return selectors.read_at_the_sheet(shop, design_of(shop, design_id), shop_of(request))


@router.get("/orders", response={200: list[OrderOut], **PROBLEMS})
def orders(request: HttpRequest) -> list[OrderOut]:
    return [_order_out(o) for o in selectors.orders(asker(request).shop)]


def _known_steels(request: HttpRequest, asked: OrderIn) -> None:
    """Raises InputError for a steel that is not in the shop's list."""
    for key in asked.steels:
        named_steel(key, shop_of(request).steels)


@router.post("/orders", response={201: OrderOut, **PROBLEMS}, auth=smith)
def take_order(request: HttpRequest, asked: OrderIn) -> tuple[int, OrderOut]:
    _known_steels(request, asked)
    return 201, _order_out(ordering.take(actor=asker(request), said=asked.dict()))


@router.put("/orders/{order_id}", response={200: OrderOut, **PROBLEMS}, auth=smith)
def change_order(request: HttpRequest, order_id: int, asked: OrderIn) -> OrderOut:
    _known_steels(request, asked)
    order = selectors.order_of(asker(request).shop, order_id)
    return _order_out(ordering.change(actor=asker(request), order=order, said=asked.dict(), base=asked.base))


@router.post("/orders/{order_id}/design", response={200: OrderOut, **PROBLEMS}, auth=smith)
def begin_design(request: HttpRequest, order_id: int) -> OrderOut:
    """A design of the order's size, steels and purpose; the one that was begun for it, where there is one."""
    order = selectors.order_of(asker(request).shop, order_id)
    ordering.begin_design(actor=asker(request), order=order, shop=shop_of(request))
    return _order_out(order)


@router.get("/purposes", response={200: list[Suggested], **PROBLEMS})
def purposes(request: HttpRequest) -> list[Suggested]:
    """What each purpose suggests of edge, hardness and outline."""
    return list(SUGGESTED.values())


@router.post("/suits", response={200: Suits, **PROBLEMS})
def suited(request: HttpRequest, asked: SuitsIn) -> Suits:
    """How a design stands to what it is for."""
    return suits(predict.work_out(asked.document), asked.purpose)


@router.get("/learned", response={200: list[FactorTold], **PROBLEMS})
def learned(request: HttpRequest) -> list[FactorTold]:
    """How the shop's work departs from our numbers, by its whole book; offered, never put in by itself."""
    builds = [b for b in reversed(selectors.book(asker(request).shop)) if b.state != Build.State.GIVEN_UP]
    kept: dict[str, list[str]] = {}
    for b in builds:
        for kind in b.kept_odd:
            kept.setdefault(kind, []).append(str(b.pk))
    told_of = [(str(b.pk), b.title, log.summary_as_kept(b)) for b in builds]
    return learned_of(told_of, shop_of(request).numbers, kept)


@router.get("/learned-sizes", response={200: list[SizeLearned], **PROBLEMS})
def learned_sizes(request: HttpRequest) -> list[SizeLearned]:
    """How large the errors of the shop's blades are, by those whose faces were read; offered, never put in by itself."""
    return sizes_learned(selectors.errors_of(asker(request).shop))


@router.post("/{build_id}/odd", response={204: None, **PROBLEMS}, auth=smith)
def count_odd(request: HttpRequest, build_id: int, asked: OddIn) -> tuple[int, None]:
    """Whether what one kind of operation took in it counts, though it is odd among the others."""
    found = selectors.build_of(asker(request).shop, build_id)
    beginning.count_odd(actor=asker(request), build=found, kind=asked.kind, kept=asked.kept)
    return 204, None


@router.post("/file.zip", response={201: BuildOut, **PROBLEMS}, auth=smith)
def from_file(request: HttpRequest, file: File[UploadedFile]) -> tuple[int, BuildOut]:
    """A build from its file; one that is in the book already is given what it lacks."""
    data = uploads.content(file, portable.MOST_BYTES, "leave photos out")
    try:
        return 201, _out(portable.read_file(actor=asker(request), data=data, shop=shop_of(request)))
    except ReadersBusy as e:
        raise Busy from e


@router.get("/{build_id}", response={200: BuildOut, **PROBLEMS})
def build(request: HttpRequest, build_id: int) -> BuildOut:
    return _out(selectors.build_of(asker(request).shop, build_id))


@router.patch("/{build_id}", response={200: BuildOut, **PROBLEMS}, auth=smith)
def say(request: HttpRequest, build_id: int, asked: BuildSayIn) -> BuildOut:
    actor = asker(request)
    found = selectors.build_of(actor.shop, build_id)
    said = asked.dict(exclude_unset=True)
    base = said.pop("base", "")
    if said.get("order") is not None:
        said["order"] = selectors.order_of(actor.shop, said["order"])
    beginning.say(actor=actor, build=found, said={n: v for n, v in said.items() if v is not None or n in ("due", "order")}, base=base)
    return _out(selectors.build_of(actor.shop, build_id))


@router.delete("/{build_id}", response={204: None, **PROBLEMS}, auth=smith)
def take_away(request: HttpRequest, build_id: int) -> tuple[int, None]:
    """Only while nothing was written down of it; its steel goes back."""
    beginning.take_away(actor=asker(request), build=selectors.build_of(asker(request).shop, build_id))
    return 204, None


@router.post("/{build_id}/put-back", response={200: BuildOut, **PROBLEMS}, auth=smith)
def put_back(request: HttpRequest, build_id: int) -> BuildOut:
    """The steel that was laid aside for it, back into the rack."""
    return _out(beginning.put_back(actor=asker(request), build=selectors.build_of(asker(request).shop, build_id)))


@router.get("/{build_id}/told", response={200: BuildTold, **PROBLEMS})
def told(request: HttpRequest, build_id: int) -> BuildTold:
    """Every operation as planned, as it follows now, and as measured."""
    return selectors.told(selectors.build_of(asker(request).shop, build_id), shop_of(request))


@router.get("/{build_id}/made", response={200: MadeOut, **PROBLEMS})
def made(request: HttpRequest, build_id: int) -> MadeOut:
    """The design as frozen, and as it is being made."""
    found = selectors.build_of(asker(request).shop, build_id)
    now = selectors.made(found, shop_of(request))
    return MadeOut(planned=read_document(now.plan.document, shop_of(request)), made=now.worked.document)


@router.get("/{build_id}/ways", response={200: BuildWaysOut, **PROBLEMS})
def ways(request: HttpRequest, build_id: int) -> BuildWaysOut:
    """Ways out of a bar that came out short that leave alone what is done; none when it is not short."""
    found = selectors.build_of(asker(request).shop, build_id)
    with heavy(request, HEAVY):
        left = ways_left(selectors.made(found, shop_of(request)))
    return BuildWaysOut(ways=[WayOutOut(**{n: getattr(w, n) for n in WayOutOut.model_fields}) for w in left])


@router.post("/{build_id}/amend", response={200: BuildOut, **PROBLEMS}, auth=smith)
def amend(request: HttpRequest, build_id: int, asked: AmendIn) -> BuildOut:
    """A change of the plan on the way, with its reason; the same id twice changes it once."""
    found = selectors.build_of(asker(request).shop, build_id)
    entry = {"id": str(asked.id), "at": asked.at.isoformat()}
    worked = predict.work_out(asked.document)
    return _out(beginning.amend(actor=asker(request), build=found, worked=worked, why=asked.why, entry=entry, base=asked.base))


@router.get("/{build_id}/entries", response={200: list[RecordOut], **PROBLEMS})
def entries(request: HttpRequest, build_id: int, after: Annotated[int, Query(ge=0, lt=2**63)] = 0) -> list[RecordOut]:
    """What was written down, as it came; `after`: the row of the last that is known."""
    found = selectors.build_of(asker(request).shop, build_id)
    return [
        RecordOut(row=r.pk, by=r.by.get_username() if r.by else "", came=r.came, entry=r.entry)
        for r in selectors.records_after(found, after)
    ]


@router.post("/{build_id}/entries", response={200: KeptOut, **PROBLEMS})
def write(request: HttpRequest, build_id: int, asked: EntriesIn) -> KeptOut:
    """Write down: the same id twice is one entry; what is refused stays with who sent it."""
    kept = log.write(actor=asker(request), build=selectors.build_of(asker(request).shop, build_id), entries=asked.entries)
    return KeptOut(kept=kept.kept, refused=[RefusedOut(id=r.id, wrong=r.wrong, cure=r.cure) for r in kept.refused])


@router.get("/{build_id}/picture.png", response={200: None, **PROBLEMS}, openapi_extra=PNG)
def picture(request: HttpRequest, build_id: int) -> HttpResponse:
    """This blade, as it is being made."""
    found, shop = selectors.build_of(asker(request).shop, build_id), shop_of(request)
    try:
        document = selectors.made(found, shop).worked.document.as_json()
    except InputError:
        document = selectors.plan_of(found).document
    key = f"{json.dumps(document, sort_keys=True)}|{shop.mark}|{PICTURE_PX}"
    with heavy(request, 0 if predict.picture_kept(key) else HEAVY) as deadline:
        body = predict.kept_picture(key, document, shop, PICTURE_PX, deadline.stop)
    response = HttpResponse(body, content_type="image/png")
    response["Cache-Control"] = "private, max-age=0, must-revalidate"
    return response


@router.get("/{build_id}/bars/{bar}/{stages}/{view}.png", response={200: None, **PROBLEMS}, openapi_extra=PNG)
def bar_picture(
    request: HttpRequest,
    build_id: int,
    bar: str,
    stages: Annotated[int, Path(ge=0, le=1000)],
    view: Literal["side", "end"],
    plan: Annotated[int | None, Query(ge=1, lt=2**31)] = None,
    px: Annotated[int, Query(ge=16, le=1600)] = BAR_PX,
) -> HttpResponse:
    """One of its bars after so many steps, as planned; `plan`: the number of another than the one that counts."""
    found, shop = selectors.build_of(asker(request).shop, build_id), shop_of(request)
    worked = predict.work_out(read_document(selectors.plan_of(found, plan).document, shop))
    asked = predict.BarPicture(stages, view, px, x=predict.bar_after(worked, bar, stages).bar.length / 2, bar=bar)
    with heavy(request, predict.bar_cost(worked, asked)) as deadline:
        body = predict.bar_png(worked, asked, None, deadline.stop)
    response = HttpResponse(body, content_type="image/png")
    # a plan never changes; the shop's tones may
    response["Cache-Control"] = "private, max-age=3600"
    return response


@router.get("/{build_id}/card", response={200: CardOut, **PROBLEMS})
def card(request: HttpRequest, build_id: int) -> CardOut:
    """Its grade with its points, and the card that goes with it."""
    found = selectors.build_of(asker(request).shop, build_id)
    now = selectors.made(found, shop_of(request))
    core = now.worked.has_core
    graded, log = graded_of(now.state, core), in_the_log(now.state)
    points = [
        PointOut(
            check=i, key=p.key, ask=p.ask, good=p.good, bad=p.bad, fatal=p.fatal,
            log=[LoggedOut(fault=f.fault, text=f.text, at=f.at) for f in log.get(p.key, [])],
        )
        for i, p in points_for(core)
    ]  # fmt: skip
    return CardOut(grade=graded.grade, why=graded.why, open=list(graded.open), failed=list(graded.failed), own=graded.own, points=points,
                   card=_card(request, found, now))  # fmt: skip


@router.get("/{build_id}/card.pdf", response={200: None, **PROBLEMS}, openapi_extra=PDF)
def card_paper(request: HttpRequest, build_id: int) -> HttpResponse:
    found = selectors.build_of(asker(request).shop, build_id)
    return HttpResponse(card_pdf(_card(request, found, selectors.made(found, shop_of(request)))), content_type="application/pdf")


@router.get("/{build_id}/label.pdf", response={200: None, **PROBLEMS}, openapi_extra=PDF)
def label(request: HttpRequest, build_id: int) -> HttpResponse:
    """To hang on the steel: its code opens the build."""
    found = selectors.build_of(asker(request).shop, build_id)
    lines = [f"for {found.who}"] if found.who else []
    if found.due:
        lines.append(f"promised for {found.due.isoformat()}")
    body = label_pdf(found.title, lines, request.build_absolute_uri(f"/build/{found.pk}"))
    return HttpResponse(body, content_type="application/pdf")


@router.post("/{build_id}/photos/{uid}", response={200: KeptPhotoOut, **PROBLEMS})
def take_photo(request: HttpRequest, build_id: int, uid: UUID, file: File[UploadedFile]) -> KeptPhotoOut:
    """A photo, kept without place and camera, upright, in two sizes; the same id twice is one photo."""
    found = selectors.build_of(asker(request).shop, build_id)
    data = uploads.content(file, MAX_PHOTO_BYTES, "take it smaller")
    try:
        kept = photos.take(actor=asker(request), build=found, uid=uid, data=data)
    except ReadersBusy as e:
        raise Busy from e
    return KeptPhotoOut(uid=kept.uid, width=kept.width, height=kept.height)


@router.get("/{build_id}/photos/{uid}/photo.jpg", response={200: None, **PROBLEMS}, openapi_extra=JPEG)
def photo(request: HttpRequest, build_id: int, uid: UUID, small: bool = False) -> HttpResponse:
    found = selectors.build_of(asker(request).shop, build_id)
    response = HttpResponse(photos.open_photo(found, uid, small).read_bytes(), content_type="image/jpeg")
    response["Cache-Control"] = "private, max-age=86400, immutable"
    return response


@router.get("/{build_id}/file.zip", response={200: None, **PROBLEMS}, openapi_extra=ZIP)
def as_file(request: HttpRequest, build_id: int) -> HttpResponse:
    """All of it: plans, log, photos."""
    found = selectors.build_of(asker(request).shop, build_id)
    response = HttpResponse(portable.write_file(found), content_type="application/zip")
    response["Content-Disposition"] = content_disposition_header(True, f"{found.title}.zip") or "attachment"
    return response
