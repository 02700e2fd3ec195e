"""Each request works with the steels and numbers of the shop it comes from."""

from collections.abc import Callable
from functools import cache

from django.http import HttpRequest, HttpResponseBase

from varistrat.api.auth import asker
from varistrat.core.shop import AS_SHIPS, ShopData
from varistrat.shop.services.own import shop_data


class ShopMiddleware:
    """Lets the request be asked for the steels and numbers of its shop; nothing is fetched until it is.

    Documents in its body are read with them (core/shop.py, `shop_of`).
    """

    def __init__(self, get_response: Callable[[HttpRequest], HttpResponseBase]):
        self.get_response = get_response

    def __call__(self, request: HttpRequest) -> HttpResponseBase:
        request.shop_data = cache(lambda: shop_data(asker(request).shop) if request.user.is_authenticated else AS_SHIPS)  # type: ignore[attr-defined]
        return self.get_response(request)


def shop_of(request: HttpRequest) -> ShopData:
    """The steels and numbers of the shop that asks."""
    ask: Callable[[], ShopData] | None = getattr(request, "shop_data", None)
    return ask() if ask else AS_SHIPS
