"""Write the API's description, the same bytes for the same API."""

import json
from typing import Any

from django.core.management.base import BaseCommand
from django.utils.module_loading import import_string


class Command(BaseCommand):
    help = "Print the OpenAPI description."
    requires_system_checks: list[str] = []

    def handle(self, *args: Any, **options: Any) -> None:
        api = import_string("hurbin_server.api.api")
        self.stdout.write(
            json.dumps(
                api.get_openapi_schema(path_prefix="/api/v1/"), indent=1, sort_keys=True, ensure_ascii=False
            )
        )
