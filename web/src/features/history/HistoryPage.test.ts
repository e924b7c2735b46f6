import { flushPromises, mount, type VueWrapper } from '@vue/test-utils'
import ElementPlus from 'element-plus'
import { createPinia, setActivePinia } from 'pinia'
import { beforeEach, expect, it, vi } from 'vitest'
import { createMemoryHistory, createRouter } from 'vue-router'
import type { Schemas } from '../../api/client'
import HistoryPage from './HistoryPage.vue'
import PartDots from './PartDots.vue'
import PushMap from './PushMap.vue'

const drawn: { data: { datasets: { data: { x: number; y: number }[] }[] } }[] = []
vi.mock('chart.js', () => {
  class Chart {
    static register(): void {
      // nothing to do: it draws nothing here
    }
    constructor(_: unknown, config: (typeof drawn)[number]) {
      drawn.push(config)
    }
    destroy(): void {
      // as above
    }
  }
  return { Chart, LineController: {}, LineElement: {}, LinearScale: {}, PointElement: {}, Tooltip: {} }
})

const words = (text: string): Schemas['Words'] => ({ kind: 'words', text, strong: false })
const series = (id: string, values: number[], more: Partial<Schemas['Series']> = {}): Schemas['Series'] => ({
  id,
  label: `Label of ${id}`,
  measure: 'mm',
  points: values.map((value, n) => ({
    setup: `s${n}`,
    at: `2026-0${n + 1}-01T08:00:00Z`,
    part: 'Drum',
    value,
    odd: false,
  })),
  middle: null,
  low: null,
  high: null,
  since: null,
  told: [],
  ...more,
})
const history: Schemas['History'] = {
  subject: 'holder',
  name: 'Four-jaw 200',
  about: [words('5 set-ups, 4 proved.')],
  series: [
    series('shift', [0.00254, 0.00254, 0.00254, 0.00762, 0.00762], {
      since: '2026-04-01T08:00:00Z',
      told: [words('Shift grew.')],
      middle: 0.00254,
      low: 0,
      high: 0.004,
    }),
    series('passes', [2, 3, 2, 3], { measure: 'count' }),
    series('minutes', [12], { measure: 'minutes' }),
  ],
  score: { parts: [{ share: 0.4, held: true }], promised: 1, kept: 1, told: [[words('1 of 1 held.')]] },
  pushes: [{ setup: 's0', at: '2026-01-01T08:00:00Z', x_mm: -0.003, y_mm: 0 }],
  jaws_deg: { '1': 0, '2': 90, '3': 180, '4': 270 },
  lessons: [
    { setup: 's1', at: '2026-02-01T08:00:00Z', part: 'Drum', what: [words('86 % stays')], counts: 'counts' },
    { setup: 's0', at: '2026-01-01T08:00:00Z', part: 'Cam', what: [], counts: 'no lesson' },
  ],
}

let asked: { method: string; url: string; body?: unknown }[] = []
let refuse = false
beforeEach(() => {
  asked = []
  refuse = false
  drawn.length = 0
  setActivePinia(createPinia())
  vi.stubGlobal('fetch', async (request: Request) => {
    const url = new URL(request.url).pathname
    const body = request.method === 'PUT' ? ((await request.json()) as unknown) : undefined
    asked.push({ method: request.method, url, body })
    if (refuse && request.method !== 'GET') {
      const problem = { code: 'unknown_thing', detail: 'No such holder.', fix: 'Look again.', errors: [] }
      return Response.json(problem, { status: 404 })
    }
    return Response.json(request.method === 'GET' ? history : { id: 'four-jaw-200' })
  })
})

async function open(): Promise<VueWrapper> {
  const router = createRouter({
    history: createMemoryHistory(),
    routes: [
      { path: '/history/:subject/:id', component: HistoryPage },
      { path: '/logbook/:id?', component: { template: '<i />' } },
    ],
  })
  await router.push('/history/holder/four-jaw-200')
  const wrapper = mount(HistoryPage, {
    global: { plugins: [router, ElementPlus] },
    attachTo: document.body,
  })
  await flushPromises()
  return wrapper
}

