"""The demo's whole hardening: what was wanted and read, and the kiln's record of it."""

from dataclasses import asdict, astuple
from datetime import timedelta
from functools import cache
from typing import Any

from django.contrib.auth.models import User
from django.utils import timezone

from varistrat.core.document import Worked, read_document
from varistrat.core.heat.hardening import Worked as Hardening
from varistrat.core.heat.plan import hardening_plan
from varistrat.core.heat.plan_step import PlanStep
from varistrat.core.kiln.controller import SimulatedController
from varistrat.core.kiln.plant import Load
from varistrat.core.kiln.program import Program, Segment
from varistrat.designs.models import Design
from varistrat.kiln.models import KilnProgram, KilnRun

WHOLE: dict[str, Any] = {
    "fire": {"gas": "rich", "tool": "power_hammer", "steps": [{"at": [0], "heats": 3}]},
    "hardening": {
        "wanted": 60.5,
        "hardened": {"hrc": [64.5, 65.0, 64.0], "file": "skates", "bow": 0.8},
        "tempered": [
            {"celsius": 185.0, "hours": 2.0, "hrc": [62.0, 61.5, 62.0], "colour": 205.0},
            {"celsius": 205.0, "hours": 1.0, "hrc": [60.5, 61.0, 60.5]},
        ],
    },
}
DAYS_AGO = 3
LIMIT = 1215.0
DONE = {"normalise": 0.0, "heat": 4.0, "temper": 5.5}
"""Steps of the plan that went through the kiln, and how many hours after the first."""
NEXT_DAY = 20.0
"""Hours until what was read after a temper is acted on."""


def record_hardening(user: User, design: Design) -> None:
    """Run the plan's programs through the stand-in kiln and keep their records as done some days ago: each temper as planned after the one before was read."""
    document = read_document(design.revisions.get(number=design.current).document)
    tempered = document.hardening.tempered
    for n in range(max(1, len(tempered))):
        so_far = document.hardening.model_copy(update={"tempered": tempered[:n]})
        w = Worked.of(document.model_copy(update={"hardening": so_far})).hardening
        for step in hardening_plan(w):
            if step.key in DONE and (n == 0 or step.key == "temper"):
                _record(user, design, w, step, DONE[step.key] + NEXT_DAY * n)


def _record(user: User, design: Design, w: Hardening, step: PlanStep, hours: float) -> None:
    load = Load.of(w.blade.mass, w.blade.spine, w.blade.width, w.blade.length)
    done = _through_the_kiln(step.title, tuple((s.celsius, s.rate, s.minutes, s.through) for s in step.program), load)
    KilnProgram.objects.create(owner=user, name=step.title, segments=[s.model_dump() for s in done.program.segments])
    at = timezone.now() - timedelta(days=DAYS_AGO) + timedelta(hours=hours)
    run = KilnRun.objects.create(
        owner=user, design=design, name=step.title, load=list(w.blade.carbon), state=done.state, speed=1.0, looked=at,
        controller=done.put_away(), record=[list(astuple(r)) for r in done.record], events=[asdict(e) for e in done.events],
    )  # fmt: skip
    KilnRun.objects.filter(pk=run.pk).update(started=at)


@cache
def _through_the_kiln(name: str, segments: tuple[tuple[float, float | None, float, bool], ...], load: Load) -> SimulatedController:
    """Remembered: every test of the browser begins with a fresh demo shop."""
    program = Program(name=name, segments=[Segment(celsius=c, rate=r, minutes=m, through=t) for c, r, m, t in segments])
    return SimulatedController(program, load, LIMIT).after(24 * 3600)
