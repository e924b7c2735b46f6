import { flushPromises, mount, type VueWrapper } from '@vue/test-utils'
import ElementPlus from 'element-plus'
import { createPinia, setActivePinia } from 'pinia'
import { beforeEach, expect, it, vi } from 'vitest'
import type { Component } from 'vue'
import { createMemoryHistory, createRouter } from 'vue-router'
import FollowUps from './FollowUps.vue'
import LogbookPage from './LogbookPage.vue'
import MeasuredForm from './MeasuredForm.vue'
import PhotoStrip from './PhotoStrip.vue'
import StoryLines from './StoryLines.vue'

let asked: { method: string; url: URL; body?: Record<string, unknown> }[] = []
let answer: (url: URL, method: string) => Response
const problem = (detail: string, fix = ''): Response =>
  Response.json({ code: 'field_invalid', detail, fix, errors: [] }, { status: 422 })

beforeEach(() => {
  asked = []
  answer = () => Response.json({})
  setActivePinia(createPinia())
  vi.stubGlobal('fetch', async (input: Request | string, options?: RequestInit) => {
    const request = input instanceof Request ? input : new Request(new URL(input, location.href), options)
    const url = new URL(request.url)
    const json = request.headers.get('content-type')?.includes('json')
    const body = json ? ((await request.json()) as Record<string, unknown>) : undefined
    asked.push({ method: request.method, url, ...(body ? { body } : {}) })
    return answer(url, request.method)
  })
})

async function show(component: Component, props: Record<string, unknown> = {}): Promise<VueWrapper> {
  const router = createRouter({
    history: createMemoryHistory(),
    routes: [{ path: '/:rest(.*)*', component: { template: '<i />' } }],
  })
  const wrapper = mount(component, {
    props,
    global: { plugins: [router, ElementPlus] },
    attachTo: document.body,
  })
  await flushPromises()
  return wrapper
}
const button = (page: VueWrapper, name: string): ReturnType<VueWrapper['get']> =>
  page.findAll('button').find((one) => one.text().startsWith(name)) ?? page.get(`[data-no="${name}"]`)
const posted = (): Record<string, unknown>[] =>
  asked.filter((one) => one.method === 'POST').map((one) => one.body?.body as Record<string, unknown>)

it('goes from page to page by their last lines, and begins anew when something else is asked', async () => {
  answer = (url) => {
    if (url.pathname.endsWith('/choices'))
      return Response.json({ machines: ['Bramble lathe'], holders: [], procedures: [], hands: ['Ode'] })
    const after = url.searchParams.get('after')
    return Response.json({ rows: [], more: after === null ? 'first' : after === 'first' ? 'second' : '' })
  }
  const page = await show(LogbookPage)
  const last = (): string | null | undefined =>
    asked
      .filter((one) => one.url.pathname === '/api/logbook')
      .at(-1)
      ?.url.searchParams.get('after')
  await button(page, 'Older').trigger('click')
  await flushPromises()
  expect(last()).toBe('first')
  await button(page, 'Older').trigger('click')
  await flushPromises()
  expect(last()).toBe('second')
  expect(page.text()).not.toContain('Older')
  await button(page, 'Newer').trigger('click')
  await flushPromises()
  expect(last()).toBe('first')
  await page.get('input[aria-label^="Look for any word"]').setValue('drum')
  await vi.waitFor(() => expect(last()).toBe(null))
  await flushPromises()
  expect(page.text()).not.toContain('Newer')
  expect(asked.at(-1)?.url.searchParams.get('words')).toBe('drum')
  expect(page.get('a[href^="/api/logbook.xlsx"]').attributes('href')).toContain('words=drum')
})

it('tells what a part measured, and goes on to the next piece', async () => {
  const form = await show(MeasuredForm, { id: 's1', kind: 'tir', next: 3 })
  await form.get('input[aria-label="It measured"]').setValue('0.4')
  await form.get('input[aria-label="Measured by"]').setValue('Ring gauge')
  await form.get('form').trigger('submit')
  await flushPromises()
  expect(posted()).toEqual([
    {
      type: 'measured_part',
      what: 'asked',
      typed: { text: '0.4', unit: 'thou' },
      piece: 3,
      by: 'Ring gauge',
    },
  ])
  expect(form.emitted('kept')).toHaveLength(1)
  const value = (label: string): string =>
    (form.get(`input[aria-label="${label}"]`).element as HTMLInputElement).value
  expect([value('Piece'), value('It measured'), value('Measured by')]).toEqual(['4', '', 'Ring gauge'])
})

