import { enableAutoUnmount, flushPromises, mount, type VueWrapper } from '@vue/test-utils'
import ElementPlus from 'element-plus'
import { createPinia, setActivePinia } from 'pinia'
import { afterEach, beforeEach, expect, it, vi } from 'vitest'
import SheetDialog from './SheetDialog.vue'

let sent: { url: string; text: string }[] = []
let answer: () => Response

beforeEach(() => {
  sent = []
  answer = () =>
    Response.json({
      pass_no: 2,
      readings: [
        { station_id: 'g1', closing: false, text: '0.01' },
        { station_id: 'g1', closing: true, text: '0.011' },
      ],
    })
  setActivePinia(createPinia())
  vi.stubGlobal('fetch', async (request: Request) => {
    sent.push({ url: new URL(request.url).pathname, text: (await request.json()).text })
    return answer()
  })
})
afterEach(() => vi.unstubAllGlobals())
enableAutoUnmount(afterEach)

function open(): VueWrapper {
  return mount(SheetDialog, {
    props: { id: 'abc', modelValue: true },
    global: { plugins: [ElementPlus], stubs: { teleport: true } },
    attachTo: document.body,
  })
}

it('sends what the file says like typed readings, in the unit of the screen', async () => {
  const wrapper = open()
  await flushPromises()
  const take = wrapper.findAll('button').find((b) => b.text() === 'Take the readings')
  expect(take?.attributes('disabled')).toBeDefined() // nothing is there yet
  await wrapper.get('textarea').setValue('1, 0.01\n1 again, 0.011')
  await take?.trigger('click')
  await flushPromises()
  expect(sent).toEqual([{ url: '/api/setups/abc/sheet', text: '1, 0.01\n1 again, 0.011' }])
  const bodies = wrapper.emitted('send')?.[0]?.[0]
  expect(bodies).toEqual([
    expect.objectContaining({ type: 'reading_taken', pass_no: 2, station_id: 'g1', closing: false }),
    expect.objectContaining({ closing: true, typed: { text: '0.011', unit: 'thou' } }),
  ])
  expect(wrapper.emitted('update:modelValue')?.at(-1)).toEqual([false])
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
  await wrapper
    .findAll('button')
    .find((b) => b.text() === 'Take the readings')
    ?.trigger('click')
  await flushPromises()
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
