"""The demo's whole hardening: what was wanted and read, and the kiln's record of it."""

import json
from dataclasses import asdict
from datetime import timedelta
from functools import cache
from typing import Any

from django.utils import timezone

from varistrat.core.design.document import read_document
from varistrat.core.design.worked import Worked
from varistrat.core.heat.hardening.plan import hardening_plan
from varistrat.core.kiln.controller import SimulatedController
from varistrat.core.kiln.plant import Load
from varistrat.core.kiln.program import Program
from varistrat.designs.models import Design
from varistrat.kiln.models import KilnProgram, KilnRun
from varistrat.kiln.services import add_rows
from varistrat.shop.models import Shop

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


def record_hardening(shop: Shop, design: Design) -> None:
    """The plan's programs as run through the stand-in kiln some days ago: each temper as planned after the one before was read."""
    revision = design.revisions.get(number=design.current)
    for hours, steels, done in _through_the_kiln(json.dumps(revision.document, sort_keys=True)):
        name = done.program.name
        KilnProgram.objects.create(shop=shop, name=name, segments=[s.model_dump() for s in done.program.segments])
        at = timezone.now() - timedelta(days=DAYS_AGO) + timedelta(hours=hours)
        run = KilnRun.objects.create(
            shop=shop,
            design=design,
            name=name,
            load=list(steels),
            state=done.state,
            speed=1.0,
            looked=at,
            controller=done.put_away(),
            events=[asdict(e) for e in done.events],
        )
        add_rows(run, done)
        KilnRun.objects.filter(pk=run.pk).update(started=at, lines=run.lines)


@cache
def _through_the_kiln(document: str) -> tuple[tuple[float, tuple[str, ...], SimulatedController], ...]:
    """(hours after the first, steels in it, the run at its end). Remembered: every test in the browser begins with a fresh demo shop."""
    whole = read_document(json.loads(document))
    tempered = whole.hardening.tempered
    out = []
    for n in range(max(1, len(tempered))):
        so_far = whole.hardening.model_copy(update={"tempered": tempered[:n]})
        w = Worked.of(whole.model_copy(update={"hardening": so_far})).hardening
        load = Load.of(w.blade.mass, w.blade.spine, w.blade.width, w.blade.length)
        for step in hardening_plan(w):
            if step.key in DONE and (n == 0 or step.key == "temper"):
                program = Program(name=step.title, segments=list(step.program))
                done = SimulatedController(program, load, LIMIT).after(24 * 3600)
                out.append((DONE[step.key] + NEXT_DAY * n, tuple(w.blade.carbon), done))
    return tuple(out)
