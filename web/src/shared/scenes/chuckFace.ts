import { computed } from 'vue'
import type { Schemas } from '../../api/client'
import { bareLength, plain } from '../format'
import { usePrefs } from '../prefs'
import { arrow, polar, reach, step, within, type Point } from './polar'

export const R = 180
export const axis: Point = { x: 330, y: 244 }
/** What the picture says of itself stands in its upper left corner: at its largest, a letter is so wide. */
const NOTES = { left: 16, letter: 8.6, height: 50 }
/** A shim is drawn at least this thick, so that it can be seen. */
const SHIM_PX = 7

interface Props {
  scene: Schemas['ChuckScene']
  resolutionMm: number
}

/** Where everything of a chuck’s face is drawn, in a picture of 648 by 470. */
export function useChuckFace(props: Readonly<Props>) {
  const prefs = usePrefs()

  const turn = computed(() => props.scene.view_turn_deg)
  /** A head that leans is drawn from its sides to the left of it. */
  const left = computed(() => (props.scene.lean ? 146 : 4))
  const scale = computed(() => R / props.scene.chuck_radius_mm)
  const rings = computed(() => props.scene.rings_mm.map((mm) => mm * scale.value))
  /** Small work is still drawn big enough to be seen. */
  const workPx = computed(() => Math.min(Math.max(props.scene.work_radius_mm * scale.value, 34), R * 0.86))
  /** Pixels a millimeter of offset, so that the words about magnification stay true on the work itself. */
  const offsetScale = computed(() => (workPx.value / props.scene.work_radius_mm) * props.scene.magnification)
  const shift = computed(() => {
    const raw = step(props.scene.x_mm, props.scene.y_mm, turn.value, offsetScale.value)
    return within(raw, workPx.value * 0.45)
  })
  const center = computed(() => ({ x: axis.x + shift.value.x, y: axis.y + shift.value.y }))
  /** Where the jaws touch: the work itself, or the outside round a bore. */
  const grip = computed(() =>
    props.scene.surface === 'inside' ? Math.min(workPx.value + 34, R * 0.92) : workPx.value,
  )
  const ringPath = computed(() => circlePath(grip.value) + circlePath(workPx.value))

  function circlePath(r: number): string {
    return `M${axis.x - r} ${axis.y}a${r} ${r} 0 1 0 ${2 * r} 0a${r} ${r} 0 1 0 ${-2 * r} 0z`
  }

  const jaws = computed(() =>
    props.scene.jaws.map((jaw) => {
      const screenDeg = (jaw.at_deg + turn.value) % 360
      const mark = polar(axis, R - 24, screenDeg)
      if (props.scene.holder === 'screws') {
        const tip = workPx.value + 40
        const shape = `M${axis.x + tip} ${axis.y - 9}H${axis.x + R - 44}V${axis.y - 20}H${axis.x + R - 4}V${axis.y + 20}H${axis.x + R - 44}V${axis.y + 9}H${axis.x + tip}Z`
        return { ...jaw, screenDeg, shape, shim: '', mark }
      }
      const packed = jaw.shim_mm || jaw.do === 'shim' ? SHIM_PX : 0
      const inner = Math.max(reach(axis, center.value, grip.value, screenDeg), 12) + packed
      const shim = packed ? `M${axis.x + inner - packed} ${axis.y - 24}h${packed}v48h${-packed}Z` : ''
      const step1 = Math.min(inner + 32, R - 20)
      const shape = `M${axis.x + inner} ${axis.y - 24}H${axis.x + step1}V${axis.y - 32}H${axis.x + R}V${axis.y + 32}H${axis.x + step1}V${axis.y + 24}H${axis.x + inner}Z`
      return { ...jaw, screenDeg, shape, shim, mark }
    }),
  )

  /** Where the work is to be: in the middle, or at the throw that is wanted. */
  const target = computed(() => {
    const wanted = props.scene.wanted
    if (!wanted) return axis
    const at = step(wanted.x_mm, wanted.y_mm, turn.value, offsetScale.value)
    return { x: axis.x + at.x, y: axis.y + at.y }
  })

  /** A faceplate's slots, between the rings. */
  const slots = computed(() =>
    [0, 1, 2, 3, 4, 5, 6, 7].map((i) => {
      const a = polar(axis, R * 0.55, i * 45 + 22.5)
      const b = polar(axis, R * 0.92, i * 45 + 22.5)
      return `M${a.x} ${a.y}L${b.x} ${b.y}`
    }),
  )

  const tap = computed(() => {
    if (!props.scene.tap) return undefined
    const deg = (props.scene.tap.at_deg + turn.value) % 360
    const edge = grip.value + 8
    const aside = polar({ x: 0, y: 0 }, 40, deg - 90)
    const end = polar(axis, reach(axis, center.value, edge, deg), deg)
    const from = polar(axis, edge + 74, deg)
    const a = { x: from.x + aside.x, y: from.y + aside.y }
    const b = { x: end.x + aside.x * 0.6, y: end.y + aside.y * 0.6 }
    return { deg, ...arrow(a, b), ...labelFor(deg), words: words(props.scene.tap.label) }
  })

  const spots = computed(() =>
    props.scene.spots.map((spot) => ({
      ...spot,
      ...polar(center.value, workPx.value, spot.at_deg + turn.value),
    })),
  )

  const gaugeDeg = computed(() => (props.scene.gauge.at_deg + turn.value) % 360)
  const gauge = computed(() => {
    const deg = gaugeDeg.value
    const tip = polar(axis, reach(axis, center.value, workPx.value, deg), deg)
    const inside = props.scene.surface === 'inside'
    const head = inside ? polar(axis, 18, deg + 180) : polar(axis, R + 34, deg + 9)
    const needle = props.scene.gauge.needle_mm
    const words =
      needle === null
        ? props.scene.gauge.station_label
        : bareLength(needle, prefs.unit, props.resolutionMm, props.scene.gauge.signed)
    const width = Math.max(54, words.length * 10 + 18)
    const y = Math.min(Math.max(head.y - 15, 4), 436)
    const free = y < NOTES.height ? NOTES.left + NOTES.letter * (props.scene.seen.length + 2) : left.value
    const x = Math.min(Math.max(head.x - width / 2, free), 644 - width)
    const end = { x: Math.min(Math.max(head.x, x + 10), x + width - 10), y: head.y }
    return { deg, tip, end, words, width, box: { x, y } }
  })

  const high = computed(() => {
    if (props.scene.high_deg === null || props.scene.tap) return undefined
    const deg = (props.scene.high_deg + turn.value) % 360
    const at = polar(axis, reach(axis, center.value, workPx.value, deg), deg)
    // The label keeps clear of the gauge's stem and of the jaws: between two jaws, outside the work.
    const lean = Math.round((deg - 45) / 90) * 90 + 45
    const label = polar(axis, Math.min(workPx.value + 74, R - 14), lean)
    return { ...at, labelX: label.x, labelY: label.y }
  })

  const acts = computed(() =>
    jaws.value
      .filter((jaw) => jaw.do)
      .map((jaw) => {
        const deg = jaw.screenDeg
        const across = polar({ x: 0, y: 0 }, 46, deg - 90)
        const out = jaw.do === 'ease' || jaw.do === 'slacken'
        const from = polar(axis, out ? R - 22 : R + 12, deg)
        const to = polar(axis, out ? R + 8 : R - 26, deg)
        const a = { x: from.x + across.x, y: from.y + across.y }
        const b = { x: to.x + across.x, y: to.y + across.y }
        const drawn = jaw.do === 'shim' ? { shaft: '', point: '' } : arrow(a, b)
        return { ...jaw, ...drawn, ...labelFor(deg), words: words(jaw.label) }
      }),
  )

  function words(label: Schemas['SceneJaw']['label']): string {
    return plain(label, prefs.unit, props.resolutionMm)
  }

  /** Where the words of an act stand: beside the arrow, always inside the picture. */
  function labelFor(deg: number): { label: Point; anchor: 'start' | 'end' } {
    const at = polar(axis, R + 2, deg)
    const across = polar({ x: 0, y: 0 }, 66, deg - 90)
    const upright = Math.abs(Math.sin((deg * Math.PI) / 180)) > 0.7
    if (upright) {
      const right = across.x > 0
      return {
        label: { x: at.x + across.x, y: at.y + (at.y < axis.y ? 4 : 12) },
        anchor: right ? 'start' : 'end',
      }
    }
    const right = at.x > axis.x
    return {
      label: { x: right ? 642 : left.value + 4, y: at.y + across.y + (across.y > 0 ? 16 : -6) },
      anchor: right ? 'end' : 'start',
    }
  }

  const scaleWords = computed(() => {
    if (!props.scene.known) return 'Offset not known yet.'
    const m = props.scene.magnification
    if (props.scene.lean) return `The top leans to the dot; drawn ${m} times.`
    return m === 1 ? 'Shown to scale.' : `Offset shown ${m}×.`
  })
  return {
    rings,
    workPx,
    shift,
    center,
    jaws,
    target,
    slots,
    tap,
    spots,
    gauge,
    high,
    acts,
    scaleWords,
    ringPath,
  }
}
