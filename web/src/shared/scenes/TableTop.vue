<template>
  <svg class="table" viewBox="0 0 648 500" role="img" :aria-label="scene.describe">
    <rect x="0" y="66" width="648" :height="FLOOR - 66" class="top" />
    <g class="slots">
      <rect v-for="y in SLOTS" :key="y" x="0" :y="y" width="648" height="12" />
    </g>

    <g
      v-for="body in bodies"
      :key="body.name + body.from_mm"
      :class="['thing', body.shape]"
      data-part="body"
      :data-slope="body.slope"
    >
      <polygon v-for="(part, i) in body.parts" :key="i" :points="part.points" :class="part.kind" />
      <g v-for="bolt in body.bolts" :key="bolt.at_mm" :class="['bolt', bolt.state]">
        <circle :cx="bolt.x" :cy="bolt.y" r="12" />
        <path v-if="bolt.state !== 'loose'" :d="`M${bolt.x - 5} ${bolt.y}h10M${bolt.x} ${bolt.y - 5}v10`" />
      </g>
      <text v-if="bodies.length > 1" :x="body.middle.x" :y="body.middle.y" class="name">{{ body.name }}</text>
    </g>
    <g v-for="word in boltWords" :key="word.y" class="boltword">
      <text :x="word.x" :y="word.y" :text-anchor="word.anchor">{{ word.label }}</text>
    </g>
    <path v-if="trueLine" :d="trueLine" class="target" />

    <g class="gauge" data-part="gauge" :data-at="scene.gauge_mm">
      <line :x1="gauge.x" :y1="gauge.y" :x2="gauge.far.x" :y2="gauge.far.y" />
      <circle :cx="gauge.x" :cy="gauge.y" r="6" />
      <rect :x="gauge.far.x - 44" :y="gauge.far.y - 15" width="88" height="30" rx="6" />
      <text :x="gauge.far.x" :y="gauge.far.y + 6" class="num">{{ needle }}</text>
    </g>
    <g
      v-if="blow"
      class="blow"
      data-part="blow"
      :data-at="scene.blow?.at_mm"
      :data-toward="scene.blow?.toward"
    >
      <path :d="blow.shaft" />
      <path :d="blow.head" class="head" />
      <text :x="blow.word.x" :y="blow.word.y" :text-anchor="blow.word.anchor">{{ blow.label }}</text>
    </g>

    <rect x="0" :y="FLOOR" width="648" :height="500 - FLOOR" class="sheet" />
    <g v-if="profile" class="profile" data-part="profile">
      <text x="14" :y="FLOOR + 18" class="what">{{ scene.edge_word }}; up is nearer the gauge</text>
      <line x1="40" x2="618" :y1="profile.zero" :y2="profile.zero" class="base" />
      <line v-for="(l, i) in profile.aims" :key="`a${i}`" v-bind="l" class="aim" />
      <line v-for="(l, i) in profile.lines" :key="`l${i}`" v-bind="l" class="edge" />
      <g v-for="spot in profile.spots" :key="spot.id">
        <circle :cx="spot.x" :cy="spot.y" r="7" :class="['spot', spot.state]" />
        <text :x="spot.x" :y="FLOOR + 106" class="place num">{{ spot.label }}</text>
      </g>
      <text v-if="profile.aims[0]" x="640" :y="profile.aims[0].y2 - 6" class="aimword">aim</text>
    </g>
    <g class="notes">
      <text x="14" y="24">{{ scene.seen }}.</text>
      <text x="14" y="44">{{ scaleWords }}</text>
    </g>
  </svg>
</template>

<script setup lang="ts">
import { computed } from 'vue'
import type { Schemas } from '../../api/client'
import { bareLength, plain } from '../format'
import { usePrefs } from '../prefs'
import { corners, fitInto, onTable, slanted, type Own, type Point } from './table'

interface Props {
  /** The table from above, with what stands on it, and the edge as it was read. */
  scene: Schemas['TableScene']
  /** The finest step worth showing. */
  resolutionMm: number
}
const props = defineProps<Props>()
const prefs = usePrefs()

const FLOOR = 342
const SLOTS = [104, 196, 288]
type Body = Schemas['SceneBody']

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
const fit = computed(() => {
  const all = props.scene.bodies.flatMap((b) => shapes(b).flatMap((s) => s.at.map((own) => place(b, own, 0))))
  const tap = props.scene.blow
  const down = tap ? -tap.toward * props.scene.n_y : 0 // which way the blow goes on the screen
  return fitInto(all, 104, down > 0.5 ? 146 : 92, 544, FLOOR - (down < -0.5 ? 74 : 24))
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
const gauge = computed(() => {
  const body = under.value
  const at = { along: props.scene.gauge_mm - (body?.from_mm ?? 0), toward: 0 }
  const p = body ? put(body, at) : flat(at)
  return { ...p, far: { x: p.x + props.scene.n_x * 62, y: p.y - props.scene.n_y * 46 } }
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
  const word = upright
    ? { x: start.x + (left ? -16 : 16), y: start.y + (way.y < 0 ? -2 : 12), anchor: left ? 'end' : 'start' }
    : { x: start.x, y: start.y - 16, anchor: 'middle' }
  return {
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
    ? `Slant drawn ${props.scene.magnification} times life.`
    : 'Not read yet: drawn square.',
)
</script>

<style scoped src="./scene.css"></style>
<style scoped>
text {
  font-size: 15px;
}
.top {
  fill: var(--table);
}
.slots rect {
  fill: var(--chuck-ring);
}
.thing polygon {
  fill: var(--ground);
  stroke: var(--steel-edge);
  stroke-width: 1.5;
  stroke-linejoin: round;
}
.thing .jaw,
.thing .screw {
  fill: var(--steel);
}
.thing .face {
  fill: var(--steel-edge);
}
.bolt circle {
  fill: var(--plum);
  stroke: var(--plum);
  stroke-width: 3;
}
.bolt path {
  stroke: var(--sheet);
  stroke-width: 3;
}
.bolt.loose circle {
  fill: var(--sheet);
  stroke-dasharray: 4 3;
}
.boltword text {
  fill: var(--plum);
  font-weight: 700;
}
.name {
  text-anchor: middle;
  font-weight: 650;
}
.blow path {
  fill: none;
  stroke: var(--plum);
  stroke-width: 9;
}
.blow .head {
  fill: var(--plum);
  stroke: none;
}
.blow text {
  fill: var(--plum);
  font-size: 18px;
  font-weight: 700;
}
.sheet {
  fill: var(--sheet);
}
.base {
  stroke: var(--rule);
  stroke-width: 2;
}
.edge {
  stroke: var(--plum);
  stroke-width: 3;
}
.aim {
  stroke: var(--brass);
  stroke-width: 3;
  stroke-dasharray: 8 5;
}
.aimword {
  fill: var(--brass-ink);
  font-weight: 700;
  text-anchor: end;
}
.what {
  fill: var(--ink-2);
}
.place {
  fill: var(--ink-2);
  font-size: 14px;
  text-anchor: middle;
}
</style>
