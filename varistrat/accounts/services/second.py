"""A second sign at the door: a code that one's phone works out anew every half minute (RFC 6238), and spare ones on paper.

The secret is known to the phone and to the database; a code counts once, and a spare code once. Who guesses waits (services/sign_in.py).
"""

import hashlib
import hmac
import logging
import secrets
import time
from dataclasses import dataclass

import pyotp
from django.contrib.auth.models import User
from django.db import transaction
from django.utils import timezone

from varistrat.accounts.models import SecondSign
from varistrat.core.errors import InputError

log = logging.getLogger("varistrat.security")
STEP, EITHER_SIDE = 30, 1
"""Seconds a code lasts; codes before and after that are taken, for clocks that differ."""
SPARE, SPARE_LENGTH, GROUP = 8, 24, 4
"""Spare codes; their length in signs of five bits each (120 bits: as good as hashed plainly), written in groups."""
ALPHABET = "abcdefghijkmnpqrstuvwxyz23456789"
"""Without what is read for something else."""
ISSUER = "Varistrat"


class CodeWanted(Exception):
    """The password was right, and a code must come with it; wrong: one did."""

    def __init__(self, wrong: bool):
        super().__init__("wrong code" if wrong else "no code")
        self.wrong = wrong


@dataclass(frozen=True)
class Begun:
    """What the phone is told: the secret, as text and as an address that it reads off a picture."""

    secret: str
    address: str


def has(user: User) -> bool:
    """Whether a code is asked for at this one's sign-in."""
    return SecondSign.objects.filter(user=user, confirmed__isnull=False).exists()


@transaction.atomic
def begin(*, user: User) -> Begun:
    """A new secret, which counts for nothing until a code of it is given back. Raises InputError where there is one already."""
    if has(user):
        raise InputError.at("", "a code is asked for already", "end that first")
    secret = pyotp.random_base32()
    SecondSign.objects.update_or_create(user=user, defaults={"secret": secret, "counter": 0, "spare": []})
    return Begun(secret, pyotp.TOTP(secret, interval=STEP).provisioning_uri(name=user.get_username(), issuer_name=ISSUER))


@transaction.atomic
def confirm(*, user: User, code: str) -> list[str]:
    """From now on a code is asked for; the spare codes, told this once. Raises InputError."""
    found = SecondSign.objects.filter(user=user, confirmed=None).first()
    if found is None:
        raise InputError.at("code", "there is nothing to confirm", "begin again")
    if not _of_phone(found, code):
        raise InputError.at(
            "code", "the phone would show another one now", f"its clock must be right; the server's reads {timezone.now():%H:%M:%S} UTC"
        )
    spare = ["".join(secrets.choice(ALPHABET) for _ in range(SPARE_LENGTH)) for _ in range(SPARE)]
    found.confirmed, found.spare = timezone.now(), [_digest(s) for s in spare]
    found.save()
    log.info("user %s asks for a code at sign-in from now on", user.pk)
    return ["-".join(s[i : i + GROUP] for i in range(0, SPARE_LENGTH, GROUP)) for s in spare]


@transaction.atomic
def passes(*, user: User, code: str) -> bool:
    """Whether a code, or a spare one, is right; it counts no more afterwards."""
    found = SecondSign.objects.filter(user=user, confirmed__isnull=False).first()
    if found is None:
        return True
    if _of_phone(found, code):
        found.save(update_fields=["counter"])
        return True
    digest = _digest(code)
    if digest not in found.spare:
        return False
    found.spare.remove(digest)
    found.save(update_fields=["spare"])
    log.info("user %s signed in with a spare code, %d left", user.pk, len(found.spare))
    return True


@transaction.atomic
def end(*, user: User) -> None:
    """No code is asked for any more."""
    if SecondSign.objects.filter(user=user).delete()[0]:
        log.info("user %s asks for no code at sign-in any more", user.pk)


def spare_left(user: User) -> int | None:
    """Spare codes that still count; None where no code is asked for."""
    found = SecondSign.objects.filter(user=user, confirmed__isnull=False).first()
    return len(found.spare) if found else None


def _of_phone(found: SecondSign, code: str) -> bool:
    """Whether it is one of these half minutes' that did not count yet; which it is, is noted in `counter`."""
    said = "".join(code.split())
    codes, now = pyotp.TOTP(found.secret, interval=STEP), int(time.time() // STEP)
    for counter in range(now - EITHER_SIDE, now + EITHER_SIDE + 1):
        # a code seen over a shoulder is worth nothing: neither it nor one before it counts again
        if counter > found.counter and hmac.compare_digest(codes.generate_otp(counter).encode(), said.encode("utf-8", "replace")):
            found.counter = counter
            return True
    return False


def _digest(spare: str) -> str:
    bare = "".join(c for c in spare.lower() if c.isalnum())
    return hashlib.sha256(bare.encode("utf-8", "replace")).hexdigest()
