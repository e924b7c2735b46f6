"""Environment to one frozen Settings. Read by api and cli only."""

from __future__ import annotations

import os
from dataclasses import dataclass
from pathlib import Path

ROOT = Path(__file__).resolve().parent.parent


@dataclass(frozen=True, slots=True)
class Settings:
    """Where the database is, where the built front end lies, where the log goes, and the limits of the door."""

    database_url: str
    web_dir: Path
    log: Path | None = None
    max_body_bytes: int = 256 * 1024
    max_streams: int = 20
    max_needles: int = 24


def from_environment() -> Settings:
    """Settings from ``VELVET_DATABASE_URL``, ``VELVET_WEB_DIR`` and ``VELVET_LOG``.

    Raises
    ------
    SystemExit
        When the database is not named.
    """
    url = os.environ.get("VELVET_DATABASE_URL", "")
    if not url:
        raise SystemExit("VELVET_DATABASE_URL is not set. Start with ./velvet start, which sets it.")
    log = os.environ.get("VELVET_LOG")
    web = Path(os.environ.get("VELVET_WEB_DIR", str(ROOT / "web" / "dist")))
    return Settings(database_url=url, web_dir=web, log=Path(log) if log else None)
