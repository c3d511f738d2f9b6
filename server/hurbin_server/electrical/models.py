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
