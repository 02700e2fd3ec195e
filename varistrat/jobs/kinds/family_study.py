"""Which of several kept designs suits how one works: the first-grade chance of each over a grid of errors."""

import json
from collections.abc import Iterator
from concurrent.futures import Future
from typing import Any, ClassVar, Literal

from pydantic import BaseModel, Field

from varistrat.core.afar import chances_of
from varistrat.core.errors import Cancelled, InputError
from varistrat.core.executors import workers
from varistrat.core.shop import ShopData
from varistrat.core.study.family import ALL, OTHERS, SCALES, Chance, grid_of, sizes_at
from varistrat.core.study.tolerances import Sizes
from varistrat.designs import selectors
from varistrat.jobs.kinds.base import Kind, Plan, Watch
from varistrat.jobs.models import Lane
from varistrat.shop.models import Shop

PIECE = 9
"""Points of the grid in one piece of work."""
MOST = 24


class FamilyOrder(BaseModel):
    """error: the kind of error that is varied, or "all"; sizes: how one usually works."""

    kind: Literal["family_study"]
    designs: list[int] = Field(min_length=2, max_length=MOST)
    error: str = Field(ALL, max_length=20)
    sizes: Sizes = Sizes()


class FamilyAbout(BaseModel):
    kind: Literal["family_study"]
    designs: list[int]
    error: str


class OfDesign(BaseModel):
    """first, error: chance of first grade and its standard error, a row for each of `others` along `scales`; problem: why none."""

    design: int
    name: str
    first: list[list[float]]
    error: list[list[float]]
    problem: str


class FamilyResult(BaseModel):
    """scales: of the error looked at, as shares of usual; others: of all others."""

    kind: Literal["family_study"]
    scales: list[float]
    others: list[float]
    designs: list[OfDesign]


class FamilyStudy(Kind[FamilyOrder]):
    key = "family_study"
    lane = Lane.SHORT
    order: ClassVar = FamilyOrder
    about: ClassVar = FamilyAbout
    kept = 6

    def plan(self, order: FamilyOrder, shop: Shop) -> Plan:
        if len(set(order.designs)) < len(order.designs):
            raise InputError.at("designs", "a design is named twice", "name each once")
        sizes_at(order.sizes, order.error, 1.0, 1.0)
        found = [selectors.design_of(shop, d) for d in order.designs]
        # as they are saved now, whatever is saved while it waits
        designs = [{"design": d.pk, "name": d.name, "document": selectors.revision_of(d).up_to_date} for d in found]
        about = {"kind": self.key, "designs": order.designs, "error": order.error}
        return Plan({"designs": designs, "error": order.error, "sizes": order.sizes.model_dump()}, about, wanted=0)

    def work(self, given: dict[str, Any], shop: ShopData, watch: Watch) -> dict[str, Any]:
        error, sizes, points = given["error"], Sizes(**given["sizes"]), grid_of(given["error"])
        pieces = [points[i : i + PIECE] for i in range(0, len(points), PIECE)]
        done, designs = 0, []
        with workers() as executor:
            waiting = [
                [executor.submit(chances_of, json.dumps(d["document"]), shop, sizes, error, piece) for piece in pieces]
                for d in given["designs"]
            ]
            for d, futures in zip(given["designs"], waiting, strict=True):
                found, problem = [], ""
                for chance in _each(futures):
                    done += 1
                    watch.progress(done / (len(pieces) * len(waiting)))
                    if watch.stopped():
                        raise Cancelled
                    if isinstance(chance, str):
                        problem = chance
                    else:
                        found += chance
                designs.append(_of_design(d, [] if problem else found, problem))
                watch.tell(_told(error, designs))
        return _told(error, designs)


def _each(futures: list[Future[list[Chance]]]) -> Iterator[list[Chance] | str]:
    for future in futures:
        try:
            yield future.result()
        except InputError as e:
            yield e.problems[0].line()[:300]


def _of_design(d: dict[str, Any], found: list[Chance], problem: str) -> dict[str, Any]:
    n = len(SCALES)
    rows = [found[i : i + n] for i in range(0, len(found), n)]
    said = {"design": d["design"], "name": d["name"], "problem": problem}
    return said | {"first": [[c.first for c in r] for r in rows], "error": [[c.error for c in r] for r in rows]}


def _told(error: str, designs: list[dict[str, Any]]) -> dict[str, Any]:
    others = [1.0] if error == ALL else list(OTHERS)
    return {"kind": "family_study", "scales": list(SCALES), "others": others, "designs": designs}
