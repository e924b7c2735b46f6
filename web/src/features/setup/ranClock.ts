/** How long something at the server has run, by this browser's clock. */
export interface RanClock {
  /** The server said, between these two moments here, that it had run so long (s; the moments in ms). */
  hear: (sentMs: number, heardMs: number, ranS: number) => void
  /** How long it had run at a moment here (s). */
  at: (ms: number) => number
  /** It may be wrong by this much, either way (ms). */
  apart: () => number
}

/** What is begun at the server began here between what an answer took off its run allows: each answer leaves less between. */
export function ranClock(): RanClock {
  let soonest = -Infinity
  let latest = Infinity
  return {
    hear(sentMs, heardMs, ranS) {
      soonest = Math.max(soonest, sentMs - 1000 * ranS)
      latest = Math.min(latest, heardMs - 1000 * ranS)
    },
    at: (ms) => Math.max((ms - (soonest + latest) / 2) / 1000, 0),
    apart: () => Math.max((latest - soonest) / 2, 0),
  }
}
