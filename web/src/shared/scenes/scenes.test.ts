import { mount } from '@vue/test-utils'
import { createPinia, setActivePinia } from 'pinia'
import { beforeEach, expect, it } from 'vitest'
import type { Schemas } from '../../api/client'
import SceneView from './SceneView.vue'

const words = (text: string): Schemas['Words'] => ({ kind: 'words', text, strong: false })
const show = (scene: Schemas['Panel']['scene']): ReturnType<typeof mount> =>
  mount(SceneView, { props: { scene, resolutionMm: 0.0005 } })
const number = (text: string | undefined): number => Number(text)

beforeEach(() => setActivePinia(createPinia()))

const position = (n: number, tir: number, rank: number): Schemas['ScenePosition'] => ({
  number: n,
  at_deg: 120 * (n - 1),
  tir_mm: tir,
  rank,
  now: n === 1,
})
const wheel: Schemas['ClockScene'] = {
  kind: 'clock_wheel',
  seen: 'Seen from the tailstock',
  view_turn_deg: 0,
  what: 'bolt positions',
  positions: [position(1, 0.05, 2), position(2, 0.02, 1), position(3, 0.08, 3)],
  fixed: { pass_no: 0, x_mm: 0.02, y_mm: 0 },
  turned: { pass_no: 0, x_mm: -0.015, y_mm: 0 },
  fixed_word: 'plate',
  turned_word: 'chuck',
  limit_mm: 0.03,
  reading: '',
  describe: 'Three positions, best 2.',
}
const axis: Schemas['AxisScene'] = {
  kind: 'shaft_axis',
  seen: 'Seen from your side',
  held: 'centres',
  length_mm: 400,
  stops: [
    { label: '0', z_mm: 0, height_mm: 0, tir_mm: 0, over: false, state: 'read' },
    { label: '200', z_mm: 200, height_mm: 0.05, tir_mm: 0.1, over: true, state: 'read' },
    { label: '400', z_mm: 400, height_mm: 0, tir_mm: 0, over: false, state: 'read' },
  ],
  line: { z1_mm: 0, h1_mm: 0, z2_mm: 400, h2_mm: 0 },
  known: true,
  magnification: 500,
  up: [words('Up is 90°')],
  mark_z_mm: 200,
  mark: [words('bent here')],
  limit_mm: 0.015,
  reading: '',
  tail_z_mm: null,
  describe: 'A bent shaft.',
}
const dowels: Schemas['DowelScene'] = {
  kind: 'dowel_view',
  seen: 'Seen from the front',
  view_turn_deg: 0,
  bore_radius_mm: 40,
  span_mm: 240,
  known: true,
  x_mm: -0.1,
  y_mm: 0,
  magnification: 100,
  shift_deg: 0,
  shift_mm: 0.1,
  clock_deg: 0,
  dowel_mm: 0.1,
  limit_radius_mm: 0.01,
  spots: [],
  gauge: { at_deg: 90, station_label: 'Bore 90°', needle_mm: null, signed: true },
  track: [],
  describe: 'The housing.',
}

it('puts the best position first and draws plate and chuck against each other', () => {
  const wrapper = show(wheel)
  expect(wrapper.get('.best .num').text()).toBe('2')
  expect(wrapper.findAll('.position')).toHaveLength(3)
  expect(wrapper.find('.turned path').exists()).toBe(true)
})

it('lifts the bent place above the line and points at it', () => {
  const wrapper = show(axis)
  const [first, bent] = wrapper.findAll('.stop circle').map((c) => number(c.attributes('cy')))
  expect(bent).toBeLessThan(first ?? 0)
  expect(wrapper.get('.stop.over .num').text()).toBe('3.94')
  expect(wrapper.get('[data-part=mark]').text()).toBe('bent here')
})

