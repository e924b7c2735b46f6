"""The connection pool and the migrations."""

from __future__ import annotations

from pathlib import Path

from peewee import DatabaseProxy
from playhouse.migrations import Runner
from playhouse.postgres_ext import PooledPsycopg3Database

proxy = DatabaseProxy()
#: Any number will do, as long as every migrating process takes the same.
_MIGRATION_LOCK = 7_203_114
MIGRATIONS = Path(__file__).parent / "migrations"


def connect(url: str, max_connections: int = 40) -> PooledPsycopg3Database:
    """Bind the tables to the database at ``url``; connections are opened when first needed."""
    database = PooledPsycopg3Database(url, max_connections=max_connections, stale_timeout=300, timeout=10)
    proxy.initialize(database)
    return database


def migrate(database: PooledPsycopg3Database) -> list[str]:
    """Bring the tables up to date; returns the names of the migrations that were applied.

    Two processes may do this at once: the second waits for the first.
    """
    with database.connection_context():
        database.execute_sql("SELECT pg_advisory_lock(%s)", (_MIGRATION_LOCK,))
        try:
            return list(Runner(database, str(MIGRATIONS)).up())
        finally:
            database.execute_sql("SELECT pg_advisory_unlock(%s)", (_MIGRATION_LOCK,))
