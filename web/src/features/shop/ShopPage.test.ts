import { flushPromises, mount, type VueWrapper } from '@vue/test-utils'
import ElementPlus from 'element-plus'
import { createPinia, setActivePinia } from 'pinia'
import { afterEach, beforeEach, expect, it, vi } from 'vitest'
import { plainHolder } from '../../shared/testing'
import ShopPage from './ShopPage.vue'

const chuck = plainHolder('c', 'four_jaw_independent', { name: 'Four-jaw 200' })
const memory = {
  setups: 3,
  moves: 7,
  gain: 0.847,
  gain_sd: 0.03,
  kicks: 2,
  kick_x_mm: 0.003,
  kick_y_mm: 0.004,
  kick_sd_mm: 0.001,
  repeat_mm: null,
}
let calls: string[] = []

beforeEach(() => {
  calls = []
  setActivePinia(createPinia())
  vi.stubGlobal('fetch', (request: Request) => {
    calls.push(`${request.method} ${new URL(request.url).pathname}`)
    const drawer = { id: 't', name: 'Shim tin', kind: 'shims', pieces: [{ mm: 0.05, count: 4 }] }
    return Promise.resolve(
      Response.json({ machines: [], holders: [chuck], gauges: [], stock: [drawer], memories: { c: memory } }),
    )
  })
})
afterEach(() => vi.unstubAllGlobals())

async function open(): Promise<VueWrapper> {
  const wrapper = mount(ShopPage, { global: { plugins: [ElementPlus] }, attachTo: document.body })
  await flushPromises()
  return wrapper
}

it('says what a holder remembers, in words', async () => {
  const wrapper = await open()
  expect(wrapper.text()).toContain(
    'Remembers 3 set-ups, 0.85 of a move arrives, kicks 0.20 thou on tightening',
  )
  expect(wrapper.text()).toContain('1 sizes, 4 pieces')
})

it('lets it forget, and looks again', async () => {
  const wrapper = await open()
  const row = wrapper.findAll('.item').find((i) => i.text().startsWith('Four-jaw 200'))
  await row?.trigger('click')
  await flushPromises()
  const button = [...document.querySelectorAll('button')].find((b) =>
    b.textContent.includes('Forget all that'),
  )
  button?.click()
  await flushPromises()
  expect(calls).toContain('DELETE /api/shop/holders/c/memory')
  expect(calls.filter((c) => c === 'GET /api/shop')).toHaveLength(2)
})
