"""People and the workshops they belong to."""

from django.contrib.auth.models import AbstractUser
from django.db import models

__all__ = ["User", "Workshop"]


class Workshop(models.Model):
    """A workshop; its jobs are seen by its own people alone.

    ``stock`` is the cable and the devices that it keeps; None is everything of the usual sizes.
    """

    name = models.CharField(max_length=120)
    stock = models.JSONField(null=True, blank=True)

    def __str__(self) -> str:
        return self.name


class User(AbstractUser):
    """A person; without a workshop they see nothing."""

    workshop = models.ForeignKey(
        Workshop, null=True, blank=True, on_delete=models.PROTECT, related_name="people"
    )
