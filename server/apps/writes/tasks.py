"""Answers of writes are kept for as long as somebody may ask again."""

from __future__ import annotations

from datetime import timedelta

from django.utils import timezone
from procrastinate.contrib.django import app

from apps.writes.models import AnsweredWrite

__all__ = ["KEPT_FOR", "forget_answers"]

KEPT_FOR = timedelta(days=14)


@app.periodic(cron="17 * * * *")
@app.task(name="writes.forget_answers", queue="days", pass_context=False)
def forget_answers(timestamp: int) -> None:
    """Drop answers that nobody asks for again."""
    AnsweredWrite.objects.filter(created__lt=timezone.now() - KEPT_FOR).delete()
