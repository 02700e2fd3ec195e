"""Numbers a shop can measure for itself and put in place of ours.

They are all declared in heat/numbers.py; a law asks for `DECARB.now`. What the shop has put in is in force for
the length of a request, like its steels.
"""

from collections.abc import Callable, Iterator, Mapping
from contextlib import contextmanager
from contextvars import ContextVar
from dataclasses import dataclass

_own: ContextVar[Callable[[], Mapping[str, float]] | None] = ContextVar("figures", default=None)


@dataclass(frozen=True)
class Figure:
    """One replaceable number: `usual` within `low` to `high`; `group`: where it is shown."""

    key: str
    group: str
    label: str
    unit: str
    usual: float
    low: float
    high: float
    source: str
    hint: str = ""

    @property
    def now(self) -> float:
        """The shop's own, or the usual one."""
        return figures_now().get(self.key, self.usual)

    @property
    def own(self) -> bool:
        return self.key in figures_now()


def figures_now() -> Mapping[str, float]:
    """The shop's own numbers in force."""
    fetch = _own.get()
    return fetch() if fetch else {}


@contextmanager
def own_figures(fetch: Callable[[], Mapping[str, float]]) -> Iterator[None]:
    """Work with the shop's own numbers until the block ends; `fetch` is asked at each use, and should remember."""
    token = _own.set(fetch)
    try:
        yield
    finally:
        _own.reset(token)
