"""A photo as it is kept: made anew from what a camera sent, upright, no larger than a screen, without what else a camera writes down."""

from __future__ import annotations

import io
import threading
import warnings
from collections.abc import Iterator
from contextlib import contextmanager
from dataclasses import dataclass

from PIL import Image, ImageFile, ImageOps, UnidentifiedImageError

from velvet_hand.core.errors import BadInput

#: The longer side of a kept photo, in pixels; and how many a camera may send.
LONGEST, MOST_PIXELS = 1600, 60_000_000
_ONE_AT_A_TIME = threading.Lock()
KINDS = ("JPEG", "PNG", "WEBP", "MPO")


@dataclass(frozen=True, slots=True)
class Photo:
    """A JPEG and its size in pixels."""

    jpeg: bytes
    width: int
    height: int


def photo(sent: bytes) -> Photo:
    """The photo as it is kept. Where it was taken, and with what, is left out.

    Raises
    ------
    BadInput
        ``photo_unreadable``: it is no picture, damaged, or of too many pixels.
    """
    try:
        with _whole_ones(), warnings.catch_warnings():
            warnings.simplefilter("error", Image.DecompressionBombWarning)
            with Image.open(io.BytesIO(sent), formats=KINDS) as found:
                if found.width * found.height > MOST_PIXELS:
                    raise _refused("This picture has more pixels than a camera’s.")
                found.draft("RGB", (LONGEST, LONGEST))
                upright = ImageOps.exif_transpose(found).convert("RGB")
    except BadInput:
        raise
    except (UnidentifiedImageError, Image.DecompressionBombError, Image.DecompressionBombWarning) as bad:
        raise _refused("This is no picture that can be kept.") from bad
    except (OSError, ValueError, SyntaxError, EOFError, IndexError, ArithmeticError, TypeError, KeyError) as bad:
        raise _refused("This picture is damaged.") from bad
    upright.thumbnail((LONGEST, LONGEST))
    made = io.BytesIO()
    upright.save(made, "JPEG", quality=82, optimize=True)
    return Photo(made.getvalue(), upright.width, upright.height)


@contextmanager
def _whole_ones() -> Iterator[None]:
    """Half a picture is refused, whatever another library has set for all of the program (what makes PDFs lets them pass)."""
    with _ONE_AT_A_TIME:
        before = ImageFile.LOAD_TRUNCATED_IMAGES
        ImageFile.LOAD_TRUNCATED_IMAGES = False
        try:
            yield
        finally:
            ImageFile.LOAD_TRUNCATED_IMAGES = before


def is_kept_form(jpeg: bytes, width: int, height: int) -> bool:
    """Is this a photo as ``photo`` makes them, of that size?"""
    try:
        with _whole_ones(), Image.open(io.BytesIO(jpeg), formats=("JPEG",)) as found:
            found.load()
            return found.size == (width, height) and max(found.size) <= LONGEST
    except (OSError, ValueError, SyntaxError, EOFError, Image.DecompressionBombError):
        return False


def _refused(why: str) -> BadInput:
    return BadInput("photo_unreadable", why, "Nothing was kept. Take it again, as JPEG, PNG or WebP.", "file")
