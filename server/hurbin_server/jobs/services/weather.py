"""A forecast brought in for a site: the newest one counts."""

from __future__ import annotations

from django.db import transaction

from hurbin_core.jobs.weather import Outlook, outlook_of
from hurbin_server.base import audit
from hurbin_server.base.clock import now
from hurbin_server.base.door import moved
from hurbin_server.base.errors import Refused
from hurbin_server.base.models import User
from hurbin_server.plant.access import site_for
from hurbin_server.plant.models import Site

from ..models import SiteWeather


def bring_weather_in(user: User, site_id: int, text: str) -> SiteWeather:
    """Keep this forecast. Refused where one made later is there (409), or it cannot be read (422)."""
    site_for(user, site_id, "technician")
    outlook = outlook_of(text)
    with transaction.atomic():
        Site.objects.select_for_update().get(pk=site_id)
        row = SiteWeather.objects.filter(site_id=site_id).first()
        if row is not None and Outlook.model_validate(row.data).made_at > outlook.made_at:
            raise Refused(409, "weather_older", "A forecast that was made later is on file.", field="file")
        told = {"data": outlook.model_dump(mode="json"), "by": user, "at": now()}
        kept, _ = SiteWeather.objects.update_or_create(site_id=site_id, defaults=told)
        audit.note(user, "forecast_brought_in", f"{outlook.made_at:%Y-%m-%d %H:%M}", site_id=site_id)
        moved("site", site_id, site_id)
    return kept
