<template>
  <svg class="dowels" viewBox="0 0 648 470" role="img" :aria-label="scene.describe">
    <g :transform="`translate(${shift.x} ${shift.y})`" data-part="housing">
      <path :d="`M110 430V300a220 190 0 0 1 440 0v130z`" class="housing" />
      <circle :cx="axis.x" :cy="axis.y" :r="BORE" class="bore" />
    </g>
    <circle :cx="axis.x" :cy="axis.y" :r="BORE" class="target" />
    <path :d="`M${axis.x - 9} ${axis.y}h18M${axis.x} ${axis.y - 9}v18`" class="axis" />
    <circle
      v-for="spot in spots"
      :key="spot.station_id"
      :cx="spot.x"
      :cy="spot.y"
      r="5"
      :class="['spot', spot.state]"
    />

    <g class="gauge" data-part="gauge" :data-angle="scene.gauge.at_deg">
      <line :x1="axis.x" :y1="axis.y" :x2="tip.x" :y2="tip.y" />
      <circle :cx="tip.x" :cy="tip.y" r="5" />
      <rect :x="axis.x - width / 2" :y="axis.y + 16" :width="width" height="28" rx="5" />
      <text :x="axis.x" :y="axis.y + 36" class="num">{{ gaugeWords }}</text>
    </g>

    <g v-if="goes" class="shift" data-part="shift" :data-angle="scene.shift_deg">
      <path :d="goes.shaft" />
      <path :d="goes.point" class="point" />
      <text :x="goes.label.x" :y="goes.label.y" :text-anchor="goes.anchor">{{ shiftWords }}</text>
    </g>

    <g v-for="dowel in pair" :key="dowel.x" class="dowel" :data-clock="scene.clock_deg">
      <circle :cx="dowel.x" :cy="412" r="26" />
      <circle v-if="dowel.eye" :cx="dowel.eye.x" :cy="dowel.eye.y" r="17" class="eye" />
      <path v-if="dowel.mark" :d="dowel.mark" class="clock" />
    </g>
    <text v-if="dowelWords" x="330" y="450" class="words" text-anchor="middle">{{ dowelWords }}</text>

    <SceneNotes
      :lines="[
        `${scene.seen}.`,
        scene.known ? `Offset shown ${scene.magnification}×.` : 'Offset not known yet.',
      ]"
    />
  </svg>
</template>

<script setup lang="ts">
import { computed } from 'vue'
import type { Schemas } from '../../api/client'
import { bareLength, formatLength } from '../format'
import { usePrefs } from '../prefs'
import { arrow, polar, step, within, type Point } from './polar'
import SceneNotes from './SceneNotes.vue'

interface Props {
  /** The housing from the front. */
  scene: Schemas['DowelScene']
  /** The finest step worth showing. */
  resolutionMm: number
}
const props = defineProps<Props>()
const prefs = usePrefs()

const BORE = 120
const axis: Point = { x: 330, y: 236 }
const offset = computed(() =>
  step(
    props.scene.x_mm,
    props.scene.y_mm,
    0,
    (BORE / props.scene.bore_radius_mm) * props.scene.magnification,
  ),
)
const shift = computed(() => within(offset.value, BORE * 0.4))
const center = computed(() => ({ x: axis.x + shift.value.x, y: axis.y + shift.value.y }))
const spots = computed(() => props.scene.spots.map((s) => ({ ...s, ...polar(center.value, BORE, s.at_deg) })))
const tip = computed(() => polar(axis, BORE - 10, props.scene.gauge.at_deg))
const gaugeWords = computed(() =>
  props.scene.gauge.needle_mm === null
    ? props.scene.gauge.station_label
    : bareLength(props.scene.gauge.needle_mm, prefs.unit, props.resolutionMm, true),
)
const width = computed(() => Math.max(54, gaugeWords.value.length * 9 + 18))

/** Which way the housing has to go, drawn outside the bore. */
const goes = computed(() => {
  const deg = props.scene.shift_deg
  if (deg === null) return undefined
  const a = polar(axis, BORE + 14, deg)
  const b = polar(axis, BORE + 54, deg)
  const right = b.x >= axis.x
  const label = { x: right ? 640 : 8, y: Math.min(a.y, b.y) - 18 }
  return {
    ...arrow(a, b),
    label,
    anchor: right ? 'end' : 'start',
  }
})
const shiftWords = computed(
  () => `housing ${formatLength(props.scene.shift_mm ?? 0, prefs.unit, props.resolutionMm)}`,
)
const dowelWords = computed(() => {
  if (props.scene.dowel_mm === null || props.scene.clock_deg === null) return ''
  return `both alike, offset ${formatLength(props.scene.dowel_mm, prefs.unit, props.resolutionMm)}`
})
const pair = computed(() =>
  [150, 510].map((x) => {
    const deg = props.scene.clock_deg
    if (deg === null || !props.scene.dowel_mm) return { x, eye: undefined, mark: undefined }
    const at = { x, y: 412 }
    const end = polar(at, 44, deg)
    return { x, eye: polar(at, 7, deg), mark: `M${x} 412L${end.x} ${end.y}` }
  }),
)
</script>

<style scoped src="./scene.css"></style>
<style scoped>
text {
  font-size: var(--type-body);
}
.housing {
  fill: var(--chuck);
  stroke: var(--steel-edge);
  stroke-width: 1.5;
}
.bore {
  fill: var(--sheet);
  stroke: var(--work-edge);
  stroke-width: 3;
}
.shift path {
  fill: none;
  stroke: var(--plum);
  stroke-width: 9;
}
.shift .point {
  fill: var(--plum);
  stroke: none;
}
.shift text,
.words {
  fill: var(--plum);
  font-size: var(--type-lead);
  font-weight: 700;
  paint-order: stroke;
  stroke: var(--ground);
  stroke-width: 5px;
}
.dowel circle {
  fill: var(--steel);
  stroke: var(--steel-edge);
  stroke-width: 1.5;
}
.dowel .eye {
  fill: var(--acting);
  stroke: var(--plum);
}
.clock {
  fill: none;
  stroke: var(--brass);
  stroke-width: 5;
}
</style>
