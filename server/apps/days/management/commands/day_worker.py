"""A worker of the queue: takes pieces of studies one after another until it is stopped.

When the database goes away it waits for it, for as long as that takes, and goes on.
"""

from __future__ import annotations

import asyncio
import logging
import os
import signal
from typing import cast

from django.core.management.base import BaseCommand
from procrastinate.contrib.django import app
from procrastinate.contrib.django.django_connector import DjangoConnector
from strom_engine.sizing.solar import DEFAULT_LATITUDE_DEG, clear_sky_w

from apps.days.tasks import take_up
from apps.jobs.queue import QUEUE

RETRY_S = 2.0
NICE = 5  # requests on the same cores go first: somebody waits at a screen for each
_log = logging.getLogger(__name__)


class Command(BaseCommand):
    """Run any number of these against one database."""

    help = __doc__

    def handle(self, *args: object, **options: object) -> None:
        os.nice(NICE)
        # What reckons the sun takes a second to load: better now than in the first day.
        clear_sky_w(DEFAULT_LATITUDE_DEG, 7)
        asyncio.run(_work_until_stopped())


async def _work_until_stopped() -> None:
    stop = asyncio.Event()
    loop = asyncio.get_running_loop()
    for sort in (signal.SIGINT, signal.SIGTERM):
        loop.add_signal_handler(sort, stop.set)
    while not stop.is_set():
        try:
            await _work(stop)
        except Exception as error:  # whatever ends a worker, it begins again
            _log.warning("worker: %s; trying again in %g s", error, RETRY_S)
            try:
                await asyncio.wait_for(stop.wait(), RETRY_S)
            except TimeoutError:
                continue


async def _work(stop: asyncio.Event) -> None:
    """Work until it is stopped. Raises what ended the work when nobody stopped it."""
    connector = cast(DjangoConnector, app.connector)
    with app.replace_connector(connector.get_worker_connector()):
        async with app.open_async():
            await take_up()
            run = app.run_worker_async(queues=[QUEUE], concurrency=1, install_signal_handlers=False)
            worker, stopped = asyncio.ensure_future(run), asyncio.ensure_future(stop.wait())
            await asyncio.wait({worker, stopped}, return_when=asyncio.FIRST_COMPLETED)
            stopped.cancel()
            if stop.is_set():
                worker.cancel()
                await asyncio.gather(worker, return_exceptions=True)
                return
            worker.result()
            raise RuntimeError("the queue ended by itself")
