import { useIntervalFn } from '@vueuse/core'
import { computed, onBeforeUnmount, ref, type Ref } from 'vue'
import { api, ask, wordsOf } from '../api/client'
import { uuid } from '../api/uuid'
import type { Needle } from './useNeedles'

/** What of a serial port of the browser is used. */
interface Port {
  open: (how: { baudRate: number }) => Promise<void>
  close: () => Promise<void>
  readable: ReadableStream<Uint8Array> | null
  writable: WritableStream<Uint8Array> | null
}
interface Serial {
  requestPort: () => Promise<Port>
}

/** What came is sent on so often, ms, and no more of it at once. */
const SENDS_MS = 40
const MOST = 8000
/** This browser, for the server: one at a time sends for an indicator. */
const me = uuid()

/** An indicator that hangs on this tablet: its port is opened here, and what comes is sent on as it came. */
export function useTablet(needle: Ref<Needle | undefined>) {
  const serial = (navigator as { serial?: Serial }).serial
  const fault = ref('')
  const connected = ref(false)
  let port: Port | undefined
  let reader: ReadableStreamDefaultReader<Uint8Array> | undefined
  let waiting = ''
  let sending = false
  let fed = ''
  let left = false

  /** Is there something to connect: it hangs on a tablet, and nobody sends for it? */
  const offered = computed(
    () => Boolean(needle.value?.tablet) && !connected.value && needle.value?.state !== 'live',
  )

  async function connect(): Promise<void> {
    const wire = needle.value
    if (!wire?.tablet) return
    if (!serial) {
      fault.value = 'This browser reads no ports. Use Chromium, or plug it into the server.'
      return
    }
    try {
      port = await serial.requestPort()
      await port.open({ baudRate: wire.tablet.baud })
    } catch (error) {
      fault.value = `The port does not open: ${error instanceof Error ? error.message : 'no reason given'}.`
      port = undefined
      return
    }
    fault.value = ''
    connected.value = true
    fed = wire.id
    void read(port)
  }

  /** Everything that comes, until the port ends. */
  async function read(from: Port): Promise<void> {
    let why = 'it was unplugged'
    try {
      reader = from.readable?.getReader()
      while (reader) {
        const { value, done } = await reader.read()
        if (done) break
        const came = String.fromCharCode(...value)
        waiting = (waiting + came).slice(-MOST) // of a flood the last
      }
    } catch (error) {
      why = error instanceof Error && error.message ? `the port failed: ${error.message.slice(0, 80)}` : why
    }
    await gone(left ? 'the page was left' : why)
  }

  async function gone(why: string): Promise<void> {
    if (!connected.value) return
    connected.value = false
    waiting = ''
    await send({ by: me, gone: why })
    await port?.close().catch(() => undefined)
    port = undefined
  }

  /** One after the other: what is said last is heard last. */
  let before: Promise<void> = Promise.resolve()
  function send(body: { by: string; data?: string; gone?: string }): Promise<void> {
    before = before.then(() => post(body))
    return before
  }
  async function post(body: { by: string; data?: string; gone?: string }): Promise<void> {
    try {
      await ask(api.POST('/api/live/{item_id}/feed', { params: { path: { item_id: fed } }, body }))
      fault.value = ''
    } catch (error) {
      fault.value = wordsOf(error)
    }
  }

  async function flush(): Promise<void> {
    if (!waiting || sending) return
    sending = true
    const data = waiting
    waiting = ''
    await send({ by: me, data: btoa(data) })
    sending = false
  }
  useIntervalFn(() => void flush(), SENDS_MS)

  const asked = computed(() => (connected.value && needle.value?.tablet?.ask) || '')
  let last = 0
  async function askIt(): Promise<void> {
    const every = needle.value?.tablet?.every_ms ?? 50
    if (!asked.value || !port?.writable || port.writable.locked || Date.now() - last < every) return
    last = Date.now()
    const writer = port.writable.getWriter()
    await writer.write(new TextEncoder().encode(asked.value)).catch(() => undefined)
    writer.releaseLock()
  }
  useIntervalFn(() => void askIt(), 10)

  onBeforeUnmount(() => {
    left = true
    void reader?.cancel().catch(() => undefined)
  })

  return { offered, connected, fault, connect }
}
