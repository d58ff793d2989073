"""Adds a person to a workshop; the workshop is made when there is none of that name."""

import getpass
from argparse import ArgumentParser

from django.contrib.auth.password_validation import validate_password
from django.core.exceptions import ValidationError
from django.core.management.base import BaseCommand, CommandError

from apps.accounts.models import Role, User, Workshop


class Command(BaseCommand):
    """``manage.py add_person --workshop NAME --username NAME``; asks for the password.

    The first one of a workshop is its owner, who invites the others in the program.
    """

    help = __doc__

    def add_arguments(self, parser: ArgumentParser) -> None:
        parser.add_argument("--workshop", required=True)
        parser.add_argument("--username", required=True)
        parser.add_argument("--password", help="asked for when it is not given")
        parser.add_argument("--role", choices=Role.values, default=Role.OWNER)

    def handle(self, *args: object, **options: str | None) -> None:
        username, name = str(options["username"]), str(options["workshop"])
        if User.objects.filter(username=username).exists():
            raise CommandError(f"there is already a person called {username}")
        password = options["password"] or getpass.getpass(f"Password for {username}: ")
        try:
            validate_password(password, User(username=username))
        except ValidationError as error:
            raise CommandError(" ".join(error.messages)) from None
        workshop, _ = Workshop.objects.get_or_create(name=name)
        User.objects.create_user(
            username, password=password, workshop=workshop, role=options["role"]
        )
        self.stdout.write(f"Added {username} to {workshop}.")
