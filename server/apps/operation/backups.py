"""Backups: the whole database in one file, consistent while in use, checked after writing.

A backup is a zip of ``manifest.json`` and ``database.dump``, a dump of PostgreSQL in its own
compressed format. Photographs, records and studies are in the database, so they are in it.
Sessions are not: nobody is signed in after a restore.
"""

from __future__ import annotations

import hashlib
import os
import shutil
import subprocess
import tempfile
import zipfile
from collections.abc import Sequence
from datetime import UTC, datetime
from pathlib import Path
from typing import IO

import psycopg
from django.core.management import call_command
from django.db import connection
from psycopg import sql
from pydantic import AwareDatetime, BaseModel, ValidationError

from apps.operation.standing import known

__all__ = ["BackupError", "Manifest", "back_up", "check", "restore"]

FORMAT = 1
MANIFEST, DUMP = "manifest.json", "database.dump"
SESSIONS = ("accounts_session", "django_session")
MIGRATIONS = "django_migrations"
# What somebody would miss: a database that holds any of it is not overwritten.
HOLDS = ("jobs_job", "accounts_user", "accounts_workshop")
CHUNK = 1 << 20


class BackupError(Exception):
    """Why a backup cannot be made, read or restored, in words."""


class Manifest(BaseModel):
    """What a backup holds: rows by table, the migrations it stands at, the sum of its dump."""

    format: int
    made: AwareDatetime
    migrations: list[tuple[str, str]]
    rows: dict[str, int]
    sha256: str


# -- making ------------------------------------------------------------------------------------


def back_up(path: Path) -> Manifest:
    """Write a backup to a new file and read it back.

    The dump and the count of its rows are of one moment, whatever is saved meanwhile. The file
    appears under its name when it is whole. Raises BackupError.
    """
    if path.exists():
        raise BackupError(f"{path} is there already; a backup overwrites nothing")
    if not path.parent.is_dir():
        raise BackupError(f"there is no folder {path.parent}")
    part = path.with_name(f"{path.name}.partial")
    with tempfile.TemporaryDirectory(dir=path.parent, prefix=".backup-") as folder:
        dump = Path(folder) / DUMP
        with _connected() as db:
            db.execute("SET TRANSACTION ISOLATION LEVEL REPEATABLE READ, READ ONLY")
            snapshot = _value(db, "SELECT pg_export_snapshot()")
            rows = _rows(db)
            if MIGRATIONS not in rows:
                raise BackupError("the database has no table yet: there is nothing to back up")
            migrations = _migrations(db)
            options = ["--format=custom", "--no-owner", "--no-privileges", f"--file={dump}"]
            left_out = [f"--exclude-table-data={table}" for table in SESSIONS]
            _run("pg_dump", [*options, f"--snapshot={snapshot}", *left_out])
        with dump.open("rb") as file:
            told = Manifest(
                format=FORMAT,
                made=datetime.now(UTC),
                migrations=migrations,
                rows=rows,
                sha256=_sum(file),
            )
        try:
            with zipfile.ZipFile(part, "w", zipfile.ZIP_STORED) as archive:
                archive.writestr(MANIFEST, told.model_dump_json(indent=2))
                archive.write(dump, DUMP)
            check(part)
            with part.open("rb") as file:
                os.fsync(file.fileno())
            part.rename(path)
        finally:
            part.unlink(missing_ok=True)
    return told


# -- reading -----------------------------------------------------------------------------------


def check(path: Path) -> Manifest:
    """Read a backup to its end: what it says of itself. Raises BackupError."""
    with tempfile.TemporaryDirectory(prefix="strom-backup-") as folder:
        told, dump = _unpacked(path, Path(folder))
        # Everything is unpacked and written as statements, to nowhere.
        _run("pg_restore", [f"--file={os.devnull}", str(dump)], connected=False)
    return told


def restore(path: Path) -> Manifest:
    """Put a backup into an empty installation, and bring that to this version.

    It is all or nothing: a restore that fails leaves no table. Raises BackupError for a file that
    is damaged or of a newer version, for a database that holds anything, and for rows that are not
    there afterwards.
    """
    with tempfile.TemporaryDirectory(prefix="strom-restore-") as folder:
        told, dump = _unpacked(path, Path(folder))
        _refuse_newer(told)
        with _connected() as db:
            _refuse_full(db)
            _clear(db)
        options = ["--single-transaction", "--exit-on-error", "--no-owner", "--no-privileges"]
        name = str(connection.settings_dict["NAME"])
        _run("pg_restore", [*options, f"--dbname={name}", str(dump)])
        with _connected() as db:
            found = _rows(db)
            wrong = [t for t in told.rows if found.get(t) != told.rows[t]]
            if wrong:
                _clear(db)
    if wrong:
        rows = ", ".join(f"{t}: {found.get(t)} of {told.rows[t]}" for t in wrong)
        raise BackupError(f"rows are missing after the restore: {rows}")
    connection.close()
    call_command("migrate", verbosity=0, interactive=False)
    return told