it('moves the housing the way the sentence says, both dowels clocked alike', () => {
  const wrapper = show(dowels)
  const shift = wrapper.get('[data-part=housing]').attributes('transform') ?? ''
  expect(number(/translate\((-?[\d.]+)/.exec(shift)?.[1])).toBeLessThan(0) // it sits to the left
  expect(wrapper.get('[data-part=shift]').attributes('data-angle')).toBe('0') // and goes to the right
  const marks = wrapper.findAll('.clock').map((c) => c.attributes('d'))
  expect(marks).toHaveLength(2)
})

const vise = (slope: number, more: Partial<Schemas['TableScene']> = {}): Schemas['TableScene'] => ({
  kind: 'table_top',
  seen: 'Seen from above, you at the bottom',
  u_x: 1,
  u_y: 0,
  n_x: 0,
  n_y: -1,
  magnification: 20,
  bodies: [
    {
      name: 'Vise',
      shape: 'vise',
      from_mm: 0,
      length_mm: 160,
      ahead_mm: 110,
      behind_mm: 30,
      slope,
      shift_mm: 0,
      pivot_mm: 14,
      bolts: [{ at_mm: 14, state: 'hinge', label: 'hinge, snug' }],
      moving: true,
    },
  ],
  blow: { at_mm: 150, toward: -1, label: [words('tap here')] },
  gauge_mm: 150,
  gauge: { at_deg: 0, station_label: 'Spot at 150 mm', needle_mm: 0.3, signed: true },
  spots: [
    { station_id: 's1', label: '10 mm', x_mm: 10, h_mm: 0, state: 'read' },
    { station_id: 's2', label: '150 mm', x_mm: 150, h_mm: 0.3, state: 'now' },
  ],
  lines: [{ z1_mm: 0, h1_mm: -0.02, z2_mm: 160, h2_mm: 0.32 }],
  aims: [{ z1_mm: 0, h1_mm: 0.01, z2_mm: 160, h2_mm: 0.01 }],
  edge_word: 'jaw face, end to end',
  limit_mm: 0.02,
  describe: 'The table from above.',
  ...more,
})
const points = (wrapper: ReturnType<typeof mount>, part: string): [number, number][] =>
  (wrapper.get(part).attributes('points') ?? '')
    .split(' ')
    .map((p) => p.split(',').map(Number) as [number, number])

it.each([
  [0.002, 0, -1], // in front, nearer the gauge: the right end is lower in the picture
  [-0.002, 0, -1],
  [0.002, 0, 1],
  [-0.002, 0, 1],
])('draws the end that is nearer the gauge on the gauge’s side (slope %s)', (slope, nx, ny) => {
  const wrapper = show(vise(slope, { n_x: nx, n_y: ny }))
  const face = points(wrapper, '.face')
  const gauge = wrapper.get('[data-part=gauge] line').attributes()
  const towardScreen = Math.sign(number(gauge.y2) - number(gauge.y1)) // which way the gauge stands
  expect(towardScreen).toBe(ny < 0 ? 1 : -1)
  const edge = face.slice(2) // the two corners of the face on the gauge's side
  const [right, left] = [edge[0], edge[1]]
  expect(Math.sign((right?.[1] ?? 0) - (left?.[1] ?? 0))).toBe(Math.sign(slope) * towardScreen)
})

it('lets the arrow come from the side that it pushes from, to where the tap is', () => {
  const wrapper = show(vise(0.002))
  const [shaft] = wrapper.findAll('[data-part=blow] path')
  const [, y1, y2] = /M\S+ (\S+)L\S+ (\S+)/.exec(shaft?.attributes('d') ?? '') ?? []
  expect(number(y1)).toBeGreaterThan(number(y2)) // from the front, away from you
  expect(wrapper.get('[data-part=blow]').attributes('data-at')).toBe('150')
  expect(wrapper.text()).toContain('hinge, snug')
  const dots = wrapper.findAll('.profile .spot').map((c) => number(c.attributes('cy')))
  expect(dots[1]).toBeLessThan(dots[0] ?? 0) // up is nearer the gauge
})

const heights: Schemas['HeightScene'] = {
  kind: 'height_map',
  seen: 'From above, you at the bottom',
  width_mm: 100,
  depth_mm: 80,
  spots: [
    { station_id: 'g1', label: '1', x_mm: 5, y_mm: 5, h_mm: -0.02, state: 'read' },
    { station_id: 'g2', label: '2', x_mm: 95, y_mm: 75, h_mm: 0.02, state: 'read' },
    { station_id: 'g3', label: '3', x_mm: 5, y_mm: 75, h_mm: null, state: 'open' },
  ],
  shims: [{ label: 'front left', x_mm: 0, y_mm: 0, mm: 0.05 }],
  zero_word: 'Plus is higher than its middle.',
  down_x: -0.6,
  down_y: -0.8,
  fall_mm: 0.04,
  limit_mm: 0.01,
  reading: 'The arrow points downhill.',
  describe: 'Heights from above.',
}

it('says heights by number and mark, not by color alone, and puts the shim under its corner', () => {
  const wrapper = show(heights)
  const places = wrapper.findAll('[data-part=height]')
  expect(places[0]?.find('.tip').exists()).toBe(true)
  expect(places[1]?.get('.num').text()).toMatch(/^\+/)
  expect(places[2]?.find('.tip').exists()).toBe(false)
  const shim = wrapper.get('[data-part=shim] rect').attributes()
  const low = places[0]?.get('rect').attributes()
  expect(number(shim.y)).toBeGreaterThan(number(low?.y)) // below the front edge
  const arrow = wrapper.get('[data-part=fall]').attributes()
  expect([number(arrow['data-x']), number(arrow['data-y'])]).toEqual([-0.6, -0.8])
})

it('brings the tailstock up to the column', () => {
  expect(
    show({ ...axis, held: 'flange' })
      .find('[data-part=tail]')
      .exists(),
  ).toBe(false)
  expect(
    show({ ...axis, held: 'flange', tail_z_mm: 400 })
      .find('[data-part=tail]')
      .exists(),
  ).toBe(true)
})

const spread: Schemas['SpreadScene'] = {
  kind: 'spread',
  seen: 'Every reading on one scale.',
  rows: [
    { label: 'X, pushed and pulled', at_mm: [-0.01, 0.01], figure_mm: 0.02, now: false },
    { label: 'Arm flicked', at_mm: [0.001, -0.001, 0], figure_mm: null, now: true },
  ],
  limit_mm: 0.01,
  reading: '',
  describe: 'Readings on one scale.',
}

it('draws every row on one scale, with what is allowed beside it', () => {
  const wrapper = show(spread)
  const [play, arm] = wrapper.findAll('[data-part=row]')
  const across = (row: typeof play): number[] =>
    row?.findAll('circle').map((c) => number(c.attributes('cx'))) ?? []
  const wide = (row: typeof play): number => Math.max(...across(row)) - Math.min(...across(row))
  expect(wide(play)).toBeCloseTo(10 * wide(arm), 3)
  expect(play?.get('.figure').text()).not.toBe('')
  expect(arm?.get('.figure').text()).toBe('')
  const [, allowed] = /h(\S+)m/.exec(wrapper.get('[data-part=scale] path').attributes('d') ?? '') ?? []
  expect(number(allowed)).toBeCloseTo(wide(play) / 2, 3)
})
