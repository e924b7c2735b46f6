import { computed, ref, watch, type Ref } from 'vue'
import { api, ask, complaintOf, wordsOf, type Schemas } from '../../api/client'
import { bareLength, unitWord } from '../../shared/format'
import { usePrefs } from '../../shared/prefs'
import { beep, speak } from '../../shared/sound'
import { useNeedles } from '../../shared/useNeedles'
import type { TrayCell } from '../../shared/tray/cells'

/** What taking a reading works on. */
interface Page {
  view: Ref<Schemas['SetupView'] | undefined>
  cells: Ref<TrayCell[]>
  current: Ref<number>
  read: (text: string, live?: Schemas['Live'], cell?: TrayCell) => Promise<void>
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
  /** The same spot at another indicator: near and far, top and side are read in one go. */
  const beside = computed(() => {
    const here = page.cells.value[page.current.value]?.cell
    if (!here) return undefined
    const cell = page.cells.value.find(
      ({ cell: one, waiting }) =>
        one.slot !== here.slot &&
        one.short === here.short &&
        one.closing === here.closing &&
        one.state === 'open' &&
        !waiting,
    )
    const with_ = page.view.value?.gauges.find((g) => g.slot === cell?.cell.slot)
    const also = with_ && of(with_.id)
    return cell && also ? { cell, needle: also } : undefined
  })
  const readable = computed(() => {
    const cell = page.cells.value[page.current.value]?.cell
    return Boolean(page.view.value?.tray.active && cell?.reads === 'needle')
  })

  /** Take what the needle shows; false when there is none to take from. */
  function take(): boolean {
    if (!needle.value || !readable.value || busy.value) return false
    void keep(needle.value.id, beside.value)
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

  const taken = (id: string): Promise<Schemas['LiveReadingOut']> =>
    ask(api.POST('/api/live/{item_id}/take', { params: { path: { item_id: id } }, body: {} }))

  async function keep(id: string, other = beside.value): Promise<void> {
    busy.value = true
    try {
      const [mine, also] = await Promise.all([taken(id), other && taken(other.needle.id)]) // both, or neither
      fault.value = ''
      moved.value = false
      const here = page.cells.value[page.current.value]
      await page.read(mine.typed.text, mine.live, here)
      if (other && also) await page.read(also.typed.text, also.live, other.cell)
      beep(true)
      if (prefs.speaks) speak(aloud(mine.typed.text))
    } catch (error) {
      fault.value = wordsOf(error)
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
  return { needle, beside, gauge, readable, fault, take, peak }
}