def _unpacked(path: Path, folder: Path) -> tuple[Manifest, Path]:
    """The manifest and the dump of a backup, with its sum checked."""
    dump = folder / DUMP
    try:
        with zipfile.ZipFile(path) as archive:
            told = Manifest.model_validate_json(archive.read(MANIFEST))
            with archive.open(DUMP) as packed, dump.open("wb") as file:
                shutil.copyfileobj(packed, file, CHUNK)
    except FileNotFoundError:
        raise BackupError(f"there is no file {path}") from None
    except (zipfile.BadZipFile, KeyError, ValidationError, OSError, EOFError) as error:
        raise BackupError(f"{path} is no whole backup: {error}") from None
    if told.format > FORMAT:
        raise BackupError(f"{path} has format {told.format}; this version reads {FORMAT}")
    with dump.open("rb") as file:
        if _sum(file) != told.sha256:
            raise BackupError(f"{path} is damaged: the sum of its dump is another one")
    return told, dump


def _refuse_newer(told: Manifest) -> None:
    newer = [".".join(one) for one in told.migrations if one not in known()]
    if newer:
        raise BackupError(f"the backup is of a newer version: {', '.join(newer)} is not known here")


def _refuse_full(db: psycopg.Connection) -> None:
    there = _rows(db)
    full = {table: there[table] for table in HOLDS if there.get(table)}
    if full:
        held = ", ".join(f"{n} rows of {table}" for table, n in full.items())
        raise BackupError(f"the database is not empty: {held}. Restore into a new one")


# -- PostgreSQL --------------------------------------------------------------------------------


def _connected() -> psycopg.Connection:
    """A connection of its own to the database of this installation, closed at the end of with."""
    told = connection.get_connection_params()
    keys = ("dbname", "user", "password", "host", "port")
    return psycopg.connect(**{key: told[key] for key in keys if told.get(key)})


def _clear(db: psycopg.Connection) -> None:
    """Leave no table."""
    db.execute("DROP SCHEMA public CASCADE")
    db.execute("CREATE SCHEMA public")


def _migrations(db: psycopg.Connection) -> list[tuple[str, str]]:
    """At which migrations the database stands in the snapshot of this connection."""
    statement = sql.SQL("SELECT app, name FROM {} ORDER BY app, name")
    return db.execute(statement.format(sql.Identifier(MIGRATIONS))).fetchall()


def _value(db: psycopg.Connection, statement: str) -> str:
    row = db.execute(statement.encode()).fetchone()
    return str(row[0]) if row else ""


def _rows(db: psycopg.Connection) -> dict[str, int]:
    """Rows by table, but of sessions."""
    found = db.execute("SELECT tablename FROM pg_tables WHERE schemaname = 'public'").fetchall()
    count = sql.SQL("SELECT count(*) FROM {}")
    rows = {}
    for (table,) in sorted(found):
        if table not in SESSIONS:
            row = db.execute(count.format(sql.Identifier(table))).fetchone()
            rows[str(table)] = int(row[0]) if row else 0
    return rows


def _run(tool: str, arguments: Sequence[str], *, connected: bool = True) -> None:
    """Run a tool of PostgreSQL on the database of this installation."""
    told = connection.get_connection_params()
    names = {"dbname": "PGDATABASE", "user": "PGUSER", "host": "PGHOST", "port": "PGPORT"}
    names |= {"password": "PGPASSWORD"}
    environment = {names[key]: str(told[key]) for key in names if told.get(key)}
    done = subprocess.run(
        [_tool(tool), *arguments],
        env=os.environ | (environment if connected else {}),
        capture_output=True,
        text=True,
    )
    if done.returncode:
        raise BackupError(f"{tool} failed: {done.stderr.strip() or done.returncode}")


def _tool(name: str) -> str:
    """Where a tool of PostgreSQL is: in the path, or where Debian puts the newest one."""
    places = sorted(Path("/usr/lib/postgresql").glob(f"*/bin/{name}"), key=_version)
    found = str(places[-1]) if places else shutil.which(name)
    if not found:
        raise BackupError(f"{name} is not installed: it comes with the clients of PostgreSQL")
    return found


def _version(path: Path) -> float:
    name = path.parents[1].name
    return float(name) if name.replace(".", "", 1).isdigit() else 0.0


def _sum(file: IO[bytes]) -> str:
    found = hashlib.sha256()
    while chunk := file.read(CHUNK):
        found.update(chunk)
    return found.hexdigest()
