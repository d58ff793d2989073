"""The app of patterns and comparisons."""

from django.apps import AppConfig

from apps.prints.makers import JSON, register

__all__ = ["WiringConfig"]


class WiringConfig(AppConfig):
    """What can be done with the wiring, and what it would come to."""

    name = "apps.wiring"

    def ready(self) -> None:
        register("advice", "apps.wiring.queries.advice_made", JSON)
        register("preview", "apps.wiring.queries.preview_made", JSON)
        register("comparison", "apps.wiring.queries.comparison_made", JSON)
