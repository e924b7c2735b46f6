import 'fake-indexeddb/auto'
import { mount } from '@vue/test-utils'
import { createPinia, setActivePinia } from 'pinia'
import { afterEach, beforeEach, expect, it, vi } from 'vitest'
import { defineComponent, h } from 'vue'
import type { Schemas } from '../../api/client'
import { useOutbox } from '../../api/outbox'
import { openCell } from '../../shared/testing'
import { useSetup } from './useSetup'

const done = (n: number, typed = '1'): Schemas['Cell'] =>
  openCell(n, { state: 'read', reading_id: `r${n}`, typed, typed_unit: 'thou', needle_mm: 0.0254 })
const view = (seq: number, cells: Schemas['Cell'][], pass = 1): Schemas['SetupView'] =>
  ({
    id: 'x',
    seq,
    last_event_id: `e${seq}`,
    can_undo: true,
    tray: { pass_no: pass, purpose: 'correct', active: true, cells },
  }) as unknown as Schemas['SetupView']

class Stream extends EventTarget {
  static CLOSED = 2
  static last: Stream | undefined
  readyState = 1
  constructor(readonly url: string) {
    super()
    Stream.last = this
  }
  close(): void {
    this.readyState = Stream.CLOSED
  }
  tell(seq: number): void {
    this.dispatchEvent(new MessageEvent('changed', { data: JSON.stringify([{ id: 'x', seq }]) }))
  }
}

let sent: Schemas['EventIn']['body'][] = []
let current: Schemas['SetupView']
/** How often the view was fetched. */
let fetched = 0
let away = false
/** What the server says to whatever it is sent, when it will not have it. */
let problem: object | undefined

async function open(): Promise<ReturnType<typeof useSetup>> {
  let found: ReturnType<typeof useSetup> | undefined
  mount(
    defineComponent({
      setup: () => {
        found = useSetup('x')
        return () => h('div')
      },
    }),
  )
  await vi.waitFor(() => expect(found?.view.value).toBeDefined())
  return found as ReturnType<typeof useSetup>
}

beforeEach(() => {
  sent = []
  fetched = 0
  away = false
  problem = undefined
  current = view(7, [done(1), openCell(2), openCell(3), openCell(4)])
  vi.stubGlobal('EventSource', Stream)
  vi.stubGlobal('fetch', async (request: Request) => {
    if (request.method === 'GET') {
      fetched += 1
      return Response.json(current)
    }
    if (away) throw new TypeError('no connection')
    if (problem) return Response.json(problem, { status: 422 })
    sent.push(((await request.json()) as Schemas['EventIn']).body)
    return Response.json({ added: true, view: current })
  })
  setActivePinia(createPinia())
})
afterEach(async () => {
  const box = useOutbox()
  await vi.waitFor(() => expect(box.entries.every((e) => e.key !== undefined)).toBe(true)) // all written down
  for (const entry of box.entries) await box.drop(entry.event.id)
  box.stop()
})

it('types into the first open cell, sends it, and stands at the next one at once', async () => {
  const setup = await open()
  expect(setup.current.value).toBe(1)
  await setup.read('2.5')
  expect(setup.current.value).toBe(2)
  await vi.waitFor(() => expect(sent).toHaveLength(1))
  expect(sent[0]).toMatchObject({
    type: 'reading_taken',
    pass_no: 1,
    station_id: 's2',
    typed: { text: '2.5', unit: 'thou' },
  })
})

it('what a step asked to measure is refused at its field, and what is typed anew takes its place', async () => {
  current = { ...view(7, []), panels: [{ ask: 'gap' }] } as unknown as Schemas['SetupView']
  problem = {
    status: 422,
    code: 'length_nonsense',
    title: '',
    detail: 'That is no length.',
    fix: 'Type one.',
    errors: [],
  }
  const setup = await open()
  setup.send({ type: 'gap_measured', typed: { text: 'abc', unit: 'thou' } })
  setup.send({ type: 'noted', text: 'x' })
  await vi.waitFor(() => expect(setup.refused.value.lines).toHaveLength(1))
  expect(setup.refused.value.field).toBe('That is no length. Type one.')
  expect(setup.refused.value.lines[0]?.event.body.type).toBe('noted')
  setup.view.value = { ...current, panels: [{ ask: 'taps' }] } as unknown as Schemas['SetupView']
  expect([setup.refused.value.field, setup.refused.value.lines.length]).toEqual(['', 2]) // a count of taps has nothing to do with it
  setup.view.value = current
  problem = undefined
  setup.send({ type: 'gap_measured', typed: { text: '2', unit: 'thou' } })
  await vi.waitFor(() => expect(sent).toMatchObject([{ type: 'gap_measured', typed: { text: '2' } }]))
  expect(setup.refused.value.field).toBe('')
})

