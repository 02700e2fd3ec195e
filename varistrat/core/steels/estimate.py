"""A whole steel from what little is known of it: its composition off a certificate, or coupons of a reclaimed bar.

What the shop does not say is worked out from the composition and marked so. docs/physics.md#estimated-steels.
"""

from collections.abc import Mapping, Sequence
from typing import Any, Literal

import numpy as np
from pydantic import TypeAdapter, ValidationError

from varistrat.core.errors import InputError, Problem
from varistrat.core.laws import hardness, transform
from varistrat.core.laws.hardenability import slowest_quench
from varistrat.core.laws.ranges import law_of_composition, outside
from varistrat.core.laws.temper import TemperLaw
from varistrat.core.reading import let_go, problem_of
from varistrat.core.steels.hardening import held_by_alloy, tempering_of
from varistrat.core.steels.list import built_in
from varistrat.core.steels.model import GROUPS, TEMPERS, Composition, Source, Steel

COMPUTED = Source(text="worked out from the composition", sure="computed")
PLAIN = ("iron", "1018", "1045", "1075", "1084", "1095", "w1", "c105", "125cr1")
"""Plain steels between whose hot windows others are read off by carbon."""
CHROMIUM_MELTS = 24.0
"""C by which a per cent of chromium lowers the solidus; set by 52100; indicative."""
USUAL_QUENCH = {"slow_oil": 0.3, "medium_oil": 0.45, "fast_oil": 1.9}
"""Needed severity for 4 mm up to which a steel is usually sold for that quench; set by the list's own steels; indicative."""
FIGURES = (*(name for names in GROUPS.values() for name in names), "name", "family", "why_tone", "note")
"""What a shop can put in."""


def estimated(composition: Mapping[str, float]) -> dict[str, Any]:
    """Every figure that follows from a composition. Outside the laws (laws/ranges.py) hot windows and hardening are not among them."""
    get = composition.get
    carbon, cr, ni = get("C", 0.0), get("Cr", 0.0), get("Ni", 0.0)
    law = law_of_composition(composition)
    figures: dict[str, Any] = {
        "family": "copper"
        if get("Cu", 0.0) > 50
        else "nickel"
        if ni > 50
        else "stainless"
        if cr > 10
        else "tool"
        if law is None
        else "nickel-bearing"
        if ni >= 1
        else "chromium and vanadium"
        if cr >= 0.3 or get("V", 0.0) > 0.1
        else "mild and iron"
        if carbon < 0.3
        else "plain carbon",
        "density": round(7870 - 40 * carbon - 8.0 * cr + 10.0 * min(ni, 100.0) + 10.7 * get("Cu", 0.0), 0),
        "hardens": "no",
        "etch_rate": round(max(0.02, 0.8 * float(np.exp(-0.58 * ni - 0.27 * cr)) * (0.75 if carbon < 0.3 else 1.0)), 3),
        "why_tone": "worked out from its composition",
        "tone": _tones(tone_of(composition)),
    }
    if law == "low alloy":
        figures |= _hot(composition)
        if carbon >= 0.3:
            figures |= _hardening(composition)
    elif law == "13 chromium":
        figures |= _stainless(composition)
    return figures


def _hot(composition: Mapping[str, float]) -> dict[str, Any]:
    """Solidus, forging and welding range of a low-alloy steel: along the plain ones by carbon, lowered by chromium."""
    carbon = composition.get("C", 0.0)
    by = [built_in()[k] for k in PLAIN]
    c = [s.share("C") for s in by]

    def along(values: list[float]) -> float:
        return 5 * round((float(np.interp(carbon, c, values)) - CHROMIUM_MELTS * composition.get("Cr", 0.0)) / 5)

    welds = [s.weld or s.forge for s in by]
    return {
        "solidus": along([s.solidus for s in by]),
        "forge": (5 * round(float(np.interp(carbon, c, [s.forge[0] for s in by])) / 5), along([s.forge[1] for s in by])),
        "weld": (along([w[0] for w in welds]), along([w[1] for w in welds])),
    }


STAINLESS = ("410", "420", "x46cr13", "x65cr13")
"""Plain 13 chromium steels between which others are read off by carbon."""


