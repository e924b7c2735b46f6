import { mount, type VueWrapper } from '@vue/test-utils'
import { createPinia, setActivePinia } from 'pinia'
import { beforeEach, expect, it } from 'vitest'
import type { Schemas } from '../../api/client'
import type { Entry } from '../../api/outbox'
import { usePrefs } from '../prefs'
import { openCell } from '../testing'
import ReadingTray from './ReadingTray.vue'
import type { TrayCell } from './cells'

const empty = openCell(1)
const read = openCell(2, {
  state: 'read',
  reading_id: 'r2',
  typed: '3.9',
  typed_unit: 'thou',
  needle_mm: 0.09906,
  true_mm: -0.1,
})
const waiting = (text: string, problem?: Entry['problem']): Entry => ({
  setupId: 'x',
  event: {
    id: 'e',
    at: '',
    author: '',
    body: {
      type: 'reading_taken',
      pass_no: 1,
      station_id: 's1',
      typed: { text, unit: 'thou' },
      closing: false,
    },
  },
  ...(problem ? { problem } : {}),
})
const problem: Schemas['Problem'] = {
  type: 't',
  title: 't',
  status: 422,
  code: 'reading_nonsense',
  detail: '“fuor” is not a reading.',
  fix: 'Type what the needle shows.',
  errors: [],
}

type Tray = VueWrapper & {
  vm: { press: (k: string) => void; untouched: () => boolean; empty: () => boolean }
}
function tray(cells: TrayCell[], current: number, more: object = {}): Tray {
  const props = { cells, current, active: true, passNo: 1, aim: null, res: 0.00254, ...more }
  return mount(ReadingTray, { props, attachTo: document.body })
}
const field = (wrapper: Tray): HTMLInputElement =>
  wrapper.get<HTMLInputElement>('[data-part=reading]').element

beforeEach(() => {
  localStorage.clear()
  document.body.innerHTML = ''
  setActivePinia(createPinia())
})

it('a number and one Enter is a reading; an empty Enter is left to the big button', async () => {
  const wrapper = tray([{ cell: empty }, { cell: read }], 0)
  await wrapper.get('[data-part=reading]').trigger('keydown.enter')
  expect(wrapper.emitted('read')).toBeUndefined()
  await wrapper.get('[data-part=reading]').setValue(' -2.5 ')
  await wrapper.get('[data-part=reading]').trigger('keydown.enter')
  expect(wrapper.emitted('read')).toEqual([['-2.5']])
})

it('is focused where the next reading goes and follows it', async () => {
  const wrapper = tray([{ cell: empty }, { cell: read }], 0)
  await wrapper.vm.$nextTick()
  expect(document.activeElement).toBe(field(wrapper))
  expect(field(wrapper).getAttribute('aria-label')).toBe('Reading at Jaw 1')
  await wrapper.setProps({ current: 1 })
  await wrapper.vm.$nextTick()
  expect(document.activeElement?.getAttribute('aria-label')).toBe('Reading at Jaw 2')
})

it('what is half typed survives a new view of the set-up', async () => {
  const wrapper = tray([{ cell: empty }, { cell: read }], 0)
  await wrapper.get('[data-part=reading]').setValue('12')
  await wrapper.setProps({ cells: [{ cell: { ...empty } }, { cell: { ...read, needle_mm: 0.2 } }] })
  expect(field(wrapper).value).toBe('12')
  expect(wrapper.vm.untouched()).toBe(false)
})

it('what is half typed survives more cells, and the number that its own cell gets in the meantime', async () => {
  const wrapper = tray([{ cell: read }, { cell: empty }], 1)
  await wrapper.get('input').setValue('3.')
  const between = { ...empty, station_id: 's9', label: '22.5°', short: '22.5°' }
  await wrapper.setProps({ cells: [{ cell: read }, { cell: between }, { cell: empty }], current: 2 })
  expect(field(wrapper).value).toBe('3.')
  await wrapper.setProps({
    cells: [{ cell: read }, { cell: between }, { cell: { ...empty, reading_id: 'r1' } }],
  })
  expect(field(wrapper).value).toBe('3.')
  await wrapper.setProps({ current: 1 })
  expect(field(wrapper).value).toBe('')
})

it('a spot that comes in under the same number is focused, and what was typed stays with its own', async () => {
  const wrapper = tray([{ cell: read }, { cell: empty }], 1)
  const between = { ...empty, station_id: 's9', label: '22.5°', short: '22.5°' }
  const more = { cells: [{ cell: read }, { cell: between }, { cell: empty }] }
  await wrapper.setProps(more)
  await wrapper.vm.$nextTick()
  expect(document.activeElement?.getAttribute('aria-label')).toBe('Reading at 22.5°')
  expect(wrapper.emitted('choose')).toBeUndefined()
  wrapper.unmount()
  const typing = tray([{ cell: read }, { cell: empty }], 1)
  await typing.get('input').setValue('3.')
  await typing.setProps(more)
  expect(typing.emitted('choose')).toEqual([[2]])
  await typing.setProps({ current: 2 })
  expect(field(typing).value).toBe('3.')
})

