"""A full disk, one that cannot be written, a locked database, a clock set back: said clearly, nothing lost, and it goes on by itself."""

import errno
import json
import sqlite3
import threading
from collections.abc import Iterator
from contextlib import closing, contextmanager
from datetime import UTC, datetime, timedelta
from pathlib import Path
from typing import Any
from unittest import mock
from uuid import uuid4

import numpy as np
from django.core.files.uploadedfile import SimpleUploadedFile
from django.db import connection
from django.test import Client, TransactionTestCase
from django.utils import timezone

from tests.api.test_api import HTTP
from tests.core.photos import photo_of
from tests.core.test_ways_out import short
from tests.people import member, signed_in
from varistrat.builds.models import Record
from varistrat.builds.services import begin as beginning
from varistrat.builds.services import log
from varistrat.core.design.document import read_document
from varistrat.core.heat.segment import Segment
from varistrat.core.kiln.plant import Load
from varistrat.core.kiln.program import Program
from varistrat.core.starters import STARTERS
from varistrat.designs.models import Revision
from varistrat.designs.services import keep
from varistrat.kiln import services as kiln

LAMINATE = STARTERS["three_layer"].document()


@contextmanager
def said(pragma: str, value: object, after: object) -> Iterator[None]:
    """A pragma of the very connection the request uses, and as it was again."""
    with connection.cursor() as c:
        c.execute(f"PRAGMA {pragma}={value}")
    try:
        yield
    finally:
        with connection.cursor() as c:
            c.execute(f"PRAGMA {pragma}={after}")


class DiskTests(TransactionTestCase):
    def setUp(self) -> None:
        self.who = member("smith")
        self.client: Client = signed_in(self.who)
        self.design = keep.create_design(actor=self.who, document=read_document(LAMINATE), name="d")
        self.build = beginning.begin(actor=self.who, uid=uuid4(), worked=short(60.0), design=None, title="Eel splitter")

    def save(self, base: int, note: str) -> Any:
        document = LAMINATE | {"recipe": LAMINATE["recipe"] | {"note": note}}
        body = json.dumps({"document": document, "base": base})
        return self.client.put(f"/api/designs/{self.design.pk}", body, content_type="application/json", **HTTP)

    def write(self, ids: list[str], text: str = "x") -> Any:
        at = timezone.now().isoformat()
        entries = [{"id": i, "op": "bar:clean", "kind": "note", "at": at, "text": text} for i in ids]
        body = json.dumps({"entries": entries})
        return self.client.post(f"/api/builds/{self.build.pk}/entries", body, content_type="application/json", **HTTP)

    def refused_then_taken(self, trouble: Any, word: str) -> None:
        ids = [str(uuid4()) for _ in range(40)]
        before, saves = Record.objects.count(), Revision.objects.count()
        with trouble:
            for answer in (self.save(1, "n" * 3000), self.write(ids, "t" * 1500)):
                self.assertEqual((answer.status_code, answer["Content-Type"]), (503, "application/problem+json"), answer.content[:300])
                self.assertIn(word, answer.json()["title"])
                self.assertIn("kept in this browser", answer.json()["title"])
                self.assertGreater(int(answer["Retry-After"]), 0)
            # what only looks goes on
            self.assertEqual(self.client.get("/api/designs", **HTTP).status_code, 200)
        self.assertEqual((Record.objects.count(), Revision.objects.count()), (before, saves), "nothing half written")
        # the browser sends the same again
        self.assertEqual(self.save(1, "n" * 3000).status_code, 200)
        self.assertEqual(sorted(self.write(ids, "t" * 1500).json()["kept"]), sorted(ids))
        self.assertEqual(Record.objects.count(), before + len(ids))

    def test_full(self) -> None:
        with connection.cursor() as c:
            # no page that others left free
            c.execute("VACUUM")
            pages = c.execute("PRAGMA page_count").fetchone()[0]
        self.refused_then_taken(said("max_page_count", pages, 1_000_000_000), "full")

    def test_a_photo_that_finds_no_room_is_told_and_taken_later(self) -> None:
        made = photo_of(short(60.0), "right", {}, np.random.default_rng(1)).jpeg
        path, uid = f"/api/builds/{self.build.pk}/photos", uuid4()

        def send() -> Any:
            return self.client.post(f"{path}/{uid}", {"file": SimpleUploadedFile("a.jpg", made, "image/jpeg")}, **HTTP)

        for number, word in ((errno.ENOSPC, "full"), (errno.EROFS, "cannot be written")):
            with mock.patch.object(Path, "write_bytes", side_effect=OSError(number, "no")):
                answer = send()
            self.assertEqual((answer.status_code, answer["Content-Type"]), (503, "application/problem+json"))
            self.assertIn(word, answer.json()["title"])
        self.assertLess(send().status_code, 300)

    def test_read_only(self) -> None:
        self.refused_then_taken(said("query_only", "ON", "OFF"), "cannot be written")

    @contextmanager
    def locked(self, patience_ms: int) -> Iterator[None]:
        """Another program holds the database for as long as this lasts."""
        with closing(sqlite3.connect(connection.settings_dict["NAME"], isolation_level=None, check_same_thread=False)) as other:
            other.execute("BEGIN IMMEDIATE")
            with said("busy_timeout", patience_ms, 20_000):
                try:
                    yield
                finally:
                    other.execute("ROLLBACK")

    def test_locked_for_longer_than_one_waits(self) -> None:
        self.refused_then_taken(self.locked(150), "busy")

    def test_locked_for_a_while_it_waits_and_goes_on(self) -> None:
        """Ten seconds are borne; less is tried here."""
        self.assertGreaterEqual(connection.settings_dict["OPTIONS"]["timeout"], 15)
        other = sqlite3.connect(connection.settings_dict["NAME"], isolation_level=None, check_same_thread=False)
        other.execute("BEGIN IMMEDIATE")
        let_go = threading.Event()
        timer = threading.Timer(0.5, lambda: (let_go.set(), other.execute("ROLLBACK"), other.close()))
        timer.start()
        self.assertEqual(self.save(1, "waited").status_code, 200)
        self.assertTrue(let_go.is_set(), "it was written while another held the database")
        timer.join()


