"""What a user prefers to see."""

from django.conf import settings
from django.db import models


def usual_rack() -> list[str]:
    """What a shop that has not said is taken to have."""
    return ["1084", "15n20", "1095", "80crv2", "52100", "o1", "l6", "1018", "wrought", "nickel", "304"]


class Preferences(models.Model):
    """Units and theme of one user."""

    class Length(models.TextChoices):
        MM = "mm"
        INCH = "inch"
        FRACTION = "fraction"
        THOU = "thou"

    class Theme(models.TextChoices):
        SYSTEM = "system"
        LIGHT = "light"
        DARK = "dark"

    user = models.OneToOneField(settings.AUTH_USER_MODEL, models.CASCADE, related_name="preferences")
    length = models.CharField(max_length=10, choices=Length, default=Length.MM)
    temperature = models.CharField(max_length=1, choices=[("C", "C"), ("F", "F")], default="C")
    weight = models.CharField(max_length=2, choices=[("g", "g"), ("oz", "oz")], default="g")
    theme = models.CharField(max_length=10, choices=Theme, default=Theme.SYSTEM)
    rack = models.JSONField(default=usual_rack)
    """Keys of the steels that stand in the shop's rack."""


class ShopSteel(models.Model):
    """The shop's own figures for a steel of the list, or a steel of its own."""

    owner = models.ForeignKey(settings.AUTH_USER_MODEL, models.CASCADE, related_name="shop_steels")
    key = models.CharField(max_length=30)
    figures = models.JSONField()
    """By name, as `Steel` has them: only what the shop put in."""
    retired = models.BooleanField(default=False)
    """Taken out of the list, but kept: something that was saved still names it."""

    class Meta:
        ordering = ["id"]
        constraints = [models.UniqueConstraint(fields=["owner", "key"], name="one_shop_steel_each")]


class ShopFigure(models.Model):
    """The shop's own number in place of an indicative one: see core/figures.py."""

    owner = models.ForeignKey(settings.AUTH_USER_MODEL, models.CASCADE, related_name="shop_figures")
    key = models.CharField(max_length=40)
    value = models.FloatField()

    class Meta:
        constraints = [models.UniqueConstraint(fields=["owner", "key"], name="one_shop_figure_each")]


class ShopHand(models.Model):
    """How uneven this shop's hammer, press or rolls usually leave the layers, mm, in place of the indicative figures."""

    owner = models.ForeignKey(settings.AUTH_USER_MODEL, models.CASCADE, related_name="shop_hands")
    method = models.CharField(max_length=10)
    amount = models.FloatField()
    wavelength = models.FloatField()

    class Meta:
        constraints = [
            models.UniqueConstraint(fields=["owner", "method"], name="one_shop_hand_each"),
            models.CheckConstraint(condition=models.Q(amount__gte=0, wavelength__gt=0), name="shop_hand_in_range"),
        ]
