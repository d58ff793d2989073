"""People and the workshops they belong to."""

from django.contrib.auth.models import AbstractUser
from django.db import models

__all__ = ["StockRevision", "User", "Workshop"]


class Workshop(models.Model):
    """A workshop; its jobs are seen by its own people alone.

    ``stock`` is the cable and the devices that it keeps; None is everything of the usual sizes.
    ``stock_revision`` counts its changes.
    """

    name = models.CharField(max_length=120)
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


class User(AbstractUser):
    """A person; without a workshop they see nothing."""

    workshop = models.ForeignKey(
        Workshop, null=True, blank=True, on_delete=models.PROTECT, related_name="people"
    )
