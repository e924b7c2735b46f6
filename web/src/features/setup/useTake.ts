import { computed, ref, watch, type Ref } from 'vue'
import { api, ask, complaintOf, type Schemas } from '../../api/client'
import { bareLength, unitWord } from '../../shared/format'
import { usePrefs } from '../../shared/prefs'
import { beep, speak } from '../../shared/sound'
import { useNeedles } from '../../shared/useNeedles'
import type { TrayCell } from './useSetup'

/** What taking a reading works on. */
interface Page {
  view: Ref<Schemas['SetupView'] | undefined>
  cells: Ref<TrayCell[]>
  current: Ref<number>
  read: (text: string, live?: Schemas['Live']) => Promise<void>
}

/** Readings that nobody types: the live needle of the spot that is read, taken by a key, or by itself when it is still. */
export function useTake(page: Page) {
  const prefs = usePrefs()
  const gauges = computed(() => page.view.value?.gauges.map((g) => g.id) ?? [])
  const { of } = useNeedles(gauges)
  const fault = ref('')
  const busy = ref(false)
  /** It has moved since the last reading: what stands there is a new one. */
  const moved = ref(false)

  const gauge = computed(() => {
    const slot = page.cells.value[page.current.value]?.cell.slot ?? ''
    return page.view.value?.gauges.find((g) => g.slot === slot) ?? page.view.value?.gauges[0]
  })
  const needle = computed(() => (gauge.value ? of(gauge.value.id) : undefined))
  const readable = computed(() => {
    const cell = page.cells.value[page.current.value]?.cell
    return Boolean(page.view.value?.tray.active && cell?.reads === 'needle')
  })

  /** Take what the needle shows; false when there is none to take from. */
  function take(): boolean {
    if (!needle.value || !readable.value || busy.value) return false
    void keep(needle.value.id)
    return true
  }

  /** Over a rod or a ball: the highest, then the lowest, then again what the needle shows. */
  async function peak(): Promise<void> {
    const one = needle.value
    if (!one) return
    const side = one.side === null ? 'high' : one.side === 'high' ? 'low' : null
    try {
      await ask(
        api.POST('/api/live/{item_id}/peak', { params: { path: { item_id: one.id } }, body: { side } }),
      )
      fault.value = ''
    } catch (error) {
      fault.value = complaintOf(error).detail
    }
  }

  async function keep(id: string): Promise<void> {
    busy.value = true
    try {
      const taken = await ask(
        api.POST('/api/live/{item_id}/take', { params: { path: { item_id: id } }, body: {} }),
      )
      fault.value = ''
      moved.value = false
      await page.read(taken.typed.text, taken.live)
      beep(true)
      if (prefs.speaks) speak(aloud(taken.typed.text))
    } catch (error) {
      const told = complaintOf(error)
      fault.value = `${told.detail} ${told.fix}`
      beep(false)
    } finally {
      busy.value = false
    }
  }

  function aloud(text: string): string {
    const mm = Number(text.replace(/[^\d.+-]/g, ''))
    const shown = bareLength(mm, prefs.unit, page.view.value?.resolution_mm ?? 0.001).replace(
      '\u2212',
      'minus ',
    )
    return `${shown} ${unitWord(prefs.unit)}`
  }

  watch(
    () => needle.value?.still,
    (still) => {
      if (still === false) moved.value = true
      else if (still && moved.value && prefs.bySelf && !needle.value?.side) take()
    },
  )
  watch(
    () => needle.value?.state,
    (state) => state === 'live' && (fault.value = ''),
  )
  return { needle, gauge, readable, fault, take, peak }
}
