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
