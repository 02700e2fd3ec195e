"""What is known of a steel, figure by figure, and where each figure comes from."""

from typing import Annotated, Any, Literal, get_args

from pydantic import AfterValidator, BeforeValidator, Field, model_validator

from varistrat.core.laws.quench import Quench
from varistrat.core.model import Model

ELEMENTS = ("C", "Mn", "Si", "Cr", "Ni", "Mo", "V", "W", "Cu", "Co", "P", "S", "O")
Hardens = Literal["yes", "shallow", "partly", "no"]
Etchant = Literal["ferric", "muriatic", "coffee", "nital"]
ETCHANTS: tuple[Etchant, ...] = get_args(Etchant)
Family = Literal[
    "plain carbon", "nickel-bearing", "chromium and vanadium", "tool", "powder", "mild and iron",
    "nickel", "stainless", "copper", "meteoritic", "reclaimed",
]  # fmt: skip
Cycle = Literal["plain", "high_carbon", "very_high_carbon", "low_chromium", "52100", "o1", "l6", "stainless", "air_tool"]
Sure = Literal["sure", "fair", "indicative", "computed", "own"]
"""`computed`: from the composition, by a formula of ours; `own`: the shop's own figure."""
TEMPERS = (150, 175, 200, 225, 250, 300, 350)
"""Tempering temperatures of the table, C."""

Celsius = Annotated[float, Field(ge=0, le=1700)]
Hrc = Annotated[float, Field(ge=0, le=70)]
Tone = Annotated[float, Field(ge=0, le=10)]
Share = Annotated[float, Field(ge=0, le=100)]


def _two(value: Any) -> Any:
    return tuple(value) if isinstance(value, list) else value


def _in_order(value: tuple[float, float]) -> tuple[float, float]:
    if value[0] > value[1]:
        raise ValueError(f"it goes from {value[0]:g} down to {value[1]:g}; put the lower one first")
    return value


def _elements(value: dict[str, float]) -> dict[str, float]:
    # a name may be empty: it is asked whether there is one, not whether it says anything
    if (odd := next((e for e in value if e not in ELEMENTS), None)) is not None:
        raise ValueError(f"no element {odd[:10]!r} here; use {', '.join(ELEMENTS)}")
    return value


Composition = Annotated[dict[str, Share], AfterValidator(_elements)]
Range = Annotated[tuple[Celsius, Celsius], BeforeValidator(_two), AfterValidator(_in_order)]
Minutes = Annotated[
    tuple[Annotated[float, Field(ge=0, le=600)], Annotated[float, Field(ge=0, le=600)]], BeforeValidator(_two), AfterValidator(_in_order)
]
HrcRange = Annotated[tuple[Hrc, Hrc], BeforeValidator(_two), AfterValidator(_in_order)]
Tempers = Annotated[tuple[Hrc, Hrc, Hrc, Hrc, Hrc, Hrc, Hrc], BeforeValidator(_two)]


class Source(Model):
    """Where a figure is from, and how sure it is."""

    text: Annotated[str, Field(max_length=300)]
    sure: Sure


GROUPS: dict[str, tuple[str, ...]] = {
    "composition": ("composition",),
    "density": ("density",),
    "hot": ("solidus", "forge", "weld"),
    "hardening": ("hardens", "austenitise", "soak", "quench", "as_quenched", "cycle"),
    "temper": ("temper",),
    "tone": ("tone", "etch_rate"),
    "flow": ("flow",),
    "cost": ("cost", "price"),
}
"""Figures by where they come from: each group has one source."""
OWN = Source(text="your shop's own", sure="own")


class Steel(Model):
    """A material. Composition in weight %, temperatures in C, hardness in HRC.

    `tone` runs from 0 (black) to 10 (mirror) after each etchant, hardened, the oxide left on the dark
    layers; `etch_rate` is the depth eaten in um/min by ferric chloride of about 10 % by weight at 20 C.
    `flow`: stiffness at forging heat, 1084 = 1 (None: worked out from the composition). `cost`: a kg
    against plain 1084 bar; `price`: of a kg, in the shop's own money. `own`: figures the shop put in.
    """

    key: Annotated[str, Field(pattern=r"^[a-z0-9][a-z0-9-]{0,29}$")]
    name: Annotated[str, Field(min_length=1, max_length=60)]
    family: Family
    composition: Composition
    density: Annotated[float, Field(ge=1000, le=20000)]
    solidus: Celsius
    forge: Range
    weld: Range | None = None
    hardens: Hardens
    austenitise: Range | None = None
    soak: Minutes | None = None
    quench: Quench | None = None
    as_quenched: HrcRange | None = None
    temper: Tempers | None = None
    cycle: Cycle | None = None
    tone: dict[Etchant, Tone]
    etch_rate: Annotated[float, Field(ge=0, le=50)]
    why_tone: Annotated[str, Field(max_length=200)] = ""
    flow: Annotated[float, Field(gt=0.05, le=5)] | None = None
    cost: Annotated[float, Field(ge=0, le=10000)] | None = None
    price: Annotated[float, Field(ge=0, le=1e6)] | None = None
    note: Annotated[str, Field(max_length=400)] = ""
    source: dict[str, Source] = {}
    own: tuple[str, ...] = ()

    @model_validator(mode="after")
    def _sensible(self) -> "Steel":
        total = sum(self.composition.values())
        if total > 100.5:
            raise ValueError(f"its composition adds up to {total:.4g} %; take some out")
        for name, top in (("forge", self.forge), ("weld", self.weld), ("austenitise", self.austenitise)):
            if top and top[1] >= self.solidus:
                raise ValueError(f"{name} goes up to {top[1]:g} C, but it begins to melt at {self.solidus:g} C; lower it")
        if self.temper and any(a < b - 1e-9 for a, b in zip(self.temper, self.temper[1:], strict=False)):
            raise ValueError("its hardness rises with the tempering temperature; put the table in order, 150 C first")
        if set(self.tone) != set(ETCHANTS):
            raise ValueError(f"a tone is wanted for each of {', '.join(ETCHANTS)}")
        if self.hardens != "no" and not (self.austenitise and self.quench and self.as_quenched and self.temper):
            raise ValueError("a steel that hardens wants austenitise, quench, as_quenched and temper; give them, or say it hardens: no")
        return self

    def share(self, element: str) -> float:
        """Weight %; 0 when it is not listed."""
        return self.composition.get(element, 0.0)

    @property
    def hardening(self) -> bool:
        """Whether it takes a full hardening of its own."""
        return self.hardens in ("yes", "shallow")

    @property
    def shade(self) -> float:
        """Tone in ferric chloride, which pictures are drawn with unless another bath is asked for."""
        return self.tone["ferric"]

    def source_of(self, figure: str) -> Source:
        """Where one figure comes from."""
        if figure in self.own:
            return OWN
        group = next((g for g, names in GROUPS.items() if figure in names), figure)
        return self.source.get(group, Source(text="worked out from the composition", sure="computed"))
