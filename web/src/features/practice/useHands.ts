import { computed, ref, watch, type Ref } from 'vue'
import type { Schemas } from '../../api/client'
import type { Practice } from './usePractice'

/** What hands work on. */
interface Bench {
  data: Ref<Practice | undefined>
  /** The key that is held, and how far it was turned, mm. */
  held: Ref<{ control: string; mm: number } | undefined>
  act: (body: Schemas['ActIn']['body']) => Promise<void>
  turnKey: (control: Schemas['Control'], notches: number) => void
  letGo: () => Promise<void>
  /** Where the stylus stands: a blow may fall there. */
  at: Ref<number>
}

/** Which key, hammer or drawer is in the hand, and what it does. */
export function useHands({ data, held, act, turnKey, letGo, at }: Bench) {
  const inHand = ref('')
  const now = computed(
    () => data.value?.hands.find((h) => h.control.id === inHand.value) ?? data.value?.hands[0],
  )
  const heldMm = computed(() => (held.value?.control === now.value?.control.id ? (held.value?.mm ?? 0) : 0))
  const picked = ref(0)
  watch(now, (hand, before) => {
    if (hand && (hand.control.id !== before?.control.id || hand.picked !== before.picked))
      picked.value = hand.picked
  })
  function hold(id: string): void {
    if (id === now.value?.control.id) return
    void letGo()
    inHand.value = id
  }
  function next(by: number): void {
    const all = data.value?.hands ?? []
    if (!all.length) return
    const here = all.findIndex((h) => h.control.id === now.value?.control.id)
    hold(all[(here + by + all.length) % all.length]?.control.id ?? '')
  }
  function turn(notches: number): void {
    if (now.value?.control.kind === 'key') turnKey(now.value.control, notches)
  }
  function tap(hard: boolean): void {
    if (now.value?.control.kind === 'tap')
      void act({
        type: 'hand',
        control: now.value.control.id,
        amount: hard ? 2 : 1,
        at: now.value.control.here ? at.value : null,
      })
  }
  function pick(by: number): void {
    const last = (now.value?.control.choices.length ?? 1) - 1
    picked.value = Math.min(Math.max(picked.value + by, 0), last)
  }
  function release(): void {
    if (now.value?.control.kind === 'pick') {
      if (picked.value !== now.value.picked)
        void act({ type: 'hand', control: now.value.control.id, amount: picked.value })
    } else void letGo()
  }

  return { now, heldMm, picked, hold, next, turn, tap, pick, release }
}
