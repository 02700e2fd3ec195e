"""The plan of a build, frozen when it is begun and at every change of it: the design as it was, and the route it came to that day.

The route is kept with it. Worked out anew a year later, by other numbers of the shop or a later version of this program, it would
be another plan than the one that was followed.
"""

from dataclasses import dataclass
from typing import Any

from pydantic import TypeAdapter

from varistrat.core.build.entry import Entry
from varistrat.core.build.state import BuildState
from varistrat.core.design.worked import Worked
from varistrat.core.errors import InputError
from varistrat.core.route.operation import Operation
from varistrat.core.route.route import Route, route_of
from varistrat.core.stock.sheet import stock_of

OPERATIONS: TypeAdapter[tuple[Operation, ...]] = TypeAdapter(tuple[Operation, ...])


@dataclass(frozen=True)
class Plan:
    """number: 1 for the first, and up; operations: in order; document: as it is kept."""

    number: int
    operations: tuple[Operation, ...]
    document: dict[str, Any]
    why: str = ""

    @classmethod
    def begun(cls, worked: Worked, number: int = 1, why: str = "") -> "Plan":
        """Of a design as it stands. Raises InputError for one that cannot be carried out."""
        if worked.problems:
            raise InputError(worked.problems)
        return cls(number, route_of(worked).operations, worked.document.as_json(), why)

    def route(self, worked: Worked) -> Route:
        """As it was frozen; worked: this plan's design."""
        return Route(self.operations, stock_of(worked))

    @property
    def operations_json(self) -> list[dict[str, Any]]:
        """To be kept."""
        found: list[dict[str, Any]] = OPERATIONS.dump_python(self.operations, mode="json")
        return found


def read_operations(kept: object) -> tuple[Operation, ...]:
    """As `operations_json` gave them; what a later version has more of is given its usual value."""
    return OPERATIONS.validate_python(kept)


def in_force(plans: list[Plan], state: BuildState, entry: Entry | None) -> Plan:
    """The plan that was followed when this was written down; None: the one that counts now. plans: by number."""
    if entry is None:
        return plans[-1]
    number = 1
    for change in state.amended:
        if (change.at, change.id) < (entry.at, entry.id):
            number = change.revision
    return next((p for p in plans if p.number == number), plans[0])
