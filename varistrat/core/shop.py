"""What is one shop's own, as a value: its steels and its numbers. Whatever is worked out is given it;
whatever is kept has its `mark` in its key."""

import json
from collections.abc import Mapping
from dataclasses import dataclass, field
from hashlib import sha256
from typing import Any

from pydantic import ValidationInfo

from varistrat.core.cached import cached_property
from varistrat.core.figures import Numbers
from varistrat.core.steels.list import built_in
from varistrat.core.steels.model import Steel


@dataclass(frozen=True, eq=False)
class ShopData:
    """own: the shop's steels, wholly or in some figure; figures: its numbers. Empty: as it ships. Alike when their marks are."""

    own: Mapping[str, Steel] = field(default_factory=dict)
    figures: Mapping[str, float] = field(default_factory=dict)

    @cached_property
    def steels(self) -> Mapping[str, Steel]:
        """Every steel the shop works with: what ships with the program, its own figures over it, its own steels after it."""
        return {**built_in(), **self.own}

    @cached_property
    def numbers(self) -> Numbers:
        """Its figures, the usual ones where it has none of its own."""
        return Numbers(dict(self.figures))

    @cached_property
    def mark(self) -> str:
        """A short text that changes with any figure of the shop's; empty when it has none."""
        if not self.own and not self.figures:
            return ""
        said = [f"{k}{s.model_dump_json()}" for k, s in sorted(self.own.items())]
        return sha256(("".join(said) + json.dumps(dict(self.figures), sort_keys=True)).encode()).hexdigest()[:16]

    def __eq__(self, other: object) -> bool:
        return isinstance(other, ShopData) and self.mark == other.mark

    def __hash__(self) -> int:
        return hash(self.mark)

    def __getstate__(self) -> dict[str, Any]:
        # what is worked out of them does not cross to another process
        return {"own": dict(self.own), "figures": dict(self.figures)}

    def as_json(self) -> dict[str, Any]:
        """Plain JSON; see `read`."""
        return {"own": {k: s.model_dump(mode="json") for k, s in self.own.items()}, "figures": dict(self.figures)}

    @classmethod
    def read(cls, data: Mapping[str, Any]) -> "ShopData":
        """From `as_json`. Raises ValueError for what is no steel."""
        return cls({k: Steel.model_validate_json(json.dumps(v)) for k, v in data.get("own", {}).items()}, dict(data.get("figures", {})))


AS_SHIPS = ShopData()


def shop_of(info: ValidationInfo) -> ShopData:
    """The shop that something is read for: `shop` of the context it is validated in, or of the request in there (`shop_data()`)."""
    context = info.context or {}
    if isinstance(found := context.get("shop"), ShopData):
        return found
    ask = getattr(context.get("request"), "shop_data", None)
    return ask() if ask else AS_SHIPS
