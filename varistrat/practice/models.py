"""One exercise of one user: its seed and what was done, from which all the rest follows. Nothing of it touches a build."""

from django.conf import settings
from django.db import models


class Attempt(models.Model):
    """score, result: once it has ended."""

    user = models.ForeignKey(settings.AUTH_USER_MODEL, models.CASCADE, related_name="attempts")
    kind = models.CharField(max_length=40)
    seed = models.PositiveIntegerField()
    actions = models.JSONField(default=list)
    ended = models.BooleanField(default=False)
    score = models.FloatField(null=True)
    result = models.JSONField(null=True)
    begun = models.DateTimeField(auto_now_add=True)

    class Meta:
        ordering = ["-id"]
        indexes = [models.Index(fields=["user", "kind", "-score"], name="attempt_best")]
