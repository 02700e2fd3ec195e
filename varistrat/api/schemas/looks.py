"""Looks as numbers, as they are asked and told."""

from typing import Any

from ninja import Schema
from pydantic import Field

from varistrat.api.schemas.photos import Marks
from varistrat.core.blade.geometry import Side
from varistrat.core.blade.model import Blade
from varistrat.core.design.document import Document
from varistrat.core.looks.scales import Example
from varistrat.core.looks.search import Want
from varistrat.core.looks.space import Candidate


class FeatureOut(Schema):
    """low, high: ends of its scale; curve: how it runs between (even, ratio, root); examples: faces along it, from low to high."""

    key: str
    title: str
    low_word: str
    high_word: str
    unit: str
    low: float
    high: float
    curve: str
    about: str
    shape: bool
    examples: list[Example]


class ToolOut(Schema):
    key: str
    says: str


class WayOut_(Schema):
    """A way of forging; needs: tools."""

    key: str
    title: str
    tells: str
    needs: list[str]


class PairOut(Schema):
    """dark, bright: keys; says: their names; there: both lie in the rack."""

    dark: str
    bright: str
    says: str
    there: bool


class LooksOut(Schema):
    """mark: of the shop's steels; a face's address carries it, so that a changed steel is seen."""

    features: list[FeatureOut]
    tools: list[ToolOut]
    ways: list[WayOut_]
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
