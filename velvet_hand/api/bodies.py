"""Bodies that are files: read bit by bit, never more than is allowed, from a sender who goes on sending."""

from __future__ import annotations

from typing import IO

from flask import Response, request
from werkzeug.exceptions import ClientDisconnected, RequestEntityTooLarge

from .errors import SLOW_S, drain, problem


def read_into(kept: IO[bytes], most: int, too_big: str, fix: str) -> Response | None:
    """Read the body into a file; the answer to give when that does not work."""
    request.max_content_length = most
    connection = request.environ.get("gunicorn.socket")
    if connection is not None:
        connection.settimeout(SLOW_S)
    try:
        while chunk := request.stream.read(2**16):
            kept.write(chunk)
    except ClientDisconnected:
        return problem(408, "too_slow", "The rest of that never came.", "Send it again.")
    except RequestEntityTooLarge:
        drain()
        return problem(413, "too_big", too_big, fix)
    return None
