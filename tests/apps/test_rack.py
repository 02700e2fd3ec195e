"""The rack kept: the sum of its movements, which never change; the last bar is taken by one; a file is read whole or not at all."""

import threading
from typing import Any
from unittest import mock
from uuid import uuid4

from django.db import DatabaseError, connection, transaction
from django.test import TestCase, TransactionTestCase

from tests.people import member
from varistrat.core.design.document import read_document
from varistrat.core.errors import InputError
from varistrat.core.rack.csv_file import read_rack, write_rack
from varistrat.core.rack.item import RackItem
from varistrat.core.reading import parse
from varistrat.core.shop import AS_SHIPS
from varistrat.core.starters import STARTERS
from varistrat.designs.selectors import NotFound
from varistrat.designs.services.keep import create_design
from varistrat.rack import selectors, services
from varistrat.rack.models import Item, Movement


def bar(**said: Any) -> RackItem:
    return parse(RackItem, {"steel": "1084", "width": 40.0, "thickness": 6.0, "length": 1000.0, "count": 2} | said, AS_SHIPS)


class RackTests(TestCase):
    def setUp(self) -> None:
        self.smith = member("smith")
        (self.item,) = services.add(actor=self.smith, items=[bar(price=31.0)])

    def there(self) -> dict[str, float]:
        return {c.item.code: c.there for c in selectors.rack(self.smith.shop)}

    def test_the_rack_is_the_sum_of_its_movements(self) -> None:
        self.assertEqual((self.item.code, self.item.each), ("R1", 15.5))
        services.bring(actor=self.smith, item=self.item, amount=3, note="from the sale")
        services.take(actor=self.smith, takes={self.item.pk: 4})
        services.correct(actor=self.smith, item=self.item, to=7)
        self.assertEqual(self.there(), {"R1": 7})
        moved = selectors.movements_of(self.item)
        self.assertEqual([(m.kind, m.amount) for m in moved], [("corrected", 6), ("taken", -4), ("bought", 3), ("bought", 2)])
        self.assertEqual(moved[0].by, self.smith.user)
        self.assertIsNone(services.correct(actor=self.smith, item=self.item, to=7))

    def test_a_movement_never_changes(self) -> None:
        moved = self.item.movements.get()
        with self.assertRaises(TypeError):
            moved.save()
        with self.assertRaises(TypeError):
            moved.delete()
        for change in ({"amount": 5.0}, {"kind": "taken"}, {"note": "x"}, {"act": uuid4()}):
            with self.assertRaises(DatabaseError, msg=change), transaction.atomic():
                Movement.objects.filter(pk=moved.pk).update(**change)
        # who did it may be forgotten with them
        self.smith.user.delete()
        self.assertIsNone(Movement.objects.get(pk=moved.pk).by)
        self.assertEqual(self.there(), {"R1": 2})

    def test_all_is_taken_or_nothing(self) -> None:
        (other,) = services.add(actor=self.smith, items=[bar(steel="15n20", thickness=2.0, count=1)])
        with self.assertRaises(services.NotEnough) as caught:
            services.take(actor=self.smith, takes={self.item.pk: 1, other.pk: 2})
        self.assertEqual((caught.exception.item, caught.exception.there), (other, 1))
        self.assertEqual(self.there(), {"R1": 2, "R2": 1})
        for takes in ({}, {self.item.pk: 0}, {self.item.pk: -1}, {self.item.pk: 0.5}, {987654: 1}):
            with self.assertRaises(InputError, msg=takes):
                services.take(actor=self.smith, takes=takes)

    def test_what_is_left_goes_back_and_undoing_puts_all_back(self) -> None:
        design = create_design(actor=self.smith, document=read_document(STARTERS["blank"].document()), name="d")
        act = services.take(actor=self.smith, takes={self.item.pk: 1}, keep=[services.Offcut(self.item.pk, 400.0)], design=design)
        self.assertEqual(self.there(), {"R1": 1, "R2": 1})
        left = Item.objects.get(code="R2")
        self.assertEqual((left.length, left.width, left.each), (400.0, 40.0, 15.5 * 0.4))
        self.assertEqual({m.design for m in Movement.objects.filter(act=act)}, {design})
        services.put_back(actor=self.smith, act=act)
        self.assertEqual(self.there(), {"R1": 2, "R2": 0})
        with self.assertRaises(services.PutBackAlready):
            services.put_back(actor=self.smith, act=act)
        with self.assertRaises(NotFound):
            services.put_back(actor=member("stranger"), act=act)
        for length in (0.0, 1000.0, 1200.0):
            with self.assertRaises(InputError):
                services.take(actor=self.smith, takes={self.item.pk: 1}, keep=[services.Offcut(self.item.pk, length)])

    def test_what_is_left_cannot_be_put_back_once_it_is_used(self) -> None:
        act = services.take(actor=self.smith, takes={self.item.pk: 1}, keep=[services.Offcut(self.item.pk, 400.0)])
        services.take(actor=self.smith, takes={Item.objects.get(code="R2").pk: 1})
        with self.assertRaises(services.NotEnough):
            services.put_back(actor=self.smith, act=act)
        self.assertEqual(self.there(), {"R1": 1, "R2": 0})

    def test_powder_goes_by_mass(self) -> None:
        (powder,) = services.add(
            actor=self.smith, items=[parse(RackItem, {"steel": "powder1084", "form": "powder", "count": 2500.0}, AS_SHIPS)]
        )
        services.take(actor=self.smith, takes={powder.pk: 812.5})
        self.assertEqual(self.there()[powder.code], 1687.5)

    def test_another_shop_sees_none_of_it(self) -> None:
        other = member("other")
        self.assertEqual(selectors.rack(other.shop), [])
        with self.assertRaises(NotFound):
            selectors.item_of(other.shop, self.item.pk)
        with self.assertRaises(InputError):
            services.take(actor=other, takes={self.item.pk: 1})

    def test_a_rack_is_one_query_however_large(self) -> None:
        services.add(actor=self.smith, items=[bar(length=100.0 + i) for i in range(60)])
        with self.assertNumQueries(1):
            self.assertEqual(len(selectors.rack(self.smith.shop)), 61)

    def test_codes_are_once_in_a_rack(self) -> None:
        with self.assertRaises(InputError):
            services.add(actor=self.smith, items=[bar()], codes=["R1"])
        (named, free) = services.add(actor=self.smith, items=[bar(), bar()], codes=["R7", "left 3"])
        self.assertEqual(services.add(actor=self.smith, items=[bar()])[0].code, "R8")
        self.assertEqual((named.code, free.code), ("R7", "left 3"))

    def test_a_rack_holds_so_many_items(self) -> None:
        self.assertEqual(services.MOST_ITEMS, 5_000)
        with mock.patch.object(services, "MOST_ITEMS", 2), self.assertRaises(InputError):
            services.add(actor=self.smith, items=[bar(), bar()])


