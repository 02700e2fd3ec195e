"""From what is seen to why: odds of each cause times what every cue says, and the next look that tells most. docs/physics.md#faults.

Posterior = prior x likelihood ratios, normalised. Never told as a percentage to two places: likely, possible, unlikely.
"""

from collections.abc import Mapping
from dataclasses import dataclass
from math import log
from typing import Literal

from varistrat.core.errors import InputError
from varistrat.core.faults.knowledge import Cause, Knowledge, knowledge

Verdict = Literal["likely", "possible", "unlikely"]
LIKELY, UNLIKELY = 0.5, 0.1
SPEAKS = 1.25
"""A likelihood ratio nearer to one than this is no reason."""
SURE = 0.9
"""From here on no look is asked for; but for the sign of a risky cure."""


@dataclass(frozen=True)
class Speaking:
    """cue: its key; speaks: for or against; ratio: likelihood ratio of this cause to the others; says: with its figure."""

    cue: str
    speaks: Literal["for", "against"]
    ratio: float
    says: str


@dataclass(frozen=True)
class Look:
    """The next look: ask, minutes; tells: bits that it is expected to tell; cause: whose sign it is."""

    cause: str
    ask: str
    minutes: float
    tells: float


@dataclass(frozen=True)
class Suspect:
    """odds: share among the causes of what is seen; cure: what to do now: for a risky one first the look that must come before it."""

    cause: str
    says: str
    odds: float
    verdict: Verdict
    reasons: tuple[Speaking, ...]
    cure: str
    avoid: str
    change: str


@dataclass(frozen=True)
class Found:
    """suspects: the likeliest first; look: the next, None when nothing more would tell."""

    seen: str
    says: str
    suspects: tuple[Suspect, ...]
    look: Look | None
    looks: tuple[Look, ...]


def find(seen: str, figures: Mapping[str, float], answers: Mapping[str, bool], known: Knowledge | None = None) -> Found:
    """figures: of the design and the log, by the name cues read them under (cues.py), those that are known; answers: to signs, by cause.

    Raises InputError for what is not among the things seen, or an answer to a question that is not asked.
    """
    known = known or knowledge()
    if seen not in known.seen:
        raise InputError.at("seen", f"{seen[:40]!r} is not among the things that are seen", f"use one of {', '.join(sorted(known.seen))}")
    what = known.seen[seen]
    if (odd := next((a for a in answers if a not in what.causes), None)) is not None:
        raise InputError.at(f"answers.{odd[:40]}", "no look of this name belongs to it", f"answer one of {', '.join(what.causes)}")
    odds = dict(what.causes)
    reasons: dict[str, list[Speaking]] = {c: [] for c in odds}
    for key, cue in known.cues.items():
        value = figures.get(cue.reads)
        if value is None or not any(c in cue.chance for c in odds):
            continue
        degree = cue.degree(value)
        like = {c: _mixed(degree, cue.chance.get(c, cue.other)) for c in odds}
        says = cue.says.format(value=value)
        # a sentence without its figure says only that it is so
        told = says if "{value" in cue.says or degree >= 0.5 else f"Not so: {says[0].lower()}{says[1:]}"
        _count(key, told, like, odds, reasons)
    for of, yes in answers.items():
        like = {c: known.chance(of, c) if yes else 1 - known.chance(of, c) for c in odds}
        ask = known.causes[of].sign.ask
        _count(of, f"{'Yes' if yes else 'No'}: {ask}", like, odds, reasons)
    total = sum(odds.values())
    odds = {c: v / total for c, v in odds.items()}
    ranked = sorted(odds, key=lambda c: -odds[c])
    looks = _looks(odds, answers, known)
    suspects = tuple(_suspect(c, odds[c], tuple(reasons[c]), answers, known.causes[c]) for c in ranked)
    settled = odds[ranked[0]] >= SURE and not (known.causes[ranked[0]].risky and ranked[0] not in answers)
    first = next((look for look in looks if look.cause == ranked[0]), None) if odds[ranked[0]] >= SURE else None
    return Found(seen, what.says, suspects, None if settled or not looks else first or looks[0], tuple(looks))


def _mixed(degree: float, chance: float) -> float:
    return degree * chance + (1 - degree) * (1 - chance)


def _count(key: str, says: str, like: Mapping[str, float], odds: dict[str, float], reasons: dict[str, list[Speaking]]) -> None:
    """Odds times likelihoods; a reason is told where it tells this cause from the others."""
    total = sum(odds.values())
    mean = {c: _others(c, like, odds, total) for c in odds}
    for c in odds:
        ratio = like[c] / mean[c]
        if max(ratio, 1 / ratio) >= SPEAKS:
            reasons[c].append(Speaking(key, "for" if ratio > 1 else "against", ratio, says))
    for c in odds:
        odds[c] *= like[c]


def _others(cause: str, like: Mapping[str, float], odds: Mapping[str, float], total: float) -> float:
    rest = total - odds[cause]
    return sum(like[c] * odds[c] for c in odds if c != cause) / rest if rest > 0 else like[cause]


def _looks(odds: Mapping[str, float], answers: Mapping[str, bool], known: Knowledge) -> list[Look]:
    """Looks not yet answered, the one that tells most in a minute first."""
    found = []
    before = _bits(odds)
    for of in odds:
        if of in answers:
            continue
        sign = known.causes[of].sign
        yes = sum(v * known.chance(of, c) for c, v in odds.items())
        if_yes = {c: v * known.chance(of, c) / yes for c, v in odds.items()}
        if_no = {c: v * (1 - known.chance(of, c)) / (1 - yes) for c, v in odds.items()}
        found.append(Look(of, sign.ask, sign.minutes, before - yes * _bits(if_yes) - (1 - yes) * _bits(if_no)))
    return sorted(found, key=lambda look: -look.tells / look.minutes)


def _bits(odds: Mapping[str, float]) -> float:
    return -sum(v * log(v) for v in odds.values() if v > 0) / log(2)


def _suspect(key: str, odds: float, reasons: tuple[Speaking, ...], answers: Mapping[str, bool], cause: Cause) -> Suspect:
    verdict: Verdict = "likely" if odds >= LIKELY else "unlikely" if odds < UNLIKELY else "possible"
    cure = cause.now
    if cause.risky and not answers.get(key):
        cure = f"First look: {cause.sign.ask} Only when it is so: {cause.now}"
    return Suspect(key, cause.says, odds, verdict, reasons, cure, cause.avoid, cause.change)
