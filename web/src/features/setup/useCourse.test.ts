import { beforeEach, expect, it, vi } from 'vitest'
import { ref } from 'vue'
import type { Schemas } from '../../api/client'
import type { Needle } from '../../shared/useNeedles'
import { useCourse } from './useCourse'

vi.mock('../../shared/sound', () => ({ beep: () => undefined }))

/** The server's clock stands 5 s beside the browser's; it hears `late` ms after, and its answer takes `back` ms. */
let late: number
let back: number
let lost: boolean
let began: number
let heard: Set<number>
let acts: string[]

beforeEach(() => {
  vi.useFakeTimers({ toFake: ['performance', 'setTimeout', 'Date'] })
  ;[late, back, lost, heard, acts] = [5, 5, false, new Set(), []]
  const wait = (ms: number): Promise<void> => new Promise((done) => setTimeout(done, ms))
  vi.stubGlobal('fetch', async (asked: Request) => {
    const body = (await asked.json()) as Schemas['CourseIn']
    acts.push(body.act)
    await wait(late)
    const now = 5000 + performance.now()
    if (body.act === 'begin') began = now
    for (const mark of body.marks_s ?? []) heard.add(mark)
    const ran_s = (now - began) / 1000
    await wait(back)
    if (lost) return Response.error()
    return Response.json({ running: body.act !== 'end', marks: heard.size, ran_s, readings: [] })
  })
  return () => {
    vi.useRealTimers()
  }
})

/** Begun here, and how long after that a moment is by the server's clock. */
async function begun(): Promise<ReturnType<typeof useCourse>> {
  const run = useCourse({
    id: 'one',
    view: ref(),
    cells: ref([]),
    needle: ref<Needle>(),
    read: () => Promise.resolve(),
  })
  const begins = run.begin()
  await vi.runAllTimersAsync()
  await begins
  return run
}

async function marked(run: ReturnType<typeof useCourse>): Promise<number> {
  const ran = (5000 + performance.now() - began) / 1000
  const marks = run.mark(performance.now())
  await vi.runAllTimersAsync()
  await marks
  return ran
}

/** The first mark that was heard. */
const first = (): number => [...heard][0] ?? NaN

it('a mark is when the key went down, however late the server hears of it', async () => {
  const run = await begun()
  expect(acts).toEqual(['begin'])
  late = 600
  const ran = await marked(run)
  expect(Math.abs(first() - ran)).toBeLessThan(0.01)
})

it('a slow beginning is asked after until it is known when it was', async () => {
  late = 400
  const slow = begun()
  await vi.advanceTimersByTimeAsync(0)
  late = 5
  const run = await slow
  expect(acts).toEqual(['begin', 'look'])
  const ran = await marked(run)
  expect(Math.abs(first() - ran)).toBeLessThan(0.01)
})

it('a mark whose answer was lost is told once more, as the same mark', async () => {
  const run = await begun()
  lost = true
  await marked(run)
  expect(run.fault.value).not.toBe('')
  lost = false
  await vi.advanceTimersByTimeAsync(900)
  await marked(run)
  expect(heard.size).toBe(2)
  const ends = run.end()
  await vi.runAllTimersAsync()
  await ends
  expect(heard.size).toBe(2)
  expect(run.stage.value).toBe('told')
})
