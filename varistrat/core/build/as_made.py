"""The design as it is being made: measured sizes take the place of planned ones, and all that follows is worked out anew."""

from collections.abc import Callable, Sequence
from dataclasses import dataclass
from typing import Any

from varistrat.core.bars.bar import Bar
from varistrat.core.bars.forged import Stage
from varistrat.core.bars.model import Step
from varistrat.core.build.as_read import TEMPER, TEST, as_read
from varistrat.core.build.state import BuildState, OperationState
from varistrat.core.design.document import Document, read_document
from varistrat.core.design.worked import Worked
from varistrat.core.errors import InputError
from varistrat.core.route.operation import Operation
from varistrat.core.route.route import Route
from varistrat.core.stock.told import ids_of

MOST_SCALE = 0.3
"""Of a bar's lesser side: more than that is no scale, but a slip of the calipers."""
NEAR = 1e-9


@dataclass(frozen=True)
class Odd:
    """A measurement that cannot be: of which operation, why, and what to do."""

    op: str
    wrong: str
    cure: str


@dataclass(frozen=True)
class AsMade:
    """document: the design with what was measured; changed: ids of the operations whose sizes it took over; odd: those it could not."""

    document: Document
    changed: list[str]
    odd: list[Odd]


def as_made(worked: Worked, route: Route, state: BuildState) -> AsMade:
    """In the order of the work; route: of the design as planned. What was not measured stays so; steel that is missing is told as scale."""
    ids = ids_of(worked)
    alike = [(tuple(ids[a] for a in g.bars), g.steps) for g in route.sheet.together]
    changed: list[str] = []
    odd: list[Odd] = []
    for op in route.operations:
        said = state.of(op.id)
        if op.step is None or not _sizes(said):
            continue
        try:
            again = _with(worked, op, said, alike)
            if again.document != worked.document:
                changed.append(op.id)
            worked = again
        except InputError as e:
            odd.append(Odd(op.id, e.problems[0].wrong, e.problems[0].cure))
    try:
        read = as_read(worked, state)
    except InputError as e:
        odd.append(Odd(e.problems[0].path.split(".")[0], e.problems[0].wrong, e.problems[0].cure))
        read = worked.document
    if read != worked.document:
        changed += [op for op in (TEST, TEMPER) if state.of(op).measured or state.of(op).times]
    return AsMade(read, changed, odd)


def _sizes(said: OperationState) -> dict[str, float]:
    """What was measured of the bar as a whole, mm."""
    names = ("length", "width", "thickness", "diameter")
    found = {n: said.last(n) for n in names}  # type: ignore[arg-type]
    return {n: v for n, v in found.items() if v is not None}


def _with(worked: Worked, op: Operation, said: OperationState, alike: Sequence[tuple[tuple[str, ...], int]]) -> Worked:
    forged = worked.bar(op.bar)
    at = next((i for i, s in enumerate(forged.stages) if s.step.id == op.step), None)
    if at is None:
        raise InputError.at("step", "this step is no longer in the plan", "void the entry, or put the step back")
    sizes = _sizes(said)
    if "length" in sizes:
        # bars that are still one piece are measured as one
        sizes["length"] /= op.bars
    step = measured_step(forged.stages[at], forged.bars[at], sizes)
    data = worked.document.as_json()
    # bars alike so far are one piece of work: what was measured of it holds for all of them
    mates = next((bars for bars, steps in alike if bars[0] == op.bar and at < steps), (op.bar,))
    for bar in mates:
        steps = _bar(data["recipe"]["bar"], bar)["steps"]
        planned = [s for s in steps if s["id"] not in data.get("off", ())]
        mine = step.model_dump(mode="json", by_alias=True, exclude_defaults=True) | {"kind": planned[at]["kind"], "id": planned[at]["id"]}
        steps[steps.index(planned[at])] = mine
    again = Worked.of(read_document(data, worked.shop))
    if len(again.problems) > len(worked.problems):
        raise InputError(again.problems)
    return again


def _bar(bar: dict[str, Any], wanted: str) -> dict[str, Any]:
    found = [bar] if bar["id"] == wanted else [_bar(b, wanted) for b in bar["start"].get("bars", ())]
    return next((b for b in found if b), {})


def measured_step(stage: Stage, whole: Bar, sizes: dict[str, float]) -> Step:
    """The step so that the bar comes out as measured; whole: the bar before, with its scale still on.

    Raises InputError where no scale explains it: more steel than went in, or less than a bar could lose.
    """
    planned = stage.after
    across = sizes.get("diameter")
    width = sizes.get("width", across if across is not None else planned.width)
    thickness = sizes.get("thickness", across if across is not None else planned.thickness)
    asked = {"width", "thickness", "diameter"} & set(sizes)

    def done(scale: float) -> tuple[Step, Bar]:
        before = whole.peeled(scale)
        step = stage.step.as_done(before, width, thickness) if asked else stage.step
        step = step.model_copy(update={"scale": scale})
        return step, step.size(before).after

    if "length" not in sizes:
        return done(stage.step.scale)[0]
    return done(_scale(lambda s: done(s)[1].length, sizes["length"], stage.step.scale, MOST_SCALE * min(whole.width, whole.thickness)))[0]


def _scale(length: Callable[[float], float], measured: float, planned: float, most: float) -> float:
    """The scale at which the bar is as long as measured: the more is lost, the shorter it is."""
    from scipy.optimize import brentq

    longest, shortest = length(0.0), length(most)
    if longest - shortest <= NEAR * longest:
        # scale makes it no shorter (a twist, a trim): its length says nothing of what was lost
        return planned
    if not shortest <= measured <= longest:
        much = "more" if measured > longest else "far less"
        wrong = f"{measured:.4g} mm at this section is {much} steel than went in: without any scale it is {longest:.4g} mm long"
        raise InputError.at("length", wrong, "measure all three again")
    return float(brentq(lambda s: length(s) - measured, 0.0, most, xtol=1e-9))
