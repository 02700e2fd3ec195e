"""Backing up and restoring, also after a crash; the worker that is started again and does not outlive the server;
jobs that were cut off."""

import errno
import os
import shutil
import signal
import sqlite3
import subprocess
import sys
import tempfile
import zipfile
from pathlib import Path
from unittest import mock

from django.test import SimpleTestCase

from tests.waiting import PATIENCE, until
from varistrat.site import child, keeping, worker

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
            "c.execute('CREATE TABLE IF NOT EXISTS designs_design (t TEXT)'); c.execute('CREATE TABLE IF NOT EXISTS django_migrations (t "
            "TEXT)');"
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

    def photo(self, name: str = "photos/1/7/0123456789abcdef0123456789abcdef.jpg", body: bytes = b"jpeg") -> Path:
        path = self.folder / name
        path.parent.mkdir(parents=True, exist_ok=True)
        path.write_bytes(body)
        return path

    def test_photos_go_along_and_come_back(self) -> None:
        kept = self.photo()
        self.photo("photos/1/7/half.part")
        self.assertIn("photos", keeping.backup(self.folder, self.file))
        self.assertEqual(self.file.stat().st_mode & 0o777, 0o600)
        with zipfile.ZipFile(self.file) as z:
            self.assertEqual(sorted(z.namelist()), [str(kept.relative_to(self.folder)), keeping.NAME])
        kept.unlink()
        later = self.photo("photos/1/8/ffffffffffffffffffffffffffffffff.jpg")
        keeping.restore(self.folder, self.file)
        self.assertEqual((kept.read_bytes(), later.exists()), (b"jpeg", False))
        aside = next(self.folder.glob("before-restore-*"))
        self.assertTrue((aside / later.relative_to(self.folder)).exists())
        self.assertEqual(self.rows(), ["first"])
        self.assertFalse((self.folder / "restoring").exists())

    def test_a_backup_that_holds_anything_else_is_refused(self) -> None:
        self.photo()
        keeping.backup(self.folder, self.file)
        for name in ("../evil.jpg", "photos/../../evil.jpg", "secret-key", "photos/1/7/evil.sh"):
            bad = self.file.with_name("bad.zip")
            shutil.copy(self.file, bad)
            with zipfile.ZipFile(bad, "a") as z:
                z.writestr(name, b"evil")
            with self.assertRaises(SystemExit) as caught:
                keeping.restore(self.folder, bad)
            self.assertIn("Nothing was changed", str(caught.exception))
        cut = self.file.with_name("cut.zip")
        cut.write_bytes(self.file.read_bytes()[:-300])
        with self.assertRaises(SystemExit):
            keeping.restore(self.folder, cut)
        self.assertEqual(list(self.folder.glob("before-restore-*")), [])

    def test_one_that_cannot_be_written_is_said_and_leaves_nothing_behind(self) -> None:
        """No folder; a disk that is full half-way, of the database and of the photos: what was saved before stays."""
        with self.assertRaisesRegex(SystemExit, "Name a file in a folder that is there"):
            keeping.backup(self.folder, self.file.parent / "nowhere" / "b.sqlite3")
        keeping.backup(self.folder, self.file)
        before = self.file.read_bytes()
        self.photo()
        full = OSError(errno.ENOSPC, "No space left on device")
        for what in ("varistrat.site.keeping.whole", "zipfile.ZipFile.write"):
            with mock.patch(what, side_effect=full), self.assertRaisesRegex(SystemExit, "Nothing was saved.*No space left"):
                keeping.backup(self.folder, self.file)
            self.assertEqual(list(self.file.parent.glob("*.part")), [])
            self.assertEqual(self.file.read_bytes(), before)

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
            [sys.executable, "-m", "varistrat.site.server", "1"],
            cwd=ROOT,
            capture_output=True,
            text=True,
            env=env | {"VARISTRAT_DATA": "/proc/nowhere", "VARISTRAT_MODE": "demo"},
        )
        self.assertNotEqual(done.returncode, 0)
        self.assertIn("cannot be written", done.stderr)
        self.assertNotIn("Traceback", done.stderr)


class SupervisorTests(SimpleTestCase):
    def test_started_again_and_stopped(self) -> None:
        with (
            tempfile.TemporaryDirectory() as folder,
            mock.patch.object(child, "PAUSES", (0.05,)),
            mock.patch.object(worker.Worker, "before"),
        ):
            real = subprocess.Popen

            def stand_in(command: list[str], **more: object) -> "subprocess.Popen[bytes]":
                return real([sys.executable, "-c", "import time; print('at work', flush=True); time.sleep(600)"], **more)  # type: ignore[call-overload]

            with mock.patch.object(child.subprocess, "Popen", stand_in), self.assertLogs("varistrat.site.child", "ERROR"):
                supervisor = worker.Worker(Path(folder), "long")
                supervisor.start()
                for wanted in (1, 2):
                    log = worker.log_of(Path(folder), "long")
                    until(lambda wanted=wanted: supervisor.starts >= wanted, "it was not started")  # type: ignore[misc]
                    until(lambda log=log: b"at work" in log.read_bytes(), "it does not work")  # type: ignore[misc]
                    self.assertEqual(supervisor.starts, wanted)
                    assert supervisor.process
                    if wanted == 1:
                        supervisor.process.kill()
                supervisor.stop()
                supervisor.join(PATIENCE)
                self.assertFalse(supervisor.is_alive())
                self.assertEqual(supervisor.process.poll(), -signal.SIGTERM)
            self.assertEqual(worker.log_of(Path(folder), "long").stat().st_mode & 0o777, 0o600)

    def test_a_killed_parent_takes_its_worker_along(self) -> None:
        script = (
            "import subprocess, sys, time; from varistrat.site.child import _die_with_parent;"
            "p = subprocess.Popen([sys.executable, '-c', 'import time; time.sleep(600)'], preexec_fn=_die_with_parent);"
            "print(p.pid, flush=True); time.sleep(600)"
        )
        parent = subprocess.Popen([sys.executable, "-c", script], cwd=ROOT, stdout=subprocess.PIPE, text=True)
        assert parent.stdout
        pid = int(parent.stdout.readline())
        parent.kill()
        parent.wait()
        parent.stdout.close()
        until(lambda: not _alive(pid), "it lives on")


def _alive(pid: int) -> bool:
    try:
        return "\nState:\tZ" not in Path(f"/proc/{pid}/status").read_text()
    except FileNotFoundError:
        return False
