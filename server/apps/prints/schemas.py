"""What the endpoints of PDFs give."""

from typing import Literal, cast
from uuid import UUID

from ninja import Schema

from apps.prints.makers import form_of
from apps.prints.models import Print

__all__ = ["PrintOut", "print_out"]

State = Literal["waiting", "running", "done", "failed", "cancelled"]


class PrintOut(Schema):
    """A file in the making: fetched from ``/api/prints/ID/file`` once it is done."""

    id: UUID
    name: str
    ending: str
    status: State
    problem: str


def print_out(one: Print) -> PrintOut:
    """A file as it is told about."""
    return PrintOut(
        id=one.pk,
        name=one.name,
        ending=form_of(one.kind).ending,
        status=cast(State, one.status),
        problem=one.problem,
    )
