"""One piece of work for the workers, and what came of it."""

from django.conf import settings
from django.db import models

from varistrat.designs.models import Design
from varistrat.shop.models import Shop


class Lane(models.TextChoices):
    """A worker each, so that what takes moments never waits behind what takes minutes."""

    SHORT = "short"
    LONG = "long"


class Job(models.Model):
    class State(models.TextChoices):
        WAITING = "waiting"
        RUNNING = "running"
        DONE = "done"
        FAILED = "failed"
        STOPPED = "stopped"

    kind = models.CharField(max_length=30)
    lane = models.CharField(max_length=5, choices=Lane)
    shop = models.ForeignKey(Shop, models.CASCADE, related_name="jobs")
    by = models.ForeignKey(settings.AUTH_USER_MODEL, models.SET_NULL, null=True, related_name="+")
    design = models.ForeignKey(Design, models.CASCADE, null=True, related_name="jobs")
    """What it is of, if it is of a design that is kept."""
    input = models.JSONField()
    """All that the work needs but the shop's own numbers, which count as they are when it begins."""
    about = models.JSONField()
    """What was asked, as it is told back."""
    state = models.CharField(max_length=7, choices=State, default=State.WAITING)
    progress = models.FloatField(default=0.0)
    wanted = models.PositiveIntegerField(default=1)
    """Files in all."""
    problem = models.CharField(max_length=400, blank=True)
    result = models.JSONField(null=True)
    tries = models.PositiveSmallIntegerField(default=0)
    """How often it was begun."""
    stop_asked = models.BooleanField(default=False)
    ordered = models.DateTimeField(auto_now_add=True)
    began = models.DateTimeField(null=True)
    heartbeat = models.DateTimeField(null=True)
    """When the worker last said how far it is."""

    class Meta:
        ordering = ["-id"]
        indexes = [models.Index(fields=["lane", "state"], name="job_queue")]


class JobFile(models.Model):
    """One thing that a job made, as it comes."""

    job = models.ForeignKey(Job, models.CASCADE, related_name="files")
    index = models.PositiveIntegerField()
    values = models.JSONField(default=list)
    """The numbers that it stands for."""
    name = models.CharField(max_length=120, blank=True)
    """Under which it is saved; empty: it is shown."""
    media = models.CharField(max_length=60, default="image/png")
    problem = models.CharField(max_length=400, blank=True)
    content = models.BinaryField(null=True)

    class Meta:
        ordering = ["index"]
        constraints = [models.UniqueConstraint(fields=["job", "index"], name="job_file_once")]
