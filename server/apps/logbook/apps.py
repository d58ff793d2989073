"""The app of the stage Log."""

from django.apps import AppConfig

__all__ = ["LogbookConfig"]


class LogbookConfig(AppConfig):
    """What is kept of a boat over the years."""

    name = "apps.logbook"
