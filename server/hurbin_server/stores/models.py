"""Vans, the shims in them by measured size, and every change of a count with its reason."""

from __future__ import annotations

from django.db import models

from hurbin_server.base.models import EXACT, User
from hurbin_server.plant.models import Site


class Van(models.Model):
    """A van, or a drawer that is used like one."""

    site = models.ForeignKey(Site, on_delete=models.PROTECT, related_name="vans")
    name = models.CharField(max_length=60, db_collation=EXACT)

    class Meta:
        constraints = [models.UniqueConstraint(fields=["site", "name"], name="van_once")]


class ShimLot(models.Model):
    """Shims of one measured thickness in one van. A count below zero: more was taken than was counted."""

    van = models.ForeignKey(Van, on_delete=models.CASCADE, related_name="lots")
    tenths = models.PositiveIntegerField()
    count = models.IntegerField(default=0)
    least = models.PositiveIntegerField(default=0)

    class Meta:
        constraints = [
            models.UniqueConstraint(fields=["van", "tenths"], name="lot_once"),
            models.CheckConstraint(condition=models.Q(tenths__gt=0), name="lot_has_thickness"),
        ]


class ShimMove(models.Model):
    """One change of one count: why, by whom, and by which entry of a sheet where a job did it."""

    van = models.ForeignKey(Van, on_delete=models.CASCADE, related_name="moves")
    tenths = models.PositiveIntegerField()
    change = models.IntegerField()
    why = models.CharField(max_length=120)
    entry = models.CharField(max_length=64, blank=True, db_collation=EXACT)
    by = models.ForeignKey(User, on_delete=models.PROTECT, related_name="+")
    at = models.DateTimeField()

    class Meta:
        indexes = [models.Index(fields=["entry"]), models.Index(fields=["van", "-at"])]
