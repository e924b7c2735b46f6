import 'fake-indexeddb/auto'
import { expect, it } from 'vitest'
import type { Schemas } from './client'
import { keepView, keptView } from './keep'

const view = (id: string, seq: number): Schemas['SetupView'] =>
  ({ id, seq }) as unknown as Schemas['SetupView']

it('gives back a set-up as it was seen last', async () => {
  await keepView(view('a', 1))
  await keepView(view('a', 2))
  expect((await keptView('a'))?.seq).toBe(2)
  expect(await keptView('never seen')).toBeUndefined()
})

it('keeps the last dozen and lets the older ones go', async () => {
  for (let n = 0; n < 14; n += 1) {
    await keepView(view(`s${n}`, n))
    await new Promise((resolve) => setTimeout(resolve, 2))
  }
  expect(await keptView('s1')).toBeUndefined()
  expect((await keptView('s2'))?.seq).toBe(2)
  expect((await keptView('s13'))?.seq).toBe(13)
})
