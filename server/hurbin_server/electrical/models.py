"""The circuit of each set, as it was described from one change to the next."""

from __future__ import annotations

from django.db import models

from hurbin_server.base.models import User
from hurbin_server.plant.models import PumpSet


class CircuitVersion(models.Model):
    """The circuit of a set from this change on. Append-only: what was read before was read of another."""

    pump_set = models.ForeignKey(PumpSet, on_delete=models.PROTECT, related_name="circuits")
    version = models.PositiveIntegerField()
    circuit = models.JSONField()
    by = models.ForeignKey(User, on_delete=models.PROTECT, related_name="+")
    at = models.DateTimeField()

    class Meta:
        constraints = [models.UniqueConstraint(fields=["pump_set", "version"], name="circuit_version_once")]
        indexes = [models.Index(fields=["pump_set", "-version"])]


class DriveAddress(models.Model):
    """Where a set's drive answers on the plant's own network. Entered by an admin, read by the worker."""

    pump_set = models.OneToOneField(PumpSet, on_delete=models.CASCADE, related_name="drive_address")
    host = models.GenericIPAddressField()
    port = models.PositiveIntegerField()
    unit = models.PositiveSmallIntegerField()
    family = models.CharField(max_length=40)
    by = models.ForeignKey(User, on_delete=models.PROTECT, related_name="+")
    at = models.DateTimeField()


class DriveReading(models.Model):
    """One time that a drive was asked for its settings: what it answered, or why not."""

    pump_set = models.ForeignKey(PumpSet, on_delete=models.CASCADE, related_name="drive_readings")
    family = models.CharField(max_length=40)
    by = models.ForeignKey(User, on_delete=models.PROTECT, related_name="+")
    at = models.DateTimeField()
    done_at = models.DateTimeField(null=True)
    failed = models.CharField(max_length=300, blank=True)
    code = models.CharField(max_length=40, blank=True)
    settings = models.JSONField(default=dict)
    problems = models.JSONField(default=list)

    class Meta:
        indexes = [models.Index(fields=["pump_set", "-at"])]
