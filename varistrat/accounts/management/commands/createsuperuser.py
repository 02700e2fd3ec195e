"""Django's own, but a password from the environment (--noinput) has to be as good as one that is typed."""

import os
from typing import Any

from django.contrib.auth.management.commands import createsuperuser
from django.contrib.auth.models import User
from django.contrib.auth.password_validation import validate_password
from django.core.exceptions import ValidationError
from django.core.management.base import CommandError


class Command(createsuperuser.Command):
    def handle(self, *args: Any, **options: Any) -> Any:
        password = os.environ.get("DJANGO_SUPERUSER_PASSWORD")
        if not options["interactive"] and password is not None:
            name = options.get("username") or os.environ.get("DJANGO_SUPERUSER_USERNAME", "")
            try:
                validate_password(password, User(username=name))
            except ValidationError as e:
                raise CommandError(" ".join(e.messages)) from e
        return super().handle(*args, **options)
