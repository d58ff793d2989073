"""The app of the stage Build."""

from django.apps import AppConfig

from apps.prints.makers import register

__all__ = ["BuildConfig"]


class BuildConfig(AppConfig):
    """What is entered while a boat is built."""

    name = "apps.build"

    def ready(self) -> None:
        register("build", "apps.build.pack.made")
