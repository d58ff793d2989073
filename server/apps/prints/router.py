"""Endpoints of files that workers make: how far one is, and the file."""

from typing import Any
from uuid import UUID

from django.http import HttpRequest, HttpResponse
from django.shortcuts import get_object_or_404
from ninja import Router

from apps.accounts.permissions import workshop_of
from apps.jobs.downloads import attachment
from apps.jobs.queue import Status
from apps.jobs.schemas import ProblemOut
from apps.prints.makers import form_of
from apps.prints.models import Print
from apps.prints.schemas import PrintOut, print_out

router = Router(tags=["prints"])
ERRORS: Any = {401: ProblemOut, 404: ProblemOut}  # Any: ninja's response map


def _get(request: HttpRequest, print_id: UUID, **narrowed: object) -> Print:
    prints = Print.objects.filter(
        variant__job__workshop=workshop_of(request), variant__job__binned__isnull=True
    )
    return get_object_or_404(prints, pk=print_id, **narrowed)


@router.get("/prints/{print_id}", response=ERRORS | {200: PrintOut})
def state(request: HttpRequest, print_id: UUID) -> PrintOut:
    """How far a file is."""
    return print_out(_get(request, print_id))


@router.get("/prints/{print_id}/file", response=ERRORS | {200: Any})
def file(request: HttpRequest, print_id: UUID) -> HttpResponse:
    """A file that is done."""
    one = _get(request, print_id, status=Status.DONE)
    form = form_of(one.kind)
    return attachment(bytes(one.content or b""), form.media, f"{one.name}.{form.ending}")
