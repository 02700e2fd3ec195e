"""What every validated model of the core shares."""

from typing import Any, Self

from pydantic import BaseModel, ConfigDict

from varistrat.core.cached import cached_property


class Model(BaseModel):
    """Strict and closed: no guessing of types, no unknown fields, no nan, no change after."""

    model_config = ConfigDict(
        extra="forbid", frozen=True, strict=True, allow_inf_nan=False, populate_by_name=True, ignored_types=(cached_property,)
    )

    def __deepcopy__(self, memo: dict[int, Any] | None = None) -> Self:
        """Itself: nobody changes it. Pydantic asks for one of every part that is left out of a document."""
        return self


def shown(label: str, unit: str = "", hint: str = "", **more: Any) -> dict[str, Any]:
    """What the screen needs beside the type: label, unit, a line of help."""
    return {"title": label, "description": hint, "json_schema_extra": {"unit": unit, **more}}
