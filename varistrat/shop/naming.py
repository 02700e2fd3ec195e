"""Who keeps documents, and can say whether one of them names a steel. Each app says so when it starts;
what says it is fetched when asked."""

from django.utils.module_loading import import_string

from varistrat.shop.models import Shop

_NAMERS: dict[str, str] = {}


def namer(place: str, function: str) -> None:
    """`function`, by its dotted name, of (shop, key): whether anything of this shop's kept in `place` names the steel."""
    _NAMERS[place] = function


def named_anywhere(shop: Shop, key: str) -> bool:
    return any(import_string(function)(shop, key) for function in _NAMERS.values())
