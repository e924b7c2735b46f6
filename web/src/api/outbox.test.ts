import 'fake-indexeddb/auto'
import { createPinia, setActivePinia } from 'pinia'
import { afterEach, beforeEach, expect, it, vi } from 'vitest'
import { database } from './keep'
import { useOutbox, type Body } from './outbox'

const note = (text: string): Body => ({ type: 'noted', text })
const answer = (status: number, body: object): Response =>
  new Response(JSON.stringify(body), { status, headers: { 'content-type': 'application/json' } })
const view = { added: true, view: { seq: 9 } }

/** What was sent, in order; `reply` says how the server answers just now. */
let sent: string[] = []
let reply: (text: string) => Response | Promise<Response>

beforeEach(async () => {
  sent = []
  reply = () => answer(200, view)
  vi.stubGlobal('fetch', async (request: Request) => {
    const body = (await request.json()) as { body: { text: string } }
    sent.push(body.body.text)
    return reply(body.body.text)
  })
  await (await database()).clear('outbox')
  setActivePinia(createPinia())
})

afterEach(() => useOutbox().stop())

it('sends in the order of typing and forgets what was acknowledged', async () => {
  const box = useOutbox()
  const heard: string[] = []
  box.onView((id) => heard.push(id))
  await Promise.all(['a', 'b', 'c'].map((t) => box.put('one', note(t), 'Ode')))
  await vi.waitFor(() => expect(box.entries).toEqual([]))
  expect(sent).toEqual(['a', 'b', 'c'])
  expect(heard).toEqual(['one', 'one', 'one'])
})

it('keeps everything while the server is away, also over a reload, and goes on in order', async () => {
  reply = () => Promise.reject(new TypeError('no connection'))
  const box = useOutbox()
  await box.put('one', note('a'), '')
  await box.put('one', note('b'), '')
  await vi.waitFor(() => expect(box.reachable).toBe(false))
  expect(box.waiting.map((e) => e.event.body)).toEqual([note('a'), note('b')])

  box.stop()
  setActivePinia(createPinia()) // as a reload: a new store, the same browser database
  sent = []
  reply = () => answer(200, view)
  const again = useOutbox()
  await vi.waitFor(() => expect(sent).toEqual(['a', 'b']))
  await vi.waitFor(() => expect(again.entries).toEqual([]))
})

it('a database that is away counts as a server that is away', async () => {
  let tries = 0
  reply = () => (++tries === 1 ? answer(503, { detail: 'busy' }) : answer(200, view))
  const box = useOutbox()
  await box.put('one', note('a'), '')
  await vi.waitFor(() => expect(box.entries).toEqual([]))
  expect(sent).toEqual(['a', 'a'])
})

it('a refused event stays to be seen and lets the others pass', async () => {
  const problem = {
    type: 't',
    title: 't',
    status: 422,
    detail: 'no reading',
    code: 'reading_nonsense',
    fix: 'type it',
    errors: [],
  }
  reply = (text) => (text === 'bad' ? answer(422, problem) : answer(200, view))
  const box = useOutbox()
  await box.put('one', note('bad'), '')
  await box.put('one', note('good'), '')
  await vi.waitFor(() => expect(sent).toEqual(['bad', 'good']))
  await vi.waitFor(() => expect(box.entries.map((e) => e.problem?.detail)).toEqual(['no reading']))
  await box.drop(box.entries[0]?.event.id ?? '')
  expect(box.entries).toEqual([])
})

it('one event that the server cannot take is shown and holds up nothing behind it', async () => {
  reply = (text) => (text === 'bad' ? answer(500, {}) : answer(200, view))
  const box = useOutbox()
  await box.put('one', note('bad'), '')
  await box.put('two', note('good'), '')
  await vi.waitFor(() => expect(sent).toEqual(['bad', 'good']))
  await vi.waitFor(() => expect(box.entries.map((e) => e.problem?.code)).toEqual(['fault']))
  expect(box.reachable).toBe(true)
  const [left] = box.entries
  if (left) await box.drop(left.event.id)
  expect(box.entries).toEqual([])
})