it('says what it is like now, what changed, and what is too little to draw', async () => {
  const page = await open()
  const tiles = page.findAll('.tiles li').map((one) => one.text())
  expect(tiles[0]).toBe('0.30 thouLabel of shift') // the middle of what came after the change
  expect(tiles[1]).toBe('3 Label of passes')
  expect(page.get('.alarm').text()).toBe('Shift grew.')
  expect(page.text()).toContain('Too few yet to draw: label of minutes (1).')
})

it('draws lengths in the unit chosen', async () => {
  await open()
  const shift = (): number[] | undefined =>
    drawn
      .flatMap((one) => one.data.datasets.map((set) => set.data.map((p) => Number(p.y.toFixed(6)))))
      .find((y) => y.length === 5)
  await vi.waitFor(() => expect(shift()).toEqual([0.1, 0.1, 0.1, 0.3, 0.3]))
})

it('strikes a lesson, and asks again', async () => {
  const page = await open()
  const before = asked.length
  await page.get('button[aria-label^="Strike: Drum"]').trigger('click')
  await flushPromises()
  expect(asked[before]).toEqual({
    method: 'PUT',
    url: '/api/holders/four-jaw-200/struck',
    body: { setup_id: 's1', struck: true },
  })
  expect(asked.at(-1)?.method).toBe('GET')
})

it('forgets what was before only when it is meant', async () => {
  const page = await open()
  const button = (name: string): ReturnType<typeof page.get> =>
    page.findAll('button').find((one) => one.text() === name) ?? page.get('nothing')
  await button('Serviced today').trigger('click')
  await button('No').trigger('click')
  expect(asked.some((one) => one.method === 'DELETE')).toBe(false)
  await button('Serviced today').trigger('click')
  await button('Yes, forget what was before').trigger('click')
  await flushPromises()
  expect(asked.some((one) => one.method === 'DELETE' && one.url.endsWith('/memory'))).toBe(true)
})

it('says when it could not be done', async () => {
  const page = await open()
  refuse = true
  await page.get('button[aria-label^="Strike: Drum"]').trigger('click')
  await flushPromises()
  expect(page.get('[role=alert]').text()).toBe('No such holder. Look again.')
})

const ends = (jawsDeg: Record<string, number>, x_mm: number, y_mm: number): [number, number] => {
  const map = mount(PushMap, {
    props: { pushes: [{ setup: 's', at: '2026-01-01T00:00:00Z', x_mm, y_mm }], jawsDeg, since: '' },
  })
  const line = map.get('line')
  return [Math.round(Number(line.attributes('x2'))) + 0, Math.round(Number(line.attributes('y2'))) + 0]
}

it('draws a push toward the jaw it went to, jaw 1 on top', () => {
  const ccw = { '1': 0, '2': 90, '3': 180, '4': 270 }
  expect(ends(ccw, 0.003, 0)).toEqual([0, -96])
  expect(ends(ccw, -0.003, 0)).toEqual([0, 96])
  expect(ends(ccw, 0, 0.003)).toEqual([-96, 0])
  const cw = { '1': 0, '2': 270, '3': 180, '4': 90 }
  expect(ends(cw, 0, 0.003)).toEqual([96, 0])
})

it('stacks parts that measured alike, and crosses those beyond the limit', () => {
  const parts = [0.4, 0.4, 0.41, 1.1].map((share) => ({ share, held: share <= 1 }))
  const dots = mount(PartDots, { props: { score: { parts, promised: 4, kept: 3, told: [] } } })
  const high = dots.findAll('circle').map((one) => Number(one.attributes('cy')))
  expect(new Set(high).size).toBeGreaterThan(1)
  expect(dots.findAll('.missed path')).toHaveLength(1)
  expect(dots.get('svg').attributes('aria-label')).toContain('1 of them beyond it')
})
