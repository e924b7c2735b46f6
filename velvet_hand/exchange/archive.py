"""A whole installation in one file, which another reads back: a zip of JSON, ``manifest.json``, ``shop.json``, ``setups/<id>.json``, and
since version 2 ``jobs.json``, ``photos.json`` and ``photos/<id>.jpg``.

Whatever is read is checked as a whole before anything is kept, and kept in one transaction: a file that is damaged, foreign or from a newer
version changes nothing.
"""

from __future__ import annotations

import json
import lzma
import re
import struct
import zipfile
import zlib
from collections.abc import Iterator
from dataclasses import dataclass
from datetime import UTC, datetime
from typing import IO, Any
from uuid import UUID

from velvet_hand import __version__
from velvet_hand.core.errors import BadInput
from velvet_hand.store import photos as photos_kept
from velvet_hand.store import raw

from .picture import is_kept_form

FORMAT, VERSION = "velvet-hand archive", 2
#: No file in it is larger than this, nor all of them together, when they are unpacked; nor are there more of them.
MOST_OF_ONE, MOST_OF_ALL, MOST_FILES = 32 * 2**20, 2 * 2**30, 1_100_000
#: No file is so much smaller packed than unpacked.
MOST_PACKED = 400
#: How a damaged zip shows itself.
_DAMAGE = (
    zipfile.BadZipFile, zlib.error, lzma.LZMAError, struct.error, RecursionError, NotImplementedError, RuntimeError, EOFError,
    OSError, ValueError,
)  # fmt: skip
_UUID = r"[0-9a-f]{8}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{12}"
_SETUP, _PHOTO = re.compile(rf"setups/({_UUID})\.json"), re.compile(rf"photos/({_UUID})\.jpg")


@dataclass(frozen=True, slots=True)
class Taken:
    """What was read back: how many things and set-ups were added, and how many were there already, the same."""

    things: int = 0
    setups: int = 0
    known: int = 0


def write(target: IO[bytes], at: datetime | None = None) -> None:
    """Everything that is kept, in the order of its ids, so that the same shop makes the same file but for its day."""
    things, ids, photos = raw.things(), raw.setup_ids(), raw.photos_told()
    manifest = {
        "format": FORMAT, "version": VERSION, "made_by": __version__, "made_at": (at or datetime.now(UTC)).isoformat(),
        "things": len(things), "setups": len(ids), "photos": len(photos),
    }  # fmt: skip
    with zipfile.ZipFile(target, "w", zipfile.ZIP_DEFLATED, compresslevel=6) as packed:
        _put(packed, "manifest.json", manifest)
        _put(packed, "shop.json", things)
        for setup_id in ids:
            _put(packed, f"setups/{setup_id}.json", raw.events(setup_id))
        _put(packed, "jobs.json", raw.jobs_told())
        _put(packed, "photos.json", photos)
        for photo in photos:
            packed.writestr(_info(f"photos/{photo['id']}.jpg", zipfile.ZIP_STORED), photos_kept.jpeg(UUID(photo["id"])))


def _info(name: str, kind: int = zipfile.ZIP_DEFLATED) -> zipfile.ZipInfo:
    info = zipfile.ZipInfo(
        name, date_time=(2026, 1, 1, 0, 0, 0)
    )  # a day of its own would make the same shop another file
    info.compress_type = kind
    return info


def _put(packed: zipfile.ZipFile, name: str, what: Any) -> None:
    packed.writestr(_info(name), json.dumps(what, indent=1, ensure_ascii=False, sort_keys=True) + "\n")


def _refused(why: str, fix: str = "Nothing was kept. Make it again, or take another file.") -> BadInput:
    return BadInput("archive_unreadable", why, fix, "file")


def read_back(source: IO[bytes]) -> Taken:
    """Keep what an archive holds. What is there already, the same, stays; something else under its id is refused.

    Raises
    ------
    BadInput
        ``archive_unreadable``, with file and line: no archive, damaged, foreign, newer, too large, or not fitting what is kept.
    """
    try:
        packed = zipfile.ZipFile(source)
    except _DAMAGE as bad:
        raise _refused("This is no archive of Velvet Hand, or it is damaged.") from bad
    with packed:
        names = _checked_names(packed)
        manifest = _json(packed, "manifest.json")
        if not isinstance(manifest, dict) or manifest.get("format") != FORMAT:
            raise _refused("This is no archive of Velvet Hand.")
        if not isinstance(manifest.get("version"), int) or manifest["version"] > VERSION:
            raise _refused(
                "This archive is from a newer version.", "Nothing was kept. Bring this installation up to date first."
            )
        things = _json(packed, "shop.json")
        if (
            not isinstance(things, list)
            or manifest.get("things") != len(things)
            or manifest.get("setups") != len(names)
        ):
            raise _refused("Parts of this archive are missing.")
        photos = _photos(packed, manifest)
        setups = ((name, setup_id, _json(packed, name)) for name, setup_id in names)
        jobs = _json(packed, "jobs.json") if manifest["version"] >= 2 else []
        if not isinstance(jobs, list):
            raise _refused("jobs.json is no list.")
        return _keep(things, setups, jobs, ((one, _picture(packed, one)) for one in photos))