def _stainless(composition: Mapping[str, float]) -> dict[str, Any]:
    """A hardenable chromium steel: along those of the list by carbon; indicative."""
    by = [built_in()[k] for k in STAINLESS]
    c, carbon = [s.share("C") for s in by], composition.get("C", 0.0)

    def along(values: Sequence[float], to: float = 1.0) -> float:
        return float(to * round(float(np.interp(carbon, c, values)) / to))

    def pair(name: str, to: float) -> tuple[float, float]:
        both = [getattr(s, name) for s in by]
        return along([v[0] for v in both], to), along([v[1] for v in both], to)

    return {
        "solidus": along([s.solidus for s in by], 5),
        "forge": pair("forge", 5),
        "weld": pair("weld", 5),
        "hardens": "partly" if carbon < 0.25 else "yes",
        "austenitise": pair("austenitise", 5),
        "soak": (10.0, 15.0),
        "quench": "air",
        "as_quenched": pair("as_quenched", 0.5),
        "temper": tuple(along([s.temper[i] for s in by if s.temper], 0.1) for i in range(len(TEMPERS))),
        "cycle": "stainless",
    }


MUST = ("solidus", "forge", "hardens")
MUST_HARDEN = ("austenitise", "quench", "as_quenched", "temper")
"""Figures that only the maker knows of a steel outside the laws; the second when it hardens."""


def _ask_the_maker(composition: Mapping[str, float], given: Mapping[str, Any]) -> None:
    """Raises InputError for each figure that no law here gives and the shop does not say."""
    if law_of_composition(composition):
        return
    needed = MUST + (MUST_HARDEN if given.get("hardens") not in (None, "no") else ())
    missing = [n for n in needed if given.get(n) is None]
    why = outside(composition)
    if missing:
        raise InputError(
            Problem(n, f"it is not known here: {why[0].lower()}{why[1:]}", f"give the maker's figure for {n}") for n in missing
        )


def _hardening(composition: Mapping[str, float]) -> dict[str, Any]:
    carbon, cr = composition.get("C", 0.0), composition.get("Cr", 0.0)
    low, high = hardening_range(composition)
    soak = (15.0, 25.0) if cr > 1 else (8.0, 12.0) if cr > 0.3 else (5.0, 10.0)
    got = transform.austenite(composition, low + 12, sum(soak) / 2)
    top = hardness.quenched(got.carbon, 0.999, sum(transform.retained_range(composition, got.carbon)) / 2)
    alloy = cr + max(0.0, composition.get("Si", 0.0) - 0.2) + 0.6 * composition.get("V", 0.0)
    h10, slope = tempering_of("low alloy", carbon)
    law = TemperLaw.of_alloy(h10 + held_by_alloy(carbon, alloy), slope, alloy, top)
    _, severity = slowest_quench(composition, got.carbon, 4.0)
    quench = next((q for q, most in USUAL_QUENCH.items() if severity <= most), "water")
    return {
        "hardens": "partly" if carbon < 0.55 else "shallow" if severity > 1.5 else "yes",
        "austenitise": (low, high),
        "soak": soak,
        "quench": quench,
        "as_quenched": (round(top - 1, 1), round(top + 1, 1)),
        "temper": tuple(round(law.hrc(t), 1) for t in TEMPERS),
        "cycle": "low_chromium" if cr >= 0.3 else "high_carbon" if carbon > 0.9 else "plain",
    }


def hardening_range(composition: Mapping[str, float]) -> tuple[float, float]:
    """(from, to) C to harden from, 25 apart: the lowest heat, to the nearest 5, that dissolves 0.65 % carbon, or what there is of it;
    never less than 70 above Ac1, 100 below 0.65 % C."""
    carbon = composition.get("C", 0.0)
    want = min(carbon, 0.65) - 0.01
    start = transform.ac1(composition) + (100 if carbon < 0.65 else 70)
    for t in np.arange(start, 900, 5):
        got = transform.austenite(composition, float(t), 30.0)
        if got.share == 1 and got.carbon >= want * 0.98:
            low = float(5 * round(t / 5))
            return low, low + 25
    return 850.0, 875.0


