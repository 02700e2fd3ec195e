"""The days of a job as an iCalendar file (RFC 5545), for whatever calendar one keeps."""

from collections.abc import Mapping, Sequence
from dataclasses import replace
from datetime import UTC, date, datetime, time, timedelta
from hashlib import sha256

from icalendar import Alarm, Calendar, Event

from varistrat.core.route.money import TimeAndMoney, Timed
from varistrat.core.route.schedule import DAY_MINUTES, Hours

WATCHED = 20.0
"""Minutes alone from which on an entry of its own says when to be back."""


def as_ics(
    told: TimeAndMoney, title: str, begun: date, hours: Hours, said: Mapping[str, str] | None = None, now: datetime | None = None
) -> bytes:
    """A block for every day at work, one for all that goes on alone for long (it rings when it ends), and the days it may be done.

    said: what operations are called, by id, in the words and units of who asks; others as the core calls them. Times are the
    shop's own, without a zone, as on its clock. The same job has the same entries, so that importing it again renews them where the
    calendar knows how.
    """
    operations = [replace(o, title=(said or {}).get(o.id, o.title)) for o in told.operations]
    stamp = now or datetime.now(UTC)
    first = datetime.combine(begun, time.min) + timedelta(minutes=told.opens)
    calendar = Calendar()
    calendar.add("prodid", "-//Varistrat//Time and money//EN")
    calendar.add("version", "2.0")
    calendar.add("method", "PUBLISH")

    def entry(uid: str, summary: str, start: datetime | date, end: datetime | date, say: str = "") -> Event:
        event = Event()
        event.add("uid", f"{sha256(f'{title}|{uid}'.encode()).hexdigest()[:24]}@varistrat")
        event.add("dtstamp", stamp)
        event.add("summary", summary)
        event.add("dtstart", start)
        event.add("dtend", end)
        if say:
            event.add("description", say)
        calendar.add_component(event)
        return event

    for day in range(_last_day(told) + 1):
        stretch = _day(operations, hours, day, first)
        if stretch:
            start, end, lines = stretch
            entry(f"day-{day}", f"{title}: at the bench", _at(first, start), _at(first, end), "\n".join(lines))
    for o in operations:
        if o.alone < WATCHED:
            continue
        alone = entry(o.id, f"{title}: {o.title}, by itself", _at(first, o.hands), _at(first, o.end))
        ring = Alarm()
        ring.add("action", "DISPLAY")
        ring.add("description", f"{o.title}: done")
        ring.add("trigger", timedelta(0), parameters={"RELATED": "END"})
        alone.add_component(ring)
    for uid, minutes, says in (("likely", told.likely, "done, as likely as not"), ("late", told.late, "done, nine times in ten")):
        on = _at(first, minutes).date()
        entry(uid, f"{title}: {says}", on, on + timedelta(days=1))
    return bytes(calendar.to_ical())


def _at(first: datetime, minutes: float) -> datetime:
    return first + timedelta(minutes=round(minutes))


def _last_day(told: TimeAndMoney) -> int:
    return int(max((o.hands for o in told.operations), default=0.0) // DAY_MINUTES)


def _day(operations: Sequence[Timed], hours: Hours, day: int, first: datetime) -> tuple[float, float, list[str]] | None:
    """From the first hand's turn of a day to its last, and what is done, each with its time of day; None when nothing is."""
    opens, closes = day * DAY_MINUTES, day * DAY_MINUTES + hours.day
    of = sorted((o for o in operations if o.attended > 0 and o.start < closes - 1e-6 and o.hands > opens + 1e-6), key=lambda o: o.start)
    if not of:
        return None
    lines = []
    for o in of:
        clock = _at(first, max(o.start, opens)).strftime("%H:%M")
        on = "" if o.start >= opens else " (goes on)"
        lines.append(f"{clock} {o.title}{on}")
    return max(of[0].start, opens), min(max(o.hands for o in of), closes), lines