def _photos(packed: zipfile.ZipFile, manifest: dict[str, Any]) -> list[Any]:
    """What is told of the photos in it; an archive of version 1 has none."""
    there = [name for name in packed.namelist() if _PHOTO.fullmatch(name)]
    photos = _json(packed, "photos.json") if manifest["version"] >= 2 else []
    if not isinstance(photos, list) or len(photos) != manifest.get("photos", 0) or len(photos) != len(there):
        raise _refused("Parts of this archive are missing.")
    return photos


def _picture(packed: zipfile.ZipFile, told: Any) -> bytes:
    """The picture of a photo, looked at before it is kept."""
    name = f"photos/{told.get('id')}.jpg" if isinstance(told, dict) else "photos.json"
    try:
        jpeg = packed.read(name)
        fits = is_kept_form(jpeg, int(told["width"]), int(told["height"]))
    except (*_DAMAGE, KeyError, TypeError) as bad:
        raise _refused(f"{name} is damaged.") from bad
    if not fits:
        raise _refused(f"{name} is no photo of that size.")
    return jpeg


def _checked_names(packed: zipfile.ZipFile) -> list[tuple[str, UUID]]:
    """The set-ups in it; nothing else may be there, and nothing that only pretends to be small."""
    infos, found, total = packed.infolist(), [], 0
    if len(infos) > MOST_FILES or len({i.filename for i in infos}) < len(infos):
        raise _refused("This is no archive of Velvet Hand: it has files that do not belong in one.")
    for info in infos:
        total += info.file_size
        if (
            info.file_size > MOST_OF_ONE
            or total > MOST_OF_ALL
            or info.file_size > MOST_PACKED * max(info.compress_size, 1000)
        ):
            raise _refused(f"“{info.filename[:60]}” in it is larger than any set-up.")
        match = _SETUP.fullmatch(info.filename)
        if match:
            found.append((info.filename, UUID(match[1])))
        elif info.filename not in ("manifest.json", "shop.json", "jobs.json", "photos.json") and not _PHOTO.fullmatch(
            info.filename
        ):
            raise _refused(f"“{info.filename[:60]}” does not belong in an archive of Velvet Hand.")
    if not {"manifest.json", "shop.json"} <= {i.filename for i in infos}:
        raise _refused("This is no archive of Velvet Hand.")
    return found


def _json(packed: zipfile.ZipFile, name: str) -> Any:
    try:
        with packed.open(name) as member:
            text = member.read(MOST_OF_ONE + 1)
        if len(text) > MOST_OF_ONE:
            raise _refused(f"“{name}” in it is larger than any set-up.")
        return json.loads(text, parse_constant=_no_constant)
    except json.JSONDecodeError as bad:
        raise _refused(f"{name}, line {bad.lineno}: {bad.msg}.") from bad
    except _DAMAGE as bad:
        if isinstance(bad, BadInput):
            raise
        raise _refused(f"{name} is damaged.") from bad


def _no_constant(word: str) -> float:
    raise ValueError(f"{word} is no figure")


def _keep(
    things: list[Any], setups: Iterator[tuple[str, UUID, Any]], jobs: list[Any], photos: Iterator[tuple[Any, bytes]]
) -> Taken:
    added = known = opened = 0
    with raw.all_or_nothing():
        for number, thing in enumerate(things, start=1):
            fresh = raw.restore_thing(thing, f"shop.json, thing {number}")
            added, known = added + fresh, known + (not fresh)
        for name, setup_id, events in setups:
            fresh = raw.restore_setup(setup_id, events, name)
            opened, known = opened + fresh, known + (not fresh)
        for number, job in enumerate(jobs, start=1):
            known += not raw.restore_job(job, f"jobs.json, job {number}")
        for number, (told, jpeg) in enumerate(photos, start=1):
            known += not raw.restore_photo(told, jpeg, f"photos.json, photo {number}")
    return Taken(added, opened, known)
