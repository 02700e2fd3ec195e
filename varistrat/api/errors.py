"""Every error as problem JSON (RFC 9457) with a stable code and field paths."""

import errno
import logging
from collections.abc import Callable
from math import ceil
from typing import Any

from django.core.exceptions import RequestDataTooBig
from django.db import DatabaseError
from django.http import Http404, HttpRequest, HttpResponse, JsonResponse
from ninja import NinjaAPI
from ninja.errors import AuthenticationError, AuthorizationError, HttpError, ValidationError

from varistrat.accounts.services.sign_in import Wait
from varistrat.api.gate import Busy
from varistrat.builds.services.begin import Begun
from varistrat.core.errors import Cancelled, InputError, Problem
from varistrat.core.reading import problem_of, read_json
from varistrat.designs.selectors import NotFound
from varistrat.designs.services.keep import StaleWrite
from varistrat.rack.services import NotEnough, PutBackAlready
from varistrat.shop.services.marks import Overtaken
from varistrat.shop.services.people import NotThere

log = logging.getLogger(__name__)


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


STALE_PAGE = "This page is out of date: reload it and try again. Nothing was changed."


def csrf_failure(request: HttpRequest, reason: str = "") -> HttpResponse:
    return problem(403, "csrf", STALE_PAGE)


SAID = {
    404: ("absent", "There is nothing at this address of the API; docs/openapi.json lists what there is."),
    405: ("method", "This address of the API is not asked that way; docs/openapi.json lists how each is."),
}
"""What the frameworks say in HTML, in our words."""


MOST_PROBLEMS = 50
"""Told of one body; more help nobody."""


def install(api: NinjaAPI) -> None:
    """Hand every kind of error to the one place that words it."""

    @api.exception_handler(InputError)
    def _input(request: HttpRequest, exc: InputError) -> HttpResponse:
        return _invalid(exc.problems)

    @api.exception_handler(ValidationError)
    def _validation(request: HttpRequest, exc: ValidationError) -> HttpResponse:
        found = []
        # read once, not once for every error
        body = None
        if any(e["loc"][:1] == ("body",) for e in exc.errors[:MOST_PROBLEMS]):
            if not request.body:
                return _invalid((Problem("", "there is nothing in the body", "send JSON"),))
            try:
                body = read_json(request.body)
            except InputError as e:
                return _invalid(e.problems)
        for error in exc.errors[:MOST_PROBLEMS]:
            where, *loc = error["loc"]
            if where == "body":
                loc = loc[1:]  # the name of the parameter
                found.append(problem_of({**error, "loc": tuple(loc)}, body))
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

    @api.exception_handler(NotThere)
    def _not_there(request: HttpRequest, exc: NotThere) -> HttpResponse:
        said = (
            "This link works no more: it was used, taken back or is too old. Ask for a new one."
            if str(exc) == "invite"
            else f"There is no such {exc} here."
        )
        return problem(404, "absent", said)

    @api.exception_handler(StaleWrite)
    def _stale(request: HttpRequest, exc: StaleWrite) -> HttpResponse:
        return problem(
            409, "stale", "This design was saved elsewhere in between. Both versions are kept.", current=exc.current, kept=exc.kept
        )

    @api.exception_handler(Overtaken)
    def _overtaken(request: HttpRequest, exc: Overtaken) -> HttpResponse:
        return problem(
            409,
            "overtaken",
            "Somebody changed this in the meantime; nothing was written. Look at it again before you change it.",
            mark=exc.mark,
        )

    @api.exception_handler(NotEnough)
    def _not_enough(request: HttpRequest, exc: NotEnough) -> HttpResponse:
        said = f"{exc.there:g} g" if exc.item.form == "powder" else f"{exc.there:g}"
        return problem(
            409, "not_enough", f"There is only {said} of {exc.item.code} left: somebody took it in the meantime. Nothing was taken."
        )

    @api.exception_handler(PutBackAlready)
    def _put_back(request: HttpRequest, exc: PutBackAlready) -> HttpResponse:
        return problem(409, "put_back", "That is in the rack again already.")

    @api.exception_handler(Begun)
    def _begun(request: HttpRequest, exc: Begun) -> HttpResponse:
        return problem(409, "begun", "Something was written down of this build: it can be given up, but not taken away.")

    @api.exception_handler(Cancelled)
    def _cancelled(request: HttpRequest, exc: Cancelled) -> HttpResponse:
        return problem(409, "superseded", "A newer picture was asked for.")

    @api.exception_handler(Busy)
    def _busy(request: HttpRequest, exc: Busy) -> HttpResponse:
        return _later("busy", "Much is being worked out at once. It goes on by itself in a moment.", exc.seconds)

    @api.exception_handler(Wait)
    def _wait(request: HttpRequest, exc: Wait) -> HttpResponse:
        seconds = max(1, ceil(exc.seconds))
        said = f"{seconds} s" if seconds < 120 else f"{ceil(seconds / 60)} min"
        return _later("wait", f"Too many wrong tries. Wait {said}, then try again.", seconds, 429)

    @api.exception_handler(OverflowError)
    def _overflow(request: HttpRequest, exc: OverflowError) -> HttpResponse:
        return _invalid((Problem("", "a number in there is larger than anything here", "write a smaller one"),))

    @api.exception_handler(DatabaseError)
    def _database(request: HttpRequest, exc: DatabaseError) -> HttpResponse:
        return _no_database(exc)

    @api.exception_handler(OSError)
    def _disk(request: HttpRequest, exc: OSError) -> HttpResponse:
        if exc.errno not in DISK:
            raise exc
        return _no_disk(exc, DISK[exc.errno])

    @api.exception_handler(Refused)
    def _refused(request: HttpRequest, exc: Refused) -> HttpResponse:
        return problem(exc.status, exc.code, exc.title)


