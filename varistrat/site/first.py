"""What a place of the shop asks for first, answered in the page itself: it need not come back for it."""

import copy
from collections.abc import Iterator

from django.http import HttpRequest
from django.urls import Resolver404, resolve
from django.utils.safestring import SafeString, mark_safe

SESSION = "/api/session"
FIRST: dict[str, tuple[str, ...]] = {
    "bench": ("/api/designs", "/api/designs/bin"),
    "design": ("/api/designs/{id}",),
}
"""Addresses by place; `{id}`: what stands after the place in the page's own address."""
MOST = 400_000
"""Bytes of an answer that a page carries; a longer one it fetches."""
IN_A_SCRIPT = {ord("<"): "\\u003C", ord(">"): "\\u003E", ord("&"): "\\u0026", 0x2028: "\\u2028", 0x2029: "\\u2029"}
"""What could end a script element; in JSON these stand within texts only."""


def first_answers(request: HttpRequest, place: str) -> Iterator[tuple[str, SafeString]]:
    """(address, JSON safe within a script element): what the API itself says to this asker; what it refuses is left out."""
    after = request.path.strip("/").split("/")[1:]
    for address in (SESSION, *(a.format(id=after[0] if after else "") for a in FIRST.get(place, ()))):
        body = _answer(request, address)
        if body is not None:
            yield address, mark_safe(body.translate(IN_A_SCRIPT))


def _answer(request: HttpRequest, address: str) -> str | None:
    try:
        view, args, kwargs = resolve(address)
    except Resolver404:
        return None
    asked = copy.copy(request)
    asked.path = asked.path_info = address
    asked.method = "GET"
    response = view(asked, *args, **kwargs)
    if response.status_code != 200 or len(response.content) > MOST:
        return None
    return str(response.content, "utf-8")
