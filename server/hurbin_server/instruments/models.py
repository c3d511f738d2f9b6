"""The register of instruments, their calibrations, and what each person has in hand."""

from __future__ import annotations

from django.db import models

from hurbin_server.base.models import EXACT, User
from hurbin_server.plant.models import Site


class Instrument(models.Model):
    """An instrument as it was entered; never deleted, put out of service."""

    site = models.ForeignKey(Site, on_delete=models.PROTECT, related_name="instruments")
    name = models.CharField(max_length=60, db_collation=EXACT)
    said = models.JSONField()
    since = models.DateTimeField()
    until = models.DateTimeField(null=True)
    until_because = models.CharField(max_length=200, blank=True)
    version = models.PositiveIntegerField(default=1)

    class Meta:
        constraints = [models.UniqueConstraint(fields=["site", "name"], name="instrument_once")]
        ordering = ["name"]


class Calibration(models.Model):
    """One calibration: when, until when it counts, what the instrument showed before it was set right."""

    instrument = models.ForeignKey(Instrument, on_delete=models.PROTECT, related_name="calibrations")
    done_at = models.DateTimeField()
    due_at = models.DateTimeField(null=True)
    found = models.CharField(max_length=10, blank=True, db_collation=EXACT)
    note = models.CharField(max_length=200, blank=True)
    by = models.ForeignKey(User, on_delete=models.PROTECT, related_name="+")
    at = models.DateTimeField()

    class Meta:
        constraints = [models.UniqueConstraint(fields=["instrument", "done_at"], name="calibration_once")]
        ordering = ["done_at"]


class InHand(models.Model):
    """What a person reads a dimension with on a site, until he or she takes another."""

    user = models.ForeignKey(User, on_delete=models.CASCADE, related_name="+")
    site = models.ForeignKey(Site, on_delete=models.CASCADE, related_name="+")
    reads = models.CharField(max_length=24, db_collation=EXACT)
    instrument = models.ForeignKey(Instrument, on_delete=models.CASCADE, related_name="+")

    class Meta:
        constraints = [models.UniqueConstraint(fields=["user", "site", "reads"], name="in_hand_once")]
