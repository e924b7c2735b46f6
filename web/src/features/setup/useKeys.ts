import { useEventListener } from '@vueuse/core'
import type { Ref } from 'vue'
import type { Schemas } from '../../api/client'
import { usePrefs } from '../../shared/prefs'

/** What the keys of a set-up work on. */
interface Page {
  view: Ref<Schemas['SetupView'] | undefined>
  /** The cell of the tray that is typed into. */
  current: Ref<number>
  /** Which dialogs are open; while one is, the keys are its own. */
  open: {
    keys: Ref<boolean>
    log: Ref<boolean>
    sheet: Ref<boolean>
    why: Ref<boolean>
    course: Ref<boolean>
  }
  panel: Ref<{ key: (name: string) => boolean } | undefined>
  tray: Ref<{ untouched: () => boolean; empty: () => boolean; focus: () => void } | undefined>
  another: () => void
  /** Take what the live needle shows; false when there is none. */
  take: () => boolean
  /** Look for an extreme over a rod or a ball, or no more. */
  peak: () => void
  /** Is there a live needle, and its large picture? */
  live: () => boolean
  large: Ref<boolean>
  /** Turn it slowly, or run it along. */
  course: () => void
  choose: (index: number) => void
  markBad: () => void
  undo: () => void
}

/** What a reading begins with: typed with nothing in focus, it goes into the field of now all the same. */
const FIGURE = /^[-+.,\d]$/

/** Everything on the page of a set-up by keys. */
export function useKeys(page: Page): void {
  const prefs = usePrefs()

  /** Is the key typed into a field that wants it, or at a button that it presses? */
  function wanted(event: KeyboardEvent): boolean {
    const target = event.target as HTMLElement
    if (target.dataset.part === 'reading') return !page.tray.value?.untouched()
    if (target instanceof HTMLInputElement && target.dataset.quiet !== undefined) return target.value !== ''
    if (target.matches('input, textarea, select'))
      return !(target instanceof HTMLInputElement && target.type === 'checkbox')
    return (event.key === 'Enter' || event.key === ' ') && target.matches('button, a')
  }

  function onKey(event: KeyboardEvent): void {
    if (
      event.repeat ||
      event.ctrlKey ||
      event.metaKey ||
      event.altKey ||
      Object.values(page.open).some((shown) => shown.value)
    )
      return
    const target = event.target as HTMLElement
    if (target.dataset.part === 'reading' && walk(event)) return
    if (wanted(event)) return
    if (use(event.key)) event.preventDefault()
    else if (FIGURE.test(event.key) && target === document.body) page.tray.value?.focus()
  }

  /** Arrows leave a reading field that was not typed into; Backspace leaves an empty one. */
  function walk(event: KeyboardEvent): boolean {
    const by = event.key === 'ArrowRight' ? 1 : event.key === 'ArrowLeft' ? -1 : 0
    const leaves = by ? page.tray.value?.untouched() : event.key === 'Backspace' && page.tray.value?.empty()
    if (!leaves) return false
    page.choose(page.current.value + (by || -1))
    event.preventDefault()
    return true
  }

  const back = (): void => page.choose(page.current.value - 1)

  function use(key: string): boolean {
    const mine: Record<string, () => void> = {
      '?': () => (page.open.keys.value = true),
      l: () => (page.open.log.value = true),
      y: () => (page.open.why.value = true),
      u: page.undo,
      p: () => (prefs.pad = !prefs.pad),
      ...(page.view.value?.tray.active ? { x: page.markBad, arrowleft: back, backspace: back } : {}),
      ...((page.view.value?.panels.length ?? 0) > 1 ? { d: page.another } : {}),
    }
    if (page.panel.value?.key(key)) return true
    if (page.live()) {
      if (key === ' ') return page.take()
      mine.g = () => (page.large.value = true)
      mine.v = page.peak
      mine.c = page.course
      mine.s = () => (prefs.bySelf = !prefs.bySelf)
    }
    const found = mine[key.toLowerCase()]
    found?.()
    return found !== undefined
  }
  useEventListener(document, 'keydown', onKey)
}
