<template>
  <figure>
    <svg :viewBox="`0 0 ${picture.wide} ${picture.high}`" role="img" :aria-label="picture.about">
      <template v-for="(shape, index) in picture.shapes" :key="index">
        <circle
          v-if="shape.shape === 'circle'"
          :cx="shape.x"
          :cy="shape.y"
          :r="shape.r"
          :class="shape.style"
        />
        <text
          v-else-if="shape.shape === 'label'"
          :x="shape.x"
          :y="shape.y"
          :text-anchor="shape.anchor"
          :class="shape.style"
        >
          {{ plain(shape.what, prefs.unit, FINE_MM) }}
        </text>
        <polygon v-else-if="shape.closed" :points="shape.points.join(' ')" :class="shape.style" />
        <polyline v-else :points="shape.points.join(' ')" :class="shape.style" />
      </template>
    </svg>
    <figcaption class="soft small">
      {{ caption }}
    </figcaption>
  </figure>
</template>

<script setup lang="ts">
import { computed } from 'vue'
import type { Schemas } from '../../api/client'
import { plain } from '../format'
import { usePrefs } from '../prefs'

interface Props {
  /** Shapes in their frame. */
  picture: Schemas['Picture']
}
const props = defineProps<Props>()
const prefs = usePrefs()
/** Figures in a picture are written to this, mm. */
const FINE_MM = 0.0001
const caption = computed(() => {
  const { about, scale } = props.picture
  return scale ? `${about} ${scale.charAt(0).toUpperCase()}${scale.slice(1)}.` : about
})
</script>

<style scoped>
figure {
  display: grid;
  grid-template-rows: minmax(0, 1fr) auto;
  gap: 4px;
  min-height: 0;
  height: 100%;
  margin: 0;
}
svg {
  width: 100%;
  height: 100%;
  min-height: 0;
}
figcaption {
  padding: 0 20px 12px;
}
:is(circle, polygon, polyline) {
  fill: none;
  stroke: var(--ink-2);
  stroke-width: 1.6;
  stroke-linejoin: round;
}
.part {
  fill: var(--sheet);
  stroke: var(--ink);
}
.holder {
  fill: var(--table);
  stroke: var(--edge);
}
.ghost {
  stroke: var(--edge);
  stroke-dasharray: 5 5;
}
polyline.axis {
  stroke: var(--edge);
  stroke-dasharray: 10 4 2 4;
  stroke-width: 1.1;
}
polyline.ground {
  stroke: var(--ink);
  stroke-width: 2.5;
}
polyline.aim,
circle.aim {
  stroke: var(--brass);
  stroke-width: 2.6;
}
polygon.aim {
  fill: var(--brass-wash);
  stroke: var(--brass);
}
circle.aim {
  fill: var(--brass-wash);
}
polyline.high,
circle.high {
  stroke: var(--plum);
  stroke-width: 2.6;
}
circle.high {
  fill: var(--plum-wash);
}
polyline.edge {
  stroke: var(--ink);
  stroke-width: 2;
}
text {
  fill: var(--ink-2);
  stroke: var(--ground);
  stroke-width: 4;
  paint-order: stroke;
  font: 600 var(--type-body) / 1 var(--words);
  dominant-baseline: middle;
}
text.aim {
  fill: var(--brass-ink);
}
text.high {
  fill: var(--plum);
}
</style>
