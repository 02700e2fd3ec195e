"""A shop's steel keeps any figure, not its tone alone; and the shop's own numbers."""

import django.db.models.deletion
from django.conf import settings
from django.db import migrations, models



def usual_rack():
    return ["1084", "15n20", "1095", "80crv2", "52100", "o1", "l6", "1018", "wrought", "nickel", "304"]


def tones_into_figures(apps, editor):
    for row in apps.get_model("accounts", "ShopSteel").objects.all():
        row.figures = {"tone": {"ferric": row.tone}}
        row.save(update_fields=["figures"])


def figures_into_tones(apps, editor):
    for row in apps.get_model("accounts", "ShopSteel").objects.all():
        tone = row.figures.get("tone", {}).get("ferric")
        if tone is None:
            row.delete()
            continue
        row.tone = tone
        row.save(update_fields=["tone"])


class Migration(migrations.Migration):
    dependencies = [("accounts", "0002_shop_hands"), migrations.swappable_dependency(settings.AUTH_USER_MODEL)]

    operations = [
        migrations.RemoveConstraint(model_name="shopsteel", name="tone_0_to_10"),
        migrations.AddField("shopsteel", "figures", models.JSONField(default=dict), preserve_default=False),
        migrations.AlterField("shopsteel", "tone", models.FloatField(default=0)),
        migrations.RunPython(tones_into_figures, figures_into_tones),
        migrations.RemoveField("shopsteel", "tone"),
        migrations.AlterModelOptions("shopsteel", {"ordering": ["id"]}),
        migrations.AddField("preferences", "rack", models.JSONField(default=usual_rack)),
        migrations.CreateModel(
            name="ShopFigure",
            fields=[
                ("id", models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name="ID")),
                ("key", models.CharField(max_length=40)),
                ("value", models.FloatField()),
                (
                    "owner",
                    models.ForeignKey(
                        on_delete=django.db.models.deletion.CASCADE, related_name="shop_figures", to=settings.AUTH_USER_MODEL
                    ),
                ),
            ],
            options={"constraints": [models.UniqueConstraint(fields=("owner", "key"), name="one_shop_figure_each")]},
        ),
    ]
