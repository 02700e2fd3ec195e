"""Programs and runs belong to a shop."""

import django.db.models.deletion
from django.db import migrations, models


def to_shops(apps, editor):
    for shop, user in apps.get_model("shop", "Membership").objects.values_list("shop", "user"):
        for name in ("KilnProgram", "KilnRun"):
            apps.get_model("kiln", name).objects.filter(owner=user).update(shop=shop)


def _shop(name, **more):
    return models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name=name, to="shop.shop", **more)


class Migration(migrations.Migration):
    dependencies = [("kiln", "0002_rows"), ("shop", "0002_from_users")]
    operations = [
        migrations.AddField("kilnprogram", "shop", _shop("kiln_programs", null=True)),
        migrations.AddField("kilnrun", "shop", _shop("kiln_runs", null=True)),
        migrations.RunPython(to_shops),
        migrations.RemoveField("kilnprogram", "owner"),
        migrations.RemoveField("kilnrun", "owner"),
        migrations.AlterField("kilnprogram", "shop", _shop("kiln_programs")),
        migrations.AlterField("kilnrun", "shop", _shop("kiln_runs")),
    ]
