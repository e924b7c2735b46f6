import { nextTick } from 'vue'
import { mount, type VueWrapper } from '@vue/test-utils'
import { createPinia, setActivePinia } from 'pinia'
import { beforeEach, describe, expect, it } from 'vitest'
import type { Schemas } from '../../api/client'
import { usePrefs } from '../../shared/prefs'
import MovePanel from './MovePanel.vue'

const words = (text: string, strong = false): Schemas['Words'] => ({ kind: 'words', text, strong })
const scene = {} as Schemas['ChuckScene']
const move: Schemas['Panel'] = {
  name: 'high_spot',
  kicker: [words('Pass 2')],
  headline: [words('Back off '), words('jaw 4', true), words(', then tighten '), words('jaw 2', true)],
  aim: {
    station_id: 's2',
    label: 'jaw 2',
    now_mm: 0.09906,
    aim_mm: -0.11176,
    goes: 'falls',
    what: 'needle',
  },
  why: [
    [
      words('Work sits '),
      { kind: 'length', mm: 0.21082, signed: false, size: false, exact: false, bare: false },
    ],
  ],
  cautions: [],
  hold: false,
  ask: 'nothing',
  ask_label: '',
  taken_mm: null,
  expect_word: '',
  expect: null,
  primary: {
    id: 'move',
    label: 'Move made',
    key: 'Enter',
    needs_reason: false,
    events: [{ type: 'move_done', pass_no: 2, move_id: 'm', phase: 'done' }],
  },
  others: [
    {
      id: 'again',
      label: 'Read again',
      key: 'R',
      needs_reason: false,
      events: [{ type: 'pass_closed', pass_no: 2 }],
    },
    {
      id: 'accept',
      label: 'Accept',
      key: 'A',
      needs_reason: true,
      events: [{ type: 'accepted', reason: '' }],
    },
  ],
  verdict: null,
  scene,
}
const hold: Schemas['Panel'] = {
  ...move,
  name: 'make_safe',
  aim: null,
  hold: true,
  cautions: [
    { id: 'stopped', text: 'Spindle stopped' },
    { id: 'key', text: 'Key out' },
  ],
  primary: {
    id: 'pass',
    label: 'All checked',
    key: 'Enter',
    needs_reason: false,
    events: [{ type: 'step_passed', step: 'make_safe', checked: ['stopped', 'key'], reason: '' }],
  },
  others: [],
}

type Panel = VueWrapper & { vm: { key: (name: string) => boolean } }
function panel(shown: Schemas['Panel'], busy = false): Panel {
  return mount(MovePanel, { props: { panel: shown, res: 0.00254, ways: 2, busy } })
}
const sent = (wrapper: Panel): unknown => wrapper.emitted('send')?.at(-1)?.[0]

beforeEach(() => {
  localStorage.clear()
  setActivePinia(createPinia())
})

