import { effectScope, ref, type EffectScope, type Ref } from 'vue'
import { afterEach, beforeEach, expect, it, vi } from 'vitest'
import { hear, type Hearing } from './hearing'

/** One at a time, the next in the order of asking; as the browser's own, for the tabs of this test. */
class Locks {
  private last: Promise<unknown> = Promise.resolve()
  request(_name: string, { signal }: { signal: AbortSignal }, hold: () => Promise<void> | undefined) {
    const mine = this.last.then(() => (signal.aborted ? undefined : hold()))
    this.last = mine
    return mine
  }
}

class Stream extends EventTarget {
  static open: Stream[] = []
  readyState = 0
  onopen?: () => void
  onerror?: () => void
  constructor() {
    super()
    Stream.open.push(this)
  }
  close(): void {
    this.readyState = 2
    Stream.open = Stream.open.filter((one) => one !== this)
  }
  tell(seq: number): void {
    this.dispatchEvent(new MessageEvent('changed', { data: JSON.stringify([{ id: 'x', seq }]) }))
  }
}

let open: EffectScope[] = []

/** A tab, and what it hears. */
function tab(at: DocumentVisibilityState = 'visible') {
  const seen: Ref<DocumentVisibilityState> = ref(at)
  const scope = effectScope()
  open.push(scope)
  const { live, changed, missed } = scope.run(() => hear(seen)) as Hearing
  const heard: string[] = []
  changed.on((news) => heard.push(`${news[0]?.seq}`))
  missed.on(() => heard.push('missed'))
  return { seen, live, heard }
}

/** The stream that is open, as soon as there is exactly one. */
async function stream(): Promise<Stream> {
  await vi.waitFor(() => expect(Stream.open).toHaveLength(1))
  return Stream.open[0] as Stream
}

beforeEach(() => {
  Stream.open = []
  vi.stubGlobal('EventSource', Stream)
  vi.stubGlobal('navigator', { locks: new Locks() })
})
afterEach(() => {
  open.forEach((one) => one.stop())
  open = []
})

it('tabs share one stream, and all hear what it says', async () => {
  const tabs = [tab(), tab(), tab()]
  const one = await stream()
  one.onopen?.()
  await vi.waitFor(() => expect(tabs.map((t) => t.live.value)).toEqual([true, true, true]))
  one.tell(8)
  await vi.waitFor(() => expect(tabs.map((t) => t.heard)).toEqual([['8'], ['8'], ['8']]))
  const late = tab() // opened later: it is told that there is one
  await vi.waitFor(() => expect(late.live.value).toBe(true))
  expect(Stream.open).toEqual([one])
  expect(late.heard).toEqual([])
})

it('a hidden tab hands the stream on, and looks again when it is seen', async () => {
  const [first, second] = [tab(), tab()]
  const one = await stream()
  one.onopen?.()
  await vi.waitFor(() => expect(second.live.value).toBe(true))
  first.seen.value = 'hidden'
  await vi.waitFor(() => expect(Stream.open[0]).not.toBe(one))
  const next = await stream()
  next.onopen?.()
  expect(second.heard).toEqual(['missed']) // something may lie between the two
  first.seen.value = 'visible'
  await vi.waitFor(() => expect(first.heard).toEqual(['missed']))
  expect(first.live.value).toBe(true)
  expect(Stream.open).toEqual([next])
})

it('when the server is away all know it, and look again when it is back', async () => {
  const tabs = [tab(), tab()]
  const one = await stream()
  one.onopen?.()
  await vi.waitFor(() => expect(tabs[1]?.live.value).toBe(true))
  one.onerror?.()
  await vi.waitFor(() => expect(tabs.map((t) => t.live.value)).toEqual([false, false]))
  one.onopen?.()
  await vi.waitFor(() => expect(tabs.map((t) => t.heard)).toEqual([['missed'], ['missed']]))
})

it('a tab that was opened out of sight looks when it is seen', async () => {
  const one = tab('hidden')
  expect(Stream.open).toEqual([])
  one.seen.value = 'visible'
  const now = await stream()
  now.onopen?.()
  expect(one.heard).toEqual(['missed'])
})

it('without locks each tab listens for itself', () => {
  vi.stubGlobal('navigator', {})
  const tabs = [tab(), tab()]
  expect(Stream.open).toHaveLength(2)
  Stream.open[0]?.onopen?.()
  expect(tabs.map((t) => t.live.value)).toEqual([true, false])
})
