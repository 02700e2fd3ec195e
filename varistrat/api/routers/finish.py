"""Finish: sanding, bath and film, edge and test, balance; the shop's baths; what went wrong."""

from typing import Any

import numpy as np
from django.http import HttpRequest, HttpResponse
from ninja import Router

from varistrat.api.auth import asker, helper, smith
from varistrat.api.gate import heavy
from varistrat.api.latest import still_wanted
from varistrat.api.schemas import PROBLEMS, DocumentIn, QuantityOut, SumOut
from varistrat.api.schemas.finish import (
    AcrossOut,
    BalanceIn,
    BalanceOut,
    BathDetailOut,
    BathIn,
    BathOut,
    BathSayIn,
    BathUseOut,
    ChangedOut,
    ChangeIn,
    ChangeOut,
    CouponIn,
    CouponOut,
    DepthOut,
    EdgeTestIn,
    EtchedIn,
    FaultIn,
    FaultOut,
    FilmIn,
    FinishIn,
    FinishOut,
    MixIn,
    MixOut,
    SandingOut,
    SeenOut,
    StageOut,
)
from varistrat.api.shop import shop_of
from varistrat.builds import selectors as builds
from varistrat.core.blade.measures import HANDLES
from varistrat.core.build.plan import Plan
from varistrat.core.build.state import BuildState
from varistrat.core.cutting.layers import across_face
from varistrat.core.design.document import HandlePlan
from varistrat.core.errors import InputError
from varistrat.core.etch.bath import RENEW_AT, Bath, tank_for
from varistrat.core.etch.etchants import ETCHANTS
from varistrat.core.etch.masks import ALWAYS, masks_for
from varistrat.core.etch.mixing import Mix, keeping, mix_for, mixed, stock_of
from varistrat.core.faults.changes import CHANGES, changed_by
from varistrat.core.faults.cues import figures_of
from varistrat.core.faults.inference import find
from varistrat.core.faults.knowledge import knowledge
from varistrat.core.finish.balance import UNITS, Fittings, balanced, solve_balance
from varistrat.core.finish.checklist import FIT_UP
from varistrat.core.finish.cycles import EtchPlan, coupon, etch_plan
from varistrat.core.finish.depth import CATCHES, FELT, etch_findings
from varistrat.core.finish.edge_test import TESTS, Advice, advice, edge_plan
from varistrat.core.finish.film import film
from varistrat.core.finish.mark import mark_time
from varistrat.core.finish.sanding import RULES, STOPS, sanding
from varistrat.core.finish.tone_apart import tone_apart
from varistrat.core.laws.numbers import ETCH_R0
from varistrat.core.sums import sums_for
from varistrat.core.sums.fit_up import PLACE, said_of
from varistrat.designs.services import predict
from varistrat.finishing import services
from varistrat.finishing.services import Kept

SECTION = 12.0
"""mm of the face whose relief is drawn."""
router = Router(tags=["finish"], auth=helper)
PNG: dict[str, Any] = {"responses": {200: {"content": {"image/png": {}}}}}


def _bath(request: HttpRequest, bath: int | None) -> Bath | None:
    return services.bath_of(asker(request).shop, bath).core if bath is not None else None


def _depths(plan: EtchPlan) -> list[DepthOut]:
    """The deepest first."""
    out = []
    for s in sorted(plan.surface, key=lambda s: -plan.etched.depths[s.steel.key][-1]):
        depths = list(plan.etched.depths[s.steel.key])
        out.append(DepthOut(steel=s.steel.key, name=s.steel.name, share=s.share, rate=s.rate, noble=s.noble, depths=depths))
    return out


@router.post("/sheet", response={200: FinishOut, **PROBLEMS})
def sheet(request: HttpRequest, asked: FinishIn) -> FinishOut:
    """Everything of the last day that follows from the design: papers, cycles, what becomes of each steel, edge, mark."""
    worked = predict.work_out(asked.document)
    plan = etch_plan(worked, _bath(request, asked.bath))
    sanded, finish, geometry = sanding(worked), worked.document.finish, worked.blade.geometry
    x = np.linspace(0, geometry.length, 60)
    tank = tank_for(geometry.length, float(geometry.height(x).max()), geometry.blade.spine_thickness.most)
    etchant = plan.bath.etchant
    try:
        edge = edge_plan(worked)
    except InputError:
        edge = None
    return FinishOut(
        areas=worked.areas,
        sanding=SandingOut(
            grits=list(sanded.grits), minutes=sanded.minutes, hardness=sanded.hardness, soft=sanded.soft, rules=RULES, stops=STOPS,
        ),
        bath=plan.bath, used=plan.bath.used, capacity=plan.bath.capacity, speed=plan.bath.speed, used_after=plan.etched.bath.used,
        dissolved=dict(plan.etched.dissolved), wanted=plan.wanted, for_tone=plan.for_tone,
        minutes=plan.minutes, cycles=list(plan.cycles), why_not=plan.why_not,
        steels=_depths(plan), relief=plan.etched.relief, felt=FELT, catches=CATCHES, thinnest=worked.thinnest, apart=tone_apart(worked),
        stages=[
            StageOut(key=s.key, says=s.says, minutes=s.minutes, relief=s.relief, polished=s.polished)
            for s in film(worked, plan)
        ],
        across=[AcrossOut(steel=s, width=w) for s, w in across_face(worked.blade, SECTION)],
        findings=etch_findings(worked, plan.bath, plan.etched, plan.surface), tank=tank,
        masks=masks_for(plan.bath.what), mask_always=ALWAYS,
        order=list(etchant.order), never_with=list(etchant.never_with), waste=etchant.waste, bicarbonate=plan.bath.bicarbonate, edge=edge,
        edge_tests=TESTS, fit_up=list(FIT_UP),
        mark=mark_time(finish.mark.area, finish.mark.amperes, finish.mark.depth, worked.shop.numbers) if finish.mark else None,
    )  # fmt: skip


