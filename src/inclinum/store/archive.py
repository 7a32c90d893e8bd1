"""Backup and restore: the whole database as one archive that proves itself.

An archive is a ZIP: ``manifest.json`` and one member for each table, in PostgreSQL's own text form, which brings every
number, time and document back exactly. The manifest has each table's columns, its rows and the SHA-256 of its member.
Reading happens in one snapshot, so a backup may be made while others save; a restore is one transaction: it is there
whole, with the hashes it was made with, or nothing happened.
"""

import hashlib
import os
import zipfile
from collections.abc import Iterator
from contextlib import suppress
from datetime import UTC, datetime
from pathlib import Path
from typing import Any, Literal, cast

import psycopg
from alembic.runtime.migration import MigrationContext
from alembic.script import ScriptDirectory
from psycopg import sql
from pydantic import BaseModel, ValidationError
from sqlalchemy import Connection, Engine, text

from inclinum import __version__
from inclinum.core.document.errors import DomainError
from inclinum.store.database import SCRIPTS, migrate
from inclinum.store.models import Base

CHUNK = 1 << 20


class ArchiveError(DomainError):
    """It cannot be backed up or restored; the message is a sentence with the way out."""


class Table(BaseModel):
    """One table of an archive."""

    columns: list[str]
    rows: int
    sha256: str


class Manifest(BaseModel):
    """What an archive says of itself."""

    format: Literal["inclinum-backup"] = "inclinum-backup"
    version: Literal[1] = 1
    program: str
    revision: str
    """Of the database's schema."""
    made_at: datetime
    tables: dict[str, Table]

    def summary(self) -> str:
        """What is in it, in words."""
        many = {name: table.rows for name, table in self.tables.items()}
        return (
            f"{many.get('job', 0)} jobs, {many.get('vehicle', 0)} vehicles, {many.get('event', 0)} lines of history, "
            f"{sum(many.values())} rows in all"
        )


def back_up(engine: Engine, file: Path) -> Manifest:
    """Write an archive, and read it again before it gets its name.

    Args:
        engine: the database; others may go on using it.
        file: where; it must not be there yet.

    Raises:
        ArchiveError: the file is there, or cannot be written; or what was written does not read back.
    """
    if file.exists():
        raise ArchiveError(f"{file} is there already; nothing is written over a backup. Give another name.")
    part = file.with_name(file.name + ".part")
    try:
        with os.fdopen(os.open(part, os.O_RDWR | os.O_CREAT | os.O_TRUNC, 0o600), "w+b") as out:
            manifest = _write(engine, out)
            out.flush()
            os.fsync(out.fileno())
        if read_manifest(part) != manifest:
            raise ArchiveError(f"{file}: what was written does not read back as it was; the disk may be failing.")
        part.rename(file)
    except OSError as error:
        raise ArchiveError(f"{file} cannot be written: {error.strerror}.") from None
    finally:
        with suppress(OSError):
            part.unlink(missing_ok=True)
    return manifest


def _write(engine: Engine, out: Any) -> Manifest:
    tables: dict[str, Table] = {}
    with (
        engine.connect().execution_options(isolation_level="REPEATABLE READ") as connection,
        zipfile.ZipFile(out, "w", zipfile.ZIP_DEFLATED, compresslevel=6) as archive,
    ):
        connection.execute(text("SET TRANSACTION READ ONLY"))
        connection.execute(text("SET LOCAL statement_timeout = 0"))
        for name in Base.metadata.tables:
            columns = _columns(connection, name)
            digest = hashlib.sha256()
            with archive.open(f"tables/{name}", "w", force_zip64=True) as member:
                for data in _copied_out(connection, name, columns):
                    digest.update(data)
                    member.write(data)
            rows = connection.execute(text(f'SELECT count(*) FROM "{name}"')).scalar_one()
            tables[name] = Table(columns=columns, rows=rows, sha256=digest.hexdigest())
        manifest = Manifest(
            program=__version__, revision=_revision(connection), made_at=datetime.now(UTC), tables=tables
        )
        archive.writestr("manifest.json", manifest.model_dump_json(indent=1))
    return manifest


