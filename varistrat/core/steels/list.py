"""The steels that ship with the program, read from list.toml."""

import tomllib
from collections.abc import Mapping
from functools import cache
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
