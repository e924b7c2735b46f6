import type { Schemas } from '../api/client'

export type Unit = Schemas['Typed']['unit']
export type Part = Schemas['Words'] | Schemas['Length'] | Schemas['Angle']

export const UNITS: { id: Unit; word: string }[] = [
  { id: 'thou', word: 'thou' },
  { id: 'tenth', word: 'tenths' },
  { id: 'mm', word: 'mm' },
  { id: 'um', word: 'µm' },
]
const MM_PER: Record<Unit, number> = { thou: 0.0254, tenth: 0.00254, mm: 1, um: 0.001 }
const WORD: Record<Unit, string> = { thou: 'thou', tenth: 'tenths', mm: 'mm', um: 'µm' }

/** A length in a unit. */
export const inUnit = (mm: number, unit: Unit): number => mm / MM_PER[unit]

/** The unit's word after a figure. */
export const unitWord = (unit: Unit): string => WORD[unit]

/**
 * Decimals that show steps of `resolutionMm` and no finer.
 *
 * Same sums as `units.decimals` in the core; tests/cases/format.json holds both to it.
 */
export function decimals(unit: Unit, resolutionMm: number): number {
  return Math.max(0, Math.round(-Math.log10(resolutionMm / MM_PER[unit])))
}

/** A length in `unit`, rounded half up, with a real minus sign and no unit. */
export function bareLength(mm: number, unit: Unit, resolutionMm: number, signed = false): string {
  const places = decimals(unit, resolutionMm)
  const tens = 10 ** places
  const steps = Math.floor((Math.abs(mm) / MM_PER[unit]) * tens + 0.5 + 1e-9)
  const digits = (steps / tens).toFixed(places)
  const sign = steps === 0 ? '' : mm < 0 ? '\u2212' : signed ? '+' : ''
  return sign + digits
}

/** A length in `unit` with its unit. */
export function formatLength(mm: number, unit: Unit, resolutionMm: number, signed = false): string {
  return `${bareLength(mm, unit, resolutionMm, signed)} ${WORD[unit]}`
}

/** A part's or chuck's size: mm, or inches when the shop works in thou; an exact one to a micrometer, or a tenth. */
export function formatSize(mm: number, unit: Unit, exact = false): string {
  if (unit === 'thou' || unit === 'tenth') return `${(mm / 25.4).toFixed(exact ? 4 : 3)} in`
  return `${mm.toFixed(exact ? 3 : 2)} mm`
}

/** One part of a text as plain words. */
export function plainPart(part: Part, unit: Unit, resolutionMm: number): string {
  if (part.kind === 'words') return part.text
  if (part.kind === 'angle') return `${Math.round(part.deg)}°`
  if (part.size) return formatSize(part.mm, unit, part.exact)
  return (part.bare ? bareLength : formatLength)(part.mm, unit, resolutionMm, part.signed)
}

/** A text as plain words. */
export function plain(parts: readonly Part[], unit: Unit, resolutionMm: number): string {
  return parts.map((part) => plainPart(part, unit, resolutionMm)).join('')
}

/** In what a bare size is: millimeters, or inches when the shop works in thou. */
export const sizeWord = (unit: Unit): 'in' | 'mm' => (unit === 'thou' || unit === 'tenth' ? 'in' : 'mm')

/** A size as it is sent: a bare number means what a size is in. */
export function sizeTyped(text: string, unit: Unit): { text: string; unit: Unit } {
  const bare = /^[+\d.,\s]+$/.test(text.trim())
  return { text: bare && sizeWord(unit) === 'in' ? `${text.trim()} in` : text.trim(), unit: 'mm' }
}

/** A number of millimeters for an input field: as short as it can be, exact. */
export const fieldMm = (mm: number): string => String(Number(mm.toPrecision(9)))

const DAY = new Intl.DateTimeFormat('en-GB', {
  day: 'numeric',
  month: 'short',
  hour: '2-digit',
  minute: '2-digit',
})
const CLOCK = new Intl.DateTimeFormat('en-GB', { hour: '2-digit', minute: '2-digit', second: '2-digit' })

const DATE = new Intl.DateTimeFormat('en-GB', { day: 'numeric', month: 'short', year: 'numeric' })

/** September has three letters, as every month, and as in what the server says. */
const said = (format: Intl.DateTimeFormat, iso: string): string =>
  format.format(new Date(iso)).replace('Sept', 'Sep')
/** The day alone, with its year. */
export const formatDate = (iso: string): string => said(DATE, iso)
/** Day and time of day. */
export const formatDay = (iso: string): string => said(DAY, iso)
/** Time of day with seconds. */
export const formatClock = (iso: string): string => CLOCK.format(new Date(iso))

/** How long ago, in words. */
export function formatAgo(iso: string, now = Date.now()): string {
  const minutes = Math.max(0, Math.round((now - new Date(iso).getTime()) / 60000))
  if (minutes < 1) return 'just now'
  if (minutes < 90) return `${minutes} minute${minutes === 1 ? '' : 's'}`
  const hours = Math.round(minutes / 60)
  return hours < 36 ? `${hours} hours` : `${Math.round(hours / 24)} days`
}

const KIND_WORDS: Record<string, string> = {
  tir: 'TIR',
  off_centre: 'off center',
  throw: 'off the throw',
  sideways: 'off its direction, sideways',
  over_jaw: 'over the jaw',
  over_part: 'over the part',
  over_length: 'over a length',
  angle: 'degrees',
  parallel: 'out of parallel',
  flat: 'out of flat',
  in_line: 'over both jaws',
  shows: 'off along its travel',
}
/** What kind of figure a limit or a verdict is about. */
export const kindWord = (kind: string): string => KIND_WORDS[kind] ?? kind

/** A count, or the middle of counts: whole, or to a tenth. */
export const formatCount = (count: number): string => count.toFixed(Number.isInteger(count) ? 0 : 1)

/** Hundredths, whole: 86 %. */
export const formatPercent = (hundredths: number): string => `${hundredths.toFixed(0)} %`

/** A part of one, to two places: 0.85. */
export const formatPart = (part: number): string => part.toFixed(2)
