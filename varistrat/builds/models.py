"""A build, its plan as it was frozen and changed, and what was written down meanwhile. Plans and records never change."""

from typing import Any

from django.conf import settings
from django.db import models

from varistrat.core.build.entry import ENTRY, Entry
from varistrat.core.build.plan import Plan, read_operations
from varistrat.core.design.upgrades import upgraded
from varistrat.designs.models import Design
from varistrat.shop.models import Shop


class Order(models.Model):
    """What somebody wants made."""

    class Purpose(models.TextChoices):
        SLICING = "slicing"
        CARVING = "carving"
        CHOPPING = "chopping"
        HEAVY = "heavy work"
        SHOW = "show"

    class State(models.TextChoices):
        OPEN = "open"
        DELIVERED = "delivered"
        WITHDRAWN = "withdrawn"

    shop = models.ForeignKey(Shop, models.CASCADE, related_name="orders")
    who = models.CharField(max_length=120)
    title = models.CharField(max_length=200)
    purpose = models.CharField(max_length=12, choices=Purpose, blank=True)
    promised = models.DateField(null=True)
    price = models.FloatField(null=True)
    """In the shop's own money."""
    must = models.CharField(max_length=1000, blank=True)
    """What may not be missing."""
    length = models.FloatField(null=True)
    height = models.FloatField(null=True)
    """Of the blade, mm, where somebody said so."""
    steels = models.JSONField(default=list)
    """Keys of those it is to be of."""
    design = models.ForeignKey(Design, models.SET_NULL, null=True, related_name="orders")
    """That was begun for it."""
    state = models.CharField(max_length=10, choices=State, default=State.OPEN)
    made = models.DateTimeField(auto_now_add=True)

    class Meta:
        ordering = ["-id"]


class Build(models.Model):
    class State(models.TextChoices):
        PLANNED = "planned"
        WORK = "in work"
        RESTING = "resting"
        DONE = "done"
        GIVEN_UP = "given up"

    shop = models.ForeignKey(Shop, models.CASCADE, related_name="builds")
    uid = models.UUIDField()
    """Made by who began it, so that beginning twice is beginning once; on its label; the same in a file of it."""
    design = models.ForeignKey(Design, models.SET_NULL, null=True, related_name="builds")
    order = models.ForeignKey(Order, models.SET_NULL, null=True, related_name="builds")
    title = models.CharField(max_length=200)
    who = models.CharField(max_length=120, blank=True)
    due = models.DateField(null=True)
    state = models.CharField(max_length=8, choices=State, default=State.PLANNED)
    made = models.DateTimeField(auto_now_add=True)
    by = models.ForeignKey(settings.AUTH_USER_MODEL, models.SET_NULL, null=True, related_name="+")
    acts = models.JSONField(default=list)
    """What was taken for it from the rack: the acts (UUIDs as text), each in one go."""
    current = models.PositiveIntegerField(default=1)
    """Number of the plan that counts."""
    kept_odd = models.JSONField(default=list)
    """Kinds of operation of which what it took counts, though it is odd among the others (core/learning)."""
    summary = models.JSONField(default=dict)
    """What the book tells of it (core/build/summary.py), as of its last record."""

    class Meta:
        ordering = ["-id"]
        constraints = [models.UniqueConstraint(fields=["shop", "uid"], name="build_begun_once")]


class BuildPlan(models.Model):
    """The build's own copy of the design, and the route it came to."""

    build = models.ForeignKey(Build, models.CASCADE, related_name="plans")
    number = models.PositiveIntegerField()
    document = models.JSONField()
    operations = models.JSONField()
    why = models.CharField(max_length=2000, blank=True)
    by = models.ForeignKey(settings.AUTH_USER_MODEL, models.SET_NULL, null=True, related_name="+")
    at = models.DateTimeField(auto_now_add=True)

    class Meta:
        ordering = ["number"]
        constraints = [models.UniqueConstraint(fields=["build", "number"], name="build_plan_once")]

    @property
    def plan(self) -> Plan:
        """As the core knows it."""
        return Plan(self.number, read_operations(self.operations), upgraded(self.document), self.why)


class Record(models.Model):
    """One entry, as it came; its own id tells it from all others of the build."""

    build = models.ForeignKey(Build, models.CASCADE, related_name="records")
    uid = models.UUIDField()
    data = models.JSONField()
    by = models.ForeignKey(settings.AUTH_USER_MODEL, models.SET_NULL, null=True, related_name="+")
    came = models.DateTimeField(auto_now_add=True)

    class Meta:
        ordering = ["id"]
        constraints = [models.UniqueConstraint(fields=["build", "uid"], name="record_once")]

    @property
    def entry(self) -> Entry:
        """As the core knows it."""
        return ENTRY.validate_python(self.data)

    def save(self, *args: Any, **kwargs: Any) -> None:
        # the database refuses it too (migration 0002): what was written down was written down
        if self.pk:
            raise TypeError("a record never changes; write another")
        super().save(*args, **kwargs)


class Photo(models.Model):
    """A photo of the work; its pixels lie in files beside the database (services/photos.py)."""

    build = models.ForeignKey(Build, models.CASCADE, related_name="photos")
    uid = models.UUIDField()
    """Made by who took it, as an entry of the log names it."""
    width = models.PositiveIntegerField()
    height = models.PositiveIntegerField()
    bytes = models.PositiveIntegerField()
    by = models.ForeignKey(settings.AUTH_USER_MODEL, models.SET_NULL, null=True, related_name="+")
    came = models.DateTimeField(auto_now_add=True)

    class Meta:
        ordering = ["id"]
        constraints = [models.UniqueConstraint(fields=["build", "uid"], name="photo_once")]
