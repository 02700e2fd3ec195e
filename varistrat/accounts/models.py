"""What a user prefers to see."""

from django.conf import settings
from django.db import models


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
    theme = models.CharField(max_length=10, choices=Theme, default=Theme.SYSTEM)


class ShopSteel(models.Model):
    """The shop's own figure for a steel, in place of the indicative one."""

    owner = models.ForeignKey(settings.AUTH_USER_MODEL, models.CASCADE, related_name="shop_steels")
    key = models.CharField(max_length=30)
    tone = models.FloatField()

    class Meta:
        constraints = [
            models.UniqueConstraint(fields=["owner", "key"], name="one_shop_steel_each"),
            models.CheckConstraint(condition=models.Q(tone__gte=0, tone__lte=10), name="tone_0_to_10"),
        ]


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
