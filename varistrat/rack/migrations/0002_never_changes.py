"""The database itself refuses to change a movement; who made it and what for may be forgotten with them."""

from django.db import migrations

FORWARD = """
CREATE TRIGGER movement_never_changes BEFORE UPDATE OF item_id, kind, amount, at, note, act ON rack_movement
BEGIN SELECT RAISE(ABORT, 'a movement never changes'); END
"""


class Migration(migrations.Migration):
    dependencies = [("rack", "0001_first")]
    operations = [migrations.RunSQL(FORWARD, "DROP TRIGGER movement_never_changes")]
