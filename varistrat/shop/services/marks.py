"""Whether what two may change is still as it was when one of them looked at it."""

import hashlib
from collections.abc import Sequence

from django.db.models import Model


class Overtaken(Exception):
    """Somebody changed it in between: nothing was written. mark: of what it is now."""

    def __init__(self, mark: str):
        super().__init__(f"it is {mark} now")
        self.mark = mark


def mark_of(row: Model, names: Sequence[str]) -> str:
    """Alike for alike content of these fields, 16 hexadecimal digits. What it points to counts as which, not as what."""
    values = [getattr(row, getattr(row._meta.get_field(n), "attname", n)) for n in names]
    return hashlib.blake2b(repr(values).encode(), digest_size=8).hexdigest()


def unchanged(base: str, mark: str) -> None:
    """base: the mark it had when it was looked at; empty asks nothing. In the transaction that changes it. Raises Overtaken."""
    if base and base != mark:
        raise Overtaken(mark)
