<template>
  <svg class="chuck" viewBox="0 0 648 500" role="img" :aria-label="scene.describe">
    <circle :cx="axis.x" :cy="axis.y" :r="R" class="body" />
    <circle v-for="ring in rings" :key="ring" :cx="axis.x" :cy="axis.y" :r="ring" class="ring" />

    <template v-if="scene.holder === 'faceplate'">
      <path v-for="slot in slots" :key="slot" :d="slot" class="slot" />
    </template>
    <g
      v-for="jaw in jaws"
      :key="jaw.jaw"
      :class="['jaw', jaw.do ?? 'rest']"
      :data-jaw="jaw.jaw"
      :data-do="jaw.do ?? ''"
      :data-angle="jaw.screenDeg"
    >
      <path :d="jaw.shape" :transform="`rotate(${-jaw.screenDeg} ${axis.x} ${axis.y})`" />
    </g>
    <circle v-if="scene.holder === 'screws'" :cx="axis.x" :cy="axis.y" :r="workPx + 40" class="sleeve" />

    <g class="work" :transform="`translate(${shift.x} ${shift.y})`" data-part="work">
      <path v-if="scene.surface === 'inside'" :d="ringPath" fill-rule="evenodd" />
      <rect
        v-else-if="scene.flats"
        :x="axis.x - workPx"
        :y="axis.y - workPx"
        :width="2 * workPx"
        :height="2 * workPx"
        rx="3"
        :transform="`rotate(${-(jaws[0]?.screenDeg ?? 0)} ${axis.x} ${axis.y})`"
      />
      <circle v-else :cx="axis.x" :cy="axis.y" :r="workPx" />
    </g>
    <g v-for="jaw in jaws.filter((j) => j.shim)" :key="`s${jaw.jaw}`" class="shim" :data-shim="jaw.jaw">
      <path :d="jaw.shim" :transform="`rotate(${-jaw.screenDeg} ${axis.x} ${axis.y})`" />
    </g>
    <circle :cx="target.x" :cy="target.y" :r="workPx" class="target" />
    <path
      v-if="scene.wanted"
      :d="`M${target.x - 6} ${target.y}h12M${target.x} ${target.y - 6}v12`"
      class="wanted"
    />
    <path :d="`M${axis.x - 8} ${axis.y}h16M${axis.x} ${axis.y - 8}v16`" class="axis" />
    <template v-if="scene.known">
      <line :x1="axis.x" :y1="axis.y" :x2="center.x" :y2="center.y" class="offset" />
      <circle :cx="center.x" :cy="center.y" r="4" class="center" />
    </template>

    <circle
      v-for="spot in spots"
      :key="spot.station_id"
      :cx="spot.x"
      :cy="spot.y"
      r="5"
      :class="['spot', spot.state]"
    />

    <g v-if="high" class="high">
      <circle :cx="high.x" :cy="high.y" r="7" />
      <line :x1="high.x" :y1="high.y" :x2="high.labelX" :y2="high.labelY" />
      <rect :x="high.labelX - 42" :y="high.labelY - 13" width="84" height="26" rx="5" />
      <text :x="high.labelX" :y="high.labelY + 5">high spot</text>
    </g>

    <g v-for="jaw in jaws" :key="`n${jaw.jaw}`" :class="['number', jaw.do ?? 'rest']">
      <circle :cx="jaw.mark.x" :cy="jaw.mark.y" r="16" />
      <text :x="jaw.mark.x" :y="jaw.mark.y + 6" class="num">{{ jaw.jaw }}</text>
    </g>

    <g class="gauge" data-part="gauge" :data-angle="gauge.deg">
      <line :x1="gauge.tip.x" :y1="gauge.tip.y" :x2="gauge.head.x" :y2="gauge.head.y" />
      <circle :cx="gauge.tip.x" :cy="gauge.tip.y" r="5" />
      <rect :x="gauge.box.x" :y="gauge.box.y" :width="gauge.width" height="30" rx="5" />
      <text :x="gauge.box.x + gauge.width / 2" :y="gauge.box.y + 21" class="num">{{ gauge.words }}</text>
    </g>

    <g
      v-for="act in acts"
      :key="`a${act.jaw}`"
      :class="['act', act.do]"
      :data-act="act.do"
      :data-jaw="act.jaw"
    >
      <path :d="act.shaft" class="shaft" />
      <path :d="act.point" class="point" />
      <text :x="act.label.x" :y="act.label.y" :text-anchor="act.anchor">{{ act.words }}</text>
    </g>

    <g v-if="tap" class="act tap" data-act="tap" :data-angle="tap.deg">
      <path :d="tap.shaft" class="shaft" />
      <path :d="tap.point" class="point" />
      <text :x="tap.label.x" :y="tap.label.y" :text-anchor="tap.anchor">{{ tap.words }}</text>
    </g>

    <g class="notes">
      <text x="18" y="26">{{ scene.seen }}.</text>
      <text x="18" y="45">{{ scaleWords }}</text>
      <g v-if="scene.turns">
        <path
          :d="`M${axis.x - R - 26} ${axis.y + 52}A${R + 34} ${R + 34} 0 0 1 ${axis.x - R - 26} ${axis.y - 52}`"
        />
        <path :d="`M${axis.x - R - 32} ${axis.y - 49}l6-13 6 13z`" class="head" />
        <text :x="axis.x - R - 116" :y="axis.y + 70">turn by hand</text>
      </g>
    </g>
    <g transform="translate(66 412)">
      <CentreMap
        :track="scene.track"
        :limit-radius-mm="scene.limit_radius_mm"
        :view-turn-deg="scene.view_turn_deg"
        x="-52"
        y="-52"
        width="104"
        height="104"
      />
    </g>
    <text x="14" y="486" class="caption">center, pass by pass</text>
  </svg>
