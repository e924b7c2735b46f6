"""A whole installation out, and another's in."""

from __future__ import annotations

import tempfile
from datetime import date
from typing import Any

from flask import Response, send_file
from flask_openapi3 import APIBlueprint

from velvet_hand.exchange import archive

from .bodies import read_into
from .errors import ARCHIVE, documented
from .schemas import Out
from .setups import _answer

bp = APIBlueprint("exchange", __name__, url_prefix="/api", abp_responses=documented(422))
#: No archive is larger than this, packed.
MOST = 300 * 2**20
#: So much of one is kept in memory; the rest in a file that goes when it is read.
IN_MEMORY = 8 * 2**20
_ZIP: dict[str | int, Any] = {
    "200": {
        "description": "The archive",
        "content": {"application/zip": {"schema": {"type": "string", "format": "binary"}}},
    }
}


class TakenOut(Out):
    """What was read back: things and set-ups that were added, and how many were there already."""

    things: int
    setups: int
    known: int


@bp.get(ARCHIVE.removeprefix("/api"), summary="Everything in one file", responses=_ZIP)
def take_everything() -> Response:
    """Shop and set-ups as a zip of JSON; another installation reads it back."""
    made = tempfile.SpooledTemporaryFile(max_size=IN_MEMORY)  # noqa: SIM115 - it is sent after this, and closed then
    archive.write(made)
    made.seek(0)
    name = f"velvet-hand-{date.today().isoformat()}.zip"
    answer = send_file(made, mimetype="application/zip", as_attachment=True, download_name=name)
    answer.call_on_close(made.close)
    return answer


@bp.post(ARCHIVE.removeprefix("/api"), summary="Read an archive back", responses={200: TakenOut, **documented(413)})
def read_back() -> Response:
    """The body is the file. All of it is kept, or nothing."""
    with tempfile.SpooledTemporaryFile(max_size=IN_MEMORY) as kept:
        refused = read_into(kept, MOST, "That is more than any archive of a shop.", "Send an archive of Velvet Hand.")
        if refused is not None:
            return refused
        kept.seek(0)
        taken = archive.read_back(kept)
    return _answer(TakenOut(things=taken.things, setups=taken.setups, known=taken.known))
