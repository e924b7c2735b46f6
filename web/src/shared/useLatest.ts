import { ref, shallowRef, type Ref, type ShallowRef } from 'vue'
import { complaintOf } from '../api/client'

export interface Latest<T> {
  /** The newest answer, undefined before the first. */
  data: ShallowRef<T | undefined>
  /** What went wrong with the newest call. */
  fault: Ref<{ detail: string; fix: string } | undefined>
  /** Ask (again); an answer that is overtaken by a newer call is dropped. */
  run: () => Promise<void>
}

/** Load something so that a late answer never overwrites a newer one. */
export function useLatest<T>(load: () => Promise<T>): Latest<T> {
  const data = shallowRef<T>()
  const fault = ref<{ detail: string; fix: string }>()
  let calls = 0
  async function run(): Promise<void> {
    const mine = ++calls
    try {
      const answer = await load()
      if (mine !== calls) return
      data.value = answer
      fault.value = undefined
    } catch (error) {
      if (mine === calls) fault.value = complaintOf(error)
    }
  }
  return { data, fault, run }
}
