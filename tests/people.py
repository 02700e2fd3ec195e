"""People in shops, for tests."""

from django.contrib.auth.models import User
from django.test import Client
from django.utils import timezone

from varistrat.shop.models import Membership, Role, Shop
from varistrat.shop.services.people import open_shop


def member(name: str, role: Role = Role.OWNER, shop: Shop | None = None) -> Membership:
    """A new person, in this shop or in one of their own."""
    user = User.objects.create_user(name)
    if shop is None:
        return open_shop(owner=user, name=f"{name}'s")
    return Membership.objects.create(shop=shop, user=user, role=role, chosen=timezone.now())


def signed_in(who: Membership, **more: object) -> Client:
    client = Client(**more)  # type: ignore[arg-type]
    client.force_login(who.user, backend="varistrat.shop.backend.AtWork")
    return client
