import { useRafFn } from '@vueuse/core'
import { computed, onBeforeUnmount, ref, shallowRef, watch } from 'vue'
import { api, ask, complaintOf, Refused, wordsOf, type Schemas } from '../../api/client'
import { uuid } from '../../api/uuid'
import { usePrefs } from '../../shared/prefs'

export type Practice = Schemas['Practice']
type Body = Schemas['ActIn']['body']

/** The needle follows what moves it with this lag, ms. */
const LAG_MS = 70
/** A turn to the next spot takes so long, ms. */
const TURN_MS = 420
const RETRY_MS = 1000
/** No nearer than this to a spot is anybody, mm or degrees. */
const THERE = 1e-6

/** A practice on its screen: what is done goes up one after the other, and the needle is asked for as the hands move. */
export function usePractice(id: string) {
  const prefs = usePrefs()
  const data = shallowRef<Practice>()
  const fault = ref<{ detail: string; fix: string }>()
  const refused = ref('')
  const away = ref(false)
  const busy = ref(false)
  /** Where the stylus stands: degrees, or mm along. */
  const at = ref(0)
  const chosen = ref<number>()
  /** The key that the hand holds, and how far it was turned since it was taken hold of, mm. */
  const held = ref<{ control: string; mm: number }>()
  const shown = ref(0)
  const target = shallowRef<Schemas['Shown']>({ needle_mm: 0, at_stop: false })
  let stopped = false

  const cells = computed(() => data.value?.view.tray.cells ?? [])
  const current = computed(() => chosen.value ?? cells.value.findIndex((c) => c.state === 'open'))
  /** The spot that is under the stylus, or is to be. */
  const station = computed(
    () =>
      cells.value[current.value]?.station_id ??
      cells.value[0]?.station_id ??
      data.value?.places[0]?.station_id,
  )

  async function load(): Promise<void> {
    try {
      const found = await ask(
        api.GET('/api/practices/{practice_id}', { params: { path: { practice_id: id } } }),
      )
      data.value = found
      at.value = found.places.find((p) => p.station_id === station.value)?.at ?? 0
      fault.value = undefined
    } catch (error) {
      fault.value = complaintOf(error)
    }
  }
  void load()

  let queue: Promise<unknown> = Promise.resolve()
  /** Do something; what comes first goes up first, and again until the server has it. */
  function act(body: Body): Promise<void> {
    const sent = { id: uuid(), body }
    const done = queue.then(() => send(sent))
    queue = done.catch(() => undefined)
    return done
  }

  async function send(sent: Schemas['ActIn']): Promise<void> {
    busy.value = true
    try {
      while (!stopped) {
        try {
          data.value = await ask(
            api.POST('/api/practices/{practice_id}/acts', {
              params: { path: { practice_id: id } },
              body: sent,
            }),
          )
          refused.value = ''
          away.value = false
          chosen.value = undefined
          break
        } catch (error) {
          if (error instanceof Refused) {
            refused.value = wordsOf(error)
            break
          }
          away.value = true
          await new Promise((done) => setTimeout(done, RETRY_MS))
        }
      }
    } finally {
      busy.value = false
    }
  }

  // -- the needle ------------------------------------------------------------------------------

  /** Nothing is on its way: the stylus stands at its spot, and the needle where it belongs. */
  const rests = ref(false)
  watch([at, station, held, data], () => (rests.value = false), { flush: 'sync' })

  let asking = false
  let again = false
  async function look(): Promise<void> {
    if (!station.value || data.value?.ended || stopped) return
    if (asking) {
      again = true
      return
    }
    asking = true
    try {
      target.value = await ask(
        api.GET('/api/practices/{practice_id}/needle', {
          params: {
            path: { practice_id: id },
            query: {
              station: station.value,
              at: at.value,
              was: target.value.needle_mm,
              ...(held.value?.mm ? { control: held.value.control, amount: held.value.mm } : {}),
            },
          },
        }),
      )
    } catch {
      again = false // the next thing done asks again
    } finally {
      asking = false
      if (again) {
        again = false
        void look()
      }
    }
  }
  watch([at, station, held, data], () => void look())

  useRafFn(({ delta }) => {
    const apart = target.value.needle_mm - shown.value
    if (Math.abs(apart) < 1e-6) shown.value = target.value.needle_mm
    else shown.value += apart * (1 - Math.exp(-delta / LAG_MS))
    turn(delta)
    rests.value = goal === undefined && !asking && Math.abs(apart) < 1e-4 && !busy.value
  })

  // -- the stylus and the spindle ----------------------------------------------------------------

  let goal: number | undefined
  let pace = 0
  /** Bring a spot under the stylus, the way a hand does: past what lies between. */
  function goTo(to: number): void {
    const turns = data.value?.turns ?? false
    let by = to - at.value
    if (turns) by = ((((by + 180) % 360) + 360) % 360) - 180
    goal = at.value + by
    rests.value = false
    pace = by / TURN_MS
  }
  function turn(delta: number): void {
    if (goal === undefined) return
    const left = goal - at.value
    if (Math.abs(left) <= Math.max(Math.abs(pace * delta), THERE)) {
      at.value = around(goal)
      goal = undefined
    } else at.value += pace * delta
  }
  const around = (deg: number): number => (data.value?.turns ? ((deg % 360) + 360) % 360 : deg)
  function move(by: number): void {
    goal = undefined
    at.value = around(at.value + by)
  }

  // -- hands -------------------------------------------------------------------------------------

  /** Turn the key that is held by so many notches. */
  function turnKey(control: Schemas['Control'], notches: number): void {
    const mm = held.value?.control === control.id ? held.value.mm : 0
    if (held.value && held.value.control !== control.id) void letGo()
    held.value = { control: control.id, mm: mm + notches * control.step_mm }
  }
  /** Let go of the key: what was pushed springs back a little. */
  async function letGo(): Promise<void> {
    const now = held.value
    held.value = undefined
    if (now?.mm) await act({ type: 'hand', control: now.control, amount: now.mm })
  }

  async function read(text: string): Promise<void> {
    await letGo()
    const here = cells.value[current.value]
    const tray = data.value?.view.tray
    if (!here || !tray) return
    const typed = { text, unit: prefs.unit }
    if (here.reading_id) {
      if (text !== here.typed || prefs.unit !== here.typed_unit)
        await act({
          type: 'done',
          body: { type: 'reading_corrected', reading_id: here.reading_id, typed },
          at: at.value,
        })
      chosen.value = undefined
    } else
      await act({
        type: 'done',
        body: {
          type: 'reading_taken',
          pass_no: tray.pass_no,
          station_id: here.station_id,
          typed,
          closing: here.closing,
        },
        at: at.value,
      })
  }

  onBeforeUnmount(() => (stopped = true))
  return {
    data,
    fault,
    refused,
    away,
    busy,
    at,
    chosen,
    held,
    shown,
    target,
    cells,
    current,
    station,
    act,
    goTo,
    move,
    turnKey,
    letGo,
    read,
    rests,
  }
}
