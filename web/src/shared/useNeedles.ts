import { useDocumentVisibility, useIntervalFn } from '@vueuse/core'
import { computed, onBeforeUnmount, ref, shallowRef, watch, type Ref } from 'vue'
import { api, ask, type Schemas } from '../api/client'

export type Needle = Schemas['NowOut']

/** Without a frame for so long what is shown is told as old, ms. */
const OLD_MS = 1000
/** How long to wait before a stream that broke is asked for again, ms. */
const AGAIN_MS = 800

/**
 * The needles of live indicators, as they move, while the page is in view.
 *
 * @param gauges ids of the Shop’s indicators that are wanted; those without a wire have no needle
 */
export function useNeedles(gauges: Ref<readonly string[]>) {
  const seen = useDocumentVisibility()
  const wires = shallowRef<readonly Needle[]>([])
  const shown = shallowRef<readonly Needle[]>([])
  const heard = ref(0)
  const now = ref(Date.now())
  let source: EventSource | undefined
  let timer: ReturnType<typeof setTimeout> | undefined

  const wanted = computed(() =>
    gauges.value.flatMap((id) => wires.value.find((wire) => wire.gauge === id)?.id ?? []).join(','),
  )

  async function look(): Promise<void> {
    if (!gauges.value.length) return
    try {
      wires.value = (await ask(api.GET('/api/live'))).wires
    } catch {
      timer = setTimeout(() => void look(), AGAIN_MS)
    }
  }

  function open(): void {
    close()
    if (!wanted.value || seen.value !== 'visible') return
    source = new EventSource(`/api/live/stream?ids=${encodeURIComponent(wanted.value)}`)
    source.addEventListener('needles', (event: MessageEvent<string>) => {
      shown.value = JSON.parse(event.data) as Needle[]
      heard.value = Date.now()
    })
    source.onerror = () => {
      close()
      timer = setTimeout(open, AGAIN_MS)
    }
  }

  function close(): void {
    clearTimeout(timer)
    source?.close()
    source = undefined
  }

  watch(
    () => gauges.value.join(','), // each view of a set-up brings a list of its own
    () => void look(),
    { immediate: true },
  )
  watch([wanted, seen], open, { immediate: true })
  useIntervalFn(() => (now.value = Date.now()), 250)
  onBeforeUnmount(close)

  /** The needle of an indicator; nothing where it is not wired. A frame that is old says nothing of now. */
  function of(gauge: string): Needle | undefined {
    const one = shown.value.find((n) => n.gauge === gauge) ?? wires.value.find((n) => n.gauge === gauge)
    if (!one) return undefined
    const old = now.value - heard.value > OLD_MS
    return old && one.state === 'live'
      ? { ...one, state: 'stale', still: false, why: 'the server does not answer' }
      : one
  }
  return { of }
}
