"""Jobs and what they made."""

from datetime import datetime

from ninja import Schema

from varistrat.jobs.kinds import AnyAbout, AnyResult
from varistrat.jobs.models import Job


class JobFileOut(Schema):
    """`values`: the numbers it stands for; `problem`: why it is not there; `name`: under which it is saved."""

    index: int
    values: list[float]
    problem: str
    name: str


class JobOut(Schema):
    """`wanted`: files in all; those that are there so far in order. `stop_asked` while running: its worker stops as soon as it looks."""

    id: int
    about: AnyAbout
    design: int | None
    state: Job.State
    progress: float
    wanted: int
    problem: str
    stop_asked: bool
    ordered: datetime
    by: str
    result: AnyResult | None
    files: list[JobFileOut]
