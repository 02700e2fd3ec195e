"""The one page: it names the built scripts and styles, carries the first answers, and sets the CSRF cookie."""

import json
from functools import lru_cache
from typing import Any

from django.conf import settings
from django.http import Http404, HttpRequest, HttpResponse
from django.shortcuts import render
from django.views.decorators.cache import never_cache
from django.views.decorators.csrf import ensure_csrf_cookie

from varistrat.site.first import first_answers
from varistrat.site.static import built_at


@lru_cache(maxsize=2)
def _manifest(built: float) -> dict[str, Any]:
    """What the build made of each source; empty before the first."""
    manifest = settings.STATIC_ROOT / ".vite" / "manifest.json"
    found: dict[str, Any] = json.loads(manifest.read_text()) if manifest.exists() else {}
    return found


@lru_cache(maxsize=64)
def _needs(built: float, place: str) -> tuple[str, ...]:
    """Scripts that a place of the shop wants beside the first one: named at once, not found one after another."""
    manifest = _manifest(built)
    found: dict[str, None] = {}

    def add(key: str) -> None:
        part = manifest.get(key)
        if part and part["file"] not in found:
            found[part["file"]] = None
            for other in part.get("imports", ()):
                add(other)

    add("index.html")
    for ending in ("tsx", "ts"):
        add(f"src/features/{place}/index.{ending}")
    return tuple(found)[1:]


@never_cache
@ensure_csrf_cookie
def page(request: HttpRequest) -> HttpResponse:
    built = built_at()
    entry = _manifest(built).get("index.html")
    if not entry:
        return HttpResponse("The front end is not built yet: ./run demo builds it.", status=503, content_type="text/plain")
    place = request.path.strip("/").partition("/")[0] or "bench"
    found = {"script": entry["file"], "styles": entry.get("css", []), "scripts": _needs(built, place), "static": settings.STATIC_URL}
    found["first"] = list(first_answers(request, place))
    return render(request, "page.html", found)


@never_cache
def service_worker(request: HttpRequest) -> HttpResponse:
    """From the root, so that it may keep the shell of every place; fetched anew each time the browser looks for another."""
    file = settings.STATIC_ROOT / "sw.js"
    if not file.exists():
        raise Http404("the front end is not built yet")
    return HttpResponse(file.read_bytes(), content_type="text/javascript; charset=utf-8")
