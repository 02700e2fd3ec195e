"""Keeping designs: every save a revision, stale saves refused and kept, the demo shop."""

import threading
from copy import deepcopy
from unittest import mock

from django.contrib.auth.models import User
from django.core.management import call_command
from django.core.management.base import CommandError
from django.db import connection
from django.test import TestCase, TransactionTestCase, override_settings

from tests.core.samples import forged, solid
from tests.people import member
from varistrat.core.bars.fresh import WORDS, fresh_step
from varistrat.core.bars.steps import STEPS
from varistrat.core.design.document import Document, read_document
from varistrat.core.design.findings import findings_of, late_findings_of
from varistrat.core.design.ledger import ledger_of
from varistrat.core.design.summary import summary_of
from varistrat.core.design.worked import Worked
from varistrat.core.errors import InputError
from varistrat.core.starters import STARTERS
from varistrat.demo.people import DEMO_PEOPLE
from varistrat.demo.shop import load_demo
from varistrat.designs import selectors
from varistrat.designs.models import Design, Revision
from varistrat.designs.services import keep
from varistrat.shop.services.people import member_of


def document(thickness: float = 18.0) -> Document:
    data = deepcopy(STARTERS["blank"].document())
    data["recipe"]["bar"]["steps"][0]["thickness"] = thickness
    return read_document(data)


class KeepTests(TestCase):
    def setUp(self) -> None:
        self.smith = member("smith")
        self.design = keep.create_design(actor=self.smith, document=document(), name="One")

    def save(self, thickness: float, base: int) -> Revision:
        return keep.save_design(actor=self.smith, design=self.design, document=document(thickness), base=base)

    def test_a_shop_and_a_design_are_not_without_end(self) -> None:
        with mock.patch.object(keep, "MOST_DESIGNS", 2):
            keep.create_design(actor=self.smith, document=document(), name="Two")
            for more in (
                lambda: keep.create_design(actor=self.smith, document=document(), name="Three"),
                lambda: keep.copy_design(actor=self.smith, design=self.design),
            ):
                with self.assertRaises(InputError):
                    more()
            # another shop's count is its own
            keep.create_design(actor=member("other"), document=document(), name="One")
        with mock.patch.object(keep, "MOST_SAVES", 2):
            self.save(17, 1)
            with self.assertRaises(InputError):
                self.save(16, 2)

    def test_every_save_is_a_revision_and_the_same_again_is_not(self) -> None:
        self.assertEqual(self.save(17, 1).number, 2)
        self.assertEqual(self.save(17, 2).number, 2)
        self.assertEqual(self.save(16, 2).number, 3)
        self.assertEqual([r.number for r in selectors.history(self.design)], [3, 2, 1])
        self.assertEqual(selectors.revision_of(self.design).document["recipe"]["bar"]["steps"][0]["thickness"], 16)

    def test_a_stale_save_is_refused_and_both_are_kept(self) -> None:
        self.save(17, 1)
        with self.assertRaises(keep.StaleWrite) as caught:
            self.save(12, 1)
        self.assertEqual((caught.exception.current, caught.exception.kept), (2, 3))
        kept = self.design.revisions.get(number=3)
        self.assertTrue(kept.stale)
        self.assertEqual(kept.document["recipe"]["bar"]["steps"][0]["thickness"], 12)
        self.design.refresh_from_db()
        self.assertEqual(self.design.current, 2)
        # and it can be brought back on top
        back = keep.bring_back(actor=self.smith, design=self.design, number=3)
        self.assertEqual((back.number, back.stale, back.document), (4, False, kept.document))
        self.assertEqual(self.design.current, 4)

    def test_a_revision_is_never_changed_by_what_comes_after(self) -> None:
        before = self.design.revisions.get(number=1).document
        self.save(17, 1)
        keep.bring_back(actor=self.smith, design=self.design, number=1)
        self.assertEqual(self.design.revisions.get(number=1).document, before)
        self.assertEqual(self.design.revisions.count(), 3)

    def test_removed_and_restored(self) -> None:
        keep.remove_design(actor=self.smith, design=self.design)
        self.assertEqual(selectors.bench(self.smith.shop), [])
        with self.assertRaises(selectors.NotFound):
            selectors.design_of(self.smith.shop, self.design.pk)
        keep.restore_design(actor=self.smith, design=self.design)
        self.assertEqual(len(selectors.bench(self.smith.shop)), 1)

    def test_another_smith_sees_nothing(self) -> None:
        other = member("other")
        with self.assertRaises(selectors.NotFound):
            selectors.design_of(other.shop, self.design.pk)

    def test_the_bench_takes_one_query_however_many(self) -> None:
        for n in range(12):
            keep.create_design(actor=self.smith, document=document(), name=f"No {n}")
        with self.assertNumQueries(1):
            self.assertEqual(len(selectors.bench(self.smith.shop)), 13)


