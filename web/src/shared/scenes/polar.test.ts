import { expect, it } from 'vitest'
import { mapPoints, polar, reach, step } from './polar'

const axis = { x: 100, y: 100 }

it('runs counter-clockwise with up as up', () => {
  expect(polar(axis, 10, 90)).toMatchObject({ x: expect.closeTo(100), y: expect.closeTo(90) })
  expect(polar(axis, 10, 180)).toMatchObject({ x: expect.closeTo(90), y: expect.closeTo(100) })
})

it('turns an offset with the view: the operator’s side goes to the bottom', () => {
  // 180 degrees is the operator's side; turned by 90 it lies at 270, down on the screen
  const down = step(-1, 0, 90, 5)
  expect(down.x).toBeCloseTo(0)
  expect(down.y).toBeCloseTo(5)
})

it('reaches the edge of work that is off center', () => {
  const center = { x: 100, y: 90 } // 10 up
  expect(reach(axis, center, 50, 90)).toBeCloseTo(60)
  expect(reach(axis, center, 50, 270)).toBeCloseTo(40)
  expect(reach(axis, center, 50, 0)).toBeCloseTo(Math.sqrt(50 * 50 - 100))
})

it('keeps near and far centers apart on a small map', () => {
  const track = [
    { pass_no: 1, x_mm: 1, y_mm: 0 },
    { pass_no: 2, x_mm: 0, y_mm: 0.01 },
  ]
  const map = mapPoints(track, 0.005, 40, 0)
  expect(map.points[0]).toMatchObject({ no: 1, x: expect.closeTo(40), y: expect.closeTo(0) })
  expect(Math.abs(map.points[1]?.y ?? 0)).toBeGreaterThan(map.limit)
})
