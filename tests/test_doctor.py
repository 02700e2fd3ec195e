"""What is wrong with an installation: each ill planted, named in words, with what helps; a sound one is left as it is."""

import json
import os
import shutil
import sqlite3
import subprocess
import tempfile
from collections import namedtuple
from contextlib import closing
from datetime import UTC, datetime, timedelta
from pathlib import Path
from unittest import mock

from django.conf import settings
from django.db import connection
from django.test import TransactionTestCase

from varistrat.site import doctor, keeping

ROOT = Path(__file__).resolve().parents[1]
Usage = namedtuple("Usage", "total used free")


class DoctorTests(TransactionTestCase):
    def setUp(self) -> None:
        outside = tempfile.TemporaryDirectory()
        self.addCleanup(outside.cleanup)
        self.folder = Path(outside.name) / "shop"
        self.folder.mkdir(mode=0o700)
        # the test's own database, whole and up to date
        with closing(sqlite3.connect(self.folder / keeping.NAME)) as copy:
            connection.ensure_connection()
            connection.connection.backup(copy)
            copy.execute("PRAGMA foreign_keys=OFF")
        (self.folder / keeping.NAME).chmod(0o600)
        self.backed_up(1)

    def backed_up(self, days: float, where: str = "/proc/version") -> None:
        at = (datetime.now(UTC) - timedelta(days=days)).isoformat()
        (self.folder / keeping.LAST_BACKUP).write_text(json.dumps({"at": at, "file": where}))

    def run_sql(self, *lines: str) -> None:
        with closing(sqlite3.connect(self.folder / keeping.NAME)) as c:
            for line in lines:
                c.execute(line)
            c.commit()

    def ills(self) -> dict[str, str]:
        return {w.says: w.do for w in doctor.looked_at(self.folder) if w.grade != "well"}

    def assert_says(self, wanted: str, cure: str = "") -> None:
        found = self.ills()
        self.assertTrue(any(wanted in says and cure in do for says, do in found.items()), found)
        self.assertTrue(all(found.values()), "each with what helps")

    def job(self, state: str, ordered: float, heartbeat: float | None = None) -> None:
        def at(seconds: float) -> str:
            return (datetime.now(UTC) - timedelta(seconds=seconds)).strftime("%Y-%m-%d %H:%M:%S.%f")

        beat = f"'{at(heartbeat)}'" if heartbeat is not None else "NULL"
        self.run_sql(
            "INSERT INTO jobs_job (kind, lane, input, about, state, progress, wanted, problem, tries, stop_asked, ordered, heartbeat, "
            "shop_id)"
            f" VALUES ('x', 'short', '{{}}', '{{}}', '{state}', 0, 1, '', 1, 0, '{at(ordered)}', {beat}, 1)"
        )

    def test_a_virus_scanner_that_is_not_there(self) -> None:
        with mock.patch.dict(os.environ, {"VARISTRAT_SCANNER": "/nowhere/scanner -q"}):
            self.assert_says("no virus scanner '/nowhere/scanner'", "VARISTRAT_SCANNER")
        with mock.patch.dict(os.environ, {"VARISTRAT_SCANNER": "cat -u"}):
            self.assertFalse(any("scanner" in says for says in self.ills()))

    def test_a_sound_one_is_well_and_nothing_is_touched(self) -> None:
        before = sorted((p.name, p.stat().st_mtime_ns) for p in self.folder.iterdir() if p.name != keeping.LOCK)
        self.assertEqual(self.ills(), {})
        after = sorted((p.name, p.stat().st_mtime_ns) for p in self.folder.iterdir() if p.name != keeping.LOCK)
        self.assertEqual(before, after)

    def test_space(self) -> None:
        for free, wanted in ((50 * doctor.MB, "The disk is full"), (500 * doctor.MB, "The disk fills up")):
            with mock.patch.object(shutil, "disk_usage", return_value=Usage(1, 1, free)):
                self.assert_says(wanted, "ake room")

    def test_rights(self) -> None:
        (self.folder / keeping.NAME).chmod(0o644)
        self.assert_says("Others on this machine can read varistrat.sqlite3", "chmod")
        with mock.patch.object(tempfile, "NamedTemporaryFile", side_effect=OSError(30, "Read-only file system")):
            self.assert_says("Nothing can be written", "read-only")
        shutil.rmtree(self.folder)
        self.assert_says("There is no folder", "--data")

    def test_backups(self) -> None:
        self.backed_up(30)
        self.assert_says("30 days old", "./run backup")
        self.backed_up(1, "/nowhere/kept.sqlite3")
        self.assert_says("no longer there")
        self.backed_up(1, str(self.folder / keeping.NAME))
        self.assert_says("on the same disk")
        for text in ("", "[]", '{"at": 5}'):
            (self.folder / keeping.LAST_BACKUP).write_text(text)
            self.assert_says("No backup was ever made")
        keeping.backup(self.folder, self.folder.parent / "kept.sqlite3")
        self.assert_says("on the same disk")

    def test_a_broken_database(self) -> None:
        file = self.folder / keeping.NAME
        whole = file.read_bytes()
        file.write_bytes(whole[: len(whole) // 2] + os.urandom(4096) * 8)
        self.assert_says("The database is broken", "./run restore")
        file.write_bytes(b"nothing of the kind")
        self.assert_says("The database is broken")
        file.unlink()
        self.assert_says("There is no database", "./run restore")

    def test_of_a_newer_varistrat(self) -> None:
        self.run_sql("INSERT INTO django_migrations (app, name, applied) VALUES ('designs', '9999_later', '2031-01-01')")
        self.assert_says("newer Varistrat", "newer")
        self.run_sql("DELETE FROM django_migrations WHERE app = 'practice' OR name = '9999_later'")
        self.assertEqual(self.ills(), {})
        self.assertTrue(any("older Varistrat" in w.says for w in doctor.looked_at(self.folder)))

    def test_photos_that_are_gone(self) -> None:
        self.run_sql(
            "PRAGMA foreign_keys=OFF",
            self.build_row(),
            "INSERT INTO builds_photo (uid, width, height, bytes, came, build_id) VALUES ('ab', 1, 1, 1, '2026-05-01', 1)",
        )
        self.assert_says("1 of 1 photos", "backup")
        (self.folder / "photos" / "1" / "1").mkdir(parents=True)
        (self.folder / "photos" / "1" / "1" / "ab.jpg").touch()
        self.assertEqual(self.ills(), {})

    def build_row(self) -> str:
        """Whatever its columns: those that may not be empty get something."""
        with closing(sqlite3.connect(self.folder / keeping.NAME)) as c:
            rows = [(r[1], r[2]) for r in c.execute("PRAGMA table_info(builds_build)") if r[3] or r[1] in ("id", "shop_id")]
        values = ["1" if kind.lower().startswith(("int", "big", "bool", "real", "small")) else "'{}'" for _, kind in rows]
        return f"INSERT INTO builds_build ({', '.join(n for n, _ in rows)}) VALUES ({', '.join(values)})"

    def test_the_clock(self) -> None:
        ahead = (datetime.now(UTC) + timedelta(hours=5)).strftime("%Y-%m-%d %H:%M:%S.%f")
        self.job("done", -5 * 3600)
        self.assert_says("The clock was set back", "Set it right")
        self.assertIn("5.0 hours", next(iter(self.ills())), ahead)
        with mock.patch.object(doctor.time, "time", return_value=datetime(2009, 1, 1, tzinfo=UTC).timestamp()):
            self.assert_says("01 January 2009", "Set it")

    def test_the_worker(self) -> None:
        with keeping.at_work(self.folder):
            self.assertEqual(self.ills(), {})
            self.job("running", 400, 30)
            self.job("waiting", 60)
            self.assertEqual(self.ills(), {})
            self.job("running", 900, doctor.HANGS + 5)
            (self.folder / "worker-short.log").touch(mode=0o600)
            self.assert_says("The worker is down", "worker-short.log")
        # without a server nobody is expected to work
        self.assertEqual(self.ills(), {})

    def test_a_database_that_somebody_holds(self) -> None:
        with keeping.at_work(self.folder), closing(sqlite3.connect(self.folder / keeping.NAME, isolation_level=None)) as other:
            other.execute("BEGIN IMMEDIATE")
            with mock.patch.object(doctor, "LOCKED", 0.2):
                self.assert_says("nobody can write", "Another program")

    def test_through_the_one_way_in(self) -> None:
        env = {k: v for k, v in os.environ.items() if not k.startswith("VARISTRAT_")}

        def asked() -> subprocess.CompletedProcess[str]:
            return subprocess.run(
                [str(ROOT / "run"), "doctor", "--data", str(self.folder)], env=env, cwd="/", capture_output=True, text=True
            )

        well = asked()
        self.assertEqual((well.returncode, well.stderr), (0, ""))
        self.assertIn("ok    The database is sound", well.stdout)
        self.backed_up(30)
        self.assertEqual(asked().returncode, 1)
        (self.folder / keeping.NAME).unlink()
        bad = asked()
        self.assertEqual(bad.returncode, 2)
        self.assertTrue(bad.stdout.splitlines()[-2].startswith("STOP"), "what is worst stands last")
        self.assertTrue(settings.DATA_DIR.exists())
