"""The demo's baths: one half used up, by the blades of the book and some before them, one fresh."""

from datetime import timedelta
from uuid import UUID, uuid5

from django.utils import timezone

from varistrat.builds.models import Build
from varistrat.builds.selectors import plans_of
from varistrat.core.design.document import read_document
from varistrat.core.design.worked import Worked
from varistrat.core.etch.bath import Bath
from varistrat.core.finish.cycles import etch_plan
from varistrat.finishing import services
from varistrat.shop.models import Membership
from varistrat.shop.services.own import shop_data

NAMES = UUID("5e0b7a1c-93d4-4c0a-8d0e-0c6d4b1f7a22")
BEFORE = 0.38
"""Share of its iron that the old bath took up before this book was begun."""


def fill_baths(owner: Membership) -> None:
    """Mix them, and count what the finished blades left in the first."""
    today = timezone.now().date()
    old = Bath(what="ferric", strength=10.2, temperature=19, litres=3.5)
    long = services.mix(
        actor=owner,
        name="The long tube",
        bath=old.after(BEFORE * old.capacity),
        mixed=today - timedelta(days=340),
        note="by the north window",
    )
    services.mix(actor=owner, name="Muriatic, the stone jar", bath=Bath(what="muriatic", strength=12.5, litres=2.0), mixed=today)
    shop = shop_data(owner.shop)
    for build in Build.objects.filter(shop=owner.shop, state=Build.State.DONE).order_by("pk"):
        worked = Worked.of(read_document(plans_of(build)[-1].document, shop))
        minutes = [c.minutes for c in etch_plan(worked, services.bath_of(owner.shop, long.pk).core).cycles]
        uid = uuid5(NAMES, build.title)
        services.etched(actor=owner, bath_id=long.pk, uid=uid, worked=worked, minutes=minutes, title=build.title, build=build)
