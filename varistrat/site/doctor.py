"""`./run doctor`: what is wrong with an installation, in a smith's words, and what to do. Standard library only: it works when nothing
else does, and changes nothing.

    python -m varistrat.site.doctor --data DIR

Ends with 0 when all is well, 1 where something wants looking after, 2 where the shop cannot work.
"""

import json
import os
import shutil
import sqlite3
import sys
import tempfile
import time
from collections.abc import Callable, Iterator
from contextlib import closing, suppress
from dataclasses import dataclass
from datetime import UTC, datetime
from pathlib import Path
from typing import Literal

from varistrat.site.keeping import BESIDE, LAST_BACKUP, NAME, PHOTOS, InUse, at_work, whole

ROOT = Path(__file__).resolve().parents[2]
MB = 1_000_000
LITTLE, NONE_LEFT = 1000 * MB, 100 * MB
"""Bytes free from which it is said that they run out, and that nothing can be kept."""
LONG_LOG = 200 * MB
"""Of the write-ahead log: nobody tidied it up for long."""
OLD_BACKUP = 7.0
"""Days."""
HANGS, WAITS = 180.0, 600.0
"""Seconds without a word of a job that runs, and of waiting for a worker."""
AHEAD = 300.0
"""Seconds that what is written may lie in the future of the clock."""
FIRST_YEAR = 2026
LOCKED = 10.0
"""Seconds that a writer may wait."""
Grade = Literal["well", "care", "stop"]
MARKS: dict[Grade, str] = {"well": "ok  ", "care": "care", "stop": "STOP"}


@dataclass(frozen=True)
class Word:
    """grade; says: what is so; do: what helps, empty where nothing need be done."""

    grade: Grade
    says: str
    do: str = ""


def _folder(folder: Path) -> Iterator[Word]:
    if not folder.is_dir():
        yield Word("stop", f"There is no folder {folder}.", "Name the shop's own: ./run doctor --data DIR")
        return
    try:
        with tempfile.NamedTemporaryFile(dir=folder, prefix=".doctor-"):
            pass
    except OSError as e:
        yield Word(
            "stop",
            f"Nothing can be written into {folder} ({e.strerror}): nothing that is done can be kept.",
            "Give this user the right to write there; a disk that went read-only wants checking (dmesg says why).",
        )
    open_to = [p.name for p in (folder, folder / NAME, folder / "secret-key") if p.exists() and p.stat().st_mode & 0o077]
    if open_to:
        yield Word("care", f"Others on this machine can read {', '.join(open_to)}.", f"chmod -R go-rwx {folder}")


def _space(folder: Path) -> Iterator[Word]:
    free = shutil.disk_usage(folder).free
    if free < NONE_LEFT:
        yield Word("stop", f"The disk is full: {free / MB:.0f} MB are free.", "Make room; old backups and pictures/ may go.")
    elif free < LITTLE:
        yield Word(
            "care", f"The disk fills up: {free / MB:.0f} MB are free, some {free // (4 * MB)} photos.", "Make room before it is full."
        )
    else:
        yield Word("well", f"{free / 1e9:.1f} GB are free.")


def _wrong(folder: Path) -> str:
    """What is wrong with the database; with its log, as it would be opened: in a copy of both, so that what is there is not touched."""
    if not (folder / f"{NAME}-wal").exists():
        return whole(folder / NAME)
    with tempfile.TemporaryDirectory() as apart:
        for name in (NAME + b for b in BESIDE):
            if (folder / name).exists():
                shutil.copyfile(folder / name, Path(apart) / name)
        with suppress(sqlite3.Error), closing(sqlite3.connect(Path(apart) / NAME)) as c:
            c.execute("PRAGMA wal_checkpoint(TRUNCATE)")
        return whole(Path(apart) / NAME).replace(apart, str(folder))


