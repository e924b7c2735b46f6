import { computed, ref, shallowRef, type Ref } from 'vue'
import { api, ask, wordsOf, type Schemas } from '../../api/client'
import { beep } from '../../shared/sound'
import type { Needle } from '../../shared/useNeedles'
import { ranClock } from './ranClock'
import type { TrayCell } from '../../shared/tray/cells'

/** What a course works on. */
interface Page {
  id: string
  view: Ref<Schemas['SetupView'] | undefined>
  cells: Ref<TrayCell[]>
  needle: Ref<Needle | undefined>
  read: (text: string, live?: Schemas['Live'], cell?: TrayCell) => Promise<void>
}

/** Where it stands: not begun, turned just now, or told. */
export type Stage = 'ready' | 'running' | 'told'

/** After a slow answer it is asked again how long it has run, so often at most, until a mark is right to so many ms. */
const LOOKS = 4
const APART_MS = 20

/** A spindle turned, or a table run along, while the live needle is recorded: its readings come in one go. */
export function useCourse(page: Page) {
  const open = ref(false)
  const stage = ref<Stage>('ready')
  const marks = computed(() => page.needle.value?.marks ?? out.value?.marks ?? 0) // a pedal may send them too
  const fault = ref('')
  const busy = ref(false)
  const out = shallowRef<Schemas['CourseOut']>() // what is sent of it is kept in the browser, and no proxy can be
  let clock = ranClock()
  /** Marks that the server has not been heard to have (s). */
  let untold: number[] = []

  const course = computed(() => (page.needle.value ? (page.view.value?.tray.course ?? null) : null))

  async function send(
    act: Schemas['CourseIn']['act'],
    turns?: number,
  ): Promise<Schemas['CourseOut'] | undefined> {
    busy.value = true
    const marks_s = act === 'mark' || act === 'end' ? [...untold] : []
    const sent = performance.now()
    try {
      const answer = await ask(
        api.POST('/api/setups/{setup_id}/course', {
          params: { path: { setup_id: page.id } },
          body: { act, marks_s, ...(turns ? { turns } : {}) },
        }),
      )
      if (answer.running) clock.hear(sent, performance.now(), answer.ran_s)
      untold = untold.filter((mark) => !marks_s.includes(mark))
      fault.value = ''
      return answer
    } catch (error) {
      fault.value = wordsOf(error)
      beep(false)
      return undefined
    } finally {
      busy.value = false
    }
  }

  function show(): void {
    if (!course.value) return
    open.value = true
    stage.value = 'ready'
    fault.value = ''
    out.value = undefined
  }

  /** Standing at the first spot: from now on it is recorded. `more`: to be told together with what was turned before. */
  async function begin(more = false): Promise<void> {
    clock = ranClock()
    untold = []
    if (!(await send(more ? 'more' : 'begin'))) return
    stage.value = 'running'
    for (let looks = 0; looks < LOOKS && clock.apart() > APART_MS; looks++) await send('look')
  }

  /** It passed when the key went down (ms of this page), however late the server hears of it. */
  async function mark(atMs: number): Promise<void> {
    untold.push(clock.at(atMs))
    if (await send('mark')) beep(true)
  }

  /** It is back, or somebody has said how often it went round. */
  async function end(turns?: number): Promise<void> {
    const answer = await send('end', turns)
    if (!answer) return
    out.value = answer
    stage.value = 'told'
    beep(true)
  }

  async function drop(): Promise<void> {
    open.value = false
    if (stage.value === 'running') await send('drop')
  }

  /** Its readings go into their cells, like those of a key. */
  async function keep(): Promise<void> {
    const found = out.value
    if (!found || found.pass_no !== page.view.value?.tray.pass_no) return void (open.value = false)
    open.value = false
    for (const one of found.readings) {
      const cell = page.cells.value.find(
        ({ cell }) => cell.station_id === one.station_id && cell.closing === one.closing,
      )
      if (cell) await page.read(one.typed.text, one.live, cell)
    }
  }

  return { course, open, stage, marks, fault, busy, out, show, begin, mark, end, drop, keep }
}
