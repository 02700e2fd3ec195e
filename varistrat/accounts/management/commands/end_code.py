"""For whom has lost the phone and the paper: no code is asked for at this one's sign-in any more. By who runs the server."""

from argparse import ArgumentParser
from typing import Any

from django.contrib.auth.models import User
from django.core.management.base import BaseCommand, CommandError

from varistrat.accounts.services import second


class Command(BaseCommand):
    help = "End the sign-in code of a person who has lost the phone and the spare codes."

    def add_arguments(self, parser: ArgumentParser) -> None:
        parser.add_argument("name", help="as they sign in")

    def handle(self, *args: Any, **options: Any) -> None:
        user = User.objects.filter(username__iexact=options["name"]).first()
        if user is None:
            raise CommandError(f"there is nobody called {options['name'][:60]!r} here; use the name they sign in with")
        if not second.has(user):
            raise CommandError(f"no code is asked for when {user.username} signs in")
        second.end(user=user)
        self.stdout.write(f"{user.username} signs in with the password alone now, and should set a code up again.")
