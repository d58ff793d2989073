"""A worker of the queue: takes pieces of studies one after another until it is stopped."""

from asgiref.sync import async_to_sync
from django.core.management import call_command
from django.core.management.base import BaseCommand
from strom_engine.sizing.solar import DEFAULT_LATITUDE_DEG, clear_sky_w

from apps.days.tasks import take_up


class Command(BaseCommand):
    """Run any number of these against one database."""

    help = __doc__

    def handle(self, *args: object, **options: object) -> None:
        # What reckons the sun takes a second to load: better now than in the first day.
        clear_sky_w(DEFAULT_LATITUDE_DEG, 7)
        async_to_sync(take_up)()
        call_command("procrastinate", "worker", "--concurrency", "1", "--queues", "days")
