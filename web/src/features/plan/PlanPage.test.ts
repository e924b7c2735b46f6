import { flushPromises, mount, type VueWrapper } from '@vue/test-utils'
import ElementPlus from 'element-plus'
import { createPinia, setActivePinia } from 'pinia'
import { beforeEach, expect, it, vi } from 'vitest'
import { createMemoryHistory, createRouter } from 'vue-router'
import { plainItem as item } from '../../shared/testing'
import PlanPage from './PlanPage.vue'
import ProcedureField from './ProcedureField.vue'
import type { Procedure } from './form'

const asks = (more: Partial<Procedure['asks']> = {}): Procedure['asks'] => ({
  angles: 'number 1, counter-clockwise seen from the tailstock',
  part: 'Part',
  surface: true,
  place: true,
  view: true,
  diameter: 'Diameter where it is read',
  limit_kinds: ['tir', 'off_centre'],
  gauges: ['lever', 'plunger'],
  presets: [{ id: '4', word: '4 jaws', hint: 'Quickest.', stations_deg: [0, 90, 180, 270] }],
  schools: [],
  ...more,
})
const field = (more: Partial<Procedure['fields'][number]> = {}): Procedure['fields'][number] => ({
  name: 'bolts',
  label: 'Bolt positions',
  kind: 'number',
  hint: 'Evenly spaced.',
  start: '3',
  choices: [],
  optional: false,
  least: 2,
  most: 24,
  ...more,
})
const procedure = (id: string, more: Partial<Procedure> = {}): Procedure => ({
  id,
  title: `Title of ${id}`,
  machine_kinds: ['lathe'],
  needs: { holder: 'A holder.', gauge: 'A gauge.', machine: 'A lathe.', part: 'A part.' },
  holder_kinds: ['four_jaw_independent'],
  fields: [],
  asks: asks(),
  ...more,
})
const shop = {
  machines: [
    item('bramble', 'lathe', { name: 'Bramble lathe' }),
    item('heron', 'mill', { name: 'Heron mill' }),
  ],
  holders: [
    item('four-jaw', 'four_jaw_independent'),
    item('three-jaw', 'three_jaw'),
    item('head', 'mill_head'),
  ],
  gauges: [item('lever', 'lever'), item('rule', 'rule')],
  stock: [item('tin', 'shims', { name: 'Shim tin' })],
  wires: [],
}
const procedures = [
  procedure('four_jaw'),
  procedure('tram', {
    machine_kinds: ['mill'],
    holder_kinds: ['mill_head'],
    asks: asks({ view: false, angles: 'the right, seen from above', part: 'What it is done for' }),
  }),
  procedure('clocking', {
    holder_kinds: ['three_jaw'],
    fields: [field(), field({ name: 'stock', label: 'Shims from', kind: 'shims', start: '' })],
    asks: asks({ surface: false, limit_kinds: ['throw'], gauges: ['rule'] }),
  }),
]

let asked: { url: string; body: { procedure: string; choices: Record<string, string> } }[] = []
let refuse: unknown
/** How holders were worked the last time, by holder and procedure. */
let last: Record<string, unknown>
/** How they were worked is not told until this is kept. */
let lastComes: Promise<void>
/** The shop is away until this is kept. */
let shopComes: Promise<void>

beforeEach(() => {
  asked = []
  refuse = undefined
  last = {}
  lastComes = Promise.resolve()
  shopComes = Promise.resolve()
  setActivePinia(createPinia())
  vi.stubGlobal('fetch', async (request: Request) => {
    const { pathname: url, searchParams } = new URL(request.url)
    if (request.method === 'POST') asked.push({ url, body: await request.json() })
    if (url.endsWith('/shop')) await shopComes
    if (url.endsWith('/last')) await lastComes
    const answer = url.endsWith('/shop')
      ? shop
      : url.endsWith('/procedures')
        ? { procedures }
        : url.endsWith('/last')
          ? (last[`${url.split('/').at(-2)} ${searchParams.get('procedure')}`] ?? { plan: null })
          : { told: [], expect: [] }
    if (request.method === 'POST' && refuse) {
      return Response.json(refuse, { status: 422, headers: { 'content-type': 'application/problem+json' } })
    }
    return Response.json(answer)
  })
})

