<template>
  <figure v-if="score.parts.length">
    <figcaption class="label">What parts measured afterwards</figcaption>
    <svg :viewBox="`0 0 720 ${height}`" role="img" :aria-label="describe">
      <line x1="10" x2="710" :y1="floor" :y2="floor" class="axis" />
      <line :x1="x(1)" :x2="x(1)" y1="14" :y2="floor + 6" class="limit" />
      <text :x="x(1) + 8" y="24" class="word">the limit</text>
      <g v-for="(dot, n) in dots" :key="n" :class="dot.part.held === false ? 'missed' : 'kept'">
        <circle v-if="dot.part.share <= 1" :cx="dot.x" :cy="dot.y" r="6.5" />
        <path v-else :d="`M${dot.x - 6} ${dot.y - 6}l12 12m0 -12l-12 12`" />
      </g>
      <text v-for="mark in [0, 0.25, 0.5, 0.75, 1, 1.25]" :key="mark" :x="x(mark)" :y="floor + 22">
        {{ mark === 0 ? '0' : `${100 * mark} %` }}
      </text>
    </svg>
    <p v-for="(told, n) in score.told" :key="n"><RichText :parts="told" :resolution-mm="0.001" /></p>
  </figure>
</template>

<script setup lang="ts">
import { computed } from 'vue'
import type { Schemas } from '../../api/client'
import RichText from '../../shared/components/RichText.vue'

interface Props {
  score: Schemas['Score']
}
const props = defineProps<Props>()
const MOST = 1.35
const STEP = 16
const x = (share: number): number => 20 + (Math.min(share, MOST) / MOST) * 680
/** Dots that would lie over each other stand on each other. */
const dots = computed(() => {
  const piles = new Map<number, number>()
  return props.score.parts.map((part) => {
    const column = Math.round(x(part.share) / STEP)
    const up = piles.get(column) ?? 0
    piles.set(column, up + 1)
    return { part, x: column * STEP, y: floor.value - 10 - up * STEP }
  })
})
const highest = computed(() => {
  const columns = props.score.parts.map((part) => Math.round(x(part.share) / STEP))
  return Math.max(3, ...columns.map((c) => columns.filter((other) => other === c).length))
})
const floor = computed(() => highest.value * STEP + 34)
const height = computed(() => floor.value + 30)
const describe = computed(
  () =>
    `${props.score.parts.length} parts by what they measured as a part of their limit; ${props.score.parts.filter((p) => p.share > 1).length} of them beyond it.`,
)
</script>

<style scoped>
figure {
  margin: 0 0 18px;
}
svg {
  width: 100%;
  max-width: 820px;
}
.axis {
  stroke: var(--ink);
  stroke-width: 2;
}
.limit {
  stroke: var(--ink);
  stroke-width: 2;
  stroke-dasharray: 6 4;
}
circle,
path {
  fill: none;
  stroke-width: 3;
}
.kept {
  stroke: var(--holds);
}
.missed {
  stroke: var(--out);
}
text {
  fill: var(--ink-2);
  font-size: 14px;
  text-anchor: middle;
}
.word {
  text-anchor: start;
}
</style>
