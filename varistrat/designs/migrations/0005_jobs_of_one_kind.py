"""Prints and sheets are jobs like others."""

from django.db import migrations


class Migration(migrations.Migration):
    dependencies = [("designs", "0004_shops"), ("jobs", "0002_prints_and_sheets")]
    operations = [migrations.DeleteModel("PrintJob"), migrations.DeleteModel("SheetCell"), migrations.DeleteModel("Sheet")]
