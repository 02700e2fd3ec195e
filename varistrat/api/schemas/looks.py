"""Looks as numbers, as they are asked and told."""

from typing import Any

from ninja import Schema
from pydantic import Field

from varistrat.api.schemas.photos import Marks
from varistrat.core.blade.geometry import Side
from varistrat.core.blade.model import Blade
from varistrat.core.design.document import Document
from varistrat.core.looks.features import Feature
from varistrat.core.looks.scales import Example
from varistrat.core.looks.space import Candidate
from varistrat.core.looks.taste import Want


class ToolOut(Schema):
    key: str
    says: str


class PairOut(Schema):
    """dark, bright: keys; says: their names; there: both lie in the rack."""

    dark: str
    bright: str
    says: str
    there: bool


class LooksOut(Schema):
    """examples: faces along the scale of each feature, from low to high; mark: of the shop's steels: a face's address carries it, so that a
    changed steel is seen."""

    features: list[Feature]
    examples: dict[str, list[Example]]
    tools: list[ToolOut]
    pairings: list[PairOut]
    mark: str


class MeasureIn(Schema):
    document: Document


class MeasurePhotoIn(Schema):
    marks: Marks
    side: Side


class MeasuredOut(Schema):
    """A face as what is wanted."""

    wants: list[Want]


class CandidateIn(Schema):
    candidate: Candidate
    blade: Blade | None = None


class CandidateDesignOut(Schema):
    """Ready to be kept as a design."""

    name: str = Field(max_length=60)
    document: dict[str, Any]
