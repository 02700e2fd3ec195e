"""Steels and numbers are the shop's."""

from django.db import migrations


class Migration(migrations.Migration):
    dependencies = [("accounts", "0005_weights"), ("shop", "0002_from_users")]
    operations = [
        migrations.DeleteModel("ShopSteel"),
        migrations.DeleteModel("ShopFigure"),
        migrations.DeleteModel("ShopHand"),
        migrations.RemoveField("preferences", "rack"),
    ]
