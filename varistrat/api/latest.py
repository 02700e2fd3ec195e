"""Which picture is still wanted: a newer request on the same lane sets the older one aside.

The browser names a lane (one part of one open page) and counts its requests there.
"""

import threading
from collections import OrderedDict
from collections.abc import Callable

from django.http import HttpRequest

_KEEP = 2000
_newest: OrderedDict[str, int] = OrderedDict()
_lock = threading.Lock()


def still_wanted(request: HttpRequest) -> Callable[[], bool] | None:
    """A question to ask between blocks: was this request overtaken? None when it names no lane.

    Header `X-Lane: name;count`.
    """
    name, _, count = request.headers.get("X-Lane", "")[:120].rpartition(";")
    if not name or not count.isdecimal():
        return None
    lane, mine = f"{request.session.session_key}:{name}", int(count)
    with _lock:
        _newest[lane] = max(mine, _newest.get(lane, -1))
        _newest.move_to_end(lane)
        while len(_newest) > _KEEP:
            _newest.popitem(last=False)
    return lambda: _newest.get(lane, mine) > mine
