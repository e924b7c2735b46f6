import { mount, type VueWrapper } from '@vue/test-utils'
import { createPinia, setActivePinia } from 'pinia'
import { beforeEach, describe, expect, it } from 'vitest'
import { pitchOf } from '../../shared/sound'
import { usePrefs } from '../../shared/prefs'
import type { Needle } from '../../shared/useNeedles'
import LiveNeedle from './LiveNeedle.vue'

const needle = (more: Partial<Needle> = {}): Needle => ({
  id: 'w',
  name: 'Live lever',
  gauge: 'g',
  state: 'live',
  why: '',
  mm: 0.02,
  still: true,
  age_s: 0.01,
  side: null,
  crests: [],
  both: null,
  marks: null,
  tablet: null,
  ...more,
})

beforeEach(() => {
  setActivePinia(createPinia())
  usePrefs().unit = 'mm'
})

function shown(one: Needle, aimMm?: number): VueWrapper {
  const aim =
    aimMm === undefined
      ? null
      : { station_id: 's1', label: 'jaw 1', now_mm: 0.02, aim_mm: aimMm, what: 'needle' as const }
  return mount(LiveNeedle, {
    props: {
      needle: one,
      aim: aim as never,
      graduationMm: 0.001,
      res: 0.001,
      readable: true,
      fault: '',
      say: 'Jaw 1',
      modelValue: false,
    },
  })
}

describe('a live needle', () => {
  it('says how far it has to go, that it is there, and the way back when it is past', async () => {
    const view = shown(needle(), 0.05)
    expect(view.text()).toContain('0.030 mm up to the aim.')
    await view.setProps({ needle: needle({ mm: 0.0495 }) })
    expect(view.text()).toContain('At the aim.')
    await view.setProps({ needle: needle({ mm: 0.06 }) })
    expect(view.text()).toContain('Past the aim: 0.010 mm back down.')
  })
  it('shows what is old as old, and says why', () => {
    const view = shown(needle({ state: 'gone', why: 'it was unplugged', still: false }), 0.05)
    expect(view.find('.live').classes()).toContain('gone')
    expect(view.text()).toContain('gone: it was unplugged')
    expect(view.text()).not.toContain('to the aim')
  })
  it('keeps an extreme from both sides, and says how far they are apart', async () => {
    const view = shown(needle({ side: 'high' }))
    expect(view.text()).toContain('run over it and back')
    await view.setProps({ needle: needle({ side: 'high', crests: [0.02] }) })
    expect(view.text()).toContain('+0.020 mm: now back over it')
    await view.setProps({
      needle: needle({ side: 'high', crests: [0.02, 0.022], both: { mm: 0.021, apart_mm: 0.002 } }),
    })
    expect(view.text()).toContain('+0.021 mm, apart 0.002 mm')
  })
  it('shows nothing where nothing has come', () => {
    expect(
      shown(needle({ state: 'opening', mm: null, still: false }))
        .find('[data-part=live]')
        .text(),
    ).toBe('–')
  })
})

it('a tone rises on the way to the aim and stays within hearing', () => {
  const pitches = [100, 16, 8, 4, 1, 0].map(pitchOf)
  expect([...pitches].sort((a, b) => a - b)).toEqual(pitches)
  expect(pitches[0]).toBe(220)
  expect(pitches.at(-1)).toBeLessThanOrEqual(1760)
})
