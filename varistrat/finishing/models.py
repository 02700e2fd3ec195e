"""The shop's baths and what was etched in them. How worn one is, is the sum of its uses; a use, once written, never changes."""

from django.conf import settings
from django.db import models

from varistrat.builds.models import Build
from varistrat.shop.models import Shop


class Bath(models.Model):
    """As it was mixed; `gone`: when it was given away as waste."""

    shop = models.ForeignKey(Shop, models.CASCADE, related_name="baths")
    name = models.CharField(max_length=120)
    what = models.CharField(max_length=20)
    strength = models.FloatField()
    temperature = models.FloatField()
    litres = models.FloatField()
    mixed = models.DateField()
    gone = models.DateField(null=True)
    note = models.CharField(max_length=400, blank=True)

    class Meta:
        ordering = ["gone", "-mixed", "-id"]


class BathUse(models.Model):
    """One etch: minutes in it, g of metal that it took up, and of which elements; `uid` by who writes it: the same twice is once."""

    bath = models.ForeignKey(Bath, models.CASCADE, related_name="uses")
    uid = models.UUIDField()
    at = models.DateTimeField(auto_now_add=True)
    by = models.ForeignKey(settings.AUTH_USER_MODEL, models.SET_NULL, null=True, related_name="+")
    title = models.CharField(max_length=200)
    build = models.ForeignKey(Build, models.SET_NULL, null=True, related_name="bath_uses")
    minutes = models.FloatField()
    grams = models.FloatField()
    elements = models.JSONField(default=dict)

    class Meta:
        ordering = ["-id"]
        constraints = [
            models.UniqueConstraint(fields=["bath", "uid"], name="bath_use_once"),
            models.CheckConstraint(condition=models.Q(grams__gte=0), name="bath_use_takes_up"),
        ]
