"""A shop, who works in it, and what is its own: steels, numbers, hands."""

from django.conf import settings
from django.db import models


def usual_steels() -> list[str]:
    """What a shop that has not said is taken to use."""
    return ["1084", "15n20", "1095", "80crv2", "52100", "o1", "l6", "1018", "wrought", "nickel", "304"]


class Role(models.TextChoices):
    """What a person may do in a shop; each may all that the one below may."""

    HELPER = "helper"
    """Reads, works things out, does not change what is kept."""
    SMITH = "smith"
    """Changes designs and the shop's numbers, runs the kiln."""
    OWNER = "owner"
    """Says who works there."""

    def may(self, needed: "Role") -> bool:
        order = list(Role)
        return order.index(self) >= order.index(needed)


class Shop(models.Model):
    name = models.CharField(max_length=120)
    made = models.DateTimeField(auto_now_add=True)
    in_use = models.JSONField(default=usual_steels)
    """Keys of the steels it works with."""


class Membership(models.Model):
    """A person in a shop. The one chosen last is where that person is at work."""

    shop = models.ForeignKey(Shop, models.CASCADE, related_name="people")
    user = models.ForeignKey(settings.AUTH_USER_MODEL, models.CASCADE, related_name="memberships")
    role = models.CharField(max_length=6, choices=Role)
    since = models.DateTimeField(auto_now_add=True)
    chosen = models.DateTimeField()

    class Meta:
        ordering = ["id"]
        constraints = [models.UniqueConstraint(fields=["shop", "user"], name="once_in_a_shop")]

    def may(self, needed: Role) -> bool:
        return Role(self.role).may(needed)


class Invite(models.Model):
    """A link into the shop that works once. Only a digest of it is kept: who reads the database cannot use it."""

    shop = models.ForeignKey(Shop, models.CASCADE, related_name="invites")
    role = models.CharField(max_length=6, choices=Role)
    digest = models.CharField(max_length=64, unique=True)
    by = models.ForeignKey(settings.AUTH_USER_MODEL, models.SET_NULL, null=True, related_name="+")
    made = models.DateTimeField(auto_now_add=True)
    expires = models.DateTimeField()
    used = models.DateTimeField(null=True, blank=True)

    class Meta:
        ordering = ["-id"]


class ShopSteel(models.Model):
    """The shop's own figures for a steel of the list, or a steel of its own."""

    shop = models.ForeignKey(Shop, models.CASCADE, related_name="steels")
    key = models.CharField(max_length=30)
    figures = models.JSONField()
    """By name, as `Steel` has them: only what the shop put in."""
    retired = models.BooleanField(default=False)
    """Taken out of the list, but kept: something that was saved still names it."""

    class Meta:
        ordering = ["id"]
        constraints = [models.UniqueConstraint(fields=["shop", "key"], name="one_steel_each")]


class ShopFigure(models.Model):
    """The shop's own number in place of an indicative one: see core/figures.py."""

    shop = models.ForeignKey(Shop, models.CASCADE, related_name="figures")
    key = models.CharField(max_length=40)
    value = models.FloatField()

    class Meta:
        constraints = [models.UniqueConstraint(fields=["shop", "key"], name="one_figure_each")]


class ShopHand(models.Model):
    """How uneven this shop's hammer, press or rolls usually leave the layers, mm, in place of the indicative figures."""

    shop = models.ForeignKey(Shop, models.CASCADE, related_name="hands")
    method = models.CharField(max_length=10)
    amount = models.FloatField()
    wavelength = models.FloatField()

    class Meta:
        constraints = [
            models.UniqueConstraint(fields=["shop", "method"], name="one_hand_each"),
            models.CheckConstraint(condition=models.Q(amount__gte=0, wavelength__gt=0), name="hand_in_range"),
        ]
