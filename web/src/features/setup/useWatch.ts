import { computed, ref, watch, type Ref } from 'vue'
import type { Schemas } from '../../api/client'
import type { Body } from '../../api/outbox'
import type { Needle } from '../../shared/useNeedles'

/** What is watched. */
interface Page {
  view: Ref<Schemas['SetupView'] | undefined>
  panel: Ref<Schemas['Panel'] | undefined>
  needle: Ref<Needle | undefined>
}

/** While all is tightened the stylus stays where it is: what the needle does meanwhile is the shift, and goes with the tightening. */
export function useWatch(page: Page) {
  const before = ref<number>()
  const tightens = computed(
    () =>
      Boolean(page.view.value?.watches) &&
      [page.panel.value?.primary, ...(page.panel.value?.others ?? [])].some((one) =>
        one?.events.some((event) => event.type === 'tightened'),
      ),
  )
  watch(
    [tightens, () => page.needle.value?.still, () => page.needle.value?.state],
    ([on, still, state]) => {
      if (!on || state !== 'live') before.value = undefined
      else if (still && before.value === undefined) before.value = page.needle.value?.mm ?? undefined
    },
    { immediate: true },
  )
  /** By how much it has gone since, mm; undefined while nothing is watched. */
  const shiftMm = computed(() => {
    const now = page.needle.value
    return tightens.value && before.value !== undefined && now?.state === 'live' && now.mm !== null
      ? now.mm - before.value
      : undefined
  })

  /** The events of a button; a tightening carries what was watched, once the needle stands still again. */
  function carrying(bodies: Body[]): Body[] {
    const now = page.needle.value
    if (shiftMm.value === undefined || before.value === undefined || !now?.still || now.mm === null)
      return bodies
    const watched = { gauge: now.gauge, before_mm: before.value, after_mm: now.mm }
    return bodies.map((body) => (body.type === 'tightened' ? { ...body, watched } : body))
  }

  return { shiftMm, carrying }
}
