"""The API: routers fetch through selectors, call one service, return a schema."""

from typing import Any

from django.http import HttpRequest
from ninja import NinjaAPI
from ninja.errors import ValidationError, ValidationErrorContext
from ninja.parser import Parser

from varistrat.api.errors import install
from varistrat.core.reading import let_go, read_json


class SafeParser(Parser):
    """JSON bodies go through the core's careful reader: size, depth and broken text are refused there."""

    def parse_body(self, request: HttpRequest) -> Any:
        return read_json(request.body)


class Described(NinjaAPI):
    """Its description says of errors what they are sent as; what it refused, it lets go of."""

    def validation_error_from_error_contexts(self, error_contexts: list[ValidationErrorContext[Any]]) -> ValidationError:
        """As it is; the library's own errors are let go of."""
        made = super().validation_error_from_error_contexts(error_contexts)
        for context in error_contexts:
            let_go(context.pydantic_validation_error)
        return made

    def get_openapi_schema(self, *args: Any, **kwargs: Any) -> Any:
        schema = super().get_openapi_schema(*args, **kwargs)
        for methods in schema["paths"].values():
            for about in methods.values():
                for code, answer in about["responses"].items():
                    if int(code) >= 400 and "application/json" in answer.get("content", {}):
                        answer["content"] = {"application/problem+json": answer["content"]["application/json"]}
        return schema


api = Described(title="Varistrat", version="1", docs_url=None, openapi_url="", parser=SafeParser(), urls_namespace="api")
install(api)

from varistrat.api.routers import (  # noqa: E402
    account,
    blade,
    builds,
    designs,
    files,
    finish,
    heat,
    jobs,
    kiln,
    looks,
    paper,
    photos,
    practice,
    predict,
    rack,
    reference,
    shop,
    steels,
    stock,
)

api.add_router("", account.router)
api.add_router("", shop.router)
api.add_router("", reference.router)
api.add_router("", steels.router)
api.add_router("/designs", designs.router)
api.add_router("/predict", predict.router)
api.add_router("/blade", blade.router)
api.add_router("/jobs", jobs.router)
api.add_router("/files", files.router)
api.add_router("/heat", heat.router)
api.add_router("/kiln", kiln.router)
api.add_router("/stock", stock.router)
api.add_router("/rack", rack.router)
api.add_router("/finish", finish.router)
api.add_router("/builds", builds.router)
api.add_router("/builds", photos.router)
api.add_router("/paper", paper.router)
api.add_router("/practice", practice.router)
api.add_router("/looks", looks.router)