_TO_TONE = ((22, 0.8), (24, 1.0), (26, 1.5), (29, 2.5), (34, 3.0), (43, 4.5), (59, 5.5), (64, 7.4), (68, 8.7), (77, 9.8), (95, 10.0))
"""Lightness of the model and tone of the list, met at the list's own steels."""


def tone_of(composition: Mapping[str, float]) -> float:
    """Etched tone 0 to 10 after ferric chloride from carbon, nickel, chromium and manganese: docs/physics.md#tone-model; indicative."""
    light, tone = np.array(_TO_TONE).T
    return float(round(np.interp(lightness_of(composition), light, tone), 1))


def lightness_of(composition: Mapping[str, float]) -> float:
    """L* 8 to 95: 22 + 55 (1 - e^(-Ni/1.6)) + 50 (1 - e^(-Cr/5)) + 38 e^(-C/0.3) e^(-(Ni+Cr)/3) - 6 max(0, Mn - 0.75); indicative."""
    get = composition.get
    c, ni, cr = get("C", 0.0), get("Ni", 0.0), get("Cr", 0.0)
    light = 22 + 55 * (1 - np.exp(-ni / 1.6)) + 50 * (1 - np.exp(-cr / 5)) + 38 * np.exp(-c / 0.3) * np.exp(-(ni + cr) / 3)
    return float(np.clip(light - 6 * max(0.0, get("Mn", 0.0) - 0.75), 8, 95))


def _tones(ferric: float) -> dict[str, float]:
    """The other baths, by comparison with steels of the list; indicative."""
    known = list(built_in().values())
    f = np.array([s.tone["ferric"] for s in known])
    order = np.argsort(f)
    out = {"ferric": ferric}
    for bath in ("muriatic", "coffee", "nital"):
        out[bath] = float(round(np.interp(ferric, f[order], np.array([s.tone[bath] for s in known])[order]), 1))
    return out


def shop_steel(key: str, given: Mapping[str, Any]) -> Steel:
    """A steel from what the shop says of it: figures over the built-in one of that key, or over an estimate.

    Raises InputError with the figure's path when something is missing or cannot be.
    """
    for name in given:
        if name not in FIGURES:
            raise InputError.at(name, "there is no such figure of a steel", f"use {', '.join(FIGURES)}")
    if given.get("tone") is not None and not isinstance(given["tone"], dict):
        raise InputError.at("tone", "a tone is wanted for each bath", 'give it like {"ferric": 2.5}')
    base = built_in().get(key)
    if base:
        whole = base.model_dump(exclude={"own"}) | {"source": base.source}
    else:
        if not given.get("composition"):
            raise InputError.at(
                "composition", "a steel of your own wants its composition", 'give weight %, at least carbon, like {"C": 0.8}'
            )
        composition = _checked(given["composition"])
        _ask_the_maker(composition, given)
        whole = {"key": key, "name": key} | estimated(composition)
    tone = {**whole["tone"], **given["tone"]} if isinstance(given.get("tone"), dict) else whole["tone"]
    whole |= {k: v for k, v in given.items() if v is not None} | {"tone": tone}
    own = tuple(n for n in FIGURES if given.get(n) is not None and n not in ("name", "family", "why_tone", "note"))
    try:
        return Steel(**whole | {"own": own})
    except ValidationError as e:
        let_go(e)
        raise InputError(problem_of(d, whole) for d in e.errors()) from e


_COMPOSITION: TypeAdapter[dict[str, float]] = TypeAdapter(Composition)


def _checked(composition: Any) -> dict[str, float]:
    """The composition alone, checked, before anything is worked out from it."""
    try:
        return _COMPOSITION.validate_python(composition)
    except ValidationError as e:
        let_go(e)
        raise InputError([p.under("composition") for d in e.errors() for p in [problem_of(d, composition)]]) from e


Spark = Literal["none", "few", "some", "many", "bushy"]
SPARKS: dict[Spark, tuple[float, float]] = {
    "none": (0.0, 0.08),
    "few": (0.08, 0.3),
    "some": (0.3, 0.55),
    "many": (0.5, 0.85),
    "bushy": (0.8, 1.2),
}
"""Carbon by the bursts in the grinder's sparks, % (least, most); indicative."""
Oil = Literal["not tried", "soft", "hard"]
CouponTone = Literal["dark", "grey", "bright"]


