"""Isolation lists, how a set stands, calls and their matters, temporary changes, repairs put off,
check-backs, gates set aside, pictures.
"""

from __future__ import annotations

from django.db import models
from django.db.models import Q

from hurbin_server.base.models import EXACT, User
from hurbin_server.plant.models import PumpSet, Service, Site


class IsolationList(models.Model):
    """Every source of a set, kept once. Edited whole, with a version; what it was before stands in the
    trail.
    """

    pump_set = models.OneToOneField(PumpSet, on_delete=models.PROTECT, related_name="isolation_list")
    lines = models.JSONField(default=list)
    version = models.PositiveIntegerField(default=1)
    by = models.ForeignKey(User, on_delete=models.PROTECT, related_name="+")
    at = models.DateTimeField()


class IsolationState(models.Model):
    """How a set stands now, folded from its open sheet in the transaction of every entry. Can be rebuilt;
    Plant reads it.
    """

    pump_set = models.OneToOneField(PumpSet, on_delete=models.CASCADE, related_name="isolation_state")
    state = models.CharField(max_length=14, db_collation=EXACT)
    sheet = models.CharField(max_length=64, db_collation=EXACT)
    since = models.DateTimeField()
    scopes = models.JSONField(default=list)
    workers = models.JSONField(default=list)
    says = models.CharField(max_length=300, blank=True)
    proved_at = models.DateTimeField(null=True)


class Picture(models.Model):
    """A picture as it is kept: re-encoded, without where and by which camera it was taken."""

    uuid = models.CharField(max_length=64, primary_key=True, db_collation=EXACT)
    site = models.ForeignKey(Site, on_delete=models.PROTECT, related_name="+")
    content = models.BinaryField()
    width = models.PositiveIntegerField()
    height = models.PositiveIntegerField()
    by = models.ForeignKey(User, on_delete=models.PROTECT, related_name="+")
    at = models.DateTimeField()


class Matter(models.Model):
    """Something that was called in: one for all the calls on one set (or service, or room) until it is
    ended.
    """

    site = models.ForeignKey(Site, on_delete=models.PROTECT, related_name="matters")
    pump_set = models.ForeignKey(PumpSet, null=True, on_delete=models.PROTECT, related_name="matters")
    service = models.ForeignKey(Service, null=True, on_delete=models.PROTECT, related_name="+")
    room = models.CharField(max_length=120, blank=True)
    opened_at = models.DateTimeField()
    ended_at = models.DateTimeField(null=True)
    ended_by = models.ForeignKey(User, null=True, on_delete=models.PROTECT, related_name="+")
    found = models.CharField(max_length=500, blank=True)
    done = models.CharField(max_length=500, blank=True)

    class Meta:
        constraints = [
            models.CheckConstraint(
                condition=Q(pump_set__isnull=False) | Q(service__isnull=False) | ~Q(room=""),
                name="matter_somewhere",
            )
        ]
        indexes = [models.Index(fields=["site", "ended_at"])]


class Call(models.Model):
    uuid = models.CharField(max_length=64, primary_key=True, db_collation=EXACT)
    matter = models.ForeignKey(Matter, on_delete=models.PROTECT, related_name="calls")
    complaint = models.CharField(max_length=20, db_collation=EXACT)
    note = models.CharField(max_length=500, blank=True)
    picture = models.ForeignKey(Picture, null=True, on_delete=models.PROTECT, related_name="+")
    by = models.ForeignKey(User, on_delete=models.PROTECT, related_name="+")
    at = models.DateTimeField()


class TemporaryChange(models.Model):
    """Put on, and one day off again: by whom, where, and what it looked like."""

    uuid = models.CharField(max_length=64, primary_key=True, db_collation=EXACT)
    pump_set = models.ForeignKey(PumpSet, on_delete=models.PROTECT, related_name="changes")
    kind = models.CharField(max_length=20, db_collation=EXACT)
    place = models.CharField(max_length=120)
    note = models.CharField(max_length=300, blank=True)
    # The sheet whose step made it; empty: somebody put it on by hand.
    sheet = models.CharField(max_length=64, blank=True, default="", db_collation=EXACT)
    picture = models.ForeignKey(Picture, null=True, on_delete=models.PROTECT, related_name="+")
    put_at = models.DateTimeField()
    put_by = models.ForeignKey(User, on_delete=models.PROTECT, related_name="+")
    off_at = models.DateTimeField(null=True)
    off_by = models.ForeignKey(User, null=True, on_delete=models.PROTECT, related_name="+")
    off_note = models.CharField(max_length=300, blank=True)

    class Meta:
        indexes = [models.Index(fields=["pump_set", "off_at"])]


