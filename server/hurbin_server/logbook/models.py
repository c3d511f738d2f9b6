"""Sheets, entries, records, judgements and what hangs on them. One set of tables for every bench."""

from __future__ import annotations

import json
import zlib
from typing import Any

from django.db import models

from hurbin_server.base.models import EXACT, User
from hurbin_server.plant.models import Component, PumpSet, Site


class Sheet(models.Model):
    """Work in progress on one set: append-only entries. Closing it makes the record."""

    uuid = models.CharField(max_length=64, primary_key=True, db_collation=EXACT)
    pump_set = models.ForeignKey(PumpSet, on_delete=models.PROTECT, related_name="sheets")
    bench = models.CharField(max_length=40, db_collation=EXACT)
    opened_by = models.ForeignKey(User, on_delete=models.PROTECT, related_name="+")
    opened_at = models.DateTimeField()
    closed_at = models.DateTimeField(null=True)
    closed_by = models.ForeignKey(User, null=True, on_delete=models.PROTECT, related_name="+")
    left_because = models.CharField(max_length=300, blank=True)

    class Meta:
        indexes = [models.Index(fields=["pump_set", "bench", "closed_at"])]


class Entry(models.Model):
    uuid = models.CharField(max_length=64, primary_key=True, db_collation=EXACT)
    sheet = models.ForeignKey(Sheet, on_delete=models.PROTECT, related_name="entries")
    by = models.ForeignKey(User, on_delete=models.PROTECT, related_name="+")
    device = models.CharField(max_length=64, blank=True)
    # Set right by what the device measured its clock to be off; what its own clock said stands beside it.
    taken_at = models.DateTimeField()
    device_at = models.DateTimeField(null=True)
    clock_off_ms = models.BigIntegerField(null=True)
    received_at = models.DateTimeField()
    late = models.BooleanField(default=False)
    # What read it, by dimension: the number of the instrument in the register.
    instruments = models.JSONField(default=dict)
    body = models.JSONField()


class Record(models.Model):
    """Facts only. A correction is a new record that supersedes; the old one stays readable."""

    sheet = models.OneToOneField(Sheet, on_delete=models.PROTECT, related_name="record")
    pump_set = models.ForeignKey(PumpSet, on_delete=models.PROTECT, related_name="records")
    bench = models.CharField(max_length=40, db_collation=EXACT)
    taken_at = models.DateTimeField()
    by = models.ForeignKey(User, on_delete=models.PROTECT, related_name="+")
    saved_at = models.DateTimeField()
    body = models.JSONField()
    conditions = models.CharField(max_length=200, db_collation=EXACT, blank=True)
    motor = models.ForeignKey(Component, null=True, on_delete=models.PROTECT, related_name="+")
    supersedes = models.OneToOneField(
        "self", null=True, on_delete=models.PROTECT, related_name="superseded_by"
    )
    reason = models.CharField(max_length=300, blank=True)
    # What its facts hold as a note, to be found again.
    note = models.CharField(max_length=500, blank=True, default="")
    live = models.BooleanField(default=True)

    class Meta:
        indexes = [
            models.Index(fields=["pump_set", "bench", "live", "taken_at"]),
            models.Index(fields=["pump_set", "taken_at", "id"], name="record_newest"),
        ]


class Judgement(models.Model):
    """What the rules of one version said of a record in one context. Append-only; the newest counts."""

    record = models.ForeignKey(Record, on_delete=models.PROTECT, related_name="judgements")
    rules_version = models.CharField(max_length=40, db_collation=EXACT)
    # The snapshot is read whole or not at all, and is mostly the same points again: kept as deflated JSON.
    context_deflated = models.BinaryField()
    context_hash = models.CharField(max_length=64, db_collation=EXACT)
    evaluation = models.JSONField()
    verdict = models.CharField(max_length=10, db_collation=EXACT)
    made_at = models.DateTimeField()
    newest = models.BooleanField(default=True)

    @property
    def context(self) -> dict[str, Any]:
        """The context this judgement was made in."""
        return dict(json.loads(zlib.decompress(bytes(self.context_deflated))))


def deflated(context: str) -> bytes:
    return zlib.compress(context.encode(), 1)


