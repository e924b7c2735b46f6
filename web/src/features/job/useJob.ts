import { useSessionStorage, watchDebounced } from '@vueuse/core'
import { computed, ref, shallowRef } from 'vue'
import { api, ask, complaintOf, Refused, type Problem, type Schemas } from '../../api/client'
import type { Unit } from '../../shared/format'
import { usePrefs } from '../../shared/prefs'

export type Candidate = Schemas['Candidate']

/** So long after the last key it is asked, ms. */
const QUIET_MS = 250

/** A part as it is told; everything typed stays as it was typed. */
export interface Job {
  name: string
  shape: 'round' | 'flat'
  across: string
  long: string
  surface: NonNullable<Schemas['JobIn']['surface']>
  hardened: boolean
  mass: string
  many: string
  limit: string
  kind: Schemas['LimitIn']['kind']
}
/** What a surface is on the start page. */
export const FINISH: Record<Job['surface'], string> = {
  ground: 'ground',
  turned: 'turned',
  marks: 'turned',
  sawn: 'rough',
  rusty: 'rough',
  cast: 'rough',
}
const EMPTY: Job = {
  name: '',
  shape: 'round',
  across: '',
  long: '',
  surface: 'turned',
  hardened: false,
  mass: '',
  many: '1',
  limit: '',
  kind: 'tir',
}

/** What is sent for a job, as it was typed. */
export function bodyOf(job: Job, unit: Unit): Schemas['JobIn'] {
  return {
    name: job.name,
    shape: job.shape,
    across: { text: job.across, unit },
    long: job.long.trim() ? { text: job.long, unit } : null,
    surface: job.surface,
    hardened: job.hardened,
    mass: { text: job.mass, unit },
    many: job.many,
    limit: { kind: job.kind, typed: { text: job.limit, unit } },
  }
}

/** A job that is told, and the ways to hold it, best first, asked again at every change. */
export function useJob() {
  const prefs = usePrefs()
  const job = useSessionStorage<Job>('velvet-hand.job', { ...EMPTY }, { mergeDefaults: true })
  const candidates = shallowRef<Candidate[]>()
  const problem = ref<Problem>()
  const fault = ref('')
  const whole = computed(() => Boolean(job.value.across.trim() && job.value.limit.trim()))
  let calls = 0

  /** What is wrong at a field. */
  function at(field: string): string {
    const found = problem.value?.errors.find((e) => e.field.startsWith(field))
    return found ? `${found.detail} ${found.fix}`.trim() : ''
  }

  async function propose(): Promise<void> {
    if (!whole.value) {
      candidates.value = undefined
      problem.value = undefined
      fault.value = ''
      return
    }
    const mine = ++calls
    try {
      const answer = await ask(api.POST('/api/jobs/propose', { body: bodyOf(job.value, prefs.unit) }))
      if (mine !== calls) return
      candidates.value = [...answer.candidates]
      problem.value = undefined
      fault.value = ''
    } catch (error) {
      if (mine !== calls) return
      problem.value = error instanceof Refused ? error.problem : undefined
      const complaint = complaintOf(error)
      fault.value = problem.value?.errors.some((e) => e.field)
        ? 'Correct the marked field first.'
        : `${complaint.detail} ${complaint.fix}`
    }
  }
  watchDebounced([job, () => prefs.unit], propose, { debounce: QUIET_MS, deep: true, immediate: true })
  const clear = (): void => {
    job.value = { ...EMPTY }
  }
  return { job, candidates, fault, at, whole, clear }
}
