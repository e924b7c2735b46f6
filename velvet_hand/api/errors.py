"""Every error as problem details (RFC 9457), in shop words. The one table of statuses."""

from __future__ import annotations

import logging
import os
import unicodedata
from collections.abc import Mapping, Sequence
from ipaddress import ip_address
from typing import Any, Literal
from urllib.parse import urlsplit

from flask import Flask, Response, json, request
from peewee import DataError, IntegrityError, PeeweeException
from pydantic import BaseModel, ValidationError
from werkzeug.exceptions import ClientDisconnected, HTTPException, RequestEntityTooLarge

from velvet_hand.core.errors import BadInput, ErrorCode, NotFound, NotNow, VelvetHandError

FAULTS = logging.getLogger("velvet_hand.faults")
STATUS: dict[type[VelvetHandError], int] = {BadInput: 422, NotNow: 409, NotFound: 404}
TITLE = {
    400: "That could not be read",
    403: "Not from there",
    404: "Not here",
    409: "The set-up has moved on",
    413: "Too much at once",
    415: "That could not be read",
    422: "Something needs correcting",
    500: "Something went wrong here",
    503: "Not just now",
}
#: Pydantic's error types in shop words; what is not here keeps pydantic's own sentence.
WORDS = {
    "missing": "This is needed.",
    "string_too_short": "Nothing was typed here.",
    "string_too_long": "This is too long.",
    "float_parsing": "This is not a number.",
    "float_type": "This is not a number.",
    "int_parsing": "This is not a whole number.",
    "int_type": "This is not a whole number.",
    "bool_type": "This is neither yes nor no.",
    "string_type": "This is not a text.",
    "tuple_type": "This is not a list.",
    "list_type": "This is not a list.",
    "finite_number": "This is not a number.",
    "extra_forbidden": "This is not known here.",
    "uuid_parsing": "This is not an id.",
    "union_tag_invalid": "This kind of event is not known here.",
    "union_tag_not_found": "An event has to say what it is.",
    "date_from_datetime_parsing": "This is not a date. Type it as 2026-03-31.",
    "too_long": "These are too many.",
    "value_error": "",
    "timezone_aware": "A time needs its time zone.",
}
Code = ErrorCode | Literal["fault"]


class Complaint(BaseModel):
    """One complaint, at a field (dotted path, or empty when it is about the whole)."""

    field: str
    detail: str
    fix: str
    code: Code


class Problem(BaseModel):
    """What the server says when something does not work (RFC 9457)."""

    type: str
    title: str
    status: int
    detail: str
    code: Code
    fix: str
    errors: list[Complaint]


def documented(*statuses: int) -> dict[str | int, Any]:
    """Responses for the OpenAPI document."""
    content = {"application/problem+json": {"schema": {"$ref": "#/components/schemas/Problem"}}}
    return {str(s): {"description": TITLE[s], "content": content} for s in statuses}


def gives(content_type: str) -> dict[str | int, Any]:
    """A file as the answer, for the OpenAPI document."""
    schema = {"type": "object"} if content_type.endswith("json") else {"type": "string"}
    if not content_type.startswith("text/") and not content_type.endswith("json"):
        schema["format"] = "binary"
    return {"200": {"description": "The file", "content": {content_type: {"schema": schema}}}}


def problem(status: int, code: Code, detail: str, fix: str = "", errors: Sequence[Complaint] = ()) -> Response:
    """A problem details response."""
    body = Problem(
        type=f"urn:velvet-hand:{code}",
        title=TITLE.get(status, "That did not work"),
        status=status,
        detail=detail,
        code=code,
        fix=fix,
        errors=list(errors),
    )
    return Response(body.model_dump_json(), status=status, content_type="application/problem+json")


def from_error(error: VelvetHandError) -> Response:
    """One of our own errors."""
    entry = Complaint(field=error.field, detail=error.why, fix=error.fix, code=error.code)
    return problem(STATUS[type(error)], error.code, error.why, error.fix, [entry] if error.field else [])


def from_validation(error: ValidationError) -> Response:
    """A body or query that is not what it should be."""
    found = []
    for item in error.errors(include_url=False, include_input=False, include_context=False):
        field = ".".join(str(part) for part in item["loc"])
        words = WORDS.get(item["type"]) or item["msg"].removeprefix("Value error, ")
        found.append(Complaint(field=field, detail=words, fix="", code="field_invalid"))
    detail = found[0].detail if found else "This cannot be used."
    where = f" ({found[0].field})" if found and found[0].field else ""
    return problem(422, "field_invalid", detail + where, "Correct the marked field.", found)


#: A body that stands still for so long is given up.
SLOW_S = 3.0
#: Where whole installations come and go; its body is no JSON.
ARCHIVE = "/api/archive"
#: The end of the addresses that take photos.
PHOTOS = "/photos"
#: Letters that change the direction of writing for what follows.
_TURNS = "\u202a\u202b\u202c\u202d\u202e\u2066\u2067\u2068\u2069"


