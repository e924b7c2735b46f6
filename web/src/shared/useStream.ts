import { onBeforeUnmount, onMounted, ref, type Ref } from 'vue'

/**
 * Listen to server-sent `changed` events while the page is in view.
 *
 * A browser keeps at most six connections to one host, so a hidden tab lets go of its stream; when it
 * is seen again, or the server is back, `changed` is called once without a number.
 */
export function useStream(path: () => string, changed: (seq?: number) => void): { live: Ref<boolean> } {
  const live = ref(false)
  let source: EventSource | undefined
  let timer: ReturnType<typeof setTimeout> | undefined

  function open(): void {
    close()
    source = new EventSource(path())
    source.addEventListener('open', () => {
      live.value = true
      changed()
    })
    source.addEventListener('changed', (event) => {
      const data = JSON.parse(String(event.data)) as { seq: number }
      changed(data.seq)
    })
    source.addEventListener('error', () => {
      live.value = false
      if (source?.readyState === EventSource.CLOSED) timer = setTimeout(open, 1500)
    })
  }
  function close(): void {
    clearTimeout(timer)
    source?.close()
    source = undefined
    live.value = false
  }
  function onVisibility(): void {
    if (document.visibilityState === 'visible') open()
    else close()
  }
  onMounted(() => {
    document.addEventListener('visibilitychange', onVisibility)
    open()
  })
  onBeforeUnmount(() => {
    document.removeEventListener('visibilitychange', onVisibility)
    close()
  })
  return { live }
}
