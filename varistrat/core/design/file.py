"""A whole design as one file, `varistrat.design/1`: everything that is kept of it. Recipe and blade files are taken too."""

from dataclasses import dataclass
from typing import Any

from varistrat.core.bars.recipe import FORMAT as RECIPE
from varistrat.core.bars.recipe import read_recipe
from varistrat.core.blade.model import FORMAT as BLADE
from varistrat.core.blade.model import read_blade
from varistrat.core.design.document import Document, read_document
from varistrat.core.design.upgrades import FORMAT
from varistrat.core.errors import InputError
from varistrat.core.shop import AS_SHIPS, ShopData
from varistrat.core.starters import DEFAULT_BLADE

MAX_NAME, MAX_ABOUT = 200, 400


@dataclass(frozen=True)
class Design:
    """What a file holds. `with_blade`: whether the blade was in it (a recipe file comes with a plain one to look at it on)."""

    name: str
    about: str
    document: Document
    with_blade: bool = True


def write_design(name: str, about: str, document: Document) -> dict[str, Any]:
    """As plain JSON."""
    out: dict[str, Any] = {"format": FORMAT, "name": name} | ({"about": about} if about else {})
    return out | document.as_json()


def read_design(data: Any, shop: ShopData = AS_SHIPS) -> Design:
    """From a design, recipe or blade file, read for a shop. Raises InputError with paths."""
    kind = data.get("format") if isinstance(data, dict) else None
    if kind == RECIPE:
        name = read_recipe(data, shop).name
        return Design(name, "", read_document({"recipe": data, "blade": DEFAULT_BLADE}, shop), False)
    if kind == BLADE:
        if not data.get("recipe"):
            raise InputError.at("recipe", "this blade file has no recipe in it", 'save it with its recipe, or add "recipe"')
        blade = read_blade(data, shop)
        assert blade.recipe
        name = blade.name or blade.recipe.name
        return Design(name, "", read_document({"recipe": data["recipe"], "blade": {k: v for k, v in data.items() if k != "recipe"}}, shop))
    if kind == FORMAT:
        rest = dict(data)
        name, about = _text(rest.pop("name", ""), "name", MAX_NAME), _text(rest.pop("about", ""), "about", MAX_ABOUT)
        return Design(name, about, read_document(rest, shop))
    if not isinstance(data, dict):
        raise InputError.at("", "this is not a design, recipe or blade file", "choose one that was saved here")
    if kind is None:
        raise InputError.at("format", "the format is missing", f'add "format": "{FORMAT}" (or "{RECIPE}", "{BLADE}")')
    raise InputError.at(
        "format", f"{str(kind)[:60]!r} is not a format this version reads", f'it reads "{FORMAT}", "{RECIPE}" and "{BLADE}"'
    )


def _text(value: Any, path: str, most: int) -> str:
    if not isinstance(value, str):
        raise InputError.at(path, "this is not text", "write it in quotes")
    if len(value) > most:
        raise InputError.at(path, f"{len(value)} letters, more than {most}", "shorten it")
    return value
