<template>
  <figure>
    <figcaption class="label">Where tightening pushes it</figcaption>
    <svg viewBox="-120 -120 240 240" role="img" :aria-label="describe">
      <circle v-for="ring in 3" :key="ring" :r="ring * RING" class="ring" />
      <g v-for="push in drawn" :key="push.setup" :class="{ old: push.old }">
        <line x1="0" y1="0" :x2="push.x" :y2="push.y" />
        <circle :cx="push.x" :cy="push.y" r="3.4" />
      </g>
      <g v-for="jaw in jaws" :key="jaw.number">
        <circle :cx="jaw.x" :cy="jaw.y" r="12" class="jaw" />
        <text :x="jaw.x" :y="jaw.y + 5">{{ jaw.number }}</text>
      </g>
    </svg>
    <p class="soft small">
      Rings {{ formatLength(ringMm, prefs.unit, RES_MM) }} apart.<template v-if="since">
        Gray: before {{ formatDate(since) }}.</template
      >
    </p>
  </figure>
</template>

<script setup lang="ts">
import { computed } from 'vue'
import type { Schemas } from '../../api/client'
import { formatDate, formatLength } from '../../shared/format'
import { usePrefs } from '../../shared/prefs'

interface Props {
  pushes: Schemas['Push'][]
  /** Where the jaws stand, from number 1. */
  jawsDeg: Record<string, number>
  /** The day of a change, if there was one. */
  since: string
}
const props = defineProps<Props>()
const prefs = usePrefs()
const RING = 32
const RES_MM = 0.00025
/** The outermost ring holds the farthest of them. */
const ringMm = computed(() => {
  const most = Math.max(0.0005, ...props.pushes.map((p) => Math.hypot(p.x_mm, p.y_mm)))
  return most / 3
})
/** Jaw 1 on top; its angle in the picture, in radians. */
const seen = (deg: number): number => ((deg + 90) * Math.PI) / 180
const toward = (number: string): { x: number; y: number } => {
  const at = seen(props.jawsDeg[number] ?? (Number(number) - 1) * 90)
  return { x: Math.cos(at), y: -Math.sin(at) }
}
const drawn = computed(() => {
  const [first, second] = [toward('1'), toward('2')]
  const scale = RING / ringMm.value
  return props.pushes.map((p) => ({
    setup: p.setup,
    old: props.since !== '' && p.at < props.since,
    x: (p.x_mm * first.x + p.y_mm * second.x) * scale,
    y: (p.x_mm * first.y + p.y_mm * second.y) * scale,
  }))
})
const jaws = computed(() =>
  Object.keys(props.jawsDeg).map((number) => ({
    number,
    x: toward(number).x * 106,
    y: toward(number).y * 106,
  })),
)
const describe = computed(
  () =>
    `Where tightening pushed the part in ${props.pushes.length} set-ups, seen from the front, jaw 1 on top.`,
)
</script>

<style scoped>
figure {
  margin: 0 0 18px;
}
svg {
  width: 100%;
  max-width: 280px;
}
.ring {
  fill: none;
  stroke: var(--rule);
}
line {
  stroke: var(--plum-2);
  stroke-width: 2;
}
g circle {
  fill: var(--plum);
}
.old line {
  stroke: var(--edge);
}
.old circle {
  fill: var(--edge);
}
.jaw {
  fill: var(--sheet);
  stroke: var(--plum);
}
text {
  fill: var(--ink);
  font-weight: 650;
  font-size: 14px;
  text-anchor: middle;
}
</style>