class FileTests(TestCase):
    def setUp(self) -> None:
        self.smith = member("smith")

    def read(self, text: str) -> services.Read:
        return services.read_file(actor=self.smith, rows=read_rack(text, AS_SHIPS))

    def test_out_and_into_another_shop(self) -> None:
        services.add(
            actor=self.smith, items=[bar(place="by the door", low=2.0, price=31.0), bar(form="tube", width=50.0, wall=3.0, thickness=None)]
        )
        text = write_rack(selectors.stocked(self.smith.shop, AS_SHIPS))
        other = member("other")
        found = services.read_file(actor=other, rows=read_rack(text, AS_SHIPS))
        self.assertEqual((found.new, found.corrected), (2, 0))
        self.assertEqual(write_rack(selectors.stocked(other.shop, AS_SHIPS)), text)
        # the same file again changes nothing
        again = services.read_file(actor=other, rows=read_rack(text, AS_SHIPS))
        self.assertEqual((again.new, again.corrected, Movement.objects.filter(item__shop=other.shop).count()), (0, 0, 2))

    def test_a_file_puts_counts_right(self) -> None:
        head = "id,steel,width,thickness,length,count\n"
        self.read(head + "A,1084,40,6,1000,3\n")
        found = self.read(head + "A,1084,40,6,1000,5\nB,1084,40,6,800,1\n")
        self.assertEqual((found.new, found.corrected), (1, 1))
        self.assertEqual({c.item.code: c.there for c in selectors.rack(self.smith.shop)}, {"A": 5, "B": 1})

    def test_nothing_of_a_file_with_a_mistake_is_kept(self) -> None:
        head = "id,steel,width,thickness,length,count\n"
        self.read(head + "A,1084,40,6,1000,3\n")
        with self.assertRaises(InputError) as caught:
            self.read(head + "B,1084,40,6,800,1\nA,1084,40,8,1000,5\n")
        self.assertEqual(caught.exception.problems[0].path, "line 3.thickness")
        self.assertEqual({c.item.code: c.there for c in selectors.rack(self.smith.shop)}, {"A": 3})


class RaceTests(TransactionTestCase):
    def test_of_two_who_take_the_last_bar_one_wins_and_the_other_is_told(self) -> None:
        smith = member("smith")
        for _ in range(5):
            (item,) = services.add(actor=smith, items=[bar(count=1)])
            start, told = threading.Barrier(4), []

            def take(pk: int = item.pk, start: threading.Barrier = start, told: list[str] = told) -> None:
                start.wait()
                try:
                    services.take(actor=smith, takes={pk: 1})
                    told.append("taken")
                except services.NotEnough:
                    told.append("told")
                finally:
                    connection.close()

            threads = [threading.Thread(target=take) for _ in range(4)]
            for t in threads:
                t.start()
            for t in threads:
                t.join()
            self.assertEqual(sorted(told), ["taken", "told", "told", "told"])
            self.assertEqual(services.there(item), 0)
