"""The database itself refuses to change a use; who wrote it and what for may be forgotten with them."""

from django.db import migrations

FORWARD = """
CREATE TRIGGER bath_use_never_changes BEFORE UPDATE OF bath_id, uid, at, title, minutes, grams, elements ON finishing_bathuse
BEGIN SELECT RAISE(ABORT, 'a use never changes'); END
"""


class Migration(migrations.Migration):
    dependencies = [("finishing", "0001_first")]
    operations = [migrations.RunSQL(FORWARD, "DROP TRIGGER bath_use_never_changes")]
