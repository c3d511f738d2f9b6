"""The closed loops of a site: things of their own, with the sets that move their water."""

from __future__ import annotations

from django.db import models

from hurbin_server.base.models import User
from hurbin_server.plant.models import PumpSet, Site


class Loop(models.Model):
    """One loop. Its plate is that of its newest version."""

    site = models.ForeignKey(Site, on_delete=models.CASCADE, related_name="loops")
    name = models.CharField(max_length=60)
    version = models.PositiveIntegerField(default=0)

    class Meta:
        constraints = [models.UniqueConstraint(fields=["site", "name"], name="loop_name_once")]


class LoopVersion(models.Model):
    """A loop's plate from this change on. Append-only: what was read before was read of another."""

    loop = models.ForeignKey(Loop, on_delete=models.CASCADE, related_name="versions")
    version = models.PositiveIntegerField()
    plate = models.JSONField()
    by = models.ForeignKey(User, on_delete=models.PROTECT, related_name="+")
    at = models.DateTimeField()

    class Meta:
        constraints = [models.UniqueConstraint(fields=["loop", "version"], name="loop_version_once")]


class LoopMember(models.Model):
    """A set is on one loop at most."""

    loop = models.ForeignKey(Loop, on_delete=models.CASCADE, related_name="members")
    pump_set = models.OneToOneField(PumpSet, on_delete=models.CASCADE, related_name="on_loop")
