"""The app of the stage Runs."""

from django.apps import AppConfig

from apps.prints.makers import JSON, register

__all__ = ["RunsConfig"]


class RunsConfig(AppConfig):
    """Runs, their choice from stock, repairs."""

    name = "apps.runs"

    def ready(self) -> None:
        register("choice", "apps.runs.queries.choice_made", JSON)
        register("repairs", "apps.runs.queries.repairs_made", JSON)
