"""`manage.py loaddemo`: the demo shop, once."""

from typing import Any

from django.conf import settings
from django.core.management.base import BaseCommand, CommandError

from varistrat.demo.people import shop_in_use


class Command(BaseCommand):
    help = "Load the demo shop, if it is not there yet."

    def handle(self, *args: Any, **options: Any) -> None:
        if not (settings.DEMO or settings.MODE == "test"):
            raise CommandError("This is a real shop; the demo is only loaded with VARISTRAT_MODE=demo.")
        made = 0
        if not shop_in_use():
            # the designs are fetched only when they are wanted
            from varistrat.demo.shop import load_demo

            made = load_demo()
        self.stdout.write(f"{made} demo designs made." if made else "This shop is in use: left as it is.")
