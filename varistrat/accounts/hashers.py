"""Argon2 with a bounded cost: 19 MiB and two passes (OWASP's least for Argon2id), so that many tries at once do not fill the memory."""

from django.contrib.auth.hashers import Argon2PasswordHasher


class BoundedArgon2(Argon2PasswordHasher):
    memory_cost = 19_456
    time_cost = 2
    parallelism = 1
