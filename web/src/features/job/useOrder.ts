import { useSessionStorage } from '@vueuse/core'
import { computed, ref, shallowRef } from 'vue'
import { api, ask, wordsOf, type Schemas } from '../../api/client'
import { uuid } from '../../api/uuid'
import { useLatest } from '../../shared/useLatest'

export type OperationView = Schemas['OperationView']
type Operation = Schemas['Operation']

/** What an operation is called at first. */
const NAMES = ['First side', 'Second side', 'Third set-up', 'Fourth set-up']

/** The operations of one part, kept on the server at every change. */
export function useOrder() {
  const id = useSessionStorage('velvet-hand.order', '')
  const name = ref('')
  const operations = shallowRef<readonly OperationView[]>([])
  const fault = ref('')
  const { data: earlier, run: look } = useLatest(() => ask(api.GET('/api/jobs/orders')))
  const path = (): { job_id: string } => ({ job_id: id.value })

  function take(view: Schemas['OrderOut']): void {
    name.value = view.name
    operations.value = view.operations
  }

  async function doing(call: Promise<Schemas['OrderOut']>): Promise<void> {
    fault.value = ''
    try {
      take(await call)
    } catch (error) {
      fault.value = wordsOf(error)
    }
  }
  const load = (): Promise<void> =>
    doing(ask(api.GET('/api/jobs/orders/{job_id}', { params: { path: path() } })))

  async function keep(next: readonly Operation[]): Promise<void> {
    const body = { name: name.value, operations: [...next] }
    await doing(ask(api.PUT('/api/jobs/orders/{job_id}', { params: { path: path() }, body })))
    void look()
  }
  const list = computed(() => operations.value.map((one) => one.operation))

  /** Another operation at the end; the first one begins the part. */
  async function add(part: string, one: Omit<Operation, 'id' | 'name'>): Promise<void> {
    if (!id.value) {
      id.value = uuid()
      name.value = part
    }
    const called = NAMES[list.value.length] ?? `Set-up ${list.value.length + 1}`
    await keep([...list.value, { ...one, id: uuid(), name: called }])
  }
  const change = (at: number, changes: Partial<Operation>): Promise<void> =>
    keep(list.value.map((one, n) => (n === at ? { ...one, ...changes } : one)))
  const remove = (at: number): Promise<void> => keep(list.value.filter((_, n) => n !== at))
  /** Up or down by one. */
  function move(at: number, by: -1 | 1): Promise<void> {
    const next = [...list.value]
    const [one] = next.splice(at, 1)
    if (one) next.splice(at + by, 0, one)
    return keep(next)
  }

  /** Another part, or none yet. */
  function open(other: string): void {
    id.value = other
    name.value = ''
    operations.value = []
    if (other) void load()
  }
  if (id.value) void load()
  void look()
  return { id, name, operations, fault, earlier, add, change, remove, move, open }
}
