"""A build as a file: its plans, its log and its photos in a zip, out and in again."""

import json
import zipfile
from collections.abc import Iterable, Mapping
from datetime import date
from io import BytesIO
from typing import Any
from uuid import UUID

from django.db import transaction
from pydantic import ValidationError

from varistrat.builds.models import Build, BuildPlan, Photo
from varistrat.builds.services import log, photos
from varistrat.builds.services.begin import MOST_BUILDS, write_plan
from varistrat.core.build.plan import Plan, read_operations
from varistrat.core.design.document import read_document
from varistrat.core.errors import InputError
from varistrat.core.interchange.apart import PHOTO, read_apart
from varistrat.core.photo.intake import Taken, taken_again
from varistrat.core.reading import check_format, let_go, read_json
from varistrat.core.shop import ShopData
from varistrat.shop.models import Membership

FORMAT = "varistrat.build/1"
MOST_BYTES = 25_000_000
"""Of a file that is read."""
MOST_TEXT = 20_000_000
"""And of what is written in it."""
MOST_PHOTO, MOST_PIXELS, PHOTO_SECONDS = 8_000_000, 400_000_000, 3.0
"""Bytes of one photo in it, pixels of all, seconds of a processor for one: photos that were kept here are far within."""
PACKED, LOCKED = (zipfile.ZIP_STORED, zipfile.ZIP_DEFLATED), 1
"""Ways of packing that are read; the flag of one that wants a password."""


def write_file(build: Build) -> bytes:
    """A zip: build.json, and photos/<id>.jpg."""
    told = {
        "format": FORMAT,
        "uid": str(build.uid),
        "title": build.title,
        "who": build.who,
        "due": build.due.isoformat() if build.due else None,
        "state": build.state,
        "plans": [
            {"number": p.number, "why": p.why, "document": p.document, "operations": p.operations}
            for p in BuildPlan.objects.filter(build=build)
        ],
        "entries": [r.data for r in build.records.all()],
        "photos": [str(p.uid) for p in build.photos.all()],
    }
    out = BytesIO()
    with zipfile.ZipFile(out, "w", zipfile.ZIP_DEFLATED) as z:
        z.writestr("build.json", json.dumps(told, indent=1))
        for p in build.photos.all():
            path = photos.file_of(build, p.uid)
            if path.is_file():
                # already as small as it gets
                z.write(path, f"photos/{p.uid}.jpg", zipfile.ZIP_STORED)
    return out.getvalue()


def read_file(*, actor: Membership, data: bytes, shop: ShopData) -> Build:
    """All of it or nothing. One that is in the book already is given what it lacks. Raises InputError."""
    try:
        with zipfile.ZipFile(BytesIO(data)) as z:
            told = _told(z)
            names = list(_photo_names(z, told))
            # sizes first: nothing large is unpacked to find that it is
            if any(z.getinfo(n).file_size > MOST_PHOTO for n in names) or sum(z.getinfo(n).file_size for n in names) > MOST_BYTES:
                raise InputError.at("photos", "they are larger than photos that were kept here", "save the build again as a file")
            pictures = {name: z.read(name) for name in names}
    except (zipfile.BadZipFile, OSError) as e:
        raise InputError.at("file", f"it is no build's file ({str(e)[:80]})", "save the build again as a file") from e
    # decoded before anything is written; each anew, whoever wrote the file
    taken = _taken(pictures)
    plans = [_plan(p, i, shop) for i, p in enumerate(_list(told, "plans"), 1)]
    if not plans:
        raise InputError.at("plans", "it has none", "save the build again as a file")
    with transaction.atomic():
        build = _begun(actor, told, plans)
        kept = log.write(actor=actor, build=build, entries=_list(told, "entries"), by_server=True)
        if kept.refused:
            r = kept.refused[0]
            raise InputError.at("entries", r.wrong, r.cure)
        if told.get("state") in Build.State.values:
            build.state = told["state"]
            build.save(update_fields=["state"])
    for uid, one in taken.items():
        if not Photo.objects.filter(build=build, uid=uid).exists():
            photos.keep(actor=actor, build=build, uid=uid, taken=one)
    return build


