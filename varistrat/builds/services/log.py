"""Writing down what happens: entries come in any order, late, more than once; each is kept once, and none that was kept is lost."""

from collections.abc import Sequence
from dataclasses import dataclass, field
from datetime import datetime, timedelta
from typing import Any

from django.db import transaction
from django.db.models import Max
from django.utils import timezone
from pydantic import TypeAdapter, ValidationError

from varistrat.builds.models import Build, Record
from varistrat.builds.selectors import entries_of, plan_of
from varistrat.core.build.entry import ENTRY, AmendedEntry, Entry, check_time
from varistrat.core.build.state import state_of
from varistrat.core.build.summary import BuildSummary, summary_of
from varistrat.core.errors import InputError
from varistrat.core.reading import let_go, problem_of
from varistrat.designs.selectors import NotFound
from varistrat.shop.models import Membership

MOST_RECORDS = 20_000
"""Of one build."""
SUMMARY: TypeAdapter[BuildSummary] = TypeAdapter(BuildSummary)


@dataclass(frozen=True)
class RefusedEntry:
    """One that cannot be used, and what would mend it; it stays with who wrote it."""

    id: str
    wrong: str
    cure: str


@dataclass(frozen=True)
class Kept:
    """ids of all that are in the log now, whether they were before or not; refused: the others."""

    kept: list[str] = field(default_factory=list)
    refused: list[RefusedEntry] = field(default_factory=list)


SET_BACK, WHILE = timedelta(hours=1), timedelta(days=365)


def _latest(at: datetime) -> datetime:
    """What time it may be by now: the server's clock, or, where that stands before what it wrote itself (it was set back, or its battery is
    empty), a year after the last of it: then it is no judge of a tablet's."""
    now = timezone.now()
    if at <= now:
        return now
    last: datetime | None = Record.objects.aggregate(last=Max("came"))["last"]
    return last + WHILE if last and last > now + SET_BACK else now


def _read(data: Any, by_server: bool) -> Entry:
    """Raises InputError."""
    try:
        entry = ENTRY.validate_python(data)
    except ValidationError as e:
        let_go(e)
        raise InputError([problem_of(x, data) for x in e.errors(include_url=False)[:1]]) from e
    check_time(entry, _latest(entry.at))
    if isinstance(entry, AmendedEntry) and not by_server:
        raise InputError.at("kind", "a plan is not changed by writing it down", "change the plan of this build")
    return entry


@transaction.atomic
def write(*, actor: Membership, build: Build, entries: Sequence[Any], by_server: bool = False) -> Kept:
    """Keep those that can be used. by_server: also changes of the plan, which only the server writes."""
    as_it_stands(build)
    said: dict[str, Record] = {}
    kept, refused = [], []
    for data in entries:
        named = str(data.get("id", ""))[:60] if isinstance(data, dict) else ""
        try:
            entry = _read(data, by_server)
        except InputError as e:
            p = e.problems[0]
            refused.append(RefusedEntry(named, f"{p.path}: {p.wrong}" if p.path else p.wrong, p.cure))
            continue
        kept.append(named)
        said.setdefault(
            entry.id, Record(build=build, uid=entry.id, data=entry.model_dump(mode="json", exclude_defaults=True), by=actor.user)
        )
    there = {str(u) for u in Record.objects.filter(build=build, uid__in=list(said)).values_list("uid", flat=True)}
    fresh = [r for uid, r in said.items() if uid not in there]
    if fresh and build.records.count() + len(fresh) > MOST_RECORDS:
        raise InputError.at("entries", f"a build holds {MOST_RECORDS} records", "begin another build for what comes now")
    Record.objects.bulk_create(fresh)
    if fresh:
        refresh(build)
    return Kept(kept, refused)


def as_it_stands(build: Build) -> None:
    """What was read of it before this transaction may be old. Raises NotFound when it is gone."""
    try:
        build.refresh_from_db()
    except Build.DoesNotExist as e:
        raise NotFound("build") from e


@transaction.atomic
def refresh(build: Build) -> BuildSummary:
    """Bring what the book tells of it up to date; the first record sets it to work. Raises NotFound."""
    as_it_stands(build)
    entries = entries_of(build)
    summary = summary_of(plan_of(build), state_of(entries))
    build.summary = SUMMARY.dump_python(summary, mode="json")
    if entries and build.state == Build.State.PLANNED:
        build.state = Build.State.WORK
    build.save(update_fields=["summary", "state"])
    return summary


def summary_as_kept(build: Build) -> BuildSummary:
    """What the book tells of it; worked out anew where it was kept before sizes were in it."""
    if not build.summary or any("measured" not in k for k in build.summary.get("kinds", ())):
        return refresh(build)
    return SUMMARY.validate_python(build.summary)
