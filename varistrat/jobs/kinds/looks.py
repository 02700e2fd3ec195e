"""A search from a wanted look to recipes."""

import json
from dataclasses import asdict
from typing import Any, ClassVar, Literal

from pydantic import BaseModel

from varistrat.core.executors import cores, workers
from varistrat.core.looks.search import Answer, Ask, Search, Step, checked
from varistrat.core.shop import ShopData
from varistrat.jobs.kinds.base import Kind, Plan, Watch
from varistrat.jobs.models import Lane
from varistrat.shop.models import Shop
from varistrat.shop.services.own import shop_data

MANY_SMALL = "processes" if cores() > 1 else "threads"
"""Some thousand faces of 20,000 points: two threads are no quicker than one, two processes half as quick again. docs/scale.md."""


class LooksOrder(BaseModel):
    kind: Literal["looks"]
    ask: Ask


class LooksAbout(BaseModel):
    kind: Literal["looks"]
    ask: Ask


class LooksResult(BaseModel):
    """doing: in words; tried: faces so far; refused: answers beyond a limit; answers: the best so far, nearest first."""

    kind: Literal["looks"]
    doing: str
    tried: int
    refused: int
    answers: list[Answer]


class Looks(Kind[LooksOrder]):
    key = "looks"
    lane = Lane.LONG
    order: ClassVar = LooksOrder
    about: ClassVar = LooksAbout
    at_once = 2
    kept = 12

    def plan(self, order: LooksOrder, shop: Shop) -> Plan:
        checked(order.ask, shop_data(shop))
        said = order.ask.model_dump(mode="json", by_alias=True)
        return Plan({"ask": said}, {"kind": self.key, "ask": said}, wanted=0)

    def work(self, given: dict[str, Any], shop: ShopData, watch: Watch) -> dict[str, Any]:
        search = Search(Ask.model_validate_json(json.dumps(given["ask"])), shop)
        last: dict[str, Any] = {}
        with workers(MANY_SMALL) as executor:
            for step in search.run(executor, watch.stopped):
                if step.answers:
                    last = told(step)
                    watch.tell(last)
                elif last:
                    watch.tell(last | {"doing": step.doing, "tried": step.tried})
                watch.progress(step.share)
        return last


def told(step: Step) -> dict[str, Any]:
    """A step of the search as a result."""
    answers = [asdict(a) | {"candidate": a.candidate.model_dump(mode="json")} for a in step.answers]
    return {"kind": "looks", "doing": step.doing, "tried": step.tried, "refused": step.refused, "answers": answers}
