"""A design as it is kept: the recipe, the blade cut from it, and the steps switched off."""

from typing import Annotated, Any, Literal

from pydantic import Field, PrivateAttr, ValidationInfo, field_validator, model_validator

from varistrat.core.bars.identity import Id
from varistrat.core.bars.model import Mm, Model, Step, shown
from varistrat.core.bars.recipe import BarRecipe, Recipe, all_bars
from varistrat.core.blade.measures import HANDLES
from varistrat.core.blade.model import Blade
from varistrat.core.cached import cached_property
from varistrat.core.design.finish_plan import FinishPlan
from varistrat.core.design.stock_plan import StockPlan
from varistrat.core.design.upgrades import FORMAT, upgraded
from varistrat.core.errors import InputError
from varistrat.core.heat.fires.fire import Fire
from varistrat.core.heat.hardening.hardening import Hardening
from varistrat.core.laminate.aim import Aim
from varistrat.core.laminate.readings import Readings
from varistrat.core.limits import MAX_ALL_STEPS
from varistrat.core.reading import parse
from varistrat.core.shop import AS_SHIPS, ShopData, shop_of
from varistrat.core.study.tolerances import Sizes


class HandlePlan(Model):
    """The handle a blade will have: a key of HANDLES, and its size, mm."""

    material: Annotated[str, Field(max_length=40)] = "boxwood"
    length: Mm = Field(115.0, **shown("Handle length", "mm"))
    width: Mm = Field(24.0, **shown("Handle width", "mm"))
    thickness: Mm = Field(18.0, **shown("Handle thickness", "mm"))

    @field_validator("material")
    @classmethod
    def _known(cls, value: str) -> str:
        if value not in HANDLES:
            raise ValueError(f"{value!r} is no handle material here; choose one of {', '.join(HANDLES)}")
        return value


class Document(Model):
    """`off`: ids of the steps switched off, kept but not carried out.

    aim: where the core line is wanted; sizes: the smith's usual errors; readings: of a test etch; fire: how it is heated;
    hardening: what is wanted of it and was read; handle: for the balance; stock: what is added to the blade when it is reckoned;
    finish: how it is sanded, etched, marked and fitted up.
    """

    format: Literal["varistrat.design/1"] = FORMAT
    recipe: Recipe
    blade: Blade | None = None
    off: Annotated[list[Id], Field(max_length=MAX_ALL_STEPS)] = []
    aim: Aim = Aim()
    sizes: Sizes = Sizes()
    readings: Readings = Readings()
    fire: Fire = Fire()
    hardening: Hardening = Hardening()
    handle: HandlePlan | None = None
    stock: StockPlan = StockPlan()
    finish: FinishPlan = FinishPlan()
    _shop: ShopData = PrivateAttr(default=AS_SHIPS)

    @property
    def shop(self) -> ShopData:
        """Whose steels it was read with, and whose numbers it is worked out with."""
        return self._shop

    @model_validator(mode="after")
    def _read_for(self, info: ValidationInfo) -> "Document":
        self._shop = shop_of(info)
        return self

    @model_validator(mode="before")
    @classmethod
    def _up_to_date(cls, data: Any) -> Any:
        return upgraded(data)

    def as_json(self) -> dict[str, Any]:
        """As it is kept: every part with its id; what is said of steps that are gone is left out."""
        out: dict[str, Any] = {"format": self.format, "recipe": self.recipe.as_json(named=True)}
        if self.blade:
            out["blade"] = self.blade.as_json()
        for name in ("aim", "sizes", "readings", "fire", "hardening", "handle", "stock", "finish"):
            value = getattr(self, name)
            said = value.model_dump(mode="json", exclude_defaults=True) if value else {}
            if said or (name == "handle" and value):
                out[name] = said
        steps = {s.id for bar in self.bars.values() for s in bar.steps}
        if "fire" in out and "steps" in out["fire"]:
            out["fire"]["steps"] = [s for s in out["fire"]["steps"] if s["step"] in steps]
        if off := sorted(steps.intersection(self.off)):
            out["off"] = off
        return out

    @cached_property
    def bars(self) -> dict[str, BarRecipe]:
        """Every bar by its id, the whole first."""
        return {bar.id: bar for bar in all_bars(self.recipe.bar)}

    def bar(self, bar: str = "") -> BarRecipe:
        """The recipe of one bar; `bar`: its id, empty for the whole. Raises InputError when it is not there."""
        found = self.bars.get(bar or self.recipe.bar.id)
        if found is None:
            raise InputError.at("bar", f"there is no bar {bar[:24]!r} in this design", "choose one that is there")
        return found

    @cached_property
    def paths(self) -> dict[str, str]:
        """Where each bar stands in the document, by id, as errors name it."""
        out: dict[str, str] = {}

        def walk(bar: BarRecipe, path: str) -> None:
            out[bar.id] = path
            for i, child in enumerate(bar.start.children()):
                walk(child, f"{path}.start.bars[{i}]")

        walk(self.recipe.bar, "recipe.bar")
        return out

    def on(self, bar: str = "") -> list[Step]:
        """The steps of this bar that are carried out."""
        return [s for s in self.bar(bar).steps if s.id not in self.off]

    def carried_out(self) -> Recipe:
        """The recipe without the steps switched off: what is exported."""

        def cleared(bar: BarRecipe) -> BarRecipe:
            children = [cleared(b) for b in bar.start.children()]
            start = bar.start.model_copy(update={"bars": children}) if children else bar.start
            return bar.model_copy(update={"start": start, "steps": self.on(bar.id)})

        if not self.off:
            return self.recipe
        return self.recipe.model_copy(update={"bar": cleared(self.recipe.bar)})


def read_document(data: Any, shop: ShopData = AS_SHIPS) -> Document:
    """A design of any version, read for a shop. Raises InputError with paths."""
    return parse(Document, data, shop)
