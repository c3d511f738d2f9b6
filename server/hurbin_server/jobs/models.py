"""How a set's isolation stood from when on, and the procedures of a site in their versions."""

from __future__ import annotations

from django.db import models

from hurbin_server.base.models import EXACT, User
from hurbin_server.plant.models import PumpSet, Site


class IsolationMoment(models.Model):
    """The isolation of a set as it stood from then on. Written with the entry that changed it: a hold point
    is met by how it stood when it was confirmed.
    """

    pump_set = models.ForeignKey(PumpSet, on_delete=models.CASCADE, related_name="isolation_moments")
    at = models.DateTimeField()
    state = models.CharField(max_length=14, db_collation=EXACT)
    scopes = models.JSONField(default=list)

    class Meta:
        indexes = [models.Index(fields=["pump_set", "at"])]


class SiteWeather(models.Model):
    """The newest forecast of a site, as its file had it."""

    site = models.OneToOneField(Site, on_delete=models.CASCADE, related_name="weather")
    data = models.JSONField()
    by = models.ForeignKey(User, on_delete=models.PROTECT, related_name="+")
    at = models.DateTimeField()


class SiteProcedure(models.Model):
    """One version of a procedure as this site has it. Append-only: a job goes on with the version it was
    opened with.
    """

    site = models.ForeignKey(Site, on_delete=models.PROTECT, related_name="procedures")
    code = models.CharField(max_length=40, db_collation=EXACT)
    version = models.PositiveIntegerField()
    data = models.JSONField()
    reason = models.CharField(max_length=300)
    by = models.ForeignKey(User, on_delete=models.PROTECT, related_name="+")
    at = models.DateTimeField()

    class Meta:
        constraints = [
            models.UniqueConstraint(fields=["site", "code", "version"], name="procedure_version_once")
        ]
        indexes = [models.Index(fields=["site", "code"])]
