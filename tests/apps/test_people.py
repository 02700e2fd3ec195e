"""People of a shop: invites that work once and not for ever, roles, leaving; a shop always keeps an owner."""

import threading
from datetime import timedelta

from django.contrib.auth.models import User
from django.db import connection
from django.test import TestCase, TransactionTestCase
from django.utils import timezone

from tests.people import member
from varistrat.core.errors import InputError
from varistrat.shop.models import Invite, Membership, Role, Shop
from varistrat.shop.services import people

PASSWORD = "beside-the-quench-tank-8"


class RoleTests(TestCase):
    def test_each_may_all_that_the_one_below_may(self) -> None:
        table = {(a, b): Role(a).may(Role(b)) for a in Role for b in Role}
        self.assertEqual(
            {pair for pair, may in table.items() if may},
            {("helper", "helper"), ("smith", "helper"), ("smith", "smith"), ("owner", "helper"), ("owner", "smith"), ("owner", "owner")},
        )


class PeopleTests(TestCase):
    def setUp(self) -> None:
        self.owner = member("owner")
        self.shop = self.owner.shop

    def invited(self, role: Role = Role.SMITH) -> str:
        token, _ = people.invite(actor=self.owner, role=role)
        return token

    def test_somebody_without_a_shop_gets_one(self) -> None:
        user = User.objects.create_user("newcomer")
        found = people.member_of(user)
        self.assertEqual((found.role, found.shop.name), ("owner", "newcomer's shop"))
        self.assertEqual(people.member_of(user), found)
        self.assertEqual(Shop.objects.count(), 2)

    def test_an_invite_works_once(self) -> None:
        token = self.invited()
        new = people.join_as_new(token=token, name="striker", password=PASSWORD)
        self.assertEqual((new.shop, new.role, people.member_of(new.user)), (self.shop, "smith", new))
        self.assertTrue(new.user.check_password(PASSWORD))
        self.assertFalse(new.user.is_staff or new.user.is_superuser)
        with self.assertRaises(people.NotThere):
            people.join_as_new(token=token, name="other", password=PASSWORD)
        self.assertFalse(User.objects.filter(username="other").exists())

    def test_an_invite_works_for_seven_days(self) -> None:
        self.assertEqual(people.INVITE_DAYS, 7)
        for days, works in ((6.9, True), (7.1, False)):
            token = self.invited()
            Invite.objects.update(expires=timezone.now() + timedelta(days=7 - days))
            if works:
                self.assertEqual(people.open_invite(token).shop, self.shop)
            else:
                with self.assertRaises(people.NotThere):
                    people.open_invite(token)
        made = Invite.objects.first()
        assert made
        token, fresh = people.invite(actor=self.owner, role=Role.HELPER)
        self.assertAlmostEqual((fresh.expires - fresh.made).total_seconds(), 7 * 86400, delta=5)

    def test_the_link_itself_is_not_kept(self) -> None:
        token = self.invited()
        self.assertGreaterEqual(len(token), 32)
        self.assertNotIn(token, str(list(Invite.objects.values())))

    def test_taken_back(self) -> None:
        token = self.invited()
        people.take_back(actor=self.owner, invite_id=Invite.objects.get().pk)
        with self.assertRaises(people.NotThere):
            people.open_invite(token)

    def test_another_shops_invite_or_person_is_not_there(self) -> None:
        self.invited()
        stranger = member("stranger")
        with self.assertRaises(people.NotThere):
            people.take_back(actor=stranger, invite_id=Invite.objects.get().pk)
        for act in (
            lambda: people.set_role(actor=stranger, person_id=self.owner.pk, role=Role.HELPER),
            lambda: people.send_away(actor=stranger, person_id=self.owner.pk),
            lambda: people.choose_shop(user=stranger.user, shop_id=self.shop.pk),
        ):
            with self.assertRaises(people.NotThere):
                act()
        self.owner.refresh_from_db()
        self.assertEqual(self.owner.role, "owner")

    def test_a_name_or_password_that_will_not_do_leaves_the_invite_open(self) -> None:
        token = self.invited()
        for name, password, field in (
            ("owner", PASSWORD, "user"),
            ("OWNER", PASSWORD, "user"),
            ("", PASSWORD, "user"),
            ("a b", PASSWORD, "user"),
            ("striker", "short", "password"),
            ("striker", "striker1", "password"),
        ):
            with self.assertRaises(InputError) as caught:
                people.join_as_new(token=token, name=name, password=password)
            self.assertEqual(caught.exception.problems[0].path, field, (name, password))
        self.assertEqual(people.open_invite(token).shop, self.shop)

    def test_somebody_with_a_shop_may_be_in_two_and_go_between(self) -> None:
        other = member("other")
        joined = people.join(user=other.user, token=self.invited(Role.HELPER))
        self.assertEqual(people.member_of(other.user), joined, "one goes to work where one was invited")
        self.assertEqual({m.shop_id for m in people.shops_of(other.user)}, {self.shop.pk, other.shop_id})
        people.choose_shop(user=other.user, shop_id=other.shop_id)
        self.assertEqual(people.member_of(other.user), other)
        with self.assertRaisesRegex(InputError, "already"):
            people.join(user=other.user, token=self.invited())

    def test_a_shop_always_keeps_an_owner(self) -> None:
        second = member("second", Role.SMITH, self.shop)
        for act in (
            lambda: people.leave(actor=self.owner),
            lambda: people.set_role(actor=self.owner, person_id=self.owner.pk, role=Role.SMITH),
            lambda: people.send_away(actor=self.owner, person_id=self.owner.pk),
        ):
            with self.assertRaisesRegex(InputError, "without an owner"):
                act()
        people.set_role(actor=self.owner, person_id=second.pk, role=Role.OWNER)
        people.leave(actor=self.owner)
        self.assertEqual([m.user.username for m in people.people_of(self.shop)], ["second"])
        # gone, one still has somewhere to work
        self.assertEqual(people.member_of(self.owner.user).shop.name, "owner's shop")

    def test_limits(self) -> None:
        self.assertEqual((people.MOST_PEOPLE, people.MOST_INVITES), (60, 20))
        for _ in range(20):
            token = self.invited()
        with self.assertRaisesRegex(InputError, "open already"):
            self.invited()
        users = User.objects.bulk_create([User(username=f"u{i}") for i in range(59)])
        Membership.objects.bulk_create([Membership(shop=self.shop, user=u, role="helper", chosen=timezone.now()) for u in users])
        with self.assertRaisesRegex(InputError, "60 people"):
            people.join_as_new(token=token, name="late", password=PASSWORD)


class RaceTests(TransactionTestCase):
    def test_of_two_who_take_one_invite_up_at_once_one_is_in(self) -> None:
        owner = member("owner")
        token, _ = people.invite(actor=owner, role=Role.HELPER)
        users = [User.objects.create_user(f"u{i}") for i in range(4)]
        said: list[str] = []

        def take(user: User) -> None:
            try:
                people.join(user=user, token=token)
                said.append("in")
            except people.NotThere:
                said.append("late")
            finally:
                connection.close()

        threads = [threading.Thread(target=take, args=(u,)) for u in users]
        for t in threads:
            t.start()
        for t in threads:
            t.join()
        self.assertEqual(sorted(said), ["in", "late", "late", "late"])
        self.assertEqual(owner.shop.people.count(), 2)
