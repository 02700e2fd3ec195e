"""What a user prefers to see, and how often somebody guessed wrong at the door."""

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
    weight = models.CharField(max_length=2, choices=[("g", "g"), ("oz", "oz")], default="g")
    theme = models.CharField(max_length=10, choices=Theme, default=Theme.SYSTEM)
    password_changed = models.DateTimeField(null=True)
    """By the person; told at the next sign-in."""


class Tries(models.Model):
    """Wrong sign-ins under one key, a kind and a hash (services/sign_in.py); times are seconds since 1970."""

    key = models.CharField(max_length=40, primary_key=True)
    wrong = models.PositiveIntegerField()
    last = models.FloatField(db_index=True)
    until = models.FloatField()


class SecondSign(models.Model):
    """A code that somebody's phone works out, asked for at the door (services/second.py).

    confirmed: since when it is asked for; counter: half minutes since 1970 of the last code that counted; spare: hashes of codes on paper.
    """

    user = models.OneToOneField(settings.AUTH_USER_MODEL, models.CASCADE, related_name="second_sign")
    secret = models.CharField(max_length=64)
    confirmed = models.DateTimeField(null=True)
    counter = models.BigIntegerField(default=0)
    spare = models.JSONField(default=list)