def _database(folder: Path) -> Iterator[Word]:
    file = folder / NAME
    if not file.exists():
        yield Word("stop", "There is no database here.", "A new shop: ./run serve makes it. An old one: ./run restore FILE")
        return
    wrong = _wrong(folder)
    if wrong:
        yield Word(
            "stop",
            f"The database is broken: {wrong}.",
            "Stop the server, put the last backup back: ./run restore FILE. What is there is kept aside.",
        )
        return
    yield Word("well", f"The database is sound, {file.stat().st_size / MB:.0f} MB.")
    log = folder / f"{NAME}-wal"
    if log.exists() and log.stat().st_size > LONG_LOG:
        yield Word("care", f"Its log has grown to {log.stat().st_size / MB:.0f} MB.", "Stop the server and start it again.")


def _reader(folder: Path) -> sqlite3.Connection:
    # without a log beside it nobody is writing: then not even that is made
    how = "mode=ro" if (folder / f"{NAME}-wal").exists() else "mode=ro&immutable=1"
    return sqlite3.connect(f"file:{folder / NAME}?{how}", uri=True, timeout=2.0)


def _version(folder: Path) -> Iterator[Word]:
    with closing(_reader(folder)) as c:
        done = {(a, n) for a, n in c.execute("SELECT app, name FROM django_migrations")}
    here = {(p.parents[1].name, p.stem) for p in (ROOT / "varistrat").glob("*/migrations/[0-9]*.py")}
    ours = {app for app, _ in here}
    unknown = sorted(f"{a} {n}" for a, n in done if a in ours and (a, n) not in here)
    if unknown:
        yield Word(
            "stop", f"The database is of a newer Varistrat than this one ({unknown[0]}).", "Use the newer one; this one would spoil it."
        )
    elif missing := len(here - done):
        yield Word("well", f"It is of an older Varistrat: {missing} steps are made when the server starts. Back up first.")


def _photos(folder: Path) -> Iterator[Word]:
    with closing(_reader(folder)) as c:
        rows = [
            folder / PHOTOS / str(shop) / str(build) / f"{uid}.jpg"
            for shop, build, uid in c.execute(
                "SELECT b.shop_id, p.build_id, p.uid FROM builds_photo p JOIN builds_build b ON b.id = p.build_id"
            )
        ]
    gone = [p for p in rows if not p.is_file()]
    if gone:
        yield Word("care", f"{len(gone)} of {len(rows)} photos are not where they belong.", "A backup with photos brings them back.")


def _backup(folder: Path) -> Iterator[Word]:
    try:
        told = json.loads((folder / LAST_BACKUP).read_text("utf-8"))
        when, file = datetime.fromisoformat(told["at"]), Path(told["file"])
    except (OSError, ValueError, KeyError, TypeError):
        yield Word("care", "No backup was ever made of this shop.", "./run backup FILE, onto another disk, every week at least.")
        return
    days = (datetime.now(UTC) - when).total_seconds() / 86400
    if days > OLD_BACKUP:
        yield Word("care", f"The last backup is {days:.0f} days old.", "./run backup FILE")
    elif not file.exists():
        yield Word("care", f"The last backup, {file}, is no longer there.", "./run backup FILE, and leave it where it is.")
    elif file.stat().st_dev == folder.stat().st_dev:
        yield Word("care", f"The last backup lies on the same disk ({file}): it goes when the disk goes.", "Copy it onto another.")
    else:
        yield Word("well", f"The last backup is {days:.0f} days old: {file}.")


def _work(folder: Path) -> Iterator[Word]:
    try:
        with at_work(folder):
            yield Word("well", "No server is at work on this folder.")
            return
    except InUse:
        pass
    try:
        with closing(sqlite3.connect(folder / NAME, timeout=LOCKED, isolation_level=None)) as c:
            c.execute("BEGIN IMMEDIATE")
            c.execute("ROLLBACK")
    except sqlite3.OperationalError as e:
        yield Word(
            "stop",
            f"A server is at work, but nobody can write: {e} for {LOCKED:.0f} s.",
            "Another program holds the database: close it, or stop the server and start it again.",
        )
        return
    now = datetime.now(UTC)

    def since(text: str) -> float:
        return (now - datetime.fromisoformat(text).replace(tzinfo=UTC)).total_seconds()

    with closing(_reader(folder)) as c:
        running = [since(h) for (h,) in c.execute("SELECT heartbeat FROM jobs_job WHERE state = 'running' AND heartbeat IS NOT NULL")]
        waiting = [since(o) for (o,) in c.execute("SELECT ordered FROM jobs_job WHERE state = 'waiting'")]
    if any(s > HANGS for s in running) or any(s > WAITS for s in waiting):
        log = next(iter(sorted(folder.glob("worker-*.log"), key=lambda p: -p.stat().st_mtime)), None)
        yield Word(
            "stop",
            "The worker is down: prints and sheets wait, and nobody makes them.",
            f"Stop the server and start it again{f'; {log} says why' if log else ''}.",
        )
    else:
        yield Word("well", "A server is at work, and its workers with it.")