Rust = Literal["not tried", "rusts", "stays bright"]
SPARK_SURE, HRC_SURE = 0.1, 1.0
"""How far the carbon read off sparks may be out, %, and a hardness read off a coupon, HRC."""


def _carbon_for(hrc: float) -> float:
    """Least carbon that gives this hardness, all martensite, %; held at 0.6 where hardness no longer tells."""
    levels = np.linspace(0.02, 0.6, 117)
    return float(np.interp(hrc, [hardness.full(c) for c in levels], levels))


def from_coupons(
    spark: Spark, water_hrc: float | None, oil: Oil, look: CouponTone, rust: Rust = "not tried"
) -> tuple[dict[str, float], str]:
    """(composition, what it was inferred from) of an unknown steel. What is told can do what the coupons did.

    spark: bursts in the sparks; water_hrc: hardness of a thin coupon quenched in water; oil: whether a file skates on
    a 4 mm coupon quenched in fast oil; look: how a hardened coupon etches; rust: what a wet night does to it, which parts
    nickel from much chromium. Indicative: a guess narrowed, not an analysis.
    """
    if water_hrc is not None and not 5 <= water_hrc <= 68:
        raise InputError.at("water_hrc", f"{water_hrc:g} HRC is not a reading of quenched steel", "give 5 to 68, or leave it out")
    low, high = SPARKS[spark]
    said = f"sparks: {spark} bursts, {low:.2f} to {high:.2f} % carbon"
    if rust == "stays bright":
        return _rustless(low, high, water_hrc, said)
    if water_hrc is not None:
        by_hardness, least = _carbon_for(water_hrc), _carbon_for(water_hrc - HRC_SURE)
        said += f"; {water_hrc:g} HRC in water: " + ("0.55 % or more" if by_hardness >= 0.55 else f"about {by_hardness:.2f} %")
        if least > high + SPARK_SURE or (by_hardness < 0.55 and by_hardness < low - SPARK_SURE - 0.05):
            raise InputError.at(
                "water_hrc",
                f"sparks with {spark} bursts and {water_hrc:g} HRC contradict one another",
                "quench a thinner coupon faster and hotter, or look at the sparks beside a known steel",
            )
        # hardness is measured, sparks are judged: carbon is never less than what made it so hard
        low = max(low, least)
        high = max(low, high if by_hardness >= 0.55 else min(high, by_hardness + 0.07))
    carbon = (low + high) / 2
    if oil == "hard" and water_hrc is None:
        carbon = max(carbon, _carbon_for(58.0))
    composition = {"C": round(carbon + 0.004, 2), "Mn": 0.6, "Si": 0.25}
    if oil == "hard":
        composition |= {"Mn": 0.8, "Cr": 0.6} if look != "bright" else {"Mn": 0.6}
        said += "; hard in oil: some alloy"
    elif oil == "soft":
        composition |= {"Mn": 0.35}
        said += "; soft in oil: hardly any alloy"
    if look == "bright":
        composition |= {"Ni": 1.8}
        said += "; etches bright: nickel, " + (
            "for it rusts" if rust == "rusts" else "or else much chromium: leave it wet overnight, chromium steel does not rust"
        )
    elif look == "grey":
        composition |= {"Cr": max(composition.get("Cr", 0.0), 1.0)}
        said += "; etches grey: chromium"
    return composition, said


def _rustless(low: float, high: float, water_hrc: float | None, said: str) -> tuple[dict[str, float], str]:
    """Stainless: hardened from far hotter, so a coupon from a cherry red tells little."""
    if water_hrc is not None and water_hrc > 45:
        low = max(low, 0.3)
    return {
        "C": round(min((low + max(low, high)) / 2, 0.7), 2),
        "Cr": 13.0,
        "Mn": 0.5,
        "Si": 0.5,
    }, said + "; does not rust: about 13 % chromium, hardened from 1000 C and more, in air"
