"""A run's record as rows of their own: a look no longer writes and reads all of it."""

from typing import Any

import django.db.models.deletion
from django.db import migrations, models


def to_rows(apps: Any, schema_editor: Any) -> None:
    run_model, row_model = apps.get_model("kiln", "KilnRun"), apps.get_model("kiln", "KilnRow")
    for run in run_model.objects.iterator(10):
        row_model.objects.bulk_create([row_model(run=run, number=i, values=v) for i, v in enumerate(run.record)], batch_size=500)
        run_model.objects.filter(pk=run.pk).update(lines=len(run.record))


def to_record(apps: Any, schema_editor: Any) -> None:
    run_model, row_model = apps.get_model("kiln", "KilnRun"), apps.get_model("kiln", "KilnRow")
    for run in run_model.objects.iterator(10):
        run.record = list(row_model.objects.filter(run=run).order_by("number").values_list("values", flat=True))
        run.save(update_fields=["record"])


class Migration(migrations.Migration):
    dependencies = [("kiln", "0001_first")]
    operations = [
        migrations.AddField("kilnrun", "lines", models.PositiveIntegerField(default=0)),
        migrations.CreateModel(
            name="KilnRow",
            fields=[
                ("id", models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name="ID")),
                ("number", models.PositiveIntegerField()),
                ("values", models.JSONField()),
                ("run", models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name="rows", to="kiln.kilnrun")),
            ],
            options={"ordering": ["number"]},
        ),
        migrations.AddConstraint("kilnrow", models.UniqueConstraint(fields=("run", "number"), name="kiln_row_once")),
        migrations.RunPython(to_rows, to_record),
        migrations.RemoveField("kilnrun", "record"),
    ]
