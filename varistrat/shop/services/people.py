"""Who works in a shop: where a person is at work, invites, roles, leaving. A shop always keeps an owner."""

import hashlib
import logging
import secrets
from datetime import datetime, timedelta

from django.contrib.auth.models import User
from django.core.exceptions import ValidationError
from django.db import transaction
from django.utils import timezone

from varistrat.accounts.services.password import good_password
from varistrat.core.errors import InputError
from varistrat.shop.models import Invite, Membership, Role, Shop

log = logging.getLogger("varistrat.security")
INVITE_DAYS = 7
"""An invite that was not used by then works no more."""
MOST_PEOPLE, MOST_INVITES = 60, 20
"""In a shop; and invites open at once."""


class NotThere(Exception):
    """There is no such person, invite or shop for the asker: what is absent and what is another's look the same."""


def at_work(user_id: int) -> Membership | None:
    """Where this person is at work: the shop chosen last; None when they are in none yet."""
    return Membership.objects.filter(user=user_id).select_related("shop", "user").order_by("-chosen", "-id").first()


def member_of(user: User) -> Membership:
    """Where this person is at work, or a shop of their own, made when there is none."""
    return at_work(user.pk) or _own_shop(user)


@transaction.atomic
def _own_shop(user: User) -> Membership:
    # the write lock is held from the start of the transaction: two who ask at once make one shop
    return at_work(user.pk) or open_shop(owner=user, name=f"{user.get_username()}'s shop")


@transaction.atomic
def open_shop(*, owner: User, name: str) -> Membership:
    shop = Shop.objects.create(name=_name(name))
    return Membership.objects.create(shop=shop, user=owner, role=Role.OWNER, chosen=timezone.now())


def shops_of(user: User) -> list[Membership]:
    return list(Membership.objects.filter(user=user).select_related("shop").order_by("shop__name", "id"))


@transaction.atomic
def choose_shop(*, user: User, shop_id: int) -> Membership:
    """Go to work in another of one's shops. Raises NotThere."""
    found = Membership.objects.filter(user=user, shop_id=shop_id).select_related("shop", "user").first()
    if found is None:
        raise NotThere("shop")
    found.chosen = timezone.now()
    found.save(update_fields=["chosen"])
    return found


def people_of(shop: Shop) -> list[Membership]:
    return list(shop.people.select_related("user"))


def invites_of(shop: Shop) -> list[Invite]:
    """Those that still work, newest first."""
    return list(shop.invites.filter(used=None, expires__gt=timezone.now()).select_related("by"))


@transaction.atomic
def rename_shop(*, actor: Membership, name: str) -> Shop:
    shop = actor.shop
    shop.name = _name(name)
    shop.save(update_fields=["name"])
    return shop


@transaction.atomic
def invite(*, actor: Membership, role: Role) -> tuple[str, Invite]:
    """A new link's secret part, told this once, and what is kept of it."""
    if len(invites_of(actor.shop)) >= MOST_INVITES:
        raise InputError.at("role", f"{MOST_INVITES} invites are open already", "take one back first")
    _room(actor.shop)
    token = secrets.token_urlsafe(24)
    made = Invite.objects.create(shop=actor.shop, role=role, digest=_digest(token), by=actor.user, expires=_expires())
    log.info("user %s invited a %s to shop %s", actor.user_id, role, actor.shop_id)
    return token, made


@transaction.atomic
def take_back(*, actor: Membership, invite_id: int) -> None:
    gone, _ = Invite.objects.filter(shop=actor.shop, pk=invite_id).delete()
    if not gone:
        raise NotThere("invite")


def open_invite(token: str) -> Invite:
    """The invite behind a link. Raises NotThere when it was used, taken back, is too old or never was: all alike."""
    found = Invite.objects.filter(digest=_digest(token), used=None, expires__gt=timezone.now()).select_related("shop", "by").first()
    if found is None:
        raise NotThere("invite")
    return found


@transaction.atomic
def join(*, user: User, token: str) -> Membership:
    """Take up an invite; it works no more afterwards. Raises NotThere, or InputError when one is there already."""
    found = open_invite(token)
    if Membership.objects.filter(shop=found.shop, user=user).exists():
        raise InputError.at("", f"you are in {found.shop.name} already", "give the link to whom it is meant for")
    _room(found.shop)
    # of two at once one counts
    if not Invite.objects.filter(pk=found.pk, used=None).update(used=timezone.now()):
        raise NotThere("invite")
    log.info("user %s joined shop %s as %s", user.pk, found.shop_id, found.role)
    return Membership.objects.create(shop=found.shop, user=user, role=found.role, chosen=timezone.now())


@transaction.atomic
def join_as_new(*, token: str, name: str, password: str) -> Membership:
    """Make a person of this name and password, who takes the invite up. Raises NotThere, InputError."""
    open_invite(token)
    name = name.strip()
    try:
        User.username_validator(name)
    except ValidationError as e:
        raise InputError.at("user", "this name has a sign that cannot be used", "use letters, digits and . _ - + @") from e
    if User.objects.filter(username__iexact=name).exists():
        raise InputError.at("user", "somebody has this name already", "choose another, or sign in first if it is you")
    user = User(username=name)
    good_password(password, user)
    user.set_password(password)
    user.save()
    return join(user=user, token=token)


@transaction.atomic
def set_role(*, actor: Membership, person_id: int, role: Role) -> Membership:
    """Raises NotThere; InputError when the shop would be without an owner."""
    person = _person(actor.shop, person_id)
    if role != Role.OWNER:
        _another_owner(person, "role")
    person.role = role
    person.save(update_fields=["role"])
    log.info("user %s made user %s %s of shop %s", actor.user_id, person.user_id, role, actor.shop_id)
    return person


@transaction.atomic
def send_away(*, actor: Membership, person_id: int) -> None:
    """Take a person out of the shop; what they made stays. Raises NotThere, InputError."""
    person = _person(actor.shop, person_id)
    _another_owner(person, "person")
    log.info("user %s took user %s out of shop %s", actor.user_id, person.user_id, actor.shop_id)
    person.delete()


@transaction.atomic
def leave(*, actor: Membership) -> None:
    """Go; what one made stays with the shop. Raises InputError for its last owner."""
    _another_owner(_person(actor.shop, actor.pk), "role")
    log.info("user %s left shop %s", actor.user_id, actor.shop_id)
    actor.delete()


def _person(shop: Shop, person_id: int) -> Membership:
    found = Membership.objects.filter(shop=shop, pk=person_id).select_related("user", "shop").first()
    if found is None:
        raise NotThere("person")
    return found


def _another_owner(person: Membership, field: str) -> None:
    if person.role == Role.OWNER and not Membership.objects.filter(shop=person.shop, role=Role.OWNER).exclude(pk=person.pk).exists():
        raise InputError.at(field, "a shop cannot be without an owner", "make somebody else an owner first")


def _room(shop: Shop) -> None:
    if shop.people.count() >= MOST_PEOPLE:
        raise InputError.at("", f"{MOST_PEOPLE} people are in the shop already", "take out those who left")


def _name(name: str) -> str:
    name = " ".join(name.split())[:120]
    if not name:
        raise InputError.at("name", "the shop needs a name", "write one")
    return name


def _expires() -> datetime:
    return timezone.now() + timedelta(days=INVITE_DAYS)


def _digest(token: str) -> str:
    return hashlib.sha256(token.encode("utf-8", "replace")).hexdigest()
