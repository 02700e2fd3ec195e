"""The steels that ship with the program, read from list.toml, and the shelf a shop works from."""

import tomllib
from collections.abc import Callable, Iterator, Mapping
from contextlib import contextmanager
from contextvars import ContextVar
from functools import cache, cached_property
from pathlib import Path
from types import MappingProxyType
from typing import Any

from varistrat.core.steels.model import Source, Steel


@cache
def built_in() -> Mapping[str, Steel]:
    """Every steel that ships with the program, by key, in the order of the list."""
    data = tomllib.loads((Path(__file__).parent / "list.toml").read_text())
    sources = {name: Source(**fields) for name, fields in data["sources"].items()}

    def read(key: str, fields: dict[str, Any]) -> Steel:
        named = {group: sources[name] for group, name in fields.pop("source").items()}
        return Steel(key=key, source=named, **fields)

    return MappingProxyType({key: read(key, dict(fields)) for key, fields in data["steel"].items()})


class Shelf:
    """The steels a shop works from: what ships with the program, its own figures over it, its own steels after it.

    Fetched once, when first asked for.
    """

    def __init__(self, fetch: Callable[[], Mapping[str, Steel]]):
        self._fetch = fetch

    @cached_property
    def own(self) -> Mapping[str, Steel]:
        """Steels that are the shop's own, wholly or in some figure."""
        return self._fetch()

    @cached_property
    def steels(self) -> Mapping[str, Steel]:
        return {**built_in(), **self.own}


_shelf: ContextVar[Shelf | None] = ContextVar("shelf", default=None)


class _Steels(Mapping[str, Steel]):
    """The steels in force: the shop's own list while one is on the shelf, else what ships with the program.

    A context variable, not a parameter: every start, step and picture asks for steels by key, and
    one request works for one shop. The other way, a list handed down through every call, was tried on
    paper: forty signatures for a thing that never changes within a request.
    """

    @property
    def _now(self) -> Mapping[str, Steel]:
        now = _shelf.get()
        return built_in() if now is None else now.steels

    def __getitem__(self, key: str) -> Steel:
        return self._now[key]

    def __iter__(self) -> Iterator[str]:
        return iter(self._now)

    def __len__(self) -> int:
        return len(self._now)


STEELS: Mapping[str, Steel] = _Steels()


@contextmanager
def on_shelf(steels: Shelf | None) -> Iterator[None]:
    """Work with this shop's steels until the block ends; None: the built-in list."""
    token = _shelf.set(steels)
    try:
        yield
    finally:
        _shelf.reset(token)


def shelf_now() -> Mapping[str, Steel]:
    """The shop's own steels in force, wholly or in some figure."""
    now = _shelf.get()
    return now.own if now else {}
