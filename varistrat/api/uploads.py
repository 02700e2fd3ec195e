"""Files from outside: the one place where they are taken in. How large one may be, and what the shop's own virus scanner says of it.

A scanner is a command (VARISTRAT_SCANNER) that is given the file on its standard input and ends with 0 for a clean one, 1 for one that is
not; anything else means that it could not look. None: what comes in is only ever read apart and written anew (docs/security.md).
"""

import logging
import subprocess

from django.conf import settings
from ninja.files import UploadedFile

from varistrat.api.errors import Refused
from varistrat.core.errors import InputError

log = logging.getLogger("varistrat.security")
PATIENCE = 60.0
"""Seconds a scanner may look at one file."""
CLEAN, FOUND = 0, 1


def content(file: UploadedFile, most: int, cure: str) -> bytes:
    """What is in it, once it may come in. Raises InputError for more than `most` bytes (cure: what to do then) or where something is found
    in it; Refused where the scanner cannot look."""
    if (file.size or 0) > most:
        raise InputError.at("file", f"it has more than {most / 1e6:g} MB", cure)
    data = bytes(file.read())
    if settings.SCANNER:
        _scan(data)
    return data


def _scan(data: bytes) -> None:
    try:
        said = subprocess.run(settings.SCANNER, input=data, capture_output=True, timeout=PATIENCE, check=False).returncode
    except (OSError, subprocess.TimeoutExpired) as e:
        log.error("the virus scanner does not answer: %s", e)
        said = -1
    if said == FOUND:
        log.warning("a file was refused by the virus scanner")
        raise InputError.at("file", "the virus scanner found something in it", "look after the machine it comes from")
    if said != CLEAN:
        raise Refused(503, "no_scanner", "The virus scanner does not answer, and without it no file is taken in. Try again later.")
