"""What is raised when something asked for cannot be done, and how it is said."""

from collections.abc import Iterable
from dataclasses import dataclass


@dataclass(frozen=True)
class Problem:
    """One thing wrong with an input: where, what, and the cure."""

    path: str
    wrong: str
    cure: str

    def line(self) -> str:
        """In one line: place, what is wrong, the cure."""
        return f"{self.path}: {self.wrong}; {self.cure}" if self.path else f"{self.wrong}; {self.cure}"

    def under(self, prefix: str) -> "Problem":
        """The same problem seen from further up the tree."""
        joined = f"{prefix}.{self.path}" if self.path and prefix else prefix or self.path
        return Problem(joined, self.wrong, self.cure)


class VaristratError(Exception):
    """Base of all errors of the core."""


class InputError(VaristratError, ValueError):
    """A recipe, blade or request that cannot be used; carries every problem found."""

    def __init__(self, problems: Iterable[Problem]):
        self.problems = tuple(problems)
        super().__init__("\n".join(p.line() for p in self.problems))

    def __reduce__(self) -> tuple[type["InputError"], tuple[tuple[Problem, ...]]]:
        # raised in another process it must arrive here as what it is: made anew from its sentence it would break the pool
        return type(self), (self.problems,)

    @classmethod
    def at(cls, path: str, wrong: str, cure: str) -> "InputError":
        """Of one problem."""
        return cls([Problem(path, wrong, cure)])

    def under(self, prefix: str) -> "InputError":
        """The same with the paths put below `prefix`."""
        return InputError(p.under(prefix) for p in self.problems)


class Cancelled(VaristratError):
    """The one who asked for the picture no longer wants it."""
