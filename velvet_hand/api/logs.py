"""What the server writes down: one line a request, and every fault with where it came from."""

from __future__ import annotations

import logging
import time
from logging.handlers import RotatingFileHandler
from pathlib import Path

from flask import Flask, Response, g, request

REQUESTS = logging.getLogger("velvet_hand.requests")
FORMAT = "%(asctime)s %(levelname)s %(name)s %(message)s"
#: A log of this size is put aside; so many are kept.
BYTES, KEPT = 2_000_000, 3


def write_to(path: Path | None) -> None:
    """Everything into a file that turns over; warnings and faults to the terminal as well (without a file only those)."""
    terminal = logging.StreamHandler()
    terminal.setLevel(logging.WARNING)
    handlers: list[logging.Handler] = [terminal]
    if path is not None:
        handlers.append(RotatingFileHandler(path, maxBytes=BYTES, backupCount=KEPT, encoding="utf-8"))
    logging.basicConfig(level=logging.INFO, format=FORMAT, handlers=handlers, force=True)


def install(app: Flask) -> None:
    """Write a line for each request: what was asked, the answer, its length, and how long it took."""
    app.before_request(_begin)
    app.after_request(_end)


def _begin() -> None:
    g.began = time.perf_counter()


def _end(response: Response) -> Response:
    took_ms = 1000 * (time.perf_counter() - g.get("began", time.perf_counter()))
    length = "-" if response.content_length is None else response.content_length
    REQUESTS.info(
        "%s %s %d %s %.1f ms", request.method, request.full_path.rstrip("?"), response.status_code, length, took_ms
    )
    return response
