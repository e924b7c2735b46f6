import { mount, type VueWrapper } from '@vue/test-utils'
import { createPinia, setActivePinia } from 'pinia'
import { beforeEach, expect, it } from 'vitest'
import type { Schemas } from '../../api/client'
import ChuckFace from './ChuckFace.vue'

const words = (text: string): Schemas['Words'] => ({ kind: 'words', text, strong: false })
const jaw = (n: number, at: number, act: 'ease' | 'draw_in' | null = null): Schemas['SceneJaw'] => ({
  jaw: n,
  at_deg: at,
  do: act,
  order: act === 'ease' ? 1 : act ? 2 : null,
  shim_mm: null,
  label: act === 'ease' ? [words('back off first')] : act ? [words('then tighten')] : [],
})
/** Jaw 2 on top at the gauge; the work 0.2 mm off toward it. */
const scene: Schemas['ChuckScene'] = {
  kind: 'chuck_face',
  holder: 'jaws',
  tap: null,
  wanted: null,
  flats: false,
  lean: false,
  seen: 'Seen from the tailstock',
  view_turn_deg: 0,
  chuck_radius_mm: 100,
  rings_mm: [30, 45],
  work_radius_mm: 31,
  surface: 'outside',
  known: true,
  x_mm: 0,
  y_mm: 0.2,
  magnification: 20,
  high_deg: 90,
  turns: true,
  limit_radius_mm: 0.01,
  jaws: [jaw(1, 0), jaw(2, 90, 'draw_in'), jaw(3, 180), jaw(4, 270, 'ease')],
  spots: [{ station_id: 's2', label: 'Jaw 2', at_deg: 90, state: 'read' }],
  gauge: { at_deg: 90, station_label: 'jaw 2', needle_mm: 0.09906, signed: true },
  track: [{ pass_no: 1, x_mm: 0, y_mm: 0.2 }],
  describe: 'Four-jaw chuck; jaw 2 at the gauge, on top.',
}

const draw = (changes: Partial<Schemas['ChuckScene']> = {}): VueWrapper =>
  mount(ChuckFace, { props: { scene: { ...scene, ...changes }, resolutionMm: 0.00254 } })
const shift = (wrapper: VueWrapper): number[] =>
  (wrapper.get('[data-part=work]').attributes('transform') ?? '').match(/-?\d[\d.e-]*/g)?.map(Number) ?? []
const at = (wrapper: VueWrapper, selector: string): { x: number; y: number } => {
  const found = wrapper.get(selector)
  return {
    x: Number(found.attributes('x') ?? found.attributes('cx')),
    y: Number(found.attributes('y') ?? found.attributes('cy')),
  }
}

beforeEach(() => {
  localStorage.clear()
  setActivePinia(createPinia())
})

it('draws the offset as many times life as it says, the way the work is off', () => {
  const wrapper = draw()
  const [x, y] = shift(wrapper)
  expect(x).toBeCloseTo(0)
  // 0.2 mm, 20 times life, at the scale of the work: 55.8 px for 31 mm
  expect(y).toBeCloseTo((-0.2 * 20 * 55.8) / 31, 1)
  expect(wrapper.text()).toContain('Offset shown 20×.')
})

it('the arrows stand at the jaws that act and at no others', () => {
  const wrapper = draw()
  expect(wrapper.findAll('.act').map((a) => [a.attributes('data-jaw'), a.attributes('data-act')])).toEqual([
    ['2', 'draw_in'],
    ['4', 'ease'],
  ])
  expect(at(wrapper, '.act.draw_in text').y).toBeLessThan(120)
  expect(at(wrapper, '.act.ease text').y).toBeGreaterThan(380)
})

it('draws in toward the middle and eases away from it', () => {
  const shaft = (selector: string): number[] =>
    (draw().get(`${selector} .shaft`).attributes('d') ?? '').match(/-?[\d.]+/g)?.map(Number) ?? []
  const [, inFrom, , inTo] = shaft('.act.draw_in') // on top: down is inward
  expect(inTo).toBeGreaterThan(inFrom ?? 0)
  const [, outFrom, , outTo] = shaft('.act.ease') // below: down is outward
  expect(outTo).toBeGreaterThan(outFrom ?? 0)
})

