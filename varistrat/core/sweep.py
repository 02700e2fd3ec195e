"""What if: one or two numbers of a design run through a range, a small picture for every pair."""

import re
from collections.abc import Callable, Iterator
from concurrent.futures import Executor, Future
from copy import deepcopy
from dataclasses import dataclass
from typing import Annotated, Any

import numpy as np
from pydantic import Field

from varistrat.core.bars.model import Model
from varistrat.core.bars.recipe import BarRecipe
from varistrat.core.bars.trace import Trace
from varistrat.core.design.document import Document, read_document
from varistrat.core.design.ledger import label
from varistrat.core.design.worked import Worked
from varistrat.core.errors import InputError
from varistrat.core.limits import MAX_SHEET_CELLS
from varistrat.core.pattern.picture import SCREEN, Subject, draw
from varistrat.core.pattern.png import png
from varistrat.core.pattern.views import BladeView, FaceView, View
from varistrat.core.shop import AS_SHIPS, ShopData

PATH = re.compile(r"[a-z_]+(\[(\d+|\*)\])*(\.[a-z_]+(\[(\d+|\*)\])*)*")


class Variation(Model):
    """A number of the design, named by its path, from one value to another in so many even steps."""

    path: Annotated[str, Field(max_length=300, pattern=PATH.pattern)]
    low: float
    high: float
    count: Annotated[int, Field(ge=2, le=24)]

    def values(self, whole: bool) -> list[float]:
        """Even steps from low to high; `whole`: to whole numbers, each once."""
        run = np.linspace(self.low, self.high, self.count)
        return [float(v) for v in (dict.fromkeys(np.rint(run)) if whole else run)]


@dataclass(frozen=True)
class Parameter:
    """A number that can be varied: where it stands, what it is called, its value now."""

    path: str
    label: str
    value: float
    unit: str
    whole: bool


@dataclass(frozen=True)
class SheetCell:
    """One picture of the sheet: the values it stands for, and the PNG or why there is none."""

    values: tuple[float, ...]
    picture: bytes | None
    problem: str = ""


def parameters(document: Document) -> list[Parameter]:
    """Every number of the recipe and the blade's outline that can be varied, in the order of the work."""
    out: list[Parameter] = []

    def look(model: Model, path: str, name: str) -> None:
        for key, info in type(model).model_fields.items():
            value = getattr(model, key)
            extra = info.json_schema_extra if isinstance(info.json_schema_extra, dict) else {}
            here = f"{path}.{info.alias or key}"
            if isinstance(value, Model):
                look(value, here, name)
            elif isinstance(value, int | float) and not isinstance(value, bool):
                title = f"{name}: {(info.title or key).lower()}" if name else info.title or key
                out.append(Parameter(here, title, float(value), str(extra.get("unit", "")), isinstance(value, int)))

    def bars(bar: BarRecipe, path: str, name: str) -> None:
        children = bar.start.children()
        if len(children) > 1 and len({tuple(s.kind for s in c.steps) for c in children}) == 1:
            # bars made alike: one number for all of them
            for i, step in enumerate(children[0].steps):
                look(step, f"{path}.start.bars[*].steps[{i}]", f"{name}all {len(children)} bars, {i + 1} {step.title}")
        for i, child in enumerate(children):
            bars(child, f"{path}.start.bars[{i}]", f"{name}bar {i + 1} ({label(child)[:28]}), ")
        look(bar.start, f"{path}.start", f"{name}{bar.start.title}".strip())
        for i, step in enumerate(bar.steps):
            look(step, f"{path}.steps[{i}]", f"{name}{i + 1} {step.title}")

    bars(document.recipe.bar, "recipe.bar", "")
    if document.blade:
        look(document.blade.place, "blade.place", "Place of the blade")
    return out