class Finding(models.Model):
    """One answer of a judgement, typed for reading: the newest live one per question counts."""

    judgement = models.ForeignKey(Judgement, on_delete=models.CASCADE, related_name="findings")
    record = models.ForeignKey(Record, on_delete=models.PROTECT, related_name="+")
    pump_set = models.ForeignKey(PumpSet, on_delete=models.PROTECT, related_name="+")
    question = models.CharField(max_length=40, db_collation=EXACT)
    subject = models.CharField(max_length=100, blank=True, db_collation=EXACT)
    part = models.CharField(max_length=20, blank=True, db_collation=EXACT)
    verdict = models.CharField(max_length=10, db_collation=EXACT)
    beside = models.CharField(max_length=10, blank=True, db_collation=EXACT)
    by = models.CharField(max_length=12, blank=True, db_collation=EXACT)
    unknown = models.CharField(max_length=14, blank=True, db_collation=EXACT)
    reason = models.JSONField()
    line = models.JSONField(null=True)
    taken_at = models.DateTimeField()
    due = models.DateTimeField(null=True)
    live = models.BooleanField(default=True)

    class Meta:
        indexes = [
            models.Index(fields=["pump_set", "live", "taken_at"]),
            models.Index(fields=["pump_set", "question", "subject", "taken_at"], name="finding_newest"),
        ]


class Answer(models.Model):
    """The newest live answer to one question and subject of a set. Replaced in the transaction of every save,
    made again by command; Plant, the set's page and the gates read it. Nothing is ever forgotten because
    newer records came.
    """

    pump_set = models.ForeignKey(PumpSet, on_delete=models.CASCADE, related_name="answers")
    question = models.CharField(max_length=40, db_collation=EXACT)
    subject = models.CharField(max_length=100, blank=True, db_collation=EXACT)
    part = models.CharField(max_length=20, db_collation=EXACT)
    verdict = models.CharField(max_length=10, db_collation=EXACT)
    beside = models.CharField(max_length=10, blank=True, db_collation=EXACT)
    by = models.CharField(max_length=12, blank=True, db_collation=EXACT)
    unknown = models.CharField(max_length=14, blank=True, db_collation=EXACT)
    reason = models.JSONField()
    line = models.JSONField(null=True)
    taken_at = models.DateTimeField()
    due = models.DateTimeField()
    finding = models.ForeignKey(Finding, on_delete=models.CASCADE, related_name="+")

    class Meta:
        constraints = [
            models.UniqueConstraint(fields=["pump_set", "question", "subject"], name="answer_once")
        ]
        indexes = [models.Index(fields=["verdict", "pump_set"])]


class Series(models.Model):
    """One measuring point of one component or position under one set of conditions."""

    key = models.CharField(max_length=64, unique=True, db_collation=EXACT)
    site = models.ForeignKey(Site, on_delete=models.PROTECT, related_name="+")
    pump_set = models.ForeignKey(PumpSet, null=True, on_delete=models.PROTECT, related_name="series")
    component = models.ForeignKey(Component, null=True, on_delete=models.PROTECT, related_name="series")
    measurand = models.CharField(max_length=40, db_collation=EXACT)
    leg = models.CharField(max_length=100, blank=True, db_collation=EXACT)
    conditions = models.CharField(max_length=200, blank=True, db_collation=EXACT)
    unit = models.CharField(max_length=12, db_collation=EXACT)
    # Long enough that its days are kept in one row each (`services.rolling`).
    rolled = models.BooleanField(default=False)


class DayRoll(models.Model):
    """One day of a long series: its lowest and its highest live point. Made again from the points whenever
    one of them changes; what plots of years are drawn from.
    """

    series = models.ForeignKey(Series, on_delete=models.CASCADE, related_name="days")
    day = models.DateField()
    n = models.PositiveIntegerField()
    low = models.FloatField()
    low_at = models.DateTimeField()
    low_bound = models.CharField(max_length=10, db_collation=EXACT)
    low_record = models.BigIntegerField()
    high = models.FloatField()
    high_at = models.DateTimeField()
    high_bound = models.CharField(max_length=10, db_collation=EXACT)
    high_record = models.BigIntegerField()

    class Meta:
        constraints = [models.UniqueConstraint(fields=["series", "day"], name="day_once")]


class Point(models.Model):
    series = models.ForeignKey(Series, on_delete=models.PROTECT, related_name="points")
    taken_at = models.DateTimeField()
    value = models.FloatField()
    bound = models.CharField(max_length=10, default="exact", db_collation=EXACT)
    judgement = models.ForeignKey(Judgement, on_delete=models.CASCADE, related_name="points")
    record = models.ForeignKey(Record, on_delete=models.PROTECT, related_name="points")
    live = models.BooleanField(default=True)

    class Meta:
        indexes = [models.Index(fields=["series", "live", "taken_at", "value"])]