it('turns everything with the view: what was on top is at the left when the operator is at the bottom', () => {
  const wrapper = draw({ view_turn_deg: 90 })
  const [x, y] = shift(wrapper)
  expect(x).toBeLessThan(-5)
  expect(y).toBeCloseTo(0)
  expect(wrapper.get('[data-part=gauge]').attributes('data-angle')).toBe('180')
  expect(wrapper.get('.jaw.draw_in').attributes('data-angle')).toBe('180')
  expect(at(wrapper, '[data-part=gauge] circle').x).toBeLessThan(280)
})

it('the gauge touches the surface from outside, and in a bore from within', () => {
  const outside = draw()
  const tip = at(outside, '[data-part=gauge] circle')
  const head = Number(outside.get('[data-part=gauge] line').attributes('y2'))
  expect(head).toBeLessThan(tip.y)
  const bore = draw({ surface: 'inside' })
  const from = Number(bore.get('[data-part=gauge] line').attributes('y2'))
  expect(from).toBeGreaterThan(at(bore, '[data-part=gauge] circle').y)
  expect(bore.find('[data-part=work] path').exists()).toBe(true)
})

it('says so when nothing is known yet, and draws the work in the middle', () => {
  const wrapper = draw({ known: false, x_mm: 0, y_mm: 0, high_deg: null })
  expect(wrapper.text()).toContain('Offset not known yet.')
  expect(wrapper.find('.offset').exists()).toBe(false)
  expect(wrapper.find('.high').exists()).toBe(false)
  expect(shift(wrapper).map(Math.abs)).toEqual([0, 0])
})

it('keeps every label inside the picture', () => {
  for (const turned of [0, 45, 90, 135, 180, 225, 270, 315]) {
    const wrapper = draw({ view_turn_deg: turned })
    for (const label of wrapper.findAll('.act text')) {
      const x = Number(label.attributes('x'))
      const width = label.text().length * 9
      const left = label.attributes('text-anchor') === 'end' ? x - width : x
      expect(left).toBeGreaterThan(-12)
      expect(left + width).toBeLessThan(660)
    }
  }
})

it('shows needle, mark of the station, and the picture in words', () => {
  const wrapper = draw()
  expect(wrapper.get('[data-part=gauge] text').text()).toBe('+3.9')
  expect(wrapper.attributes('aria-label')).toBe(scene.describe)
  expect(
    draw({ gauge: { ...scene.gauge, needle_mm: null } })
      .get('[data-part=gauge] text')
      .text(),
  ).toBe('jaw 2')
  expect(draw({ turns: false }).text()).not.toContain('turn by hand')
})

it('draws a blow where it lands, and a shim under its jaw', () => {
  const tapped = draw({ holder: 'faceplate', jaws: [], tap: { at_deg: 90, label: [words('tap')] } })
  expect(tapped.get('[data-act=tap]').attributes('data-angle')).toBe('90')
  expect(tapped.findAll('.slot')).toHaveLength(8)
  const packed = draw({ jaws: [{ ...jaw(1, 0), shim_mm: 0.1 }, jaw(2, 120), jaw(3, 240)] })
  expect(packed.findAll('[data-shim]').map((s) => s.attributes('data-shim'))).toEqual(['1'])
})

it('marks the throw that is wanted away from the middle', () => {
  const wrapper = draw({ wanted: { pass_no: 0, x_mm: 0, y_mm: 0.3 } })
  const target = at(wrapper, '.target')
  expect(target.x).toBeCloseTo(330)
  expect(target.y).toBeLessThan(252)
})

it('says that a head leans, where nothing is off center', () => {
  expect(draw({ lean: true }).text()).toContain('The top leans to the dot')
})

it('a head is drawn from two sides, leaning as it leans, with the way that its top has to go', () => {
  const head = draw({
    lean: true,
    x_mm: 0.04,
    y_mm: -0.02,
    tap: { at_deg: 0, label: [words('top this way')] },
    turns: false,
  })
  const front = head.get('[data-part=from-front]')
  const right = head.get('[data-part=from-right]')
  expect(Number(front.attributes('data-lean'))).toBeCloseTo(16, 6) // the top to the right, seen from the front
  expect(Number(right.attributes('data-lean'))).toBeCloseTo(-8, 6) // and to the front, at the left seen from the right
  expect(front.get('.move').attributes('d')).toMatch(/^M108 4h-52/) // back to the left
  expect(right.find('.move').exists()).toBe(false)
  expect(draw().find('[data-part=from-front]').exists()).toBe(false)
})
