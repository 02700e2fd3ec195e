"""The list of steels and how to find one."""

from collections.abc import Mapping, Sequence
from difflib import get_close_matches
from functools import lru_cache

from varistrat.core.errors import InputError
from varistrat.core.steels.list import built_in
from varistrat.core.steels.model import Steel

__all__ = ["Steel", "built_in", "named_steel", "steel_key"]


@lru_cache(maxsize=256)
def _near(value: str, keys: tuple[str, ...]) -> Sequence[str]:
    """The nearest names; a document may be wrong in the same word a thousand times."""
    return get_close_matches(value, keys, n=3, cutoff=0.5) or sorted(keys)[:8]


def steel_key(value: object, steels: Mapping[str, Steel]) -> str:
    """`value` if it is the key of one of these steels. Raises ValueError with the nearest names."""
    if not isinstance(value, str):
        raise ValueError('not the key of a steel; write it as text, like "1084"')
    if value not in steels:
        near = _near(value[:40], tuple(steels))
        raise ValueError(f"no steel {value[:40]!r} in the list; use one of {', '.join(near)}")
    return value


def named_steel(key: str, steels: Mapping[str, Steel]) -> Steel:
    """The steel of this key. Raises InputError with the nearest names."""
    try:
        return steels[steel_key(key, steels)]
    except ValueError as e:
        raise InputError.at("steels", *str(e).split("; ", 1)) from e
