"""The service that is due as a calendar (RFC 5545), at a secret address."""

from __future__ import annotations

from datetime import timedelta

from django.shortcuts import get_object_or_404
from icalendar import Calendar, Event

from apps.accounts.digests import digest_of
from apps.logbook.models import CalendarLink
from apps.logbook.queries import due_on

__all__ = ["calendar_of"]


def calendar_of(secret: str) -> bytes:
    """Every task with a date, of every boat of the workshop that the address is of; or 404."""
    links = CalendarLink.objects.select_related("workshop")
    link = get_object_or_404(links, digest=digest_of(secret), ended=None)
    calendar = Calendar()
    calendar.add("prodid", "-//Strom//Service due//EN")
    calendar.add("version", "2.0")
    calendar.add("x-wr-calname", f"Service, {link.workshop.name}")
    for job, _, due in due_on(link.workshop):
        if due.on is None:
            continue
        event = Event()
        event.add("uid", f"{job.pk}-{due.task.key}-{due.on.isoformat()}@strom")
        event.add("dtstamp", job.changed)
        event.add("dtstart", due.on)
        event.add("dtend", due.on + timedelta(days=1))
        event.add("summary", f"{job.name}: {due.task.title}")
        event.add("description", f"{due.task.how}. {due.task.caution}".strip())
        calendar.add_component(event)
    return bytes(calendar.to_ical())
