"""The app of PDFs."""

from django.apps import AppConfig

__all__ = ["PrintsConfig"]


class PrintsConfig(AppConfig):
    """PDFs that workers make."""

    name = "apps.prints"
