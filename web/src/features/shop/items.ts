import type { Schemas } from '../../api/client'
import { fieldMm, type Unit } from '../../shared/format'

export type Kind = 'machine' | 'holder' | 'gauge' | 'stock'
export type ItemForm = Record<string, string>

/** A field of a form; `choices` makes it a choice instead of a line to type into. */
export interface Field {
  name: string
  label: string
  hint?: string
  choices?: { id: string; word: string }[]
  date?: boolean
  /** Only for things of these kinds; for all when there are none. */
  for?: string[]
}

export const TITLES: Record<Kind, string> = {
  machine: 'Machine',
  holder: 'Chuck or other holder',
  gauge: 'Gauge',
  stock: 'Drawer',
}

/** What lies on a table and is read along an edge. */
const ON_THE_TABLE = ['vise', 'vise_pair', 'fixture', 'column', 'surface_plate']
/** What turns, or is gripped by its diameter. */
const ROUND = [
  'four_jaw_independent',
  'three_jaw',
  'adjustable_body',
  'collet',
  'centres',
  'faceplate',
  'dowelled_housing',
  'mill_head',
  'rotary_table',
]

export const FIELDS: Record<Kind, Field[]> = {
  machine: [
    { name: 'name', label: 'Name' },
    {
      name: 'kind',
      label: 'Kind',
      choices: [
        { id: 'lathe', word: 'lathe' },
        { id: 'mill', word: 'mill' },
        { id: 'plate', word: 'surface plate' },
      ],
    },
    {
      name: 'floor',
      label: 'Repeats to, TIR',
      hint: 'The floor: what it cannot do better. Read a true bar twice.',
    },
  ],
  holder: [
    { name: 'name', label: 'Name' },
    {
      name: 'kind',
      label: 'Kind',
      choices: [
        { id: 'four_jaw_independent', word: 'independent four-jaw' },
        { id: 'three_jaw', word: 'three-jaw' },
        { id: 'adjustable_body', word: 'adjustable body' },
        { id: 'collet', word: 'collet' },
        { id: 'centres', word: 'centers' },
        { id: 'faceplate', word: 'faceplate' },
        { id: 'dowelled_housing', word: 'housing on dowels' },
        { id: 'mill_head', word: 'mill head' },
        { id: 'vise', word: 'vise' },
        { id: 'vise_pair', word: 'two vises in line' },
        { id: 'fixture', word: 'plate, angle plate or long work' },
        { id: 'rotary_table', word: 'rotary table' },
        { id: 'column', word: 'column on a rotary axis' },
        { id: 'surface_plate', word: 'surface plate' },
      ],
    },
    { name: 'diameter', label: 'Its own diameter', for: ROUND },
    { name: 'min_work', label: 'Smallest work', for: ROUND },
    { name: 'max_work', label: 'Biggest work', hint: 'Between centers: the longest.', for: ROUND },
    {
      name: 'edge',
      label: 'Length of its jaw or edge',
      hint: 'Of a column: from flange to end.',
      for: ON_THE_TABLE,
    },
    { name: 'depth', label: 'How deep it is, the other way', hint: 'For the picture.', for: ON_THE_TABLE },
    {
      name: 'bolts',
      label: 'Its bolts, from the left end of the edge',
      hint: 'With a space between: 14 146. It swings about one of them.',
      for: ['vise', 'vise_pair', 'fixture'],
    },
    {
      name: 'key_clearance',
      label: 'Play of its keys in the slot',
      hint: 'Empty: it has no keys.',
      for: ['vise'],
    },
    { name: 'key_span', label: 'Keys stand apart by', for: ['vise'] },
    {
      name: 'torque',
      label: 'Tighten to',
      hint: 'As its own papers say, in their words. Empty: not known.',
      for: ON_THE_TABLE,
    },
    {
      name: 'lead',
      label: 'Travel for one turn of the key',
      hint: 'Ten turns, divided by ten. Empty: not measured.',
      for: ['four_jaw_independent', 'adjustable_body'],
    },
    { name: 'jaws', label: 'Adjusting screws', hint: '3, 4 or 6.', for: ['adjustable_body'] },
    {
      name: 'clearance',
      label: 'The body can go from its middle',
      hint: 'From its papers, or measured end to end and halved.',
      for: ['adjustable_body'],
    },
    {
      name: 'follows',
      label: 'When a screw is drawn, the body goes',
      choices: [
        { id: 'toward', word: 'toward it' },
        { id: 'away', word: 'away from it' },
      ],
      hint: 'Draw one screw and look. Screws in the body go toward, screws in a ring away.',
      for: ['adjustable_body'],
    },
    {
      name: 'jaw_width',
      label: 'Width of a jaw’s face',
      hint: 'Empty: narrow.',
      for: ['three_jaw', 'four_jaw_independent'],
    },
    {
      name: 'runout',
      label: 'TIR its papers promise',
      hint: 'Empty: not known.',
      for: ['three_jaw', 'adjustable_body', 'collet'],
    },
    {
      name: 'numbering',
      label: 'Numbers run, seen from the tailstock',
      choices: [
        { id: 'ccw', word: 'counter-clockwise' },
        { id: 'cw', word: 'clockwise' },
      ],
      for: ['four_jaw_independent', 'three_jaw', 'adjustable_body'],
    },
    {
      name: 'rings',
      label: 'Rings on its face, radii',
      hint: 'With spaces between: 30 45 60. Empty: none.',
      for: ['four_jaw_independent', 'three_jaw', 'faceplate'],
    },
  ],
  stock: [
    { name: 'name', label: 'Name' },
    {
      name: 'kind',
      label: 'Holds',
      choices: [
        { id: 'shims', word: 'shims' },
        { id: 'dowels', word: 'offset dowels' },
      ],
    },
    {
      name: 'pieces',
      label: 'Sizes, and how many of each',
      hint: 'Size x count, with spaces between: 0.05x4 0.1x4 .002"x6. Dowels: their offset, two of a size.',
    },
  ],
  gauge: [
    { name: 'name', label: 'Name' },
    {
      name: 'kind',
      label: 'Kind',
      choices: [
        { id: 'lever', word: 'lever' },
        { id: 'plunger', word: 'plunger' },
        { id: 'rule', word: 'rule' },
        { id: 'feelers', word: 'feelers' },
      ],
    },
    { name: 'graduation', label: 'One mark' },
    { name: 'travel', label: 'Furthest it can show from zero' },
    {
      name: 'turn',
      label: 'Travel of one turn of the hand',
      hint: 'Empty: not known.',
      for: ['lever', 'plunger'],
    },
    {
      name: 'counts_turns',
      label: 'A small hand counts the turns',
      choices: [
        { id: 'yes', word: 'yes' },
        { id: 'no', word: 'no' },
      ],
      for: ['lever', 'plunger'],
    },
    {
      name: 'dial',
      label: 'The dial is numbered',
      choices: [
        { id: 'balanced', word: 'both ways from 0' },
        { id: 'continuous', word: 'once round' },
      ],
      hint: 'Once round, without turns counted, 98 of 100 means two marks before zero.',
      for: ['lever', 'plunger'],
    },
    {
      name: 'lost_motion',
      label: 'Lost motion when it turns back',
      hint: 'Empty: none seen.',
      for: ['lever', 'plunger'],
    },
    { name: 'tip_radius', label: 'Radius of the ball', for: ['lever', 'plunger'] },
    { name: 'check_due', label: 'Next check due', date: true },
  ],
}

