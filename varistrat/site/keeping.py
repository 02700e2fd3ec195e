"""Backing up and restoring a shop's folder. Standard library only, so that it works when nothing else does.

    python -m varistrat.site.keeping backup FILE --data DIR
    python -m varistrat.site.keeping restore FILE --data DIR

Restoring wants the server stopped: an old write-ahead log left beside a restored file would be replayed onto it and ruin it,
so both are put aside with the database that was there.
"""

import fcntl
import json
import os
import re
import shutil
import sqlite3
import sys
import zipfile
from collections.abc import Iterator
from contextlib import closing, contextmanager, suppress
from datetime import UTC, datetime
from pathlib import Path
from time import monotonic, sleep

NAME, LOCK, PHOTOS = "varistrat.sqlite3", "server.lock", "photos"
PHOTO = re.compile(r"photos/\d+/\d+/[0-9a-f]{32}(-small)?\.jpg")
"""All that a backup may hold beside the database."""
LAST_BACKUP = "last-backup.json"
"""In the shop's folder: when and where to, for whoever looks whether it is well."""
BESIDE = ("", "-wal", "-shm", "-journal")


class InUse(Exception):
    """A server works on this folder."""


@contextmanager
def at_work(folder: Path, patience: float = 0.0) -> Iterator[None]:
    """Hold the folder for one server, or for a restore. Raises InUse after `patience` seconds: one that was told to stop takes a moment."""
    folder.mkdir(parents=True, exist_ok=True)
    handle = os.open(folder / LOCK, os.O_RDWR | os.O_CREAT, 0o600)
    try:
        until = monotonic() + patience
        while True:
            try:
                fcntl.flock(handle, fcntl.LOCK_EX | fcntl.LOCK_NB)
                break
            except OSError as e:
                if monotonic() >= until:
                    raise InUse(str(folder)) from e
                sleep(0.1)
        yield
    finally:
        os.close(handle)


def make_private(folder: Path) -> None:
    """The folder and what is in it for its owner only."""
    folder.chmod(0o700)
    for name in (
        NAME,
        *(NAME + b for b in BESIDE[1:]),
        "secret-key",
        *(p.name for kind in ("worker", "server") for p in folder.glob(f"{kind}-*.log*")),
    ):
        if (folder / name).exists():
            (folder / name).chmod(0o600)


def whole(file: Path) -> str:
    """Empty when it is a sound database of ours, else what is wrong with it."""
    if not file.is_file():
        return f"{file} is not there"
    try:
        with closing(sqlite3.connect(f"file:{file}?mode=ro&immutable=1", uri=True)) as found:
            told = [row[0] for row in found.execute("PRAGMA integrity_check(3)")]
            names = {row[0] for row in found.execute("SELECT name FROM sqlite_master WHERE type = 'table'")}
    except sqlite3.Error as e:
        return f"{file} is no sound database: {e}"
    if told != ["ok"]:
        return f"{file} is damaged: {'; '.join(told)}"
    return "" if {"designs_design", "django_migrations"} <= names else f"{file} is a database, but not one of Varistrat's"


def backup(folder: Path, file: Path) -> str:
    """A copy of the database as it is now, also while the server runs; with photos, both in a zip. What was done. Raises SystemExit; what
    was begun is then taken away, and a backup that was there before stays."""
    if not (folder / NAME).exists():
        raise SystemExit(f"There is no database in {folder}; name the folder with --data.")
    parts = [file.with_name(file.name + end) for end in (".part", ".zip.part")]
    try:
        return _backed_up(folder, file, *parts)
    except (OSError, sqlite3.Error) as e:
        why = e.strerror or str(e) if isinstance(e, OSError) else str(e)
        raise SystemExit(f"Nothing was saved: {file} cannot be written ({why}). Name a file in a folder that is there and has room.") from e
    finally:
        for part in parts:
            with suppress(OSError):
                part.unlink(missing_ok=True)