class RaceTests(TransactionTestCase):
    def test_of_many_saves_at_once_one_wins_and_all_are_kept(self) -> None:
        smith = member("smith")
        design = keep.create_design(actor=smith, document=document(), name="One")
        outcome: list[str] = []

        def save(i: int) -> None:
            try:
                keep.save_design(actor=smith, design=Design.objects.get(pk=design.pk), document=document(10.0 + i), base=1)
                outcome.append("saved")
            except keep.StaleWrite:
                outcome.append("stale")
            finally:
                connection.close()

        threads = [threading.Thread(target=save, args=(i,)) for i in range(6)]
        for t in threads:
            t.start()
        for t in threads:
            t.join()
        self.assertEqual(sorted(outcome), ["saved"] + ["stale"] * 5)
        self.assertEqual(sorted(design.revisions.values_list("number", flat=True)), [1, 2, 3, 4, 5, 6, 7])


class DemoTests(TestCase):
    def test_the_demo_shop_works_as_it_stands_and_is_loaded_once(self) -> None:
        self.assertGreaterEqual(load_demo(), 5)
        self.assertEqual(load_demo(), 0)
        user = User.objects.get(username=DEMO_PEOPLE["owner"])
        self.assertFalse(user.has_usable_password())
        for design, _ in selectors.bench(member_of(user).shop):
            worked = Worked.of(read_document(selectors.revision_of(design).document))
            self.assertEqual(worked.problems, (), design.name)
            told = findings_of(worked) + late_findings_of(worked)
            self.assertEqual([f for f in told if f.grade != "note"], [], design.name)
            grades = [f.grade for row in ledger_of(worked) for f in row.findings]
            self.assertNotIn("stop", grades, design.name)

    def test_a_real_shop_is_never_given_the_demo(self) -> None:
        with override_settings(DEMO=False, MODE="serve"), self.assertRaises(CommandError):
            call_command("loaddemo")
        self.assertFalse(User.objects.exists())

    def test_a_shop_in_use_is_left_as_it_is(self) -> None:
        User.objects.create_user("smith")
        self.assertEqual(load_demo(), 0)
        self.assertEqual(Design.objects.count(), 0)

    def test_starters_and_fresh_steps_work(self) -> None:
        for starter in STARTERS.values():
            worked = Worked.of(read_document(starter.document()))
            told = findings_of(worked) + late_findings_of(worked)
            self.assertEqual((worked.problems, [f for f in told if f.grade != "note"]), ((), []), starter.key)
            self.assertNotIn("stop", [f.grade for row in ledger_of(worked) for f in row.findings], starter.key)

    def test_a_new_step_suits_the_bar_it_is_put_on(self) -> None:
        for start in (solid(90, 40, 43), solid(600, 40, 5), solid(200, 18, 18)):
            for before in ([], [{"kind": "section", "form": "round"}]):
                for step in STEPS:
                    kind = step.model_fields["kind"].default
                    self.assertIn(kind, WORDS)
                    steps = [*before, fresh_step(kind, forged(start, *before).bar)]
                    if before and kind not in ("weld", "draw", "turn", "section", "twist", "grind", "trim"):
                        continue  # these want a rectangle, and say so
                    grades = [f["grade"] for f in forged(start, *steps).rows()[-1]["findings"]]
                    self.assertNotIn("stop", grades, steps)
        with self.assertRaises(InputError):
            fresh_step("melt", forged(solid()).bar)