const mm = (value: number | null): string => (value === null ? '' : `${fieldMm(value)} mm`)

export const fromMachine = (m: Schemas['Machine']): ItemForm => ({
  name: m.name,
  kind: m.kind,
  floor: mm(m.floor_mm),
})

export const fromHolder = (h: Schemas['Holder']): ItemForm => ({
  name: h.name,
  kind: h.kind,
  diameter: mm(h.diameter_mm),
  min_work: mm(h.min_work_mm),
  max_work: mm(h.max_work_mm),
  lead: mm(h.lead_mm),
  jaws: String(h.jaws),
  clearance: mm(h.clearance_mm),
  follows: h.follows,
  jaw_width: h.jaw_width_mm ? mm(h.jaw_width_mm) : '',
  runout: mm(h.runout_mm),
  numbering: h.numbering,
  rings: h.rings_mm.map(fieldMm).join(' '),
  edge: h.edge_mm ? mm(h.edge_mm) : '',
  depth: h.depth_mm ? mm(h.depth_mm) : '',
  bolts: h.bolts_mm.map(fieldMm).join(' '),
  key_clearance: mm(h.key_clearance_mm),
  key_span: h.key_span_mm ? mm(h.key_span_mm) : '',
  torque: h.torque,
})

export const fromStock = (s: Schemas['Stock']): ItemForm => ({
  name: s.name,
  kind: s.kind,
  pieces: s.pieces.map((p) => `${fieldMm(p.mm)}x${p.count}`).join(' '),
})

