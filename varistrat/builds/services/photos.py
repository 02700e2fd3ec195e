"""Photos of a build: taken in, kept as files only their shop is shown, each once."""

import shutil
from pathlib import Path
from uuid import UUID

from django.conf import settings
from django.db import transaction

from varistrat.builds.models import Build, Photo
from varistrat.core.errors import InputError
from varistrat.core.interchange.apart import PHOTO, read_apart
from varistrat.core.photo.intake import Taken, taken_in
from varistrat.designs.selectors import NotFound
from varistrat.shop.models import Membership

MOST_PHOTOS = 400
"""Of one build."""


def folder_of(build: Build) -> Path:
    """Where its photos lie."""
    return Path(settings.PHOTOS_DIR) / str(build.shop_id) / str(build.pk)


def file_of(build: Build, uid: UUID, small: bool = False) -> Path:
    """Of one photo; made of ids only, never of what somebody sent."""
    return folder_of(build) / f"{uid.hex}{'-small' if small else ''}.jpg"


def take(*, actor: Membership, build: Build, uid: UUID, data: bytes) -> Photo:
    """The same id twice is one photo. Raises InputError for what is no photo, ReadersBusy."""
    there = Photo.objects.filter(build=build, uid=uid).first()
    if there is not None:
        return there
    if build.photos.count() >= MOST_PHOTOS:
        raise InputError.at("file", f"a build keeps {MOST_PHOTOS} photos", "keep only those that tell something")
    return keep(actor=actor, build=build, uid=uid, taken=read_apart(taken_in, data, what=PHOTO))


def keep(*, actor: Membership, build: Build, uid: UUID, taken: Taken) -> Photo:
    """The files first: a row without its file would be a photo that is gone; a file without its row is only room."""
    folder_of(build).mkdir(parents=True, exist_ok=True, mode=0o700)
    for small, body in ((False, taken.large), (True, taken.small)):
        path = file_of(build, uid, small)
        part = path.with_suffix(".part")
        part.touch(mode=0o600)
        part.write_bytes(body)
        part.replace(path)
    with transaction.atomic():
        made, _ = Photo.objects.get_or_create(
            build=build,
            uid=uid,
            defaults={
                "width": taken.width,
                "height": taken.height,
                "bytes": len(taken.large) + len(taken.small),
                "by": actor.user,
            },
        )
    return made


def open_photo(build: Build, uid: UUID, small: bool) -> Path:
    """Its file. Raises NotFound."""
    if not Photo.objects.filter(build=build, uid=uid).exists():
        raise NotFound("photo")
    path = file_of(build, uid, small)
    if not path.is_file():
        raise NotFound("photo")
    return path


def clear_away(build: Build) -> None:
    """With the build."""
    shutil.rmtree(folder_of(build), ignore_errors=True)