async function open(query = ''): Promise<VueWrapper> {
  const router = createRouter({
    history: createMemoryHistory(),
    routes: [
      { path: '/plan', component: PlanPage },
      { path: '/set-up/:id', component: { template: '<i />' } },
    ],
  })
  await router.push(`/plan${query}`)
  const wrapper = mount(PlanPage, { global: { plugins: [router, ElementPlus] }, attachTo: document.body })
  await flushPromises()
  return wrapper
}
const labels = (wrapper: VueWrapper): string[] => wrapper.findAll('.el-form-item__label').map((l) => l.text())

it('asks only what the procedure asks for', async () => {
  const four = await open()
  expect(labels(four)).toContain('The indicator is on')
  expect(labels(four)).not.toContain('Bolt positions')
  const clocking = await open('?holder=three-jaw')
  expect(labels(clocking)).toContain('Bolt positions')
  expect(labels(clocking)).not.toContain('The indicator is on')
  expect(clocking.text()).toContain('off the throw')
})

it('says what angles of one’s own are counted from there', async () => {
  for (const [query, from] of [
    ['?holder=head', 'the right, seen from above'],
    ['', 'number 1, counter-clockwise seen from the tailstock'],
  ]) {
    const wrapper = await open(query)
    await wrapper.get('input[value=own]').setValue()
    expect(wrapper.text()).toContain(`Degrees from ${from}, with spaces between.`)
    expect(wrapper.find('input[aria-label="Own angles"]').exists()).toBe(true)
  }
})

it('comes to the procedure that the chosen holder is for, with the gauge and drawer that go with it', async () => {
  const wrapper = await open('?holder=three-jaw')
  await wrapper.get('input[aria-label=Part]').setValue('Chuck')
  await wrapper.get('input[aria-label="Diameter where it is read"]').setValue('25 mm')
  await wrapper.get('input[aria-label="True within"]').setValue('1')
  await vi.waitFor(() => expect(asked.length).toBeGreaterThan(0))
  expect(asked.at(-1)?.body).toMatchObject({
    procedure: 'clocking',
    holder_id: 'three-jaw',
    gauge_id: 'rule',
    limit: { kind: 'throw' },
    choices: { bolts: '3', stock: 'tin' },
  })
})

it('keeps what was typed and shows what is wrong at the field of the procedure', async () => {
  const wrapper = await open('?holder=three-jaw')
  refuse = {
    type: 'about:blank',
    title: 'x',
    status: 422,
    code: 'field_invalid',
    detail: 'Count again.',
    fix: '',
    errors: [
      {
        field: 'choices.bolts',
        code: 'field_invalid',
        detail: 'Bolt positions is between 2 and 24.',
        fix: 'Count again.',
      },
    ],
  }
  await wrapper.get('input[aria-label="Bolt positions"]').setValue('99')
  await wrapper.get('button.main').trigger('click')
  await vi.waitFor(() => expect(wrapper.text()).toContain('between 2 and 24'))
  expect((wrapper.get('input[aria-label="Bolt positions"]').element as HTMLInputElement).value).toBe('99')
})

it('waits with opening for the shop: a hand may be quicker than the lists', async () => {
  let come = (): void => undefined
  shopComes = new Promise((resolve) => (come = resolve))
  const opened = (): unknown[] => asked.filter((one) => one.url === '/api/setups')
  const wrapper = await open('?machine=bramble')
  await wrapper.get('input[aria-label=Part]').setValue('Platen roller')
  document.dispatchEvent(new KeyboardEvent('keydown', { key: 'Enter', ctrlKey: true }))
  await flushPromises()
  expect(opened()).toEqual([])
  come()
  const chosen = { machine_id: 'bramble', holder_id: 'four-jaw', gauge_id: 'lever' }
  await vi.waitFor(() => expect(opened()).toMatchObject([{ body: { plan: chosen } }]))
})

