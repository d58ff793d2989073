"""The app of the stage Handover."""

from django.apps import AppConfig

from apps.prints.makers import JSON, ZIP, register

__all__ = ["HandoverConfig"]


class HandoverConfig(AppConfig):
    """What the owner takes along."""

    name = "apps.handover"

    def ready(self) -> None:
        register("handover", "apps.handover.sheet_pdf.made")
        register("handover_pack", "apps.handover.pack_pdf.made")
        register("archive", "apps.handover.archive.made", ZIP)
        register("drill", "apps.handover.drilling.made", JSON)
        register("owners_sheet", "apps.handover.queries.sheet_made", JSON)
