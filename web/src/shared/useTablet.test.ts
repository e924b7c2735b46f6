import { mount } from '@vue/test-utils'
import { afterEach, beforeEach, expect, it, vi } from 'vitest'
import { defineComponent, h, ref, type Ref } from 'vue'
import type { Needle } from './useNeedles'
import { useTablet } from './useTablet'

const hung = (more: Partial<Needle> = {}): Needle => ({
  id: 'w',
  name: 'On the tablet',
  gauge: 'g',
  state: 'gone',
  why: '',
  mm: null,
  still: false,
  age_s: null,
  side: null,
  crests: [],
  both: null,
  marks: null,
  tablet: { baud: 9600, ask: '', every_ms: 50 },
  ...more,
})

/** An answer that comes when this is kept. */
let answers: Promise<void>
let sent: { data?: string; gone?: string; by: string }[] = []
let feed: ReadableStreamDefaultController<Uint8Array>
const written: string[] = []
const bytes = (text: string): Uint8Array => Uint8Array.from(text, (c) => c.charCodeAt(0))

beforeEach(() => {
  sent = []
  answers = Promise.resolve()
  written.length = 0
  const port = {
    open: vi.fn().mockResolvedValue(undefined),
    close: vi.fn().mockResolvedValue(undefined),
    readable: new ReadableStream<Uint8Array>({ start: (controller) => void (feed = controller) }),
    writable: new WritableStream<Uint8Array>({
      write: (chunk) => void written.push(String.fromCharCode(...chunk)),
    }),
  }
  vi.stubGlobal('navigator', { serial: { requestPort: () => Promise.resolve(port) } })
  vi.stubGlobal('fetch', async (request: Request) => {
    sent.push((await request.json()) as (typeof sent)[number])
    await answers
    return Response.json({ id: 'w' })
  })
})
afterEach(() => vi.unstubAllGlobals())

function using(needle: Ref<Needle | undefined>) {
  let made!: ReturnType<typeof useTablet>
  const page = mount(
    defineComponent(() => {
      made = useTablet(needle)
      return () => h('i')
    }),
  )
  return { page, ...made }
}

it('sends on what comes as it came, and says so when it is unplugged', async () => {
  const { offered, connect, connected } = using(ref(hung()))
  expect(offered.value).toBe(true)
  await connect()
  expect([connected.value, offered.value]).toEqual([true, false])
  feed.enqueue(bytes('+0.01'))
  feed.enqueue(bytes('20 mm\r\n\xff\0\x01'))
  await vi.waitFor(() =>
    expect(sent.map((one) => atob(one.data ?? '')).join('')).toBe('+0.0120 mm\r\n\xff\0\x01'),
  )
  feed.error(new Error('device lost'))
  await vi.waitFor(() => expect(sent.at(-1)?.gone).toBe('the port failed: device lost'))
  expect(connected.value).toBe(false)
  expect(new Set(sent.map((one) => one.by)).size).toBe(1)
})

it('is told as gone after what is still on its way, which would bring it back', async () => {
  let come = (): void => undefined
  answers = new Promise((kept) => (come = kept))
  const { connect, connected } = using(ref(hung()))
  await connect()
  feed.enqueue(bytes('+0.0120 mm'))
  await vi.waitFor(() => expect(sent).toHaveLength(1))
  feed.error(new Error('device lost'))
  await vi.waitFor(() => expect(connected.value).toBe(false))
  expect(sent).toHaveLength(1)
  come()
  await vi.waitFor(() => expect(sent.at(-1)?.gone).toBe('the port failed: device lost'))
})

it('asks one that answers when it is asked, and lets go when the page is left', async () => {
  const { page, connect } = using(ref(hung({ tablet: { baud: 9600, ask: '?\r', every_ms: 10 } })))
  await connect()
  await vi.waitFor(() => expect(written).toContain('?\r'))
  page.unmount()
  await vi.waitFor(() => expect(sent.at(-1)?.gone).toBe('the page was left'))
})

it('a browser without ports says so; one that hangs elsewhere is not offered', async () => {
  vi.stubGlobal('navigator', {})
  const { connect, fault } = using(ref(hung()))
  await connect()
  expect(fault.value).toContain('reads no ports')
  expect(using(ref(hung({ tablet: null }))).offered.value).toBe(false)
})
