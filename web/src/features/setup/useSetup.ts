import { computed, onBeforeUnmount, ref, shallowRef, watch } from 'vue'
import { api, ask, complaintOf, Refused, type Schemas } from '../../api/client'
import { keepView, keptView } from '../../api/keep'
import { useOutbox, type Body, type Entry } from '../../api/outbox'
import { usePrefs } from '../../shared/prefs'
import type { TrayCell } from '../../shared/tray/cells'
import { useStream } from '../../shared/useStream'

/** A set-up on its screen: the server's view, and over it what has not gone up yet. */
export function useSetup(id: string) {
  const outbox = useOutbox()
  const prefs = usePrefs()
  const view = shallowRef<Schemas['SetupView']>()
  const fault = ref<{ detail: string; fix: string }>()
  const chosen = ref<number>()
  let calls = 0

  function take(next: Schemas['SetupView']): void {
    // Views can overtake each other; the log only grows, so the longer one is the newer one.
    if (view.value && next.seq < view.value.seq) return
    view.value = next
    void keepView(next)
  }

  async function load(): Promise<void> {
    const mine = ++calls
    const upTo = (onItsWay = missed)
    const told = heard
    try {
      const answer = await ask(api.GET('/api/setups/{setup_id}', { params: { path: { setup_id: id } } }))
      if (mine === calls) fault.value = undefined
      caughtUp = Math.max(caughtUp, upTo)
      take(answer)
    } catch (error) {
      if (mine === calls) fault.value = complaintOf(error)
      if (error instanceof Refused || view.value) return
      const kept = await keptView(id) // opened while the server is away: go on from what was seen last
      if (kept) take(kept)
      return
    } finally {
      if (mine === calls) onItsWay = undefined
    }
    if (heard > told || missed > upTo) catchUp() // with what was told while it was on its way
  }

  const mine = computed(() => outbox.entries.filter((e) => e.setupId === id))
  const waiting = computed(() => mine.value.filter((e) => !e.problem))
  watch(
    () => waiting.value.length,
    (left) => left || catchUp(),
  )
  const stopListening = outbox.onView((setupId, next) => {
    if (setupId === id) take(next)
  })
  onBeforeUnmount(stopListening)
  /** The last event that the server told of; how often more may have been missed, and up to which time that is made up for. */
  let heard = 0
  let missed = 0
  let caughtUp = 0
  /** Of the view that is on its way: how often more may have been missed when it was asked for. */
  let onItsWay: number | undefined
  /** What somebody else did is fetched; what we send ourselves comes back with the answer. */
  function catchUp(): void {
    const behind = !view.value || fault.value || missed > caughtUp || heard > view.value.seq
    const comes = onItsWay === missed // what was asked for before a break may never come
    if (behind && !comes && !waiting.value.length) void load()
  }
  const { live } = useStream((news) => {
    const mine = news?.find((one) => one.id === id)
    if (news && !mine) return
    if (mine) heard = Math.max(heard, mine.seq)
    else missed += 1
    if (!news) void outbox.pump()
    catchUp()
  })
  void load()

  const tray = computed(() => view.value?.tray)

  function entryFor(cell: Schemas['Cell']): Entry | undefined {
    return mine.value.findLast((entry) => {
      const body = entry.event.body
      if (body.type === 'reading_corrected') return body.reading_id === cell.reading_id
      return (
        body.type === 'reading_taken' &&
        body.pass_no === tray.value?.pass_no &&
        body.station_id === cell.station_id &&
        (body.closing ?? false) === cell.closing
      )
    })
  }
  const cells = computed<TrayCell[]>(() =>
    (tray.value?.cells ?? []).map((cell) => ({ cell, waiting: entryFor(cell) })),
  )
  /** The first cell without a reading; -1 when there is none, so that Enter means the big button. */
  const nextOpen = computed(() =>
    cells.value.findIndex((c) => c.cell.state === 'open' && !(c.waiting && !c.waiting.problem)),
  )
  const current = computed(() => {
    const refused = cells.value.findIndex((c) => c.waiting?.problem)
    return chosen.value ?? (refused >= 0 ? refused : nextOpen.value)
  })
  watch(
    () => tray.value?.pass_no,
    () => (chosen.value = undefined),
  )

  const asksGap = computed(() => view.value?.panels.some((p) => p.ask === 'gap' || p.ask === 'opening'))
  const isGap = (entry: Entry): boolean => entry.event.body.type === 'gap_measured' && Boolean(asksGap.value)
  /** Refused events that belong to no cell of the tray: what a step asked to measure stands at its field, the others by themselves. */
  const refused = computed(() => {
    const found = mine.value.filter((e) => e.problem && !cells.value.some((c) => c.waiting === e))
    const problem = found.findLast(isGap)?.problem
    return {
      field: problem ? `${problem.detail} ${problem.fix}` : '',
      lines: found.filter((e) => !isGap(e)),
    }
  })
  /** Something other than a reading is on its way: wait for what it brings. */
  const busy = computed(() => waiting.value.some((e) => !e.event.body.type.startsWith('reading_')))

  function send(...bodies: Body[]): void {
    for (const body of bodies) {
      const before = body.type === 'gap_measured' ? mine.value.filter((e) => e.problem && isGap(e)) : []
      for (const entry of before) void outbox.drop(entry.event.id) // it is typed anew
      void outbox.put(id, body, prefs.author)
    }
  }

  /** Put what was typed, or came from a live indicator, into a cell, the current one if none is named; moves on to the next open one. */
  async function read(text: string, live?: Schemas['Live'], cell?: TrayCell): Promise<void> {
    const here = cell ?? cells.value[current.value]
    if (!here || !tray.value) return
    const typed = { text, unit: prefs.unit }
    const from = live ? { live } : {}
    if (here.waiting) await outbox.drop(here.waiting.event.id)
    if (here.cell.reading_id) {
      if (text !== here.cell.typed || prefs.unit !== here.cell.typed_unit) {
        send({ type: 'reading_corrected', reading_id: here.cell.reading_id, typed, ...from })
      }
    } else {
      send({
        type: 'reading_taken',
        pass_no: tray.value.pass_no,
        station_id: here.cell.station_id,
        typed,
        closing: here.cell.closing,
        ...from,
      })
    }
    chosen.value = undefined
  }

  function markBad(): void {
    const here = cells.value[current.value]
    if (!here || !tray.value || here.cell.closing) return
    send({
      type: 'spot_marked',
      pass_no: tray.value.pass_no,
      station_id: here.cell.station_id,
      bad: here.cell.state !== 'bad',
    })
    chosen.value = undefined
  }

  async function undo(): Promise<void> {
    const last = mine.value.at(-1)
    if (last) await outbox.drop(last.event.id)
    else if (view.value?.can_undo) send({ type: 'undone', event_id: view.value.last_event_id })
    chosen.value = undefined
  }

  function choose(index: number): void {
    const last = cells.value.length - 1
    chosen.value = index < 0 ? (current.value < 0 ? last : 0) : Math.min(index, last)
  }

  return {
    view,
    fault,
    live,
    load,
    cells,
    current,
    refused,
    waiting,
    busy,
    tray,
    outbox,
    send,
    read,
    markBad,
    undo,
    choose,
  }
}
