"""Patches of views, kept: while a twist is turned the blade lies as it lay, and a third of a picture is known already."""

import threading

from cachetools import LRUCache

from varistrat.core.bars.points import Array
from varistrat.core.pattern.views import Patch, View

MOST_BYTES = 48_000_000
"""Both faces as previews in some sizes, and at rest on a screen."""
MOST_EACH = 12_000_000


def _bytes(patch: Patch) -> int:
    return sum(v.nbytes for v in vars(patch).values() if v is not None)


_kept: LRUCache[tuple[str, bytes, bytes], Patch] = LRUCache(MOST_BYTES, _bytes)
_lock = threading.Lock()


def laid(view: View, a: Array, b: Array) -> Patch:
    """`view.patch(a, b)`, not to be written to: the one made last for an equal view, if that is still at hand."""
    mark = view.mark
    if mark is None:
        return view.patch(a, b)
    key = mark, a.tobytes(), b.tobytes()
    with _lock:
        found = _kept.get(key)
    if found is None:
        found = view.patch(a, b)
        if _bytes(found) <= MOST_EACH:
            for v in vars(found).values():
                if v is not None:
                    v.flags.writeable = False
            with _lock:
                _kept[key] = found
    return found
