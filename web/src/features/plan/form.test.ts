import { expect, it } from 'vitest'
import { emptyForm, planOf, startOf, stationsOf, type Procedure } from './form'

const clocking: Procedure = {
  id: 'clocking',
  title: 'Clock a chuck',
  machine_kinds: ['lathe'],
  needs: { holder: '', gauge: '', machine: '', part: '' },
  holder_kinds: ['three_jaw'],
  fields: [
    {
      name: 'bolts',
      label: 'Bolt positions',
      kind: 'number',
      hint: '',
      start: '3',
      choices: [],
      optional: false,
      least: 2,
      most: 24,
    },
  ],
  asks: {
    angles: 'number 1, counter-clockwise seen from the tailstock',
    part: 'Part',
    surface: false,
    place: true,
    view: true,
    diameter: 'Diameter of the bar',
    limit_kinds: ['tir'],
    gauges: ['lever'],
    presets: [{ id: '8', word: '8 spots', hint: '', stations_deg: [0, 90, 180, 270] }],
    schools: [],
  },
}

it('sends what a procedure asks for, as typed, or as it starts', () => {
  const form = emptyForm()
  const bolts = clocking.fields[0]
  if (bolts) expect(startOf(bolts, form)).toBe('3')
  expect(planOf(form, 'mm', clocking).choices).toEqual({ bolts: '3' })
  form.choices.bolts = 'six'
  expect(planOf({ ...form, stylus: '25°' }, 'mm', clocking)).toMatchObject({
    choices: { bolts: 'six' },
    stylus_deg: 25,
  })
})

it('spreads stations, or takes them as typed', () => {
  expect(stationsOf({ stations: '8', own: '' }, clocking)).toEqual([0, 90, 180, 270])
  expect(stationsOf({ stations: 'own', own: '0 60; 120, 180' })).toEqual([0, 60, 120, 180])
  expect(stationsOf({ stations: 'own', own: '0 x' })[1]).toBeNaN()
})

it('takes a bare size in the shop’s system and a typed unit as typed', () => {
  const form = { ...emptyForm(), diameter: '2.441' }
  expect(planOf(form, 'thou').part.diameter).toEqual({ text: '2.441 in', unit: 'mm' })
  expect(planOf(form, 'mm').part.diameter).toEqual({ text: '2.441', unit: 'mm' })
  expect(planOf({ ...form, diameter: '62 mm' }, 'thou').part.diameter).toEqual({ text: '62 mm', unit: 'mm' })
  expect(planOf({ ...form, diameter: 'wide' }, 'thou').part.diameter).toEqual({ text: 'wide', unit: 'mm' })
})

it('sends the limit in the unit chosen and a carried gauge as such', () => {
  const plan = planOf({ ...emptyForm(), limit: '1', place: 'carried' }, 'tenth')
  expect(plan.limit.typed).toEqual({ text: '1', unit: 'tenth' })
  expect(plan.carrier).toBe('gauge_turns')
  expect(planOf({ ...emptyForm(), place: '180' }, 'mm')).toMatchObject({
    carrier: 'work_turns',
    gauge_clock_deg: 180,
  })
})