def _later(code: str, title: str, seconds: int, status: int = 503) -> HttpResponse:
    answer = problem(status, code, title)
    answer["Retry-After"] = str(seconds)
    return answer


def _no_database(exc: Exception) -> HttpResponse:
    """Full, locked, read-only or broken: in a smith's words, with what goes on by itself."""
    said = str(exc).lower()
    log.error("the database failed: %s", exc)
    if "locked" in said or "busy" in said:
        return _later("database_busy", "The database is busy. Your work is kept in this browser; it goes on by itself.", 3)
    why = FULL if "full" in said else UNWRITTEN if "readonly" in said or "read-only" in said else "The database failed."
    return _no_disk(exc, why)


FULL, UNWRITTEN = "The disk is full.", "The disk cannot be written."
DISK = {errno.ENOSPC: FULL, errno.EDQUOT: FULL, errno.EROFS: UNWRITTEN, errno.EACCES: UNWRITTEN}
"""What a file that cannot be written says (a photo, a picture), in the words of the database."""


def _no_disk(exc: Exception, why: str) -> HttpResponse:
    log.error("%s", exc)
    return _later(
        "database", f"{why} Your work is kept in this browser and saved as soon as it can be; tell whoever looks after the server.", 15
    )


class LastResort:
    """Whatever nothing else caught, as problem JSON for the API: logged, never bare HTML."""

    def __init__(self, get_response: Callable[[HttpRequest], HttpResponse]):
        self.get_response = get_response

    def __call__(self, request: HttpRequest) -> HttpResponse:
        answer = self.get_response(request)
        if not request.path.startswith("/api/"):
            return answer
        if answer.status_code in SAID and answer["Content-Type"].startswith("text/html"):
            allowed = answer.get("Allow")
            answer = problem(answer.status_code, *SAID[answer.status_code])
            if allowed:
                answer["Allow"] = allowed
        if "Cache-Control" not in answer:
            # a shop's numbers are kept by nobody on the way, nor by the browser after it
            answer["Cache-Control"] = "no-store"
        return answer

    def process_exception(self, request: HttpRequest, exc: Exception) -> HttpResponse | None:
        if isinstance(exc, DatabaseError):
            return _no_database(exc)
        if isinstance(exc, Http404):
            return None
        if not request.path.startswith("/api/"):
            return None
        log.exception("%s %s failed", request.method, request.path, exc_info=exc)
        return problem(500, "failed", "The program failed on that. Nothing was lost; the reason is in the server's log.")


def _too_big() -> JsonResponse:
    return problem(413, "too_big", "That is larger than two million bytes; make it smaller.")
