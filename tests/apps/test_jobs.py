"""Jobs: whose turn it is, limits, one that breaks, one that loses its worker, how long they are kept."""

from collections.abc import Callable
from datetime import timedelta
from pathlib import Path
from typing import Any
from unittest import mock

from django.test import TestCase
from django.utils import timezone
from django_tasks_db.models import DBTaskResult

from tests.people import member
from varistrat.core.design.document import read_document
from varistrat.core.errors import InputError
from varistrat.core.starters import STARTERS
from varistrat.designs.models import Design
from varistrat.designs.services import keep
from varistrat.jobs.kinds import KINDS
from varistrat.jobs.kinds.print_face import PrintFace, PrintOrder
from varistrat.jobs.kinds.what_if import SheetOrder
from varistrat.jobs.models import Job, JobFile
from varistrat.jobs.services import ordering, runner, sweeping
from varistrat.shop.models import Membership, Role
from varistrat.site import worker

AXIS = {"path": "recipe.bar.steps[3].turns", "low": 3.0, "high": 9.0, "count": 2}
SHEET = SheetOrder(kind="what_if", document=read_document(STARTERS["bold_twist"].document()), axes=[AXIS])


class JobTests(TestCase):
    def setUp(self) -> None:
        self.who = member("smith")
        self.design = self.drawn(self.who)

    def drawn(self, who: Membership) -> Design:
        return keep.create_design(actor=who, document=read_document(STARTERS["three_layer"].document()), name="d")

    def printed(self, who: Membership | None = None, design: Design | None = None) -> Job:
        """Each another one: the same asked again is the same job."""
        self.wide = getattr(self, "wide", 199) + 1
        asked = PrintOrder(kind="print_face", design=(design or self.design).pk, side="right", width_px=self.wide)
        return ordering.order(actor=who or self.who, asked=asked)

    def test_asked_again_by_one_who_heard_nothing_it_is_the_same_job(self) -> None:
        asked = PrintOrder(kind="print_face", design=self.design.pk, side="right", width_px=640)
        first = ordering.order(actor=self.who, asked=asked)
        self.assertEqual(ordering.order(actor=self.who, asked=asked).pk, first.pk)
        other = PrintOrder(kind="print_face", design=self.design.pk, side="left", width_px=640)
        self.assertNotEqual(ordering.order(actor=self.who, asked=other).pk, first.pk)
        another = member("wend", Role.SMITH, self.who.shop)
        self.assertNotEqual(ordering.order(actor=another, asked=asked).pk, first.pk, "another's is not one's own to stop")
        # one that is over, or to be stopped, is asked for anew
        ordering.stop(actor=self.who, job=first)
        self.assertNotEqual(ordering.order(actor=self.who, asked=asked).pk, first.pk)

    def working(self, does: Callable[..., Any]) -> Any:
        return mock.patch.object(PrintFace, "work", side_effect=does)

    def test_lanes(self) -> None:
        self.assertEqual(
            {k.key: k.lane for k in KINDS.values()}, {"print_face": "long", "what_if": "short", "looks": "long", "family_study": "short"}
        )
        self.assertEqual(set(worker.LANES), {k.value for k in runner.BELLS})
        printed, sheet = self.printed(), ordering.order(actor=self.who, asked=SHEET)
        # a sheet never waits behind a print
        self.assertEqual(runner.claim("short"), sheet)
        self.assertIsNone(runner.claim("short"))
        self.assertEqual(runner.claim("long"), printed)

    def test_shops_take_turns(self) -> None:
        first = [self.printed().pk for _ in range(3)]
        other = member("other")
        theirs = self.drawn(other)
        second = [self.printed(other, theirs).pk for _ in range(2)]
        took = [job.pk for job in iter(lambda: runner.claim("long"), None)]
        self.assertEqual(took, [first[0], second[0], first[1], second[1], first[2]])

    def test_a_ring_each(self) -> None:
        for lane, bell in runner.BELLS.items():
            self.assertEqual(bell.queue_name, lane)
        with self.captureOnCommitCallbacks(execute=True):
            self.printed()
        self.assertEqual(DBTaskResult.objects.get(status="READY").queue_name, "long")
        with self.working(lambda *_: None):
            runner.take_long.call()
        self.assertEqual(Job.objects.get().state, "done")

    def test_one_that_breaks_is_told_as_failed(self) -> None:
        job = self.printed()
        with self.working(RuntimeError("boom")), self.assertLogs("varistrat.jobs.services.runner", "ERROR"):
            runner.run_next("long")
        job.refresh_from_db()
        self.assertEqual((job.state, job.problem), ("failed", runner.BROKE))

    def test_one_that_lost_its_worker_is_begun_once_more(self) -> None:
        job = self.printed()
        claimed = runner.claim("long")
        assert claimed
        JobFile.objects.create(job=job, index=0, content=b"half")
        self.assertEqual(sweeping.sweep("short"), 0)
        job.refresh_from_db()
        self.assertEqual(job.state, "running", "the other lane's worker lives")
        self.assertEqual(sweeping.sweep("long"), 1)
        job.refresh_from_db()
        self.assertEqual((job.state, job.files.count()), ("waiting", 0))
        self.assertEqual(DBTaskResult.objects.filter(status="READY").count(), 1)
        # it waits in the queue: another sweep rings no second time
        sweeping.sweep("long")
        self.assertEqual(DBTaskResult.objects.filter(status="READY").count(), 1)
        again = runner.claim("long")
        # the first worker was not dead after all: what it says no longer counts
        runner.JobWatch(claimed).keep(0, b"late")
        runner.JobWatch(claimed).over(Job.State.DONE)
        job.refresh_from_db()
        self.assertEqual((job.state, job.tries, job.files.count(), again), ("running", 2, 0, job))
        sweeping.sweep("long")
        job.refresh_from_db()
        self.assertEqual((job.state, job.problem), ("failed", sweeping.CUT_OFF))

    def test_one_that_was_to_stop_is_not_begun_again(self) -> None:
        job = self.printed()
        runner.claim("long")
        ordering.stop(actor=self.who, job=job)
        self.assertEqual(job.state, "running")
        sweeping.sweep("long")
        job.refresh_from_db()
        self.assertEqual(job.state, "stopped")

    def test_a_hung_worker_is_known_whatever_the_clock_on_the_wall_does(self) -> None:
        supervisor = worker.Worker(Path("unused"), "long")
        clock = [1000.0]
        with mock.patch.object(worker.time, "monotonic", lambda: clock[0]), mock.patch("django.db.close_old_connections"):
            self.assertFalse(supervisor.hangs())
            clock[0] += 10 * sweeping.SILENT
            self.assertFalse(supervisor.hangs(), "nothing is under way")
            self.printed()
            job = runner.claim("long")
            assert job
            self.assertFalse(supervisor.hangs())
            # the wall's clock jumps a day ahead, and back two; a word is a word
            for hours in (24, -24):
                clock[0] += sweeping.SILENT - 1
                self.assertFalse(supervisor.hangs())
                Job.objects.update(heartbeat=timezone.now() + timedelta(hours=hours))
                self.assertFalse(supervisor.hangs())
            clock[0] += sweeping.SILENT - 1
            self.assertFalse(supervisor.hangs())
            clock[0] += 2
            self.assertTrue(supervisor.hangs())

    def test_a_shop_has_a_few_at_once(self) -> None:
        highs = iter((9.0, 8.0, 7.0, 6.0))

        def sheet() -> Job:
            return ordering.order(
                actor=self.who, asked=SheetOrder(kind="what_if", document=SHEET.document, axes=[{**AXIS, "high": next(highs)}])
            )

        for kind, order in (("print_face", self.printed), ("what_if", sheet)):
            self.assertEqual(KINDS[kind].at_once, 3)
            for _ in range(3):
                order()
            with self.assertRaisesRegex(InputError, "under way already"):
                order()
        other = member("other")
        self.printed(other, self.drawn(other))
        Job.objects.update(state="done")
        self.printed()

    def test_kept_for_thirty_days(self) -> None:
        old, new, waiting = self.printed(), self.printed(), self.printed()
        Job.objects.filter(pk__in=(old.pk, new.pk)).update(state="done")
        self.assertEqual(sweeping.KEPT_DAYS, 30)
        long_ago = timezone.now() - timedelta(days=30, hours=1)
        Job.objects.filter(pk__in=(old.pk, waiting.pk)).update(ordered=long_ago)
        Job.objects.filter(pk=new.pk).update(ordered=long_ago + timedelta(hours=2))
        sweeping.throw_away()
        self.assertEqual(set(Job.objects.values_list("pk", flat=True)), {new.pk, waiting.pk})
        keep.remove_design(actor=self.who, design=self.design)
        Design.objects.filter(pk=self.design.pk).update(removed=long_ago)
        sweeping.throw_away()
        self.assertFalse(Design.objects.exists())
        self.assertFalse(Job.objects.exists())

    def test_the_shops_own_numbers_count(self) -> None:
        seen: list[Any] = []
        self.printed()
        with self.working(lambda given, shop, watch: seen.append((shop, given["document"]["format"]))):
            runner.run_next("long")
        self.assertEqual(seen, [(runner.shop_data(self.who.shop), "varistrat.design/1")])
