"""Days to remember as a calendar file (RFC 5545): checks of indicators, and follow-ups of set-ups that have a day."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass
from datetime import UTC, date, datetime

from icalendar import Calendar, Event


@dataclass(frozen=True, slots=True)
class Day:
    """A day to remember; ``uid`` is the same as long as it is the same thing, ``link`` leads to it."""

    uid: str
    on: date
    what: str
    link: str = ""


def write(days: Iterable[Day], at: datetime | None = None) -> bytes:
    """The calendar; a whole day each, which is what a date without an end means."""
    calendar = Calendar()
    calendar.add("prodid", "-//Velvet Hand//Days to remember//EN")
    calendar.add("version", "2.0")
    calendar.add("method", "PUBLISH")
    calendar.add("x-wr-calname", "Velvet Hand")
    for day in days:
        event = Event()
        event.add("uid", f"{day.uid}@velvet-hand")
        event.add("dtstamp", at or datetime.now(UTC))
        event.add("dtstart", day.on)
        event.add("summary", day.what)
        event.add("transp", "TRANSPARENT")
        if day.link:
            event.add("url", day.link)
        calendar.add_component(event)
    return bytes(calendar.to_ical())
