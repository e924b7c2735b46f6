import { computed, type Ref } from 'vue'
import type { Schemas } from '../../api/client'
import { useBegin } from '../../shared/useBegin'
import type { usePractice } from './usePractice'

type Fault = NonNullable<Schemas['Good']['fault']>
/** What the advice’s button may tell the set-up. */
const TOLD = ['move_done', 'tightened', 'proved', 'step_passed', 'zero_set', 'pass_closed', 'reading_kept']

/** What is done with a practice besides turning, striking and reading. */
export function useActs(practice: ReturnType<typeof usePractice>, naming: Ref<boolean>) {
  const { data, cells, current, station, at, act, goTo, letGo } = practice
  const begin = useBegin()

  function toSpot(): void {
    const spot = data.value?.places.find((p) => p.station_id === station.value)
    if (spot) goTo(spot.at)
  }
  function zero(): void {
    if (station.value)
      void act({
        type: 'done',
        body: { type: 'zero_set', station_id: station.value, why: 'zero' },
        at: at.value,
      })
  }
  function bad(): void {
    const here = cells.value[current.value]
    const pass_no = data.value?.view.tray.pass_no
    if (here && pass_no && !here.closing)
      void act({
        type: 'done',
        body: { type: 'spot_marked', pass_no, station_id: here.station_id, bad: here.state !== 'bad' },
      })
  }
  async function grip(way: 'tighten' | 'loosen'): Promise<void> {
    await letGo()
    await act({ type: 'grip', way })
  }
  async function readAgain(): Promise<void> {
    await letGo()
    const open = data.value?.view.tray
    if (open) await act({ type: 'done', body: { type: 'pass_closed', pass_no: open.pass_no } })
  }
  async function good(name?: string): Promise<void> {
    naming.value = false
    await letGo()
    await act({ type: 'good', fault: (name as Fault | undefined) ?? null })
  }
  const primary = computed(() => {
    const offered = data.value?.advice?.primary
    return offered?.events.every((e) => TOLD.includes(e.type)) ? offered : undefined
  })
  async function tell(action: Schemas['Action']): Promise<void> {
    await letGo()
    for (const body of action.events) await act({ type: 'done', body })
  }
  async function again(): Promise<void> {
    if (!data.value) return
    const { drill, past, advice_kind: advice } = data.value
    await begin({ drill, past, advice })
  }
  return { toSpot, zero, bad, grip, readAgain, good, primary, tell, again }
}
