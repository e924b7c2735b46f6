"""A whole installation out, and another's in."""

from __future__ import annotations

import io
import tempfile
from datetime import date

from flask import Response, json, request, send_file
from flask_openapi3 import APIBlueprint
from pydantic import BaseModel, Field

from velvet_hand.core.errors import NotFound
from velvet_hand.core.gauge import Gauge
from velvet_hand.core.units import Unit
from velvet_hand.exchange import archive, schemas
from velvet_hand.store import found, past, shop
from velvet_hand.store import setups as store

from .bodies import read_into
from .errors import ARCHIVE, documented, gives
from .logbook import asked_of
from .schemas import LogbookQuery, Out
from .setups import _answer

bp = APIBlueprint("exchange", __name__, url_prefix="/api", abp_responses=documented(422))
#: No archive is larger than this, packed.
MOST = 300 * 2**20
#: So much of one is kept in memory; the rest in a file that goes when it is read.
IN_MEMORY = 8 * 2**20


class TakenOut(Out):
    """What was read back: things and set-ups that were added, and how many were there already."""

    things: int
    setups: int
    known: int


@bp.get(ARCHIVE.removeprefix("/api"), summary="Everything in one file", responses=gives("application/zip"))
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


#: So many lines go into a workbook.
MOST_LINES = 20_000
_XLSX = "application/vnd.openxmlformats-officedocument.spreadsheetml.sheet"


class WorkbookQuery(LogbookQuery):
    """What to look for, and the unit of the figures."""

    unit: Unit = "mm"


@bp.get("/logbook.xlsx", summary="The Logbook as a workbook", responses=gives(_XLSX))
def logbook_xlsx(query: WorkbookQuery) -> Response:
    """What a search finds, a line a set-up, the latest 20,000 of them."""
    from velvet_hand.exchange import workbook  # a quarter of a second of a start, so only when it is needed

    made = io.BytesIO()
    workbook.write(made, found.lines(asked_of(query), MOST_LINES), query.unit)
    made.seek(0)
    return send_file(made, mimetype=_XLSX, as_attachment=True, download_name=f"logbook-{date.today().isoformat()}.xlsx")


@bp.get("/calendar.ics", summary="Days to remember", responses=gives("text/calendar"))
def calendar_ics() -> Response:
    """Checks of indicators, and follow-ups of set-ups that have a day."""
    from velvet_hand.exchange import calendar  # as above

    days = [
        calendar.Day(f"check-{gauge.id}", gauge.check_due, f"Check {gauge.name}", f"{request.host_url}shop")
        for gauge in map(store.checked, shop.all_of(Gauge))
        if gauge.check_due is not None
    ]
    days += [
        calendar.Day(
            one.id, one.on, f"{part}: {one.what or 'look at it again'}", f"{request.host_url}logbook/{setup_id}"
        )
        for setup_id, part, one in past.follow_ups()
        if one.on is not None
    ]
    headers = {"Content-Disposition": 'inline; filename="velvet-hand.ics"'}
    return Response(calendar.write(days), content_type="text/calendar; charset=utf-8", headers=headers)


class SchemaPath(BaseModel):
    """A published schema in a path."""

    name: str = Field(max_length=40)


@bp.get("/schemas", summary="JSON Schemas of what goes out and comes in", responses=gives("application/json"))
def schemas_of() -> Response:
    """Their names, versions and addresses."""
    told = {
        name: {"version": version, "title": title, "href": f"/api/schemas/{name}.json"}
        for name, (version, title, _) in schemas.PUBLISHED.items()
    }
    return Response(json.dumps(told), content_type="application/json")


@bp.get(
    "/schemas/<name>.json", summary="A JSON Schema", responses={**gives("application/schema+json"), **documented(404)}
)
def schema_of(path: SchemaPath) -> Response:
    """Draft 2020-12."""
    if path.name not in schemas.PUBLISHED:
        raise NotFound("unknown_thing", "There is no schema of that name.", "Look at /api/schemas.")
    return Response(json.dumps(schemas.schema(path.name)), content_type="application/schema+json")