it('keeps what was typed when it is refused, and sends the same under the same id', async () => {
  const form = await show(MeasuredForm, { id: 's1', kind: 'tir', next: 1 })
  answer = () => problem('“x” is not a length.', 'Type a number.')
  await form.get('input[aria-label="It measured"]').setValue('x')
  await form.get('form').trigger('submit')
  await flushPromises()
  await form.get('form').trigger('submit')
  await flushPromises()
  expect(form.get('[role=alert]').text()).toBe('“x” is not a length. Type a number.')
  expect((form.get('input[aria-label="It measured"]').element as HTMLInputElement).value).toBe('x')
  const ids = asked.map((one) => one.body?.id)
  expect(ids[0]).toBe(ids[1])
  await form.get('input[aria-label="Piece"]').setValue('one')
  await form.get('form').trigger('submit')
  expect(form.get('[role=alert]').text()).toContain('no number of a piece')
  expect(asked).toHaveLength(2)
})

it('remembers what is to be looked at again, and when it was', async () => {
  const open = [{ id: 'f1', what: 'Jaw 2', when: 'on', on: '2026-12-24', piece: null }]
  const list = await show(FollowUps, { id: 's1', followUps: open })
  expect(list.text()).toContain('24 Dec 2026')
  await list.get('input[aria-label="What to look at"]').setValue('Runout')
  await list.get('form').trigger('submit')
  await flushPromises()
  await button(list, 'Done').trigger('click')
  await flushPromises()
  expect(posted()).toEqual([
    { type: 'follow_up_set', follow: { what: 'Runout', when: 'first_cut' } },
    { type: 'follow_up_done', follow_id: 'f1' },
  ])
  answer = () => problem('That is done already.')
  await button(list, 'Done').trigger('click')
  await flushPromises()
  expect(list.get('[role=alert]').text()).toContain('done already')
})

it('takes a photo away only when it is asked twice', async () => {
  const photos = [{ id: 'p1', at: '2026-11-27T10:00:00Z', author: 'Ode', width: 300, height: 200 }]
  answer = () => Response.json({ photos })
  const strip = await show(PhotoStrip, { id: 's1' })
  expect(strip.get('img').attributes('alt')).toContain('by Ode')
  expect(strip.get('img').attributes('width')).toBe('180')
  await button(strip, 'Take away').trigger('click')
  expect(asked.some((one) => one.method === 'DELETE')).toBe(false)
  await button(strip, 'Sure?').trigger('click')
  await flushPromises()
  expect(asked.find((one) => one.method === 'DELETE')?.url.pathname).toBe('/api/setups/s1/photos/p1')
})

it('says when a photo is none', async () => {
  answer = (_, method) =>
    method === 'POST' ? problem('This is no picture.', 'Take it again.') : Response.json({ photos: [] })
  const strip = await show(PhotoStrip, { id: 's1' })
  const input = strip.get('input[type=file]')
  Object.defineProperty(input.element, 'files', { value: [new File(['x'], 'x.txt')] })
  await input.trigger('change')
  await vi.waitFor(() => expect(strip.get('[role=alert]').text()).toBe('This is no picture. Take it again.'))
})

it('tells the last that was measured, and leaves out what there is not', async () => {
  const words = (text: string): object[] => [{ kind: 'words', text, strong: false }]
  const story = {
    asked: words('A.'),
    found: words('F.'),
    done: words('D.'),
    after: [1, 2, 3, 4].map((n) => words(`P${n}.`)),
  }
  const lines = await show(StoryLines, { story, res: 0.001 })
  expect(lines.text()).not.toContain('P1.')
  expect(lines.text()).toContain('P4.')
  await lines.setProps({ story: { ...story, after: [] } })
  expect(lines.text()).not.toContain('Afterwards')
})
