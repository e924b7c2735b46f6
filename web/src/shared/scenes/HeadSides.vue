<template>
  <g
    v-for="side in sides"
    :key="side.id"
    :transform="`translate(0 ${side.y})`"
    :data-part="side.id"
    :data-lean="side.deg"
  >
    <text x="14" y="-14" class="caption">{{ side.title }}</text>
    <line x1="14" x2="134" y1="100" y2="100" class="table" />
    <line x1="74" x2="74" y1="6" y2="100" class="true" />
    <g :transform="`rotate(${side.deg} 74 86)`" class="head">
      <rect x="54" y="14" width="40" height="52" rx="5" />
      <rect x="68" y="66" width="12" height="22" />
      <line x1="74" x2="74" y1="8" y2="92" class="axis" />
    </g>
    <path v-if="side.move" :d="side.move" class="move" />
    <text x="14" y="117" class="end">{{ side.ends[0] }}</text>
    <text x="134" y="117" class="end" text-anchor="end">{{ side.ends[1] }}</text>
  </g>
</template>

<script setup lang="ts">
import { computed } from 'vue'
import type { Schemas } from '../../api/client'

interface Props {
  /** A table under a head: which way the head’s top leans, and where it is to go. */
  scene: Schemas['ChuckScene']
}
const props = defineProps<Props>()
/** As far as a head is drawn leaning, degrees: the larger of both tilts, or the limit. */
const MOST = 16

const SIDES = [
  { id: 'from-front', title: 'from the front', ends: ['left', 'right'], y: 76, axis: 'x_mm', plus: 0 },
  { id: 'from-right', title: 'from the right', ends: ['front', 'back'], y: 228, axis: 'y_mm', plus: 90 },
] as const

const sides = computed(() => {
  const { scene } = props
  const most = Math.max(Math.abs(scene.x_mm), Math.abs(scene.y_mm), scene.limit_radius_mm, 1e-9)
  return SIDES.map((side) => {
    const deg = scene.known ? (MOST * scene[side.axis]) / most : 0
    const from = scene.tap ? Math.round(scene.tap.at_deg) % 360 : -1
    // the top leans to where it is high, and goes the other way
    const way = from === side.plus ? -1 : from === (side.plus + 180) % 360 ? 1 : 0
    const x = 74 - 34 * way
    const move = way ? `M${x} 4h${52 * way}m${-9 * way} -6l${9 * way} 6l${-9 * way} 6` : ''
    return { ...side, deg, move }
  })
})
</script>

<style scoped>
text {
  fill: var(--ink-2);
  font-size: var(--type-least);
}
.table {
  stroke: var(--ink);
  stroke-width: 2;
}
.true {
  stroke: var(--ink);
  stroke-dasharray: 10 3 2 3;
  opacity: 0.6;
}
.head rect {
  fill: var(--steel);
  stroke: var(--steel-edge);
}
.axis {
  stroke: var(--plum);
  stroke-width: 3;
}
.move {
  fill: none;
  stroke: var(--plum);
  stroke-width: 4;
}
</style>
