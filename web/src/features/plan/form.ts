import type { Schemas } from '../../api/client'
import type { Unit } from '../../shared/format'

export type Procedure = Schemas['ProcedureOut']
type FieldSpec = Procedure['fields'][number]

/** The start page as it is filled in; everything typed stays as it was typed. */
export interface Form {
  procedure: string
  machine_id: string
  holder_id: string
  gauge_id: string
  part: string
  diameter: string
  surface: 'outside' | 'inside'
  finish: 'ground' | 'turned' | 'rough'
  limit: string
  kind: Schemas['LimitIn']['kind']
  stations: string
  own: string
  school: 'high_spot' | 'pairs'
  place: string
  view: 'tailstock' | 'operator'
  stylus: string
  choices: Record<string, string>
}

export const emptyForm = (): Form => ({
  procedure: 'four_jaw',
  machine_id: '',
  holder_id: '',
  gauge_id: '',
  part: '',
  diameter: '',
  surface: 'outside',
  finish: 'turned',
  limit: '',
  kind: 'tir',
  stations: '4',
  own: '',
  school: 'high_spot',
  place: '90',
  view: 'tailstock',
  stylus: '',
  choices: {},
})

/** Where a gauge can stand: on the machine, or carried round work that stands still. */
export const PLACES = [
  { id: '90', word: 'on top (12 o’clock)' },
  { id: '180', word: 'at my side (9 o’clock)' },
  { id: '0', word: 'at the far side (3 o’clock)' },
  { id: '270', word: 'underneath (6 o’clock)' },
  { id: 'carried', word: 'carried round, work stands still' },
]
export const SCHOOL_HINT: Record<Form['school'], string> = {
  high_spot: 'Both moves from one pass: fewest readings.',
  pairs: 'Nothing to remember, and each pair can be checked before the next.',
}

/** Angles as typed; what is no number becomes NaN, which the server refuses at the field. */
export function stationsOf(form: Pick<Form, 'stations' | 'own'>, procedure?: Procedure): number[] {
  const preset = procedure?.asks.presets.find((p) => p.id === form.stations)
  if (preset) return [...preset.stations_deg]
  return form.own
    .split(/[\s;]+|,\s*/)
    .filter(Boolean)
    .map(Number)
}

/** A bare size is in mm, or in inches when the shop works in thou. */
function sizeTyped(text: string, unit: Unit): { text: string; unit: Unit } {
  const bare = /^[+\d.,\s]+$/.test(text.trim())
  if (bare && text.trim()) {
    return { text: unit === 'thou' || unit === 'tenth' ? `${text.trim()} in` : text.trim(), unit: 'mm' }
  }
  return { text, unit: 'mm' }
}

/** What a field of a procedure starts with: what was typed before under that name, or its own start. */
export const startOf = (field: FieldSpec, form: Form): string => form.choices[field.name] ?? field.start

/** What is sent for a filled-in form. */
export function planOf(form: Form, unit: Unit, procedure?: Procedure): Schemas['PlanIn'] {
  const carried = form.place === 'carried'
  const stylus = form.stylus.trim()
  return {
    procedure: form.procedure,
    part: {
      name: form.part,
      diameter: sizeTyped(form.diameter, unit),
      surface: form.surface,
      finish: form.finish,
    },
    machine_id: form.machine_id,
    holder_id: form.holder_id,
    gauge_id: form.gauge_id,
    limit: { kind: form.kind, typed: { text: form.limit, unit } },
    unit,
    stations_deg: stationsOf(form, procedure),
    school: form.school,
    carrier: carried ? 'gauge_turns' : 'work_turns',
    gauge_clock_deg: carried ? 90 : Number(form.place),
    view: form.view,
    stylus_deg: stylus ? Number(stylus.replace(',', '.').replace('°', '')) : 0,
    swing_deg: 0,
    choices: Object.fromEntries((procedure?.fields ?? []).map((f) => [f.name, startOf(f, form)])),
  }
}
