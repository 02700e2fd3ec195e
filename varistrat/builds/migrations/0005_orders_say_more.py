import django.db.models.deletion
from django.db import migrations, models


class Migration(migrations.Migration):
    """What is ordered begins the design."""

    dependencies = [("builds", "0004_acts"), ("designs", "__first__")]
    operations = [
        migrations.AddField("order", "length", models.FloatField(null=True)),
        migrations.AddField("order", "height", models.FloatField(null=True)),
        migrations.AddField("order", "steels", models.JSONField(default=list)),
        migrations.AddField(
            "order",
            "design",
            models.ForeignKey("designs.Design", null=True, on_delete=django.db.models.deletion.SET_NULL, related_name="orders"),
        ),
    ]
