import { flushPromises, mount, type VueWrapper } from '@vue/test-utils'
import ElementPlus from 'element-plus'
import { createPinia, setActivePinia } from 'pinia'
import { afterEach, beforeEach, expect, it, vi } from 'vitest'
import type { Schemas } from '../../api/client'
import { plainItem } from '../../shared/testing'
import ShopPage from './ShopPage.vue'

const field = (
  name: string,
  label: string,
  more: Partial<Schemas['FieldSpec']> = {},
): Schemas['FieldSpec'] => ({
  name,
  label,
  kind: 'length',
  hint: '',
  start: '',
  choices: [],
  optional: false,
  least: 0,
  most: 3000,
  ...more,
})
const KINDS = ['four_jaw', 'three_jaw', 'collet', 'centers', 'vise']
const forms: Schemas['FormsOut'] = {
  shelves: [
    {
      shelf: 'holders',
      title: 'Holders',
      one: 'Chuck or other holder',
      kinds: KINDS.map((id) => ({
        id,
        word: id.replace('_', ' '),
        fields:
          id === 'vise'
            ? [field('edge_mm', 'Length of its jaw')]
            : [field('diameter_mm', 'Its own diameter')],
      })),
    },
    { shelf: 'stock', title: 'Drawers', one: 'Drawer', kinds: [{ id: 'shims', word: 'shims', fields: [] }] },
  ],
}
const words = (text: string): Schemas['Words'] => ({ kind: 'words', text, strong: false })
const chuck = plainItem('c', 'four_jaw', {
  name: 'Four-jaw 200',
  about: [words('work to 180 mm')],
  remembers: [words('Remembers 3 set-ups')],
  typed: { diameter_mm: '200 mm' },
})
let calls: string[] = []
let sent: unknown
let refusal: Response | undefined

beforeEach(() => {
  calls = []
  refusal = undefined
  setActivePinia(createPinia())
  vi.stubGlobal('fetch', async (request: Request) => {
    const { pathname } = new URL(request.url)
    calls.push(`${request.method} ${pathname}`)
    if (request.method === 'PUT') sent = await request.json()
    if (request.method === 'PUT' && refusal) return refusal
    if (pathname === '/api/shop/forms') return Response.json(forms)
    return Response.json({ machines: [], holders: [chuck], gauges: [], stock: [], wires: [] })
  })
})
afterEach(() => {
  vi.unstubAllGlobals()
  document.body.innerHTML = ''
})

async function open(): Promise<VueWrapper> {
  const wrapper = mount(ShopPage, { global: { plugins: [ElementPlus] }, attachTo: document.body })
  await flushPromises()
  return wrapper
}

const within = (label: string): HTMLInputElement =>
  document.querySelector<HTMLInputElement>(`.el-dialog [aria-label="${label}"]`) as HTMLInputElement
async function press(words: string): Promise<void> {
  const found = [...document.querySelectorAll('button')].filter((b) => b.textContent.trim() === words)
  found[found.length - 1]?.click()
  await flushPromises()
}
async function type(label: string, text: string): Promise<void> {
  const input = within(label)
  input.value = text
  input.dispatchEvent(new Event('input'))
  await flushPromises()
}

it('says what a holder is and remembers', async () => {
  const wrapper = await open()
  expect(wrapper.get('.item').text()).toContain('work to 180 mm')
  expect(wrapper.get('.item').text()).toContain('Remembers 3 set-ups')
})

it('lets it forget, and looks again', async () => {
  const wrapper = await open()
  await wrapper.get('.item').trigger('click')
  await flushPromises()
  await press('Forget all that')
  expect(calls).toContain('DELETE /api/shop/holders/c/memory')
  expect(calls.filter((c) => c === 'GET /api/shop')).toHaveLength(2)
})

it('shows a thing as it was typed and sends it back, what was changed changed', async () => {
  const wrapper = await open()
  await wrapper.get('.item').trigger('click')
  await flushPromises()
  expect(within('Its own diameter').value).toBe('200 mm')
  await type('Its own diameter', '8"')
  await press('Keep it')
  expect(sent).toEqual({ kind: 'four_jaw', name: 'Four-jaw 200', typed: { diameter_mm: '8"' } })
  expect(calls).toContain('PUT /api/shop/holders/c')
})

it('asks of a thing what its kind has, from a list where there are many kinds', async () => {
  const wrapper = await open()
  await wrapper.get('section button').trigger('click')
  await flushPromises()
  expect(document.querySelectorAll('.el-dialog .el-radio-button')).toHaveLength(0)
  expect(document.querySelector('.el-dialog .el-select')).not.toBeNull()
  expect(within('Its own diameter')).not.toBeNull()
  expect(within('Length of its jaw')).toBeNull()
})

it('says what is wrong at the field, and loses nothing', async () => {
  const errors = [{ field: 'typed.diameter_mm', code: 'x', detail: 'Nothing was typed.', fix: 'Measure it.' }]
  const wrapper = await open()
  await wrapper.get('section button').trigger('click')
  await flushPromises()
  await type('Name', 'New chuck')
  refusal = Response.json(
    { type: 'x', title: 'x', status: 422, detail: 'x', code: 'field_invalid', fix: '', errors },
    { status: 422, headers: { 'Content-Type': 'application/problem+json' } },
  )
  await press('Keep it')
  await vi.waitFor(() =>
    expect(document.querySelector('.el-dialog')?.textContent).toContain('Nothing was typed. Measure it.'),
  )
  expect(within('Name').value).toBe('New chuck')
})