def _has_odd_text(value: Any) -> bool:
    """Characters that no database keeps, that nobody types, or that turn round what stands beside them."""
    if isinstance(value, str):
        return any((unicodedata.category(c) in ("Cc", "Cs") and c not in "\n\r\t") or c in _TURNS for c in value)
    if isinstance(value, Mapping):
        return any(_has_odd_text(v) or _has_odd_text(k) for k, v in value.items())
    return isinstance(value, list) and any(_has_odd_text(v) for v in value)


def check_body() -> Response | None:
    """Before any view: a body has to be JSON, of a sensible size, in plain text."""
    if not request.path.startswith("/api/"):
        return None
    if not _known_host(request.host) or _from_elsewhere():
        return problem(403, "not_from_here", "This came from another site.", "Open the application’s own address.")
    if request.method not in ("POST", "PUT"):
        return None
    if (request.path == ARCHIVE or request.path.endswith(PHOTOS)) and request.method == "POST":
        return None  # it is read bit by bit, and looked at there
    if request.mimetype != "application/json":
        return problem(415, "not_json", "The body is not called JSON.", "Send JSON, as the page does.")
    connection = request.environ.get("gunicorn.socket")
    if connection is not None:
        connection.settimeout(SLOW_S)  # a thread is not given to a sender who stops half-way
    try:
        raw = request.get_data(cache=True)
    except ClientDisconnected:
        return problem(408, "too_slow", "The rest of that never came.", "It is sent again by itself.")
    except RequestEntityTooLarge:
        drain()
        return problem(413, "too_big", "That is more than this application takes at once.", "Send less.")
    try:
        parsed = json.loads(raw)
    except (ValueError, RecursionError):
        return problem(400, "not_json", "The body is not JSON.", "Send JSON, as the page does.")
    if not isinstance(parsed, dict):
        return problem(400, "not_json", "The body is JSON, but not an object.", "Send an object, as the page does.")
    try:
        odd = _has_odd_text(parsed)
    except RecursionError:
        return problem(400, "not_json", "The body is nested too deep.", "Send JSON, as the page does.")
    if odd:
        return problem(422, "bad_text", "There are characters in it that cannot be kept.", "Type it again.")
    return None


def _known_host(host: str) -> bool:
    """Is the application asked for by a number, by a name of the shop's own network, or as it was told to be called?

    A page from outside can make a name of its own point here; then the browser believes that both are one site.
    """
    name = host.rsplit(":", 1)[0] if not host.endswith("]") else host
    if name.startswith("["):
        return True
    own = (os.environ.get("VELVET_NAME", ""), "localhost")
    return name in own or "." not in name or name.endswith((".local", ".lan", ".home.arpa")) or _is_number(name)


def _is_number(name: str) -> bool:
    try:
        ip_address(name)
    except ValueError:
        return False
    return True


def _from_elsewhere() -> bool:
    """Does the browser say that another site's page asks?"""
    if request.headers.get("Sec-Fetch-Site", "same-origin") not in ("same-origin", "none"):
        return True
    origin = request.headers.get("Origin")
    return origin is not None and urlsplit(origin).netloc != request.host


def drain(limit: int = 64 * 1024 * 1024) -> None:
    """Read what is still coming, so that the client gets to see the answer."""
    stream = request.environ["wsgi.input"]
    while limit > 0 and (chunk := stream.read(64 * 1024)):
        limit -= len(chunk)


def install(app: Flask) -> None:
    """Answer every error of this application as problem details."""
    app.before_request(check_body)
    app.register_error_handler(VelvetHandError, from_error)
    app.register_error_handler(ValidationError, _from_the_store)
    app.register_error_handler(Exception, _from_a_fault)
    app.register_error_handler(HTTPException, _from_http)
    app.register_error_handler(PeeweeException, _from_database)


def _from_http(error: HTTPException) -> Response:
    status = error.code or 500
    code: Code = "unknown_thing" if status == 404 else "fault" if status >= 500 else "field_invalid"
    return problem(status, code, error.description or "That did not work.", "")


def _from_the_store(error: ValidationError) -> Response:
    """What a person sent is looked at before; so this was kept, and cannot be read. That is never the person's mistake."""
    return _fault(error, "Something that is kept here cannot be read. What you sent was not the reason.")


def _from_a_fault(error: Exception) -> Response:
    """A mistake of the program: it stands in the log, and the page can go on."""
    return _fault(error, "The program made a mistake. Nothing of what was kept before is lost.")


def _fault(error: Exception, why: str) -> Response:
    """Written down with where it came from."""
    FAULTS.error("%s %s: %s", request.method, request.path, why, exc_info=error)
    return problem(500, "fault", why, "It stands in the server’s log; tell whoever looks after it.")


def _from_database(error: PeeweeException) -> Response:
    """The database refuses the content, or it is away: then nothing was kept, and the client tries again."""
    if isinstance(error, DataError):
        return problem(422, "bad_text", "There is something in it that cannot be kept.", "Type it again.")
    if isinstance(error, IntegrityError):
        return problem(409, "stale", "Somebody was quicker.", "Look at the screen again.")
    return problem(503, "busy", "The database does not answer just now. Nothing was lost.", "It is tried again.")
