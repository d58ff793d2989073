"""Brings the database up to date and makes the demo workshop with its jobs, once."""

from pathlib import Path

from django.core.management import call_command
from django.core.management.base import BaseCommand
from django.db import transaction
from strom_engine.interchange import parse_job_text

from apps.accounts.actions import DEMO_USERNAME
from apps.accounts.models import Role, User, Workshop
from apps.accounts.permissions import Writer
from apps.build.demo import half_build, keep_demo_prices
from apps.days.actions import new_plan
from apps.jobs.actions import import_job
from apps.jobs.models import Job, WorkState
from apps.logbook.demo import demo_log

DEMO_DATA = Path(__file__).resolve().parents[3] / "jobs/demo_data"
# In the order of the list on screen, the last one loaded first; each with its first plans of a
# day, and by which school they are handled.
FILES = {
    "grey_plover.json": (("weekend", "c"),),
    "ebb_tide.json": (("weekend", "d"), ("passage", "d")),
    "pilot_3.json": (("day_trip", "c"),),
    "marsh_wren.json": (("weekend", "a"), ("day_trip", "a"), ("passage", "a")),
}
KEPT = {
    "grey_plover.json": {"state": WorkState.PROPOSED, "owner": "Owner, motor yacht"},
    "ebb_tide.json": {"state": WorkState.PROPOSED, "owner": "Charter company"},
    "pilot_3.json": {"state": WorkState.SURVEYED, "owner": "Pilot station"},
    "marsh_wren.json": {
        "state": WorkState.BUILDING,
        "owner": "Owner, motor-sailer",
        "contact": "Lannholm, east jetty 14; by radio after six",
    },
}
HALF_BUILT = "marsh_wren.json"
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
            User.objects.create_user(DEMO_USERNAME, workshop=workshop, role=Role.OWNER)
            for name, plans in FILES.items():
                text = (DEMO_DATA / name).read_bytes()
                job = import_job(workshop, Writer(), parse_job_text(text))
                Job.objects.filter(pk=job.pk).update(**KEPT[name])
                for ready, school in plans:
                    new_plan(job.variants.get(place=0), ready, None, school)
                if name == HALF_BUILT:
                    chosen = job.variants.get(chosen=True)
                    keep_demo_prices(chosen)
                    half_build(chosen)
                    demo_log(job.variants.get(place=0))
        self.stdout.write(f"Loaded {len(FILES)} demo jobs for {WORKSHOP}.")
