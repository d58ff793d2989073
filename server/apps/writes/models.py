"""Writes that were answered: the same one sent again gets the same answer and saves nothing."""

from __future__ import annotations

import zlib

from django.db import models
from django.http import HttpResponse

from apps.accounts.models import User

__all__ = ["AnsweredWrite"]


class AnsweredWrite(models.Model):
    """A write by the id that its sender made for it, with the answer that it got.

    The row is written in the transaction of the write itself: there is one if, and only if, the
    write was saved.
    """

    person = models.ForeignKey(User, on_delete=models.CASCADE, related_name="writes")
    key = models.UUIDField()
    call = models.CharField(max_length=300)
    status = models.PositiveSmallIntegerField(default=0)
    content_type = models.CharField(max_length=100, default="")
    packed = models.BinaryField(default=b"")
    created = models.DateTimeField(auto_now_add=True, db_index=True)

    class Meta:
        constraints = (models.UniqueConstraint(fields=("person", "key"), name="write_of_person"),)

    def __str__(self) -> str:
        return f"{self.call} {self.key}"

    @property
    def answered(self) -> bool:
        """Whether it was sent before."""
        return self.status != 0

    def answer(self, response: HttpResponse) -> None:
        """Keep the answer."""
        self.status = response.status_code
        self.content_type = response.headers.get("Content-Type", "")
        self.packed = zlib.compress(response.content, 1)
        self.save()

    def again(self) -> HttpResponse:
        """The answer that was given."""
        found = HttpResponse(
            zlib.decompress(bytes(self.packed)),
            status=self.status,
            content_type=self.content_type or None,
        )
        found["Strom-Answered-Before"] = "1"
        return found
