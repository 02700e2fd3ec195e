"""Designs and their revisions. A revision, once written, never changes."""

from typing import Any

from django.conf import settings
from django.db import models

from varistrat.core.design.upgrades import upgraded


class Design(models.Model):
    owner = models.ForeignKey(settings.AUTH_USER_MODEL, models.CASCADE, related_name="designs")
    name = models.CharField(max_length=200)
    about = models.CharField(max_length=400, blank=True)
    created = models.DateTimeField(auto_now_add=True)
    changed = models.DateTimeField(auto_now=True)
    removed = models.DateTimeField(null=True, blank=True)
    current = models.PositiveIntegerField(default=0)
    """Number of the revision that counts; others are older, or were refused as stale."""

    class Meta:
        ordering = ["-changed", "-id"]
        indexes = [models.Index(fields=["owner", "removed", "-changed"], name="design_bench")]


class Revision(models.Model):
    design = models.ForeignKey(Design, models.CASCADE, related_name="revisions")
    number = models.PositiveIntegerField()
    base = models.PositiveIntegerField(default=0)
    """The revision it was made from."""
    stale = models.BooleanField(default=False)
    """Refused because its base was no longer current; kept so that nothing is lost."""
    created = models.DateTimeField(auto_now_add=True)
    document = models.JSONField()
    digest = models.CharField(max_length=64)
    note = models.CharField(max_length=200, blank=True)

    class Meta:
        ordering = ["-number"]
        constraints = [models.UniqueConstraint(fields=["design", "number"], name="revision_number_once")]

    @property
    def up_to_date(self) -> dict[str, Any]:
        """What was kept, as this version keeps it; whether or not it can still be read in full."""
        found: dict[str, Any] = upgraded(self.document)
        return found


class PrintJob(models.Model):
    """A print-size picture being made by the task worker."""

    class State(models.TextChoices):
        WAITING = "waiting"
        RUNNING = "running"
        DONE = "done"
        FAILED = "failed"
        CANCELLED = "cancelled"

    owner = models.ForeignKey(settings.AUTH_USER_MODEL, models.CASCADE, related_name="print_jobs")
    design = models.ForeignKey(Design, models.CASCADE, related_name="print_jobs")
    revision = models.PositiveIntegerField()
    side = models.CharField(max_length=5, choices=[("right", "right"), ("left", "left")])
    width_px = models.PositiveIntegerField()
    state = models.CharField(max_length=10, choices=State, default=State.WAITING)
    progress = models.FloatField(default=0.0)
    tries = models.PositiveSmallIntegerField(default=0)
    """How often it was begun."""
    problem = models.CharField(max_length=400, blank=True)
    created = models.DateTimeField(auto_now_add=True)
    picture = models.BinaryField(null=True, blank=True)

    class Meta:
        ordering = ["-id"]


class Sheet(models.Model):
    """A what-if sheet being made by the task worker: one or two numbers of a draft run through a range."""

    owner = models.ForeignKey(settings.AUTH_USER_MODEL, models.CASCADE, related_name="sheets")
    document = models.JSONField()
    axes = models.JSONField()
    state = models.CharField(max_length=10, choices=PrintJob.State, default=PrintJob.State.WAITING)
    tries = models.PositiveSmallIntegerField(default=0)
    wanted = models.PositiveIntegerField()
    """Pictures in all."""
    problem = models.CharField(max_length=400, blank=True)
    created = models.DateTimeField(auto_now_add=True)

    class Meta:
        ordering = ["-id"]


class SheetCell(models.Model):
    """One picture of a sheet; `values`: one number for each axis."""

    sheet = models.ForeignKey(Sheet, models.CASCADE, related_name="cells")
    index = models.PositiveIntegerField()
    values = models.JSONField()
    problem = models.CharField(max_length=400, blank=True)
    picture = models.BinaryField(null=True, blank=True)

    class Meta:
        ordering = ["index"]
        constraints = [models.UniqueConstraint(fields=["sheet", "index"], name="sheet_cell_once")]