describe('a move', () => {
  it('leads with the sentence and the aim, in the unit chosen', async () => {
    const wrapper = panel(move)
    expect(wrapper.get('h1').text()).toBe('Back off jaw 4, then tighten jaw 2')
    expect(wrapper.findAll('h1 em').map((e) => e.text())).toEqual(['jaw 4', 'jaw 2'])
    expect(wrapper.get('[data-part=aim]').text()).toContain('+3.9')
    expect(wrapper.get('[data-part=aim] .gold').text()).toContain('\u22124.4 thou')
    usePrefs().unit = 'mm'
    await wrapper.vm.$nextTick()
    expect(wrapper.get('[data-part=aim] .gold').text()).toContain('\u22120.112 mm')
    expect(wrapper.text()).toContain('Work sits 0.211 mm')
  })

  it('sends the events that its button carries, by key or by finger', async () => {
    const wrapper = panel(move)
    expect(wrapper.vm.key('Enter')).toBe(true)
    expect(sent(wrapper)).toEqual(move.primary?.events)
    expect(wrapper.vm.key('r')).toBe(true)
    expect(sent(wrapper)).toEqual(move.others[0]?.events)
    await wrapper.get('[data-part=primary]').trigger('click')
    expect(sent(wrapper)).toEqual(move.primary?.events)
    expect(wrapper.vm.key('q')).toBe(false)
  })

  it('waits while something is on its way', () => {
    const wrapper = panel(move, true)
    expect(wrapper.vm.key('Enter')).toBe(false)
    expect(wrapper.get('[data-part=primary]').attributes('disabled')).toBeDefined()
    expect(wrapper.emitted('send')).toBeUndefined()
  })

  it('asks for a reason where one is needed and puts it into the last event', async () => {
    const wrapper = panel(move)
    wrapper.vm.key('a')
    await wrapper.vm.$nextTick()
    const form = wrapper.get('form.reason')
    await form.trigger('submit')
    expect(wrapper.emitted('send')).toBeUndefined()
    await form.get('input').setValue('  rough cut first ')
    await form.trigger('submit')
    expect(sent(wrapper)).toEqual([{ type: 'accepted', reason: 'rough cut first' }])
  })

  it('offers another way only when there is one', async () => {
    const wrapper = panel(move)
    const another = wrapper.findAll('button').find((b) => b.text().includes('Another way'))
    await another?.trigger('click')
    expect(wrapper.emitted('another')).toHaveLength(1)
    await wrapper.setProps({ ways: 1 })
    expect(wrapper.text()).not.toContain('Another way')
  })

  it('has no aim box when the needle only has to come back on the dial', () => {
    const aim = {
      station_id: 's1',
      label: 'jaw 1',
      now_mm: null,
      aim_mm: null,
      goes: 'comes back' as const,
      what: 'needle' as const,
    }
    expect(
      panel({ ...move, aim })
        .find('[data-part=aim]')
        .exists(),
    ).toBe(false)
  })
})

describe('a hold point', () => {
  it('goes on only when every caution is checked', async () => {
    const wrapper = panel(hold)
    expect(wrapper.vm.key('Enter')).toBe(false)
    wrapper.vm.key(' ')
    await wrapper.vm.$nextTick()
    expect(wrapper.get('[data-part=primary]').attributes('disabled')).toBeDefined()
    wrapper.vm.key('2')
    await wrapper.vm.$nextTick()
    expect(wrapper.vm.key('Enter')).toBe(true)
    expect(sent(wrapper)).toEqual(hold.primary?.events)
  })

  it('a digit checks and unchecks its caution', async () => {
    const wrapper = panel(hold)
    wrapper.vm.key('1')
    wrapper.vm.key('2')
    wrapper.vm.key('1')
    await wrapper.vm.$nextTick()
    expect(wrapper.findAll<HTMLInputElement>('input[type=checkbox]').map((b) => b.element.checked)).toEqual([
      false,
      true,
    ])
    expect(wrapper.vm.key('Enter')).toBe(false)
  })

  it('starts unchecked at the next hold point', async () => {
    const wrapper = panel(hold)
    wrapper.vm.key('1')
    await wrapper.setProps({ panel: { ...hold, name: 'clear_to_run' } })
    expect(wrapper.findAll<HTMLInputElement>('input[type=checkbox]').map((b) => b.element.checked)).toEqual([
      false,
      false,
    ])
  })
})

it('takes what is measured by the way before the step is left, and leaves Enter alone while nothing is typed', async () => {
  const wrapper = panel({ ...move, name: 'play', aim: null, ask: 'gap' })
  await nextTick()
  const field = wrapper.get('#gap')
  await field.trigger('keydown.enter')
  expect(wrapper.emitted('send')).toBeUndefined()
  await field.setValue('58 mm')
  await field.trigger('keydown.enter')
  expect(sent(wrapper)).toEqual([{ type: 'gap_measured', typed: { text: '58 mm', unit: 'thou' } }])
  await field.setValue('2')
  await wrapper.get('[data-part=primary]').trigger('click')
  expect(sent(wrapper)).toEqual([{ type: 'gap_measured', typed: { text: '2', unit: 'thou' } }])
  await wrapper.get('[data-part=primary]').trigger('click')
  expect(sent(wrapper)).toEqual(move.primary?.events)
})

