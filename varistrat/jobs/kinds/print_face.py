"""A face of a kept design at print size."""

import json
from typing import Any, ClassVar, Literal

from pydantic import BaseModel, Field

from varistrat.core.afar import face
from varistrat.core.design.document import read_document
from varistrat.core.design.worked import Worked
from varistrat.core.executors import workers
from varistrat.core.limits import MAX_PICTURE_PX
from varistrat.core.pattern.png import png
from varistrat.core.pattern.views import BladeView
from varistrat.core.shop import ShopData
from varistrat.designs import selectors
from varistrat.jobs.kinds.base import Kind, Plan, Watch
from varistrat.jobs.models import Lane
from varistrat.shop.models import Shop

MARGIN = 4.0
"""mm around the blade."""


class PrintOrder(BaseModel):
    kind: Literal["print_face"]
    design: int = Field(ge=1, lt=2**63)
    side: Literal["right", "left"]
    width_px: int = Field(ge=200, le=MAX_PICTURE_PX)


class PrintAbout(BaseModel):
    kind: Literal["print_face"]
    side: Literal["right", "left"]
    width_px: int


class PrintFace(Kind[PrintOrder]):
    key = "print_face"
    lane = Lane.LONG
    order: ClassVar = PrintOrder
    about: ClassVar = PrintAbout

    def plan(self, order: PrintOrder, shop: Shop) -> Plan:
        design = selectors.design_of(shop, order.design)
        about = {"kind": self.key, "side": order.side, "width_px": order.width_px}
        # as it is saved now, whatever is saved while it waits
        document = selectors.revision_of(design).up_to_date
        return Plan({**about, "document": document, "name": design.name}, about, design=design)

    def work(self, given: dict[str, Any], shop: ShopData, watch: Watch) -> None:
        side, px = given["side"], given["width_px"]
        document = json.dumps(given["document"], sort_keys=True)
        with workers() as executor:
            grey = face(document, shop, side, px, MARGIN, executor, watch.stopped, watch.progress)
        size = BladeView(Worked.of(read_document(given["document"], shop)).blade.placed, side, margin=MARGIN).size
        watch.keep(0, png(grey, px / size[0], f"{given['name']}, {side} face"), name=f"face-{side}.png")
