"""The list of steels, the shop's own figures, and what goes together."""

from collections.abc import Iterable
from itertools import combinations
from typing import Any

from django.http import HttpRequest, HttpResponse
from ninja import Router

from varistrat.api.auth import asker, helper, smith
from varistrat.api.schemas import PROBLEMS
from varistrat.api.schemas.steels import (
    CouponsIn,
    CsvIn,
    EstimateIn,
    EstimateOut,
    FigureIn,
    FigureOut,
    FiguresIn,
    InUseIn,
    MatrixIn,
    NewSteelIn,
    PairCellOut,
    PairingIn,
    PairingOut,
    PartOut,
    PurposeIn,
    SteelOut,
    SuggestIn,
    SuggestionOut,
    TakenOut,
)
from varistrat.api.shop import shop_of
from varistrat.core.etch.tones import reflectance
from varistrat.core.interchange.steels_csv import read_steels, write_steels
from varistrat.core.laws.numbers import FIGURES
from varistrat.core.pairing.pairing import Pairing, lightness, suggestions
from varistrat.core.steels import Steel, built_in, named_steel
from varistrat.core.steels.estimate import from_coupons, shop_steel
from varistrat.core.steels.flow import stress
from varistrat.core.steels.model import GROUPS
from varistrat.shop.services import own as services
from varistrat.shop.services.in_use import set_steels_in_use, steels_in_use
from varistrat.shop.services.retiring import forget_steel

router = Router(tags=["steels"], auth=helper)


def _list(request: HttpRequest) -> list[SteelOut]:
    shop = asker(request).shop
    # what was changed a moment ago counts: the request's own steels may have been read before
    found = services.shop_data(shop).steels
    used, gone = set(steels_in_use(shop)), services.retired_steels(shop)
    like = stress(found["1084"])
    return [_out(s, s.key in used and s.key not in gone, like, s.key in gone) for s in found.values()]


def _out(s: Steel, in_use: bool, like: float, retired: bool) -> SteelOut:
    base = built_in().get(s.key)
    figures = [f for names in GROUPS.values() for f in names]
    said = s.model_dump(exclude={"source", "cycle"}) | {
        "shade": s.shade,
        "grey": reflectance(s.shade),
        "stiffness": stress(s) / like,
        "listed": base is not None,
        "in_use": in_use,
        "retired": retired,
        "sources": {f: s.source_of(f).model_dump() for f in figures},
        "usual": {f: getattr(base, f) for f in s.own} if base else {},
    }
    return SteelOut.model_validate(said)


@router.get("/steels", response={200: list[SteelOut], **PROBLEMS})
def steels(request: HttpRequest) -> list[SteelOut]:
    return _list(request)


@router.post("/steels", response={200: list[SteelOut], **PROBLEMS}, auth=smith)
def add_steel(request: HttpRequest, asked: NewSteelIn) -> list[SteelOut]:
    """A steel of the shop's own: what it does not say is worked out from the composition."""
    services.set_steel(actor=asker(request), key=asked.key, figures=asked.figures, new=True)
    return _list(request)


@router.post("/steels/estimate", response={200: EstimateOut, **PROBLEMS})
def estimate(request: HttpRequest, asked: EstimateIn) -> EstimateOut:
    """What a composition would make of a steel."""
    return EstimateOut(figures=_estimate(asked.composition, asked.given), said="")


@router.post("/steels/coupons", response={200: EstimateOut, **PROBLEMS})
def coupons(request: HttpRequest, asked: CouponsIn) -> EstimateOut:
    """What coupon tests say of an unknown steel."""
    composition, said = from_coupons(asked.spark, asked.water_hrc, asked.oil, asked.look, asked.rust)
    return EstimateOut(figures=_estimate(composition), said=said)


def _estimate(composition: dict[str, Any], given: dict[str, Any] | None = None) -> dict[str, Any]:
    steel = shop_steel("estimate", {**(given or {}), "composition": composition})
    return steel.model_dump(include={"composition", *(f for names in GROUPS.values() for f in names), "family"})


@router.get("/steels.csv", response={200: None, **PROBLEMS}, openapi_extra={"responses": {200: {"content": {"text/csv": {}}}}})
def steels_csv(request: HttpRequest) -> HttpResponse:
    response = HttpResponse(write_steels(shop_of(request).steels.values()), content_type="text/csv; charset=utf-8")
    response["Content-Disposition"] = 'attachment; filename="steels.csv"'
    return response


@router.post("/steels/csv", response={200: TakenOut, **PROBLEMS}, auth=smith)
def take_csv(request: HttpRequest, asked: CsvIn) -> TakenOut:
    """Figures that differ from ours are taken as the shop's own; nothing is taken when anything is wrong."""
    return TakenOut(taken=services.take_steels(actor=asker(request), found=read_steels(asked.text)))


