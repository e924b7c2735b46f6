import { watchDebounced } from '@vueuse/core'
import { computed, ref, shallowRef, watch, type Ref } from 'vue'
import { useRoute, useRouter, type LocationQuery } from 'vue-router'
import { api, ask, wordsOf, type Schemas } from '../../api/client'
import type { Unit } from '../../shared/format'
import { usePrefs } from '../../shared/prefs'

type Typed = Schemas['TypedFigure']

/** So long after the last key the address gets the numbers, ms. */
const QUIET_MS = 400
const UNITS: readonly Unit[] = ['thou', 'tenth', 'mm', 'um']

/** The unit that a link's figures are in. */
const unitOf = (query: LocationQuery, usual: Unit): Unit => UNITS.find((unit) => unit === query.unit) ?? usual

/** What a link holds: the figures in the order they were typed, all in one unit. */
export function typedOf(query: LocationQuery, usual: Unit): Typed[] {
  const unit = unitOf(query, usual)
  return Object.entries(query)
    .filter((one): one is [string, string] => one[0] !== 'unit' && typeof one[1] === 'string')
    .map(([figure, text]) => ({ figure, text, unit }))
}

/** A sum: what is typed goes to the server at every key, and what follows comes back. */
export function useSum(id: Ref<string>) {
  const prefs = usePrefs()
  const route = useRoute()
  const router = useRouter()
  prefs.unit = unitOf(route.query, prefs.unit) // a link shows the numbers that it was made with
  /** What was typed, the oldest first. */
  const typed = ref<Typed[]>(typedOf(route.query, prefs.unit))
  const worked = shallowRef<Schemas['Worked']>()
  const fault = ref('')
  /** What stood in fields that nobody typed into. */
  let stands: Typed[] = []
  let calls = 0

  const shown = computed(() => worked.value?.figures ?? [])
  /** The field that somebody has just emptied: it follows, and is not filled under their hands. */
  const emptied = ref('')
  /** What stands in a field: as it was typed, or as the server says. */
  function textOf(figure: Schemas['FigureOut']): string {
    if (emptied.value === figure.id) return ''
    const mine = typed.value.find((one) => one.figure === figure.id)
    return mine?.unit === prefs.unit ? mine.text : figure.text
  }

  async function work(): Promise<void> {
    const mine = ++calls
    try {
      const answer = await ask(
        api.POST('/api/sums/{sum_id}', {
          params: { path: { sum_id: id.value } },
          body: { unit: prefs.unit, typed: typed.value, stands },
        }),
      )
      if (mine !== calls) return
      worked.value = answer
      fault.value = ''
      // What follows now is no longer what somebody typed.
      typed.value = typed.value.filter((one) => !answer.figures.some((f) => f.id === one.figure && f.follows))
    } catch (error) {
      if (mine !== calls) return
      fault.value = wordsOf(error)
    }
  }

  /** Somebody typed into a field. */
  function type(figure: string, text: string): void {
    emptied.value = text.trim() ? '' : figure
    // What follows now may be known next, when the sum is turned round; then it is what is shown.
    const fresh = shown.value
      .filter((f) => f.follows && f.id !== figure && f.text)
      .map((f) => ({ figure: f.id, text: f.text, unit: prefs.unit }))
    stands = [...stands.filter((one) => !fresh.some((f) => f.figure === one.figure)), ...fresh]
    typed.value = [...typed.value.filter((one) => one.figure !== figure), { figure, text, unit: prefs.unit }]
    void work()
  }

  const left = (): string => (emptied.value = '')

  /** Where this sum is found again with its numbers. */
  const link = computed(() => ({
    path: `/work-it-out/${id.value}`,
    query: Object.fromEntries([
      ['unit', prefs.unit],
      ...typed.value.map((one) => {
        const figure = shown.value.find((f) => f.id === one.figure)
        return [one.figure, figure ? textOf(figure) : one.text]
      }),
    ]) as Record<string, string>,
  }))

  watch(id, () => {
    typed.value = typedOf(route.query, prefs.unit)
    worked.value = undefined
    stands = []
    if (id.value) void work()
  })
  watch(
    () => prefs.unit,
    () => id.value && void work(),
  )
  watchDebounced(typed, () => id.value && void router.replace(link.value), { debounce: QUIET_MS, deep: true })
  if (id.value) void work()

  return { worked, fault, textOf, type, left, link }
}
