<template>
  <svg class="map" viewBox="-50 -50 100 100" role="img" :aria-label="label">
    <circle r="47" class="ground" />
    <path d="M-47 0H47M0-47V47" class="cross" />
    <circle :r="limitPx" class="limit" />
    <PassDots :points="points" />
  </svg>
</template>

<script setup lang="ts">
import { computed } from 'vue'
import { mapPoints } from '../scenes/polar'
import PassDots from './PassDots.vue'

interface Props {
  /** Centers pass by pass, in mm, machine axes. */
  track: readonly { pass_no: number; x_mm: number; y_mm: number }[]
  /** Radius inside which the limit is met, mm. */
  limitRadiusMm: number
  /** Turn of the view, degrees. */
  viewTurnDeg?: number
}
const props = withDefaults(defineProps<Props>(), { viewTurnDeg: 0 })
const drawn = computed(() => mapPoints(props.track, props.limitRadiusMm, 42, props.viewTurnDeg))
const points = computed(() => drawn.value.points)
const limitPx = computed(() => drawn.value.limit)
const label = computed(() => `Center of the part, pass by pass: ${props.track.length} passes`)
</script>

<style scoped>
.map {
  display: block;
}
.ground {
  fill: var(--sheet);
  stroke: var(--rule);
}
.cross {
  stroke: var(--rule);
}
.limit {
  fill: var(--holds-wash);
  stroke: var(--holds);
  stroke-width: 2;
}
</style>
