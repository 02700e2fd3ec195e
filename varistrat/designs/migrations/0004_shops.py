"""A design belongs to a shop; a revision knows who saved it."""

import django.db.models.deletion
from django.conf import settings
from django.db import migrations, models


def to_shops(apps, editor):
    design, revision = apps.get_model("designs", "Design"), apps.get_model("designs", "Revision")
    for shop, user in apps.get_model("shop", "Membership").objects.values_list("shop", "user"):
        design.objects.filter(owner=user).update(shop=shop)
        revision.objects.filter(design__owner=user).update(by=user)


class Migration(migrations.Migration):
    dependencies = [("designs", "0003_tries"), ("shop", "0002_from_users"), migrations.swappable_dependency(settings.AUTH_USER_MODEL)]
    operations = [
        migrations.AddField("design", "shop", models.ForeignKey(null=True, on_delete=django.db.models.deletion.CASCADE, related_name="designs", to="shop.shop")),
        migrations.AddField("revision", "by", models.ForeignKey(null=True, on_delete=django.db.models.deletion.SET_NULL, related_name="+", to=settings.AUTH_USER_MODEL)),
        migrations.RunPython(to_shops),
        migrations.RemoveIndex("design", "design_bench"),
        migrations.RemoveField("design", "owner"),
        migrations.AlterField("design", "shop", models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name="designs", to="shop.shop")),
        migrations.AddIndex("design", models.Index(fields=["shop", "removed", "-changed"], name="design_on_bench")),
    ]
