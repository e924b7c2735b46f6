import { computed, ref, watch, type Ref } from 'vue'
import { api, ask } from '../../api/client'
import { useLatest } from '../../shared/useLatest'
import { formOf, presetOf, type Form, type Procedure } from './form'

/** What goes over from the last set-up beside the procedure’s own choices. Part, limit and indicator are this one’s own. */
const HOW = ['school', 'place', 'view'] as const

/**
 * The rest of a plan as it was the last time in this holder; what somebody chose here stays.
 *
 * @param active is it asked at all? What is planned again, or by a link that knows, has its own answers
 */
export function useLast(form: Form, procedure: Ref<Procedure | undefined>, active: boolean) {
  /** Choices that were made on this page. */
  const mine = new Set<string>()
  /** The choices as they were before those of the last time were taken over. */
  let before: Form['choices'] | undefined
  const open = ref(false)
  const asked = computed(() => `${form.procedure} ${form.holder_id}`)
  const last = useLatest(async () => {
    const about = asked.value
    const found = await ask(
      api.GET('/api/holders/{holder_id}/last', {
        params: { path: { holder_id: form.holder_id }, query: { procedure: form.procedure } },
      }),
    )
    return { about, ...found }
  })
  /** The last set-up of what is planned now; one of another procedure or holder is an answer that is late. */
  const then = computed(() => {
    const found = last.data.value
    return found?.plan && found.about === asked.value ? { at: found.at, plan: found.plan } : undefined
  })
  const at = computed(() => then.value?.at)

  watch(
    () => (active && procedure.value && form.holder_id ? asked.value : ''),
    (now) => now && void last.run(),
    { immediate: true },
  )
  watch(last.data, () => {
    if (before) form.choices = { ...before, ...only(form.choices) }
    before = undefined
    open.value = false
    const plan = then.value?.plan
    if (!plan) return
    const was = formOf(plan)
    for (const key of HOW) Object.assign(form, { [key]: was[key] })
    const preset = presetOf(plan.stations_deg ?? [], procedure.value?.asks.presets)
    if (preset) form.stations = preset
    before = form.choices
    form.choices = { ...before, ...was.choices, ...only(before) }
  })

  /** Of some choices, those that were made here. */
  const only = (choices: Form['choices']): Form['choices'] =>
    Object.fromEntries(Object.entries(choices).filter(([name]) => mine.has(name)))

  /** Somebody chose it here. */
  function choose(name: string, value: string): void {
    mine.add(name)
    form.choices[name] = value
  }
  return { at, open, choose }
}
