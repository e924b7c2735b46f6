"""Work it out: sums without a set-up."""

from __future__ import annotations

from flask import Response
from flask_openapi3 import APIBlueprint
from pydantic import BaseModel, Field

from velvet_hand.core.shop import Stock
from velvet_hand.core.sums import registry
from velvet_hand.core.sums.base import SumLine, Worked, work
from velvet_hand.core.units import Typed, Unit
from velvet_hand.store import shop

from .errors import documented
from .schemas import In, Out
from .setups import _answer

bp = APIBlueprint("sums", __name__, url_prefix="/api/sums", abp_responses=documented(422))


class SumPath(BaseModel):
    """A sum in a path."""

    sum_id: str = Field(min_length=1, max_length=40)


class TypedFigure(In):
    """A figure, what was typed into it, and the unit of the screen then."""

    figure: str = Field(max_length=40)
    text: str = Field(max_length=20_000)
    unit: Unit


class SumIn(In):
    """What was typed, the oldest first; what was typed last stays, and what it is an answer to is turned round.

    ``stands`` is what the other fields show.
    """

    unit: Unit = "mm"
    typed: list[TypedFigure] = Field(default=[], max_length=40)
    stands: list[TypedFigure] = Field(default=[], max_length=40)


class SumsOut(Out):
    """All sums."""

    sums: tuple[SumLine, ...]


@bp.get("", summary="What can be worked out", responses={200: SumsOut})
def everything() -> Response:
    """Family by family, each with the words that find it."""
    return _answer(SumsOut(sums=registry.lines()))


@bp.post("/<sum_id>", summary="Work a sum", responses={200: Worked, **documented(404)})
def worked(path: SumPath, body: SumIn) -> Response:
    """Nothing is kept. A figure that cannot be used is told with the others; it is no refusal."""
    typed, stands = (
        [(one.figure, Typed(text=one.text, unit=one.unit)) for one in many] for many in (body.typed, body.stands)
    )
    return _answer(work(registry.sum_of(path.sum_id), typed, body.unit, shop.all_of(Stock), dict(stands)))
