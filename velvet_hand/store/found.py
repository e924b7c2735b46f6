"""Finding set-ups: by the beginning of any word, and by what, where, who and when; a page at a time, the latest first.

Pages are told by their last line, not by a number: the ten-thousandth costs what the first does.
"""

from __future__ import annotations

import re
import unicodedata
from collections.abc import Iterable, Iterator
from dataclasses import dataclass
from datetime import date, datetime, time, timedelta
from typing import Any, Literal
from uuid import UUID

from peewee import SQL, ModelSelect

from velvet_hand.core.after.account import Account
from velvet_hand.core.desk.view import Summary
from velvet_hand.core.errors import BadInput

from .tables import Setup

#: No word is longer; the rest of it says nothing.
LONGEST = 60
#: So many words are looked for.
MOST = 12
_WORD = re.compile(r"\w+")

Outcome = Literal["", "holds", "outside", "cannot_tell", "accepted", "open"]


@dataclass(frozen=True, slots=True)
class Listed:
    """A set-up as lists show it."""

    id: UUID
    seq: int
    summary: Summary


@dataclass(frozen=True, slots=True)
class Asked:
    """What to look for; nothing given means any. Both days are included."""

    words: str = ""
    machine: str = ""
    holder: str = ""
    procedure: str = ""
    hand: str = ""
    outcome: Outcome = ""
    standing: bool | None = None
    since: date | None = None
    until: date | None = None


def words_of(texts: Iterable[str]) -> list[str]:
    """The words of texts, each once, as they are kept and looked for: small letters, without accents.

    Examples
    --------
    >>> words_of(["Köhler’s drum, end A", "drum 0.4"])
    ['kohler', 's', 'drum', 'end', 'a', '0', '4']
    """
    plain = unicodedata.normalize("NFKD", " ".join(texts).casefold())
    bare = "".join(c for c in plain if not unicodedata.combining(c)).replace("\0", " ")
    return list(dict.fromkeys(word[:LONGEST] for word in _WORD.findall(bare)))


def listed(row: Setup) -> Listed:
    """A row as lists show it."""
    return Listed(row.id, row.seq, Summary.model_validate(row.summary, strict=False))


#: So many of the latest that were chosen are looked through for words, before the words are looked up everywhere.
NEAR = 500
#: A beginning that so few words have is looked for as those words.
FEW = 8
#: Room for the indexes that are laid over each other: with less, whole pages are read to look again.
ROOM = "SET LOCAL work_mem = '64MB'"
#: What can be chosen, the rarest first, and its letter in the index of words beside it.
BESIDE = (("hand", "w"), ("holder", "h"), ("procedure", "p"), ("machine", "m"), ("outcome", "o"))
_LINE = (Setup.id, Setup.seq, Setup.summary, Setup.changed_at)


def _chosen(asked: Asked) -> list[Any]:
    """What has to be true of a set-up by what was chosen."""
    found: list[Any] = []
    for column in (Setup.hand, Setup.holder, Setup.machine, Setup.procedure):
        wanted = getattr(asked, column.name)
        if wanted:
            found.append(column == wanted)
    if asked.outcome:
        found.append(Setup.outcome.is_null() if asked.outcome == "open" else Setup.outcome == asked.outcome)
    if asked.standing is not None:
        found.append(Setup.standing == asked.standing)
    return found


def _said(words: str) -> list[Any]:
    """What has to be true of it by what was typed."""
    found = words_of([words])[:MOST]
    if not found:
        return [SQL("false")] if words.strip() else []  # nothing but signs
    return [SQL("words @@ %s::tsquery", (_beginnings(found),))]


def _said_beside(asked: Asked) -> list[Any]:
    """The same, together with the rarest of what was chosen: in the index that has each word beside each of those."""
    found = words_of([asked.words])[:MOST]
    chosen = next((f"{letter}{value}" for column, letter in BESIDE if (value := getattr(asked, column))), "")
    if not found or not chosen:
        return _said(asked.words)
    where = "setup_beside(words, machine, holder, outcome, procedure, hand) @@ %s::tsquery"
    whole = _whole(found)
    parts = (_beginnings([f"{chosen}\x1f{word}"]) if word not in whole else _any(chosen, whole[word]) for word in found)
    return [SQL(where, (" & ".join(parts),))]


def _whole(beginnings: list[str]) -> dict[str, list[str]]:
    """The words that begin so, of beginnings that few words have: whole words are laid over each other much faster."""
    query = """
        SELECT asked, array_agg(word) FROM unnest(%s::text[]) AS asked, LATERAL (
            SELECT word FROM setup_word WHERE word >= asked COLLATE "C" AND word < asked || chr(1114111) COLLATE "C" LIMIT %s
        ) AS begins GROUP BY asked
    """
    rows = Setup._meta.database.execute_sql(query, (beginnings, FEW + 1))
    return {str(asked): list(words) for asked, words in rows if len(words) <= FEW}


