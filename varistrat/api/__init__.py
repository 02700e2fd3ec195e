"""The API: routers fetch through selectors, call one service, return a schema."""

from typing import Any

from django.http import HttpRequest
from ninja import NinjaAPI
from ninja.parser import Parser

from varistrat.api.errors import install
from varistrat.core.reading import read_json


class SafeParser(Parser):
    """JSON bodies go through the core's careful reader: size, depth and broken text are refused there."""

    def parse_body(self, request: HttpRequest) -> Any:
        return read_json(request.body)


api = NinjaAPI(title="Varistrat", version="1", docs_url=None, parser=SafeParser(), urls_namespace="api")
install(api)

from varistrat.api.routers import account, blade, designs, files, heat, kiln, predict, printing, reference, sheets, steels  # noqa: E402

api.add_router("", account.router)
api.add_router("", reference.router)
api.add_router("", steels.router)
api.add_router("/designs", designs.router)
api.add_router("/predict", predict.router)
api.add_router("/print-jobs", printing.router)
api.add_router("/blade", blade.router)
api.add_router("/sheets", sheets.router)
api.add_router("/files", files.router)
api.add_router("/heat", heat.router)
api.add_router("/kiln", kiln.router)
