import type { Schemas } from '../api/client'

/** A thing of the Shop for tests: no more than its name and its kind. */
export const plainItem = (
  id: string,
  kind: string,
  more: Partial<Schemas['ItemOut']> = {},
): Schemas['ItemOut'] => ({
  id,
  name: id,
  kind,
  about: [],
  remembers: [],
  found: [],
  typed: {},
  ...more,
})

/** A cell of the tray for tests: that jaw, nothing read yet. */
export const openCell = (n: number, more: Partial<Schemas['Cell']> = {}): Schemas['Cell'] => ({
  station_id: `s${n}`,
  label: `Jaw ${n}`,
  ring: '',
  group: '',
  short: `Jaw ${n}`,
  reads: 'needle',
  at: [],
  slot: '',
  closing: false,
  state: 'open',
  reading_id: null,
  typed: null,
  typed_unit: null,
  needle_mm: null,
  true_mm: null,
  note: [],
  ...more,
})
