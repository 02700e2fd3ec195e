"""Ordering a job, and asking it to stop."""

from django.db import transaction
from pydantic import BaseModel

from varistrat.core.errors import InputError
from varistrat.jobs.kinds import KINDS
from varistrat.jobs.models import Job
from varistrat.jobs.selectors import ACTIVE
from varistrat.jobs.services.runner import ring
from varistrat.shop.models import Membership


@transaction.atomic
def order(*, actor: Membership, asked: BaseModel) -> Job:
    """The same asked again by the same person, who may have heard nothing of it, while it waits or runs is the same job. Raises InputError
    for what cannot be done, and when the shop has as many of its kind under way as one may have."""
    kind = KINDS[asked.kind]  # type: ignore[attr-defined]
    plan = kind.plan(asked, actor.shop)
    of_kind = Job.objects.filter(shop=actor.shop, kind=kind.key)
    same = of_kind.filter(state__in=ACTIVE, stop_asked=False, by=actor.user, design=plan.design, input=plan.input, about=plan.about).first()
    if same is not None:
        return same
    if of_kind.filter(state__in=ACTIVE).count() >= kind.at_once:
        raise InputError.at("", f"{kind.at_once} are under way already", "wait for one of them, or stop it")
    made = Job.objects.create(
        kind=kind.key,
        lane=kind.lane,
        shop=actor.shop,
        by=actor.user,
        design=plan.design,
        input=plan.input,
        about=plan.about,
        wanted=plan.wanted,
    )
    old = of_kind.values_list("pk", flat=True)[kind.kept :]
    Job.objects.filter(pk__in=list(old)).exclude(state__in=ACTIVE).delete()
    transaction.on_commit(lambda: ring(made.lane))
    return made


@transaction.atomic
def stop(*, actor: Membership, job: Job) -> Job:
    """One that waits is stopped at once, one that runs as soon as its worker looks; one that is over stays as it is."""
    own = Job.objects.filter(pk=job.pk, shop=actor.shop)
    own.filter(state=Job.State.WAITING).update(state=Job.State.STOPPED, stop_asked=True)
    own.filter(state=Job.State.RUNNING).update(stop_asked=True)
    job.refresh_from_db(fields=["state", "stop_asked"])
    return job