def _any(chosen: str, words: Iterable[str]) -> str:
    """A question for the text search: one of these words beside what was chosen."""
    return "(" + " | ".join(_quoted(f"{chosen}\x1f{word}") for word in words) + ")"


def _beginnings(words: Iterable[str]) -> str:
    """A question for the text search: every one of these, as the beginning of a word."""
    return " & ".join(f"{_quoted(word)}:*" for word in words)


def _quoted(word: str) -> str:
    escaped = word.replace("\\", "\\\\").replace("'", "''")
    return f"'{escaped}'"


def _when(asked: Asked, after: str) -> list[Any]:
    found: list[Any] = []
    if asked.since:
        found.append(Setup.changed_at >= datetime.combine(asked.since, time.min).astimezone())
    if asked.until:
        found.append(Setup.changed_at < datetime.combine(asked.until + timedelta(days=1), time.min).astimezone())
    if after:
        found.append(SQL("(changed_at, id) < (%s, %s)", _place(after)))
    return found


def search(asked: Asked, after: str = "", size: int = 20) -> tuple[list[Listed], str]:
    """A page of set-ups, the latest first, and what to ask for the next page with (empty: there is none).

    Raises
    ------
    BadInput
        At ``after``, when it is none of ours.
    """
    rows = _rows(asked, _when(asked, after), size + 1)
    more = f"{rows[size - 1].changed_at.isoformat()}~{rows[size - 1].id}" if len(rows) > size else ""
    return [listed(row) for row in rows[:size]], more


def lines(asked: Asked, most: int) -> Iterator[tuple[UUID, Summary, Account | None]]:
    """All that is found, the latest first, up to so many: a line each with its account."""
    where = (*_chosen(asked), *_said(asked.words), *_when(asked, ""))
    rows = _latest(Setup.select(Setup.id, Setup.summary, Setup.account).where(True, *where), most)
    for row in rows.iterator():
        told = None if row.account is None else Account.model_validate(row.account, strict=False)
        yield row.id, Summary.model_validate(row.summary, strict=False), told


def _rows(asked: Asked, when: list[Any], count: int) -> list[Setup]:
    """The latest that all of it is true of. The database takes several things for independent, and would walk through all of a holder's
    set-ups for a word that none of them has; so those that were chosen are found in their index alone, of words the latest first, and
    what is not among those in the index of words beside what was chosen.
    """
    chosen, said = _chosen(asked), _said(asked.words)
    if not chosen:
        return list(_latest(Setup.select(*_LINE).where(True, *said, *when), count))
    near = _latest(Setup.select(Setup.id).where(*chosen, *when), NEAR if said else count).alias("near")
    query = Setup.select(*_LINE).join(near, on=(Setup.id == near.c.id))
    rows = list(_latest(query.where(True, *said), count))
    if (
        len(rows) == count
        or not said
        or not _latest(Setup.select(Setup.id).where(*chosen, *when), 1).offset(NEAR).exists()
    ):
        return rows
    every = Setup.select(Setup.id).where(*chosen, *_said_beside(asked), *when).cte("every_one", materialized=True)
    database = Setup._meta.database
    with database.atomic():
        database.execute_sql(ROOM)
        return list(_latest(Setup.select(*_LINE).join(every, on=(Setup.id == every.c.id)).with_cte(every), count))


def _latest(query: ModelSelect[Setup], count: int) -> ModelSelect[Setup]:
    ordered: ModelSelect[Setup] = query.order_by(Setup.changed_at.desc(), Setup.id.desc()).limit(count)
    return ordered


def _place(after: str) -> tuple[datetime, UUID]:
    at, _, last = after.partition("~")
    try:
        found = datetime.fromisoformat(at), UUID(last)
        if found[0].tzinfo is None:
            raise ValueError("a moment without its zone")
        return found
    except ValueError:
        raise BadInput("field_invalid", "There is no such page.", "Begin with the first page.", "after") from None


def hands() -> list[str]:
    """Everybody who opened a set-up: from name to name by the index, whatever the number of set-ups."""
    steps = """
        WITH RECURSIVE one AS (
            (SELECT hand FROM setup ORDER BY hand LIMIT 1)
            UNION ALL
            SELECT (SELECT hand FROM setup WHERE hand > one.hand ORDER BY hand LIMIT 1) FROM one WHERE one.hand IS NOT NULL
        )
        SELECT hand FROM one WHERE hand <> '' LIMIT 200
    """
    return [str(row[0]) for row in Setup._meta.database.execute_sql(steps)]