def read_manifest(file: Path) -> Manifest:
    """What an archive says of itself, after every member was read and its hash compared.

    Raises:
        ArchiveError: it is no archive of ours, or not as it was made.
    """
    try:
        with zipfile.ZipFile(file) as archive:
            manifest = Manifest.model_validate_json(archive.read("manifest.json"))
            for name, table in manifest.tables.items():
                digest, rows = hashlib.sha256(), 0
                for data in _member(archive, name):
                    digest.update(data)
                    rows += data.count(b"\n")
                if (digest.hexdigest(), rows) != (table.sha256, table.rows):
                    raise ArchiveError(f"{file}: the table {name} is not as it was when the backup was made.")
    except OSError as error:
        raise ArchiveError(f"{file} cannot be read: {error.strerror}.") from None
    except (zipfile.BadZipFile, KeyError, ValidationError, EOFError, NotImplementedError, RuntimeError):
        raise ArchiveError(f"{file} is no backup of Inclinum, or it is cut off.") from None
    return manifest


def restore(engine: Engine, file: Path, replace: bool = False) -> Manifest:
    """Put an archive in place of what is in a database.

    Args:
        engine: the database.
        file: the archive; one made by an earlier version is brought up to this one.
        replace: also where there is something in the database; it is gone afterwards.

    Raises:
        ArchiveError: there is something in the database and nobody said ``replace``; the archive is damaged or of a
            later version; or what arrived is not what was sent. Nothing is changed then.
    """
    manifest = read_manifest(file)
    known = [s.revision for s in ScriptDirectory(str(SCRIPTS)).walk_revisions()]
    if manifest.revision not in known:
        raise ArchiveError(f"{file} was made by a later version ({manifest.program}); use that one to restore it.")
    with engine.begin() as connection:
        connection.execute(text("SET LOCAL statement_timeout = 0"))
        connection.execute(text("SET LOCAL lock_timeout = '30s'"))
        if not replace and (there := _rows_there(connection)):
            raise ArchiveError(
                f"There are {there} rows in this database already. Restore into an empty one, or say --replace: "
                "what is there is then gone."
            )
        connection.execute(text("DROP SCHEMA public CASCADE"))
        connection.execute(text("CREATE SCHEMA public"))
        migrate(connection, manifest.revision)
        _is_whole(connection, manifest, file)
        with zipfile.ZipFile(file) as archive:
            for name in _parents_first(connection, manifest.tables):
                try:
                    _copy_in(connection, name, manifest.tables[name].columns, _member(archive, name))
                except psycopg.Error as error:
                    said = str(error).strip().splitlines()[0]
                    raise ArchiveError(
                        f"{file}: its table {name} cannot be put in ({said}). Nothing was changed."
                    ) from None
        for name, table in manifest.tables.items():
            digest = hashlib.sha256()
            for data in _copied_out(connection, name, table.columns):
                digest.update(data)
            if digest.hexdigest() != table.sha256:
                raise ArchiveError(f"The table {name} did not arrive as it is in {file}; nothing was changed.")
            _count_on(connection, name)
        migrate(connection)
    with engine.connect() as connection:
        # Whoever served from it has prepared statements for tables that are gone; they come back by themselves.
        connection.execute(
            text(
                "SELECT pg_terminate_backend(pid) FROM pg_stat_activity"
                " WHERE datname = current_database() AND pid <> pg_backend_pid() AND backend_type = 'client backend'"
            )
        )
    return manifest


def _is_whole(connection: Connection, manifest: Manifest, file: Path) -> None:
    """Refuse an archive that leaves out a table or a column of its own revision, or brings one that it never had.

    Args:
        connection: a database at the archive's revision, in the restore's own transaction.
        manifest: of the archive.
        file: told to whoever restores it.
    """
    rows = connection.execute(
        text("SELECT table_name, column_name FROM information_schema.columns WHERE table_schema = 'public'")
    ).all()
    has: dict[str, list[str]] = {}
    for table, column in rows:
        if table != "alembic_version":
            has.setdefault(table, []).append(column)
    for name in sorted(has.keys() | manifest.tables.keys()):
        if name not in manifest.tables:
            raise ArchiveError(f"{file} is not whole: its table {name} is left out. Nothing was changed.")
        if name not in has:
            raise ArchiveError(f"{file} names a table {name[:60]}, which there never was. Nothing was changed.")
        if sorted(manifest.tables[name].columns) != sorted(has[name]):
            raise ArchiveError(f"{file}: the columns of its table {name} are not those it had. Nothing was changed.")


