import type { Schemas } from '../../api/client'

/** A mark of the dial: where it is (degrees clockwise from the top), how long, and its number where it has one. */
export interface Mark {
  deg: number
  kind: 'least' | 'five' | 'ten'
  mm?: number
}

/** A lever’s needle swings so far to either side at the end of its travel, degrees. */
const SWING = 100

/** How far round the needle stands, in degrees from the top; a plunger’s goes round and round. */
export function needleDeg(dial: Schemas['Dial'], mm: number): number {
  return dial.turn_mm ? (mm / dial.turn_mm) * 360 : (mm / dial.travel_mm) * SWING
}

/** Marks and numbers closer than this run into each other, degrees. */
const CLOSE = { mark: 1, number: 16 }
const STEPS = [1, 2, 5, 10, 20, 50, 100, 200, 500]

/** The fewest of something of a width that are as far apart as that. */
const fewest = (deg: number, apart: number): number => STEPS.find((n) => n * deg >= apart) ?? 1000

/** What one drawn mark is, mm: a graduation, or several where they would run together. */
export function markMm(dial: Schemas['Dial']): number {
  return dial.graduation_mm * fewest(needleDeg(dial, dial.graduation_mm), CLOSE.mark)
}

/** Every mark, with numbers each tenth one, or as near as they can stand; a dial numbered both ways has them mirrored. */
export function marksOf(dial: Schemas['Dial']): Mark[] {
  const span = dial.turn_mm ? dial.turn_mm / 2 : dial.travel_mm
  const step = markMm(dial)
  const each = Math.floor(span / step + 1e-6)
  const numbered = 10 * fewest(needleDeg(dial, 10 * step), CLOSE.number)
  const marks: Mark[] = []
  for (let i = -each; i <= each; i += 1) {
    if (dial.turn_mm && i === -each) continue // it is the same place as the last one
    const kind = i % 10 === 0 ? 'ten' : i % 5 === 0 ? 'five' : 'least'
    const mm = i * step
    marks.push({ deg: needleDeg(dial, mm), kind, ...(i % numbered === 0 ? { mm: Math.abs(mm) } : {}) })
  }
  return marks
}

/** Whole turns behind it, as its small hand has them; none on a lever. */
export function turnsOf(dial: Schemas['Dial'], mm: number): number | undefined {
  return dial.turn_mm ? mm / dial.turn_mm : undefined
}
