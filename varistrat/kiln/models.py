"""Kiln programs a shop keeps, and runs with their record."""

from django.db import models

from varistrat.designs.models import Design
from varistrat.shop.models import Shop


class KilnProgram(models.Model):
    shop = models.ForeignKey(Shop, models.CASCADE, related_name="kiln_programs")
    name = models.CharField(max_length=120)
    segments = models.JSONField()
    changed = models.DateTimeField(auto_now=True)

    class Meta:
        ordering = ["name", "id"]


class KilnRun(models.Model):
    """A run: what was asked, how far it is, and its record, which only grows."""

    class State(models.TextChoices):
        RUNNING = "running"
        HELD = "held"
        DONE = "done"
        STOPPED = "stopped"

    shop = models.ForeignKey(Shop, models.CASCADE, related_name="kiln_runs")
    design = models.ForeignKey(Design, models.CASCADE, related_name="kiln_runs")
    name = models.CharField(max_length=120)
    load = models.JSONField(default=list)
    """Keys of the steels in it."""
    state = models.CharField(max_length=10, choices=State, default=State.RUNNING)
    speed = models.FloatField(default=60.0)
    started = models.DateTimeField(auto_now_add=True)
    looked = models.DateTimeField()
    """When it was last brought up to date."""
    controller = models.JSONField()
    events = models.JSONField(default=list)
    lines = models.PositiveIntegerField(default=0)
    """How many rows its record has."""

    class Meta:
        ordering = ["-id"]
        constraints = [models.CheckConstraint(condition=models.Q(speed__gt=0), name="kiln_speed_above_0")]


class KilnRow(models.Model):
    """A line of a run's record, only ever added: a look writes what is new, and reads from where the asker left off."""

    run = models.ForeignKey(KilnRun, models.CASCADE, related_name="rows")
    number = models.PositiveIntegerField()
    values = models.JSONField()
    """Seconds, set point, chamber, centre, power, segment, minutes left."""

    class Meta:
        ordering = ["number"]
        constraints = [models.UniqueConstraint(fields=["run", "number"], name="kiln_row_once")]