class PartState(models.Model):
    """What a part shows now. Written with every save, rebuilt by command, read by the Plant page."""

    pump_set = models.ForeignKey(PumpSet, on_delete=models.CASCADE, related_name="part_states")
    part = models.CharField(max_length=20, db_collation=EXACT)
    verdict = models.CharField(max_length=10, db_collation=EXACT)
    beside = models.CharField(max_length=10, blank=True, db_collation=EXACT)
    by = models.CharField(max_length=12, blank=True, db_collation=EXACT)
    question = models.CharField(max_length=40, db_collation=EXACT)
    reason = models.JSONField()
    line = models.JSONField(null=True)
    taken_at = models.DateTimeField()
    due = models.DateTimeField(null=True)

    class Meta:
        constraints = [models.UniqueConstraint(fields=["pump_set", "part"], name="part_state_once")]


class LimitOverride(models.Model):
    """A site's own limit or choice of school, for the whole site or one set, until it is withdrawn."""

    site = models.ForeignKey(Site, on_delete=models.PROTECT, related_name="overrides")
    pump_set = models.ForeignKey(PumpSet, null=True, on_delete=models.PROTECT, related_name="overrides")
    limit = models.CharField(max_length=60, db_collation=EXACT)
    value = models.FloatField(null=True)
    unit = models.CharField(max_length=12, blank=True, db_collation=EXACT)
    choice = models.CharField(max_length=30, blank=True, db_collation=EXACT)
    reason = models.CharField(max_length=300)
    by = models.ForeignKey(User, on_delete=models.PROTECT, related_name="+")
    at = models.DateTimeField()
    ended_at = models.DateTimeField(null=True)
    ended_by = models.ForeignKey(User, null=True, on_delete=models.PROTECT, related_name="+")


class ReadingsImport(models.Model):
    """A file of readings on its way in: kept whole, checked row by row, written whole or not at all, by the
    task queue.
    """

    class State(models.TextChoices):
        CHECKING = "checking"
        CHECKED = "checked"
        WRITING = "writing"
        WRITTEN = "written"
        FAILED = "failed"
        CANCELLED = "cancelled"

    site = models.ForeignKey(Site, on_delete=models.PROTECT, related_name="imports")
    bench = models.CharField(max_length=40, db_collation=EXACT)
    name = models.CharField(max_length=200)
    content = models.BinaryField()
    day_first = models.BooleanField(null=True)
    by = models.ForeignKey(User, on_delete=models.PROTECT, related_name="+")
    at = models.DateTimeField()
    state = models.CharField(max_length=12, choices=State.choices, default=State.CHECKING, db_collation=EXACT)
    done = models.PositiveIntegerField(default=0)
    total = models.PositiveIntegerField(default=0)
    taken = models.PositiveIntegerField(default=0)
    questioned = models.PositiveIntegerField(default=0)
    refused = models.PositiveIntegerField(default=0)
    there = models.PositiveIntegerField(default=0)
    error = models.CharField(max_length=500, blank=True)
    cancel_asked = models.BooleanField(default=False)
    lease_until = models.DateTimeField(null=True)
    tries = models.PositiveSmallIntegerField(default=0)
    finished_at = models.DateTimeField(null=True)

    class Meta:
        indexes = [models.Index(fields=["site", "-at"])]


class ImportRow(models.Model):
    """What became of one row of a file: taken, questioned, refused, already there."""

    job = models.ForeignKey(ReadingsImport, on_delete=models.CASCADE, related_name="rows")
    line = models.PositiveIntegerField()
    tag = models.CharField(max_length=60)
    outcome = models.CharField(max_length=10, db_collation=EXACT)
    says = models.CharField(max_length=500, blank=True)

    class Meta:
        indexes = [models.Index(fields=["job", "outcome", "line"])]


class Attachment(models.Model):
    """A photo of a set, of a part of it or with an entry; or a document kept with a set. Re-encoded; put
    aside with a reason, never deleted. The entry may come after its photo.
    """

    uuid = models.CharField(max_length=64, primary_key=True, db_collation=EXACT)
    pump_set = models.ForeignKey(PumpSet, on_delete=models.PROTECT, related_name="attachments")
    component = models.ForeignKey(Component, null=True, on_delete=models.PROTECT, related_name="+")
    entry = models.CharField(max_length=64, blank=True, db_collation=EXACT)
    kind = models.CharField(max_length=10, db_collation=EXACT)
    title = models.CharField(max_length=120, blank=True)
    content = models.BinaryField()
    width = models.PositiveIntegerField(null=True)
    height = models.PositiveIntegerField(null=True)
    pages = models.PositiveIntegerField(null=True)
    by = models.ForeignKey(User, on_delete=models.PROTECT, related_name="+")
    at = models.DateTimeField()
    aside_at = models.DateTimeField(null=True)
    aside_by = models.ForeignKey(User, null=True, on_delete=models.PROTECT, related_name="+")
    aside_why = models.CharField(max_length=200, blank=True)

    class Meta:
        indexes = [models.Index(fields=["pump_set", "-at"]), models.Index(fields=["entry"])]
