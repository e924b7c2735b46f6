<template>
  <svg class="spread" viewBox="0 0 648 470" role="img" :aria-label="scene.describe">
    <SceneNotes :lines="[scene.seen, scene.reading]" />
    <line :x1="MIDDLE" :x2="MIDDLE" :y1="66" :y2="bottom" class="target" />
    <g v-for="row in rows" :key="row.label" :class="{ now: row.now }" data-part="row">
      <text x="14" :y="row.y + 6" class="name">{{ row.label }}</text>
      <line :x1="LEFT" :x2="RIGHT" :y1="row.y" :y2="row.y" class="track" />
      <circle v-for="(x, i) in row.dots" :key="i" :cx="x" :cy="row.y" r="8" class="dot" />
      <text x="634" :y="row.y + 6" class="num figure">{{ row.words }}</text>
    </g>
    <g class="scale" data-part="scale" :data-mm="scene.limit_mm">
      <path :d="`M${MIDDLE - limit / 2} ${bottom + 22}v-10m0 5h${limit}m0 -5v10`" />
      <text :x="MIDDLE - limit / 2 - 12" :y="bottom + 22">{{ words(scene.limit_mm) }} allowed</text>
    </g>
  </svg>
</template>

<script setup lang="ts">
import { computed } from 'vue'
import type { Schemas } from '../../api/client'
import { bareLength } from '../format'
import { usePrefs } from '../prefs'
import SceneNotes from './SceneNotes.vue'

interface Props {
  /** Rows of readings on one scale. */
  scene: Schemas['SpreadScene']
  /** The finest step worth showing. */
  resolutionMm: number
}
const props = defineProps<Props>()
const prefs = usePrefs()
const [LEFT, MIDDLE, RIGHT] = [236, 384, 532]

/** Half of the widest row, or of what is allowed when that is more, reaches to the end of the track. */
const scale = computed(() => {
  const far = props.scene.rows.flatMap((row) => row.at_mm.map(Math.abs))
  return (RIGHT - MIDDLE - 12) / Math.max(...far, props.scene.limit_mm / 2, 1e-6)
})
const limit = computed(() => props.scene.limit_mm * scale.value)
const step = computed(() => Math.min(48, 350 / Math.max(props.scene.rows.length, 1)))
const bottom = computed(() => 72 + step.value * props.scene.rows.length)
const words = (mm: number): string => bareLength(mm, prefs.unit, props.resolutionMm)
const rows = computed(() =>
  props.scene.rows.map((row, i) => ({
    ...row,
    y: 72 + step.value * (i + 0.5),
    dots: row.at_mm.map((mm) => MIDDLE + mm * scale.value),
    words: row.figure_mm === null ? '' : words(row.figure_mm),
  })),
)
</script>

<style scoped src="./scene.css"></style>
<style scoped>
text {
  font-size: var(--type-body);
}
.track {
  stroke: var(--rule);
  stroke-width: 2;
}
.now .track {
  stroke: var(--plum);
  stroke-width: 4;
}
.now .name {
  font-weight: 650;
}
.dot {
  fill: var(--plum-2);
  fill-opacity: 0.75;
  stroke: var(--sheet);
}
.figure {
  font-weight: 600;
  text-anchor: end;
}
.scale path {
  fill: none;
  stroke: var(--ink);
  stroke-width: 2;
}
.scale text {
  font-size: var(--type-least);
  text-anchor: end;
}
</style>
