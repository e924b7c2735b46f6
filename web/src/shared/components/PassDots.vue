<template>
  <g>
    <polyline v-if="points.length > 1" :points="points.map((p) => `${p.x},${p.y}`).join(' ')" class="way" />
    <circle
      v-for="(point, index) in points"
      :key="index"
      :cx="point.x"
      :cy="point.y"
      :r="index === points.length - 1 ? 5 : 3.4"
      :class="index === points.length - 1 ? 'last' : 'dot'"
    />
  </g>
</template>

<script setup lang="ts">
interface Props {
  /** Where each pass is drawn, the last one large. */
  points: readonly { x: number; y: number }[]
}
defineProps<Props>()
</script>

<style scoped>
.way {
  fill: none;
  stroke: var(--plum-2);
  stroke-width: 2;
}
.dot {
  fill: var(--plum-2);
}
.last {
  fill: var(--plum);
}
</style>
