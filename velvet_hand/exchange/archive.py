"""A whole installation in one file, which another reads back: a zip of JSON, ``manifest.json``, ``shop.json``, ``setups/<id>.json``.

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
from velvet_hand.store import raw

FORMAT, VERSION = "velvet-hand archive", 1
#: No file in it is larger than this, nor all of them together, when they are unpacked; nor are there more of them.
MOST_OF_ONE, MOST_OF_ALL, MOST_FILES = 32 * 2**20, 2 * 2**30, 1_100_000
#: No file is so much smaller packed than unpacked.
MOST_PACKED = 400
#: How a damaged zip shows itself.
_DAMAGE = (
    zipfile.BadZipFile, zlib.error, lzma.LZMAError, struct.error, RecursionError, NotImplementedError, RuntimeError, EOFError,
    OSError, ValueError,
)  # fmt: skip
_SETUP = re.compile(r"setups/([0-9a-f]{8}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{12})\.json")


@dataclass(frozen=True, slots=True)
class Taken:
    """What was read back: how many things and set-ups were added, and how many were there already, the same."""

    things: int = 0
    setups: int = 0
    known: int = 0


def write(target: IO[bytes], at: datetime | None = None) -> None:
    """Everything that is kept, in the order of its ids, so that the same shop makes the same file but for its day."""
    things, ids = raw.things(), raw.setup_ids()
    manifest = {
        "format": FORMAT, "version": VERSION, "made_by": __version__, "made_at": (at or datetime.now(UTC)).isoformat(),
        "things": len(things), "setups": len(ids),
    }  # fmt: skip
    with zipfile.ZipFile(target, "w", zipfile.ZIP_DEFLATED, compresslevel=6) as packed:
        _put(packed, "manifest.json", manifest)
        _put(packed, "shop.json", things)
        for setup_id in ids:
            _put(packed, f"setups/{setup_id}.json", raw.events(setup_id))


def _put(packed: zipfile.ZipFile, name: str, what: Any) -> None:
    info = zipfile.ZipInfo(
        name, date_time=(2026, 1, 1, 0, 0, 0)
    )  # a day of its own would make the same shop another file
    info.compress_type = zipfile.ZIP_DEFLATED
    packed.writestr(info, json.dumps(what, indent=1, ensure_ascii=False, sort_keys=True) + "\n")


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
        return _keep(things, ((name, setup_id, _json(packed, name)) for name, setup_id in names))


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
        elif info.filename not in ("manifest.json", "shop.json"):
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


def _keep(things: list[Any], setups: Iterator[tuple[str, UUID, Any]]) -> Taken:
    added = known = opened = 0
    with raw.all_or_nothing():
        for number, thing in enumerate(things, start=1):
            fresh = raw.restore_thing(thing, f"shop.json, thing {number}")
            added, known = added + fresh, known + (not fresh)
        for name, setup_id, events in setups:
            fresh = raw.restore_setup(setup_id, events, name)
            opened, known = opened + fresh, known + (not fresh)
    return Taken(added, opened, known)
