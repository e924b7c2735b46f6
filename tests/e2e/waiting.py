"""Waiting for what a page does, never for a time."""

from __future__ import annotations

from typing import Any
from weakref import WeakKeyDictionary

#: What follows from the last change has been drawn.
DRAWN = "() => new Promise((done) => requestAnimationFrame(() => requestAnimationFrame(() => setTimeout(done))))"
#: Nothing that was entered is on its way, and nothing fades, slides or turns any more.
STILL = """() => !document.querySelector('[data-busy], .cell.waits') && document.getAnimations().every(
    (one) => one.playState !== 'running' || one.effect.getComputedTiming().endTime === Infinity)"""
#: The event of that number, or a later one, stands on the screen, and nothing that was entered is on its way.
ARRIVED = """seq => Number(document.querySelector('.setup')?.dataset.seq ?? 0) >= seq
    && !document.querySelector('[data-busy], .cell.waits')"""

#: Longer than anything takes on the busiest machine: only what never comes is ended by it.
PATIENCE_MS = 180_000

_ASKED: WeakKeyDictionary[Any, set[Any]] = WeakKeyDictionary()


def watch(page: Any) -> Any:
    """Keep count of what that page asks the server for; returns the page."""
    page.context.set_default_timeout(PATIENCE_MS)  # of what it opens, too
    asked = _ASKED.setdefault(page, set())
    page.on("request", lambda one: asked.add(one) if one.resource_type != "eventsource" else None)
    page.on("requestfinished", lambda one: asked.discard(one))  # it wants a function of Python
    page.on("requestfailed", lambda one: asked.discard(one))
    return page


def settled(page: Any) -> None:
    """Everything that was asked for has come and is drawn, and nothing moves."""
    while True:
        page.wait_for_function(STILL)
        page.evaluate(DRAWN)
        if not _ASKED[page] and page.evaluate(STILL):
            return


def arrived(page: Any, seq: int) -> None:
    """The event of that number is shown, and what follows from it."""
    page.wait_for_function(ARRIVED, arg=seq)
    page.evaluate(DRAWN)
