"""Photos of a set-up, as a tablet's camera sends them."""

from __future__ import annotations

import io
from datetime import UTC, datetime
from uuid import UUID

from flask import Response
from flask_openapi3 import APIBlueprint
from pydantic import BaseModel, Field

from velvet_hand.exchange.picture import photo
from velvet_hand.store import photos
from velvet_hand.store import setups as store

from .bodies import read_into
from .errors import documented, gives
from .schemas import Out, SetupPath
from .setups import _answer

bp = APIBlueprint("photos", __name__, url_prefix="/api", abp_responses=documented(422))
#: No photo is larger when it is sent.
MOST = 12 * 2**20


class PhotoPath(BaseModel):
    """A photo in a path."""

    photo_id: UUID


class PhotoAt(SetupPath, PhotoPath):
    """A photo of a set-up in a path."""


class PhotoQuery(BaseModel):
    """Who sends a photo, under which id of its own, so that sending it twice is safe."""

    id: UUID
    author: str = Field(default="", max_length=80)


class PhotoOut(Out):
    """A photo without its picture; sizes in pixels."""

    id: UUID
    at: datetime
    author: str
    width: int
    height: int


class PhotosOut(Out):
    """The photos of a set-up, oldest first."""

    photos: list[PhotoOut]


@bp.get("/setups/<setup_id>/photos", summary="Photos of a set-up", responses={200: PhotosOut, **documented(404)})
def photos_of(path: SetupPath) -> Response:
    """Without the pictures."""
    return _told(path.setup_id)


def _told(setup_id: UUID) -> Response:
    store.read(setup_id)
    found = photos.of(setup_id)
    told = [PhotoOut(id=p.id, at=p.at, author=p.author, width=p.width, height=p.height) for p in found]
    return _answer(PhotosOut(photos=told))


@bp.post("/setups/<setup_id>/photos", summary="Keep a photo", responses={200: PhotosOut, **documented(404, 409, 413)})
def keep_photo(path: SetupPath, query: PhotoQuery) -> Response:
    """The body is the picture: JPEG, PNG or WebP. It is made smaller, and what else a camera writes down is left out."""
    sent = io.BytesIO()
    refused = read_into(sent, MOST, "That is more than any photo.", "Take it smaller.")
    if refused is not None:
        return refused
    made = photo(sent.getvalue())
    one = photos.Kept(query.id, path.setup_id, datetime.now(UTC), query.author, made.width, made.height)
    photos.keep(one, made.jpeg)
    return _told(path.setup_id)


@bp.get("/photos/<photo_id>", summary="A photo", responses={**gives("image/jpeg"), **documented(404)})
def picture(path: PhotoPath) -> Response:
    """A photo never changes."""
    answer = Response(photos.jpeg(path.photo_id), content_type="image/jpeg")
    answer.headers["Cache-Control"] = "private, max-age=31536000, immutable"
    return answer


@bp.delete(
    "/setups/<setup_id>/photos/<photo_id>", summary="Take a photo away", responses={200: PhotosOut, **documented(404)}
)
def take_away(path: PhotoAt) -> Response:
    """It is gone for good."""
    photos.take_away(path.photo_id)
    return _told(path.setup_id)
