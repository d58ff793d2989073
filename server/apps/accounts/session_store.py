"""Sessions in the database that know whose they are, so that people see and end their own."""

from __future__ import annotations

from datetime import UTC, datetime, timedelta
from typing import Any, cast

from django.contrib.auth import SESSION_KEY
from django.contrib.sessions.backends.db import SessionStore as DBStore
from django.http import HttpRequest
from django.utils import timezone

from apps.accounts.models import Sitting

__all__ = ["SessionStore", "seen"]

BROWSER, BEGUN, SEEN = "browser", "begun", "seen"
# A session is written when it is used, but not for every request.
SEEN_EVERY = timedelta(minutes=10)


class SessionStore(DBStore):
    """Django's own, with a row for each session that tells its person and its browser."""

    @classmethod
    def get_model_class(cls) -> type[Sitting]:
        return Sitting

    def create_model_instance(self, data: dict[str, Any]) -> Sitting:
        row = cast(Sitting, super().create_model_instance(data))
        row.person_id = int(data[SESSION_KEY]) if SESSION_KEY in data else None
        row.browser = data.get(BROWSER, "")
        for name in (BEGUN, SEEN):
            if name in data:
                setattr(row, name, datetime.fromtimestamp(data[name], UTC))
        return row


def seen(request: HttpRequest) -> None:
    """Note that a session is used, and in which browser."""
    session = request.session
    now = timezone.now().timestamp()
    if session.get(SEEN, 0) < now - SEEN_EVERY.total_seconds():
        session[SEEN] = now
        session.setdefault(BEGUN, now)
        session[BROWSER] = request.headers.get("User-Agent", "")[:200]
