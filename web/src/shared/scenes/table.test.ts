import { expect, it } from 'vitest'
import type { Schemas } from '../../api/client'
import { corners, fitInto, onTable, slanted } from './table'

const body = (more: Partial<Schemas['SceneBody']> = {}): Schemas['SceneBody'] => ({
  name: 'Vise',
  shape: 'vise',
  from_mm: 0,
  length_mm: 160,
  ahead_mm: 100,
  behind_mm: 30,
  slope: 0,
  shift_mm: 0,
  pivot_mm: 14,
  bolts: [],
  moving: true,
  ...more,
})
const frame = (u: [number, number], n: [number, number]): Schemas['TableScene'] =>
  ({ u_x: u[0], u_y: u[1], n_x: n[0], n_y: n[1] }) as Schemas['TableScene']

it('turns a body about its swing point, which stays', () => {
  const turned = body({ slope: 0.001 })
  expect(slanted(turned, 50, { along: 14, toward: 0 })).toEqual({ along: 14, toward: 0 })
  const end = slanted(turned, 50, { along: 160, toward: 0 })
  expect(end.toward).toBeCloseTo(146 * Math.sin(Math.atan(0.05)), 6)
  expect(end.along).toBeLessThan(160)
})

it('is true to life when nothing is drawn larger', () => {
  expect(slanted(body({ slope: 0.5, shift_mm: 3 }), 0, { along: 90, toward: 20 })).toEqual({
    along: 90,
    toward: 20,
  })
})

it('shifts a second body by its step, from its own first end', () => {
  const second = body({ from_mm: 260, shift_mm: 0.02 })
  expect(slanted(second, 50, { along: 0, toward: 0 })).toEqual({ along: 260, toward: 1 })
})

it.each([
  ['from left to right, gauge in front', [1, 0], [0, -1], { x: 10, y: 5 }],
  ['from left to right, gauge behind', [1, 0], [0, 1], { x: 10, y: -5 }],
  ['from front to back, gauge on the right', [0, 1], [1, 0], { x: 5, y: -10 }],
  ['from front to back, gauge on the left', [0, 1], [-1, 0], { x: -5, y: -10 }],
] as const)('puts the person at the bottom: %s', (_, u, n, place) => {
  const found = onTable(frame([...u], [...n]), { along: 10, toward: 5 })
  expect(found.x).toBeCloseTo(place.x)
  expect(found.y).toBeCloseTo(place.y)
})

it('brings points into a box, their shape kept', () => {
  const all = corners(0, -30, 160, 100).map((own) => ({ x: own.along, y: own.toward }))
  const { scale, dx, dy } = fitInto(all, 100, 50, 500, 300)
  const xs = all.map((p) => p.x * scale + dx)
  const ys = all.map((p) => p.y * scale + dy)
  expect(Math.min(...xs)).toBeGreaterThanOrEqual(100 - 1e-9)
  expect(Math.max(...xs)).toBeLessThanOrEqual(500 + 1e-9)
  expect(Math.max(...ys) - Math.min(...ys)).toBeCloseTo(250) // the height is what limits
  expect((Math.min(...xs) + Math.max(...xs)) / 2).toBeCloseTo(300)
})

it('survives a thing without a size', () => {
  expect(Number.isFinite(fitInto([{ x: 3, y: 3 }], 0, 0, 10, 10).scale)).toBe(true)
})
