"""People, and the trail of what they changed."""

from __future__ import annotations

from datetime import datetime

from django.contrib.auth.models import AbstractBaseUser, BaseUserManager
from django.contrib.sessions.backends.base import SessionBase
from django.contrib.sessions.base_session import AbstractBaseSession
from django.db import models

EXACT = "utf8mb4_bin"


class User(AbstractBaseUser):
    """A person who signs in. Rights on a site come from membership, not from here."""

    username = models.CharField(max_length=60, unique=True, db_collation=EXACT)
    full_name = models.CharField(max_length=120)
    is_active = models.BooleanField(default=True)
    may_make_sites = models.BooleanField(default=False)
    units = models.JSONField(default=dict, blank=True)
    locale = models.CharField(max_length=12, default="en-GB")
    sheet = models.CharField(max_length=8, default="light")
    hand = models.CharField(max_length=8, default="right")

    # A password that an admin made: it opens the door to the change of it, and to nothing else.
    must_change = models.BooleanField(default=False)
    # By what somebody on a shared tablet is known again; empty: none was chosen.
    pin = models.CharField(max_length=128, blank=True, default="")
    # Wrong ones in a row, from whichever tablet.
    pin_wrong = models.PositiveSmallIntegerField(default=0)

    # Of the request at hand. Whoever comes in by a token or a PIN is so on one site alone, and there no more
    # than this.
    only: tuple[int, str] | None = None
    by_token = False
    # On a tablet of several people; when he last showed that it is he.
    shared = False
    known_at: datetime | None = None

    USERNAME_FIELD = "username"
    objects = BaseUserManager()

    def has_perms(self, *args: object) -> bool:
        return False


class Session(AbstractBaseSession):
    """Somebody signed in on one device; `user` is empty for one that was opened before it was kept here."""

    user = models.ForeignKey(User, null=True, on_delete=models.CASCADE, related_name="+")
    tablet = models.ForeignKey("Tablet", null=True, on_delete=models.CASCADE, related_name="+")

    @classmethod
    def get_session_store_class(cls) -> type[SessionBase]:
        from .sessions import SessionStore

        return SessionStore


class Token(models.Model):
    """A key for scripts: one person's name, one site, one role. Kept by its digest; told once."""

    user = models.ForeignKey(User, on_delete=models.CASCADE, related_name="+")
    site = models.BigIntegerField(db_index=True)
    role = models.CharField(max_length=12, db_collation=EXACT)
    title = models.CharField(max_length=60)
    digest = models.CharField(max_length=64, unique=True, db_collation=EXACT)
    made_at = models.DateTimeField()
    used_at = models.DateTimeField(null=True)
    ended_at = models.DateTimeField(null=True)


class Tablet(models.Model):
    """A browser that the people of a site share. It shows its key in a cookie; kept here by its digest."""

    site = models.BigIntegerField(db_index=True)
    title = models.CharField(max_length=60)
    digest = models.CharField(max_length=64, unique=True, db_collation=EXACT)
    made_by = models.ForeignKey(User, on_delete=models.CASCADE, related_name="+")
    made_at = models.DateTimeField()
    used_at = models.DateTimeField(null=True)
    ended_at = models.DateTimeField(null=True)


class AuditEntry(models.Model):
    """Who changed what, from what, to what. Never edited."""

    at = models.DateTimeField(db_index=True)
    user = models.ForeignKey(User, null=True, on_delete=models.PROTECT, related_name="+")
    site_id = models.BigIntegerField(null=True, db_index=True)
    action = models.CharField(max_length=40, db_collation=EXACT)
    what = models.CharField(max_length=120)
    before = models.JSONField(null=True)
    after = models.JSONField(null=True)


class Parcel(models.Model):
    """What a device sent under an id, by its digest, and how it was answered. Written with what it brought
    about, so that it is done once.
    """

    user = models.ForeignKey(User, on_delete=models.CASCADE, related_name="+")
    key = models.CharField(max_length=64, db_collation=EXACT)
    digest = models.CharField(max_length=64, db_collation=EXACT)
    at = models.DateTimeField()
    status = models.PositiveSmallIntegerField(default=200)
    answer = models.BinaryField(default=b"")
    site = models.BigIntegerField(null=True)

    class Meta:
        constraints = [models.UniqueConstraint(fields=["user", "key"], name="parcel_once")]


class Version(models.Model):
    """How often a set, a site or a van was changed."""

    kind = models.CharField(max_length=5, db_collation=EXACT)
    ref = models.BigIntegerField()
    site = models.BigIntegerField()
    n = models.PositiveBigIntegerField()
    at = models.DateTimeField()

    class Meta:
        constraints = [models.UniqueConstraint(fields=["ref", "kind"], name="version_once")]
        indexes = [models.Index(fields=["site", "n"]), models.Index(fields=["site", "at"])]
