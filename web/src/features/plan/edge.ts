import { computed, type Ref } from 'vue'
import type { Schemas } from '../../api/client'
import { startOf, type Form, type Procedure } from './form'

/** What the picture of an edge on the table asks for. */
export const SEEN: readonly string[] = ['lies', 'gauge_side', 'hinge']

/** How an edge lies on the table, where that is asked, and what is asked beside the picture of it. */
export function useEdge(form: Form, procedure: Ref<Procedure | undefined>) {
  const edge = computed(() => {
    const of = (name: string): Schemas['FieldSpec'] | undefined =>
      procedure.value?.fields.find((field) => field.name === name)
    const [lies, side, hinge] = [of('lies'), of('gauge_side'), of('hinge')]
    if (!lies || !side) return undefined
    return {
      lies: startOf(lies, form),
      side: startOf(side, form),
      hinge: hinge && startOf(hinge, form),
      hint: hinge?.hint ?? '',
      two: !!of('apart_mm'),
      free: !!hinge?.choices.some((choice) => choice.id === 'none'),
    }
  })
  const asked = computed(() =>
    (procedure.value?.fields ?? []).filter((field) => !(edge.value && SEEN.includes(field.name))),
  )
  return { edge, asked }
}
