"""Backing up and restoring, also after a crash; the worker that is started again and does not outlive the server; jobs that were cut off."""

import os
import signal
import sqlite3
import subprocess
import sys
import tempfile
import time
from datetime import timedelta
from pathlib import Path
from unittest import mock

from django.contrib.auth.models import User
from django.test import SimpleTestCase, TestCase
from django.utils import timezone
from django_tasks_db.models import DBTaskResult

from varistrat.core.design.document import read_document
from varistrat.core.errors import InputError
from varistrat.core.starters import STARTERS
from varistrat.designs.models import Design, PrintJob, Sheet
from varistrat.designs.services import jobs, keep, printing, sheets
from varistrat.site import keeping, worker

ROOT = Path(__file__).resolve().parents[1]


class RestoreTests(SimpleTestCase):
    def setUp(self) -> None:
        folder = tempfile.TemporaryDirectory()
        self.addCleanup(folder.cleanup)
        self.folder = Path(folder.name) / "shop"
        self.folder.mkdir()
        self.file = Path(folder.name) / "kept.sqlite3"
        self.write("first")

    def write(self, text: str) -> None:
        """A row, left in the write-ahead log as a crash leaves it."""
        script = (
            "import os, sqlite3, sys; c = sqlite3.connect(sys.argv[1]); c.execute('PRAGMA journal_mode=WAL');"
            "c.execute('CREATE TABLE IF NOT EXISTS designs_design (t TEXT)'); c.execute('CREATE TABLE IF NOT EXISTS django_migrations (t TEXT)');"
            "c.execute('INSERT INTO designs_design VALUES (?)', (sys.argv[2],)); c.commit(); os._exit(9)"
        )
        subprocess.run([sys.executable, "-c", script, str(self.folder / keeping.NAME), text], check=False)

    def rows(self) -> list[str]:
        with sqlite3.connect(self.folder / keeping.NAME) as c:
            return [r[0] for r in c.execute("SELECT t FROM designs_design")]

    def test_after_a_crash_the_old_log_is_not_replayed(self) -> None:
        keeping.backup(self.folder, self.file)
        for n in range(50):
            self.write(f"later {n}")
        self.assertTrue((self.folder / f"{keeping.NAME}-wal").exists())
        said = keeping.restore(self.folder, self.file)
        self.assertEqual(self.rows(), ["first"])
        self.assertEqual(keeping.whole(self.folder / keeping.NAME), "")
        aside = next(self.folder.glob("before-restore-*"))
        self.assertIn(str(aside), said)
        self.assertTrue((aside / f"{keeping.NAME}-wal").exists())
        with sqlite3.connect(aside / keeping.NAME) as c:
            self.assertEqual(c.execute("SELECT count(*) FROM designs_design").fetchone()[0], 51)

    def test_nothing_is_touched_when_it_cannot_be(self) -> None:
        broken = self.file.with_name("broken")
        broken.write_bytes(b"SQLite format 3\0" + b"x" * 5000)
        other = self.file.with_name("other")
        with sqlite3.connect(other) as c:
            c.execute("CREATE TABLE t (a)")
        before = (self.folder / keeping.NAME).read_bytes()
        for file in (broken, other, self.file.with_name("absent")):
            with self.assertRaises(SystemExit):
                keeping.restore(self.folder, file)
        keeping.backup(self.folder, self.file)
        with keeping.at_work(self.folder), self.assertRaisesRegex(SystemExit, "Stop it first"):
            keeping.restore(self.folder, self.file)
        self.assertEqual((self.folder / keeping.NAME).read_bytes(), before)

    def test_private(self) -> None:
        keeping.make_private(self.folder)
        self.assertEqual(self.folder.stat().st_mode & 0o777, 0o700)
        self.assertEqual((self.folder / keeping.NAME).stat().st_mode & 0o777, 0o600)
        keeping.backup(self.folder, self.file)
        self.assertEqual(self.file.stat().st_mode & 0o777, 0o600)

    def test_through_the_one_way_in(self) -> None:
        run = [str(ROOT / "run")]
        env = {k: v for k, v in os.environ.items() if not k.startswith("VARISTRAT_")}
        for what in ("backup", "restore"):
            done = subprocess.run(
                [*run, what, str(self.file), "--data", str(self.folder)], env=env, cwd="/", capture_output=True, text=True
            )
            self.assertEqual(done.returncode, 0, done.stderr)
        self.assertEqual(self.rows(), ["first"])

    def test_a_folder_that_cannot_be_written_is_said_at_the_start(self) -> None:
        env = {k: v for k, v in os.environ.items() if not k.startswith("VARISTRAT_")}
        done = subprocess.run(
            [sys.executable, "-m", "varistrat.site.server", "1"], cwd=ROOT, capture_output=True, text=True,
            env=env | {"VARISTRAT_DATA": "/proc/nowhere", "VARISTRAT_MODE": "demo"},
        )  # fmt: skip
        self.assertNotEqual(done.returncode, 0)
        self.assertIn("cannot be written", done.stderr)
        self.assertNotIn("Traceback", done.stderr)


