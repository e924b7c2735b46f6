import { mount, type VueWrapper } from '@vue/test-utils'
import { expect, it } from 'vitest'
import type { Schemas } from '../../api/client'
import HandPanel from './HandPanel.vue'

type Hand = Schemas['InHand']
const control = (more: Partial<Schemas['Control']>): Schemas['Control'] => ({
  id: 'jaw1',
  label: 'Jaw 1',
  kind: 'key',
  at_deg: 0,
  step_mm: 0.005,
  turn_deg: 0.5,
  more: 'tighter',
  less: 'looser',
  choices: [],
  here: false,
  ...more,
})
const hand = (more: Partial<Schemas['Control']> = {}, rest: Partial<Hand> = {}): Hand => ({
  control: control(more),
  picked: 0,
  turned_mm: 0,
  ...rest,
})
const shim = hand({
  id: 'shim.0',
  label: 'Shim front left',
  kind: 'pick',
  choices: [
    { id: '0', words: 'none' },
    { id: '0.05', words: '0.05 mm' },
  ],
})
const hammer = hand({ id: 'low.away', label: 'Left end, away from the indicator', kind: 'tap' })

const panel = (hands: Hand[], now: Hand | undefined, held = 0, picked = 0): VueWrapper =>
  mount(HandPanel, { props: { hands, now, held, picked } })
const button = (wrapper: VueWrapper, words: string) => {
  const found = wrapper.findAll('button').find((one) => one.text().startsWith(words))
  if (!found) throw new Error(`no button ${words}`)
  return found
}

it('says what is in the hand, how far each key stands, and turns it', async () => {
  const hands = [hand({}, { turned_mm: -0.02 }), hand({ id: 'jaw2', label: 'Jaw 2' })]
  const wrapper = panel(hands, hands[0], 0.01)
  expect(wrapper.text()).toContain('the key, in jaw 1')
  expect(wrapper.get('[role=radio][aria-checked=true]').text()).toContain('2° looser')
  expect(wrapper.findAll('[role=radio]')[1]?.text()).toContain('as found')
  expect(wrapper.get('.strip').text()).toContain('1° tighter')
  await button(wrapper, 'tighter').trigger('click')
  await button(wrapper, 'looser').trigger('click')
  await button(wrapper, 'Let go').trigger('click')
  await wrapper.get('.strip').trigger('wheel', { deltaY: 10 })
  expect(wrapper.emitted('turn')).toEqual([[1], [-1], [-1]])
  expect(wrapper.emitted('release')).toHaveLength(1)
  await wrapper.findAll('[role=radio]')[1]?.trigger('click')
  expect(wrapper.emitted('hold')).toEqual([['jaw2']])
})

it('a key that was not turned cannot be let go of', () => {
  const one = hand()
  expect(button(panel([one], one), 'Let go').attributes('disabled')).toBeDefined()
})

it('taps light or hard', async () => {
  const wrapper = panel([hammer], hammer)
  expect(wrapper.text()).toContain('the soft hammer, left end')
  await button(wrapper, 'Light tap').trigger('click')
  await button(wrapper, 'Hard').trigger('click')
  expect(wrapper.emitted('tap')).toEqual([[false], [true]])
})

it('looks through a drawer and puts in what is not there yet', async () => {
  const wrapper = panel([shim], shim, 0, 1)
  expect(wrapper.get('.strip b').text()).toBe('0.05 mm')
  await button(wrapper, 'Next').trigger('click')
  await button(wrapper, 'Before').trigger('click')
  await button(wrapper, 'Put it in').trigger('click')
  expect(wrapper.emitted('pick')).toEqual([[1], [-1]])
  expect(wrapper.emitted('release')).toHaveLength(1)
  await wrapper.setProps({ picked: 0 })
  expect(button(wrapper, 'Put it in').attributes('disabled')).toBeDefined()
})

it('says so where nothing can be moved', () => {
  expect(panel([], undefined).text()).toContain('Nothing to take hold of')
})
