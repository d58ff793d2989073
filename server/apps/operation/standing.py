"""At which migrations this version stands, and at which the database does."""

from __future__ import annotations

from functools import cache

from django.db import connection
from django.db.migrations.loader import MigrationLoader
from django.db.migrations.recorder import MigrationRecorder

__all__ = ["applied", "known"]

Migration = tuple[str, str]


@cache
def known() -> frozenset[Migration]:
    """Migrations of this version, those that were folded into a later one among them."""
    loader = MigrationLoader(None)
    folded = {old for one in loader.disk_migrations.values() for old in one.replaces}
    return frozenset(loader.disk_migrations) | folded


def applied() -> frozenset[Migration]:
    """Migrations that the database has. Raises DatabaseError."""
    return frozenset(MigrationRecorder(connection).applied_migrations())
