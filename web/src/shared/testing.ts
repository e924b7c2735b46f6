import type { Schemas } from '../api/client'

/** A holder for tests: everything at its usual value. */
export const plainHolder = (
  id: string,
  kind: Schemas['Holder']['kind'],
  more: Partial<Schemas['Holder']> = {},
): Schemas['Holder'] => ({
  id,
  name: id,
  kind,
  diameter_mm: 200,
  min_work_mm: 5,
  max_work_mm: 180,
  lead_mm: 4,
  numbering: 'ccw',
  rings_mm: [],
  jaws: 4,
  jaw_width_mm: 0,
  clearance_mm: null,
  follows: 'toward',
  runout_mm: null,
  edge_mm: 0,
  depth_mm: 0,
  bolts_mm: [],
  key_clearance_mm: null,
  key_span_mm: 0,
  torque: '',
  forget_before: null,
  ...more,
})
