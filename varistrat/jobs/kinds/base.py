"""What a kind of job is. A new kind is one file here, its line in the registry, and its test."""

from abc import ABC, abstractmethod
from collections.abc import Sequence
from dataclasses import dataclass
from typing import Any, ClassVar, Generic, Protocol, TypeVar

from pydantic import BaseModel

from varistrat.core.shop import ShopData
from varistrat.designs.models import Design
from varistrat.jobs.models import Lane
from varistrat.shop.models import Shop


class Watch(Protocol):
    """What the work tells, and is told, while it runs."""

    def progress(self, share: float) -> None:
        """From 0 to 1; also asks whether to go on. Call it from the thread that was given the work."""

    def stopped(self) -> bool:
        """Whether to give up, as of the last `progress`; from any thread."""

    def keep(self, index: int, content: bytes | None, *, values: Sequence[float] = (), problem: str = "", name: str = "") -> None:
        """A finished PNG, or why there is none."""

    def tell(self, result: dict[str, Any]) -> None:
        """What it has come to so far; told with the next `progress`."""


@dataclass(frozen=True)
class Plan:
    """An order made ready: JSON that says all of it, how many files it will be, and what it is told back as."""

    input: dict[str, Any]
    about: dict[str, Any]
    wanted: int = 1
    design: Design | None = None


Order = TypeVar("Order", bound=BaseModel, contravariant=True)


class Kind(ABC, Generic[Order]):
    """One kind of job."""

    key: ClassVar[str]
    lane: ClassVar[Lane]
    order: ClassVar[type[BaseModel]]
    """What is asked; its field `kind` is a literal of `key`."""
    about: ClassVar[type[BaseModel]]
    """What is told back of it; its field `kind` likewise."""
    at_once: ClassVar[int] = 3
    """Of one shop, waiting and under way; more would keep the others waiting."""
    kept: ClassVar[int] = 20
    """Of one shop; older ones are thrown away."""

    @abstractmethod
    def plan(self, order: Order, shop: Shop) -> Plan:
        """Raises InputError or NotFound for what cannot be done, before anything is kept."""

    @abstractmethod
    def work(self, given: dict[str, Any], shop: ShopData, watch: Watch) -> dict[str, Any] | None:
        """Do it, in a worker. Raises InputError for what turns out impossible, Cancelled once `watch` says to stop."""
