"""Findings: what will happen, why, and what to do, as data.

Grades, mildest first: `note` (good to know), `care` (costs steel or looks),
`stop` (will fail). The words are complete without the grade.

What can be found is declared once, as a `Code` beside the rule that finds it: its name, the place of a design
where it is told, the grades it can have and its sentence. The registry is filled as the modules load, so a new
step brings its own codes in its own file; `every_code` loads them all (docs/findings.md is written from it).
"""

import pkgutil
from collections.abc import Mapping
from dataclasses import asdict, dataclass
from importlib import import_module
from typing import Any, Literal, get_args

Grade = Literal["note", "care", "stop"]
Place = Literal["bar", "heat", "grind", "stock", "finish"]
GRADES: tuple[Grade, ...] = get_args(Grade)


@dataclass(frozen=True)
class Finding:
    """One thing found: code, grade, what happens, why, what to do; the figure that decides it, with its limit."""

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


_codes: dict[str, "Code"] = {}


@dataclass(frozen=True)
class Code:
    """One thing that can be found; a finding is only ever made from its code.

    name: unique, snake case; kept for good, programs of others read it.
    place: where in a design it is told.
    grades: those it can have, mildest first.
    says: the sentence, a `str.format` template; or one for each grade.

    Raises ValueError for a name that is taken, no grade, or a sentence without its grade.
    """

    name: str
    place: Place
    grades: tuple[Grade, ...]
    says: str | Mapping[Grade, str]

    def __post_init__(self) -> None:
        if self.name in _codes:
            raise ValueError(f"the code {self.name} is declared twice")
        if not self.grades or list(self.grades) != [g for g in GRADES if g in self.grades]:
            raise ValueError(f"{self.name}: grades are some of {GRADES}, in this order")
        if not isinstance(self.says, str) and set(self.says) != set(self.grades):
            raise ValueError(f"{self.name}: one sentence for each of its grades")
        _codes[self.name] = self

    def sentence(self, grade: Grade) -> str:
        """The template told with this grade."""
        return self.says if isinstance(self.says, str) else self.says[grade]

    def found(
        self,
        why: str,
        do: str,
        *,
        grade: Grade | None = None,
        field: str = "",
        value: float | None = None,
        limit: float | None = None,
        unit: str = "",
        **words: object,
    ) -> Finding:
        """The finding: `why` and `do` in words, `words` into the sentence; `grade` where there are several.

        Raises ValueError for a grade it cannot have or a word its sentence does not know; KeyError for one it misses.
        """
        if grade is None and len(self.grades) > 1:
            raise ValueError(f"{self.name} has several grades: say which")
        grade = grade or self.grades[0]
        if grade not in self.grades:
            raise ValueError(f"{self.name} is found as one of {self.grades}, not as {grade}")
        says = self.sentence(grade)
        if unknown := [w for w in words if "{" + w not in says]:
            raise ValueError(f"{self.name} has no word {unknown[0]} in its sentence")
        return Finding(self.name, grade, says.format(**words), why, do, field, value, limit, unit)


def every_code() -> list[Code]:
    """All that can be found, by place and name; loads the whole core."""
    core = import_module("varistrat.core")
    for module in pkgutil.walk_packages(core.__path__, "varistrat.core."):
        import_module(module.name)
    places = get_args(Place)
    return sorted(_codes.values(), key=lambda c: (places.index(c.place), c.name))