def _clock(folder: Path) -> Iterator[Word]:
    now = time.time()
    if datetime.fromtimestamp(now, UTC).year < FIRST_YEAR:
        yield Word("stop", f"The clock says it is {datetime.fromtimestamp(now, UTC):%d %B %Y}.", "Set it: timers and the log go by it.")
        return
    newest = []
    with closing(_reader(folder)) as c:
        for table, column in (("designs_revision", "created"), ("builds_record", "came"), ("jobs_job", "ordered")):
            (text,) = c.execute(f"SELECT max({column}) FROM {table}").fetchone()
            if text:
                newest.append(datetime.fromisoformat(text).replace(tzinfo=UTC).timestamp())
    ahead = max(newest, default=now) - now
    if ahead > AHEAD:
        much = f"{ahead / 3600:.1f} hours" if ahead < 2 * 86400 else f"{ahead / 86400:.0f} days"
        yield Word(
            "care", f"The clock was set back: what was kept last lies {much} ahead.", "Set it right, or wait until it has caught up."
        )


def _pages(_: Path) -> Iterator[Word]:
    if not (ROOT / "web" / "dist" / ".ready").exists():
        yield Word("stop", "The pages were never built.", "./run setup")
    if not (ROOT / ".venv" / ".ready").exists():
        yield Word("stop", "The Python packages are not installed.", "./run setup")


def _scanner(_: Path) -> Iterator[Word]:
    # only the command's own name: the server does not start with a quote too few
    said = os.environ.get("VARISTRAT_SCANNER", "").replace("'", " ").replace('"', " ").split()
    if said and shutil.which(said[0]) is None:
        yield Word(
            "care",
            f"There is no virus scanner {said[0][:60]!r}: nothing is taken in.",
            "Install it, or correct VARISTRAT_SCANNER.",
        )


CHECKS: tuple[Callable[[Path], Iterator[Word]], ...] = (
    _folder, _space, _database, _version, _photos, _backup, _work, _clock, _pages, _scanner,
)  # fmt: skip


def looked_at(folder: Path) -> list[Word]:
    """Everything there is to say. A check that cannot be made, because of what another found, says nothing twice."""
    out: list[Word] = []
    for check in CHECKS:
        try:
            out += check(folder)
        except (OSError, sqlite3.Error) as e:
            if not any(w.grade == "stop" for w in out):
                out.append(
                    Word("stop", f"{check.__name__.strip('_').capitalize()} could not be looked at: {e}.", "Look at the disk first.")
                )
        if check is _folder and not folder.is_dir():
            break
    return out


def told(words: list[Word]) -> str:
    """For a terminal, what is worst last."""
    lines = []
    for w in sorted(words, key=lambda w: list(MARKS).index(w.grade)):
        lines += [f"{MARKS[w.grade]}  {w.says}"] + ([f"      {w.do}"] if w.do else [])
    return "\n".join(lines)


def main(arguments: list[str]) -> int:
    if len(arguments) != 2 or arguments[0] != "--data":
        raise SystemExit("usage: --data DIR")
    words = looked_at(Path(arguments[1]).resolve())
    print(told(words))
    return max(list(MARKS).index(w.grade) for w in words)


if __name__ == "__main__":
    os.umask(0o077)
    sys.exit(main(sys.argv[1:]))
