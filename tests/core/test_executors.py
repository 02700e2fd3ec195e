"""Where heavy work is done: the same result from threads, processes and a cluster, and from one whose worker is killed in the middle."""

import json
import os
from concurrent.futures import Executor, Future, ThreadPoolExecutor
from concurrent.futures.process import BrokenProcessPool
from tempfile import TemporaryDirectory
from unittest import mock

import numpy as np
from django.test import SimpleTestCase

from tests.cluster import cluster, none_left
from tests.core.far import always_dies, die_once, faults, refuses, slow_square
from tests.waiting import PATIENCE, until
from varistrat.core import executors
from varistrat.core.afar import chances_of, face
from varistrat.core.design.document import read_document
from varistrat.core.design.worked import Worked
from varistrat.core.errors import Cancelled, InputError
from varistrat.core.executors import ASKED, Processes, asked_for, workers
from varistrat.core.looks.search import Ask, Search
from varistrat.core.looks.taste import Want
from varistrat.core.pattern.picture import FULL, draw
from varistrat.core.pattern.views import BladeView
from varistrat.core.shop import AS_SHIPS
from varistrat.core.starters import STARTERS
from varistrat.core.study.tolerances import Sizes
from varistrat.core.sweep import Variation, sheet

TWIST = json.dumps(STARTERS["bold_twist"].document(), sort_keys=True)
LAMINATE = json.dumps(STARTERS["three_layer"].document(), sort_keys=True)


class SaidTests(SimpleTestCase):
    def test_what_can_be_said(self) -> None:
        for said in ("threads", "processes", "dask://localhost:8786", "dask://10.0.0.7:1"):
            with mock.patch.dict(os.environ, {ASKED: said}):
                self.assertEqual(asked_for(), said)
        for wrong in (
            "thread",
            "dask://",
            "dask://:8786",
            "dask://host",
            "dask://host:",
            "dask://host:0",
            "dask://host:99999",
            "tcp://a:1",
            "ray://a:1",
        ):
            with mock.patch.dict(os.environ, {ASKED: wrong}), self.assertRaises(InputError) as caught:
                asked_for()
            self.assertIn(ASKED, caught.exception.problems[0].path)

    def test_nothing_said_is_what_is_usual_and_what_is_said_counts(self) -> None:
        with mock.patch.dict(os.environ):
            os.environ.pop(ASKED, None)
            self.assertEqual((asked_for(), asked_for("processes")), ("threads", "processes"))
            os.environ[ASKED] = "threads"
            self.assertEqual(asked_for("processes"), "threads")

    def test_no_scheduler_is_said_and_the_work_is_done_here(self) -> None:
        with (
            mock.patch.dict(os.environ, {ASKED: "dask://127.0.0.1:9"}),
            mock.patch.object(executors, "REACHED_WITHIN", 0.5),
            self.assertLogs("varistrat.core.executors", "WARNING") as told,
            workers() as pool,
        ):
            self.assertEqual(pool.submit(slow_square, 7).result(), 49)
        self.assertIn("the work is done on this machine", told.output[0])
        self.assertIn("dask scheduler", told.output[0])


