"""Each request works with the steels and numbers of the shop it comes from."""

from collections.abc import Callable

from django.http import HttpRequest, HttpResponseBase

from varistrat.accounts.services.shop import working_for
from varistrat.api.auth import asker


class ShopMiddleware:
    """Puts the signed-in user's own steels and numbers in force; nothing is fetched until asked for."""

    def __init__(self, get_response: Callable[[HttpRequest], HttpResponseBase]):
        self.get_response = get_response

    def __call__(self, request: HttpRequest) -> HttpResponseBase:
        if not request.path.startswith("/api/") or not request.user.is_authenticated:
            return self.get_response(request)
        with working_for(asker(request)):
            return self.get_response(request)
