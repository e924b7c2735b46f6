import { flushPromises, mount, type VueWrapper } from '@vue/test-utils'
import ElementPlus from 'element-plus'
import { createPinia, setActivePinia } from 'pinia'
import { beforeEach, expect, it, vi } from 'vitest'
import SheetDialog from './SheetDialog.vue'

let sent: { url: string; text: string; unit: string; reads: string }[] = []
let answer: () => Response

beforeEach(() => {
  sent = []
  answer = () =>
    Response.json({
      pass_no: 2,
      readings: [
        { station_id: 'g1', closing: false, text: '0.4', label: 'Place 1', needle_mm: 0.01016 },
        { station_id: 'g1', closing: true, text: '-0.5', label: 'Place 1', needle_mm: -0.0127 },
      ],
      asks: [],
    })
  setActivePinia(createPinia())
  vi.stubGlobal('fetch', async (request: Request) => {
    sent.push({ url: new URL(request.url).pathname, ...(await request.json()) })
    return answer()
  })
})

function open(): VueWrapper {
  return mount(SheetDialog, {
    props: { id: 'abc', res: 0.000508, modelValue: true },
    global: { plugins: [ElementPlus], stubs: { teleport: true } },
    attachTo: document.body,
  })
}

async function press(wrapper: VueWrapper, label: string): Promise<void> {
  await wrapper
    .findAll('button')
    .find((b) => b.text() === label)
    ?.trigger('click')
  await flushPromises()
}

it('shows every number in its place, then sends what the file says like typed readings', async () => {
  const wrapper = open()
  await flushPromises()
  const shows = wrapper.findAll('button').find((b) => b.text() === 'Show the readings')
  expect(shows?.attributes('disabled')).toBeDefined() // nothing is there yet
  await wrapper.get('textarea').setValue('1, 0.4\n1 again, -0.5')
  await press(wrapper, 'Show the readings')
  expect(sent).toEqual([
    { url: '/api/setups/abc/sheet', text: '1, 0.4\n1 again, -0.5', unit: 'thou', reads: '' },
  ])
  expect(wrapper.emitted('send')).toBeUndefined()
  const rows = wrapper.findAll('tbody tr').map((row) => row.findAll('td').map((cell) => cell.text()))
  expect(rows).toEqual([
    ['Place 1', '+0.40'],
    ['Place 1 again', '\u22120.50'],
  ])
  await press(wrapper, 'Take these 2 readings')
  const bodies = wrapper.emitted('send')?.[0]?.[0]
  expect(bodies).toEqual([
    expect.objectContaining({ type: 'reading_taken', pass_no: 2, station_id: 'g1', closing: false }),
    expect.objectContaining({ closing: true, typed: { text: '-0.5', unit: 'thou' } }),
  ])
  expect(wrapper.emitted('update:modelValue')?.at(-1)).toEqual([false])
})

it('asks which of two ways a file is to be taken, and goes back without losing it', async () => {
  const clear = answer
  answer = () =>
    Response.json({
      pass_no: 2,
      readings: [],
      asks: [
        { reads: 'point', label: 'A comma is a decimal point: 1.5' },
        { reads: 'places', label: 'Place 1 reads 5' },
      ],
    })
  const wrapper = open()
  await flushPromises()
  await wrapper.get('textarea').setValue('1,5\n2,0')
  await press(wrapper, 'Show the readings')
  expect(wrapper.find('table').exists()).toBe(false)
  answer = clear
  await press(wrapper, 'Place 1 reads 5')
  expect(sent.map((s) => s.reads)).toEqual(['', 'places'])
  expect(wrapper.find('table').exists()).toBe(true)
  await press(wrapper, 'Back')
  expect(wrapper.get('textarea').element.value).toBe('1,5\n2,0')
})

it('keeps what was pasted when a line cannot be read, and says which', async () => {
  answer = () =>
    Response.json(
      {
        type: 'about:blank',
        title: 'field_invalid',
        status: 422,
        code: 'field_invalid',
        detail: 'Line 2 has 3 cells.',
        fix: 'A place and its reading.',
        errors: [],
      },
      { status: 422, headers: { 'content-type': 'application/problem+json' } },
    )
  const wrapper = open()
  await flushPromises()
  await wrapper.get('textarea').setValue('1, 2\n3, 4, 5')
  await press(wrapper, 'Show the readings')
  expect(wrapper.get('[role=alert]').text()).toContain('Line 2 has 3 cells.')
  expect(wrapper.get('textarea').element.value).toBe('1, 2\n3, 4, 5')
  expect(wrapper.emitted('send')).toBeUndefined()
})

it('reads a file that is chosen, unless it is far too long', async () => {
  const wrapper = open()
  await flushPromises()
  const input = wrapper.get<HTMLInputElement>('input[type=file]')
  const give = async (file: File): Promise<void> => {
    Object.defineProperty(input.element, 'files', { value: [file], configurable: true })
    await input.trigger('change')
    await flushPromises()
  }
  await give(new File(['1, 0.02'], 'heights.csv'))
  expect(wrapper.get('textarea').element.value).toBe('1, 0.02')
  await give(new File(['x'.repeat(50000)], 'photo.csv'))
  expect(wrapper.get('[role=alert]').text()).toContain('too long')
  expect(wrapper.get('textarea').element.value).toBe('1, 0.02')
})
