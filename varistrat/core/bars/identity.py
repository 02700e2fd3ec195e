"""Names of bars, starts and steps: short, one in a recipe, kept when moved. Whatever speaks of a step speaks of its id.

Files may leave them out: they are given on reading, always the same ones to the same recipe.
"""

from collections import Counter
from collections.abc import Iterator
from typing import Annotated, Any

from pydantic import BaseModel, Field

Json = dict[str, Any]
Id = Annotated[str, Field(pattern=r"^[A-Za-z0-9_-]{1,24}$")]
GivenId = Annotated[str, Field(pattern=r"^[A-Za-z0-9_-]{0,24}$", title="Id", json_schema_extra={"hidden": True})]
"""An id as a field of what has one; empty: not given yet."""


def parts_of(bar: Any) -> Iterator[tuple[str, Json]]:
    """(`bar`, `start` or `step`, the part) of a bar's JSON and of all that go into it; what is not as it should be is passed by."""
    if not isinstance(bar, dict):
        return
    yield "bar", bar
    start = bar.get("start")
    if isinstance(start, dict):
        yield "start", start
        children = start.get("bars")
        for child in children if isinstance(children, list) else ():
            yield from parts_of(child)
    steps = bar.get("steps")
    for step in steps if isinstance(steps, list) else ():
        if isinstance(step, dict):
            yield "step", step


def _copied(bar: Any) -> Any:
    """So much of it anew that ids can be put in."""
    if not isinstance(bar, dict):
        return bar
    out = dict(bar)
    if isinstance(start := out.get("start"), dict):
        out["start"] = dict(start)
        if isinstance(children := start.get("bars"), list):
            out["start"]["bars"] = [_copied(c) for c in children]
    if isinstance(steps := out.get("steps"), list):
        out["steps"] = [dict(s) if isinstance(s, dict) else s for s in steps]
    return out


def with_ids(bar: Any) -> Any:
    """A bar's JSON with an id for whatever has none: b1, p1, s1 and so on in the order it is written, those in use passed over."""
    out = _copied(bar)
    parts = list(parts_of(out))
    taken = {p["id"] for _, p in parts if isinstance(p.get("id"), str)}
    count: Counter[str] = Counter()
    for what, part in parts:
        if part.get("id") not in (None, ""):
            continue
        letter = {"bar": "b", "start": "p", "step": "s"}[what]
        while True:
            count[letter] += 1
            if (name := f"{letter}{count[letter]}") not in taken:
                break
        part["id"] = name
    return out


def without_ids(bar: Json) -> Json:
    """A bar's JSON without its ids, all the way down."""
    out: Json = _copied(bar)
    for _, part in parts_of(out):
        part.pop("id", None)
    return out


def made_alike(one: BaseModel, other: BaseModel) -> bool:
    """Whether two parts are the same in everything but their ids."""

    def bare(value: Any) -> Any:
        if isinstance(value, dict):
            return {k: bare(v) for k, v in value.items() if k != "id"}
        return [bare(v) for v in value] if isinstance(value, list) else value

    return type(one) is type(other) and bare(one.model_dump()) == bare(other.model_dump())


def plain(bar: Json) -> Json:
    """Without ids where they are the ones that reading would give: what is at its default is left out."""
    bare = without_ids(bar)
    return bare if with_ids(bare) == bar else bar


def told_twice(bar: Any) -> str | None:
    """An id that two parts of a bar's JSON share, if any."""
    seen = Counter(p["id"] for _, p in parts_of(bar) if isinstance(p.get("id"), str) and p["id"])
    return next((name for name, times in seen.items() if times > 1), None)
