import { mount, type VueWrapper } from '@vue/test-utils'
import { createPinia, setActivePinia } from 'pinia'
import { beforeEach, describe, expect, it } from 'vitest'
import type { Schemas } from '../../api/client'
import SceneView from './SceneView.vue'

interface Box {
  what: string
  left: number
  right: number
  top: number
  bottom: number
}

const LENGTH = 320
const SLOPE = 0.0012
const body = (shape: Schemas['SceneBody']['shape']): Schemas['SceneBody'] => ({
  name: 'Body',
  shape,
  from_mm: 0,
  length_mm: LENGTH,
  ahead_mm: shape === 'vise' ? 200 : 0,
  behind_mm: shape === 'vise' ? 60 : 150,
  slope: 0,
  shift_mm: 0,
  pivot_mm: 20,
  bolts: [
    { at_mm: 20, state: 'hinge', label: 'hinge, snug' },
    { at_mm: 300, state: 'loose', label: 'finger tight' },
  ],
  moving: true,
})
/** An edge that looks to the indicator by `n`, watched and struck at its ends. */
function table(
  shape: Schemas['SceneBody']['shape'],
  n: [number, number],
  more: { gauge: number; blow: number; toward: 1 | -1; slope: number },
): Schemas['TableScene'] {
  return {
    kind: 'table_top',
    seen: 'Seen from above, you at the bottom',
    u_x: Math.abs(n[1]),
    u_y: Math.abs(n[0]),
    n_x: n[0],
    n_y: n[1],
    magnification: 50,
    bodies: [{ ...body(shape), slope: more.slope }],
    blow: {
      at_mm: more.blow,
      toward: more.toward,
      label: [{ kind: 'words', text: 'tap here', strong: false }],
    },
    gauge_mm: more.gauge,
    gauge: { at_deg: 0, station_label: 'spot', needle_mm: -0.353, signed: true },
    spots: [{ station_id: 'a', label: '20 mm', x_mm: 20, h_mm: 0, state: 'read' }],
    lines: [{ z1_mm: 0, h1_mm: 0, z2_mm: LENGTH, h2_mm: 0.3 }],
    aims: [],
    edge_word: 'edge, end to end',
    limit_mm: 0.02,
    describe: 'An edge.',
  }
}

/** Where words and the indicator's plate stand; a letter is about half its size wide. */
function boxes(scene: VueWrapper): Box[] {
  const lines = scene.findAll('.notes tspan')
  const words = scene.findAll('.blow text, .notes tspan, .what, .boltword text').map((t): Box => {
    const size = t.element.closest('.blow') ? 18 : 16
    const wide = t.text().length * size * 0.5
    const anchor = t.attributes('text-anchor')
    const x = Number(t.attributes('x'))
    const line = lines.findIndex((one) => one.element === t.element)
    const y = line < 0 ? Number(t.attributes('y')) : 24 + 1.3 * 16 * line
    const left = anchor === 'end' ? x - wide : anchor === 'middle' ? x - wide / 2 : x
    return { what: t.text(), left, right: left + wide, top: y - 0.75 * size, bottom: y + 0.2 * size }
  })
  const plate = scene.get('[data-part=gauge] rect').element
  const [x, y] = [Number(plate.getAttribute('x')), Number(plate.getAttribute('y'))]
  return [...words, { what: 'the indicator', left: x, right: x + 88, top: y, bottom: y + 30 }]
}
const over = (a: Box, b: Box): boolean =>
  Math.min(a.right, b.right) - Math.max(a.left, b.left) > 2 &&
  Math.min(a.bottom, b.bottom) - Math.max(a.top, b.top) > 2

beforeEach(() => setActivePinia(createPinia()))

const WAYS: [number, number][] = [
  [0, 1],
  [0, -1],
  [1, 0],
  [-1, 0],
]
describe.each(['vise', 'plate'] as const)('of a %s', (shape) => {
  it.each(WAYS)('nothing covers a word, the indicator toward %i, %i', (...n) => {
    const told: string[] = []
    for (const gauge of [20, 300])
      for (const blow of [20, 300])
        for (const toward of [1, -1] as const)
          for (const slope of [SLOPE, -SLOPE]) {
            const scene = mount(SceneView, {
              props: { scene: table(shape, n, { gauge, blow, toward, slope }), resolutionMm: 0.0005 },
            })
            const all = boxes(scene)
            scene.unmount()
            const at = `at ${String([gauge, blow, toward, slope])}`
            for (const [i, a] of all.entries()) {
              if (a.left < 0 || a.right > 648 || a.top < 0 || a.bottom > 470)
                told.push(`${a.what} is cut off ${at}`)
              for (const b of all.slice(i + 1))
                if (over(a, b)) told.push(`${a.what} lies over ${b.what} ${at}`)
            }
          }
    expect(told).toEqual([])
  })
})
