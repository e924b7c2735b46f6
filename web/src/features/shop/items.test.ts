import { expect, it } from 'vitest'
import { plainHolder } from '../../shared/testing'
import {
  blank,
  fieldsFor,
  fromGauge,
  fromHolder,
  fromStock,
  gaugeOf,
  holderOf,
  machineOf,
  stockOf,
} from './items'

const holder = plainHolder('h', 'four_jaw_independent', {
  name: 'Four-jaw 200',
  lead_mm: null,
  numbering: 'cw',
  rings_mm: [30, 45.5],
})

it('shows a chuck for editing and sends it back the same', () => {
  const form = fromHolder(holder)
  expect(form).toMatchObject({ diameter: '200 mm', lead: '', rings: '30 45.5', numbering: 'cw' })
  expect(holderOf(form)).toMatchObject({
    lead: null,
    numbering: 'cw',
    diameter: { text: '200 mm', unit: 'mm' },
    rings: [
      { text: '30', unit: 'mm' },
      { text: '45.5', unit: 'mm' },
    ],
  })
})

it('keeps an empty check date empty', () => {
  const gauge = {
    id: 'g',
    name: 'Lever',
    kind: 'lever' as const,
    graduation_mm: 0.0127,
    travel_mm: 0.76,
    turn_mm: null,
    counts_turns: true,
    dial: 'balanced' as const,
    lost_motion_mm: 0,
    tip_radius_mm: 1,
    check_due: null,
  }
  expect(gaugeOf(fromGauge(gauge))).toMatchObject({
    check_due: null,
    turn: null,
    graduation: { text: '0.0127 mm' },
  })
})

it('starts a new machine with the most usual kind and nothing made up', () => {
  expect(blank('machine')).toEqual({ name: '', kind: 'lathe', floor: '' })
  expect(machineOf(blank('machine')).floor.text).toBe('')
})

it('asks of a holder only what its kind has', () => {
  const names = (kind: string): string[] => fieldsFor('holder', { kind }).map((f) => f.name)
  expect(names('adjustable_body')).toContain('follows')
  expect(names('four_jaw_independent')).not.toContain('follows')
  expect(names('three_jaw')).toContain('jaw_width')
  expect(names('vise')).toEqual(expect.arrayContaining(['edge', 'bolts', 'torque']))
  expect(names('vise')).not.toContain('max_work')
  expect(holderOf({ ...fromHolder(holder), kind: 'adjustable_body', jaws: '6' }).jaws).toBe(6)
})

it('writes a drawer as sizes with counts, and reads it back', () => {
  const drawer = { id: 'd', name: 'Shims', kind: 'shims' as const, pieces: [{ mm: 0.05, count: 4 }] }
  expect(fromStock(drawer).pieces).toBe('0.05x4')
  expect(stockOf({ name: 'Shims', kind: 'shims', pieces: '0.05x4 .002" x' }).pieces[0]).toEqual({
    size: { text: '0.05', unit: 'mm' },
    count: 4,
  })
})

it('keeps the bolts of a vise, and what its papers say', () => {
  const vise = plainHolder('v', 'vise', { edge_mm: 160, bolts_mm: [14, 146], torque: '40 Nm' })
  const sent = holderOf(fromHolder(vise))
  expect(sent.bolts?.map((b) => b.text)).toEqual(['14', '146'])
  expect(sent).toMatchObject({ torque: '40 Nm', edge: { text: '160 mm' }, key_clearance: null })
})
