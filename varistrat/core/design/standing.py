"""What stands against making a design as it is: every finding of every step, its fire and the blade that fails or needs care, with its
place; and what a change of the design makes worse."""

from dataclasses import dataclass

from varistrat.core.design.findings import findings_of, late_findings_of
from varistrat.core.design.plan import plan_of
from varistrat.core.design.worked import Worked
from varistrat.core.errors import InputError
from varistrat.core.findings import Finding
from varistrat.core.heat.fires.fired import Fired

GRADES = {"stop": 0, "care": 1}


@dataclass(frozen=True)
class Against:
    """One finding and where it stands: bar, its id (empty: the blade); step, its id (None: how the bar begins); where, in words."""

    bar: str
    step: str | None
    where: str
    finding: Finding

    @property
    def fails(self) -> bool:
        """It cannot come out; else it needs care."""
        return self.finding.grade == "stop"


def against(worked: Worked) -> tuple[Against, ...]:
    """What fails first, then what needs care, each in the order of the work. A design that cannot be carried out has problems instead."""
    found = []
    fires = {(f.bar, f.step): f.findings for f in _fired(worked)}
    bars = plan_of(worked)
    for bar in bars:
        for i, row in enumerate(bar.rows):
            place = f"{i}. {row.title}" if i else row.title
            where = f"{bar.label}, {place}" if len(bars) > 1 else place
            told = [*row.findings, *(fires.get((bar.bar, row.step), ()) if row.step else ())]
            found += [Against(bar.bar, row.step, where, f) for f in told]
    found += [Against("", None, "Blade", f) for f in [*findings_of(worked), *_late(worked)]]
    return tuple(sorted((a for a in found if a.finding.grade in GRADES), key=lambda a: GRADES[a.finding.grade]))


def _fired(worked: Worked) -> tuple[Fired, ...]:
    try:
        return worked.fire.fired
    except InputError:
        return ()


def _late(worked: Worked) -> list[Finding]:
    try:
        return late_findings_of(worked)
    except InputError:
        return []


def made_worse(before: tuple[Against, ...], after: Worked) -> tuple[Against, ...]:
    """What fails or needs care after a change that did not before (what was `against` it), or fails where it needed care."""
    was = {(a.bar, a.step, a.finding.code): GRADES[a.finding.grade] for a in reversed(before)}
    return tuple(a for a in against(after) if GRADES[a.finding.grade] < was.get((a.bar, a.step, a.finding.code), len(GRADES)))
