from __future__ import annotations

import json
from typing import Any

from django.core.management.base import BaseCommand, CommandParser


class Command(BaseCommand):
    help = "Writes the API's description, from which the front end's client is made."

    def add_arguments(self, parser: CommandParser) -> None:
        parser.add_argument("path")

    def handle(self, *args: Any, **options: Any) -> None:
        from shop.api import api

        with open(options["path"], "w") as file:
            json.dump(api.get_openapi_schema(path_prefix="/api/"), file, indent=1, sort_keys=True)
