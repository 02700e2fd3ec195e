"""Who works in the demo shop: one of each role, all made up."""

from django.contrib.auth.models import User
from django.utils import timezone

from varistrat.shop.models import Membership, Role
from varistrat.shop.services.people import open_shop

DEMO_SHOP = "Quillet Dyke Forge"
DEMO_PEOPLE: dict[str, str] = {"owner": "quillet-dyke", "smith": "sallow", "helper": "wend"}


def shop_in_use() -> bool:
    """Whether anybody is in it, demo or not: then it is left as it is."""
    return User.objects.exists()


def people_the_demo() -> dict[str, Membership]:
    """Make the shop and its people, by role; nobody can sign in as one of them with a password."""
    found: dict[str, Membership] = {}
    for role, name in DEMO_PEOPLE.items():
        user = User(username=name)
        user.set_unusable_password()
        user.save()
        if role == Role.OWNER:
            found[role] = open_shop(owner=user, name=DEMO_SHOP)
        else:
            found[role] = Membership.objects.create(shop=found["owner"].shop, user=user, role=role, chosen=timezone.now())
    return found
