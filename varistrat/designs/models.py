"""Designs and their revisions. A revision, once written, never changes."""

from typing import Any

from django.conf import settings
from django.db import models

from varistrat.core.design.upgrades import upgraded
from varistrat.shop.models import Shop


class Design(models.Model):
    shop = models.ForeignKey(Shop, models.CASCADE, related_name="designs")
    name = models.CharField(max_length=200)
    about = models.CharField(max_length=400, blank=True)
    created = models.DateTimeField(auto_now_add=True)
    changed = models.DateTimeField(auto_now=True)
    removed = models.DateTimeField(null=True, blank=True)
    current = models.PositiveIntegerField(default=0)
    """Number of the revision that counts; others are older, or were refused as stale."""

    class Meta:
        ordering = ["-changed", "-id"]
        indexes = [models.Index(fields=["shop", "removed", "-changed"], name="design_on_bench")]


class Revision(models.Model):
    design = models.ForeignKey(Design, models.CASCADE, related_name="revisions")
    number = models.PositiveIntegerField()
    base = models.PositiveIntegerField(default=0)
    """The revision it was made from."""
    stale = models.BooleanField(default=False)
    """Refused because its base was no longer current; kept so that nothing is lost."""
    created = models.DateTimeField(auto_now_add=True)
    by = models.ForeignKey(settings.AUTH_USER_MODEL, models.SET_NULL, null=True, related_name="+")
    """Who saved it."""
    document = models.JSONField()
    digest = models.CharField(max_length=64)
    note = models.CharField(max_length=200, blank=True)

    class Meta:
        ordering = ["-number"]
        constraints = [models.UniqueConstraint(fields=["design", "number"], name="revision_number_once")]

    @property
    def saved_by(self) -> str:
        """Their name; empty when they are no longer known."""
        return self.by.get_username() if self.by else ""

    @property
    def up_to_date(self) -> dict[str, Any]:
        """What was kept, as this version keeps it; whether or not it can still be read in full."""
        found: dict[str, Any] = upgraded(self.document)
        return found