class SupervisorTests(SimpleTestCase):
    def test_started_again_and_stopped(self) -> None:
        with (
            tempfile.TemporaryDirectory() as folder,
            mock.patch.object(worker, "PAUSES", (0.05,)),
            mock.patch.object(worker.Supervisor, "_sweep"),
        ):
            real = subprocess.Popen

            def stand_in(command: list[str], **more: object) -> "subprocess.Popen[bytes]":
                return real([sys.executable, "-c", "import time; print('at work', flush=True); time.sleep(60)"], **more)  # type: ignore[call-overload]

            with mock.patch.object(worker.subprocess, "Popen", stand_in), self.assertLogs("varistrat.site.worker", "ERROR"):
                supervisor = worker.Supervisor(Path(folder))
                supervisor.start()
                for wanted in (1, 2):
                    until = time.monotonic() + 20
                    while (
                        supervisor.starts < wanted or b"at work" not in (Path(folder) / worker.LOG).read_bytes()
                    ) and time.monotonic() < until:
                        time.sleep(0.02)
                    self.assertEqual(supervisor.starts, wanted)
                    assert supervisor.process
                    if wanted == 1:
                        supervisor.process.kill()
                supervisor.stop()
                supervisor.join(10)
                self.assertFalse(supervisor.is_alive())
                self.assertEqual(supervisor.process.poll(), -signal.SIGTERM)
            self.assertEqual((Path(folder) / worker.LOG).stat().st_mode & 0o777, 0o600)

    def test_a_killed_parent_takes_its_worker_along(self) -> None:
        script = (
            "import subprocess, sys, time; from varistrat.site.worker import _die_with_parent;"
            "p = subprocess.Popen([sys.executable, '-c', 'import time; time.sleep(60)'], preexec_fn=_die_with_parent);"
            "print(p.pid, flush=True); time.sleep(60)"
        )
        parent = subprocess.Popen([sys.executable, "-c", script], cwd=ROOT, stdout=subprocess.PIPE, text=True)
        assert parent.stdout
        child = int(parent.stdout.readline())
        parent.kill()
        parent.wait()
        parent.stdout.close()
        until = time.monotonic() + 10
        while time.monotonic() < until and _alive(child):
            time.sleep(0.05)
        self.assertFalse(_alive(child))


def _alive(pid: int) -> bool:
    try:
        return "\nState:\tZ" not in Path(f"/proc/{pid}/status").read_text()
    except FileNotFoundError:
        return False


class JobTests(TestCase):
    def setUp(self) -> None:
        self.smith = User.objects.create_user("smith")
        self.design = keep.create_design(actor=self.smith, document=read_document(STARTERS["three_layer"].document()), name="d")

    def order(self) -> PrintJob:
        return printing.order_print(actor=self.smith, design=self.design, side="right", width_px=200)

    def test_one_that_breaks_is_told_as_failed(self) -> None:
        job = self.order()
        with (
            mock.patch.object(printing, "draw", side_effect=RuntimeError("boom")),
            self.assertLogs("varistrat.designs.services.jobs", "ERROR"),
        ):
            printing.make_print.call(job.pk)
        job.refresh_from_db()
        self.assertEqual((job.state, job.problem), ("failed", jobs.BROKE))

    def test_one_that_was_cut_off_is_begun_once_more(self) -> None:
        job = self.order()
        PrintJob.objects.filter(pk=job.pk).update(state="running", tries=1)
        self.assertEqual(jobs.sweep(), 1)
        job.refresh_from_db()
        self.assertEqual(job.state, "waiting")
        self.assertTrue(DBTaskResult.objects.filter(status="READY").exists())
        # it waits in the queue: another sweep leaves it there
        self.assertEqual(jobs.sweep(), 0)
        PrintJob.objects.filter(pk=job.pk).update(state="running", tries=2)
        jobs.sweep()
        job.refresh_from_db()
        self.assertEqual((job.state, job.problem), ("failed", jobs.CUT_OFF))

    def test_one_user_has_a_few_at_once(self) -> None:
        for _ in range(jobs.MOST_EACH):
            self.order()
        with self.assertRaisesRegex(InputError, "under way already"):
            self.order()
        PrintJob.objects.update(state="done")
        self.order()
        document = read_document(STARTERS["bold_twist"].document())
        axes = [sheets.Axis(path="recipe.bar.steps[3].turns", low=3.0, high=9.0, count=2)]
        for _ in range(jobs.MOST_EACH):
            sheets.order_sheet(actor=self.smith, document=document, axes=axes)
        with self.assertRaisesRegex(InputError, "under way already"):
            sheets.order_sheet(actor=self.smith, document=document, axes=axes)

    def test_kept_for_thirty_days(self) -> None:
        old, new, waiting = self.order(), self.order(), self.order()
        PrintJob.objects.filter(pk__in=(old.pk, new.pk)).update(state="done", picture=b"x")
        long_ago = timezone.now() - timedelta(days=jobs.KEPT_DAYS, hours=1)
        PrintJob.objects.filter(pk__in=(old.pk, waiting.pk)).update(created=long_ago)
        PrintJob.objects.filter(pk=new.pk).update(created=long_ago + timedelta(hours=2))
        jobs.throw_away()
        self.assertEqual(set(PrintJob.objects.values_list("pk", flat=True)), {new.pk, waiting.pk})
        keep.remove_design(actor=self.smith, design=self.design)
        Design.objects.filter(pk=self.design.pk).update(removed=long_ago)
        jobs.throw_away()
        self.assertFalse(Design.objects.exists())
        self.assertFalse(Sheet.objects.exists())