it('lets go of a measure that is taken back: the same again is told again', async () => {
  const asking = { ...move, name: 'play', aim: null, ask: 'gap' as const }
  const wrapper = panel(asking)
  await nextTick()
  const field = wrapper.get<HTMLInputElement>('#gap')
  await field.setValue('2')
  await field.trigger('keydown.enter')
  await wrapper.setProps({ panel: { ...asking, taken_mm: 0.0508 } })
  expect(field.element.value).toBe('2')
  await wrapper.setProps({ panel: asking })
  expect(field.element.value).toBe('')
  await field.setValue('2')
  await field.trigger('keydown.enter')
  expect(sent(wrapper)).toEqual([{ type: 'gap_measured', typed: { text: '2', unit: 'thou' } }])
})

it.each([
  ['thou', '1.62', '1.62 in'],
  ['mm', '41.5', '41.5'],
  ['thou', '41.5 mm', '41.5 mm'],
] as const)('an opening is a size: in a shop of %s %s is sent as %s', async (unit, typed, text) => {
  usePrefs().unit = unit
  const wrapper = panel({ ...move, name: 'rough_in', aim: null, ask: 'opening' })
  await nextTick()
  await wrapper.get('#gap').setValue(typed)
  await wrapper.get('[data-part=primary]').trigger('click')
  expect(sent(wrapper)).toEqual([{ type: 'gap_measured', typed: { text, unit: 'mm' } }])
})

it('says what to expect where no needle is watched, and a gap by its name', () => {
  const expecting = panel({
    ...move,
    aim: null,
    expect: { kind: 'tir', mm: 0.0254, u_mm: null, over_mm: null },
    expect_word: 'TIR',
  })
  expect(expecting.get('[data-part=expect]').text()).toContain('1')
  const aim = { ...(move.aim as Schemas['AimBox']), what: 'gap' as const, now_mm: 12.7, aim_mm: 15.24 }
  const gap = panel({ ...move, aim })
  expect(gap.get('[data-part=aim]').text()).toContain('Gap now')
  expect(gap.get('[data-part=aim]').text()).not.toContain('+')
})

it('sends the taps that were counted with the move, and refuses what is no number of taps', async () => {
  const tapped: Schemas['Panel'] = { ...move, ask: 'taps', ask_label: 'Taps it took, if you counted' }
  const wrapper = mount(MovePanel, { props: { panel: tapped, res: 0.0005, ways: 1, busy: false } })
  await nextTick()
  const field = wrapper.get<HTMLInputElement>('#gap')
  await field.setValue('many')
  expect(wrapper.text()).toContain('A whole number of taps')
  await wrapper.get('[data-part=primary]').trigger('click')
  expect(wrapper.emitted('send')).toBeUndefined()
  await field.setValue('7')
  await field.trigger('keydown', { key: 'Enter' })
  expect(wrapper.emitted('send')?.[0]?.[0]).toEqual([expect.objectContaining({ type: 'move_done', taps: 7 })])
  await wrapper.get('[data-part=primary]').trigger('click')
  expect(wrapper.emitted('send')?.[1]?.[0]).toEqual([expect.not.objectContaining({ taps: 7 })])
})

it('a new move is said aloud to who cannot see the screen', async () => {
  const wrapper = panel({ ...move })
  const said = wrapper.get('[role=status]')
  expect(said.attributes('aria-live')).toBe('polite')
  expect(said.text()).toBe('Back off jaw 4, then tighten jaw 2')
  await wrapper.setProps({ panel: { ...move, headline: [words('Read jaw 1.')] } })
  expect(said.text()).toBe('Read jaw 1.')
})
