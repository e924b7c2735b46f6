<template>
  <svg class="side" viewBox="0 0 648 470" role="img" :aria-label="scene.describe">
    <g class="held">
      <template v-if="scene.held === 'centres'">
        <path :d="`M${LEFT - 40} ${MID - 26}L${LEFT} ${MID}L${LEFT - 40} ${MID + 26}Z`" />
        <path :d="`M${RIGHT + 40} ${MID - 26}L${RIGHT} ${MID}L${RIGHT + 40} ${MID + 26}Z`" />
      </template>
      <template v-else-if="scene.held === 'flange'">
        <rect :x="LEFT - 84" :y="MID - 96" width="56" height="192" rx="4" />
        <rect :x="LEFT - 28" :y="MID - 66" width="24" height="132" rx="2" />
        <path
          v-if="tail"
          :d="`M${tail + 52} ${MID - 26}h44v52h-44ZM${tail + 52} ${MID - 16}L${tail} ${MID}l52 16Z`"
          data-part="tail"
        />
      </template>
      <template v-else>
        <rect :x="LEFT - 62" :y="MID - 92" width="44" height="184" rx="4" />
        <rect :x="LEFT - 18" :y="MID - 62" width="26" height="40" rx="3" />
        <rect :x="LEFT - 18" :y="MID + 22" width="26" height="40" rx="3" />
      </template>
    </g>
    <rect
      v-if="scene.known"
      :x="LEFT"
      :y="MID - limitPx"
      :width="RIGHT - LEFT"
      :height="2 * limitPx"
      class="limit"
    />
    <line :x1="LEFT - 50" :x2="RIGHT + 50" :y1="MID" :y2="MID" class="true" />

    <polyline v-if="drawn.length > 1" :points="drawn.map((p) => `${p.x},${p.y}`).join(' ')" class="shaft" />
    <g v-for="stop in stops" :key="stop.z_mm" :class="['stop', stop.state, { over: stop.over }]">
      <line :x1="stop.x" :x2="stop.x" :y1="MID - 84" :y2="MID + 84" />
      <circle v-if="stop.y !== undefined" :cx="stop.x" :cy="stop.y" r="7" />
      <circle v-else :cx="stop.x" :cy="MID" r="6" />
      <text :x="stop.x" :y="MID + 108">{{ stop.label }}</text>
      <text v-if="stop.words" :x="stop.x" :y="stop.row" class="num value">{{ stop.words }}</text>
    </g>
    <g v-if="mark" class="mark" data-part="mark" :data-z="scene.mark_z_mm">
      <path :d="`M${mark.x} ${mark.y - 78}V${mark.y - 30}`" />
      <path :d="`M${mark.x - 12} ${mark.y - 32}h24l-12 20z`" class="point" />
      <text :x="mark.x" :y="mark.y - 88" :text-anchor="mark.x > 520 ? 'end' : 'middle'">{{ markWords }}</text>
    </g>
    <text v-else-if="markWords" x="18" y="424" class="still">{{ markWords }}</text>

    <SceneNotes :lines="[`${scene.seen}.`, scaleWords, upWords]" />
    <g class="notes">
      <text v-if="stops.some((s) => s.words)" x="18" y="446">TIR at each place; the band is the limit.</text>
    </g>
  </svg>
</template>

<script setup lang="ts">
import { computed } from 'vue'
import type { Schemas } from '../../api/client'
import { bareLength, plain } from '../format'
import { usePrefs } from '../prefs'
import SceneNotes from './SceneNotes.vue'

interface Props {
  /** The axis from the side, in the plane where it is worst. */
  scene: Schemas['AxisScene']
  /** The finest step worth showing. */
  resolutionMm: number
}
const props = defineProps<Props>()
const prefs = usePrefs()

const LEFT = 96
const RIGHT = 548
const MID = 248
const first = computed(() =>
  props.scene.held === 'centres' ? Math.min(...props.scene.stops.map((s) => s.z_mm)) : 0,
)
const scale = computed(() => (RIGHT - LEFT) / Math.max(props.scene.length_mm - first.value, 1))
const px = (zMm: number): number => LEFT + (zMm - first.value) * scale.value
const py = (heightMm: number): number =>
  MID - Math.max(-110, Math.min(110, heightMm * scale.value * props.scene.magnification))
const limitPx = computed(() => Math.min(props.scene.limit_mm * scale.value * props.scene.magnification, 110))

/** Where the tailstock’s center touches, when it is up. */
const tail = computed(() => (props.scene.tail_z_mm === null ? undefined : px(props.scene.tail_z_mm)))
const stops = computed(() =>
  props.scene.stops.map((stop, index) => ({
    ...stop,
    x: px(stop.z_mm),
    y: stop.height_mm === null ? undefined : py(stop.height_mm),
    words: stop.tir_mm === null ? '' : bareLength(stop.tir_mm, prefs.unit, props.resolutionMm),
    row: MID + (index % 2 && props.scene.stops.length > 4 ? 152 : 132),
  })),
)
/** The work's axis: from the holder through all places that are known. */
const drawn = computed(() => {
  const line = props.scene.line
  const known = stops.value.flatMap((s) => (s.y === undefined ? [] : [{ x: s.x, y: s.y }]))
  if (!line || props.scene.held === 'centres') return known
  return [{ x: px(line.z1_mm), y: py(line.h1_mm) }, ...known]
})
const mark = computed(() => {
  const z = props.scene.mark_z_mm
  if (z === null) return undefined
  const near = drawn.value.reduce((best, p) => Math.min(best, p.y), MID)
  return { x: Math.min(px(z), 600), y: Math.min(near, MID) }
})
const markWords = computed(() => plain(props.scene.mark, prefs.unit, props.resolutionMm))
const upWords = computed(() => plain(props.scene.up, prefs.unit, props.resolutionMm))
const scaleWords = computed(() =>
  props.scene.known
    ? `Height drawn ${props.scene.magnification} times as large as the length.`
    : `Reading: ${props.scene.reading}`,
)
</script>

<style scoped src="./scene.css"></style>
<style scoped>
text {
  font-size: var(--type-body);
}
.held * {
  fill: var(--steel);
  stroke: var(--steel-edge);
  stroke-width: 1.5;
}
.limit {
  fill: var(--holds-wash);
  stroke: none;
}
.true {
  stroke: var(--ink);
  stroke-dasharray: 14 4 3 4;
  opacity: 0.75;
}
.shaft {
  fill: none;
  stroke: var(--plum);
  stroke-width: 5;
  stroke-linejoin: round;
}
.stop line {
  stroke: var(--rule);
}
.stop circle {
  fill: var(--sheet);
  stroke: var(--steel-edge);
  stroke-width: 2;
}
.stop.read circle {
  fill: var(--plum);
  stroke: var(--sheet);
}
.stop.now circle {
  stroke: var(--plum);
  stroke-width: 4;
}
.stop.over circle {
  fill: var(--out);
}
.stop text {
  fill: var(--ink-2);
  text-anchor: middle;
}
.stop .value {
  fill: var(--ink);
  font-family: var(--digits);
  font-size: var(--type-body);
  font-weight: 600;
}
.stop.over .value {
  fill: var(--out);
}
.mark path {
  fill: none;
  stroke: var(--brass);
  stroke-width: 8;
}
.mark .point {
  fill: var(--brass);
  stroke: none;
}
.mark text,
.still {
  fill: var(--brass-ink);
  font-size: var(--type-lead);
  font-weight: 700;
}
</style>