def _count_on(connection: Connection, table: str) -> None:
    """New rows are numbered on from those that came."""
    sequence = connection.scalar(
        text("SELECT pg_get_serial_sequence(:table, 'id') WHERE EXISTS (SELECT FROM information_schema.columns"
             " WHERE table_schema = 'public' AND table_name = :table AND column_name = 'id')"),
        {"table": table},
    )  # fmt: skip
    last = sequence and connection.scalar(text(f'SELECT max(id) FROM "{table}"'))
    if last:
        connection.execute(text("SELECT setval(:sequence, :last)"), {"sequence": sequence, "last": last})


def _rows_there(connection: Connection) -> int:
    tables = connection.execute(text("SELECT tablename FROM pg_tables WHERE schemaname = 'public'")).scalars().all()
    return sum(
        connection.execute(text(f'SELECT count(*) FROM "{t}"')).scalar_one() for t in tables if t != "alembic_version"
    )


def _revision(connection: Connection) -> str:
    return MigrationContext.configure(connection).get_current_revision() or ""


def _columns(connection: Connection, table: str) -> list[str]:
    rows = connection.execute(
        text(
            "SELECT column_name FROM information_schema.columns"
            " WHERE table_schema = 'public' AND table_name = :name ORDER BY ordinal_position"
        ),
        {"name": table},
    )
    return list(rows.scalars())


def _parents_first(connection: Connection, tables: dict[str, Table]) -> list[str]:
    """Tables in an order in which what is referred to is there first."""
    rows = connection.execute(
        text(
            "SELECT conrelid::regclass::text, confrelid::regclass::text FROM pg_constraint"
            " WHERE contype = 'f' AND connamespace = 'public'::regnamespace"
        )
    ).all()
    needs = {name: {b.strip('"') for a, b in rows if a.strip('"') == name} - {name} for name in tables}
    order: list[str] = []
    while len(order) < len(tables):
        order += [n for n in tables if n not in order and needs[n] <= set(order)]
    return order


def _quoted(table: str, columns: list[str]) -> tuple[sql.Composable, sql.Composable]:
    return sql.Identifier(table), sql.SQL(", ").join(map(sql.Identifier, columns))


def _raw(connection: Connection) -> psycopg.Connection[Any]:
    return cast("psycopg.Connection[Any]", connection.connection.driver_connection)


def _copied_out(connection: Connection, table: str, columns: list[str]) -> Iterator[bytes]:
    """A table in PostgreSQL's text form, in the order of its rows' text, so that equal tables give equal bytes."""
    name, listed = _quoted(table, columns)
    with _raw(connection).cursor() as cursor:
        key = sql.SQL("id") if "id" in columns else sql.SQL("job_id, name") if "job_id" in columns else sql.SQL("1")
        query = sql.SQL("COPY (SELECT {} FROM {} ORDER BY {}) TO STDOUT").format(listed, name, key)
        with cursor.copy(query) as copy:
            for data in copy:
                yield bytes(data)


def _copy_in(connection: Connection, table: str, columns: list[str], parts: Iterator[bytes]) -> None:
    name, listed = _quoted(table, columns)
    with (
        _raw(connection).cursor() as cursor,
        cursor.copy(sql.SQL("COPY {} ({}) FROM STDIN").format(name, listed)) as copy,
    ):
        for data in parts:
            copy.write(data)


def _member(archive: zipfile.ZipFile, table: str) -> Iterator[bytes]:
    with archive.open(f"tables/{table}") as member:
        while data := member.read(CHUNK):
            yield data