class Deferral(models.Model):
    """A repair put off: a decision, with the figures it is held to."""

    uuid = models.CharField(max_length=64, primary_key=True, db_collation=EXACT)
    pump_set = models.ForeignKey(PumpSet, on_delete=models.PROTECT, related_name="deferrals")
    part = models.CharField(max_length=20, db_collation=EXACT)
    what = models.CharField(max_length=160)
    reason = models.CharField(max_length=300)
    until = models.DateTimeField()
    standby = models.CharField(max_length=200)
    changes_mind = models.CharField(max_length=300)
    limits = models.JSONField(default=list)
    by = models.ForeignKey(User, on_delete=models.PROTECT, related_name="+")
    at = models.DateTimeField()
    ended_at = models.DateTimeField(null=True)
    ended_by = models.ForeignKey(User, null=True, on_delete=models.PROTECT, related_name="+")
    ended_because = models.CharField(max_length=300, blank=True)

    class Meta:
        indexes = [models.Index(fields=["pump_set", "ended_at"])]


class CheckBack(models.Model):
    """A set that was given back is looked at again; it stays on Plant until somebody has. key: which of the
    looks that one sheet asks for. waited: it is waited for while the sheet is open.
    """

    pump_set = models.ForeignKey(PumpSet, on_delete=models.PROTECT, related_name="check_backs")
    sheet = models.CharField(max_length=64, db_collation=EXACT)
    key = models.CharField(max_length=40, default="check_back", db_collation=EXACT)
    at = models.DateTimeField()
    due = models.DateTimeField()
    why = models.CharField(max_length=200)
    read_at = models.DateTimeField(null=True)
    read_by = models.ForeignKey(User, null=True, on_delete=models.PROTECT, related_name="+")
    said = models.CharField(max_length=300, blank=True)
    waited = models.BooleanField(default=False)

    class Meta:
        indexes = [models.Index(fields=["pump_set", "read_at"])]
        constraints = [models.UniqueConstraint(fields=["sheet", "key"], name="check_back_once")]


class GateWaiver(models.Model):
    """One gate set aside on one set by a lead, for good on the record."""

    pump_set = models.ForeignKey(PumpSet, on_delete=models.PROTECT, related_name="waivers")
    gate = models.CharField(max_length=30, db_collation=EXACT)
    reason = models.CharField(max_length=300)
    by = models.ForeignKey(User, on_delete=models.PROTECT, related_name="+")
    at = models.DateTimeField()
    until = models.DateTimeField()


class TrialRun(models.Model):
    """One watched run that a lead released into stops whose repair is on record; used up by the record that
    answers them.
    """

    uuid = models.CharField(max_length=64, primary_key=True, db_collation=EXACT)
    pump_set = models.ForeignKey(PumpSet, on_delete=models.PROTECT, related_name="trials")
    questions = models.JSONField()
    limits = models.CharField(max_length=300)
    minutes = models.PositiveSmallIntegerField()
    by = models.ForeignKey(User, on_delete=models.PROTECT, related_name="+")
    at = models.DateTimeField()
    until = models.DateTimeField()
    used_by = models.ForeignKey("logbook.Record", null=True, on_delete=models.PROTECT, related_name="+")

    class Meta:
        indexes = [models.Index(fields=["pump_set", "until"])]


class Qualification(models.Model):
    """What a person is qualified for on a site, until when. Never deleted; withdrawn by a lead."""

    user = models.ForeignKey(User, on_delete=models.PROTECT, related_name="+")
    site = models.ForeignKey(Site, on_delete=models.PROTECT, related_name="qualifications")
    kind = models.CharField(max_length=30, db_collation=EXACT)
    number = models.CharField(max_length=60, blank=True)
    since = models.DateTimeField()
    until = models.DateTimeField()
    ended = models.DateTimeField(null=True)
    ended_by = models.ForeignKey(User, null=True, on_delete=models.PROTECT, related_name="+")
    ended_because = models.CharField(max_length=200, blank=True)
    by = models.ForeignKey(User, on_delete=models.PROTECT, related_name="+")
    at = models.DateTimeField()

    class Meta:
        indexes = [models.Index(fields=["user", "site"])]
