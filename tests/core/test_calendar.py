"""The calendar file: read back by somebody else's reader, it says what the schedule says."""

from dataclasses import replace
from datetime import UTC, date, datetime

from django.test import SimpleTestCase
from icalendar import Calendar

from varistrat.core.design.document import read_document
from varistrat.core.design.worked import Worked
from varistrat.core.route.calendar import as_ics
from varistrat.core.route.money import TimeAndMoney, time_and_money
from varistrat.core.route.schedule import DAY_MINUTES, Hours
from varistrat.core.starters import STARTERS

MONDAY = date(2031, 5, 12)
NOW = datetime(2031, 5, 1, tzinfo=UTC)


class CalendarTests(SimpleTestCase):
    told: TimeAndMoney

    @classmethod
    def setUpClass(cls) -> None:
        super().setUpClass()
        worked = Worked.of(read_document(next(iter(STARTERS.values())).document()))
        cls.hours = Hours.of(worked.shop.numbers)
        cls.told = time_and_money(worked)

    def read(self, said: dict[str, str] | None = None) -> list:  # type: ignore[type-arg]
        return list(Calendar.from_ical(as_ics(self.told, "Knife; with, odd\nname", MONDAY, self.hours, said, NOW)).walk("VEVENT"))

    def test_every_day_at_work_is_a_block_within_the_shops_hours(self) -> None:
        blocks = [e for e in self.read() if "at the bench" in e["SUMMARY"]]
        days = {int(t // DAY_MINUTES) for o in self.told.operations for t in (o.start, max(o.start, o.hands - 1e-6)) if o.attended > 0}
        self.assertGreaterEqual(len(blocks), len(days))
        for e in blocks:
            start, end = e["DTSTART"].dt, e["DTEND"].dt
            self.assertIsNone(start.tzinfo)
            self.assertEqual(start.date(), end.date())
            self.assertGreaterEqual(start.hour, 8)
            self.assertLessEqual((end - start).total_seconds() / 60, self.hours.day + 1)
            self.assertTrue(str(e["DESCRIPTION"]).startswith(start.strftime("%H:%M")))
        first = min(e["DTSTART"].dt for e in blocks)
        self.assertEqual(first, datetime(2031, 5, 12, 8, 0))

    def test_every_operation_is_told_on_the_day_it_is_begun(self) -> None:
        text = "\n".join(str(e.get("DESCRIPTION", "")) for e in self.read())
        for o in self.told.operations:
            if o.attended > 0:
                self.assertIn(o.title, text)

    def test_long_waits_ring_when_they_end(self) -> None:
        alone = {e["SUMMARY"].split(": ", 1)[1]: e for e in self.read() if e.walk("VALARM")}
        waits = [o for o in self.told.operations if o.alone >= 20]
        self.assertTrue(waits)
        # from twenty minutes on, to the minute
        last = waits[-1]
        for minutes, rings in ((19.5, 0), (20.0, 1)):
            only = replace(self.told, operations=(replace(last, alone=minutes),))
            found = Calendar.from_ical(as_ics(only, "x", MONDAY, self.hours, None, NOW)).walk("VALARM")
            self.assertEqual(len(found), rings)
        self.assertEqual(len([e for e in self.read() if e.walk("VALARM")]), len(waits))
        for o in waits:
            e = alone[f"{o.title}, by itself"]
            self.assertEqual(e.walk("VALARM")[0]["TRIGGER"].params["RELATED"], "END")
        o = waits[-1]
        e = alone[f"{o.title}, by itself"]
        self.assertAlmostEqual((e["DTEND"].dt - e["DTSTART"].dt).total_seconds() / 60, o.end - o.hands, delta=1.0)

    def test_when_it_may_be_done(self) -> None:
        likely, late = (next(e for e in self.read() if says in e["SUMMARY"])["DTSTART"].dt for says in ("likely", "nine times"))
        self.assertIsInstance(likely, date)
        self.assertEqual((likely - MONDAY).days, int((8 * 60 + self.told.likely) // DAY_MINUTES))
        self.assertLessEqual(likely, late)
        self.assertEqual((late - MONDAY).days, int((8 * 60 + self.told.late) // DAY_MINUTES))

    def test_in_the_words_of_who_asks_and_the_same_entries_again(self) -> None:
        o = next(o for o in self.told.operations if o.attended > 0)
        once, again = self.read({o.id: "Saw 1 3/4 in", "nobody": "x"}), self.read()
        self.assertIn("Saw 1 3/4 in", "\n".join(str(e.get("DESCRIPTION", "")) for e in once))
        self.assertEqual([e["UID"] for e in once], [e["UID"] for e in again])
        self.assertEqual(len({e["UID"] for e in once}), len(once))
        self.assertTrue(all(e["SUMMARY"].startswith("Knife; with, odd") for e in once))
