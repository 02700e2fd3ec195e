"""Findings: what will happen, why, and what to do, as data.

Grades, mildest first: `note` (good to know), `care` (costs steel or looks),
`stop` (will fail). The words are complete without the grade.
"""

from dataclasses import asdict, dataclass
from typing import Any, Literal

Grade = Literal["note", "care", "stop"]


@dataclass(frozen=True)
class Finding:
    code: str
    grade: Grade
    what: str
    why: str
    do: str
    field: str = ""
    value: float | None = None
    limit: float | None = None
    unit: str = ""

    def as_json(self) -> dict[str, Any]:
        """Plain JSON; empty parts left out."""
        return {k: v for k, v in asdict(self).items() if v not in (None, "")}
