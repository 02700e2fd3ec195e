"""The card that goes with a blade: what it is, how it was made, what was measured, what is not perfect. Nothing else."""

from dataclasses import dataclass

from varistrat.core.bars.trace import Trace
from varistrat.core.build.entry import FaultEntry, TestedEntry
from varistrat.core.build.plan import Plan
from varistrat.core.build.state import BuildState
from varistrat.core.cutting.layers import layers_across
from varistrat.core.design.worked import Worked
from varistrat.core.finish.edge_test import told
from varistrat.core.finish.grade import OF_FAULT, POINTS, Graded, graded, with_test
from varistrat.core.finish.purpose import edge_angle

LOOK = "blade:look"
CARE = (
    "Wash it by hand at once, dry it, a drop of oil. No dishwasher, no acid food left on it.",
    "Keep it dry and out of its leather sheath: leather holds damp and salts, and the steel rusts.",
    "Cut on wood. Do not lever, do not strike its back.",
    "The pattern wears with scouring: wipe it. It can be etched again.",
)


@dataclass(frozen=True)
class SteelShare:
    """Of a steel: its share of the faces."""

    steel: str
    name: str
    share: float


@dataclass(frozen=True)
class Card:
    """hardness: HRC as read, each spot; tests: of the edge, as they came out; angle: of the edge, degrees; whom: it is
    for; flaws: what is not perfect, in
    words; empty where nothing was read, chosen or found."""

    title: str
    whom: str
    number: str
    maker: str
    steels: tuple[SteelShare, ...]
    made: tuple[str, ...]
    layers: int
    edge_steels: tuple[str, ...]
    hardness: tuple[float, ...]
    tests: tuple[str, ...]
    angle: float
    mass: float | None
    length: float
    grade: str
    why: str
    flaws: tuple[str, ...]
    care: tuple[str, ...]


def graded_of(state: BuildState, core: bool) -> Graded:
    """By the last look's answers, the faults of the log and the last test of the edge, or as the smith set it; core: whether the blade
    has one."""
    own = (state.graded.grade, state.graded.why) if state.graded else None
    tests = tests_of(state)
    stood = tests[-1].tested.seen == "fine" if tests else None
    log = in_the_log(state)
    answers = dict(state.of(LOOK).answers) | {i: False for i, p in enumerate(POINTS) if p.key in log}
    return graded(with_test(answers, stood), own, core)


def in_the_log(state: BuildState) -> dict[str, list[FaultEntry]]:
    """By point of the list: faults that the log tells of and nobody has looked at since: a point that was met after the fault was written
    down is met."""
    out: dict[str, list[FaultEntry]] = {}
    answers, answered = state.of(LOOK).answers, state.of(LOOK).answered
    at = {p.key: i for i, p in enumerate(POINTS)}
    for fault in sorted((f for o in state.operations.values() for f in o.faults), key=lambda f: (f.at, f.id)):
        point = OF_FAULT.get(fault.fault)
        if point and not (answers.get(at[point]) and answered[at[point]] > fault.at):
            out.setdefault(point, []).append(fault)
    return out


def tests_of(state: BuildState) -> list[TestedEntry]:
    """Of its edge, in their order."""
    return sorted((t for o in state.operations.values() for t in o.tests), key=lambda t: (t.at, t.id))


def hardness_read(plan: Plan, state: BuildState) -> tuple[float, ...]:
    """HRC of the edge, every spot that was read once it was tempered; all that was read when nothing was after it."""
    by = {o.id: state.of(o.id).readings("hardness") for o in plan.operations if not o.bar}
    after = [v for op, found in by.items() for v in found if not op.endswith("-test")]
    return tuple(after or [v for found in by.values() for v in found])


def card_of(title: str, number: str, maker: str, worked: Worked, plan: Plan, state: BuildState, whom: str = "") -> Card:
    """Raises InputError when there is no blade."""
    found = graded_of(state, worked.has_core)
    steels = worked.shop.steels
    shares = sorted(worked.face_shares.items(), key=lambda s: -s[1])
    forged = worked.forged
    weighed = [m for o in reversed(plan.operations) if not o.bar and (m := state.of(o.id).last("mass")) is not None]
    names = [s.step.title or s.step.kind for s in forged.stages]  # type: ignore[attr-defined]
    steps = tuple(n for i, n in enumerate(names) if i == 0 or names[i - 1] != n)
    return Card(
        title, whom, number, maker, tuple(SteelShare(k, steels[k].name, v) for k, v in shares), (forged.start.title, *steps),
        layers_across(Trace(forged)), tuple(steels[k].name for k in worked.at_edge), hardness_read(plan, state),
        tuple(told(t.tested) for t in tests_of(state)),
        edge_angle(worked.document.finish), weighed[0] if weighed else None, worked.blade.geometry.length,
        found.grade or "", found.why, tuple(p.flaw for p in POINTS if p.key in found.failed), CARE,
    )  # fmt: skip
