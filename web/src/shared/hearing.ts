import {
  createEventHook,
  createGlobalState,
  useDocumentVisibility,
  useEventSource,
  type EventHook,
} from '@vueuse/core'
import { onScopeDispose, ref, watch, type Ref } from 'vue'

/** A set-up and its last event. */
export interface News {
  id: string
  seq: number
}

/** `missed`: whatever changed before may have been missed. */
export interface Hearing {
  live: Ref<boolean>
  changed: EventHook<readonly News[]>
  missed: EventHook<undefined>
}

/** What tabs tell each other. `opened`: my stream is there (again); `here`: it is there already. */
type Said = { kind: 'changed'; news: News[] } | { kind: 'opened' | 'here' | 'lost' | 'who' }

/** Name of the lock that the listening tab holds, and of the channel on which it tells the others. */
const NAME = 'velvet-hand-changed'
/** How long to wait before a stream that was refused is asked for again, ms. */
const AGAIN_MS = 1500

/**
 * The one stream of `changed` events for all tabs of this browser, as long as this tab is in view.
 *
 * A browser keeps at most six connections to one host. So one tab listens, the one that got the lock, and passes on what it
 * hears; when it is closed, hidden or dead, the lock goes to the next. Where there are no locks (a page over plain HTTP from
 * another computer) each tab in view listens for itself.
 */
export const useHearing = createGlobalState(() => hear(useDocumentVisibility()))

/** The same for one tab, which is in view as `seen` says. */
export function hear(seen: Ref<DocumentVisibilityState>): Hearing {
  const live = ref(false)
  const changed = createEventHook<readonly News[]>()
  const missed = createEventHook<undefined>()
  const channel = new BroadcastChannel(NAME)
  const { locks } = navigator as { locks?: LockManager | null }
  const { data, status, open, close } = useEventSource('/api/stream', ['changed'], {
    immediate: false,
    autoReconnect: { delay: AGAIN_MS },
    serializer: { read: (text) => JSON.parse(text ?? '[]') as News[] },
  })
  /** Ends this tab's turn, or its wait for one; undefined while it is hidden. */
  let letGo: (() => void) | undefined
  let listens = false
  let behind = seen.value !== 'visible'

  function take(said: Said): void {
    if (said.kind === 'changed') void changed.trigger(said.news)
    else if (said.kind === 'lost') [live.value, behind] = [false, true]
    else if (said.kind === 'who') {
      if (listens && live.value) channel.postMessage({ kind: 'here' })
    } else if (said.kind === 'opened' || !live.value) {
      const again = behind || live.value // another tab has taken over: something may lie between
      ;[live.value, behind] = [true, false]
      if (again) void missed.trigger(undefined)
    }
  }

  function tell(said: Said): void {
    take(said)
    channel.postMessage(said)
  }

  function listen(): Promise<void> {
    listens = true
    open()
    return new Promise((done) => {
      letGo = () => {
        listens = false
        close()
        done()
      }
    })
  }

  function join(): void {
    if (!locks) return void listen()
    const turn = new AbortController()
    letGo = () => turn.abort()
    locks
      .request(NAME, { signal: turn.signal }, () => (turn.signal.aborted ? undefined : listen()))
      .catch(() => undefined)
    channel.postMessage({ kind: 'who' })
  }

  function leave(): void {
    letGo?.()
    letGo = undefined
    ;[live.value, behind] = [false, true]
  }

  channel.onmessage = ({ data: said }: MessageEvent<Said>) => locks && letGo && take(said)
  watch(data, (news) => news && tell({ kind: 'changed', news }), { flush: 'sync' })
  watch(
    status,
    (now) => listens && now !== 'CONNECTING' && tell({ kind: now === 'OPEN' ? 'opened' : 'lost' }),
    { flush: 'sync' },
  )
  watch(seen, (now) => (now === 'visible' ? join() : leave()))
  if (seen.value === 'visible') join()
  onScopeDispose(() => {
    leave()
    channel.close()
  })
  return { live, changed, missed }
}