def _backed_up(folder: Path, file: Path, part: Path, packed: Path) -> str:
    part.touch(mode=0o600)
    with closing(sqlite3.connect(f"file:{folder / NAME}?mode=ro", uri=True)) as a, closing(sqlite3.connect(part)) as b:
        a.backup(b)
    if wrong := whole(part):
        raise SystemExit(f"The copy is not sound: {wrong}")
    # after the database: a photo that comes meanwhile is one too many, never one too few
    found = [p for p in sorted((folder / PHOTOS).rglob("*.jpg")) if PHOTO.fullmatch(p.relative_to(folder).as_posix())]
    if found:
        packed.touch(mode=0o600)
        with zipfile.ZipFile(packed, "w", zipfile.ZIP_DEFLATED) as z:
            z.write(part, NAME)
            for path in found:
                z.write(path, path.relative_to(folder).as_posix(), zipfile.ZIP_STORED)
        part.unlink()
        part = packed
    part.replace(file)
    _remember(folder, file)
    return f"saved {file}" + (f" with {sum('-small' not in p.name for p in found)} photos" if found else "")


def _remember(folder: Path, file: Path) -> None:
    try:
        (folder / LAST_BACKUP).write_text(json.dumps({"at": datetime.now(UTC).isoformat(timespec="seconds"), "file": str(file)}))
    except OSError:
        # a folder that cannot be written can still be backed up
        return


def _unpacked(file: Path, into: Path) -> Path:
    """The database in a backup with photos, the photos beside it. Raises SystemExit for one that holds anything else."""
    try:
        with zipfile.ZipFile(file) as z:
            names = z.namelist()
            if NAME not in names or any(n != NAME and not PHOTO.fullmatch(n) for n in names) or z.testzip():
                raise SystemExit(f"Nothing was changed: {file} is no backup of Varistrat's, or is damaged.")
            z.extractall(into)
    except (zipfile.BadZipFile, OSError) as e:
        raise SystemExit(f"Nothing was changed: {file} cannot be read: {e}.") from e
    return into / NAME


def restore(folder: Path, file: Path) -> str:
    """Put a copy back in place of what is there; that is kept aside. Raises SystemExit before anything is touched."""
    packed = zipfile.is_zipfile(file)
    unpacked = folder / "restoring"
    if packed:
        shutil.rmtree(unpacked, ignore_errors=True)
        unpacked.mkdir(parents=True, mode=0o700)
    try:
        found = _unpacked(file, unpacked) if packed else file
        if wrong := whole(found):
            raise SystemExit(f"Nothing was changed: {wrong}.")
        return _restored(folder, found, file, unpacked / PHOTOS if packed else None)
    finally:
        shutil.rmtree(unpacked, ignore_errors=True)


def _restored(folder: Path, database: Path, file: Path, photos: Path | None) -> str:
    try:
        with at_work(folder):
            fresh = folder / f"{NAME}.restoring"
            with closing(sqlite3.connect(f"file:{database}?mode=ro&immutable=1", uri=True)) as a, closing(sqlite3.connect(fresh)) as b:
                a.backup(b)
            aside = folder / f"before-restore-{datetime.now(UTC):%Y%m%d-%H%M%S-%f}"
            aside.mkdir(mode=0o700)
            moved = [n for n in (NAME + b for b in BESIDE) if (folder / n).exists()]
            for name in moved:
                (folder / name).rename(aside / name)
            for extra in BESIDE[1:]:
                (folder / f"{fresh.name}{extra}").unlink(missing_ok=True)
            if photos is not None:
                if (folder / PHOTOS).exists():
                    (folder / PHOTOS).rename(aside / PHOTOS)
                if photos.exists():
                    photos.rename(folder / PHOTOS)
            fresh.replace(folder / NAME)
            make_private(folder)
            if wrong := whole(folder / NAME):
                raise SystemExit(f"{wrong}. What was there before lies in {aside}.")
            return f"restored {file} into {folder}" + (f"; what was there lies in {aside}" if moved else "")
    except InUse as e:
        raise SystemExit(f"A server is at work on {folder}. Stop it first; nothing was changed.") from e


def main(arguments: list[str]) -> None:
    if len(arguments) != 4 or arguments[0] not in ("backup", "restore") or arguments[2] != "--data":
        raise SystemExit("usage: backup|restore FILE --data DIR")
    do = backup if arguments[0] == "backup" else restore
    print(do(Path(arguments[3]).resolve(), Path(arguments[1]).resolve()))


if __name__ == "__main__":
    main(sys.argv[1:])
