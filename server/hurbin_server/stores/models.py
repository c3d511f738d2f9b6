"""Vans, the shims in them by measured size, and every change of a count with its reason."""

from __future__ import annotations

from django.db import models

from hurbin_server.base.models import EXACT, User
from hurbin_server.plant.models import PumpSet, Site


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


class Part(models.Model):
    """A kind of spare: what lines of a kit it fills, what it fits, how fast it is used. Versioned: a stale
    edit shows both.
    """

    site = models.ForeignKey(Site, on_delete=models.PROTECT, related_name="parts")
    code = models.CharField(max_length=40, db_collation=EXACT)
    title = models.CharField(max_length=120)
    lines = models.JSONField(default=list)
    fits = models.JSONField(default=list)
    per_year = models.FloatField(null=True)
    lead_days = models.FloatField(null=True)
    price = models.FloatField(null=True)
    day_cost = models.FloatField(null=True)
    least = models.PositiveIntegerField(null=True)
    most = models.PositiveIntegerField(null=True)
    version = models.PositiveIntegerField(default=1)

    class Meta:
        constraints = [models.UniqueConstraint(fields=["site", "code"], name="part_code_once")]


class PartStock(models.Model):
    """How many of a part lie in one place: a shelf or a van. Old good ones count apart, for an emergency
    alone.
    """

    part = models.ForeignKey(Part, on_delete=models.CASCADE, related_name="stock")
    place = models.CharField(max_length=60, db_collation=EXACT)
    count = models.IntegerField(default=0)
    emergency = models.IntegerField(default=0)
    counted_at = models.DateTimeField(null=True)

    class Meta:
        constraints = [models.UniqueConstraint(fields=["part", "place"], name="part_place_once")]


class PartMove(models.Model):
    """One change of one count. key: what a sheet says it took, the whole figure by now; changes of one key
    add up.
    """

    part = models.ForeignKey(Part, on_delete=models.CASCADE, related_name="moves")
    place = models.CharField(max_length=60, db_collation=EXACT)
    change = models.IntegerField()
    emergency = models.BooleanField(default=False)
    why = models.CharField(max_length=160)
    sheet = models.CharField(max_length=64, blank=True, db_collation=EXACT)
    by = models.ForeignKey(User, on_delete=models.PROTECT, related_name="+")
    at = models.DateTimeField()

    class Meta:
        indexes = [models.Index(fields=["sheet"]), models.Index(fields=["part", "-at"])]


class Kit(models.Model):
    """What a site takes to one kind of job: of one set, of one kind of set, or of any. lines: code and how
    many. Versioned: a stale edit shows both.
    """

    site = models.ForeignKey(Site, on_delete=models.PROTECT, related_name="kits")
    title = models.CharField(max_length=80)
    procedure = models.CharField(max_length=40, db_collation=EXACT)
    pump_set = models.ForeignKey(PumpSet, null=True, on_delete=models.PROTECT, related_name="kits")
    kind = models.CharField(max_length=40, blank=True, db_collation=EXACT)
    lines = models.JSONField(default=list)
    version = models.PositiveIntegerField(default=1)

    class Meta:
        constraints = [
            models.UniqueConstraint(fields=["site", "procedure", "pump_set", "kind"], name="kit_once")
        ]


class PartReserved(models.Model):
    """What one open sheet holds back of a part in one place."""

    part = models.ForeignKey(Part, on_delete=models.CASCADE, related_name="reserved")
    place = models.CharField(max_length=60, db_collation=EXACT)
    sheet = models.CharField(max_length=64, db_collation=EXACT)
    count = models.PositiveIntegerField()

    class Meta:
        constraints = [models.UniqueConstraint(fields=["part", "place", "sheet"], name="part_reserved_once")]
