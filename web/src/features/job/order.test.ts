import { flushPromises, mount, type VueWrapper } from '@vue/test-utils'
import ElementPlus from 'element-plus'
import { createPinia, setActivePinia } from 'pinia'
import { beforeEach, expect, it, vi } from 'vitest'
import { defineComponent, h } from 'vue'
import { createMemoryHistory, createRouter } from 'vue-router'
import type { Schemas } from '../../api/client'
import JobOrder from './JobOrder.vue'
import { useOrder } from './useOrder'

type Operation = Schemas['Operation']
let kept: { name: string; operations: Operation[] } | undefined
const stages = ['done', 'again', 'waits'] as const

beforeEach(() => {
  kept = undefined
  sessionStorage.clear()
  setActivePinia(createPinia())
  vi.stubGlobal('fetch', async (request: Request) => {
    const url = new URL(request.url).pathname
    if (url === '/api/jobs/orders') return Response.json({ jobs: [] })
    if (request.method === 'PUT') kept = (await request.json()) as typeof kept
    const operations = (kept?.operations ?? []).map((operation, n) => ({
      operation,
      stage: stages[n],
      why: n === 1 ? 'It was done again.' : '',
      told: [],
    }))
    return Response.json({ name: kept?.name ?? '', operations })
  })
})

const way = { rating: 'good', title: 'True up', holder: 'Four-jaw' } as unknown as Schemas['Candidate']
let order: ReturnType<typeof useOrder>
function open(begun: (view: Schemas['OperationView']) => void = () => undefined): VueWrapper {
  const router = createRouter({
    history: createMemoryHistory(),
    routes: [{ path: '/:rest(.*)*', component: { template: '<i />' } }],
  })
  const page = defineComponent(() => {
    order = useOrder()
    const add = (): void => void order.add('Housing', { title: way.title, holder: way.holder, plan: {} })
    return () => h(JobOrder, { order, way, onAdd: add, onBegin: begun })
  })
  return mount(page, { global: { plugins: [router, ElementPlus] }, attachTo: document.body })
}
const press = async (page: VueWrapper, name: string, at = 0): Promise<void> => {
  await page
    .findAll('button')
    .filter((one) => one.text() === name)
    [at]?.trigger('click')
  await flushPromises()
}
const names = (): string[] => (kept?.operations ?? []).map((one) => one.name)

it('adds ways in their order, renames, moves and leaves them out', async () => {
  const page = open()
  for (let n = 0; n < 3; n++) await press(page, 'Add what is chosen')
  expect(names()).toEqual(['First side', 'Second side', 'Third set-up'])
  expect(kept?.name).toBe('Housing')
  expect(new Set(kept?.operations.map((one) => one.id)).size).toBe(3)
  await page.get('input[aria-label="Name of operation 2"]').setValue('Bore')
  await page.get('input[aria-label="Name of operation 2"]').trigger('change')
  await flushPromises()
  await press(page, 'Earlier', 1)
  expect(names()).toEqual(['Bore', 'First side', 'Third set-up'])
  await press(page, 'Leave out', 1)
  expect(names()).toEqual(['Bore', 'Third set-up'])
})

it('says how each stands, and begins it', async () => {
  const begun = vi.fn()
  const page = open(begun)
  for (let n = 0; n < 2; n++) await press(page, 'Add what is chosen')
  await order.change(0, { setup: 'a1', leaves: 'Face A' })
  await order.change(1, { setup: 'b1' })
  await flushPromises()
  expect(page.text()).toContain('Done')
  expect(page.text()).toContain('To be done again')
  expect(page.text()).toContain('It was done again.')
  expect(page.get('a[href="/logbook/a1"]').text()).toBe('Look')
  await press(page, 'Do it again')
  expect(begun).toHaveBeenCalledTimes(1)
  expect(begun.mock.calls[0]?.[0].operation.setup).toBe('b1')
})