def put(data: dict[str, Any], path: str, value: float, whole: bool) -> None:
    """Set one number in a design's JSON ([*]: in every bar there). Raises InputError for a path that leads nowhere."""
    keys = [int(k) if k.isdecimal() else k for k in re.split(r"\.|\[|\]\.?", path) if k]

    def set_in(here: Any, rest: list[int | str]) -> None:
        key = rest[0]
        if len(rest) == 1 and isinstance(here, dict) and isinstance(key, str):
            here[key] = round(value) if whole else value
        elif key == "*" and isinstance(here, list):
            for one in here:
                set_in(one, rest[1:])
        else:
            if isinstance(here, dict) and isinstance(rest[1], str) and rest[1] != "*":
                here.setdefault(key, {})  # what stands at its default is left out of the JSON
            try:
                set_in(here[key], rest[1:])
            except (KeyError, IndexError, TypeError):
                raise InputError.at("path", f"{path} is not a number of this design", "choose another number") from None

    set_in(data, keys)


def plan(document: Document, axes: list[Variation]) -> list[tuple[tuple[float, ...], dict[str, Any]]]:
    """The values and the design's JSON of every cell, row by row (the second axis). Raises InputError."""
    known = {p.path: p for p in parameters(document)}
    if not 1 <= len(axes) <= 2:
        raise InputError.at("axes", f"{len(axes)} numbers to vary", "choose one or two")
    if len(axes) == 2 and axes[0].path == axes[1].path:
        raise InputError.at("axes[1].path", "the same number twice", "choose another")
    for i, axis in enumerate(axes):
        if axis.path not in known:
            raise InputError.at(f"axes[{i}].path", f"{axis.path[:80]} is not a number of this design", "choose another")
    runs = [axis.values(known[axis.path].whole) for axis in axes]
    grid = [(a,) for a in runs[0]] if len(runs) == 1 else [(a, b) for b in runs[1] for a in runs[0]]
    if len(grid) > MAX_SHEET_CELLS:
        raise InputError.at("axes", f"{len(grid)} pictures on one sheet", f"ask for {MAX_SHEET_CELLS} or fewer")
    base = document.as_json()
    out = []
    for values in grid:
        data = deepcopy(base)
        for axis, value in zip(axes, values, strict=True):
            put(data, axis.path, value, known[axis.path].whole)
        out.append((tuple(values), data))
    return out


class _Here(Executor):
    """Works at once, in the thread that asks: a thumbnail is one band."""

    def submit(self, fn: Callable[..., Any], /, *args: Any, **kwargs: Any) -> Future[Any]:
        future: Future[Any] = Future()
        try:
            future.set_result(fn(*args, **kwargs))
        except BaseException as e:  # handed on to whoever asks for the result
            future.set_exception(e)
        return future


def thumbnail(data: dict[str, Any], width: int, height: int, shop: ShopData = AS_SHIPS) -> bytes:
    """The right face of the blade (or the bar's face) of a design's JSON, fitted into width x height. Raises InputError."""
    worked = Worked.of(read_document(data, shop))
    if worked.problems:
        raise InputError(worked.problems)
    view: View
    if worked.cut:
        view, trace = BladeView(worked.cut.placed, "right", margin=1.0), worked.cut.trace
    else:
        bar = worked.forged.bar
        view, trace = FaceView(bar, 0.3 * bar.thickness, 0.0, min(bar.length, bar.width * width / height)), Trace(worked.forged)
    across, tall = view.size
    px = max(16, int(min(width, height * across / tall)))
    return png(draw(Subject(trace), view, px, _Here(), SCREEN), px / across)


def sheet(
    document: Document,
    axes: list[Variation],
    executor: Executor,
    cancelled: Callable[[], bool],
    size: tuple[int, int] = (320, 100),
) -> Iterator[SheetCell]:
    """Every picture of the sheet, in order, as they get done; stops early once `cancelled` says so."""
    jobs = plan(document, axes)

    waiting = [executor.submit(_cell, values, data, size, document.shop) for values, data in jobs]
    try:
        for future in waiting:
            if cancelled():
                return
            yield future.result()
    finally:
        for future in waiting:
            future.cancel()


def _cell(values: tuple[float, ...], data: dict[str, Any], size: tuple[int, int], shop: ShopData) -> SheetCell:
    try:
        return SheetCell(values, thumbnail(data, *size, shop))
    except InputError as e:
        return SheetCell(values, None, e.problems[0].line()[:300])
