import { expect, it } from 'vitest'
import { nextTick, ref, type Ref } from 'vue'
import type { Schemas } from '../../api/client'
import type { Needle } from '../../shared/useNeedles'
import { useWatch } from './useWatch'

const live = (mm: number, still = true, state: Needle['state'] = 'live'): Needle => ({
  id: 'w',
  name: 'Live',
  gauge: 'g',
  state,
  why: '',
  mm,
  still,
  age_s: 0,
  side: null,
  crests: [],
  both: null,
  marks: null,
  tablet: null,
})
const tight = {
  primary: { id: 'tight', events: [{ type: 'tightened' }] },
  others: [],
} as unknown as Schemas['Panel']
const read = { primary: null, others: [] } as unknown as Schemas['Panel']

function watching(watches = true) {
  const view = ref({ watches }) as Ref<Schemas['SetupView'] | undefined>
  const panel = ref<Schemas['Panel'] | undefined>(tight)
  const needle = ref<Needle | undefined>(live(0.01))
  return { view, panel, needle, ...useWatch({ view, panel, needle }) }
}

it('a tightening carries what the needle did while it was made, once it stands still', async () => {
  const page = watching()
  await nextTick()
  page.needle.value = live(0.018, false)
  await nextTick()
  expect(page.shiftMm.value).toBeCloseTo(0.008, 9)
  expect(page.carrying([{ type: 'tightened' }])).toEqual([{ type: 'tightened' }])
  page.needle.value = live(0.02)
  await nextTick()
  expect(
    page.carrying([
      { type: 'tightened', quick: true },
      { type: 'proved', pass_no: 1 },
    ]),
  ).toEqual([
    { type: 'tightened', quick: true, watched: { gauge: 'g', before_mm: 0.01, after_mm: 0.02 } },
    { type: 'proved', pass_no: 1 },
  ])
})

it('nothing is watched where the stylus cannot stay, at another step, or when the needle was lost on the way', async () => {
  const round = watching(false)
  await nextTick()
  expect(round.shiftMm.value).toBeUndefined()
  const page = watching()
  await nextTick()
  page.needle.value = live(0.01, false, 'gone')
  await nextTick()
  page.needle.value = live(0.05)
  await nextTick()
  expect(page.shiftMm.value).toBe(0)
  page.panel.value = read
  await nextTick()
  expect(page.shiftMm.value).toBeUndefined()
})
