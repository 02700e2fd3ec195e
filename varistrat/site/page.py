"""The one page: it names the built scripts and styles, and sets the CSRF cookie."""

import json
from functools import lru_cache
from typing import Any

from django.conf import settings
from django.http import HttpRequest, HttpResponse
from django.shortcuts import render
from django.views.decorators.cache import never_cache
from django.views.decorators.csrf import ensure_csrf_cookie

from varistrat.site.static import built_at


@lru_cache(maxsize=2)
def _entry(built: float) -> dict[str, Any]:
    manifest = settings.STATIC_ROOT / ".vite" / "manifest.json"
    if not manifest.exists():
        return {}
    found: dict[str, Any] = json.loads(manifest.read_text())["index.html"]
    return found


@never_cache
@ensure_csrf_cookie
def page(request: HttpRequest) -> HttpResponse:
    entry = _entry(built_at())
    if not entry:
        return HttpResponse("The front end is not built yet: ./run demo builds it.", status=503, content_type="text/plain")
    return render(request, "page.html", {"script": entry["file"], "styles": entry.get("css", []), "static": settings.STATIC_URL})
