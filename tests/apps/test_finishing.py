"""Baths kept: counted once, by many at a time, never of another shop, gone and back; the demo's own."""

from datetime import date
from uuid import uuid4

from django.test import TestCase

from tests.core.test_etch_depth import design
from tests.people import member
from varistrat.builds.models import Build
from varistrat.core.errors import InputError
from varistrat.core.etch.bath import Bath
from varistrat.demo.shop import load_demo
from varistrat.designs.selectors import NotFound
from varistrat.finishing import services
from varistrat.finishing.models import Bath as Row
from varistrat.finishing.models import BathUse

DAY = date(2031, 5, 1)


class BathTests(TestCase):
    def setUp(self) -> None:
        self.owner, self.stranger = member("owner"), member("stranger")
        self.worked = design("1084", "15n20")
        self.row = services.mix(actor=self.owner, name="Tube", bath=Bath(litres=1.0), mixed=DAY)

    def etch(self, **more: object) -> None:
        said = {
            "actor": self.owner,
            "bath_id": self.row.pk,
            "uid": uuid4(),
            "worked": self.worked,
            "minutes": [1.0, 5.0],
            "title": "A knife",
        }
        services.etched(**(said | more))  # type: ignore[arg-type]

    def test_wear_is_the_sum_of_its_uses(self) -> None:
        for _ in range(5):
            self.etch()
        kept = services.bath_of(self.owner.shop, self.row.pk)
        rows = list(BathUse.objects.filter(bath=self.row))
        self.assertEqual(len(rows), 5)
        self.assertAlmostEqual(kept.core.iron, sum(r.grams for r in rows), 9)
        self.assertAlmostEqual(sum(kept.elements.values()), kept.core.iron, 9)
        grams = [r.grams for r in reversed(rows)]
        self.assertEqual(grams, sorted(grams, reverse=True), "each takes up less than the one before")

    def test_the_same_etch_sent_twice_is_once(self) -> None:
        uid = uuid4()
        self.etch(uid=uid)
        before = services.bath_of(self.owner.shop, self.row.pk).core.iron
        self.etch(uid=uid, minutes=[50.0])
        self.assertEqual(services.bath_of(self.owner.shop, self.row.pk).core.iron, before)

    def test_what_was_in_it_before(self) -> None:
        row = services.mix(actor=self.owner, name="Old", bath=Bath(iron=12.0), mixed=DAY)
        kept = services.bath_of(self.owner.shop, row.pk)
        self.assertEqual((kept.core.iron, kept.uses), (12.0, 1))
        self.assertEqual(kept.elements, {})

    def test_never_of_another_shop(self) -> None:
        self.assertEqual(services.baths_of(self.stranger.shop), [])
        with self.assertRaises(NotFound):
            services.bath_of(self.stranger.shop, self.row.pk)
        with self.assertRaises(NotFound):
            services.say(actor=self.stranger, bath_id=self.row.pk, said={"name": "mine"})
        with self.assertRaises(NotFound):
            self.etch(actor=self.stranger)
        self.assertEqual(BathUse.objects.count(), 0)

    def test_what_it_was_mixed_as_stays(self) -> None:
        services.say(actor=self.owner, bath_id=self.row.pk, said={"name": "The tube", "temperature": 24.0, "note": "by the door"})
        kept = services.bath_of(self.owner.shop, self.row.pk)
        self.assertEqual((kept.row.name, kept.core.temperature, kept.core.strength), ("The tube", 24.0, 10.0))
        with self.assertRaises(InputError):
            services.say(actor=self.owner, bath_id=self.row.pk, said={"temperature": 70.0})

    def test_gone(self) -> None:
        services.say(actor=self.owner, bath_id=self.row.pk, said={"gone": DAY})
        with self.assertRaisesMessage(InputError, "given away"):
            self.etch()
        other = services.mix(actor=self.owner, name="New", bath=Bath(), mixed=DAY)
        self.assertEqual(next(k.row.pk for k in services.baths_of(self.owner.shop)), other.pk, "those in use first")

    def test_no_more_than_a_shop_keeps(self) -> None:
        Row.objects.bulk_create(
            Row(shop=self.owner.shop, name=f"b{i}", what="ferric", strength=10, temperature=20, litres=1, mixed=DAY)
            for i in range(200 - Row.objects.filter(shop=self.owner.shop).count() - 1)
        )
        services.mix(actor=self.owner, name="the last", bath=Bath(), mixed=DAY)
        with self.assertRaisesMessage(InputError, "there are 200 baths already"):
            services.mix(actor=self.owner, name="one more", bath=Bath(), mixed=DAY)

    def test_a_use_never_changes(self) -> None:
        from django.db import DatabaseError, transaction

        self.etch()
        use = BathUse.objects.get()
        use.grams = 0.0
        with self.assertRaises(DatabaseError), transaction.atomic():
            use.save()

    def test_queries_do_not_grow_with_the_baths(self) -> None:
        for i in range(4):
            services.mix(actor=self.owner, name=f"b{i}", bath=Bath(), mixed=DAY)
        with self.assertNumQueries(2):
            services.baths_of(self.owner.shop)


class DemoTests(TestCase):
    def test_one_half_used_and_a_second_grade(self) -> None:
        load_demo(True)
        baths = {r.name: r for r in Row.objects.all()}
        shop = baths["The long tube"].shop
        kept = services.bath_of(shop, baths["The long tube"].pk)
        self.assertTrue(0.35 < kept.core.used < 0.6)
        self.assertEqual(kept.uses, 1 + Build.objects.filter(state=Build.State.DONE).count())
        from varistrat.builds.selectors import made, state_of_build
        from varistrat.core.build.card import graded_of
        from varistrat.shop.services.own import shop_data

        grades = {
            b.title: graded_of(state_of_build(b), made(b, shop_data(b.shop)).worked.has_core).grade
            for b in Build.objects.filter(state=Build.State.DONE)
        }
        self.assertEqual(grades["Rush knife, right"], "second")
        self.assertEqual(grades["Sedge knife, bold twist"], "first")
        eel = state_of_build(Build.objects.get(title="Eel splitter"))
        self.assertIn("short_bar", [f.fault for o in eel.operations.values() for f in o.faults])
