from typing import Any

from django.db import migrations, models


def carried_over(apps: Any, schema_editor: Any) -> None:
    for build in apps.get_model("builds", "Build").objects.exclude(act=None):
        build.acts = [str(build.act)]
        build.save(update_fields=["acts"])


class Migration(migrations.Migration):
    """Steel may be taken for a build in several goes, also before it begins."""

    dependencies = [("builds", "0003_photos_and_odd")]
    operations = [
        migrations.AddField("build", "acts", models.JSONField(default=list)),
        migrations.RunPython(carried_over, migrations.RunPython.noop),
        migrations.RemoveField("build", "act"),
    ]
