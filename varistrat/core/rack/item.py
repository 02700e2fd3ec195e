"""One item of the rack: bars that are alike, or powder; what is needed to say how big, how heavy and what it serves."""

from dataclasses import dataclass
from datetime import date
from math import pi, sqrt
from typing import Annotated, Literal, get_args

from pydantic import BeforeValidator, Field, ValidationInfo, field_validator, model_validator

from varistrat.core.bars.model import Mm, Model, SteelKey
from varistrat.core.steels import Steel

Form = Literal["flat", "square", "round", "octagon", "hexagon", "sheet", "tube", "rods", "powder"]
FORMS: tuple[Form, ...] = get_args(Form)
ALIKE: tuple[Form, ...] = ("square", "round", "octagon", "hexagon", "tube", "rods")
"""As thick as they are wide, when nothing else is said."""
MOST_COUNT, MOST_GRAMS = 10_000, 1e7
SHORT_TEXT, LONG_TEXT = 120, 400


def _day(value: object) -> object:
    """A day as files and browsers write it."""
    if not isinstance(value, str):
        return value
    try:
        return date.fromisoformat(value)
    except ValueError as e:
        raise ValueError(f"{value[:20]!r} is no day; write it like 2031-05-17") from e


Day = Annotated[date, BeforeValidator(_day)]
Text = Annotated[str, Field(max_length=SHORT_TEXT)]


class RackItem(Model):
    """Bars that are alike, `count` of them, mm; of powder the grams; price: of all of them. Octagon, hexagon: across flats."""

    steel: SteelKey
    form: Form = "flat"
    width: Mm | None = Field(None, validate_default=True)
    thickness: Mm | None = Field(None, validate_default=True)
    wall: Mm | None = Field(None, validate_default=True)
    length: Mm | None = Field(None, validate_default=True)
    count: Annotated[float, Field(ge=0, le=MOST_GRAMS)] = 1
    price: Annotated[float, Field(ge=0, lt=1e9)] | None = None
    batch: Text = ""
    bought: Day | None = None
    source: Text = ""
    place: Text = ""
    note: Annotated[str, Field(max_length=LONG_TEXT)] = ""
    low: Annotated[float, Field(gt=0, le=MOST_GRAMS)] | None = None
    """Fewer than these and it is running low."""

    @field_validator("width", "thickness", "length")
    @classmethod
    def _sized(cls, value: float | None, info: ValidationInfo) -> float | None:
        form = info.data.get("form", "powder")
        if value is None and info.field_name == "thickness" and form in ALIKE:
            found: float | None = info.data.get("width")
            return found
        if value is None and form != "powder":
            raise ValueError(f"there is no {info.field_name}; give it in mm")
        return value

    @field_validator("wall")
    @classmethod
    def _hollow(cls, value: float | None, info: ValidationInfo) -> float | None:
        across = [info.data.get("width"), info.data.get("thickness")]
        if info.data.get("form") == "tube" and (value is None or any(v is not None and value >= v / 2 for v in across)):
            raise ValueError("a tube has a wall; give it, less than half its width")
        return value

    @field_validator("count")
    @classmethod
    def _whole(cls, value: float, info: ValidationInfo) -> float:
        if info.data.get("form") != "powder" and (value != int(value) or value > MOST_COUNT):
            raise ValueError(f"{value:g} is no number of bars; give a whole number, 0 to {MOST_COUNT}")
        return value

    @model_validator(mode="after")
    def _lying(self) -> "RackItem":
        if self.width and self.thickness and self.thickness > self.width:
            # a frozen model is finished here, before anybody sees it
            width, thickness = self.thickness, self.width
            object.__setattr__(self, "width", width)
            object.__setattr__(self, "thickness", thickness)
        return self

    @property
    def section(self) -> float:
        """mm2 of one piece; 0 of powder."""
        return section_of(self.form, self.width, self.thickness, self.wall)

    def grams(self, steel: Steel) -> float:
        """Of one piece; of powder: of one gram."""
        return grams_of(self.form, self.width, self.thickness, self.wall, self.length, steel)

    @property
    def size(self) -> str:
        """In words: "40 x 5 x 1000 mm"."""
        return size_of(self.form, self.width, self.thickness, self.wall, self.length)


def section_of(form: str, width: float | None, thickness: float | None, wall: float | None) -> float:
    """mm2 of one piece of a form; 0 of powder."""
    w, t, hollow = width or 0.0, thickness or 0.0, wall or 0.0
    if form in ("round", "rods"):
        return pi / 4 * w**2
    if form == "octagon":
        return 2 * (sqrt(2) - 1) * w**2
    if form == "hexagon":
        return sqrt(3) / 2 * w**2
    if form == "tube":
        return w * t - (w - 2 * hollow) * (t - 2 * hollow)
    return 0.0 if form == "powder" else w * t


def grams_of(form: str, width: float | None, thickness: float | None, wall: float | None, length: float | None, steel: Steel) -> float:
    """Of one piece; of powder: of one gram."""
    return 1.0 if form == "powder" else section_of(form, width, thickness, wall) * (length or 0.0) * steel.density * 1e-6


def size_of(form: str, width: float | None, thickness: float | None, wall: float | None, length: float | None) -> str:
    """In words: "40 x 5 x 1000 mm"."""
    if form == "powder":
        return "powder"
    across = [width] if width == thickness else [width, thickness]
    hollow = f", wall {wall:g} mm" if form == "tube" else ""
    # to what calipers tell
    return " x ".join(f"{round(v or 0.0, 2):g}" for v in (*across, length)) + f" mm{hollow}"


@dataclass(frozen=True)
class Stocked:
    """An item as it is counted: its code in the rack, what it is, and how many are there (of powder: g).

    known_as: to whoever keeps it; patterned: it carries a pattern, and is no plain bar of its steel.
    """

    code: str
    item: RackItem
    there: float
    known_as: int = 0
    patterned: bool = False