@router.put("/steels/{key}", response={200: list[SteelOut], **PROBLEMS}, auth=smith)
def set_steel(request: HttpRequest, key: str, asked: FiguresIn) -> list[SteelOut]:
    services.set_steel(actor=asker(request), key=key, figures=asked.figures)
    return _list(request)


@router.delete("/steels/{key}", response={200: list[SteelOut], **PROBLEMS}, auth=smith)
def remove_steel(request: HttpRequest, key: str) -> list[SteelOut]:
    """A listed steel is again as it ships; one of the shop's own is deleted, or retired while anything that was saved names it."""
    forget_steel(actor=asker(request), key=key)
    return _list(request)


@router.put("/steels-in-use", response={200: list[str], **PROBLEMS}, auth=smith)
def set_in_use(request: HttpRequest, asked: InUseIn) -> list[str]:
    return set_steels_in_use(actor=asker(request), keys=asked.keys, base=asked.base)


@router.post("/steels/{key}/bring-back", response={200: list[SteelOut], **PROBLEMS}, auth=smith)
def bring_back(request: HttpRequest, key: str) -> list[SteelOut]:
    """A retired steel is in the list again."""
    services.bring_back_steel(actor=asker(request), key=key)
    return _list(request)


@router.get("/figures", response={200: list[FigureOut], **PROBLEMS})
def figures(request: HttpRequest) -> list[FigureOut]:
    own = services.own_numbers(asker(request).shop)
    return [
        FigureOut(
            key=f.key,
            group=f.group,
            label=f.label,
            unit=f.unit,
            usual=f.usual,
            low=f.low,
            high=f.high,
            source=f.source,
            hint=f.hint,
            now=own.get(f.key, f.usual),
            own=f.key in own,
        )
        for f in FIGURES.values()
    ]


@router.put("/figures/{key}", response={200: list[FigureOut], **PROBLEMS}, auth=smith)
def set_figure(request: HttpRequest, key: str, asked: FigureIn) -> list[FigureOut]:
    services.set_figure(actor=asker(request), key=key, value=asked.value)
    return figures(request)


def _named(request: HttpRequest, keys: Iterable[str]) -> list[Steel]:
    known = shop_of(request).steels
    return [named_steel(k, known) for k in keys]


def _purpose(request: HttpRequest, asked: PurposeIn) -> dict[str, Any]:
    return {
        "numbers": shop_of(request).numbers,
        "use": asked.use,
        "thickness": asked.thickness,
        "etchant": asked.etchant,
        "temper": asked.temper,
    }


@router.post("/pairings", response={200: PairingOut, **PROBLEMS})
def pairing(request: HttpRequest, asked: PairingIn) -> PairingOut:
    """Everything about two or more steels in one bar."""
    p = Pairing.of(_named(request, asked.steels), asked.shares, **_purpose(request, asked))
    return PairingOut(
        verdict=p.verdict,
        uses=p.uses,
        weld=p.weld_window,
        forge=p.forge_window,
        window=p.window,
        dissolving=p.dissolving,
        heat=p.heat,
        soak=p.soak,
        quench=p.quench,
        stiffness=p.stiffness[0],
        parts=[_part(p, i) for i in range(len(p.steels))],
        reasons=list(p.reasons),
    )


def _part(p: Pairing, i: int) -> PartOut:
    s, q = p.steels[i], p.quenched.get(i)
    return PartOut(
        key=s.key,
        name=s.name,
        share=p.parts[i],
        lightness=lightness(s, p.etchant),
        grey=reflectance(s.tone[p.etchant]),
        carbon=p.carbons[i],
        carbon_own=s.share("C"),
        in_solution=q.carbon if q else None,
        ms=q.ms if q else None,
        retained=q.retained if q else None,
        as_quenched=q.hrc if q else None,
        hrc=p.hrc.get(i),
    )


@router.post("/pairings/matrix", response={200: list[PairCellOut], **PROBLEMS})
def matrix(request: HttpRequest, asked: MatrixIn) -> list[PairCellOut]:
    """Every two of these steels: one plain verdict each."""
    found = _named(request, dict.fromkeys(asked.steels))
    pairs = (Pairing.of(pair, **_purpose(request, asked)) for pair in combinations(found, 2))
    return [PairCellOut(steels=[s.key for s in p.steels], verdict=p.verdict, word=p.decides) for p in pairs]


@router.post("/pairings/suggest", response={200: list[SuggestionOut], **PROBLEMS})
def suggest(request: HttpRequest, asked: SuggestIn) -> list[SuggestionOut]:
    """The best pairs for a purpose, best first."""
    gone = services.retired_steels(asker(request).shop)
    found = _named(request, asked.within) or [s for s in shop_of(request).steels.values() if s.key not in gone]
    return [
        SuggestionOut(
            steels=[s.key for s in p.steels],
            verdict=p.verdict,
            word=p.decides,
            why=[r.what for r in p.reasons],
            apart=p.apart,
            quench=p.quench,
            hrc=list(p.hrc.values()),
        )
        for p in suggestions(found, **_purpose(request, asked))
    ]
