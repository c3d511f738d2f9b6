"""Sites, services, pump sets (positions), components, their plates and fittings, and who may do what."""

from __future__ import annotations

from django.core.validators import MaxValueValidator, MinValueValidator
from django.db import models
from django.db.models import F, Q

from hurbin_server.base.models import EXACT, User


class Site(models.Model):
    code = models.CharField(max_length=20, unique=True, db_collation=EXACT)
    name = models.CharField(max_length=120)
    time_zone = models.CharField(max_length=40, default="UTC")
    altitude_m = models.FloatField(null=True)
    version = models.PositiveIntegerField(default=1)


class Membership(models.Model):
    class Role(models.TextChoices):
        VIEWER = "viewer"
        TECHNICIAN = "technician"
        LEAD = "lead"
        ADMIN = "admin"

    user = models.ForeignKey(User, on_delete=models.PROTECT, related_name="memberships")
    site = models.ForeignKey(Site, on_delete=models.PROTECT, related_name="memberships")
    role = models.CharField(max_length=12, choices=Role.choices, db_collation=EXACT)
    active = models.BooleanField(default=True)

    class Meta:
        constraints = [models.UniqueConstraint(fields=["user", "site"], name="one_membership")]


class Service(models.Model):
    """What the sets serve: heating loop, chilled water, process, wastewater."""

    site = models.ForeignKey(Site, on_delete=models.PROTECT, related_name="services")
    code = models.CharField(max_length=20, db_collation=EXACT)
    name = models.CharField(max_length=120)
    note = models.CharField(max_length=200, blank=True)
    place_in_order = models.PositiveIntegerField(default=0)
    consequence = models.PositiveSmallIntegerField(
        default=2, validators=[MinValueValidator(1), MaxValueValidator(3)]
    )
    serves = models.CharField(max_length=20, default="other", db_collation=EXACT)
    check_every_days = models.PositiveSmallIntegerField(default=35)
    version = models.PositiveIntegerField(default=1)

    class Meta:
        constraints = [
            models.UniqueConstraint(fields=["site", "code"], name="service_code_once"),
            models.CheckConstraint(
                condition=Q(consequence__gte=1, consequence__lte=3), name="consequence_1_to_3"
            ),
        ]
        ordering = ["place_in_order", "code"]


class PumpSet(models.Model):
    """A position in the plant with a tag; what is fitted there changes."""

    class Role(models.TextChoices):
        DUTY = "duty"
        STANDBY = "standby"
        SINGLE = "single"

    site = models.ForeignKey(Site, on_delete=models.PROTECT, related_name="sets")
    service = models.ForeignKey(Service, on_delete=models.PROTECT, related_name="sets")
    tag = models.CharField(max_length=30, db_collation=EXACT)
    name = models.CharField(max_length=120)
    place = models.CharField(max_length=120, blank=True)
    nickname = models.CharField(max_length=60, blank=True)
    kind = models.CharField(max_length=40, db_collation=EXACT)
    role = models.CharField(max_length=10, choices=Role.choices, default=Role.SINGLE, db_collation=EXACT)
    pair = models.CharField(max_length=30, blank=True, db_collation=EXACT)
    version = models.PositiveIntegerField(default=1)

    class Meta:
        constraints = [models.UniqueConstraint(fields=["site", "tag"], name="tag_once")]
        ordering = ["tag"]


class Component(models.Model):
    """A thing that can be fitted and moved: its plate and its history go with it."""

    site = models.ForeignKey(Site, on_delete=models.PROTECT, related_name="components")
    kind = models.CharField(max_length=20, db_collation=EXACT)
    label = models.CharField(max_length=60)
    plate = models.JSONField(default=dict)
    plate_version = models.PositiveIntegerField(default=0)


class PlateVersion(models.Model):
    component = models.ForeignKey(Component, on_delete=models.PROTECT, related_name="plates")
    version = models.PositiveIntegerField()
    plate = models.JSONField()
    reason = models.CharField(max_length=300)
    by = models.ForeignKey(User, null=True, on_delete=models.PROTECT, related_name="+")
    at = models.DateTimeField()

    class Meta:
        constraints = [models.UniqueConstraint(fields=["component", "version"], name="plate_version_once")]
        ordering = ["-version"]


class Fitting(models.Model):
    """This component stands at this place of this set, from then, until then (null: still)."""

    component = models.ForeignKey(Component, on_delete=models.PROTECT, related_name="fittings")
    pump_set = models.ForeignKey(PumpSet, on_delete=models.PROTECT, related_name="fittings")
    slot = models.CharField(max_length=20, db_collation=EXACT)
    from_at = models.DateTimeField()
    to_at = models.DateTimeField(null=True)

    class Meta:
        constraints = [
            models.CheckConstraint(
                condition=Q(to_at__isnull=True) | Q(to_at__gt=F("from_at")), name="fitting_forward"
            ),
            models.UniqueConstraint(fields=["pump_set", "slot", "from_at"], name="fitting_start_once"),
        ]
        indexes = [models.Index(fields=["pump_set", "slot", "to_at"])]


class Event(models.Model):
    """Something that parts a series when it is read: a motor change, an overhaul."""

    site = models.ForeignKey(Site, on_delete=models.PROTECT, related_name="+")
    pump_set = models.ForeignKey(PumpSet, null=True, on_delete=models.PROTECT, related_name="events")
    component = models.ForeignKey(Component, null=True, on_delete=models.PROTECT, related_name="events")
    kind = models.CharField(max_length=30, db_collation=EXACT)
    at = models.DateTimeField()
    note = models.CharField(max_length=300, blank=True)
    by = models.ForeignKey(User, null=True, on_delete=models.PROTECT, related_name="+")
