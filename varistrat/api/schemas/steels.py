"""Steels, the shop's own figures and pairings in and out of the API."""

from typing import Annotated, Any, Literal

from ninja import Schema
from pydantic import Field

from varistrat.core.laws.quench import Quench
from varistrat.core.limits import MAX_FILE_BYTES
from varistrat.core.pairing.pairing import Reason, Use
from varistrat.core.steels.estimate import CouponTone, Oil, Rust, Spark
from varistrat.core.steels.model import ETCHANTS, Etchant

Key = Annotated[str, Field(max_length=40)]
Pair = tuple[float, float]


class SourceOut(Schema):
    text: str
    sure: Literal["sure", "fair", "indicative", "computed", "own"]


class SteelOut(Schema):
    """See `Steel`. `usual`: the figures ours would be where the shop put its own; `stiffness`: at forging heat, 1084 = 1."""

    key: str
    name: str
    family: str
    composition: dict[str, float]
    density: float
    solidus: float
    forge: Pair
    weld: Pair | None
    hardens: Literal["yes", "shallow", "partly", "no"]
    austenitise: Pair | None
    soak: Pair | None
    quench: Quench | None
    as_quenched: Pair | None
    temper: list[float] | None
    tone: dict[str, float]
    shade: float
    retired: bool
    """Taken out of the list; kept because something that was saved names it."""
    grey: float
    """Linear brightness it is drawn with."""
    etch_rate: float
    why_tone: str
    stiffness: float
    flow: float | None
    cost: float | None
    price: float | None
    note: str
    own: list[str]
    listed: bool
    in_use: bool
    sources: dict[str, SourceOut]
    usual: dict[str, Any]


class FiguresIn(Schema):
    """Figures by name, as `Steel` has them; one that is null goes back to ours."""

    figures: dict[str, Any] = Field(max_length=40)


class NewSteelIn(FiguresIn):
    key: Key


class EstimateIn(Schema):
    """given: figures of the maker's, for steels that no law here reaches."""

    composition: dict[str, Any] = Field(max_length=20)
    given: dict[str, Any] = Field({}, max_length=20)


class CouponsIn(Schema):
    spark: Spark
    water_hrc: float | None = None
    oil: Oil = "not tried"
    look: CouponTone = "dark"
    rust: Rust = "not tried"


class EstimateOut(Schema):
    """What would be worked out, to be looked at before it is kept. `said`: what it was inferred from."""

    figures: dict[str, Any]
    said: str


class CsvIn(Schema):
    text: str = Field(max_length=MAX_FILE_BYTES)


class TakenOut(Schema):
    taken: int


class InUseIn(Schema):
    """base: those that were in use when they were looked at."""

    base: list[Key] | None = Field(None, max_length=300)
    keys: list[Key] = Field(max_length=300)


class FigureOut(Schema):
    """A number the shop can put its own in place of."""

    key: str
    group: str
    label: str
    unit: str
    usual: float
    now: float
    own: bool
    low: float
    high: float
    source: str
    hint: str


class FigureIn(Schema):
    value: float | None = None


class PurposeIn(Schema):
    """thickness: of the blade at its spine, mm; temper: the common one, C."""

    use: Use = "edge"
    thickness: float = Field(4.0, ge=0.5, le=60)
    etchant: Etchant = "ferric"
    temper: float = Field(200.0, ge=150, le=350)


class PairingIn(PurposeIn):
    steels: list[Key] = Field(min_length=2, max_length=6)
    shares: list[Annotated[float, Field(gt=0, le=1000)]] = Field([], max_length=6)


class PartOut(Schema):
    """One steel of a pairing. Carbon in %, shares 0 to 1, temperatures C; none where it does not harden."""

    key: str
    name: str
    share: float
    lightness: float
    grey: float
    carbon: float
    carbon_own: float
    in_solution: float | None
    ms: float | None
    retained: Pair | None
    as_quenched: float | None
    hrc: float | None


class PairingOut(Schema):
    verdict: Literal["good", "care", "no"]
    uses: dict[Use, Literal["good", "care", "no"]]
    weld: Pair | None
    forge: Pair | None
    window: Pair | None
    dissolving: Pair | None
    """Heats that put 0.6 to 0.8 % carbon in solution in each that hardens, C."""
    heat: float
    soak: float
    quench: Quench | None
    stiffness: float
    parts: list[PartOut]
    reasons: list[Reason]


class MatrixIn(PurposeIn):
    steels: list[Key] = Field(min_length=2, max_length=40)


class PairCellOut(Schema):
    steels: list[str]
    verdict: Literal["good", "care", "no"]
    word: str
    """What decides it, in a few words."""


class SuggestIn(PurposeIn):
    """within: keys to choose from; empty: the whole list."""

    within: list[Key] = Field([], max_length=300)


class SuggestionOut(PairCellOut):
    """apart: difference of lightness, L*; quench, hrc (after the common temper): of those that harden."""

    why: list[str]
    apart: float
    quench: Quench | None
    hrc: list[float]


BATHS = ETCHANTS
