"""Photos of a set-up: made smaller, without what a camera writes down; what is no picture is refused, and nothing is half kept."""

from __future__ import annotations

import io
from typing import Any
from uuid import uuid4

import pytest
from PIL import Image, ImageFile

from tests.api.test_bad_input import is_problem, opened
from velvet_hand.store import photos


def picture(width: int = 3000, height: int = 2000, kind: str = "JPEG", turned: int = 1) -> bytes:
    exif = Image.Exif()
    exif[0x0112] = turned  # orientation
    exif[0x0110] = "Somebody’s camera"
    made = io.BytesIO()
    Image.linear_gradient("L").resize((width, height)).convert("RGB").save(made, kind, exif=exif)
    return made.getvalue()


def post(client: Any, setup_id: str, sent: bytes, photo_id: str = "") -> Any:
    query = f"id={photo_id or uuid4()}&author=Ode"
    return client.post(f"/api/setups/{setup_id}/photos?{query}", data=sent, content_type="image/jpeg")


@pytest.mark.parametrize("kind", ["JPEG", "PNG", "WEBP"])
def test_a_photo_is_kept_upright_and_small(client: Any, kind: str) -> None:
    setup_id = opened(client)
    answer = post(client, setup_id, picture(kind=kind, turned=6))
    assert answer.status_code == 200, answer.json
    told = answer.json["photos"][0]
    assert (told["width"], told["height"], told["author"]) == (1067, 1600, "Ode")
    got = client.get(f"/api/photos/{told['id']}")
    assert (got.status_code, got.content_type) == (200, "image/jpeg")
    kept = Image.open(io.BytesIO(got.data))
    assert kept.size == (1067, 1600)
    assert not kept.getexif()
    assert b"camera" not in got.data
    assert client.delete(f"/api/setups/{setup_id}/photos/{told['id']}").json == {"photos": []}
    is_problem(client.get(f"/api/photos/{told['id']}"), 404, "unknown_thing")


def test_sent_twice_it_is_kept_once(client: Any) -> None:
    setup_id, photo_id = opened(client), str(uuid4())
    for _ in range(2):
        assert len(post(client, setup_id, picture(60, 40), photo_id).json["photos"]) == 1


@pytest.mark.parametrize(
    "sent",
    [
        b"",
        b"not a picture",
        b"<svg xmlns='http://www.w3.org/2000/svg'/>",
        picture()[:4000],
        b"GIF89a" + bytes(40),
        picture(200, 200, "PNG")[:60],
    ],
    ids=["empty", "words", "svg", "half", "gif", "half a png"],
)
def test_what_is_no_picture_is_refused(client: Any, sent: bytes, monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(ImageFile, "LOAD_TRUNCATED_IMAGES", True)  # as what makes PDFs leaves it
    setup_id = opened(client)
    is_problem(post(client, setup_id, sent), 422, "photo_unreadable", "file")
    assert client.get(f"/api/setups/{setup_id}/photos").json == {"photos": []}


def test_too_much_is_refused(client: Any, monkeypatch: pytest.MonkeyPatch) -> None:
    setup_id = opened(client)
    is_problem(post(client, setup_id, picture(9000, 9000, "PNG")), 422, "photo_unreadable")
    is_problem(post(client, setup_id, bytes(13 * 2**20)), 413, "too_big")
    monkeypatch.setattr(photos, "MOST", 1)
    assert post(client, setup_id, picture(60, 40)).status_code == 200
    is_problem(post(client, setup_id, picture(60, 40)), 409, "not_now")
    is_problem(post(client, str(uuid4()), picture(60, 40)), 404, "unknown_set_up")
    assert client.post(f"/api/setups/{setup_id}/photos?id=x", data=picture(60, 40)).status_code == 422
