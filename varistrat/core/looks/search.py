"""The search: from what is wanted of a look to designs that come near, each with what it costs. Derived in docs/physics.md#looks.

First a Sobol walk through all families, then differential evolution from the best of each of the best few, then step by step from the best
of all; whatever was measured on the way may be an answer. All that is heavy is a map of plain data over an executor.
"""

import json
from collections import deque
from collections.abc import Callable, Iterator, Mapping, Sequence
from concurrent.futures import Executor, Future
from dataclasses import dataclass, replace
from itertools import combinations, product
from typing import Annotated, Any

import numpy as np
from cachetools import LRUCache
from pydantic import Field

from varistrat.core.bars.points import Array
from varistrat.core.blade.model import Blade
from varistrat.core.design.findings import findings_of
from varistrat.core.design.summary import summary_of
from varistrat.core.errors import Cancelled, InputError
from varistrat.core.executors import cores
from varistrat.core.families import BRIGHT, DARK, Json
from varistrat.core.looks.features import FEATURES, KEYS, features_of_cut
from varistrat.core.looks.space import FAMILIES, TOOLS, Candidate, drawn_from
from varistrat.core.looks.taste import Taste, Want, away, off_by, on_scales, spread_of, taste_of
from varistrat.core.model import Model
from varistrat.core.route.money import time_and_money
from varistrat.core.shop import AS_SHIPS, ShopData
from varistrat.core.stock.told import risk_told

CHUNK, BATCH, AHEAD = 6, 48, 3
"""Faces in a piece of work, between two looks at how far it is, and how many such batches are under way."""
FIRST_AT = 48
"""Faces after which the first answers are told."""
FAMILIES_REFINED, GENERATIONS, STILL = 5, 8, 0.004
"""How many families are gone into, for how long; a generation that brings less than this ends it."""
CLIMBED, AWAY, CLIMBS, STRIDES, ASKEW = 6, 0.12, 12, (-4, -2, -1, 1, 2, 4), (-1, 1)
"""How many of the best are gone on from step by step, how far apart (of a number's whole range), how often at most, and how many steps of
one number, or of each of two, at once."""
ANSWERS, POOL, MOST_DETAILED = 12, 240, 48
APART, OTHER_FAMILY = 2.0, 0.5
"""What it is worth to an answer to be unlike those before it, and to be made another way."""
KEPT = 40_000
Steel = Annotated[str, Field(max_length=40)]


class Pair(Model):
    """Steels of a bar: the one that etches dark, and the one that stays bright."""

    dark: Steel
    bright: Steel


class Ask(Model):
    """What is wanted; liked, disliked: faces that were shown; lacks: tools that are not there; pairings: steels, none: the usual; heats,
    hours (hands on), loss (share), finest (mm): no answer beyond; faces: how many are tried on the first walk."""

    wants: Annotated[list[Want], Field(max_length=len(FEATURES))] = []
    liked: Annotated[list[Candidate], Field(max_length=24)] = []
    disliked: Annotated[list[Candidate], Field(max_length=24)] = []
    lacks: Annotated[list[Annotated[str, Field(max_length=20)]], Field(max_length=len(TOOLS))] = []
    pairings: Annotated[list[Pair], Field(max_length=60)] = []
    heats: Annotated[int, Field(ge=1, le=500)] | None = None
    hours: Annotated[float, Field(gt=0, le=1000)] | None = None
    loss: Annotated[float, Field(ge=0.02, le=0.99)] | None = None
    finest: Annotated[float, Field(gt=0, le=5)] | None = None
    blade: Blade | None = None
    faces: Annotated[int, Field(ge=64, le=8192)] = 4096
    seed: Annotated[int, Field(ge=0, le=999_999)] = 1


