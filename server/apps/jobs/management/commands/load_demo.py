"""Brings the database up to date and makes the demo workshop with its jobs, once."""

from pathlib import Path

from django.core.management import call_command
from django.core.management.base import BaseCommand
from django.db import transaction
from strom_engine.interchange import parse_job_text

from apps.accounts.actions import DEMO_USERNAME
from apps.accounts.models import User, Workshop
from apps.jobs.actions import import_job

DEMO_DATA = Path(__file__).resolve().parents[2] / "demo_data"
# In the order of the list on screen, the last one loaded first.
FILES = ("ebb_tide.json", "pilot_3.json", "marsh_wren.json")
WORKSHOP = "Skerry & Daughter Marine Electric"


class Command(BaseCommand):
    """Migrate, then load the demo workshop; does nothing when it is there."""

    help = __doc__

    def handle(self, *args: object, **options: object) -> None:
        call_command("migrate", verbosity=0)
        if User.objects.filter(username=DEMO_USERNAME).exists():
            return
        with transaction.atomic():
            workshop = Workshop.objects.create(name=WORKSHOP)
            User.objects.create_user(DEMO_USERNAME, workshop=workshop)
            for name in FILES:
                text = (DEMO_DATA / name).read_bytes()
                import_job(workshop, None, parse_job_text(text))
        self.stdout.write(f"Loaded {len(FILES)} demo jobs for {WORKSHOP}.")