@router.post("/film.png", response={200: None, **PROBLEMS}, openapi_extra=PNG)
def film_picture(request: HttpRequest, asked: FilmIn) -> HttpResponse:
    """One face of the blade at one stage of the film."""
    worked = predict.work_out(asked.document)
    plan = etch_plan(worked, _bath(request, asked.bath))
    stage = next((s for s in film(worked, plan) if s.key == asked.stage), None)
    if stage is None:
        raise InputError.at("stage", f"there is no stage {asked.stage[:40]!r}", "choose one of the sheet's")
    picture = predict.BladePicture(asked.side, asked.px, margin=2.0, book=False)
    with heavy(request, predict.blade_cost(worked, picture), still_wanted(request)) as deadline:
        body = predict.stage_png(worked, picture, stage, deadline.stop)
    return HttpResponse(body, content_type="image/png")


@router.post("/mix", response={200: MixOut, **PROBLEMS})
def mix(request: HttpRequest, asked: MixIn) -> MixOut:
    """From what is wanted to the volumes, or from the volumes to what comes out; the order first."""
    stock = stock_of(asked.what, asked.stock, asked.value)
    if asked.stock_ml is not None and asked.solvent_ml is not None:
        found: Mix = mixed(asked.what, stock, asked.stock_ml, asked.solvent_ml)
    elif asked.strength is not None and asked.litres is not None:
        found = mix_for(asked.what, asked.strength, asked.litres, stock)
    else:
        raise InputError.at("strength", "neither what is wanted nor what there is was said", "give strength and litres, or both volumes")
    etchant, told = ETCHANTS[asked.what], keeping(found)
    within = etchant.weakest <= found.strength <= etchant.strongest
    return MixOut(
        stock=found.stock, solvent=found.solvent, stock_grams=found.stock_grams, solvent_grams=found.solvent_grams,
        stock_strength=stock.strength, strength=found.strength, litres=found.litres, solvent_name=etchant.solvent, keeping=told,
        capacity=etchant.iron_capacity(found.strength) * found.litres if within else 0.0,
        bicarbonate=Bath(what=asked.what, strength=found.strength, litres=found.litres).bicarbonate if within else 0.0,
        order=list(etchant.order), never_with=list(etchant.never_with), waste=etchant.waste,
    )  # fmt: skip


@router.post("/coupon", response={200: CouponOut, **PROBLEMS})
def own_rate(request: HttpRequest, asked: CouponIn) -> CouponOut:
    """The shop's own rate from a plain coupon, half masked: its step by micrometer or feeler."""
    return CouponOut(rate=coupon(asked.bath, asked.minutes, asked.step), ours=ETCH_R0.usual)


@router.post("/edge-test", response={200: list[Advice], **PROBLEMS})
def edge_tested(request: HttpRequest, asked: EdgeTestIn) -> list[Advice]:
    """What follows from a test of the edge, in the order to check."""
    return advice(predict.work_out(asked.document), asked.test)


@router.post("/balance", response={200: BalanceOut, **PROBLEMS})
def balance_at(request: HttpRequest, asked: BalanceIn) -> BalanceOut:
    """Where the balance is with these fittings, or what one of them must be for it to be where it is wanted."""
    worked = predict.work_out(asked.document)
    handle = asked.document.handle or HandlePlan()
    fit = Fittings(handle.length, handle.width, handle.thickness, HANDLES[handle.material], **asked.fittings.dict())
    value = None
    if asked.wanted is not None and asked.unknown is not None:
        value = solve_balance(worked, fit, asked.wanted, asked.unknown)
        fit = Fittings(**(fit.__dict__ | {asked.unknown: value}))
    found = balanced(worked, fit)
    return BalanceOut(point=found.point, mass=found.mass, unknown=asked.unknown, value=value, unit=UNITS.get(asked.unknown or "guard", ""))


