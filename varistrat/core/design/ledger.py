"""The ledger of a bar: what it is after every step, where its steel went, what to do and what to be careful of."""

from dataclasses import dataclass
from itertools import pairwise

from varistrat.core.advice import order_findings, steel_findings
from varistrat.core.bars.bar import Change, Loss
from varistrat.core.bars.model import kind_of
from varistrat.core.bars.recipe import BarRecipe
from varistrat.core.design.worked import Worked
from varistrat.core.findings import Finding


@dataclass(frozen=True)
class Row:
    """A line of the ledger; `step`: id of the step, None for the start. mm, mm3, g."""

    kind: str
    step: str | None
    form: str
    length: float
    width: float
    thickness: float
    volume: float
    mass: float
    losses: dict[Loss, float]
    gains: dict[str, float]
    estimates: dict[str, float]
    findings: list[Finding]
    instruction: str
    brief: str


@dataclass(frozen=True)
class Child:
    """A bar that goes into another, mm; no sizes while it cannot be forged to its end."""

    id: str
    label: str
    kind: str
    problem: str
    length: float | None
    width: float | None
    thickness: float | None
    form: str | None


def ledger_of(worked: Worked, bar: str = "") -> list[Row]:
    """The lines of one bar (its id; empty: the whole), the start first; none if it cannot begin."""
    forged = worked.bars.get(worked.document.bar(bar).id)
    if forged is None:
        return []
    found = forged.findings()
    for stage, more in order_findings(forged).items():
        found[stage + 1] += more
    for layers in forged.start.piles():
        found[0] += steel_findings(pairwise([k for k, _ in layers]), worked.shop.steels)
    texts = forged.instructions()

    def row(i: int, kind: str, step: str | None, brief: str, change: Change) -> Row:
        after = change.after
        return Row(
            kind,
            step,
            after.section.form,
            after.length,
            after.width,
            after.thickness,
            after.volume,
            after.volume * forged.densities[i],
            {k: v for k, v in change.losses.items() if v},
            {k: v for k, v in change.gains.items() if v},
            {k: v for k, v in change.estimates.items() if v},
            found[i],
            texts[i],
            brief,
        )

    first = row(0, kind_of(forged.start), None, "", forged.begun)
    return [first, *(row(i, kind_of(s.step), s.step.id, s.step.brief(), s.change) for i, s in enumerate(forged.stages, 1))]


def children_of(worked: Worked, bar: str = "") -> list[Child]:
    """The bars that go into one: what each is, and its size if it can be forged to its end."""
    out = []
    for recipe in worked.document.bar(bar).start.children():
        prefix = worked.document.paths[recipe.id]
        wrong = [p for p in worked.problems if p.path.startswith((prefix + ".", prefix + "["))]
        forged = worked.bars.get(recipe.id)
        size = forged.bar if forged and not wrong else None
        out.append(
            Child(
                recipe.id,
                label(recipe),
                kind_of(recipe.start),
                wrong[0].line() if wrong else "",
                size.length if size else None,
                size.width if size else None,
                size.thickness if size else None,
                size.section.form if size else None,
            )
        )
    return out


def label(bar: BarRecipe) -> str:
    """A few words for a bar: its note's first line, or what it begins as and what shapes its pattern."""
    if bar.note:
        return bar.note.splitlines()[0][:60]
    words = [bar.start.title]
    words += [f"{s.title} {s.brief()}".strip().lower() for s in bar.steps if s.shapes]
    return ", ".join(words)[:60]
