"""The app of days: plans, runs in the queue, and their findings beside all others."""

from django.apps import AppConfig

__all__ = ["DaysConfig"]


class DaysConfig(AppConfig):
    """Days bring findings that need time, and their plans travel with a job."""

    name = "apps.days"

    def ready(self) -> None:
        """Offer the findings of the latest days, and plans to the job file."""
        # Models can be loaded only now.
        from apps.days.carried import keep_plans, plans_of  # noqa: PLC0415
        from apps.days.queries import day_keys, findings_of_days  # noqa: PLC0415
        from apps.jobs.all_findings import FURTHER_FINDINGS  # noqa: PLC0415
        from apps.jobs.job_files import carries_plans  # noqa: PLC0415
        from apps.jobs.summaries import FURTHER_KEYS  # noqa: PLC0415

        FURTHER_FINDINGS.append(findings_of_days)
        FURTHER_KEYS.append(day_keys)
        carries_plans(plans_of, keep_plans)