def checked(ask: Ask, shop: ShopData) -> None:
    """Raises InputError for a feature, tool, steel or family there is not, and when nothing is wanted."""
    for i, w in enumerate(ask.wants):
        if w.feature not in FEATURES:
            raise InputError.at(f"wants[{i}].feature", f"{w.feature!r} is not measured", f"use one of {', '.join(FEATURES)}")
    twice = [w.feature for w in ask.wants]
    for i, key in enumerate(twice):
        if key in twice[:i]:
            raise InputError.at(f"wants[{i}].feature", f"{FEATURES[key].title.lower()} is said twice", "say it once")
    for i, tool in enumerate(ask.lacks):
        if tool not in TOOLS:
            raise InputError.at(f"lacks[{i}]", f"{tool!r} is not asked for by anything", f"use one of {', '.join(TOOLS)}")
    for i, pair in enumerate(ask.pairings):
        for key in (pair.dark, pair.bright):
            if key not in shop.steels:
                raise InputError.at(f"pairings[{i}]", f"there is no steel {key!r} here", "choose one of the shop's")
    for name in ("liked", "disliked"):
        for i, c in enumerate(getattr(ask, name)):
            try:
                c.key  # noqa: B018  asks for its family and its numbers
            except InputError as e:
                raise InputError([p.under(f"{name}[{i}]") for p in e.problems]) from None
    if not ask.wants and not ask.liked:
        raise InputError.at("wants", "nothing is wanted yet", "say what matters of the look, or like a face")
    if not families_for(ask):
        raise InputError.at("lacks", "nothing can be forged without all of these", "allow one of the tools")


def families_for(ask: Ask) -> list[str]:
    """Those that the tools at hand allow."""
    return [k for k, f in FAMILIES.items() if not set(f.needs) & set(ask.lacks)]


_kept: LRUCache[tuple[str, str, str], tuple[float, ...] | None] = LRUCache(KEPT)
"""What was measured, by shop, blade and content; None: it cannot be forged. Some 10 MB when full."""


def measured(candidates: Sequence[Json], blade: str, shop: ShopData) -> list[tuple[float, ...] | None]:
    """Features of these candidates (JSON), in the order of KEYS; None for one that cannot be forged. blade: JSON; empty: the usual one."""
    cut = json.loads(blade) if blade else None
    out: list[tuple[float, ...] | None] = []
    for one in candidates:
        try:
            out.append(tuple(features_of_cut(Candidate.model_validate(one).worked(shop, cut).blade).values()))
        except InputError:
            out.append(None)
    return out


@dataclass(frozen=True)
class Details:
    """What an answer takes: heats, hands-on minutes, money of the shop's hour and steel, share lost, chance to come up short, finest
    layer (mm), grams of steel to begin with; warns: what is found of it that costs; stops: what makes it fail."""

    heats: int
    minutes: float
    money: float
    loss: float
    short: float
    finest: float | None
    mass: float
    warns: tuple[str, ...]
    stops: tuple[str, ...]


def details(candidate: Json, blade: str, shop: ShopData) -> Details:
    """Of one. Raises InputError for what cannot be forged."""
    worked = Candidate.model_validate(candidate).worked(shop, json.loads(blade) if blade else None)
    found, sums, spent = findings_of(worked), summary_of(worked), time_and_money(worked)
    assert sums  # it was carried out
    return Details(
        sum(f.heats for f in worked.fire.fired),
        spent.attended,
        spent.money,
        sums.loss_share,
        risk_told(worked).now,
        worked.thinnest,
        sums.start_mass,
        tuple(f.what for f in found if f.grade == "care"),
        tuple(f.what for f in found if f.grade == "stop"),
    )


@dataclass(frozen=True)
class Answer:
    """A design that comes near: what makes it so in words, its features, how far off they are of what is wanted (mean over the scales,
    share), details: None while they are still being worked out."""

    candidate: Candidate
    family: str
    says: str
    features: Mapping[str, float]
    off: float
    details: Details | None = None


@dataclass(frozen=True)
class Step:
    """How far the search is (0 to 1), what it does, how many faces it has tried, and the best so far."""

    share: float
    doing: str
    tried: int
    answers: tuple[Answer, ...]
    refused: int = 0
    """Answers that would have come near, and are beyond a limit."""


@dataclass
class _Asked:
    """new: how many faces; kept: by key, what was measured before; waiting: keys, and what they will be found to be."""

    new: int
    kept: dict[str, tuple[float, ...] | None]
    waiting: list[tuple[list[str], "Future[list[tuple[float, ...] | None]]"]]


