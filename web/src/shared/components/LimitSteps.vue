<template>
  <svg class="steps" viewBox="-50 -50 100 100" role="img" :aria-label="label">
    <rect x="-47" y="-47" width="94" height="94" rx="6" class="ground" />
    <rect x="-46.5" :y="LIMIT_PX" width="93" :height="46.5 - LIMIT_PX" class="within" />
    <path :d="`M-46.5 ${LIMIT_PX}H46.5`" class="limit" />
    <PassDots :points="points" />
  </svg>
</template>

<script setup lang="ts">
import { computed } from 'vue'
import PassDots from './PassDots.vue'

interface Props {
  /** What each pass found, in parts of the limit. */
  ofLimit: readonly number[]
}
const props = defineProps<Props>()

/** Where the limit is drawn; ten times as much stands so many pixels higher, and nothing beyond the frame. */
const LIMIT_PX = 18
const TENFOLD_PX = 28
const MOST_PX = 38
const points = computed(() => {
  const apart = Math.min(24, 72 / Math.max(1, props.ofLimit.length - 1))
  const first = (-apart * (props.ofLimit.length - 1)) / 2
  return props.ofLimit.map((part, index) => ({
    x: first + apart * index,
    y: Math.min(MOST_PX, Math.max(-MOST_PX, LIMIT_PX - TENFOLD_PX * Math.log10(Math.max(part, 1e-6)))),
  }))
})
const within = computed(() => ((props.ofLimit.at(-1) ?? 0) <= 1 ? 'within' : 'beyond'))
const label = computed(() =>
  props.ofLimit.length > 1
    ? `What ${props.ofLimit.length} passes found, the last ${within.value} the limit`
    : `What one pass found: ${within.value} the limit`,
)
</script>

<style scoped>
.steps {
  display: block;
}
.ground {
  fill: var(--sheet);
  stroke: var(--rule);
}
.within {
  fill: var(--holds-wash);
}
.limit {
  stroke: var(--holds);
  stroke-width: 2;
}
</style>
