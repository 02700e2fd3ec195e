"""Prints and sheets that were kept, as jobs."""

from django.db import migrations

STATES = {"cancelled": "stopped"}


def copied(apps, editor):
    get = apps.get_model
    job, made = get("jobs", "Job"), get("jobs", "JobFile")
    shops = dict(get("shop", "Membership").objects.values_list("user", "shop"))

    def keep(old, **more):
        state = STATES.get(old.state, old.state)
        new = job.objects.create(shop_id=shops[old.owner_id], by_id=old.owner_id, state=state, problem=old.problem, tries=old.tries, **more)
        job.objects.filter(pk=new.pk).update(ordered=old.created)
        return new

    for old in get("designs", "PrintJob").objects.select_related("design").order_by("pk"):
        revision = get("designs", "Revision").objects.filter(design=old.design, number=old.revision).first()
        if revision is None:
            continue
        about = {"kind": "print_face", "side": old.side, "width_px": old.width_px}
        given = {**about, "document": revision.document, "name": old.design.name}
        new = keep(old, kind="print_face", lane="long", design=old.design, input=given, about=about, progress=old.progress)
        if old.picture is not None:
            made.objects.create(job=new, index=0, content=old.picture, name=f"face-{old.side}.png")
    for old in get("designs", "Sheet").objects.order_by("pk"):
        about = {"kind": "what_if", "axes": old.axes}
        new = keep(old, kind="what_if", lane="short", input={"document": old.document, "axes": old.axes}, about=about, wanted=old.wanted)
        for cell in old.cells.all():
            made.objects.create(job=new, index=cell.index, values=cell.values, problem=cell.problem, content=cell.picture)
        if old.state == "done":
            job.objects.filter(pk=new.pk).update(progress=1.0)


class Migration(migrations.Migration):
    dependencies = [("jobs", "0001_first"), ("designs", "0004_shops")]
    operations = [migrations.RunPython(copied)]
