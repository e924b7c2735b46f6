import { computed } from 'vue'
import type { Schemas } from '../../api/client'
import { bareLength, plain } from '../format'
import { usePrefs } from '../prefs'
import { corners, fitInto, onTable, slanted, type Own, type Point } from './table'

type Body = Schemas['SceneBody']
export const FLOOR = 342
export const SLOTS = [104, 196, 288]

interface Props {
  scene: Schemas['TableScene']
  resolutionMm: number
}

/** Where everything on a table is drawn, from above and from the side, in a picture of 648 by 470. */
export function useTableTop(props: Readonly<Props>) {
  const prefs = usePrefs()

  /** The parts of a thing, in its own frame: what it is, and its corners. */
  function shapes(body: Body): { kind: string; at: Own[] }[] {
    const { length_mm: l, ahead_mm: a, behind_mm: b } = body
    if (body.shape !== 'vise') {
      return [
        { kind: 'solid', at: corners(0, -b, l, 0) },
        { kind: 'face', at: corners(0, -0.035 * l, l, 0) },
      ]
    }
    return [
      { kind: 'screw', at: corners(0.44 * l, a, 0.56 * l, a + 0.14 * l) },
      { kind: 'solid', at: corners(-0.03 * l, -b, 1.03 * l, a) },
      { kind: 'jaw', at: corners(0, -b, l, 0) },
      { kind: 'face', at: corners(0, -0.045 * l, l, 0) },
      { kind: 'jaw', at: corners(0.02 * l, 0.5 * a, 0.98 * l, 0.74 * a) },
    ]
  }
  const place = (body: Body, own: Own, factor: number): Point =>
    onTable(props.scene, slanted(body, factor, own))
  /** Does the indicator stand outside of what is drawn? That of a vise stands between its jaws. */
  const outside = computed(() => props.scene.bodies.every((body) => !body.ahead_mm))
  const fit = computed(() => {
    const { bodies: all, blow: tap, n_y, magnification } = props.scene
    const corner = all.flatMap((b) =>
      shapes(b).flatMap((s) => s.at.flatMap((own) => [place(b, own, 0), place(b, own, magnification)])),
    )
    const down = tap ? -tap.toward * n_y : 0 // which way the blow goes on the screen
    const gauge = outside.value ? n_y : 0
    return fitInto(
      corner,
      104,
      down > 0.5 || gauge > 0.5 ? 150 : 92,
      544,
      FLOOR - (gauge < -0.5 ? 86 : down < -0.5 ? 74 : 24),
    )
  })
  const draw = (p: Point): Point => ({
    x: p.x * fit.value.scale + fit.value.dx,
    y: p.y * fit.value.scale + fit.value.dy,
  })
  const put = (body: Body, own: Own): Point => draw(place(body, own, props.scene.magnification))
  const flat = (own: Own): Point => draw(onTable(props.scene, own))

  const bodies = computed(() =>
    props.scene.bodies.map((body) => ({
      ...body,
      parts: shapes(body).map((s) => ({
        kind: s.kind,
        points: s.at
          .map((own) => put(body, own))
          .map((p) => `${p.x.toFixed(1)},${p.y.toFixed(1)}`)
          .join(' '),
      })),
      middle: put(body, {
        along: body.length_mm / 2,
        toward: body.ahead_mm ? body.ahead_mm * 0.3 : -body.behind_mm / 2,
      }),
      bolts: body.bolts.map((bolt) => ({
        ...bolt,
        ...put(body, {
          along: bolt.at_mm,
          toward: body.ahead_mm ? body.ahead_mm * 0.87 : -body.behind_mm * 0.6,
        }),
      })),
    })),
  )
  /** Words for the bolts, outside of the thing, at their own side. */
  const boltWords = computed(() =>
    bodies.value.length > 1
      ? []
      : bodies.value.flatMap((body) =>
          body.bolts
            .filter((b) => b.state !== 'tight')
            .map((b) => {
              const left = b.x < 324
              return {
                x: left ? 8 : 640,
                y: b.y + 5,
                anchor: left ? 'start' : 'end',
                label: b.label,
              }
            }),
        ),
  )
  const trueLine = computed(() => {
    const all = props.scene.bodies
    const low = Math.min(...all.map((b) => b.from_mm))
    const high = Math.max(...all.map((b) => b.from_mm + b.length_mm))
    const a = flat({ along: low - 0.06 * (high - low), toward: 0 })
    const b = flat({ along: high + 0.06 * (high - low), toward: 0 })
    return `M${a.x} ${a.y}L${b.x} ${b.y}`
  })

  const under = computed(
    () =>
      props.scene.bodies.find(
        (b) => props.scene.gauge_mm >= b.from_mm - 1 && props.scene.gauge_mm <= b.from_mm + b.length_mm + 1,
      ) ?? props.scene.bodies[0],
  )
  /** Where the indicator touches. */
  const stylus = computed(() => {
    const body = under.value
    const at = { along: props.scene.gauge_mm - (body?.from_mm ?? 0), toward: 0 }
    return body ? put(body, at) : flat(at)
  })
  const gauge = computed(() => {
    const p = stylus.value
    const { n_x, n_y } = props.scene
    const far = { x: p.x + n_x * 62, y: p.y - n_y * 46 }
    if (blow.value?.beside) {
      // Aside, to the middle: the arrow comes from where it would be.
      if (Math.abs(n_x) > 0.5) far.y += p.y > 200 ? -56 : 56
      else far.x += p.x > 324 ? -78 : 78
    }
    return { ...p, far }
  })
  const needle = computed(() =>
    props.scene.gauge.needle_mm === null
      ? '–'
      : bareLength(props.scene.gauge.needle_mm, prefs.unit, props.resolutionMm, props.scene.gauge.signed),
  )

  const blow = computed(() => {
    const tap = props.scene.blow
    if (!tap) return undefined
    const body =
      props.scene.bodies.find(
        (b) => b.moving && tap.at_mm >= b.from_mm - 1 && tap.at_mm <= b.from_mm + b.length_mm + 1,
      ) ?? props.scene.bodies[0]
    if (!body) return undefined
    const side = tap.toward > 0 ? -body.behind_mm : body.ahead_mm
    const foot = put(body, { along: tap.at_mm - body.from_mm, toward: side })
    const way = { x: tap.toward * props.scene.n_x, y: -tap.toward * props.scene.n_y }
    const back = (mm: number, aside = 0): Point => ({
      x: foot.x - way.x * mm - way.y * aside,
      y: foot.y - way.y * mm + way.x * aside,
    })
    const [start, neck, tip, a, b] = [back(58), back(24), back(6), back(26, 13), back(26, -13)]
    const upright = Math.abs(way.y) > 0.5
    const left = start.x > 520
    /** Does it come from where the indicator stands? */
    const { x, y } = stylus.value
    const beside = outside.value && tap.toward < 0 && Math.hypot(foot.x - x, foot.y - y) < 60
    const word =
      upright && !beside
        ? {
            x: start.x + (left ? -16 : 16),
            y: start.y + (way.y < 0 ? -2 : 12),
            anchor: left ? 'end' : 'start',
          }
        : { x: start.x, y: start.y + (upright && way.y < 0 ? 20 : upright ? -8 : -16), anchor: 'middle' }
    return {
      beside,
      shaft: `M${start.x} ${start.y}L${neck.x} ${neck.y}`,
      head: `M${tip.x} ${tip.y}L${a.x} ${a.y}L${b.x} ${b.y}Z`,
      word,
      label: plain(tap.label, prefs.unit, props.resolutionMm),
    }
  })

  const profile = computed(() => {
    const { spots, lines, aims, bodies: things } = props.scene
    if (!spots.length) return undefined
    const low = Math.min(...things.map((b) => b.from_mm))
    const high = Math.max(...things.map((b) => b.from_mm + b.length_mm))
    const px = (x: number): number => 56 + ((x - low) / Math.max(high - low, 1)) * 546
    const heights = [0, ...spots.flatMap((s) => (s.h_mm === null ? [] : [s.h_mm]))]
    for (const l of [...lines, ...aims]) heights.push(l.h1_mm, l.h2_mm)
    const top = Math.max(...heights)
    const bottom = Math.min(...heights)
    const scale = 52 / Math.max(top - bottom, props.resolutionMm * 20)
    const middle = (top + bottom) / 2
    const py = (h: number): number => FLOOR + 60 - (h - middle) * scale
    const drawn = (l: Schemas['SceneLine']): { x1: number; x2: number; y1: number; y2: number } => ({
      x1: px(l.z1_mm),
      x2: px(l.z2_mm),
      y1: py(l.h1_mm),
      y2: py(l.h2_mm),
    })
    return {
      zero: py(0),
      lines: lines.map(drawn),
      aims: aims.map(drawn),
      spots: spots.map((s) => ({
        id: s.station_id,
        label: s.label.replace(/^\D+(?=\d)/, '').replace(/ mm$/, ''),
        state: s.state,
        x: px(s.x_mm),
        y: s.h_mm === null ? py(0) : py(s.h_mm),
      })),
    }
  })
  const scaleWords = computed(() =>
    props.scene.lines.length
      ? `Out of square shown ${props.scene.magnification}×.`
      : 'Not read yet: drawn square.',
  )
  return { bodies, boltWords, gauge, needle, blow, profile, scaleWords, trueLine }
}