class Search:
    """One search. Every face is tried once, however often it is asked for."""

    def __init__(self, ask: Ask, shop: ShopData = AS_SHIPS) -> None:
        checked(ask, shop)
        self.ask, self.shop = ask, shop
        self.families = families_for(ask)
        # those of the catalogue, where nothing is said of the rack
        self.pairings = [(p.dark, p.bright) for p in ask.pairings] or [(DARK, BRIGHT)]
        self.blade = ask.blade.model_dump_json(by_alias=True, exclude_defaults=True) if ask.blade else ""
        self.places: dict[str, Array] = {}
        self.candidates: dict[str, Candidate] = {}
        self.features: dict[str, tuple[float, ...]] = {}
        self.walked: list[str] = []
        self.tried = 0
        self._taste: Taste | None = None

    def run(self, executor: Executor, cancelled: Callable[[], bool] = lambda: False) -> Iterator[Step]:
        """How far it is and the best so far, again and again; the last has all details. Raises Cancelled."""
        # processes that only now begin load what they need while the walk is laid out here
        for _ in range(cores()):
            executor.submit(measured, [], self.blade, self.shop)
        self._try([*self.ask.liked, *self.ask.disliked], executor)
        told, walk = FIRST_AT, self._walk()
        total = len(walk)
        asked: deque[_Asked] = deque()
        for n in range(0, total, BATCH):
            if cancelled():
                raise Cancelled
            # some batches ahead: nobody waits for the last face of one before the next is begun
            for ahead in range(n + len(asked) * BATCH, min(n + AHEAD * BATCH, total), BATCH):
                asked.append(self._asked(walk[ahead : ahead + BATCH], executor))
            self._heard(asked.popleft())
            self.walked += [c.key for c in walk[n : n + BATCH] if c.key in self.places]
            done = min(n + BATCH, total)
            first = done >= told
            if first:
                told *= 2
            yield Step(
                0.7 * done / total, f"walking through {len(self.families)} ways of forging", self.tried, self.best() if first else ()
            )
        yield from self._refined(executor, cancelled)
        yield from self._climbed(executor, cancelled)
        yield from self._told(executor, cancelled)

    def walk(self, executor: Executor) -> None:
        """The whole walk and nothing else: what can be forged, in `places`."""
        self._try(self._walk(), executor)

    @property
    def taste(self) -> Taste:
        """What is wanted; by the whole population as soon as it was seen."""
        if self._taste is None:
            liked, disliked = ([self.places[c.key] for c in some if c.key in self.places] for some in (self.ask.liked, self.ask.disliked))
            self._taste = taste_of(self.ask.wants, liked, disliked, spread_of(self.population))
        return self._taste

    @property
    def population(self) -> Array:
        """Places of what was walked over, (n, features)."""
        return np.array([self.places[k] for k in self.walked]).reshape(-1, len(KEYS))

    def _walk(self) -> list[Candidate]:
        """The Sobol walk: each family by how many numbers it has, all of them side by side, so that the first answers are of every kind."""
        # scipy.stats is seconds of start-up that only a search should pay for
        from scipy.stats import qmc

        weight = {k: len(FAMILIES[k].numbers) + (len(self.pairings) > 1) for k in self.families}
        each = {k: max(8, round(self.ask.faces * w / sum(weight.values()))) for k, w in weight.items()}
        runs: list[tuple[float, int, Candidate]] = []
        for f, k in enumerate(self.families):
            n, dimensions = each[k], len(FAMILIES[k].numbers) + 1
            power = int(np.ceil(np.log2(n)))
            draws = qmc.Sobol(dimensions, scramble=True, rng=self.ask.seed + f).random_base2(power)[:n]
            runs += [((i + 0.5) / n, f, drawn_from(k, u, self.pairings)) for i, u in enumerate(draws)]
        runs.sort(key=lambda r: (r[0], r[1]))
        seen: dict[str, Candidate] = {}
        for _, _, c in runs:
            seen.setdefault(c.key, c)
        return list(seen.values())

    def _try(self, candidates: Sequence[Candidate], executor: Executor) -> None:
        """Measure those that were not yet."""
        self._heard(self._asked(candidates, executor))

    def _asked(self, candidates: Sequence[Candidate], executor: Executor) -> "_Asked":
        """Have those measured that were not yet."""
        new = {c.key: c for c in candidates if c.key not in self.candidates}
        self.candidates |= new
        kept = {k: _kept[self._mark(k)] for k in new if self._mark(k) in _kept}
        ask = [(k, c) for k, c in new.items() if k not in kept]
        chunks = [ask[i : i + CHUNK] for i in range(0, len(ask), CHUNK)]
        waiting = [executor.submit(measured, [c.model_dump(mode="json") for _, c in chunk], self.blade, self.shop) for chunk in chunks]
        return _Asked(len(new), kept, [([k for k, _ in chunk], future) for chunk, future in zip(chunks, waiting, strict=True)])

    def _heard(self, asked: "_Asked") -> None:
        """What came of it, as soon as it is there."""
        for keys, future in asked.waiting:
            for k, found in zip(keys, future.result(), strict=True):
                _kept[self._mark(k)] = asked.kept[k] = found
        self.tried += asked.new
        for k, found in asked.kept.items():
            if found is not None:
                self.features[k], self.places[k] = found, on_scales(found)

    def _mark(self, key: str) -> tuple[str, str, str]:
        return self.shop.mark, self.blade, key

    def ranked(self) -> list[tuple[float, str]]:
        """(how far, key) of all that can be forged, nearest first."""
        keys = [k for k in self.places if self.candidates[k].family in self.families]
        if not keys:
            return []
        scores = away(self.taste, np.array([self.places[k] for k in keys]), self.population)
        return sorted(zip(map(float, scores), keys, strict=True))

    def best(self) -> tuple[Answer, ...]:
        """A spread of answers, without their details."""
        return tuple(self._answer(k) for k in self._spread(self.ranked()[:POOL], ANSWERS))

    def _answer(self, key: str) -> Answer:
        c = self.candidates[key]
        features = {k: round(v, 2) for k, v in zip(KEYS, self.features[key], strict=True)}
        return Answer(c, c.of_family.title, c.says(), features, off_by(self.taste, self.places[key]))

    def _spread(self, pool: Sequence[tuple[float, str]], count: int) -> list[str]:
        """The nearest, then again and again the one that is near and least like those before: farthest point, paid for in distance. In
        this order they are shown, so that the first few are already of several kinds."""
        if not pool:
            return []
        places = np.nan_to_num(np.array([self.places[k] for _, k in pool])) / spread_of(self.population)
        family = np.array([self.candidates[k].family for _, k in pool])
        cost = np.sqrt(np.array([s for s, _ in pool]))
        chosen, apart = [0], np.full(len(pool), np.inf)
        while len(chosen) < min(count, len(pool)):
            last = chosen[-1]
            step = np.sqrt(((places - places[last]) ** 2).mean(axis=1)) + OTHER_FAMILY * (family != family[last])
            apart = np.minimum(apart, step)
            worth = APART * np.minimum(apart, 1.0) - cost
            worth[chosen] = -np.inf
            chosen.append(int(np.argmax(worth)))
        return [pool[i][1] for i in chosen]

    def _refined(self, executor: Executor, cancelled: Callable[[], bool]) -> Iterator[Step]:
        """Differential evolution from the best of each of the best families."""
        from scipy.optimize import differential_evolution

        self._taste = None  # by the whole walk now
        first: dict[str, float] = {}
        for score, k in self.ranked():
            first.setdefault(self.candidates[k].family, score)
        chosen = list(first)[:FAMILIES_REFINED]
        for n, family in enumerate(chosen):
            size = max(10, 4 * (len(FAMILIES[family].numbers) + 1))
            run = [k for _, k in self.ranked() if self.candidates[k].family == family]
            population = np.array([self._unit(self.candidates[k]) for k in run[:size]])
            if len(population) < 5:
                continue
            before = first[family]
            for g in range(GENERATIONS):
                if cancelled():
                    raise Cancelled
                result = differential_evolution(
                    lambda units, f=family: self._away(f, units, executor),
                    [(0.0, 1.0)] * population.shape[1],
                    init=population, maxiter=1, tol=0, polish=False, vectorized=True, updating="deferred", rng=self.ask.seed + g,
                    mutation=(0.4, 0.9),
                )  # fmt: skip
                population = result.population
                share = 0.7 + 0.17 * (n + (g + 1) / GENERATIONS) / len(chosen)
                yield Step(share, f"going into: {FAMILIES[family].title.lower()}", self.tried, ())
                if before - float(result.fun) < STILL * max(before, 1.0) and g >= 2:
                    break
                before = float(result.fun)

    def _climbed(self, executor: Executor, cancelled: Callable[[], bool]) -> Iterator[Step]:
        """From the best few, some steps of one number to either side, or of two at once, as long as that comes nearer."""
        for n, (family, here) in enumerate(self._starts()):
            best = float(self._away(family, here[:, None], executor)[0])
            for _ in range(CLIMBS):
                for around in (self._beside(family, here), self._askew(family, here)):
                    if cancelled():
                        raise Cancelled
                    if not len(around):
                        # one pairing and one number: there are no two to go askew with
                        continue
                    off = self._away(family, around.T, executor)
                    at = int(np.argmin(off))
                    yield Step(0.87 + 0.03 * (n + 1) / CLIMBED, "step by step from the best", self.tried, ())
                    if off[at] < best:
                        break
                else:
                    break
                best, here = float(off[at]), around[at]

    def _starts(self) -> list[tuple[str, Array]]:
        """The best few that are another way of forging, or well away from those before: the nearest ones would all end at one top."""
        found: list[tuple[str, Array]] = []
        for _, key in self.ranked()[:POOL]:
            family, unit = self.candidates[key].family, np.array(self._unit(self.candidates[key]))
            if all(f != family or np.abs(u - unit).max() > AWAY for f, u in found):
                found.append((family, unit))
            if len(found) == CLIMBED:
                break
        return found

    def _rooms(self, family: str) -> Array:
        """How many values the pairing and each number can have."""
        return np.array([len(self.pairings), *(n.steps + 1 for n in FAMILIES[family].numbers)])

    def _beside(self, family: str, here: Array) -> Array:
        """Units some steps of one number away, (tries, numbers)."""
        return _inside(here + np.concatenate([stride * np.diag(1 / self._rooms(family)) for stride in STRIDES]))

    def _askew(self, family: str, here: Array) -> Array:
        """Units a step of two numbers away: what one does to a face another often undoes."""
        step = np.diag(1 / self._rooms(family))
        both = [a * step[i] + b * step[j] for i, j in combinations(range(len(step)), 2) for a, b in product(ASKEW, repeat=2)]
        return _inside(here + np.array(both))

    def _unit(self, c: Candidate) -> list[float]:
        pair = self.pairings.index((c.dark, c.bright)) if (c.dark, c.bright) in self.pairings else 0
        numbers = c.of_family.numbers
        values = c.of_family.all(c.values)
        steps = [((round((values[n.key] - n.low) / n.step) + 0.5) / (n.steps + 1)) for n in numbers]
        return [(pair + 0.5) / len(self.pairings), *steps]

    def _away(self, family: str, units: Array, executor: Executor) -> Array:
        """Of units (numbers, tries): how far each is off; far beyond all for what cannot be forged."""
        tries = [drawn_from(family, u, self.pairings) for u in np.clip(units.T, 0, 1 - 1e-9)]
        self._try(tries, executor)
        out = np.full(len(tries), 1e6)
        some = [i for i, c in enumerate(tries) if c.key in self.places]
        if some:
            out[some] = away(self.taste, np.array([self.places[tries[i].key] for i in some]), self.population)
        return out

    def _told(self, executor: Executor, cancelled: Callable[[], bool]) -> Iterator[Step]:
        """The last answers, with what each takes; those beyond a limit give way to the next."""
        ranked, known, refused = self.ranked()[: 4 * POOL], dict[str, Details | None](), set[str]()
        while True:
            if cancelled():
                raise Cancelled
            chosen = self._spread([r for r in ranked if r[1] not in refused][:POOL], ANSWERS)
            new = [k for k in chosen if k not in known]
            if not new or len(known) >= MOST_DETAILED:
                break
            for k, found in zip(
                new,
                [executor.submit(_details, self.candidates[k].model_dump(mode="json"), self.blade, self.shop) for k in new],
                strict=True,
            ):
                known[k] = found.result()
                yield Step(0.9 + 0.1 * min(1.0, len(known) / (2 * ANSWERS)), "working out what each takes", self.tried, ())
            refused |= {k for k, d in known.items() if d is None or beyond(self.ask, d)}
        answers = tuple(replace(self._answer(k), details=known[k]) for k in chosen if k in known and k not in refused)
        yield Step(1.0, "done", self.tried, answers, len(refused))


def _inside(units: Array) -> Array:
    return units[((units > 0) & (units < 1)).all(axis=1)]


def _details(candidate: Json, blade: str, shop: ShopData) -> Details | None:
    try:
        return details(candidate, blade, shop)
    except InputError:
        return None


def beyond(ask: Ask, d: Details) -> bool:
    """Whether it cannot be, or is more than was allowed."""
    limits: list[tuple[Any, float]] = [(ask.heats, d.heats), (ask.hours, d.minutes / 60), (ask.loss, d.loss)]
    too_fine = ask.finest is not None and d.finest is not None and d.finest < ask.finest
    return bool(d.stops) or too_fine or any(most is not None and is_ > most for most, is_ in limits)
