"""Every step of every bar in the order of the work, for paper."""

from dataclasses import dataclass

from varistrat.core.bars.fresh import WORDS
from varistrat.core.bars.recipe import in_order
from varistrat.core.design.ledger import Row, label, ledger_of
from varistrat.core.design.worked import Worked
from varistrat.core.findings import Finding


@dataclass(frozen=True)
class PlanRow:
    """One step on paper (its id; None: how the bar begins): its name, the bar after it in mm, what to do, what to be careful of."""

    step: str | None
    title: str
    instruction: str
    form: str
    length: float
    width: float
    thickness: float
    findings: list[Finding]


@dataclass(frozen=True)
class PlanBar:
    """One bar of the recipe."""

    bar: str
    label: str
    rows: list[PlanRow]


def plan_of(worked: Worked) -> list[PlanBar]:
    """The bars that go into one before it; those that cannot begin are left out."""
    bars = [b for b in in_order(worked.document.recipe.bar) if b.id in worked.bars]
    return [PlanBar(b.id, label(b), [_row(r) for r in ledger_of(worked, b.id)]) for b in bars]


def _row(r: Row) -> PlanRow:
    title = WORDS[r.kind]["name"] + (f" {r.brief}" if r.brief else "")
    return PlanRow(r.step, title, r.instruction, r.form, r.length, r.width, r.thickness, r.findings)
