import { expect, it } from 'vitest'
import type { Schemas } from '../../api/client'
import { markMm, marksOf, needleDeg, turnsOf } from './dial'

const lever: Schemas['Dial'] = { name: 'Lever', graduation_mm: 0.0127, travel_mm: 0.381, turn_mm: null }
const plunger: Schemas['Dial'] = { name: 'Plunger', graduation_mm: 0.002, travel_mm: 1.2, turn_mm: 0.2 }

it('a lever has a mark for each graduation to either end, every tenth with its number', () => {
  const marks = marksOf(lever)
  expect(marks).toHaveLength(61)
  expect(marks.filter((m) => m.kind === 'ten').map((m) => Math.round((m.mm ?? 0) / 0.0127))).toEqual([
    30, 20, 10, 0, 10, 20, 30,
  ])
  expect(marks.map((m) => m.deg)).toEqual([...marks.map((m) => m.deg)].sort((a, b) => a - b))
})

it('marks and numbers that would run into each other are left out', () => {
  const fine = { ...lever, graduation_mm: 0.00254, travel_mm: 0.254 }
  const numbers = marksOf(fine).filter((m) => m.mm !== undefined)
  expect(numbers.map((m) => Math.round((m.mm ?? 0) / 0.0254))).toEqual([10, 8, 6, 4, 2, 0, 2, 4, 6, 8, 10])
  expect(markMm(fine)).toBeCloseTo(0.00254, 9)
  const finest = { ...lever, graduation_mm: 0.0005, travel_mm: 0.8 }
  expect(markMm(finest)).toBeCloseTo(0.01, 9)
  expect(marksOf(finest)).toHaveLength(161)
})

it('a plunger has a hundred marks once round, no place twice', () => {
  const marks = marksOf(plunger)
  expect(marks).toHaveLength(100)
  expect(new Set(marks.map((m) => Math.round(((m.deg + 360) % 360) * 100))).size).toBe(100)
})

it.each([
  [lever, 0, 0],
  [lever, 0.381, 100],
  [lever, -0.381, -100],
  [plunger, 0.05, 90],
  [plunger, 0.25, 450],
  [plunger, -0.2, -360],
])('the needle turns with what it shows (%#)', (dial, mm, deg) => {
  expect(needleDeg(dial, mm)).toBeCloseTo(deg, 6)
})

it('a small hand counts the turns of a plunger; a lever has none', () => {
  expect(turnsOf(plunger, -0.3)).toBeCloseTo(-1.5, 6)
  expect(turnsOf(lever, 0.3)).toBeUndefined()
})