it('goes on from cell to cell while the server is away', async () => {
  away = true
  const setup = await open()
  for (const text of ['1', '2', '3']) await setup.read(text)
  expect(setup.current.value).toBe(-1)
  expect(setup.waiting.value).toHaveLength(3)
  expect(setup.busy.value).toBe(false)
  expect(setup.cells.value.map((c) => Boolean(c.waiting))).toEqual([false, true, true, true])
})

it('a reading that waits can still be typed over', async () => {
  away = true
  const setup = await open()
  await setup.read('1')
  setup.choose(1)
  await setup.read('9')
  expect(setup.waiting.value.map((e) => e.event.body)).toMatchObject([
    { station_id: 's2', typed: { text: '9' } },
  ])
})

it('corrects a cell that is read, and sends nothing when nothing was changed', async () => {
  const setup = await open()
  setup.choose(0)
  await setup.read('1')
  expect(setup.current.value).toBe(1)
  setup.choose(0)
  await setup.read('4')
  await vi.waitFor(() =>
    expect(sent).toMatchObject([{ type: 'reading_corrected', reading_id: 'r1', typed: { text: '4' } }]),
  )
})

it('marks a spot bad, and good again', async () => {
  const setup = await open()
  setup.markBad()
  await vi.waitFor(() => expect(sent).toMatchObject([{ type: 'spot_marked', station_id: 's2', bad: true }]))
  current = view(9, [done(1), openCell(2, { state: 'bad' }), openCell(3), openCell(4)])
  await setup.load()
  setup.choose(1)
  setup.markBad()
  await vi.waitFor(() => expect(sent.at(-1)).toMatchObject({ type: 'spot_marked', bad: false }))
})

it('undo takes back what has not gone up yet, and otherwise the last event', async () => {
  away = true
  const setup = await open()
  await setup.read('1')
  await setup.undo()
  expect(setup.waiting.value).toEqual([])
  away = false
  await setup.undo()
  await vi.waitFor(() => expect(sent).toMatchObject([{ type: 'undone', event_id: 'e7' }]))
})

it('hears of another tablet and never goes back to an older view', async () => {
  const setup = await open()
  current = view(8, [done(1), done(2), openCell(3), openCell(4)])
  Stream.last?.tell(8)
  await vi.waitFor(() => expect(setup.view.value?.seq).toBe(8))
  expect(setup.current.value).toBe(2)
  current = view(6, [openCell(1)])
  Stream.last?.tell(9)
  await new Promise((resolve) => setTimeout(resolve, 30))
  expect(setup.view.value?.seq).toBe(8)
})

it('a new pass begins at its first cell', async () => {
  const setup = await open()
  setup.choose(3)
  current = view(12, [openCell(1), openCell(2), openCell(3), openCell(4)], 2)
  Stream.last?.tell(12)
  await vi.waitFor(() => expect(setup.view.value?.seq).toBe(12))
  expect(setup.current.value).toBe(0)
})

it('what is told while the view is on its way is fetched only when it is news', async () => {
  const opening = open()
  Stream.last?.tell(7)
  await opening
  expect(fetched).toBe(1)
})

it('what is news while the view is on its way is fetched after it, and once', async () => {
  const opening = open()
  Stream.last?.tell(9)
  await opening
  await vi.waitFor(() => expect(fetched).toBe(2))
  await new Promise((resolve) => setTimeout(resolve, 30))
  expect(fetched).toBe(2)
})

it('fetches itself once, and costs one request for a reading of its own', async () => {
  const setup = await open()
  Stream.last?.tell(7) // what the stream says when it opens
  expect(fetched).toBe(1)
  current = view(8, [done(1), done(2), openCell(3), openCell(4)])
  const reading = setup.read('2.5')
  Stream.last?.tell(8) // heard before the answer has come
  await reading
  await vi.waitFor(() => expect(setup.view.value?.seq).toBe(8))
  await vi.waitFor(() => expect(setup.waiting.value).toEqual([]))
  expect(sent).toHaveLength(1)
  expect(fetched).toBe(1)
})
