"""Prints the OpenAPI document of the API."""

import json

from django.core.management.base import BaseCommand

from config.api import api


class Command(BaseCommand):
    """Print the OpenAPI document."""

    help = __doc__

    def handle(self, *args: object, **options: object) -> None:
        schema = api.get_openapi_schema(path_prefix="/api/")
        self.stdout.write(json.dumps(schema, indent=1, sort_keys=True))
