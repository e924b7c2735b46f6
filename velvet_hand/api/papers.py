"""Papers of a set-up: a page to print, and the same as PDF."""

from __future__ import annotations

from typing import Literal

from flask import Response, request
from flask_openapi3 import APIBlueprint
from pydantic import BaseModel

from velvet_hand.core.units import Unit
from velvet_hand.reports import page
from velvet_hand.reports.page import Size
from velvet_hand.reports.paper import Paper, record, sheet
from velvet_hand.store import setups as store

from .errors import documented, gives
from .schemas import PlanIn, SetupPath
from .setups import opened

bp = APIBlueprint("papers", __name__, url_prefix="/api", abp_responses=documented(422))
Kind = Literal["record", "sheet"]


class PaperPath(SetupPath):
    """A paper of a set-up: the ``record`` of what was found, or the ``sheet`` to work by."""

    kind: Kind


class PaperQuery(BaseModel):
    """On which paper, and in which unit; the set-up's own when it is not said."""

    size: Size | None = None
    unit: Unit | None = None


def _size(unit: Unit) -> Size:
    """Letter where a shop works in inches."""
    return "letter" if unit in ("thou", "tenth") else "a4"


def _paper(path: PaperPath, query: PaperQuery) -> tuple[Paper, str, Size]:
    """The paper, where its set-up is found, and the size of the sheet: Letter where the shop works in inches."""
    kept = store.read(path.setup_id)
    unit = query.unit or kept.state.plan.unit
    size = query.size or _size(unit)
    made = (record if path.kind == "record" else sheet)(kept.events, kept.state, unit)
    return made, f"{request.host_url}logbook/{path.setup_id}", size


@bp.get(
    "/setups/<setup_id>/<kind>.html", summary="A paper to print", responses={**gives("text/html"), **documented(404)}
)
def paper_html(path: PaperPath, query: PaperQuery) -> Response:
    """Black on white, on A4 or Letter."""
    made, address, size = _paper(path, query)
    return Response(page.html(made, address, size, "/api/paper.css"), content_type="text/html; charset=utf-8")


@bp.get(
    "/setups/<setup_id>/<kind>.pdf", summary="A paper as PDF", responses={**gives("application/pdf"), **documented(404)}
)
def paper_pdf(path: PaperPath, query: PaperQuery) -> Response:
    """The same as the page."""
    made, address, size = _paper(path, query)
    name = f"{path.kind}-{path.setup_id}.pdf"
    headers = {"Content-Disposition": f'inline; filename="{name}"'}
    return Response(page.pdf(made, address, size), content_type="application/pdf", headers=headers)


@bp.post(
    "/plans/sheet.html",
    summary="The sheet of a plan, before it is opened",
    responses={**gives("text/html"), **documented(404)},
)
def plan_sheet(body: PlanIn) -> Response:
    """As a set-up's own sheet; nothing is kept."""
    state = opened(body)
    where = request.host_url
    made = page.html(sheet(state.effective, state), f"{where}plan", _size(body.unit), f"{where}api/paper.css")
    return Response(made, content_type="text/html; charset=utf-8")


@bp.get("/paper.css", summary="The style sheet of papers", responses=gives("text/css"))
def paper_css() -> Response:
    """For the pages to print."""
    return Response(page.css(), content_type="text/css; charset=utf-8")
