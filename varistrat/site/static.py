"""Scripts, styles and fonts; a front end built again under a running server is found, and what is gone is a plain 404."""

import threading
import time

from django.conf import settings
from django.http import HttpRequest, HttpResponse, HttpResponseNotFound
from whitenoise.middleware import WhiteNoiseMiddleware

LOOK_EVERY = 2.0
MANIFEST = settings.STATIC_ROOT / ".vite" / "manifest.json"


def built_at() -> float:
    """When the front end was built; 0 when it is not."""
    try:
        return float(MANIFEST.stat().st_mtime)
    except OSError:
        return 0.0


class Static(WhiteNoiseMiddleware):  # type: ignore[misc]
    def __init__(self, get_response=None, settings=settings):  # type: ignore[no-untyped-def]
        super().__init__(get_response, settings)
        self._built, self._looked, self._lock = built_at(), time.monotonic(), threading.Lock()

    def __call__(self, request: HttpRequest) -> HttpResponse:
        if request.path_info.startswith(settings.STATIC_URL):
            self._look_again()
        try:
            answer: HttpResponse = super().__call__(request)
        except FileNotFoundError:
            return HttpResponseNotFound("gone: the front end was built again", content_type="text/plain")
        return answer

    def _look_again(self) -> None:
        """Take in a front end that was built since, at most every LOOK_EVERY seconds."""
        if time.monotonic() - self._looked < LOOK_EVERY:
            return
        with self._lock:
            self._looked = time.monotonic()
            if (now := built_at()) != self._built:
                self._built = now
                self.files.clear()
                self.add_files(self.static_root, prefix=self.static_prefix)
