"""What a shop owns, and every movement of it. The rack is the sum of its movements; a movement, once written, never changes."""

from typing import Any

from django.conf import settings
from django.db import models

from varistrat.core.rack.item import FORMS, RackItem, Stocked
from varistrat.core.reading import parse
from varistrat.core.shop import ShopData
from varistrat.designs.models import Design
from varistrat.shop.models import Shop


class Item(models.Model):
    """Bars that are alike, mm; or powder. What it is never changes; where it lies and what is said of it may."""

    shop = models.ForeignKey(Shop, models.CASCADE, related_name="rack")
    code = models.CharField(max_length=40)
    """What is written on it, or its row in the shop's file."""
    steel = models.CharField(max_length=30)
    form = models.CharField(max_length=10, choices=[(f, f) for f in FORMS])
    width = models.FloatField(null=True)
    thickness = models.FloatField(null=True)
    wall = models.FloatField(null=True)
    length = models.FloatField(null=True)
    each = models.FloatField(null=True)
    """What one piece (of powder: one gram) cost, in the shop's own money."""
    batch = models.CharField(max_length=120, blank=True)
    bought = models.DateField(null=True)
    source = models.CharField(max_length=120, blank=True)
    place = models.CharField(max_length=120, blank=True)
    note = models.CharField(max_length=400, blank=True)
    low = models.FloatField(null=True)
    """Fewer than these and it is running low."""
    made = models.DateTimeField(auto_now_add=True)
    design = models.ForeignKey(Design, models.SET_NULL, null=True, related_name="offcuts")
    """Of an offcut: what it was cut from."""
    document = models.JSONField(null=True)
    """Of an offcut: the bar that it is, so that its pattern can be shown and a design begun with it."""

    class Meta:
        ordering = ["steel", "form", "id"]
        constraints = [models.UniqueConstraint(fields=["shop", "code"], name="one_code_each")]

    def as_stocked(self, there: float, shop: ShopData) -> Stocked:
        """As the core knows it. Raises InputError when its steel is no longer in the list."""
        names = ("steel", "form", "width", "thickness", "wall", "length", "batch", "source", "place", "note", "low")
        said: dict[str, Any] = {n: getattr(self, n) for n in names if getattr(self, n) not in (None, "")}
        if self.bought:
            said["bought"] = self.bought.isoformat()
        if self.each is not None:
            said["price"] = self.each * there
        return Stocked(self.code, parse(RackItem, said | {"count": there}, shop), there, self.pk, self.document is not None)


class Movement(models.Model):
    """So many came (or, below nothing, went); of powder: g. Those made in one go have one `act`, which can be undone."""

    class Kind(models.TextChoices):
        BOUGHT = "bought"
        TAKEN = "taken"
        PUT_BACK = "put_back"
        OFFCUT = "offcut"
        CORRECTED = "corrected"

    item = models.ForeignKey(Item, models.CASCADE, related_name="movements")
    kind = models.CharField(max_length=10, choices=Kind)
    amount = models.FloatField()
    at = models.DateTimeField()
    by = models.ForeignKey(settings.AUTH_USER_MODEL, models.SET_NULL, null=True, related_name="+")
    design = models.ForeignKey(Design, models.SET_NULL, null=True, related_name="movements")
    """What it was taken for."""
    note = models.CharField(max_length=200, blank=True)
    act = models.UUIDField(db_index=True)

    class Meta:
        ordering = ["-id"]
        constraints = [models.CheckConstraint(condition=~models.Q(amount=0), name="movement_moves")]

    def save(self, *args: Any, **kwargs: Any) -> None:
        # the database refuses it too (migration 0002): what was written down happened
        if self.pk:
            raise TypeError("a movement never changes; write another")
        super().save(*args, **kwargs)

    def delete(self, *args: Any, **kwargs: Any) -> Any:
        raise TypeError("a movement is never taken away; write one that puts it right")
