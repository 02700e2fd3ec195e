"""What belonged to a user now belongs to that user's shop."""

from django.conf import settings
from django.db import migrations
from django.utils import timezone


def shops(apps, editor):
    get = apps.get_model
    for user in get(settings.AUTH_USER_MODEL).objects.order_by("pk"):
        preferences = get("accounts", "Preferences").objects.filter(user=user).first()
        used = {"in_use": preferences.rack} if preferences else {}
        shop = get("shop", "Shop").objects.create(name=f"{user.username}'s shop"[:120], **used)
        get("shop", "Membership").objects.create(shop=shop, user=user, role="owner", chosen=timezone.now())
        for name, fields in (("ShopSteel", ("key", "figures", "retired")), ("ShopFigure", ("key", "value")), ("ShopHand", ("method", "amount", "wavelength"))):
            for old in get("accounts", name).objects.filter(owner=user).order_by("pk"):
                get("shop", name).objects.create(shop=shop, **{f: getattr(old, f) for f in fields})


class Migration(migrations.Migration):
    dependencies = [("shop", "0001_first"), ("accounts", "0005_weights"), migrations.swappable_dependency(settings.AUTH_USER_MODEL)]
    operations = [migrations.RunPython(shops)]