class ProcessesTests(SimpleTestCase):
    def test_a_killed_process_changes_nothing(self) -> None:
        pool = Processes(2)
        self.addCleanup(pool.shutdown, cancel_futures=True)
        with TemporaryDirectory() as folder, self.assertLogs("varistrat.core.executors", "WARNING"):
            waiting = [pool.submit(slow_square, n) for n in range(12)]
            waiting += [pool.submit(die_once, f"{folder}/died", n) for n in range(3)]
            self.assertEqual([f.result(PATIENCE) for f in waiting], [n * n for n in range(12)] + [1, 2, 3])

    def test_what_always_kills_is_given_up_and_the_rest_goes_on(self) -> None:
        pool = Processes(1)
        self.addCleanup(pool.shutdown, cancel_futures=True)
        with self.assertLogs("varistrat.core.executors", "WARNING"):
            bad = pool.submit(always_dies)
            self.assertIsInstance(bad.exception(60), BrokenProcessPool)
            self.assertEqual(pool.submit(slow_square, 3).result(PATIENCE), 9)

    def test_its_own_errors_are_handed_on(self) -> None:
        pool = Processes(1)
        self.addCleanup(pool.shutdown, cancel_futures=True)
        with self.assertRaises(InputError) as caught:
            pool.submit(refuses).result(PATIENCE)
        self.assertEqual(caught.exception.problems[0].path, "here")

    def test_a_process_keeps_the_memory_it_lets_go_of(self) -> None:
        pool = Processes(1)
        self.addCleanup(pool.shutdown, cancel_futures=True)
        pool.submit(faults, 3).result(PATIENCE)
        # two of a megabyte are 512 pages, a hundred times over
        self.assertLess(pool.submit(faults, 100).result(PATIENCE), 2000)

    def test_what_is_left_is_dropped(self) -> None:
        with mock.patch.dict(os.environ, {ASKED: "processes"}), workers() as pool:
            self.assertIsInstance(pool, Processes)
            first: Future[int] = pool.submit(slow_square, 2, 0.0)
            self.assertEqual(first.result(PATIENCE), 4)
            left = [pool.submit(slow_square, n, 0.5) for n in range(400)]
        self.assertGreater(sum(f.cancelled() for f in left), 100, "a hundred seconds of work were not dropped")


class ClusterTests(SimpleTestCase):
    """A scheduler and two workers on loopback; one of them is killed in the middle of what it does."""

    def everything(self, pool: Executor) -> tuple[object, ...]:
        """A print face, a sheet, chances of a family study, a look search: what comes of each, to the last bit."""
        grey = face(TWIST, AS_SHIPS, "right", 1400, 4.0, pool)
        axes = [Variation(path="blade.place.angle", low=-4.0, high=4.0, count=6)]
        cells = [(c.values, c.picture) for c in sheet(read_document(json.loads(TWIST)), axes, pool, lambda: False, (120, 40))]
        some = [pool.submit(chances_of, LAMINATE, AS_SHIPS, Sizes(), "all", [(s, 1.0)]) for s in (0.5, 1.0, 2.0)]
        chances = [f.result() for f in some]
        search = Search(Ask(wants=[Want(feature="width", value=2.0)], faces=64, lacks=["twisting", "saw", "mill", "drill", "can"]))
        search.walk(pool)
        return grey.tobytes(), cells, chances, search.features

    def test_the_same_to_the_last_bit_though_a_worker_dies(self) -> None:
        from varistrat.core.looks import search

        search._kept.clear()
        with ThreadPoolExecutor(2) as pool:
            here = self.everything(pool)
        search._kept.clear()
        with cluster(2) as (where, hands), mock.patch.dict(os.environ, {ASKED: f"dask://{where}"}):
            with workers() as pool:
                self.assertNotIsInstance(pool, ThreadPoolExecutor)
                waiting = [pool.submit(slow_square, n, 0.1) for n in range(40)]
                until(lambda: any(f.done() for f in waiting), "nothing is done")
                hands[0].kill()
                self.assertEqual([f.result(PATIENCE) for f in waiting], [n * n for n in range(40)])
                self.assertEqual(self.everything(pool), here)
            with workers() as pool, self.assertRaises(Cancelled):
                face(TWIST, AS_SHIPS, "left", 1400, 4.0, pool, lambda: True)
            hands[1].kill()
            hands[1].wait()
            none_left(where)
            with self.assertLogs("varistrat.core.executors", "WARNING") as told, workers() as pool:
                self.assertEqual(pool.submit(slow_square, 5).result(PATIENCE), 25)
            self.assertIn("no workers", told.output[0])

    def test_a_face_drawn_afar_is_the_one_drawn_here(self) -> None:
        cut = Worked.of(read_document(json.loads(TWIST))).blade
        with ThreadPoolExecutor(2) as pool:
            plain = draw(cut.subject(), BladeView(cut.placed, "right", margin=4.0), 900, pool, FULL)
            np.testing.assert_array_equal(face(TWIST, AS_SHIPS, "right", 900, 4.0, pool), plain)