def _taken(pictures: Mapping[str, bytes]) -> dict[UUID, Taken]:
    """Each in its turn among all photos that are being read here. Raises InputError for what takes more than a build's photos can."""
    found: dict[UUID, Taken] = {}
    pixels = 0
    for name, body in pictures.items():
        one: Taken = read_apart(taken_again, body, what=PHOTO, seconds=PHOTO_SECONDS)
        pixels += one.width * one.height
        if pixels > MOST_PIXELS:
            raise InputError.at("photos", f"together they have more than {MOST_PIXELS / 1e6:.0f} million pixels", "leave some out")
        found[UUID(name[7:-4])] = one
    return found


def _told(z: zipfile.ZipFile) -> dict[str, Any]:
    try:
        info = z.getinfo("build.json")
    except KeyError as e:
        raise InputError.at("file", "there is no build.json in it", "save the build again as a file") from e
    if any(i.flag_bits & LOCKED or i.compress_type not in PACKED for i in z.infolist()):
        raise InputError.at("file", "it is locked, or packed in a way that is not read here", "save the build again as a file")
    if info.file_size > MOST_TEXT or sum(i.file_size for i in z.infolist()) > 4 * MOST_BYTES:
        raise InputError.at("file", "what is packed in it is larger than a build can be", "save the build again as a file")
    data = read_json(z.read(info), MOST_TEXT)
    if not isinstance(data, dict):
        raise InputError.at("build.json", "it is no build", "save the build again as a file")
    check_format(data, FORMAT)
    return data


def _photo_names(z: zipfile.ZipFile, told: dict[str, Any]) -> Iterable[str]:
    names = set(z.namelist())
    for uid in _list(told, "photos")[: photos.MOST_PHOTOS]:
        try:
            name = f"photos/{UUID(str(uid))}.jpg"
        except ValueError as e:
            raise InputError.at("photos", f"{str(uid)[:40]!r} is no id", "save the build again as a file") from e
        if name in names:
            yield name


def _list(told: dict[str, Any], name: str) -> list[Any]:
    found = told.get(name, [])
    if not isinstance(found, list):
        raise InputError.at(name, "it is no list", "save the build again as a file")
    return found


def _plan(data: Any, number: int, shop: ShopData) -> Plan:
    where = f"plans[{number - 1}]"
    if not isinstance(data, dict):
        raise InputError.at(where, "it is no plan", "save the build again as a file")
    try:
        document = read_document(data.get("document"), shop)
        operations = read_operations(data.get("operations"))
    except InputError as e:
        raise e.under(f"{where}.document") from e
    except ValidationError as e:
        let_go(e)
        raise InputError.at(f"{where}.operations", str(e.errors()[0]["msg"])[:120], "save the build again as a file") from e
    return Plan(number, operations, document.as_json(), str(data.get("why") or "")[:2000])


def _begun(actor: Membership, told: dict[str, Any], plans: list[Plan]) -> Build:
    try:
        uid = UUID(str(told.get("uid")))
        due = date.fromisoformat(told["due"]) if told.get("due") else None
    except (ValueError, TypeError) as e:
        raise InputError.at("uid", str(e)[:80], "save the build again as a file") from e
    there = Build.objects.filter(shop=actor.shop, uid=uid).first()
    if there is None:
        if Build.objects.filter(shop=actor.shop).count() >= MOST_BUILDS:
            raise InputError.at("build", f"there are {MOST_BUILDS} builds already", "save old ones as files and clear them out")
        title = str(told.get("title") or "A build")[:200]
        there = Build.objects.create(
            shop=actor.shop, uid=uid, title=title, who=str(told.get("who") or "")[:120], due=due, by=actor.user, current=len(plans)
        )
    known = there.plans.count()
    for plan in plans[known:]:
        write_plan(actor, there, plan)
    if len(plans) > known:
        there.current = len(plans)
        there.save(update_fields=["current"])
    return there
