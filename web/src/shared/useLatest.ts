import { useAsyncState } from '@vueuse/core'
import { computed, type ComputedRef, type ShallowRef } from 'vue'
import { complaintOf } from '../api/client'

export interface Latest<T> {
  /** The newest answer, undefined before the first. */
  data: ShallowRef<T | undefined>
  /** What went wrong with the newest call. */
  fault: ComputedRef<{ detail: string; fix: string } | undefined>
  /** Ask (again); an answer that is overtaken by a newer call is dropped. */
  run: () => Promise<unknown>
}

/** Load something so that a late answer never overwrites a newer one; what was there stays until it comes. */
export function useLatest<T>(load: () => Promise<T>): Latest<T> {
  const { state, error, execute } = useAsyncState<T | undefined>(load, undefined, {
    immediate: false,
    resetOnExecute: false,
    onError: () => undefined,
  })
  const fault = computed(() => (error.value === undefined ? undefined : complaintOf(error.value)))
  return { data: state, fault, run: () => execute() }
}