@router.post("/sums", response={200: list[SumOut], **PROBLEMS})
def fit_up_sums(request: HttpRequest, asked: DocumentIn) -> list[SumOut]:
    """The sums of fitting up, with what the design already says."""
    worked = predict.work_out(asked.document)
    out = []
    for s, known in sums_for(PLACE, worked.forged.bar, said_of(worked)):
        quantities = []
        for q in s.quantities:
            value = known.get(q.key) if q.key != s.unknown else None
            quantities.append(QuantityOut(key=q.key, label=q.label, unit=q.unit, whole=q.whole, fills="", given=q.given, value=value))
        out.append(SumOut(key=s.key, title=s.title, formula=s.formula, note=s.note, unknown=s.unknown, quantities=quantities))
    return out


# -- baths -------------------------------------------------------------------


def _out(kept: Kept) -> BathOut:
    row, core = kept.row, kept.core
    return BathOut(
        id=row.pk, name=row.name, bath=core, says=core.etchant.says, mixed=row.mixed, gone=row.gone, note=row.note,
        mark=services.mark_of_bath(row), used=core.used,
        capacity=core.capacity, renew=core.used >= RENEW_AT, uses=kept.uses, last=kept.last, dissolved=kept.elements,
        bicarbonate=core.bicarbonate, waste=core.etchant.waste,
    )  # fmt: skip


@router.get("/baths", response={200: list[BathOut], **PROBLEMS})
def baths(request: HttpRequest) -> list[BathOut]:
    return [_out(k) for k in services.baths_of(asker(request).shop)]


@router.post("/baths", response={201: BathOut, **PROBLEMS}, auth=smith)
def mix_bath(request: HttpRequest, asked: BathIn) -> tuple[int, BathOut]:
    actor = asker(request)
    row = services.mix(actor=actor, name=asked.name.strip(), bath=asked.bath, mixed=asked.mixed, note=asked.note)
    return 201, _out(services.bath_of(actor.shop, row.pk))


@router.get("/baths/{bath_id}", response={200: BathDetailOut, **PROBLEMS})
def one_bath(request: HttpRequest, bath_id: int) -> BathDetailOut:
    kept = services.bath_of(asker(request).shop, bath_id)
    history = [
        BathUseOut(at=u.at, by=u.by.get_username() if u.by else "", title=u.title, minutes=u.minutes, grams=u.grams)
        for u in services.uses_of(kept)
    ]
    return BathDetailOut(**_out(kept).dict(), history=history)


@router.patch("/baths/{bath_id}", response={200: BathOut, **PROBLEMS}, auth=smith)
def say_bath(request: HttpRequest, bath_id: int, asked: BathSayIn) -> BathOut:
    """Its name, temperature, note; or the day it was given away (null: it is there after all)."""
    said = asked.dict(exclude_unset=True, exclude={"base"})
    changes = {n: v for n, v in said.items() if v is not None or n == "gone"}
    services.say(actor=asker(request), bath_id=bath_id, said=changes, base=asked.base)
    return _out(services.bath_of(asker(request).shop, bath_id))


@router.post("/baths/{bath_id}/etched", response={200: BathOut, **PROBLEMS})
def etched_in(request: HttpRequest, bath_id: int, asked: EtchedIn) -> BathOut:
    """An etch was done in it; the same id twice is once."""
    actor = asker(request)
    services.bath_of(actor.shop, bath_id)
    build = builds.build_of(actor.shop, asked.build) if asked.build is not None else None
    worked = predict.work_out(asked.document)
    title = asked.title or (build.title if build else asked.document.recipe.name)
    services.etched(actor=actor, bath_id=bath_id, uid=asked.uid, worked=worked, minutes=asked.minutes, title=title, build=build)
    return _out(services.bath_of(actor.shop, bath_id))


# -- what went wrong ----------------------------------------------------------


@router.get("/faults", response={200: list[SeenOut], **PROBLEMS})
def faults(request: HttpRequest) -> list[SeenOut]:
    """Everything that is seen, and what it can come from."""
    known = knowledge()
    return [SeenOut(key=k, says=s.says, look=s.look, causes=[known.causes[c].says for c in s.causes]) for k, s in known.seen.items()]


@router.post("/faults", response={200: FaultOut, **PROBLEMS})
def fault(request: HttpRequest, asked: FaultIn) -> FaultOut:
    """Causes of what is seen, the likeliest first, and the next look that tells most; design and log speak where they are given."""
    plan: Plan | None = None
    state: BuildState | None = None
    worked = predict.work_out(asked.document) if asked.document else None
    if asked.build is not None:
        build = builds.build_of(asker(request).shop, asked.build)
        plan, state = builds.plan_of(build), builds.state_of_build(build)
        if worked is None:
            try:
                worked = builds.made(build, shop_of(request)).worked
            except InputError:
                worked = None
    found = find(asked.seen, figures_of(worked, plan.operations if plan else (), state), asked.answers)
    named = dict.fromkeys(s.change for s in found.suspects if s.change)
    return FaultOut(found=found, changes=[ChangeOut(key=k, says=CHANGES[k].says) for k in named])


@router.post("/faults/change", response={200: ChangedOut, **PROBLEMS})
def change_plan(request: HttpRequest, asked: ChangeIn) -> ChangedOut:
    """The design so changed that the fault does not come again; nothing is kept."""
    return ChangedOut(document=changed_by(predict.work_out(asked.document), asked.change).as_json())
