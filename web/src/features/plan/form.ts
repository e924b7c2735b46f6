import type { Schemas } from '../../api/client'
import { sizeTyped, type Unit } from '../../shared/format'

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
  { id: 'carried', word: 'carried round, part stands still' },
]
export const SCHOOL_HINT: Record<Form['school'], string> = {
  high_spot: 'Both moves from one pass: fewest readings.',
  pairs: 'Nothing to remember, and each pair can be checked before the next.',
}

/** The preset that has just these spots. */
export const presetOf = (
  deg: readonly number[],
  presets?: Procedure['asks']['presets'],
): string | undefined => presets?.find((one) => one.stations_deg.join() === deg.join())?.id

/** Angles as typed; what is no number becomes NaN, which the server refuses at the field. */
export function stationsOf(form: Pick<Form, 'stations' | 'own'>, procedure?: Procedure): number[] {
  const preset = procedure?.asks.presets.find((p) => p.id === form.stations)
  if (preset) return [...preset.stations_deg]
  return form.own
    .split(/[\s;]+|,\s*/)
    .filter(Boolean)
    .map(Number)
}

/** A plan that was typed before, as the start page has it; its spots by their angles until a preset is known to be the same. */
export function formOf(plan: Schemas['PlanIn']): Form {
  const { diameter, name, surface, finish } = plan.part
  return {
    procedure: plan.procedure ?? 'four_jaw',
    machine_id: plan.machine_id,
    holder_id: plan.holder_id,
    gauge_id: plan.gauge_id,
    part: name,
    diameter: typedWhole(diameter),
    surface: surface ?? 'outside',
    finish: finish ?? 'turned',
    limit: plan.limit.kind === 'angle' ? plan.limit.typed.text : typedWhole(plan.limit.typed),
    kind: plan.limit.kind,
    stations: 'own',
    own: (plan.stations_deg ?? []).join(' '),
    school: plan.school ?? 'high_spot',
    place: plan.carrier === 'gauge_turns' ? 'carried' : String(plan.gauge_clock_deg ?? 90),
    view: plan.view ?? 'tailstock',
    stylus: plan.stylus_deg ? String(plan.stylus_deg) : '',
    choices: { ...plan.choices },
  }
}

/** What was typed, with the unit that was meant. */
const typedWhole = (typed: Schemas['Typed']): string =>
  /[a-zµ"]/.test(typed.text) ? typed.text : `${typed.text} ${typed.unit}`

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

/** What a link says of a field: a plan of a job fills in all that it knows. */
export function saidBy(query: Readonly<Record<string, unknown>>): (name: string) => string {
  return (name) => {
    const found = query[name]
    return typeof found === 'string' ? found : ''
  }
}

/** Put what a link says into the form; what it does not say stays. */
export function fillIn(form: Form, said: (name: string) => string): void {
  form.machine_id = said('machine')
  form.holder_id = said('holder')
  form.gauge_id = said('gauge')
  form.procedure = said('procedure') || form.procedure
  form.part = said('part')
  form.diameter = said('diameter')
  form.limit = said('limit')
  form.kind = (said('kind') || form.kind) as Form['kind']
  form.finish = (said('finish') || form.finish) as Form['finish']
}

/** Names of things by their ids. */
export const namesOf = (things: readonly { id: string; name: string }[]): Record<string, string> =>
  Object.fromEntries(things.map((one) => [one.id, one.name]))
