import { useEventListener } from '@vueuse/core'
import type { Ref } from 'vue'
import type { Practice } from './usePractice'

/** The faults are called by these. */
export const LETTERS = 'abcdefghijklmnop'

/** What the keys of a practice work on. */
interface Page {
  data: Ref<Practice | undefined>
  /** The list of faults is open. */
  naming: Ref<boolean>
  /** Nothing is typed into the reading’s field. */
  untouched: () => boolean
  named: (id: Practice['faults'][number]['id']) => void
  again: () => void
  /** What each key does now; undefined where it does nothing. */
  keys: (event: KeyboardEvent) => Record<string, (() => unknown) | undefined>
}

/** Everything at the bench by keys; what is typed into a field stays there. */
export function usePracticeKeys(page: Page): void {
  function onKey(event: KeyboardEvent): void {
    if (event.ctrlKey || event.metaKey || event.altKey || !page.data.value) return
    const target = event.target as HTMLElement
    if (page.naming.value) {
      const found = page.data.value.faults[LETTERS.indexOf(event.key.toLowerCase())]
      if (found) page.named(found.id)
    } else if (page.data.value.ended) {
      if (event.key === 'Enter' && !target.matches('a, button, input')) page.again()
    } else if (!typing(target) && !pressing(event, target)) {
      const found = page.keys(event)[event.key.toLowerCase()]
      void found?.()
      if (found) event.preventDefault()
    }
  }

  const typing = (target: HTMLElement): boolean =>
    target.dataset.part === 'reading' ? !page.untouched() : target.matches('input, textarea, select')
  const pressing = (event: KeyboardEvent, target: HTMLElement): boolean =>
    (event.key === 'Enter' || event.key === ' ') && target.matches('button, a')
  useEventListener(document, 'keydown', onKey)
}
