import { watchDebounced } from '@vueuse/core'
import { nextTick, ref, watch, type Ref } from 'vue'
import { useRouter } from 'vue-router'
import { api, ask, complaintOf, Refused, type Problem, type Schemas } from '../../api/client'
import { uuid } from '../../api/uuid'
import { usePrefs } from '../../shared/prefs'
import { planOf, type Form, type Procedure } from './form'

/** So long after the last key a plan is looked at, ms. */
const QUIET_MS = 250

/**
 * A plan as it is filled in: looked at by the server while somebody types, and opened.
 *
 * @param more which set-up is made once more, or which operation of a part it is
 * @param ready kept when what can be chosen is there; a person may be quicker, and means what would have been chosen
 */
export function usePlan(
  form: Form,
  procedure: Ref<Procedure | undefined>,
  ready: Promise<unknown>,
  more: Pick<Schemas['OpenIn'], 'again' | 'operation'>,
) {
  const prefs = usePrefs()
  const router = useRouter()
  const problem = ref<Problem>()
  const told = ref<Schemas['Caveat'][]>([])
  const expect = ref<Schemas['PlanOut']['expect']>([])
  const checked = ref(false)
  const general = ref('')
  const sending = ref(false)
  const ids = { setup: uuid(), event: uuid() }
  let asked = false
  let calls = 0

  const plan = (): Schemas['PlanIn'] => ({
    ...planOf(form, prefs.unit, procedure.value),
    read_to: prefs.readTo,
  })

  /** What is wrong at a field. */
  function fault(field: string): string {
    const found = problem.value?.errors.find((e) => e.field.replace(/^plan\./, '').startsWith(field))
    return found ? `${found.detail} ${found.fix}`.trim() : ''
  }

  function take(error: unknown): void {
    checked.value = false
    told.value = []
    const complaint = complaintOf(error)
    problem.value = error instanceof Refused ? error.problem : undefined
    const placed = problem.value?.errors.some((e) => e.field)
    general.value = placed ? '' : `${complaint.detail} ${complaint.fix}`
  }

  async function check(): Promise<void> {
    if (!asked && !(form.part.trim() && form.diameter.trim() && form.limit.trim())) return
    const mine = ++calls
    await ready
    try {
      const body = plan()
      const answer = await ask(api.POST('/api/plans/check', { body }))
      if (mine !== calls) return
      told.value = answer.told
      expect.value = answer.expect
      checked.value = true
      problem.value = undefined
      general.value = ''
    } catch (error) {
      if (mine === calls) take(error)
    }
  }

  const typed = [form, () => prefs.unit, () => prefs.readTo]
  watch(typed, () => {
    ids.setup = uuid() // another plan is another set-up, also when the first was sent and its answer lost
    ids.event = uuid()
  })
  watchDebounced(typed, check, { debounce: QUIET_MS })
  void ready.then(() => nextTick()).then(check) // what a link filled in is looked at without a key

  async function open(): Promise<void> {
    asked = true
    sending.value = true
    await ready
    await nextTick() // what the page chooses when the lists come is chosen by then
    try {
      const body = {
        id: ids.setup,
        event_id: ids.event,
        at: new Date().toISOString(),
        author: prefs.author,
        plan: plan(),
        ...more,
      }
      const view = await ask(api.POST('/api/setups', { body }))
      await router.push(`/set-up/${view.id}`)
    } catch (error) {
      take(error)
    } finally {
      sending.value = false
    }
  }

  /** The sheet to work by, in a page of its own; nothing is kept of it. */
  async function sheet(): Promise<void> {
    const made = window.open('', '_blank') // at once, while it is still an answer to a key
    try {
      const body = plan()
      const html = await ask(api.POST('/api/plans/sheet.html', { body, parseAs: 'text' }))
      const page = URL.createObjectURL(new Blob([html], { type: 'text/html' }))
      if (made) made.location.href = page
    } catch (error) {
      made?.close()
      take(error)
    }
  }
  return { told, expect, checked, general, sending, fault, open, sheet }
}
