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

/** Every mark, with numbers each tenth one; a dial numbered both ways has them mirrored. */
export function marksOf(dial: Schemas['Dial']): Mark[] {
  const span = dial.turn_mm ? dial.turn_mm / 2 : dial.travel_mm
  const each = Math.round(span / dial.graduation_mm)
  const marks: Mark[] = []
  for (let i = -each; i <= each; i += 1) {
    if (dial.turn_mm && i === -each) continue // it is the same place as the last one
    const kind = i % 10 === 0 ? 'ten' : i % 5 === 0 ? 'five' : 'least'
    const mm = i * dial.graduation_mm
    marks.push({ deg: needleDeg(dial, mm), kind, ...(kind === 'ten' ? { mm: Math.abs(mm) } : {}) })
  }
  return marks
}

/** Whole turns behind it, as its small hand has them; none on a lever. */
export function turnsOf(dial: Schemas['Dial'], mm: number): number | undefined {
  return dial.turn_mm ? mm / dial.turn_mm : undefined
}
