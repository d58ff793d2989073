"""People, the workshops they belong to, invitations and sessions."""

import uuid
from datetime import timedelta

from django.contrib.auth.models import AbstractUser
from django.contrib.sessions.base_session import AbstractBaseSession
from django.db import models
from django.utils import timezone

from apps.accounts.digests import digest_of

__all__ = ["Invitation", "Role", "Sitting", "StockRevision", "User", "Workshop"]


class Workshop(models.Model):
    """A workshop; its jobs are seen by its own people alone.

    ``stock`` is the cable and the devices that it keeps; None is everything of the usual sizes.
    ``stock_revision`` counts its changes.
    """

    class Dates(models.TextChoices):
        """How days are written."""

        DEVICE = "device", "as the device does"
        YMD = "ymd", "2026-03-31"
        DMY = "dmy", "31.03.2026"
        MDY = "mdy", "03/31/2026"

    class Clock(models.TextChoices):
        """How hours are written."""

        DEVICE = "device", "as the device does"
        H24 = "24", "18:30"
        H12 = "12", "6:30 pm"

    class Units(models.TextChoices):
        """In what lengths are shown; they are entered in metres."""

        BOTH = "both", "metres and feet"
        METRIC = "metric", "metres"
        FEET = "feet", "feet and inches"

    class Paper(models.TextChoices):
        """What is printed on first."""

        A4 = "A4", "A4"
        LETTER = "letter", "Letter"

    name = models.CharField(max_length=120)
    dates = models.CharField(max_length=8, choices=Dates.choices, default=Dates.DEVICE)
    clock = models.CharField(max_length=8, choices=Clock.choices, default=Clock.DEVICE)
    units = models.CharField(max_length=8, choices=Units.choices, default=Units.BOTH)
    paper = models.CharField(max_length=8, choices=Paper.choices, default=Paper.A4)
    stock = models.JSONField(null=True, blank=True)
    stock_revision = models.PositiveIntegerField(default=1)

    def __str__(self) -> str:
        return self.name


class StockRevision(models.Model):
    """A stock as it was kept: by whom, and when; never changed."""

    workshop = models.ForeignKey(Workshop, on_delete=models.CASCADE, related_name="stocks")
    number = models.PositiveIntegerField()
    document = models.JSONField(null=True)
    author = models.ForeignKey("User", null=True, on_delete=models.SET_NULL)
    created = models.DateTimeField(auto_now_add=True)

    class Meta:
        ordering = ("-number",)
        constraints = (
            models.UniqueConstraint(fields=("workshop", "number"), name="stock_revision_number"),
        )

    def __str__(self) -> str:
        return f"{self.workshop_id} {self.number}"


class Role(models.TextChoices):
    """What somebody may do in a workshop, the least first: each may do what those before may."""

    READER = "reader"
    ELECTRICIAN = "electrician"
    OWNER = "owner"

    def covers(self, other: "Role") -> bool:
        """Whether who has this role may do what needs another one."""
        order = list(Role)
        return order.index(self) >= order.index(other)


class User(AbstractUser):
    """A person; without a workshop they see nothing."""

    workshop = models.ForeignKey(
        Workshop, null=True, blank=True, on_delete=models.PROTECT, related_name="people"
    )
    role = models.CharField(max_length=12, choices=Role.choices, default=Role.ELECTRICIAN)


class Invitation(models.Model):
    """A link that is used once: to become one of a workshop, or to choose a new password.

    Only a digest of its secret is kept. ``person`` is whose password it is about, ``used`` when
    it was used or withdrawn.
    """

    LASTS = timedelta(days=7)

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    workshop = models.ForeignKey(Workshop, on_delete=models.CASCADE, related_name="invitations")
    digest = models.CharField(max_length=64, unique=True)
    name = models.CharField(max_length=120)
    role = models.CharField(max_length=12, choices=Role.choices)
    person = models.ForeignKey(User, null=True, on_delete=models.CASCADE, related_name="+")
    author = models.ForeignKey(User, null=True, on_delete=models.SET_NULL, related_name="+")
    created = models.DateTimeField(auto_now_add=True)
    expires = models.DateTimeField()
    used = models.DateTimeField(null=True)

    class Meta:
        ordering = ("-created",)

    def __str__(self) -> str:
        return f"{self.name}: {self.role}"


class Sitting(AbstractBaseSession):
    """A session: whose it is, in which browser, since when, and about when it was last used."""

    person = models.ForeignKey(User, null=True, on_delete=models.CASCADE, related_name="sittings")
    browser = models.CharField(max_length=200, blank=True)
    begun = models.DateTimeField(default=timezone.now)
    seen = models.DateTimeField(default=timezone.now)

    class Meta(AbstractBaseSession.Meta):
        abstract = False
        db_table = "accounts_session"

    @property
    def number(self) -> str:
        """What a session is called on screen: its key would open it."""
        return digest_of(self.session_key)[:16]
