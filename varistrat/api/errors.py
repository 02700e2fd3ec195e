"""Every error as problem JSON (RFC 9457) with a stable code and field paths."""

from typing import Any

from django.core.exceptions import RequestDataTooBig
from django.http import HttpRequest, HttpResponse, JsonResponse
from ninja import NinjaAPI
from ninja.errors import AuthenticationError, AuthorizationError, HttpError, ValidationError

from varistrat.core.errors import Cancelled, InputError, Problem
from varistrat.core.reading import problem_of, read_json
from varistrat.designs.selectors import NotFound
from varistrat.designs.services.keep import StaleWrite


class Refused(Exception):
    """A request turned down for a reason of its own."""

    def __init__(self, status: int, code: str, title: str):
        super().__init__(title)
        self.status, self.code, self.title = status, code, title


def problem(status: int, code: str, title: str, problems: tuple[Problem, ...] = (), **more: Any) -> JsonResponse:
    body = {"type": f"about:{code}", "code": code, "title": title, "status": status}
    body["problems"] = [{"path": p.path, "wrong": p.wrong, "cure": p.cure} for p in problems]
    return JsonResponse(body | more, status=status, content_type="application/problem+json")


def _invalid(problems: tuple[Problem, ...]) -> JsonResponse:
    return problem(422, "invalid", "Something in there cannot be used.", problems)


def csrf_failure(request: HttpRequest, reason: str = "") -> HttpResponse:
    return problem(403, "csrf", "This page is out of date: reload it and try again.")


def locked_out(request: HttpRequest, *args: Any, **kwargs: Any) -> HttpResponse:
    """Too many wrong passwords from one place for one name: see AXES_ settings."""
    return problem(403, "locked_out", "Too many tries. Wait a quarter of an hour, then try again.")


def install(api: NinjaAPI) -> None:
    """Hand every kind of error to the one place that words it."""

    @api.exception_handler(InputError)
    def _input(request: HttpRequest, exc: InputError) -> HttpResponse:
        return _invalid(exc.problems)

    @api.exception_handler(ValidationError)
    def _validation(request: HttpRequest, exc: ValidationError) -> HttpResponse:
        found = []
        for error in exc.errors:
            where, *loc = error["loc"]
            if where == "body":
                loc = loc[1:]  # the name of the parameter
                found.append(problem_of({**error, "loc": tuple(loc)}, read_json(request.body)))
            else:
                found.append(Problem(".".join(map(str, loc)), str(error["msg"]), "change it"))
        return _invalid(tuple(found))

    @api.exception_handler(HttpError)
    def _http(request: HttpRequest, exc: HttpError) -> HttpResponse:
        cause = exc.__cause__
        if isinstance(cause, InputError):
            return _invalid(cause.problems)
        if isinstance(cause, RequestDataTooBig):
            return _too_big()
        return problem(exc.status_code, "refused", str(exc))

    @api.exception_handler(RequestDataTooBig)
    def _big(request: HttpRequest, exc: RequestDataTooBig) -> HttpResponse:
        return _too_big()

    @api.exception_handler(AuthenticationError)
    def _signed_out(request: HttpRequest, exc: AuthenticationError) -> HttpResponse:
        return problem(401, "signed_out", "You are signed out. Sign in and try again; nothing was lost.")

    @api.exception_handler(AuthorizationError)
    def _forbidden(request: HttpRequest, exc: AuthorizationError) -> HttpResponse:
        return problem(403, "forbidden", "That is not allowed.")

    @api.exception_handler(NotFound)
    def _absent(request: HttpRequest, exc: NotFound) -> HttpResponse:
        return problem(404, "absent", f"There is no such {exc} among yours.")

    @api.exception_handler(StaleWrite)
    def _stale(request: HttpRequest, exc: StaleWrite) -> HttpResponse:
        return problem(
            409, "stale", "This design was saved elsewhere in between. Both versions are kept.", current=exc.current, kept=exc.kept
        )

    @api.exception_handler(Cancelled)
    def _cancelled(request: HttpRequest, exc: Cancelled) -> HttpResponse:
        return problem(409, "superseded", "A newer picture was asked for.")

    @api.exception_handler(Refused)
    def _refused(request: HttpRequest, exc: Refused) -> HttpResponse:
        return problem(exc.status, exc.code, exc.title)


def _too_big() -> JsonResponse:
    return problem(413, "too_big", "That is larger than two million bytes; make it smaller.")
