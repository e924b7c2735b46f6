"""What lies over something else on the page, or is cut off where nothing scrolls."""

from __future__ import annotations

from typing import Any

#: A screen at the machine, a small one, and a tablet held upright.
SIZES = ((1280, 800), (1024, 768), (800, 1280))

#: Words by the lines they stand in, and what cuts or covers them. Lines of one paragraph may be as close as their letters allow.
_FOUND = """within => {
  const told = [], shown = []
  const name = (e) => `"${e.textContent.trim().replace(/\\s+/g, ' ').slice(0, 40)}"`
  for (const e of document.querySelectorAll(`${within} *`)) {
    if (![...e.childNodes].some((n) => n.nodeType === 3 && n.textContent.trim())) continue
    const style = getComputedStyle(e)
    if (style.visibility === 'hidden' || e.closest('.visually-hidden, .path, .pad')) continue
    const range = document.createRange()
    range.selectNodeContents(e)
    const box = e.closest('svg') ? e.getBoundingClientRect() : range.getBoundingClientRect()
    if (box.width < 2 || box.height < 2) continue
    let scroller = null
    if (style.textOverflow === 'ellipsis' && e.scrollWidth > e.clientWidth) told.push(`${name(e)} ends in dots`)
    for (let a = e.parentElement; a; a = a.parentElement) {
      const round = a.getBoundingClientRect(), over = getComputedStyle(a)
      if (over.overflowY === 'auto' && a.scrollHeight > a.clientHeight + 1) scroller ??= a
      const cuts = over.overflowX !== 'visible' && !scroller
      if (cuts && (box.right > round.right + 1.5 || box.left < round.left - 1.5)) told.push(`${name(e)} is cut off`)
    }
    if (box.right > innerWidth + 1 || box.left < -1) told.push(`${name(e)} is beyond the edge`)
    shown.push([e, box, scroller])
  }
  shown.forEach(([a, p, one], i) => shown.slice(i + 1).forEach(([b, q, other]) => {
    if (one !== other) return // what scrolls goes under what stands still
    const block = a.closest('p, h1, h2')
    if (a.contains(b) || b.contains(a) || (block && block === b.closest('p, h1, h2'))) return
    const wide = Math.min(p.right, q.right) - Math.max(p.left, q.left)
    const high = Math.min(p.bottom, q.bottom) - Math.max(p.top, q.top)
    if (wide > 3 && high > 6) told.push(`${name(a)} lies over ${name(b)}`)
  }))
  const page = document.documentElement
  if (innerWidth > innerHeight && page.scrollHeight > innerHeight + 1) told.push('the page is higher than the screen')
  return told
}"""


def hidden_of(page: Any, within: str = ".setup") -> list[str]:
    """What of a set-up, or of another place, cannot be read on each of ``SIZES``; the page is left at the first of them."""
    found = []
    for width, height in (*SIZES[1:], SIZES[0]):
        page.set_viewport_size({"width": width, "height": height})
        page.evaluate("() => new Promise((done) => requestAnimationFrame(() => requestAnimationFrame(done)))")
        found += [f"{width}x{height}: {told}" for told in page.evaluate(_FOUND, within)]
    return found