class ClockTests(TransactionTestCase):
    """The server's clock set back, as one without a battery is after a power cut."""

    def setUp(self) -> None:
        self.who = member("smith")
        self.build = beginning.begin(actor=self.who, uid=uuid4(), worked=short(60.0), design=None, title="Eel splitter")

    def note(self, at: datetime) -> log.Kept:
        entry = {"id": str(uuid4()), "op": "bar:clean", "kind": "note", "at": at.isoformat(), "text": "x"}
        return log.write(actor=self.who, build=self.build, entries=[entry])

    def test_what_a_tablet_wrote_at_the_right_time_is_kept(self) -> None:
        real = timezone.now()
        self.assertEqual(len(self.note(real).kept), 1)
        with mock.patch("django.utils.timezone.now", lambda: datetime(2001, 1, 1, tzinfo=UTC)):
            self.assertEqual(len(self.note(real + timedelta(days=3)).kept), 1, "the tablet's clock is right, ours is not")
            self.assertEqual(len(self.note(real + timedelta(days=4000)).refused), 1, "and that is nobody's time")
        # with a clock that was not set back a time three days ahead is the tablet's fault
        self.assertEqual(len(self.note(real + timedelta(days=3)).refused), 1)

    def test_a_kiln_run_goes_on_from_where_it_is(self) -> None:
        program = Program(name="p", segments=[Segment(celsius=600.0, minutes=60.0)])
        design = keep.create_design(actor=self.who, document=read_document(LAMINATE), name="d")
        load = Load.of(180.0, 4.0, 35.0, 200.0)
        run = kiln.start_run(actor=self.who, design=design, program=program, steels=["1095"], load=load, speed=60)
        back = timezone.now() - timedelta(days=2)
        with mock.patch("django.utils.timezone.now", lambda: back):
            run = kiln.look(run=run)
            self.assertEqual(run.looked, back)
        with mock.patch("django.utils.timezone.now", lambda: back + timedelta(minutes=2)):
            later = kiln.look(run=run)
        self.assertGreater(later.lines, 0, "not in two days, when the clock is there again")