</template>

<script setup lang="ts">
import { computed } from 'vue'
import type { Schemas } from '../../api/client'
import CentreMap from '../components/CentreMap.vue'
import { bareLength, plain } from '../format'
import { usePrefs } from '../prefs'
import { arrow, polar, reach, step, within, type Point } from './polar'

interface Props {
  /** Where everything is, in mm and degrees. */
  scene: Schemas['ChuckScene']
  /** The finest step worth showing. */
  resolutionMm: number
}
const props = defineProps<Props>()
const prefs = usePrefs()

const R = 180
const axis: Point = { x: 330, y: 252 }
const turn = computed(() => props.scene.view_turn_deg)
const scale = computed(() => R / props.scene.chuck_radius_mm)
const rings = computed(() => props.scene.rings_mm.map((mm) => mm * scale.value))
/** Small work is still drawn big enough to be seen. */
const workPx = computed(() => Math.min(Math.max(props.scene.work_radius_mm * scale.value, 34), R * 0.86))
/** Pixels a millimetre of offset, so that the words about magnification stay true on the work itself. */
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

/** A shim is drawn at least this thick, so that it can be seen. */
const SHIM_PX = 7
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
  const x = Math.min(Math.max(head.x - width / 2, 4), 644 - width)
  const y = Math.min(Math.max(head.y - 15, 4), 466)
  return { deg, tip, head, words, width, box: { x, y } }
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
    label: { x: right ? 642 : 8, y: at.y + across.y + (across.y > 0 ? 16 : -6) },
    anchor: right ? 'end' : 'start',
  }
}

const scaleWords = computed(() => {
  if (!props.scene.known) return 'Offset not known yet.'
  const m = props.scene.magnification
  if (props.scene.lean) return `The top leans to the dot; drawn ${m} times.`
  return m === 1 ? 'Offset drawn as it is.' : `Offset drawn ${m} times life.`
})
</script>

<style scoped src="./scene.css"></style>
<style scoped>
.ring {
  fill: none;
  stroke: var(--chuck-ring);
  stroke-width: 1.5;
}
.jaw path {
  fill: var(--steel);
  stroke: var(--steel-edge);
  stroke-width: 1.5;
}
.jaw.ease path,
.jaw.draw_in path,
.jaw.slacken path,
.jaw.tighten path,
.jaw.shim path {
  fill: var(--acting);
  stroke: var(--plum);
}
.work {
  fill: var(--work);
  stroke: var(--work-edge);
  stroke-width: 2;
  transition: transform 0.35s;
}
.sleeve {
  fill: none;
  stroke: var(--steel-edge);
  stroke-width: 6;
  opacity: 0.55;
}
.slot {
  fill: none;
  stroke: var(--chuck-ring);
  stroke-width: 12;
  stroke-linecap: round;
}
.shim path {
  fill: var(--brass);
  stroke: var(--brass-ink);
}
.wanted {
  stroke: var(--brass-ink);
  stroke-width: 2.5;
}
.offset {
  stroke: var(--work-edge);
  stroke-width: 2;
}
.center {
  fill: var(--work-edge);
}
.high circle {
  fill: var(--brass);
  stroke: var(--sheet);
  stroke-width: 2;
}
.high line {
  stroke: var(--brass-ink);
  stroke-width: 1.2;
}
.high rect {
  fill: var(--sheet);
}
.high text {
  fill: var(--brass-ink);
  font-size: 15px;
  font-weight: 650;
  text-anchor: middle;
}
.number circle {
  fill: var(--sheet);
  stroke: var(--ink);
  stroke-width: 1.2;
}
.number text {
  fill: var(--ink);
  font-family: var(--digits);
  font-size: 18px;
  font-weight: 700;
  text-anchor: middle;
}
.number:not(.rest) circle {
  fill: var(--plum);
}
.number:not(.rest) text {
  fill: var(--on-plum);
}
.act text {
  fill: var(--plum);
  font-size: 18px;
  font-weight: 700;
  paint-order: stroke;
  stroke: var(--ground);
  stroke-width: 5px;
  stroke-linejoin: round;
}
.act .shaft {
  fill: none;
  stroke: var(--plum);
  stroke-width: 9;
}
.act .point {
  fill: var(--plum);
}
.act.ease .shaft,
.act.slacken .shaft {
  stroke-width: 4;
  stroke-dasharray: 6 5;
}
.act.ease .point,
.act.slacken .point {
  fill: var(--sheet);
  stroke: var(--plum);
  stroke-width: 2.5;
}
.notes text,
.caption {
  fill: var(--ink-2);
  font-size: 14px;
}
.notes path {
  fill: none;
  stroke: var(--ink-2);
  stroke-width: 2;
}
.notes .head {
  fill: var(--ink-2);
  stroke: none;
}
</style>
