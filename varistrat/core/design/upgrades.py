"""Older documents brought up to date: one function a version, each tested on documents that its version wrote.

They only rearrange: what is wrong in a document is wrong afterwards too, and is said by the models that read it.
"""

from collections.abc import Callable
from typing import Any, Final

from varistrat.core.bars.identity import with_ids

Json = dict[str, Any]
FORMAT: Final = "varistrat.design/1"


def _from_0(document: Json) -> Json:
    """Of before documents had a version: steps switched off and heats told by address, `[bar, ..., step]` or a bare number."""
    # also where it says that it has none
    return document | {"format": FORMAT}


GONE: Final = object()

UPGRADES: dict[str | None, Callable[[Json], Json]] = {None: _from_0}
"""By the version they bring up to date."""


def upgraded(document: Any) -> Any:
    """A document's JSON as this version keeps it: every part with its id, steps told by id."""
    if not isinstance(document, dict):
        return document
    while isinstance(document.get("format"), str | None) and (upgrade := UPGRADES.get(document.get("format"))):
        document = upgrade(document)
    recipe = document.get("recipe")
    if not isinstance(recipe, dict) or not isinstance(recipe.get("bar"), dict):
        return document
    bar = with_ids(recipe["bar"])
    return _told_by_id(document | {"recipe": recipe | {"bar": bar}}, bar)


def _told_by_id(document: Json, bar: Json) -> Json:
    """Addresses become ids, also in a file written by hand; those that lead nowhere go."""
    out = dict(document)
    if isinstance(off := document.get("off"), list):
        out["off"] = [i for i in (_id(o, bar) for o in off) if i is not GONE]
    fire = document.get("fire")
    if isinstance(fire, dict) and isinstance(steps := fire.get("steps"), list):
        told = []
        for said in steps:
            if isinstance(said, dict) and "at" in said and "step" not in said:
                rest = {k: v for k, v in said.items() if k != "at"}
                if (step := _id(said["at"], bar)) is GONE:
                    continue
                said = {"step": step} | rest
            told.append(said)
        out["fire"] = fire | {"steps": told}
    return out


def _id(told: Any, bar: Json) -> Any:
    """The id of the step at an address; GONE if there is no such step, and whatever is no address as it is."""
    address = [told] if isinstance(told, int) and not isinstance(told, bool) else told
    if not isinstance(address, list) or not address or not all(isinstance(n, int) and not isinstance(n, bool) and n >= 0 for n in address):
        return told
    here: Any = bar
    for n in address[:-1]:
        here = _nth(_in(_in(here, "start"), "bars"), n)
    step = _nth(_in(here, "steps"), address[-1])
    return _in(step, "id") or GONE


def _in(part: Any, key: str) -> Any:
    return part.get(key) if isinstance(part, dict) else None


def _nth(parts: Any, n: int) -> Any:
    return parts[n] if isinstance(parts, list) and n < len(parts) else None
