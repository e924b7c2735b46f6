import { createPinia, setActivePinia } from 'pinia'
import { mount } from '@vue/test-utils'
import { beforeEach, expect, it, vi } from 'vitest'
import { defineComponent, h, ref, type Ref } from 'vue'
import type { Schemas } from '../../api/client'
import type { TrayCell } from '../../shared/tray/cells'
import { useTake } from './useTake'

const cell = (station_id: string, slot: string, short: string, state = 'open'): TrayCell =>
  ({ cell: { station_id, slot, short, state, closing: false, reads: 'needle', label: short } }) as TrayCell
const wire = (gauge: string): object => ({
  id: `w-${gauge}`,
  name: gauge,
  gauge,
  state: 'live',
  why: '',
  mm: 0.01,
  still: true,
  age_s: 0,
  side: null,
  crests: [],
  both: null,
  marks: null,
  tablet: null,
})

let away = ''
beforeEach(() => {
  away = ''
  setActivePinia(createPinia())
  vi.stubGlobal(
    'EventSource',
    class extends EventTarget {
      close(): void {}
    },
  )
  vi.stubGlobal('fetch', (asked: Request) => {
    const path = new URL(asked.url).pathname
    if (path === '/api/live') return Promise.resolve(Response.json({ wires: [wire('near'), wire('far')] }))
    const gauge = /live\/w-(\w+)\/take/.exec(path)?.[1]
    if (gauge === away)
      return Promise.resolve(
        Response.json(
          {
            type: 't',
            title: 't',
            status: 409,
            code: 'not_live',
            detail: 'It sends nothing.',
            fix: 'See to it.',
            errors: [],
          },
          { status: 409, headers: { 'Content-Type': 'application/problem+json' } },
        ),
      )
    return Promise.resolve(
      Response.json({
        typed: { text: `${gauge} mm`, unit: 'mm' },
        live: { gauge, raw: '', at: '', still_mm: 0 },
      }),
    )
  })
})

async function page(cells: TrayCell[], current = 0) {
  const read = vi.fn<(text: string, live?: Schemas['Live'], cell?: TrayCell) => Promise<void>>(() =>
    Promise.resolve(),
  )
  const view = ref({
    tray: { active: true },
    resolution_mm: 0.001,
    gauges: [
      { slot: '', id: 'near', name: 'near', graduation_mm: 0.001 },
      { slot: 'far', id: 'far', name: 'far', graduation_mm: 0.001 },
    ],
  }) as unknown as Ref<Schemas['SetupView']>
  let one: ReturnType<typeof useTake> | undefined
  mount(
    defineComponent({
      setup() {
        one = useTake({ view, cells: ref(cells), current: ref(current), read })
        return () => h('p')
      },
    }),
  )
  if (!one) throw new Error('not set up')
  await vi.waitFor(() => expect(one?.needle.value).toBeDefined())
  return { ...one, read }
}

it('takes near and far at the same spot by one key', async () => {
  const cells = [
    cell('n1', '', 'Jaw 1'),
    cell('n2', '', 'Jaw 2'),
    cell('f1', 'far', 'Jaw 1'),
    cell('f2', 'far', 'Jaw 2'),
  ]
  const { take, beside, read } = await page(cells, 1)
  expect(beside.value?.cell).toStrictEqual(cells[3])
  expect(take()).toBe(true)
  await vi.waitFor(() => expect(read).toHaveBeenCalledTimes(2))
  expect(read.mock.calls.map(([text, , where]) => [text, where?.cell.station_id])).toEqual([
    ['near mm', 'n2'],
    ['far mm', 'f2'],
  ])
})

it('takes neither when one of them sends nothing, and says so', async () => {
  away = 'far'
  const { take, fault, read } = await page([cell('n1', '', 'Jaw 1'), cell('f1', 'far', 'Jaw 1')])
  take()
  await vi.waitFor(() => expect(fault.value).toContain('It sends nothing.'))
  expect(read).not.toHaveBeenCalled()
})

it('takes one alone where the other was read already', async () => {
  const { take, beside, read } = await page([cell('n1', '', 'Jaw 1'), cell('f1', 'far', 'Jaw 1', 'read')])
  expect(beside.value).toBeUndefined()
  take()
  await vi.waitFor(() => expect(read).toHaveBeenCalledTimes(1))
})
