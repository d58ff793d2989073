"""The app of the stage Build."""

from django.apps import AppConfig

__all__ = ["BuildConfig"]


class BuildConfig(AppConfig):
    """What is entered while a boat is built."""

    name = "apps.build"
