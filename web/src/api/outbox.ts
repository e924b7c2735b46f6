import { computed, ref, shallowRef } from 'vue'
import { defineStore } from 'pinia'
import { database } from './keep'
import { uuid } from './uuid'
import { api, ask, Refused, type Problem, type Schemas } from './client'

export type Body = Schemas['EventIn']['body']

/** An event on its way to the server. `problem` is there when the server refused it. */
export interface Entry {
  key?: number
  setupId: string
  event: Schemas['EventIn']
  problem?: Problem
}

type Listener = (setupId: string, view: Schemas['SetupView']) => void

const RETRY_MS = 1000

/**
 * Events that the server has not acknowledged yet, in order, kept in the browser's own database.
 *
 * An event is written down before it is sent and forgotten only when the server has it (or a person
 * drops one that was refused), so a closed tab, a dead server or a dead network loses none. Sending
 * one twice is harmless: its id is made here.
 */
export const useOutbox = defineStore('outbox', () => {
  const entries = shallowRef<Entry[]>([])
  const reachable = ref(true)
  const waiting = computed(() => entries.value.filter((e) => !e.problem))
  const listeners = new Set<Listener>()
  let pumping: Promise<void> | undefined
  let timer: ReturnType<typeof setTimeout> | undefined
  let order: Promise<unknown> = Promise.resolve()

  let stopped = false

  /** What an earlier page left behind goes before anything typed since. */
  async function load(): Promise<void> {
    const left = await (await database()).getAll('outbox')
    const here = new Set(entries.value.map((e) => e.event.id))
    entries.value = [...left.filter((e) => !here.has(e.event.id)), ...entries.value]
    void pump()
  }

  /** Write an event down and send it when its turn has come. */
  function put(setupId: string, body: Body, author: string): Promise<void> {
    const event = { id: uuid(), at: new Date().toISOString(), author, body }
    const entry: Entry = { setupId, event }
    entries.value = [...entries.value, entry] // at once, so that the screen moves on
    const written = order.then(async () => {
      const key = await (await database()).add('outbox', entry)
      // Dropped while it was being written down: it must not come back with the next page.
      if (!entries.value.some((e) => e.event.id === event.id)) await (await database()).delete('outbox', key)
      entries.value = entries.value.map((e) => (e.event.id === event.id ? { ...e, key } : e))
      void pump()
    })
    order = written.catch(() => undefined)
    return written
  }

  /** Forget an event that was refused. */
  async function drop(eventId: string): Promise<void> {
    const entry = entries.value.find((e) => e.event.id === eventId)
    entries.value = entries.value.filter((e) => e.event.id !== eventId)
    if (entry?.key !== undefined) await (await database()).delete('outbox', entry.key)
  }

  /** Send what waits, one after the other. */
  function pump(): Promise<void> {
    pumping ??= drain().finally(() => {
      pumping = undefined
      if (!stopped && entries.value.some((e) => e.key !== undefined && !e.problem)) again()
    })
    return pumping
  }

  function again(): void {
    clearTimeout(timer)
    timer = setTimeout(() => void pump(), reachable.value ? 0 : RETRY_MS)
  }

  async function drain(): Promise<void> {
    for (;;) {
      const next = entries.value.find((e) => e.key !== undefined && !e.problem)
      if (!next || stopped) return
      try {
        const answer = await ask(
          api.POST('/api/setups/{setup_id}/events', {
            params: { path: { setup_id: next.setupId } },
            body: next.event,
          }),
        )
        reachable.value = true
        for (const tell of listeners) tell(next.setupId, answer.view)
        await drop(next.event.id)
      } catch (error) {
        if (!(error instanceof Refused)) {
          reachable.value = false
          return
        }
        await refuse(next, error.problem)
      }
    }
  }

  async function refuse(entry: Entry, problem: Problem): Promise<void> {
    entries.value = entries.value.map((e) => (e.event.id === entry.event.id ? { ...e, problem } : e))
    const kept = entries.value.find((e) => e.event.id === entry.event.id)
    if (kept) await (await database()).put('outbox', { ...kept })
  }

  /** Hear of each view that an acknowledged event brought; returns how to stop. */
  function onView(listener: Listener): () => void {
    listeners.add(listener)
    return () => listeners.delete(listener)
  }

  /** The page goes away: whoever opens the next one sends the rest. */
  function stop(): void {
    stopped = true
    clearTimeout(timer)
  }

  window.addEventListener('online', () => void pump())
  order = load().catch(() => undefined)
  return { entries, waiting, reachable, put, drop, pump, onView, stop }
})
