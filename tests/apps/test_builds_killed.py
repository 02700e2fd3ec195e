"""The server killed in the middle of writing down, a hundred times: nothing it said was kept is missing, nothing is there twice."""

import json
import os
import random
import select
import signal
import time
from datetime import UTC, datetime, timedelta
from uuid import UUID, uuid4

from django.db import connections
from django.test import TransactionTestCase

from tests.core.test_ways_out import short
from tests.people import member
from tests.profile import quick_or, seed
from varistrat.builds.models import Build, Record
from varistrat.builds.services import begin as beginning
from varistrat.builds.services import log
from varistrat.shop.models import Membership

KILLS, BATCH, SEED = quick_or(10, 300), 5, seed(3)
PATIENCE = 60.0
START = datetime(2026, 5, 17, 8, 0, tzinfo=UTC)


class KilledTests(TransactionTestCase):
    def test_nothing_acknowledged_is_missing_and_nothing_twice(self) -> None:
        smith = member("smith")
        build = beginning.begin(actor=smith, uid=uuid4(), worked=short(60.0), design=None, title="Eel splitter")
        rng = random.Random(SEED)
        waiting = [str(UUID(int=n + 1)) for n in range(300 * BATCH)]
        acknowledged: set[str] = set()
        for n in range(KILLS):
            # a tablet sends again all that was not acknowledged, in its order
            acknowledged |= self.killed(smith, build, [w for w in waiting if w not in acknowledged], rng.uniform(0.002, 0.05), bool(n % 2))
            there = {str(u) for u in Record.objects.filter(build=build).values_list("uid", flat=True)}
            self.assertLessEqual(acknowledged, there)
        rows = [str(u) for u in Record.objects.filter(build=build).values_list("uid", flat=True)]
        self.assertEqual(len(rows), len(set(rows)))
        self.assertGreaterEqual(len(acknowledged), KILLS // 2 * BATCH, "every other one is killed only after it has said something")
        build.refresh_from_db()
        log.refresh(build)

    def killed(self, smith: Membership, build: Build, waiting: list[str], after: float, heard: bool) -> set[str]:
        """What a process said was kept before it was killed: `after` seconds from its beginning, or (heard) from its first word, however
        slow the machine is."""
        connections.close_all()
        out, into = os.pipe()
        child = os.fork()
        if child == 0:
            try:
                os.close(out)
                for n in range(0, len(waiting), BATCH):
                    batch = waiting[n : n + BATCH]
                    at = (START + timedelta(minutes=n)).isoformat()
                    said = [{"id": i, "op": "bar:clean", "kind": "note", "at": at, "text": i} for i in batch]
                    kept = log.write(actor=smith, build=build, entries=said)
                    os.write(into, (json.dumps(kept.kept) + "\n").encode())
            finally:
                os._exit(0)
        os.close(into)
        if heard:
            select.select([out], [], [], PATIENCE)
        time.sleep(after)
        os.kill(child, signal.SIGKILL)
        os.waitpid(child, 0)
        told = b""
        while part := os.read(out, 65536):
            told += part
        os.close(out)
        return {i for line in told.decode().splitlines() for i in json.loads(line)}