it('a cell that is read opens with its text, untouched, in the unit it is shown in', async () => {
  const wrapper = tray([{ cell: empty }, { cell: read }], 1)
  await wrapper.vm.$nextTick()
  expect(field(wrapper).value).toBe('3.9')
  expect(wrapper.vm.untouched()).toBe(true)
  expect(wrapper.vm.empty()).toBe(false)
  wrapper.unmount()
  usePrefs().unit = 'mm'
  const metric = tray([{ cell: empty }, { cell: read }], 1)
  await metric.vm.$nextTick()
  expect(field(metric).value).toBe('+0.099')
})

it('shows the aim at the station of the move, and elsewhere what will be true', () => {
  const aim = {
    station_id: 's2',
    label: 'jaw 2',
    now_mm: 0.09906,
    aim_mm: -0.11176,
    goes: 'falls' as const,
  }
  const wrapper = tray([{ cell: { ...empty, true_mm: 0.0127 } }, { cell: read }], -1, { aim })
  const [first, second] = wrapper.findAll('.cell')
  expect(first?.text()).toContain('true at +0.5')
  expect(second?.text()).toContain('aim \u22124.4')
  expect(second?.text()).not.toContain('true at')
  expect(wrapper.find('[data-part=reading]').exists()).toBe(false)
})

it('a reading that has not gone up is shown as waiting, with what was typed', () => {
  const wrapper = tray([{ cell: empty, waiting: waiting('-2.5') }, { cell: read }], 1)
  const cell = wrapper.get('.cell')
  expect(cell.classes()).toContain('waits')
  expect(cell.text()).toContain('-2.5')
  expect(cell.text()).toContain('waiting')
})

it('a refused reading says why at its field and keeps its text', async () => {
  const wrapper = tray([{ cell: empty, waiting: waiting('fuor', problem) }, { cell: read }], 0)
  await wrapper.vm.$nextTick()
  expect(wrapper.get('[role=alert]').text()).toBe('“fuor” is not a reading. Type what the needle shows.')
  expect(field(wrapper).value).toBe('fuor')
  expect(field(wrapper).getAttribute('aria-invalid')).toBe('true')
})

it.each([
  ['off', { ...read, state: 'off' as const, needle_mm: null, typed: '+off' }, '+off'],
  ['bad', { ...empty, state: 'bad' as const }, '×'],
])('shows %s as such', (_, cell, shown) => {
  expect(
    tray([{ cell }, { cell: read }], 1)
      .get('.cell .value')
      .text(),
  ).toBe(shown)
})

it('the number pad types into the same field', async () => {
  const wrapper = tray([{ cell: empty }, { cell: read }], 0)
  for (const key of ['-', '4', '.', '5', '6', 'back']) wrapper.vm.press(key)
  await wrapper.vm.$nextTick()
  expect(field(wrapper).value).toBe('-4.5')
  wrapper.vm.press('Enter')
  expect(wrapper.emitted('read')).toEqual([['-4.5']])
})

it('says where readings are taken when this is not the place', () => {
  const wrapper = tray([{ cell: empty }], 0, { active: false })
  expect(wrapper.find('[data-part=reading]').exists()).toBe(false)
  expect(wrapper.text()).toContain('Read & correct')
})

it('shows one ring at a time, by its name, and degrees where they are asked for', () => {
  const ring = (id: string, group: string, more: Partial<Schemas['Cell']> = {}): TrayCell => ({
    cell: { ...empty, station_id: id, label: `${group} ${id}`, short: id, ring: group, group, ...more },
  })
  const cells = [
    ring('a', 'Register'),
    ring('b', 'Register'),
    ring('c', 'Whole', { reads: 'degrees', state: 'read', typed: '37°' }),
  ]
  const wrapper = mount(ReadingTray, {
    props: { cells, current: 0, active: true, passNo: 1, aim: null, res: 0.0005 },
  })
  expect(wrapper.findAll('[data-station]')).toHaveLength(2)
  expect(wrapper.get('.ring').text()).toBe('Register · 1 of 2')
  const late = mount(ReadingTray, {
    props: { cells, current: -1, active: true, passNo: 1, aim: null, res: 0.0005 },
  })
  expect(late.get('[data-station]').text()).toContain('37°')
})
