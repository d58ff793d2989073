"""Answers that a browser keeps as a file."""

from __future__ import annotations

from django.http import HttpResponse

__all__ = ["CSV", "attachment"]

CSV = "text/csv; charset=utf-8"


def attachment(content: str | bytes, kind: str, name: str) -> HttpResponse:
    """Content of a media type as a file with a name."""
    response = HttpResponse(content, content_type=kind)
    response["Content-Disposition"] = f'attachment; filename="{name}"'
    return response