export const fromGauge = (g: Schemas['Gauge']): ItemForm => ({
  name: g.name,
  kind: g.kind,
  graduation: mm(g.graduation_mm),
  travel: mm(g.travel_mm),
  turn: mm(g.turn_mm),
  counts_turns: g.counts_turns ? 'yes' : 'no',
  dial: g.dial,
  lost_motion: g.lost_motion_mm ? mm(g.lost_motion_mm) : '',
  tip_radius: mm(g.tip_radius_mm),
  check_due: g.check_due ?? '',
})

/** An empty form, with what is most usual chosen. */
export function blank(kind: Kind): ItemForm {
  const form: ItemForm = {}
  for (const field of FIELDS[kind]) form[field.name] = field.choices?.[0]?.id ?? ''
  return form
}

const text = (form: ItemForm, name: string): string => form[name]?.trim() ?? ''
const typed = (form: ItemForm, name: string): { text: string; unit: Unit } => ({
  text: text(form, name),
  unit: 'mm',
})
const maybe = (form: ItemForm, name: string): { text: string; unit: Unit } | null =>
  text(form, name) ? typed(form, name) : null

/** Sizes with spaces between. */
const several = (form: ItemForm, name: string): { text: string; unit: Unit }[] =>
  text(form, name)
    .split(/[\s;]+/)
    .filter(Boolean)
    .map((one) => ({ text: one, unit: 'mm' }))

export const machineOf = (form: ItemForm): Schemas['MachineIn'] => ({
  name: text(form, 'name'),
  kind: form.kind as Schemas['MachineIn']['kind'],
  floor: typed(form, 'floor'),
})

/** Fields that a thing of this kind has. */
export const fieldsFor = (kind: Kind, form: ItemForm): Field[] =>
  FIELDS[kind].filter((f) => !f.for || f.for.includes(form.kind ?? ''))

export const holderOf = (form: ItemForm): Schemas['HolderIn'] => ({
  name: text(form, 'name'),
  kind: form.kind as Schemas['HolderIn']['kind'],
  diameter: maybe(form, 'diameter'),
  min_work: maybe(form, 'min_work'),
  max_work: maybe(form, 'max_work'),
  lead: maybe(form, 'lead'),
  numbering: form.numbering as Schemas['HolderIn']['numbering'],
  rings: several(form, 'rings'),
  jaws: form.kind === 'adjustable_body' && text(form, 'jaws') ? Number(text(form, 'jaws')) : null,
  jaw_width: maybe(form, 'jaw_width'),
  clearance: maybe(form, 'clearance'),
  follows: form.follows as Schemas['HolderIn']['follows'],
  runout: maybe(form, 'runout'),
  edge: maybe(form, 'edge'),
  depth: maybe(form, 'depth'),
  bolts: several(form, 'bolts'),
  key_clearance: maybe(form, 'key_clearance'),
  key_span: maybe(form, 'key_span'),
  torque: text(form, 'torque'),
})

/** "0.05x4": a size and how many; without a count there is one. */
export const stockOf = (form: ItemForm): Schemas['StockIn'] => ({
  name: text(form, 'name'),
  kind: form.kind as Schemas['StockIn']['kind'],
  pieces: text(form, 'pieces')
    .split(/[\s;]+/)
    .filter(Boolean)
    .map((one) => {
      const [size = '', count = '1'] = one.split(/[x×*]/)
      return { size: { text: size, unit: 'mm' }, count: Number(count) }
    }),
})

export const gaugeOf = (form: ItemForm): Schemas['GaugeIn'] => ({
  name: text(form, 'name'),
  kind: form.kind as Schemas['GaugeIn']['kind'],
  graduation: typed(form, 'graduation'),
  travel: typed(form, 'travel'),
  turn: maybe(form, 'turn'),
  counts_turns: form.counts_turns !== 'no',
  dial: form.dial as Schemas['GaugeIn']['dial'],
  lost_motion: maybe(form, 'lost_motion'),
  tip_radius:
    form.kind === 'rule' || form.kind === 'feelers' ? { text: '0', unit: 'mm' } : typed(form, 'tip_radius'),
  check_due: text(form, 'check_due') || null,
})
