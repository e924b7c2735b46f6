import { mount } from '@vue/test-utils'
import { createPinia, setActivePinia } from 'pinia'
import { beforeEach, expect, it } from 'vitest'
import type { Schemas } from '../../api/client'
import { usePrefs } from '../../shared/prefs'
import DebriefView from './DebriefView.vue'

const words = (text: string): Schemas['Words'] => ({ kind: 'words', text, strong: false })
const told: Schemas['Debrief'] = {
  good: false,
  headline: [words('You called it good, and it is outside.')],
  why: [words('It stands beside.')],
  truth: [words('Hidden.')],
  habit: 'Press it first.',
  passes: 4,
  seconds: 125,
  asks: 1,
  wrong_ways: 2,
  past: 0,
  hard_near: 3,
  beside: [],
  end_mm: 0.1,
  limit_mm: 0.04,
  floor_mm: 0.002,
  best_passes: 2,
  steps: [
    {
      after_pass: 1,
      what: 'jaw 1 2° tighter',
      before_mm: 0.05,
      after_mm: 0.1,
      judged: 'wrong way',
      advice: [words('Tighten jaw 3.')],
      hard: 0,
    },
  ],
}
beforeEach(() => {
  setActivePinia(createPinia())
  usePrefs().unit = 'mm'
})
const shown = (more: Partial<Schemas['Debrief']> = {}) =>
  mount(DebriefView, {
    props: { told: { ...told, ...more }, past: null, res: 0.001 },
    global: { stubs: { RouterLink: true } },
  })

it('tells how it went, each thing done, and what the advice would have said', async () => {
  const wrapper = shown()
  const text = wrapper.text()
  for (const part of ['Not yet', '2:05', '4 (the advice: 2)', '0.100 mm of 0.040 mm', 'Press it first.'])
    expect(text).toContain(part)
  const row = wrapper.get('tbody tr')
  expect(row.text()).toContain('Tighten jaw 3.')
  expect(row.get('.bad').text()).toBe('wrong way')
  await wrapper.get('.main').trigger('click')
  expect(wrapper.emitted('again')).toHaveLength(1)
})

it('does not say that a machine repeats to nothing', () => {
  expect(shown().text()).toContain('The machine repeats to0.002 mm')
  expect(shown({ floor_mm: 0 }).text()).not.toContain('repeats')
})

it('says nothing of what the advice needs where it does not end either', () => {
  const wrapper = shown({ good: true, best_passes: null, steps: [] })
  expect(wrapper.text()).toContain('Well done')
  expect(wrapper.text()).not.toContain('the advice:')
  expect(wrapper.find('table').exists()).toBe(false)
})
