"""A look search and a family study as jobs: what they are told while they run and at their end, stopped, refused, another shop's."""

import json
import os
from typing import Any
from unittest import mock

from django.test import TestCase

from tests.people import member
from varistrat.core.design.document import read_document
from varistrat.core.errors import InputError
from varistrat.core.executors import ASKED
from varistrat.core.looks import search
from varistrat.core.looks.search import Ask
from varistrat.core.looks.space import Candidate
from varistrat.core.looks.taste import Want
from varistrat.core.starters import STARTERS
from varistrat.designs.selectors import NotFound
from varistrat.designs.services import keep
from varistrat.jobs.kinds.family_study import FamilyOrder
from varistrat.jobs.kinds.looks import LooksOrder
from varistrat.jobs.models import Job
from varistrat.jobs.services import ordering, runner

FEW = ["twisting", "saw", "mill", "drill", "can"]


@mock.patch.dict(os.environ, {ASKED: "threads"})
@mock.patch.object(search, "ANSWERS", 3)
@mock.patch.object(search, "GENERATIONS", 1)
@mock.patch.object(search, "CLIMBED", 1)
@mock.patch.object(search, "MOST_DETAILED", 6)
class LooksJobTests(TestCase):
    def setUp(self) -> None:
        self.who = member("smith")

    def ordered(self, **ask: Any) -> Job:
        said = {"faces": 64, "lacks": FEW, **ask}
        return ordering.order(actor=self.who, asked=LooksOrder(kind="looks", ask=Ask(**said)))

    def test_from_order_to_answers(self) -> None:
        job = self.ordered(wants=[Want(feature="width", value=2.0)])
        told: list[dict[str, Any]] = []
        with mock.patch.object(runner.JobWatch, "tell", lambda _, result: told.append(result)):
            runner.run_next("long")
        job.refresh_from_db()
        self.assertEqual(job.state, Job.State.DONE)
        assert job.result
        self.assertEqual(len(job.result["answers"]), 3)
        self.assertTrue(all(a["details"]["heats"] for a in job.result["answers"]))
        # the first are told long before the last, without what each takes
        self.assertGreater(len(told), 3)
        self.assertIsNone(told[0]["answers"][0]["details"])
        self.assertEqual(json.loads(json.dumps(job.result)), job.result)
        Candidate.model_validate(job.result["answers"][0]["candidate"])

    def test_what_is_told_on_the_way_is_seen(self) -> None:
        job = self.ordered(wants=[Want(feature="width", value=2.0)])
        running = runner.claim("long")
        assert running
        watch = runner.JobWatch(running)
        watch.tell({"kind": "looks", "doing": "walking", "tried": 5, "refused": 0, "answers": []})
        watch.progress(0.1)
        job.refresh_from_db()
        self.assertEqual((job.result or {})["tried"], 5)

    def test_stopped_it_has_no_last_word(self) -> None:
        job = self.ordered(wants=[Want(feature="width", value=2.0)])
        with mock.patch.object(runner.JobWatch, "stopped", lambda _: True):
            runner.run_next("long")
        job.refresh_from_db()
        self.assertEqual(job.state, Job.State.STOPPED)

    def test_nonsense_is_refused_before_it_waits(self) -> None:
        fine = [Want(feature="width", value=1.0)]
        for wrong in ({"lacks": []}, {"wants": [Want(feature="smell", value=1.0)]}, {"wants": fine, "lacks": ["luck"]}):
            with self.assertRaises(InputError):
                self.ordered(**wrong)
        self.assertFalse(Job.objects.exists())


@mock.patch.dict(os.environ, {ASKED: "threads"})
class FamilyJobTests(TestCase):
    def setUp(self) -> None:
        self.who = member("smith")
        self.ids = [
            keep.create_design(actor=self.who, document=read_document(STARTERS[s].document()), name=s).pk
            for s in ("three_layer", "five_layer", "bold_twist")
        ]

    def ordered(self, **more: Any) -> Job:
        return ordering.order(actor=self.who, asked=FamilyOrder(**{"kind": "family_study", "designs": self.ids, "error": "dip", **more}))

    def test_each_design_has_its_grid_and_one_without_a_core_says_why(self) -> None:
        job = self.ordered()
        runner.run_next("short")
        job.refresh_from_db()
        assert job.result
        self.assertEqual(job.state, Job.State.DONE)
        one, two, none = job.result["designs"]
        self.assertEqual([len(one["first"]), len(one["first"][0])], [len(job.result["others"]), len(job.result["scales"])])
        self.assertNotEqual(one["first"], two["first"])
        self.assertEqual(none["first"], [])
        self.assertIn("core", none["problem"])

    def test_of_one_twice_of_one_alone_or_of_another_shop_there_is_none(self) -> None:
        with self.assertRaises(InputError):
            self.ordered(designs=[self.ids[0], self.ids[0]])
        with self.assertRaises(InputError):
            self.ordered(error="mood")
        with self.assertRaises(ValueError):
            self.ordered(designs=self.ids[:1])
        stranger = keep.create_design(actor=member("other"), document=read_document(STARTERS["three_layer"].document()), name="theirs")
        with self.assertRaises(NotFound):
            self.ordered(designs=[self.ids[0], stranger.pk])

    def test_as_it_was_saved_when_it_was_ordered(self) -> None:
        job = self.ordered(error="all")
        keep.remove_design(actor=self.who, design=keep.Design.objects.get(pk=self.ids[1]))
        runner.run_next("short")
        job.refresh_from_db()
        self.assertEqual(job.state, Job.State.DONE)
        self.assertEqual(len((job.result or {})["designs"]), 3)