it('draws a field by its kind', async () => {
  const show = (one: Procedure['fields'][number]): VueWrapper =>
    mount(ProcedureField, {
      props: { field: one, modelValue: '', shop, error: '', told: [], expect: [] },
      global: { plugins: [ElementPlus] },
    })
  const size = show(field({ kind: 'length', hint: 'Out from the nose.' }))
  expect(size.text()).toContain('Out from the nose. inches unless you type a unit.')
  await size.get('input').setValue('2"')
  expect(size.emitted('update:modelValue')?.at(-1)).toEqual(['2"'])
  const choice = show(field({ kind: 'choice', choices: [{ id: 'a', word: 'all round' }] }))
  expect(choice.text()).toContain('all round')
  expect(
    show(field({ kind: 'shims' }))
      .findComponent({ name: 'ElSelect' })
      .exists(),
  ).toBe(true)
})

it('comes to what the machine is for', async () => {
  const mill = await open('?machine=heron')
  expect(mill.text()).toContain('Title of tram')
  expect(mill.text()).toContain('Heron mill')
  expect(labels(mill)).not.toContain('Picture seen')
  expect(labels(mill)).toContain('What it is done for')
  expect(mill.find('input[aria-label="What it is done for"]').exists()).toBe(true)
})

const before = (choices: Record<string, string>): unknown => ({
  setup: 'x',
  at: '2026-11-12T08:00:00Z',
  plan: {
    procedure: 'clocking',
    part: { name: 'Old', diameter: { text: '9', unit: 'mm' } },
    limit: { kind: 'throw', typed: { text: '5', unit: 'thou' } },
    unit: 'thou',
    gauge_clock_deg: 180,
    choices,
  },
})

it('stands as the last time in this holder, in one line, until something of it is to be changed', async () => {
  last['three-jaw clocking'] = before({ bolts: '6', stock: 'tin' })
  const page = await open('?holder=three-jaw')
  await flushPromises()
  expect(page.text()).toContain('As last time in it, 12 Nov 2026: bolt positions 6 · shims from Shim tin.')
  expect(labels(page)).not.toContain('Bolt positions')
  expect(page.find<HTMLInputElement>('[aria-label="Part"]').element.value).toBe('')
  await page.find('.last button').trigger('click')
  await flushPromises()
  expect(document.activeElement?.closest('.el-form-item')?.textContent).toContain('Bolt positions')
  const bolts = page.findAllComponents(ProcedureField).find((one) => one.props('field').name === 'bolts')
  expect(bolts?.props('modelValue')).toBe('6')
  expect(page.text()).toContain('As last time in it, 12 Nov 2026: what follows stands as it did then.')
})

it('keeps what was chosen here, and takes nothing over for another holder', async () => {
  shop.holders.push(item('other', 'three_jaw'))
  last['other clocking'] = before({ bolts: '6' })
  const page = await open('?holder=three-jaw')
  const bolts = () =>
    page.findAllComponents(ProcedureField).find((one) => one.props('field').name === 'bolts')
  expect(bolts()?.props('modelValue')).toBe('3')
  bolts()?.vm.$emit('update:modelValue', '4')
  await flushPromises()
  const held = page
    .findAllComponents({ name: 'ElSelect' })
    .find((one) => one.props('ariaLabel') === 'Held in')
  held?.vm.$emit('update:modelValue', 'other')
  await flushPromises()
  expect(page.text()).toContain('bolt positions 4')
  lastComes = new Promise(() => undefined) // what was told last is of the other holder
  held?.vm.$emit('update:modelValue', 'three-jaw')
  await flushPromises()
  expect(page.text()).not.toContain('As last time')
  lastComes = Promise.resolve()
  held?.vm.$emit('update:modelValue', 'other')
  await flushPromises()
  held?.vm.$emit('update:modelValue', 'three-jaw')
  await flushPromises()
  expect(bolts()?.props('modelValue')).toBe('4')
  shop.holders.pop()
})

it('shows every field again when something is wrong at one of them', async () => {
  last['three-jaw clocking'] = before({ bolts: '6' })
  const page = await open('?holder=three-jaw')
  const wrong = { field: 'choices.bolts', code: 'field_invalid', detail: 'Too many.', fix: 'Count again.' }
  refuse = {
    type: 'about:blank',
    title: 'x',
    status: 422,
    code: 'field_invalid',
    detail: '',
    fix: '',
    errors: [wrong],
  }
  await page.find('form').trigger('submit')
  await vi.waitFor(() => expect(page.text()).toContain('Too many. Count again.'))
})
