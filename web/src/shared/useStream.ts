import { useDocumentVisibility, useEventSource } from '@vueuse/core'
import { computed, watch, type ComputedRef } from 'vue'

/** How long to wait before a stream that was refused is asked for again, ms. */
const AGAIN_MS = 1500

/**
 * Listen to server-sent `changed` events while the page is in view.
 *
 * A browser keeps at most six connections to one host, so a hidden tab lets go of its stream; when it
 * is seen again, or the server is back, `changed` is called once without a number.
 */
export function useStream(path: string, changed: (seq?: number) => void): { live: ComputedRef<boolean> } {
  const seen = useDocumentVisibility()
  const { data, status, open, close } = useEventSource(path, ['changed'], {
    immediate: seen.value === 'visible',
    autoReconnect: { delay: AGAIN_MS },
    // Each message is a new thing, also when it says the same.
    serializer: { read: (text) => ({ ...(JSON.parse(text ?? '{}') as { seq: number }) }) },
  })
  const live = computed(() => status.value === 'OPEN')
  watch(live, (now) => now && changed(), { flush: 'sync' })
  watch(data, (message) => message && changed(message.seq), { flush: 'sync' })
  watch(seen, (now) => (now === 'visible' ? open() : close()))
  return { live }
}
