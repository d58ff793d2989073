"""The app of the stage Prove."""

from django.apps import AppConfig

from apps.prints.makers import JSON, register

__all__ = ["ProveConfig"]


class ProveConfig(AppConfig):
    """What is read while a boat is proved."""

    name = "apps.prove"

    def ready(self) -> None:
        register("proving", "apps.prove.record.made")
        register("diagnosis", "apps.prove.diagnosing.made", JSON)
