"""A what-if sheet: one or two numbers of a draft run through a range, a small picture each."""

from typing import Any, ClassVar, Literal

from pydantic import BaseModel, Field

from varistrat.core.design.document import Document, read_document
from varistrat.core.errors import Cancelled
from varistrat.core.executors import workers
from varistrat.core.shop import ShopData
from varistrat.core.sweep import Variation, plan, sheet
from varistrat.jobs.kinds.base import Kind, Plan, Watch
from varistrat.jobs.models import Lane
from varistrat.shop.models import Shop


class SheetOrder(BaseModel):
    kind: Literal["what_if"]
    document: Document
    axes: list[Variation] = Field(min_length=1, max_length=2)


class SheetAbout(BaseModel):
    kind: Literal["what_if"]
    axes: list[Variation]


class WhatIf(Kind[SheetOrder]):
    key = "what_if"
    lane = Lane.SHORT
    order: ClassVar = SheetOrder
    about: ClassVar = SheetAbout
    kept = 8

    def plan(self, order: SheetOrder, shop: Shop) -> Plan:
        wanted = len(plan(order.document, order.axes))
        about = {"kind": self.key, "axes": [a.model_dump() for a in order.axes]}
        return Plan({"document": order.document.as_json(), "axes": about["axes"]}, about, wanted)

    def work(self, given: dict[str, Any], shop: ShopData, watch: Watch) -> None:
        document, axes = read_document(given["document"], shop), [Variation(**a) for a in given["axes"]]
        wanted = len(plan(document, axes))
        with workers() as executor:
            for index, cell in enumerate(sheet(document, axes, executor, watch.stopped)):
                watch.keep(index, cell.picture, values=cell.values, problem=cell.problem)
                watch.progress((index + 1) / wanted)
        if watch.stopped():
            raise Cancelled
