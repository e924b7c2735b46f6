<template>
  <svg class="wheel" viewBox="0 0 648 470" role="img" :aria-label="scene.describe">
    <circle :cx="axis.x" :cy="axis.y" :r="R" class="body" />
    <circle :cx="axis.x" :cy="axis.y" :r="HUB" class="hub" />
    <circle v-if="limitPx" :cx="axis.x" :cy="axis.y" :r="limitPx" class="limit" />

    <g
      v-for="one in positions"
      :key="one.number"
      :class="['position', { best: one.rank === 1 }]"
      :data-rank="one.rank"
    >
      <path :d="one.bar" class="bar" />
      <circle :cx="one.hole.x" :cy="one.hole.y" r="17" :class="{ now: one.now }" />
      <text :x="one.hole.x" :y="one.hole.y + 6" class="num hole">{{ one.number }}</text>
      <text :x="one.label.x" :y="one.label.y" class="value num" :text-anchor="one.anchor">
        {{ one.words }}
      </text>
    </g>

    <g v-if="scene.fixed" class="fixed">
      <path :d="arrow(scene.fixed)" />
    </g>
    <g v-if="scene.turned" class="turned">
      <path :d="arrow(scene.turned)" />
    </g>
    <path :d="`M${axis.x - 7} ${axis.y}h14M${axis.x} ${axis.y - 7}v14`" class="axis" />

    <SceneNotes :lines="notes" />
    <g class="notes">
      <g v-if="scene.fixed">
        <path d="M18 420h30" class="key fixed" />
        <text x="56" y="425">{{ scene.fixed_word }}</text>
      </g>
      <g v-if="scene.turned">
        <path d="M18 442h30" class="key turned" />
        <text x="56" y="447">{{ scene.turned_word }}</text>
      </g>
    </g>
  </svg>
</template>

<script setup lang="ts">
import { computed } from 'vue'
import type { Schemas } from '../../api/client'
import { formatLength } from '../format'
import { usePrefs } from '../prefs'
import { polar, step, type Point } from './polar'
import SceneNotes from './SceneNotes.vue'

interface Props {
  /** All positions, and what stays and what turns. */
  scene: Schemas['ClockScene']
  /** The finest step worth showing. */
  resolutionMm: number
}
const props = defineProps<Props>()
const prefs = usePrefs()

const R = 178
const HUB = 62
const axis: Point = { x: 330, y: 240 }
const turn = computed(() => props.scene.view_turn_deg)
const largest = computed(() =>
  Math.max(props.scene.limit_mm * 1.2, ...props.scene.positions.map((p) => p.tir_mm)),
)
/** Bars grow outward from the hub. */
const reachPx = (tirMm: number): number => HUB + ((R - 34 - HUB) * tirMm) / largest.value
const limitPx = computed(() => (props.scene.positions.length ? reachPx(props.scene.limit_mm) : 0))

const positions = computed(() =>
  props.scene.positions.map((one) => {
    const deg = one.at_deg + turn.value + 90
    const a = polar(axis, HUB, deg)
    const b = polar(axis, reachPx(one.tir_mm), deg)
    const label = polar(axis, R + 22, deg)
    const side = label.x - axis.x
    return {
      ...one,
      bar: `M${a.x} ${a.y}L${b.x} ${b.y}`,
      hole: polar(axis, R - 14, deg),
      label: { x: label.x, y: label.y + 6 },
      anchor: Math.abs(side) < 30 ? 'middle' : side > 0 ? 'start' : 'end',
      words: formatLength(one.tir_mm, prefs.unit, props.resolutionMm),
    }
  }),
)

const notes = computed(() => [
  `${props.scene.seen}.`,
  ...(positions.value.length
    ? ['Angle 0 is on top.', 'Bars: TIR at the', `${props.scene.what}.`]
    : [`Reading: ${props.scene.reading}`]),
])

const vectors = computed(() => [props.scene.fixed, props.scene.turned].filter((v) => v !== null))
const vectorScale = computed(() => {
  const size = Math.max(...vectors.value.map((v) => Math.hypot(v.x_mm, v.y_mm)), 1e-6)
  return (HUB - 10) / size
})
/** An arrow from the axis toward a high spot. */
function arrow(v: Schemas['SceneDot']): string {
  const at = step(v.x_mm, v.y_mm, turn.value + 90, vectorScale.value)
  const tip = { x: axis.x + at.x, y: axis.y + at.y }
  const way = Math.atan2(at.y, at.x)
  const wing = (by: number): string => `${tip.x - 11 * Math.cos(way + by)} ${tip.y - 11 * Math.sin(way + by)}`
  return `M${axis.x} ${axis.y}L${tip.x} ${tip.y}M${wing(0.5)}L${tip.x} ${tip.y}L${wing(-0.5)}`
}
</script>

<style scoped src="./scene.css"></style>
<style scoped>
text {
  font-size: var(--type-body);
}
.hub {
  fill: var(--sheet);
  stroke: var(--rule);
}
.limit {
  fill: none;
  stroke: var(--holds);
  stroke-width: 2;
  stroke-dasharray: 6 5;
}
.bar {
  fill: none;
  stroke: var(--plum-2);
  stroke-width: 16;
}
.best .bar {
  stroke: var(--brass);
}
.position circle {
  fill: var(--sheet);
  stroke: var(--ink);
  stroke-width: 1.2;
}
.position circle.now {
  stroke: var(--plum);
  stroke-width: 4;
}
.position .num {
  font-family: var(--digits);
  font-size: var(--type-body);
  font-weight: 700;
}
.position .hole {
  text-anchor: middle;
}
.best .value {
  fill: var(--brass-ink);
}
.fixed path,
path.fixed {
  fill: none;
  stroke: var(--ink);
  stroke-width: 4;
}
.turned path,
path.turned {
  fill: none;
  stroke: var(--plum);
  stroke-width: 4;
  stroke-dasharray: 7 4;
}
</style>
