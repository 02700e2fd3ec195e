"""The database itself refuses to change what was written down, or a plan; who wrote it may be forgotten with them."""

from django.db import migrations

RECORDS = """
CREATE TRIGGER record_never_changes BEFORE UPDATE OF build_id, uid, data, came ON builds_record
BEGIN SELECT RAISE(ABORT, 'a record never changes'); END
"""
PLANS = """
CREATE TRIGGER plan_never_changes BEFORE UPDATE OF build_id, number, document, operations, why, at ON builds_buildplan
BEGIN SELECT RAISE(ABORT, 'a plan never changes'); END
"""


class Migration(migrations.Migration):
    dependencies = [("builds", "0001_first")]
    operations = [
        migrations.RunSQL(RECORDS, "DROP TRIGGER record_never_changes"),
        migrations.RunSQL(PLANS, "DROP TRIGGER plan_never_changes"),
    ]
