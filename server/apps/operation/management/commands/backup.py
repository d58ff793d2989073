"""Back up the whole database to one file, checked after writing."""

from __future__ import annotations

from argparse import ArgumentParser
from datetime import UTC, datetime
from pathlib import Path

from django.core.management.base import BaseCommand, CommandError

from apps.operation.backups import BackupError, back_up


class Command(BaseCommand):
    """It may run while people work: the backup is of one moment."""

    help = __doc__

    def add_arguments(self, parser: ArgumentParser) -> None:
        parser.add_argument("file", nargs="?", type=Path, help="strom-<time>.backup if left out")

    def handle(self, *args: object, file: Path | None, **options: object) -> None:
        path = file or Path(f"strom-{datetime.now(UTC):%Y%m%d-%H%M%S}.backup")
        try:
            told = back_up(path.absolute())
        except BackupError as error:
            raise CommandError(str(error)) from None
        jobs, size = told.rows.get("jobs_job", 0), path.stat().st_size / 1e6
        self.stdout.write(f"{path}: {jobs} jobs, {size:.1f} MB, read back and whole")