class DocumentTests(TestCase):
    def test_steps_switched_off_are_passed_by_and_paths_still_count_them(self) -> None:
        data = STARTERS["bold_twist"].document()
        data["off"] = [0, 2]
        data["recipe"]["bar"]["steps"][4] = {"kind": "trim", "start": 9999.0}
        worked = Worked.of(read_document(data))
        self.assertEqual([row.step for row in ledger_of(worked)], [None, "s2", "s4"])
        self.assertEqual(worked.problems[0].path, "recipe.bar.steps[4].start")
        self.assertIsNone(worked.cut)
        self.assertEqual(len(read_document(data).carried_out().bar.steps), 4)

    def test_heights_on_screen_are_square_to_the_edge(self) -> None:
        data = STARTERS["three_layer"].document()
        # an edge rising 3 in 4: its cosine is 0.8
        data["blade"]["outline"] = {"edge": [[0, 0], [40, 30]], "spine": [[0, 30], [40, 60]]}
        data["blade"]["place"] = {"y": -30.0}
        worked = Worked.of(read_document(data))
        assert worked.cut
        vertical = next(iter(worked.cut.exposure(24))).shown[0][1]
        shown = summary_of(worked).core[0].shown[0][1]
        self.assertAlmostEqual(shown, 0.8 * vertical, 3)

    def test_summary_figures(self) -> None:
        worked = Worked.of(read_document(STARTERS["three_layer"].document()))
        s = summary_of(worked)
        self.assertEqual((s.layers, len(s.core)), (3, 48))
        self.assertAlmostEqual(s.loss_share, 0, 9)
        # a core of 6 in 20 at 5 mm is 1.5 mm: the thinnest there is
        self.assertAlmostEqual(s.thinnest, 1.5, delta=0.03)
        self.assertTrue(30 < s.blade_mass < s.mass)


class OlderDesignTests(TestCase):
    """As an earlier version kept it, in its own words."""

    def setUp(self) -> None:
        self.smith = member("smith")
        self.design = keep.create_design(actor=self.smith, document=read_document(STARTERS["ladder"].document()), name="Old")
        self.old = {"recipe": STARTERS["ladder"].document()["recipe"], "off": [1], "fire": {"steps": [{"at": [0], "heats": 2}]}}
        self.design.revisions.update(document=self.old, digest=keep.digest(self.old))

    def test_it_is_read_with_names_and_kept_as_it_was_until_it_changes(self) -> None:
        revision = selectors.revision_of(self.design)
        kept = revision.up_to_date
        steps = kept["recipe"]["bar"]["steps"]
        self.assertEqual((kept["off"], kept["fire"]["steps"][0]["step"]), ([steps[1]["id"]], steps[0]["id"]))
        self.assertEqual(revision.document, self.old)
        same = keep.save_design(actor=self.smith, design=self.design, document=read_document(kept), base=1)
        self.assertEqual((same.number, self.design.revisions.count()), (1, 1), "nothing was changed: nothing is saved")
        steps[0]["scale"] = 0.31
        new = keep.save_design(actor=self.smith, design=self.design, document=read_document(kept), base=1)
        self.assertEqual((new.number, new.document["format"]), (2, "varistrat.design/1"))

    def test_brought_back_and_copied_it_is_up_to_date(self) -> None:
        changed = selectors.revision_of(self.design).up_to_date | {"off": []}
        keep.save_design(actor=self.smith, design=self.design, document=read_document(changed), base=1)
        back = keep.bring_back(actor=self.smith, design=self.design, number=1)
        self.assertEqual((back.number, back.document["format"]), (3, "varistrat.design/1"))
        self.assertEqual(selectors.revision_of(keep.copy_design(actor=self.smith, design=self.design)).document, back.document)
