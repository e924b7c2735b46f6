import { formatLength, type Unit } from '../../shared/format'
import type { Needle } from '../../shared/useNeedles'

/** What is looked for over a rod or a ball. */
export const PEAKS = { high: 'Highest', low: 'Lowest' }

/** How a needle is: still or moving, what it found over a rod, or old and why. */
export function stateOf(needle: Needle, unit: Unit, resolutionMm: number): string {
  if (needle.state === 'opening') return 'looking for it'
  if (needle.state === 'stale') return `old: ${needle.why}`
  if (needle.state === 'gone') return `gone: ${needle.why}`
  if (!needle.side) return needle.still ? 'still' : 'moving'
  const one = needle.crests[0]
  if (one === undefined) return `${PEAKS[needle.side].toLowerCase()}: run over it and back`
  const crest = formatLength(needle.both?.mm ?? one, unit, resolutionMm, true)
  if (!needle.both) return `${crest}: now back over it`
  return `${crest}, apart ${formatLength(needle.both.apart_mm, unit, resolutionMm)}`
}
