"""Restore a backup into an empty installation."""

from __future__ import annotations

from argparse import ArgumentParser
from pathlib import Path

from django.core.management.base import BaseCommand, CommandError

from apps.operation.backups import BackupError, restore


class Command(BaseCommand):
    """All or nothing; a backup of an older version is brought to this one."""

    help = __doc__

    def add_arguments(self, parser: ArgumentParser) -> None:
        parser.add_argument("file", type=Path)

    def handle(self, *args: object, file: Path, **options: object) -> None:
        try:
            told = restore(file)
        except BackupError as error:
            raise CommandError(str(error)) from None
        jobs = told.rows.get("jobs_job", 0)
        self.stdout.write(f"{jobs} jobs as of {told.made:%Y-%m-%d %H:%M} UTC, every row there")
