"""The recipe file `varistrat.recipe/1`: models, versions, and reading it safely."""

from collections.abc import Iterator
from typing import TYPE_CHECKING, Annotated, Any, Final, Literal, TypeAlias, Union

from pydantic import Field, model_validator

from varistrat.core.bars.identity import GivenId, plain, told_twice, with_ids
from varistrat.core.bars.model import Model, Note, Start, Step
from varistrat.core.bars.starts import STARTS
from varistrat.core.bars.starts.assembly import Assembly
from varistrat.core.bars.steps import STEPS
from varistrat.core.limits import MAX_ALL_BARS, MAX_ALL_STEPS, MAX_STEPS
from varistrat.core.reading import check_format, parse
from varistrat.core.shop import AS_SHIPS, ShopData

FORMAT: Final = "varistrat.recipe/1"


if TYPE_CHECKING:
    AnyStart: TypeAlias = Start
    AnyStep: TypeAlias = Step
else:
    # one of the registered kinds, told apart by "kind"
    AnyStart = Annotated[Union[STARTS], Field(discriminator="kind")]  # noqa: UP007
    AnyStep = Annotated[Union[STEPS], Field(discriminator="kind")]  # noqa: UP007


class BarRecipe(Model):
    """A start and what is done to it, in the order of the work."""

    id: GivenId = ""
    start: AnyStart
    steps: Annotated[list[AnyStep], Field(max_length=MAX_STEPS)] = []
    note: Note = ""


Assembly.model_rebuild(_types_namespace={"BarRecipe": BarRecipe})
BarRecipe.model_rebuild()


def all_bars(bar: BarRecipe) -> Iterator[BarRecipe]:
    """The bar and every bar that goes into it, however deep."""
    yield bar
    for child in bar.start.children():
        yield from all_bars(child)


def in_order(bar: BarRecipe) -> Iterator[BarRecipe]:
    """The same in the order of the work: what goes into a bar before the bar."""
    for child in bar.start.children():
        yield from in_order(child)
    yield bar


class Recipe(Model):
    """A recipe file: one bar, told from its start through its steps. Two parts with one id are refused."""

    format: Literal["varistrat.recipe/1"] = FORMAT
    name: Annotated[str, Field(max_length=200)] = ""
    note: Note = ""
    bar: BarRecipe

    @model_validator(mode="before")
    @classmethod
    def _named(cls, data: Any) -> Any:
        if not isinstance(data, dict) or not isinstance(data.get("bar"), dict):
            return data
        if twice := told_twice(data["bar"]):
            raise ValueError(f"two parts have the id {twice[:24]!r}; give one of them another, or leave it out")
        return {**data, "bar": with_ids(data["bar"])}

    @model_validator(mode="after")
    def _not_too_many(self) -> "Recipe":
        bars = steps = 0
        for bar in all_bars(self.bar):
            bars += 1
            steps += len(bar.steps)
        if bars > MAX_ALL_BARS:
            raise ValueError(f"{bars} bars in one recipe, more than {MAX_ALL_BARS}; join fewer, or restack")
        if steps > MAX_ALL_STEPS:
            raise ValueError(f"{steps} steps in one recipe, more than {MAX_ALL_STEPS}; take some out")
        return self

    def as_json(self, named: bool = False) -> dict[str, Any]:
        """Plain JSON; what is at its default is left out, so are ids that reading would give, unless all are asked for (`named`)."""
        out: dict[str, Any] = {"format": self.format}
        out.update(self.model_dump(mode="json", by_alias=True, exclude_defaults=True, exclude={"bar"}))
        bar = bar_as_json(self.bar)
        return out | {"bar": bar if named else plain(bar)}


def bar_as_json(bar: BarRecipe) -> dict[str, Any]:
    """Plain JSON with all ids; what is at its default is left out."""

    def part(model: Start | Step) -> dict[str, Any]:
        kind = {"kind": model.kind}  # type: ignore[union-attr]
        return kind | model.model_dump(mode="json", by_alias=True, exclude_defaults=True, exclude={"bars"})

    out: dict[str, Any] = {"id": bar.id} if bar.id else {}
    out |= {"start": part(bar.start), "steps": [part(s) for s in bar.steps]}
    if bar.start.children():
        out["start"]["bars"] = [bar_as_json(b) for b in bar.start.children()]
    return out | ({"note": bar.note} if bar.note else {})


def read_recipe(data: Any, shop: ShopData = AS_SHIPS) -> Recipe:
    """A recipe of any known version, with the steels of a shop. Raises InputError with paths."""
    if isinstance(data, dict):
        check_format(data, FORMAT)
    return parse(Recipe, data, shop)
