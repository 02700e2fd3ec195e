"""What is one shop's own, as a value: its steels and its numbers. Whatever is kept and rests on them has `mark` in its key."""

import json
from collections.abc import Callable, Iterator, Mapping
from contextlib import contextmanager
from dataclasses import dataclass, field
from functools import cached_property, wraps
from hashlib import sha256
from types import FunctionType
from typing import Any, TypeVar

from varistrat.core.figures import figures_now, own_figures
from varistrat.core.steels.list import Shelf, on_shelf, shelf_now
from varistrat.core.steels.model import Steel


@dataclass(frozen=True)
class Shop:
    """steels: the shop's own, wholly or in some figure; figures: its own numbers. Empty: as it ships."""

    steels: Mapping[str, Steel] = field(default_factory=dict)
    figures: Mapping[str, float] = field(default_factory=dict)

    @cached_property
    def mark(self) -> str:
        """A short text that changes with any figure of the shop's; empty when it has none."""
        if not self.steels and not self.figures:
            return ""
        said = [f"{k}{s.model_dump_json()}" for k, s in sorted(self.steels.items())]
        return sha256(("".join(said) + json.dumps(self.figures, sort_keys=True)).encode()).hexdigest()[:16]

    @contextmanager
    def in_force(self) -> Iterator[None]:
        """Work with this shop's steels and numbers until the block ends."""
        with on_shelf(self._shelf), own_figures(lambda: self.figures):
            yield

    @cached_property
    def _shelf(self) -> Shelf:
        return Shelf(lambda: self.steels)


def shop_in_force() -> Shop:
    """A copy of what is in force now, to be carried by what is worked out with it."""
    return Shop(dict(shelf_now()), dict(figures_now()))


F = TypeVar("F", bound=Callable[..., Any])


def with_own_shop(method: F) -> F:
    """A method of something that carries its `shop`: it is worked out with that one, whatever is in force when it is asked for."""

    @wraps(method)
    def inside(self: Any, *args: Any, **kwargs: Any) -> Any:
        with self.shop.in_force():
            return method(self, *args, **kwargs)

    return inside  # type: ignore[return-value]


C = TypeVar("C", bound=type)


def carries_shop(cls: C) -> C:
    """All that a class with a `shop` works out, now or later, it works out with that one."""
    for name, value in list(vars(cls).items()):
        if isinstance(value, cached_property):
            made = cached_property(with_own_shop(value.func))
            made.__set_name__(cls, name)
            setattr(cls, name, made)
        elif isinstance(value, property) and value.fget:
            setattr(cls, name, property(with_own_shop(value.fget)))
        elif isinstance(value, FunctionType) and not name.startswith("__"):
            setattr(cls, name, with_own_shop(value))
    return cls
